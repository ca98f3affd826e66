import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { curveLengths } from '../src/curve/arc-length.js';
import { joinCurves } from '../src/curve/carry.js';
import { Walk } from '../src/curve/walk.js';
import {
  type CurveSet,
  newUse,
  polygonSection,
  realMesh,
  Surface,
  Surroundings,
  singleCurve,
  sweep,
  topologyOf,
  unitOf,
} from '../src/index.js';
import { filledBy } from '../src/make/laid/packing.js';
import type { Made, PlacedPart } from '../src/unit/carriers.js';
import { circle, evenly } from './helpers.js';
import { made } from './units.js';

const R = 0.01;
const straight = singleCurve([0, 0, 0, 1, 0, 0], { id: 5 });
const bent = singleCurve([0, 0, 0, 0.3, 0.05, 0.1, 0.6, 0, -0.05, 0.9, 0.1, 0], { id: 5, smooth: true });
const cable = (set: object, input: CurveSet = straight, context: Parameters<typeof made>[2] = {}) =>
  made('cable', { radius: R, sides: 24, ...set }, { input, ...context });
const part = ({ parts }: Made, id: string) => parts.find((one) => one.id === id);
const meshOf = (one: Made, id: string) => realMesh(part(one, id)!);
const column = ({ position }: { position: Float32Array }, k: number) => position.filter((_, i) => i % 3 === k);
/** A wall whose face is the plane z = −0.01, so that a cable of 10 mm radius on the x axis lies on it. */
const wall = Surface.of({
  position: Float32Array.of(-1, -1, -R, 2, -1, -R, 2, 1, -R, -1, 1, -R),
  index: Uint32Array.of(0, 1, 2, 0, 2, 3),
});
const onWall = { surroundings: new Surroundings(new Map([['wall', wall]])) };

describe('every preset of a cable', () => {
  it.each(unitOf('make', 'cable').presets.map(({ id }) => id))(
    '%s: closed and finite on lines of any kind',
    (preset) => {
      const lines = [
        straight,
        bent,
        circle(0.4, 60),
        singleCurve([0, 0, 0, 0.5, 0, 0, 0.5, 0, 0.5, 1, 0, 0.5], { id: 2 }),
        joinCurves([straight, bent]),
      ];
      for (const input of lines)
        for (const density of [1, 0.5]) {
          const one = made('cable', newUse('make', 'cable', preset).parameters, { input, density, ...onWall });
          for (const each of one.parts) {
            const mesh = realMesh(each);
            for (const array of [mesh.position, mesh.normal, mesh.uv])
              expect(array.every(Number.isFinite), each.id).toBe(true);
            expect(topologyOf(mesh).openEdges, each.id).toBe(0);
            if (mesh.attributes?.['colour']) expect(mesh.attributes['colour'].data.length).toBe(mesh.position.length);
          }
        }
    },
  );
});

describe('ribs', () => {
  it('rings are as deep as asked and as far from each other, each with its own cross-cuts', () => {
    const mesh = meshOf(cable({ ribs: 'rings', wave: 2, depth: 0.3, end: 'flat', start: 'flat' }), 'cable');
    const far = new Map<number, number>();
    for (let i = 0; i < mesh.position.length; i += 3) {
      const off = Math.hypot(mesh.position[i + 1], mesh.position[i + 2]);
      if (off > R / 2) far.set(mesh.position[i], off);
    }
    for (const [x, off] of far) {
      const turn = (2 * Math.PI * x) / (2 * R);
      expect(off / R).toBeCloseTo(1 - 0.3 * (0.5 - 0.5 * Math.cos(turn)) ** 1.6, 4);
    }
    expect(far.size).toBeGreaterThan(5 * (1 / (2 * R)));
    expect(Math.min(...far.values()) / R).toBeLessThan(0.72);
  });

  it('a winding one goes once round in a wave', () => {
    const mesh = meshOf(cable({ ribs: 'screw', wave: 4, depth: 0.3, end: 'flat', start: 'flat' }), 'cable');
    const valleys = new Map<number, { off: number; angle: number }>();
    for (let i = 0; i < mesh.position.length; i += 3) {
      const [x, y, z] = mesh.position.subarray(i, i + 3);
      const off = Math.hypot(y, z);
      if (off > R / 2 && off < (valleys.get(x)?.off ?? Infinity)) valleys.set(x, { off, angle: Math.atan2(z, y) });
    }
    const first = valleys.get(0)!.angle;
    for (const [x, { off, angle }] of valleys) {
      expect(off / R).toBeCloseTo(0.7, 3);
      const turns = (Math.abs(angle - first) / (2 * Math.PI) - x / (4 * R)) % 1;
      const back = (-Math.abs(angle - first) / (2 * Math.PI) - x / (4 * R)) % 1;
      expect(Math.min(...[turns, back].map((one) => Math.abs(one - Math.round(one))))).toBeLessThan(0.02);
    }
  });

  it('that could only be mush are left out, and reported; one that winds round a box is reported too', () => {
    const reported: string[] = [];
    const smooth = meshOf(cable({ ribs: 'rings' }, straight, { density: 0.2, reported }), 'cable');
    expect(Math.min(...Array.from(smooth.position.filter((_, i) => i % 3 === 0)))).toBeGreaterThanOrEqual(-R);
    cable({ ribs: 'screw', section: 'box' }, straight, { reported });
    expect(reported).toEqual(['ribs-smooth', 'ribs-round']);
  });
});

describe('several cables', () => {
  /** Distances between all lines where each comes so far along x. */
  const gaps = ({ start, position }: CurveSet, x: number): number[] => {
    const at = Array.from({ length: start.length - 1 }, (_, c) => {
      let p = start[c] + 1;
      while (p < start[c + 1] - 1 && position[3 * p] < x) p++;
      const t = (x - position[3 * p - 3]) / (position[3 * p] - position[3 * p - 3]);
      return [1, 2].map((n) => position[3 * p - 3 + n] + t * (position[3 * p + n] - position[3 * p - 3 + n]));
    });
    return at.flatMap(([y, z], a) => at.slice(a + 1).map((other) => Math.hypot(y - other[0], z - other[1])));
  };

  it('touch and do not cut, in a bundle and in a row, wherever they run and however they fan out', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 19 }),
        fc.constantFrom('round', 'flat'),
        fc.constantFrom('none', 'end', 'both'),
        evenly(0, 1),
        (count, lay, fans, loose) => {
          const { bodies } = cable({ lay, count, fans, loose, ties: 12, end: 'flat', start: 'flat' });
          const { curves } = bodies[0];
          expect(curves.id.length).toBe(count);
          for (const x of [0, 0.13, 0.4, 0.5, 0.7, 0.97, 1])
            expect(Math.min(...gaps(curves, x))).toBeGreaterThan(2 * R * 0.99);
          // in the middle of two ties they are as loose as they are, at a tie they touch
          if (fans === 'none') expect(Math.min(...gaps(curves, 0))).toBeLessThan(2 * R * 1.03);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('stand as the packing says, its first axis up, and keep their ids when there are more of them on several lines', () => {
    const { curves } = cable({ lay: 'round', count: 5 }).bodies[0];
    const { x, y, radius } = filledBy(5);
    for (let c = 0; c < 5; c++) {
      const p = 3 * curves.start[c];
      expect(curves.position[p + 1]).toBeCloseTo((R * 1.01 * x[c]) / radius, 6);
      expect(curves.position[p + 2]).toBeCloseTo((R * 1.01 * y[c]) / radius, 6);
    }
    const two = joinCurves([singleCurve([0, 0, 0, 1, 0, 0], { id: 5 }), singleCurve([0, 0, 1, 1, 0, 1], { id: 6 })]);
    const [few, many] = [3, 8].map((count) => [...cable({ lay: 'flat', count }, two).bodies[0].curves.id]);
    expect([few.slice(0, 3), few.slice(3)]).toEqual([many.slice(0, 3), many.slice(8, 11)]);
    expect(new Set(many).size).toBe(16);
  });

  it('keep their ids, places and colours when there are more; fan out as far as asked, and end unevenly', () => {
    const colours = (count: number) => {
      const mesh = meshOf(cable({ lay: 'flat', count, palette: 'signal' }), 'cable');
      return new Set(
        Array.from({ length: mesh.position.length / 3 }, (_, v) =>
          mesh.attributes!['colour'].data.slice(3 * v, 3 * v + 3).join(),
        ),
      );
    };
    expect([...colours(3)].every((one) => colours(9).has(one))).toBe(true);
    expect(colours(9).size).toBeGreaterThan(2);
    const fan = cable({ lay: 'flat', count: 3, fans: 'end', fan: 4, fanOver: 20 }).bodies[0].curves;
    // (1 + 4) × as far apart at the end as where they touch
    expect(gaps(fan, 1)[0] / (2 * R)).toBeCloseTo(5 * 1.01, 1);
    expect(gaps(fan, 0)[0] / (2 * R)).toBeCloseTo(1.01, 2);
    const uneven = cable({ lay: 'flat', count: 5, fans: 'end', uneven: 6 });
    const lengths = curveLengths(uneven.bodies[0].curves);
    expect(Math.max(...lengths) - Math.min(...lengths)).toBeGreaterThan(R);
    expect(uneven.measures[0].value).toBe(5);
  });

  it('more of them than can be made are reported with their figure, and as many as can be run', () => {
    const reported: string[] = [];
    const many = joinCurves(Array.from({ length: 500 }, (_, k) => singleCurve([0, k, 0, 0.1, k, 0], { id: k + 1 })));
    const { bodies } = cable({ lay: 'flat', count: 200, sides: 3, start: 'open', end: 'open' }, many, { reported });
    expect([reported, bodies[0].curves.id.length]).toEqual([['too-many-cables'], 40_000]);
  });

  it('have ties where they lie closest, round all of them and into none; none where they fan out', () => {
    for (const lay of ['round', 'flat']) {
      const one = cable({ lay, count: 5, ties: 8, fans: 'end', fanOver: 10, loose: 0.5 });
      const ties = part(one, 'ties') as PlacedPart;
      const { curves } = one.bodies[0];
      const mesh = realMesh(ties);
      let nearest = Infinity;
      for (let i = 0; i < mesh.position.length; i += 3)
        for (let c = 0; c < 5; c++)
          for (let q = curves.start[c]; q < curves.start[c + 1]; q += 1) {
            const off = Math.hypot(...[0, 1, 2].map((n) => mesh.position[i + n] - curves.position[3 * q + n]));
            nearest = Math.min(nearest, off);
          }
      expect(nearest / R).toBeGreaterThan(0.93);
      expect(one.marks.find(({ kind }) => kind === 'tie')!.along.length).toBe(ties.places.id.length);
      expect(Math.max(...ties.places.along)).toBeLessThan(1 - 10 * R);
    }
  });
});

describe('ends', () => {
  it('cores come out of a jacket that is cut back, lie within it, and end where the line did', () => {
    const one = cable({ bared: 'end', cores: 5, coreLength: 10, tips: 2, coreSpread: 1 }, bent);
    const end = [0.9, 0.1, 0];
    const jacket = one.bodies[0].curves;
    expect(curveLengths(jacket)[0]).toBeCloseTo(curveLengths(cable({}, bent).bodies[0].curves)[0] - 10 * R, 2);
    const tips = meshOf(one, 'tips');
    const nearest = Math.min(
      ...Array.from({ length: tips.position.length / 3 }, (_, v) =>
        Math.hypot(...[0, 1, 2].map((n) => tips.position[3 * v + n] - end[n])),
      ),
    );
    expect(nearest).toBeLessThan(2 * R);
    expect([part(one, 'cores')?.slot, part(one, 'tips')?.slot, topologyOf(meshOf(one, 'cores')).shells]).toEqual([
      'cores',
      'metal',
      5,
    ]);
    // on a straight cable: none reaches out of the jacket where that still is
    const straightened = cable({ bared: 'both', cores: 7, coreLength: 10 });
    const cores = meshOf(straightened, 'cores').position;
    for (let i = 0; i < cores.length; i += 3)
      if (cores[i] > 0.085 && cores[i] < 0.1) expect(Math.hypot(cores[i + 1], cores[i + 2])).toBeLessThan(0.9 * R);
  });

  it.each(['round', 'flat', 'ring', 'gland'])(
    'a plug %s has its face where the line ends, and the cable runs straight into it',
    (kind) => {
      const up = singleCurve([0, 0, 0, 0.2, 0.1, 0, 0.3, 0.4, 0], { id: 4, smooth: true });
      const one = cable({ startPlug: kind, endPlug: kind, lead: 6, lamp: true, end: 'round' }, up);
      const { curves } = one.bodies[0];
      const [points, x] = [curves.start[1], curves.position];
      const end = [0.3, 0.4, 0];
      const way = [0, 1, 2].map((n) => x[3 * points - 3 + n] - x[3 * points - 6 + n]);
      const size = Math.hypot(...way);
      const face = (offset: number) => {
        const { position } = meshOf(cable({ endPlug: kind, lead: 6, plugOffset: offset }, up), 'plugs-end');
        const metal = part(cable({ endPlug: kind, lead: 6, plugOffset: offset }, up), 'contacts-end');
        const all = metal ? [...position, ...realMesh(metal).position] : [...position];
        return Math.max(
          ...Array.from({ length: all.length / 3 }, (_, v) =>
            [0, 1, 2].reduce((sum, n) => sum + ((all[3 * v + n] - end[n]) * way[n]) / size, 0),
          ),
        );
      };
      expect(Math.abs(face(0))).toBeLessThan(0.05 * R);
      expect(face(3) - face(0)).toBeCloseTo(3 * R, 4);
      // straight for its lead and for what is in the plug
      const far = (p: number) => Math.hypot(...[0, 1, 2].map((n) => x[3 * p + n] - end[n]));
      for (let p = points - 2; p >= 0 && far(p) < 6 * R; p--)
        for (let n = 0; n < 3; n++) expect(x[3 * p + n]).toBeCloseTo(end[n] - (far(p) * way[n]) / size, 5);
      expect((part(one, 'lamps-end') as PlacedPart).places.id.length).toBe(1);
      expect(one.parts.filter(({ id }) => id.startsWith('plugs')).length).toBe(2);
    },
  );

  it('its lamp looks off a wall beside it, else up', () => {
    const lamp = (context: Parameters<typeof made>[2]) => {
      const { matrix } = (
        part(cable({ endPlug: 'flat', lamp: true, plugSize: 0.8 }, straight, context), 'lamps-end') as PlacedPart
      ).places;
      return [...matrix.subarray(0, 3)].map((value) => Math.round(value / (0.8 * R)) + 0);
    };
    expect([lamp(onWall), lamp({})]).toEqual([
      [0, 0, 1],
      [0, 1, 0],
    ]);
  });

  it('a prop can be the plug; without one it is reported, and a gland represents it', () => {
    const reported: string[] = [];
    const bar = Surface.of(sweep(singleCurve([0, 0, 0, 0, 0, 0.3]), polygonSection(8), { radius: 0.05 }));
    const surroundings = new Surroundings(new Map([['bar', bar]]));
    const own = meshOf(cable({ endPlug: 'own', plugProp: 'bar' }, straight, { surroundings, reported }), 'plugs-end');
    // two radii wide to either side, three times as long as broad, its face at the end
    expect(Math.max(...column(own, 0))).toBeCloseTo(1, 4);
    expect(Math.min(...column(own, 0))).toBeCloseTo(1 - 12 * R, 2);
    expect(reported).toEqual([]);
    expect(part(cable({ endPlug: 'own' }, straight, { reported }), 'plugs-end')).toBeDefined();
    expect(reported).toEqual(['part-missing']);
  });
});

describe('on a wall', () => {
  it('clips stand with their feet on it, evenly, and as many as fit; with none near it is reported', () => {
    const reported: string[] = [];
    const one = cable({ fixing: 'clip', fixEvery: 20 }, straight, { ...onWall, reported });
    const clips = part(one, 'clips') as PlacedPart;
    expect([...clips.places.along].map((at) => Math.round(at * 1000))).toEqual([100, 300, 500, 700, 900]);
    const lowest = Math.min(...column(realMesh(clips), 2));
    expect(lowest).toBeCloseTo(-R, 5);
    expect(reported).toEqual([]);
    cable({ fixing: 'clip' }, straight, { reported });
    cable({ fixing: 'bracket' }, straight, { reported });
    expect(reported).toEqual(['holder-free', 'holder-free']);
    const brackets = cable({ fixing: 'bracket', fixEvery: 25 }, singleCurve([0, 0, 0.02, 1, 0, 0.02]), onWall);
    expect(brackets.parts.map(({ id }) => id)).toEqual(['cable', 'clamps', 'rods', 'feet']);
    expect(brackets.marks[0].along.length).toBe(4);
  });

  it('between two clips it is as much longer as asked, hangs down along the wall, and makes a loop that does not cut itself', () => {
    const slack = { least: 0.02, most: 0.02 };
    const hung = cable({ fixing: 'clip', fixEvery: 20, slack }, straight, onWall);
    // four spans of 0.2 m, each 2 % longer (a flat bow: to the next order of its depth)
    expect(curveLengths(hung.guide)[0] - 1).toBeCloseTo(0.8 * 0.02, 3);
    expect(Math.min(...hung.guide.position.filter((_, i) => i % 3 === 1))).toBeCloseTo(
      (-0.4 * Math.sqrt(0.02)) / Math.PI,
      3,
    );
    expect(Math.max(...hung.guide.position.filter((_, i) => i % 3 === 2).map(Math.abs))).toBeLessThan(1e-6);
    // the clips stay where they are, and the line runs through each
    const taut = part(cable({ fixing: 'clip', fixEvery: 20 }, straight, onWall), 'clips') as PlacedPart;
    const loose = part(hung, 'clips') as PlacedPart;
    expect([...loose.places.matrix]).toEqual([...taut.places.matrix].map((value) => expect.closeTo(value, 4)));
    const rides = new Walk(hung.guide, 0);
    loose.places.along.forEach((at, k) => {
      expect(rides.pointAt(at, [0, 0, 0])[0]).toBeCloseTo(loose.places.matrix[16 * k + 12], 3);
    });
    const looped = cable({ fixing: 'clip', fixEvery: 40, loops: 1, loopSize: 5 }, straight, onWall);
    // one span of 0.4 m between two clips... two spans at most: each loop is about its own circle longer
    expect(curveLengths(looped.guide)[0] - 1).toBeGreaterThan(2 * Math.PI * 5 * R * 0.7);
    const { position, start } = looped.guide;
    let nearest = Infinity;
    for (let p = start[0]; p < start[1]; p++)
      for (let q = p + 12; q < start[1]; q++) {
        const off = Math.hypot(...[0, 1, 2].map((n) => position[3 * p + n] - position[3 * q + n]));
        const along = looped.guide.pointData['along'][q] - looped.guide.pointData['along'][p];
        if (along > 6 * R) nearest = Math.min(nearest, off);
      }
    expect(nearest).toBeGreaterThan(2 * R * 0.99);
    expect(Math.min(...position.filter((_, i) => i % 3 === 2))).toBeGreaterThan(-0.02 * R);
  });
});

it('bends of fixed wiring: inside 3 diameters up to 10 mm, 4 up to 25 mm, 6 above and armoured (IET On-Site Guide, from memory)', () => {
  const inside = (diameter: number, bendRule: string) => {
    const { leastBend } = cable({ radius: diameter / 2, bendRule, leastBend: 2 }).bodies[0];
    // along its middle, in radii
    return (leastBend * diameter) / 2 / diameter - 0.5;
  };
  expect([0.006, 0.01, 0.012, 0.025, 0.03].map((diameter) => inside(diameter, 'fixed'))).toEqual(
    [3, 3, 4, 4, 6].map((one) => expect.closeTo(one, 9)),
  );
  expect(inside(0.006, 'armoured')).toBeCloseTo(6, 9);
  expect(cable({ leastBend: 2 }).bodies[0].leastBend).toBe(2);
});
