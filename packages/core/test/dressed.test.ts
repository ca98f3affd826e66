import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { joinCurves } from '../src/curve/carry.js';
import { PATTERN_HEIGHT, PATTERNS } from '../src/dress/patterns/heights.js';
import {
  type Finding,
  inOutfit,
  linearColour,
  type Material,
  type MeshPart,
  newPiece,
  newUse,
  type Part,
  type PlacedPart,
  patternTile,
  type StrandsPart,
  singleCurve,
  srgbChannel,
  unitOf,
  unitsOf,
} from '../src/index.js';
import { roundSection } from '../src/section/section.js';
import { sweep } from '../src/sweep/sweep.js';

type Worn = { parts: Part[]; material: Material };
const dressed = (unit: 'plain' | 'patterned', parts: Part[], set: object, context: object = {}): Worn =>
  (unitOf('dress', unit) as never as { build(parts: Part[], p: object, context: object): Worn }).build(
    parts,
    { ...newUse('dress', unit).parameters, ...set },
    context,
  );

const lines = joinCurves([0, 1, 2, 3].map((k) => singleCurve([0, k, 0, 0.5, k, 0, 1, k, 0], { id: k + 1 })));
const swept: MeshPart = {
  kind: 'mesh',
  id: 'skin',
  name: 'Skin',
  slot: 'main',
  mesh: sweep(lines, roundSection(8), { radius: 0.1 }),
};
const placed: PlacedPart = {
  kind: 'placed',
  id: 'e',
  name: 'E',
  slot: 'main',
  mesh: swept.mesh,
  places: {
    id: Uint32Array.from([7, 8, 9]),
    matrix: new Float32Array(48),
    along: Float32Array.from([0, 1, 2]),
    curve: new Uint32Array(3),
    colour: new Float32Array(9).fill(0.5),
  },
};
const strands: StrandsPart = {
  kind: 'strands',
  id: 's',
  name: 'S',
  slot: 'main',
  curves: lines,
  width: new Float32Array(12).fill(0.01),
  sides: 3,
};
const coloursOf = (part: Part): Float32Array =>
  (part.kind === 'placed'
    ? part.places.colour
    : part.kind === 'mesh'
      ? part.mesh.attributes?.['colour'].data
      : part.curves.pointData['colour']) as Float32Array;

describe('patterns', () => {
  it('are between 0 and 1, and what leaves a tile at one side comes in at the other', () => {
    const one = fc.double({ min: 0, max: 0.999, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...PATTERNS), one, one, (kind, u, v) => {
        const height = PATTERN_HEIGHT[kind];
        expect(height(u, v)).toBeGreaterThanOrEqual(0);
        expect(height(u, v)).toBeLessThanOrEqual(1 + 1e-9);
        expect(Math.abs(height(0, v) - height(1, v))).toBeLessThan(1e-6);
        expect(Math.abs(height(u, 0) - height(u, 1))).toBeLessThan(1e-6);
      }),
    );
  });

  it('lean their normals against the slope: glTF 2.0, section 3.9.3, with v downwards', () => {
    for (const kind of PATTERNS) {
      const { size, normal } = patternTile({ kind, relief: 0.2, tone: 0 }, 128);
      const height = PATTERN_HEIGHT[kind];
      let [reported, seen] = [0, 0];
      for (let j = 1; j < size - 1; j += 5)
        for (let i = 1; i < size - 1; i += 5) {
          const [u, v] = [(i + 0.5) / size, (j + 0.5) / size];
          const e = 1 / size;
          const du = (0.2 * (height(u + e, v) - height(u - e, v))) / (2 * e);
          const dv = (0.2 * (height(u, v + e) - height(u, v - e))) / (2 * e);
          const at = 3 * (j * size + i);
          const n = [...normal.subarray(at, at + 3)].map((byte) => byte / 127.5 - 1);
          expect(Math.hypot(...n)).toBeGreaterThan(0.98);
          expect(Math.hypot(...n)).toBeLessThan(1.02);
          const by = 1 / Math.hypot(du, dv, 1);
          reported += Math.abs(n[0] + by * du) + Math.abs(n[1] - by * dv);
          seen += by * (Math.abs(du) + Math.abs(dv));
        }
      expect(seen).toBeGreaterThan(0.5);
      expect(reported / seen).toBeLessThan(0.1);
    }
  });

  it('darken their grooves alone, by as much as is asked', () => {
    const { tone } = patternTile({ kind: 'ribs', relief: 0.1, tone: 0.5 }, 64);
    const row = (j: number) => tone?.[3 * 64 * j];
    expect(row(32)).toBe(255);
    // linear light halved
    expect(row(0)).toBeGreaterThanOrEqual(Math.round(255 * srgbChannel(0.5)));
    expect(row(0)).toBeLessThan(225);
    expect(patternTile({ kind: 'ribs', relief: 0.1, tone: 0 }, 64).tone).toBeUndefined();
  });

  it('lie by true length along, and this many times around; a picture of the project lies over them, a missing one is reported', () => {
    const {
      parts: [part],
      material,
    } = dressed('patterned', [swept], { pattern: 'knurl', repeat: 0.05, around: 7, relief: 0.3, tone: 0.2 });
    expect(material.pattern).toEqual({ kind: 'knurl', relief: 0.3, tone: 0.2 });
    const uv = (part as MeshPart).mesh.uv;
    uv.forEach((value, i) => {
      expect(value).toBeCloseTo(i % 2 === 0 ? 7 * swept.mesh.uv[i] : swept.mesh.uv[i] / 0.05, 3);
    });
    const reported: Finding[] = [];
    const context = {
      picture: (id: string) => (id === 'p' ? { picture: { image: 'abc' } } : undefined),
      report: (one: Finding) => reported.push(one),
    };
    expect(dressed('patterned', [swept], { pattern: 'none', picture: 'p' }, context).material).toMatchObject({
      picture: 'abc',
    });
    expect(dressed('patterned', [swept], { pattern: 'none', picture: 'p' }, context).material.pattern).toBeUndefined();
    expect(reported).toEqual([]);
    expect(dressed('patterned', [swept], { picture: 'gone' }, context).material.picture).toBeUndefined();
    expect(reported.map(({ code }) => code)).toEqual(['picture-missing']);
  });
});

describe('textures along the length', () => {
  const ends = (fit: string, repeat: number) => {
    const { parts } = dressed('patterned', [swept], { fit, repeat, around: 1 });
    const { uv, quads, index } = (parts[0] as MeshPart).mesh;
    const walls = [...new Set(index.subarray(0, 6 * quads))].map((v) => uv[2 * v + 1]);
    return [Math.min(...walls), Math.max(...walls)];
  };

  it('keep their length, or are evened to whole repeats on each shell, or are one', () => {
    // lines of 1 m
    expect(ends('true', 0.3)[1]).toBeCloseTo(1 / 0.3, 5);
    expect(ends('whole', 0.3)).toEqual([0, 3]);
    expect(ends('whole', 40)).toEqual([0, 1]);
    expect(ends('once', 0.3)).toEqual([0, 1]);
  });
});

it('every outfit is of slots and materials that there are; in it each slot wears what it says, the others what they are made with', () => {
  for (const { id, slots = [], outfits = [] } of unitsOf('make')) {
    expect(new Set(outfits.map((outfit) => outfit.id)).size).toBe(outfits.length);
    for (const outfit of outfits) {
      for (const [slot, { unit, preset }] of Object.entries(outfit.wears)) {
        expect(['main', ...slots.map((one) => one.id)], `${id} ${outfit.id}`).toContain(slot);
        expect(unitOf('dress', unit).presets.map((one) => one.id)).toContain(preset);
      }
      const piece = {
        ...newPiece('p', 'P', [], false),
        make: newUse('make', id),
        dress: { main: newUse('dress', 'plain', 'brass'), other: newUse('dress', 'plain') },
      };
      const worn = inOutfit(piece, outfit).dress;
      expect(Object.keys(worn).sort()).toEqual([...new Set(['main', ...Object.keys(outfit.wears)])].sort());
      for (const [slot, { unit, preset }] of Object.entries(outfit.wears))
        expect(worn[slot]).toEqual(newUse('dress', unit, preset));
    }
  }
});

describe('colours', () => {
  const [red, blue] = ['#c02010', '#1030e0'];
  const base = (material: Material) => linearColour(material.colour);
  const shown = ({ parts, material }: Worn, k: number) => {
    const colour = coloursOf(parts[0]);
    return [0, 1, 2].map((n) => colour[3 * k + n] * base(material)[n]);
  };
  const near = (colour: string) => linearColour(colour).map((value) => expect.closeTo(value, 2));

  it.each([swept, strands])(
    'each strand or shell has one of the shades, the same all over; another number deals them out another way',
    (part) => {
      const set = { colour: red, second: blue, colourBy: 'each', shades: 2 };
      const lineOf = (k: number) =>
        Math.round(part.kind === 'mesh' ? part.mesh.position[3 * k + 1] : part.curves.position[3 * k + 1]);
      const dealt = (seed: number) => {
        const worn = dressed('plain', [part], { ...set, colourSeed: seed });
        const colour = coloursOf(worn.parts[0]);
        const of = new Map<number, string>();
        for (let k = 0; k < colour.length / 3; k++) {
          expect(shown(worn, k)).toEqual(
            expect.toSatisfy((c: number[]) =>
              [near(red), near(blue)].some((one) => one.every((value, n) => value.asymmetricMatch(c[n]))),
            ),
          );
          const now = colour.subarray(3 * k, 3 * k + 3).join();
          expect(of.get(lineOf(k)) ?? now).toBe(now);
          of.set(lineOf(k), now);
        }
        return [...of.values()].join(' ');
      };
      expect(new Set([1, 2, 3, 4, 5, 6].map(dealt)).size).toBeGreaterThan(1);
      expect(dealt(3)).toBe(dealt(3));
    },
  );

  it('along the length they go from the one to the other, and are never above 1', () => {
    const worn = dressed('plain', [swept], { colour: red, second: blue, colourBy: 'length' });
    const { position } = swept.mesh;
    for (let k = 0; k < position.length / 3; k++) {
      if (position[3 * k] < 0.001) expect(shown(worn, k)).toEqual(near(red));
      if (position[3 * k] > 0.999) expect(shown(worn, k)).toEqual(near(blue));
    }
    expect(Math.max(...coloursOf(worn.parts[0]))).toBeLessThanOrEqual(1);
    const along = dressed('plain', [strands], { colour: red, second: blue, colourBy: 'length' });
    expect([shown(along, 0), shown(along, 2)]).toEqual([near(red), near(blue)]);
  });

  it('what was tinted stays so; one colour leaves all as it was', () => {
    const worn = dressed('plain', [placed], { colour: red, second: blue, colourBy: 'length' });
    expect(shown(worn, 0)).toEqual(linearColour(red).map((value) => expect.closeTo(value / 2, 2)));
    expect(shown(worn, 2)).toEqual(linearColour(blue).map((value) => expect.closeTo(value / 2, 2)));
    expect(dressed('plain', [swept], { colour: red }).parts[0]).toBe(swept);
  });
});
