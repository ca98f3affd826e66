import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { curveLengths, evaluatePiece, newUse, Surroundings, World } from '../src/index.js';
import { filledBy, ringOf } from '../src/make/laid/packing.js';
import { pairsOf, touching } from '../src/make/laid/touch.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Place = [number, number, number];
const STRAIGHT: Place[] = [
  [0, 0, 0],
  [0.2, 0, 0],
  [0.4, 0, 0],
];

/** A bundle along a line: its strands and how thick they are. */
function bundle(points: readonly Place[], change: object, closed = false) {
  const { document, piece } = alongPoints(points, (one) => {
    one.make = newUse('make', 'laid');
    Object.assign(one.make.parameters, { radius: 0.01, places: 60, ...change });
  });
  document.curves[0].closed = closed;
  const built = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  const [{ curves, section }] = built.made.bodies;
  return { ...built, curves, radius: section.radius };
}

/** Of all pairs of strands the least distance over the sum of their radii, by trying every point against every step. */
function tightest({ curves, radius }: Pick<ReturnType<typeof bundle>, 'curves' | 'radius'>): number {
  const { position, start } = curves;
  let least = Infinity;
  for (let a = 0; a + 1 < start.length; a++)
    for (let b = a + 1; b + 1 < start.length; b++) {
      // not the last turns of either: what would be nearest to them may be cut off
      const [from, end] = [start[a] + 20, start[a + 1] - 20];
      for (let p = from; p < end; p += 3) {
        const middle = start[b] + (p - start[a]);
        for (let q = Math.max(start[b], middle - 40); q < Math.min(start[b + 1] - 1, middle + 40); q++) {
          const [s, u] = [0, 1, 2].reduce(
            ([dot, size], k) => {
              const step = position[3 * q + 3 + k] - position[3 * q + k];
              return [dot + step * (position[3 * p + k] - position[3 * q + k]), size + step * step];
            },
            [0, 0],
          );
          const t = Math.max(0, Math.min(1, s / u));
          const d = Math.hypot(
            ...[0, 1, 2].map(
              (k) => position[3 * p + k] - position[3 * q + k] - t * (position[3 * q + 3 + k] - position[3 * q + k]),
            ),
          );
          least = Math.min(least, d / (radius[p] + radius[q]));
        }
      }
    }
  return least;
}
const level = (count: number, filling: string, lay: number, hand = 'z') => ({ count, filling, hand, lay });

describe('strands side by side', () => {
  it('stand in the smallest circle known to hold them (Kravitz 1967; Graham, Lubachevsky et al. 1998)', () => {
    const known = [
      1, 2, 2.1547, 2.4142, 2.7013, 3, 3, 3.3048, 3.6131, 3.813, 3.9238, 4.0296, 4.2361, 4.3284, 4.5214, 4.6154, 4.792,
      4.8637, 4.8637,
    ];
    known.forEach((size, i) => {
      expect(1 / filledBy(i + 1).radius, `${i + 1}`).toBeCloseTo(size, 3);
    });
  });

  it('never overlap, nor stand out of the circle round them, however many', () => {
    for (const count of [1, 2, 3, 7, 12, 17, 18, 19, 20, 37, 61, 100, 331, 1000])
      for (const { x, y, radius } of [filledBy(count), ringOf(count)]) {
        expect(x.length).toBe(count);
        let nearest = Infinity;
        for (let i = 0; i < count; i++) {
          expect(Math.hypot(x[i], y[i])).toBeLessThan(1 - radius + 1e-5);
          for (let j = 0; j < i; j++) nearest = Math.min(nearest, Math.hypot(x[i] - x[j], y[i] - y[j]));
        }
        if (count > 1) expect(nearest / (2 * radius)).toBeGreaterThan(1 - 1e-5);
      }
    // most of the circle is filled
    expect(1000 * filledBy(1000).radius ** 2).toBeGreaterThan(0.7);
  });
});

describe('twisted strands', () => {
  it.each([
    [3, [0.866, 0.857, 0.8444, 0.8367, 0.8239, 0.7496]],
    [4, [Math.SQRT1_2, 0.69, 0.6674, 0.6545, 0.6344, 0.543]],
    [6, [0.5, 0.4774, 0.4503, 0.4361, 0.4155, 0.3384]],
  ])('%i in a ring just touch at the radius found by searching all distances of two helices', (count, radii) => {
    // lay in diameters of the bundle; the radius over that of the ring
    [Infinity, 6, 4, 3.5, 3, 2].forEach((lay, k) => {
      const packing = ringOf(count);
      const { radius, spread } = touching(packing, pairsOf(packing), 2 * lay, 'least');
      const ring = spread * Math.hypot(packing.x[0], packing.y[0]);
      expect(radius[0] / ring, `lay ${lay}`).toBeCloseTo(radii[k], 3);
      expect(ring + radius[0]).toBeCloseTo(1, 6);
    });
  });
});

describe('laid strands', () => {
  it.each([
    ['two', [level(2, 'hollow', 2.5)]],
    ['three, steep', [level(3, 'hollow', 1.6, 's')]],
    ['four about a core', [level(4, 'cored', 3)]],
    ['a wire of 7', [level(7, 'filled', 4)]],
    ['19, each its own', [level(19, 'filled', 5)], 'own'],
    ['30 in a ring', [level(30, 'hollow', 6)]],
  ])(
    'touch where they are tightest and cut nowhere, by trying all of their points: %s',
    (_name, levels, fit = 'least') => {
      expect(Math.abs(tightest(bundle(STRAIGHT, { levels, fit })) - 1)).toBeLessThan(0.01);
    },
  );

  it('cut each other on no gentle bend, at no level, whatever swells or is twisted on', () => {
    const levels = fc.array(
      fc.record({
        count: fc.integer({ min: 2, max: 5 }),
        filling: fc.constantFrom('hollow', 'filled', 'cored'),
        hand: fc.constantFrom('z', 's'),
        lay: evenly(2, 6),
      }),
      { minLength: 1, maxLength: 2 },
    );
    const side = evenly(-0.05, 0.05);
    const radius = fc.oneof(
      fc.constant(0.01),
      fc.tuple(evenly(0.005, 0.01), evenly(0.005, 0.01)).map(([a, b]) => ({
        knots: [
          { at: 0, value: a },
          { at: 1, value: b },
        ],
        ease: 'smooth',
      })),
    );
    fc.assert(
      fc.property(levels, side, side, radius, evenly(-2, 2), (own, y, z, size, twist) => {
        const made = bundle(
          [
            [0, 0, 0],
            [0.1, y, z],
            [0.25, -z, y],
          ],
          { levels: own, radius: size, twist, places: 48 },
        );
        // strands at the inside of a bend are the nearest: they may come a little nearer than was foreseen
        expect(tightest(made)).toBeGreaterThan(0.97);
        expect(made.parts[0]?.kind === 'mesh' && made.parts[0].mesh.position.every(Number.isFinite)).toBe(true);
      }),
      { numRuns: 10 },
    );
  });

  it('are as long as Pythagoras says: √(lay² + (2π ring)²) a turn, of the hand that is asked', () => {
    for (const hand of ['z', 's']) {
      const { curves, radius } = bundle(STRAIGHT, { levels: [level(3, 'hollow', 3, hand)] });
      const ring = 0.01 - radius[0];
      const lay = 0.06;
      expect(curveLengths(curves)[0] / (0.4 * Math.sqrt(1 + ((2 * Math.PI * ring) / lay) ** 2))).toBeCloseTo(1, 3);
      // a quarter turn on, what was up stands aside: a Z turns as a usual screw goes on
      const at = (p: number) => [curves.position[3 * p + 1], curves.position[3 * p + 2]];
      const [[y0, z0], [y1, z1]] = [at(0), at(10)];
      expect(Math.sign(y0 * z1 - z0 * y1)).toBe(hand === 'z' ? 1 : -1);
    }
  });

  it('of a closed line close after whole turns; each keeps its id when others are added, and none when the line has another', () => {
    const ring: Place[] = [
      [0, 0, 0],
      [0.3, 0, 0],
      [0.3, 0, 0.3],
      [0, 0, 0.3],
    ];
    const three = bundle(ring, { levels: [level(3, 'hollow', 4), level(4, 'filled', 4, 's')] }, true);
    expect([...three.curves.closed]).toEqual(new Array(12).fill(1));
    const { position, start } = three.curves;
    for (let c = 0; c < 12; c++) {
      const [first, last] = [3 * start[c], 3 * start[c + 1] - 3];
      const [step, gap] = [first, last].map((p, k) =>
        Math.hypot(...[0, 1, 2].map((n) => position[p + n] - position[(k === 0 ? p + 3 : first) + n])),
      );
      expect(gap / step).toBeLessThan(1.5);
    }
    const five = bundle(ring, { levels: [level(5, 'hollow', 4), level(4, 'filled', 4, 's')] }, true);
    expect([...five.curves.id.slice(0, 12)]).toEqual([...three.curves.id]);
    expect(new Set(five.curves.id).size).toBe(20);
  });

  it.each(['flat', 'round', 'pointed', 'open'])(
    'say of every vertex whose it is, ends and all, where in the bundle, and in which tint: ends %s',
    (kind) => {
      for (const closed of [false, true]) {
        const ring: Place[] = [
          [0, 0, 0],
          [0.3, 0, 0],
          [0.3, 0, 0.3],
          [0, 0, 0.3],
        ];
        const levels = [level(3, 'cored', 4), level(3, 'hollow', 4, 's')];
        const made = bundle(
          closed ? ring : STRAIGHT,
          { levels, radius: 0.03, places: 12, start: kind, end: kind, tinted: 'level', variation: 0.5 },
          closed,
        );
        if (made.parts[0]?.kind !== 'mesh') throw new Error('Strands are a mesh');
        const { position, attributes = {} } = made.parts[0].mesh;
        const { curves, radius } = made;
        const strandOf = new Map([...curves.id].map((id, c) => [id & 0xffffff, c]));
        const tints = new Map<number, number>();
        const [length] = curveLengths(made.made.guide);
        const wrong: string[] = [];
        for (let v = 0; v < position.length / 3; v++) {
          const c = strandOf.get(attributes['strand'].data[v]) ?? -1;
          let near = Infinity;
          for (let p = curves.start[c]; p < curves.start[c + 1]; p++)
            near = Math.min(
              near,
              Math.hypot(...[0, 1, 2].map((k) => position[3 * v + k] - curves.position[3 * p + k])),
            );
          const outer = attributes['level'].data[v];
          const tint = attributes['colour'].data[3 * v];
          const [u, along] = attributes['uv2'].data.subarray(2 * v, 2 * v + 2);
          const sound = {
            near: near < 2.2 * radius[curves.start[c]],
            level: outer === Math.floor(c / 3),
            tint: (tints.get(outer) ?? tint) === tint && tint >= 0.5 && tint <= 1,
            place: u >= 0 && u <= 1 && along >= 0 && along <= length * 1.001,
            // along a straight line it is where it is
            along: closed || kind === 'pointed' || kind === 'round' || Math.abs(along - position[3 * v]) < 0.033,
          };
          tints.set(outer, tint);
          for (const [what, is] of Object.entries(sound)) if (!is) wrong.push(`${what} of vertex ${v}`);
        }
        expect(wrong).toEqual([]);
        expect(new Set(tints.values()).size).toBe(4);
      }
    },
  );

  it('weigh what their stuff weighs: one of steel, and three of them as much as their lengths say', () => {
    for (const count of [1, 3]) {
      const { made, curves, radius } = bundle(STRAIGHT, { levels: [level(count, 'hollow', 4)], density: 7.85 });
      const long = curveLengths(curves).reduce((a, b) => a + b, 0);
      const mass = made.measures.find(({ id }) => id === 'mass')?.value ?? 0;
      expect(mass / (Math.PI * radius[0] ** 2 * long * 7850)).toBeCloseTo(1, 4);
      expect(made.measures.find(({ id }) => id === 'strands')?.value).toBe(count);
    }
  });

  it('that are laid more steeply than can be laid, or would have too many places, are reported with a figure', () => {
    const codes = (change: object, points = STRAIGHT) => bundle(points, change).findings.map(({ code }) => code);
    expect(codes({ levels: [level(3, 'hollow', 0.7)] })).toContain('lay-steep');
    expect(codes({ levels: [level(3, 'hollow', 3)] })).not.toContain('lay-steep');
    const long: Place[] = [
      [0, 0, 0],
      [400, 0, 0],
      [900, 0, 0],
    ];
    expect(codes({ radius: 0.001, levels: [level(30, 'filled', 2)] }, long)).toContain('too-many-turns');
  });
});
