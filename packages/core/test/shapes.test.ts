import fc from 'fast-check';
import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { joinCurves } from '../src/curve/carry.js';
import { allocateCurves } from '../src/curve/curve-set.js';
import { reverseCurves } from '../src/curve/reverse.js';
import { type Approach, nearestOnSegments } from '../src/curve/segment-grid.js';
import {
  type CurveSet,
  curveCount,
  curveLengths,
  madeOf,
  POINT,
  pointCount,
  resample,
  roundedBoxSection,
  roundSection,
  Surface,
  Surroundings,
  singleCurve,
  sliceAt,
  sweep,
} from '../src/index.js';
import { separate } from '../src/shape/separate.js';
import { circle, drawn, evenly, helix } from './helpers.js';
import { build } from './units.js';

type Place = readonly [number, number, number];

const pointOf = ({ position }: CurveSet, p: number) => [...position.subarray(3 * p, 3 * p + 3)];
const endsOf = (curves: CurveSet, c: number) => [
  pointOf(curves, curves.start[c]),
  pointOf(curves, curves.start[c + 1] - 1),
];
const wave = () =>
  resample(
    drawn([
      [0, 0, 0],
      [1, 0.3, 0],
      [2, -0.2, 0.4],
      [3, 0.1, 0],
    ]),
    { spacing: 0.05 },
  );
const expectPoint = (got: readonly number[], wanted: readonly number[], digits = 6) =>
  wanted.forEach((value, n) => {
    expect(got[n]).toBeCloseTo(value, digits);
  });

describe('wobble', () => {
  it('stays within its amount, leaves held ends, is the same twice and another for another line or seed', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 5, noNaN: true }), fc.integer({ min: 0, max: 1000 }), (strength, seed) => {
        const input = resample(singleCurve([0, 0, 0, 4, 0, 0], { id: 7 }), { spacing: 0.1 });
        const out = build('shape', 'wobble', { strength, seed }, { input });
        expect(build('shape', 'wobble', { strength, seed }, { input }).position).toEqual(out.position);
        let far = 0;
        for (let i = 0; i < out.position.length; i += 3)
          far = Math.max(far, Math.hypot(out.position[i + 1], out.position[i + 2]));
        expect(far).toBeGreaterThan(0);
        expect(far).toBeLessThan(Math.SQRT2 * strength * 0.01 * 1.01);
        expectPoint(endsOf(out, 0)[0], [0, 0, 0], 9);
        expectPoint(endsOf(out, 0)[1], [4, 0, 0], 9);
        const other = build('shape', 'wobble', { strength, seed: seed + 1 }, { input });
        expect(other.position).not.toEqual(out.position);
      }),
      { numRuns: 20 },
    );
  });

  it('of one line does not change when others come and go; a ring closes', () => {
    const alone = build('shape', 'wobble', {}, { input: wave() });
    const two = build('shape', 'repeat', { count: 2 }, { input: wave() });
    const beside = build('shape', 'wobble', {}, { input: two });
    expect(beside.position.subarray(0, alone.position.length)).toEqual(alone.position);
    const ring = build('shape', 'wobble', { strength: 3 }, { input: circle(1, 100) });
    const step = curveLengths(ring)[0] / (ring.position.length / 3);
    const [first, last] = endsOf(ring, 0);
    expect(Math.hypot(...first.map((value, n) => value - last[n]))).toBeLessThan(3 * step);
  });
});

it('trim keeps the lengths asked for, of open lines and rings, and says what is gone', () => {
  const length = curveLengths(wave())[0];
  const share = build('shape', 'trim', { from: 0.25, to: 0.75 }, { input: wave() });
  expect(curveLengths(share)[0] / length).toBeCloseTo(0.5, 3);
  const cut = build('shape', 'trim', { by: 'length', offStart: 0.3, offEnd: 0.2 }, { input: wave() });
  expect(curveLengths(cut)[0]).toBeCloseTo(length - 0.5, 2);
  const ring = build('shape', 'trim', { from: 0, to: 0.5 }, { input: circle(1, 200) });
  expect(ring.closed[0]).toBe(0);
  expect(curveLengths(ring)[0]).toBeCloseTo(Math.PI, 2);
  expect(build('shape', 'trim', {}, { input: circle(1, 200) }).closed[0]).toBe(1);
  const reported: string[] = [];
  expect(curveCount(build('shape', 'trim', { by: 'length', offStart: 99 }, { input: wave(), reported }))).toBe(0);
  expect(reported).toEqual(['trimmed-away']);
});

describe('offset', () => {
  it('of a circle outwards is a circle: length grows by 2π·distance (Steiner’s formula for convex curves)', () => {
    for (const distance of [0.1, -0.1]) {
      const out = build('shape', 'offset', { distance, side: 0 }, { input: flatRing() });
      expect(Math.abs(curveLengths(out)[0] - 2 * Math.PI)).toBeCloseTo(2 * Math.PI * 0.1, 2);
    }
  });
  it('of 90° goes to the left as seen along the line, of 0° up, of any turn by as much', () => {
    fc.assert(
      fc.property(evenly(0, 2 * Math.PI), evenly(-Math.PI, Math.PI), (way, side) => {
        // a level line, which lets left and up be said without frames
        const along = [Math.cos(way), 0, Math.sin(way)];
        const line = build('shape', 'offset', { distance: 0.3, side }, { input: singleCurve([0, 0, 0, ...along]) });
        const left = [along[2], 0, -along[0]];
        const wanted = left.map((value, k) => 0.3 * (value * Math.sin(side) + (k === 1 ? Math.cos(side) : 0)));
        pointOf(line, 0).forEach((value, k) => {
          expect(value).toBeCloseTo(wanted[k], 9);
        });
      }),
    );
  });

  it('further than the bend is wide folds, and is reported', () => {
    const reported: string[] = [];
    const inner = build('shape', 'offset', { distance: 1.5, side: 0 }, { input: flatRing(), reported });
    const outer = build('shape', 'offset', { distance: -1.5, side: 0 }, { input: flatRing(), reported });
    expect(curveCount(inner) + curveCount(outer)).toBe(2);
    expect(reported).toEqual(['offset-folds']);
  });
  /** A standing circle: its first normal, up made square to the tangent, lies in its plane. */
  const flatRing = () =>
    singleCurve(
      Float64Array.from({ length: 600 }, (_, i) => {
        const t = (2 * Math.PI * Math.floor(i / 3)) / 200;
        return [Math.sin(t), Math.cos(t), 0][i % 3];
      }),
      { closed: true },
    );
});

it('slide lays a line along another, as long as it was, and says where there is no room', () => {
  const { curve } = helix(0.5, 0.4, 3, 600);
  const lead = resample(curve, { maxTurn: 0.05 });
  const reported: string[] = [];
  const context = {
    input: wave(),
    piece: (id: string) => (id === 'lead' ? { line: lead, made: () => madeOf(lead) } : undefined),
    reported,
  };
  const out = build('shape', 'slide', { along: 'lead', from: 1 }, context);
  expect(curveLengths(out)[0]).toBeCloseTo(curveLengths(wave())[0], 2);
  for (let i = 0; i < out.position.length; i += 3)
    expect(Math.hypot(out.position[i], out.position[i + 2])).toBeCloseTo(0.5, 2);
  expect(reported).toEqual([]);
  build('shape', 'slide', { along: 'lead', from: 8 }, context);
  build('shape', 'slide', { along: 'nobody' }, context);
  expect(reported).toEqual(['slid-past-the-end', 'carrier-missing']);
});

it('mirror shows both sides, and joins what meets the plane into one line', () => {
  const apart = build('shape', 'mirror', { at: [-1, 0, 0] }, { input: wave() });
  expect(curveCount(apart)).toBe(2);
  expectPoint(endsOf(apart, 1)[0], [-2, 0, 0]);
  const joined = build('shape', 'mirror', { at: [0, 0, 0] }, { input: wave() });
  expect(curveCount(joined)).toBe(1);
  expect(curveLengths(joined)[0]).toBeCloseTo(2 * curveLengths(wave())[0], 1);
  const half = resample(
    drawn([
      [0, 1, 0],
      [1, 0, 0],
      [0, -1, 0],
    ]),
    { maxTurn: 0.05 },
  );
  const ring = build('shape', 'mirror', {}, { input: half });
  expect(ring.closed[0]).toBe(1);
  expect(Math.min(...ring.position.filter((_, i) => i % 3 === 0))).toBeCloseTo(-1, 2);
});

it('a strap with roll is the same body whichever way its line runs, and its mirrored half is its mirror image', () => {
  const line = resample(
    drawn([
      [0, 0, 0],
      [1, 0.4, 0],
      [2, 0, 0],
    ]),
    { spacing: 0.1 },
  );
  line.pointData[POINT.roll] = Float32Array.from({ length: pointCount(line) }, (_, p) => 0.05 * p);
  line.pointData[POINT.radius] = Float32Array.from({ length: pointCount(line) }, (_, p) => 1 + 0.1 * p);
  const bodyOf = (curves: CurveSet, sign: 1 | -1) => {
    const { position } = sweep(curves, roundedBoxSection(3, 0.2, 2), {
      radius: curves.pointData[POINT.radius].map((share) => 0.02 * share) as Float32Array,
      roll: curves.pointData[POINT.roll] as Float32Array,
    });
    return Array.from({ length: position.length / 3 }, (_, v) => new Vector3().fromArray(position, 3 * v)).map((at) =>
      at.setX(sign * at.x),
    );
  };
  const body = bodyOf(line, 1);
  const mirrored = build('shape', 'mirror', { at: [0, 0, 0], keep: 'other' }, { input: line });
  for (const other of [bodyOf(reverseCurves(line), 1), bodyOf(mirrored, -1)])
    for (const vertex of other) expect(Math.min(...body.map((place) => place.distanceTo(vertex)))).toBeLessThan(1e-5);
});

it('repeat puts copies in a row and round an axis, each with a stable name', () => {
  const row = build('shape', 'repeat', { count: 4, step: [0, 0, 0.5] }, { input: wave() });
  expectPoint(endsOf(row, 3)[0], [0, 0, 1.5]);
  const round = build('shape', 'repeat', { way: 'round', count: 6, at: [0, 0, 0] }, { input: wave() });
  const ends = Array.from({ length: 6 }, (_, c) => endsOf(round, c)[1]);
  for (const end of ends) expect(Math.hypot(end[0], end[2])).toBeCloseTo(3, 6);
  for (let c = 0; c < 6; c++) {
    const [from, to] = [ends[c], ends[(c + 1) % 6]].map(([x, , z]) => Math.atan2(-z, x));
    expect((((to - from) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)).toBeCloseTo(Math.PI / 3, 6);
  }
  const more = build('shape', 'repeat', { count: 9, step: [0, 0, 0.5] }, { input: wave() });
  expect([...more.id].slice(0, 4)).toEqual([...row.id]);
  expect(new Set(more.id).size).toBe(9);
});

describe('slice', () => {
  it('of a round cable has the area of its polygon, of a coil only the turn that is cut, of two parts their gap', () => {
    const rails = resample(singleCurve([0, 0, 0, 2, 0, 0]), { spacing: 0.1 });
    const tube = (y: number, radius: number) => {
      const line = { ...rails, position: rails.position.map((value, i) => (i % 3 === 1 ? y : value)) };
      return {
        kind: 'mesh' as const,
        id: `tube ${y}`,
        name: 'a',
        slot: 'main',
        mesh: sweep(line, roundSection(24), { radius }),
      };
    };
    const one = sliceAt([tube(0, 0.05)], rails, 0.42, 0.1);
    // regular polygon of N corners: N/2·r²·sin(2π/N) (any geometry text)
    expect(one?.area).toBeCloseTo(12 * 0.0025 * Math.sin(Math.PI / 12), 8);
    expect(one?.width).toBeCloseTo(0.1, 6);
    expect(one?.gap).toBe(Infinity);
    expect(sliceAt([tube(0, 0.05), tube(0.13, 0.05)], rails, 0.3, 0.1)?.gap).toBeCloseTo(0.03, 4);
    expect(sliceAt([tube(0.5, 0.05)], rails, 0.3, 0.1)).toBeUndefined();
    // thicker than its piece says: it is the line's own all the same
    expect(sliceAt([tube(0.02, 0.3)], rails, 0.3, 0.1)?.height).toBeCloseTo(0.6, 6);
  });
});

describe('keep apart', () => {
  /** Least distance of any two lines' skins, by looking at every pair of segments. */
  const leastGap = (curves: CurveSet, radius: number): number => {
    const found: Approach = { s: 0, t: 0, distance: 0 };
    let least = Infinity;
    const { start, position } = curves;
    for (let c = 0; c < curveCount(curves); c++)
      for (let d = c + 1; d < curveCount(curves); d++)
        for (let p = start[c]; p < start[c + 1] - 1; p++)
          for (let q = start[d]; q < start[d + 1] - 1; q++) {
            nearestOnSegments(position, 3 * p, 3 * p + 3, 3 * q, 3 * q + 3, found);
            least = Math.min(least, found.distance - 2 * radius);
          }
    return least;
  };
  /** Radius of the circle through three samples that follow each other, where it is least. */
  const leastBend = ({ start, position }: CurveSet): number => {
    let least = Infinity;
    for (let c = 0; c + 1 < start.length; c++)
      for (let p = start[c]; p + 2 < start[c + 1]; p++) {
        const [a, b, d] = [0, 3, 6].map((at) => new Vector3().fromArray(position, 3 * p + at));
        const [ab, bd, ad] = [a.distanceTo(b), b.distanceTo(d), a.distanceTo(d)];
        const area = b.sub(a).cross(d.sub(a)).length() / 2;
        least = Math.min(least, (ab * bd * ad) / (4 * area));
      }
    return least;
  };
  /** Lines through one another like a dropped box of matches, ends apart. */
  const heap = (count: number, seed: number) => {
    const lines = allocateCurves(count, 2 * count);
    const random = (k: number) => Math.abs(Math.sin(12.9898 * (k + seed)) * 43758.5453) % 1;
    for (let c = 0; c < count; c++) {
      lines.start[c + 1] = 2 * (c + 1);
      lines.id[c] = c;
      const turn = (Math.PI * (c + 0.3 * random(c))) / count;
      const [x, z] = [0.6 * Math.cos(turn), 0.6 * Math.sin(turn)];
      lines.position.set([x, 0.004 * random(c + 50), z, -x, 0.004 * random(c + 90), -z], 6 * c);
    }
    return lines;
  };

  it('lines that cross just touch afterwards, ends where they were (every pair of segments looked at)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 7 }), fc.integer({ min: 0, max: 999 }), (count, seed) => {
        const input = heap(count, seed);
        const reported: string[] = [];
        const out = build('shape', 'keep-apart', { passes: 240 }, { input, reported, thickness: 0.01 });
        expect(reported).toEqual([]);
        expect(leastGap(input, 0.01)).toBeLessThan(0);
        expect(leastGap(out, 0.01)).toBeGreaterThan(-0.0004);
        if (count === 2) {
          // they touch, and bend aside instead of getting a dent
          expect(leastGap(out, 0.01)).toBeLessThan(0.0004);
          expect(leastBend(out)).toBeGreaterThan(0.1);
        }
        for (let c = 0; c < count; c++)
          endsOf(out, c).forEach((end, k) => {
            expectPoint(end, endsOf(input, c)[k], 9);
          });
      }),
      { numRuns: 8 },
    );
  });

  it('lines with room stay where they are; held ends that cannot part are reported with their place', () => {
    const row = build('shape', 'repeat', { count: 3, step: [0, 0, 0.2] }, { input: wave() });
    const out = build('shape', 'keep-apart', {}, { input: row });
    expect(curveLengths(out)[0]).toBeCloseTo(curveLengths(row)[0], 3);
    const touching = build('shape', 'repeat', { count: 2, step: [0, 0, 0.005] }, { input: wave() });
    const reported: string[] = [];
    build('shape', 'keep-apart', {}, { input: touching, reported });
    expect(reported).toEqual(['still-too-near']);
    build('shape', 'keep-apart', { held: 'none' }, { input: touching, reported });
    expect(reported).toEqual(['still-too-near']);
  });

  it('gives up when there is no room: thousands of passes are not made where a hundred changed nothing', () => {
    // two bars that cross and are held at both ends, each at the other's: nothing may move
    const crossed = heap(1, 2);
    crossed.position.set([0, 0, 0, 1, 0, 0]);
    const two = build('shape', 'repeat', { count: 2, step: [0, 0, 0.001] }, { input: crossed });
    let passes = 0;
    const left = separate(two, new Float64Array(4).fill(0.01), {
      gap: 0,
      passes: 2000,
      holdEnds: true,
      onPass: () => passes++,
    });
    expect(left?.missing).toBeCloseTo(0.019, 6);
    expect(passes).toBeLessThan(200);
  });

  it('ends at once where nothing is near, and leaves the points bit for bit', () => {
    const lines = heap(1, 3);
    const before = lines.position.slice();
    const radius = new Float64Array(2).fill(0.01);
    expect(separate(lines, radius, { gap: 0, passes: 5, holdEnds: true })).toBeUndefined();
    expect(lines.position).toEqual(before);
    expect(lines.pointData[POINT.along]).toBeUndefined();
  });

  describe('pushes apart, exactly', () => {
    /** Lines of a metre in steps of half a radius. */
    const lines = (...ends: (readonly [Place, Place])[]) =>
      resample(joinCurves(ends.map(([a, b], id) => singleCurve([...a, ...b], { id }))), { spacing: 0.005 });
    const thick = (curves: CurveSet) => new Float64Array(curves.position.length / 3).fill(0.01);
    const free = { gap: 0, passes: 400, holdEnds: false };
    /** What is still missing at the worst place, as a share. */
    const lacking = (left: ReturnType<typeof separate>) => (left ? left.missing / left.wanted : 0);
    const heights = ({ position, start }: CurveSet, c: number) =>
      Array.from(position.subarray(3 * start[c], 3 * start[c + 1])).filter((_, i) => i % 3 === 1);

    it('two lines that cross in one place at right angles to both, to both sides alike', () => {
      const two = lines(
        [
          [-0.5, 0, 0],
          [0.5, 0, 0],
        ],
        [
          [0, 0, -0.5],
          [0, 0, 0.5],
        ],
      );
      const before = two.position.slice();
      expect(lacking(separate(two, thick(two), free))).toBeLessThan(1e-3);
      // neither moves along itself by more than half of what it bends aside
      before.forEach((value, i) => {
        if (i % 3 !== 1) expect(Math.abs(two.position[i] - value)).toBeLessThan(0.005);
      });
      const [a, b] = [heights(two, 0), heights(two, 1)];
      const far = (list: number[]) => list.reduce((most, y) => (Math.abs(y) > Math.abs(most) ? y : most), 0);
      expect(far(a)).toBeCloseTo(-far(b), 4);
      expect(Math.abs(far(a))).toBeGreaterThan(0.0099);
      expect(Math.abs(far(a))).toBeLessThan(0.011);
      expect(a[0]).toBe(0);
    });

    it('a line that lies on another one across it, all along', () => {
      const ends = [
        [-0.5, 0, 0],
        [0.5, 0, 0],
      ] as const;
      const two = lines(ends, ends);
      expect(lacking(separate(two, thick(two), free))).toBeLessThan(1e-3);
      const count = two.start[1];
      for (let p = 0; p < count; p++) {
        const [x, y, z] = [0, 1, 2].map((n) => two.position[3 * p + n] - two.position[3 * (count + p) + n]);
        expect(Math.hypot(y, z)).toBeGreaterThan(0.019);
        expect(x).toBeCloseTo(0, 4);
      }
    });

    it('a line off a prop, straight up, by its radius and the gap; what has no room is reported with the prop', () => {
      const floor = Surface.of({
        position: Float32Array.of(-5, 0, -5, -5, 0, 5, 5, 0, 5, 5, 0, -5),
        index: Uint32Array.of(0, 1, 2, 0, 2, 3),
      });
      const surroundings = new Surroundings(new Map([['floor', floor]]));
      const one = lines([
        [-0.5, 0.004, 0.3],
        [0.5, 0.004, 0.3],
      ]);
      const left = separate(one, thick(one), { ...free, gap: 0.005, passes: 0, surroundings });
      expect(left).toMatchObject({ with: 'prop', missing: expect.closeTo(0.011, 9), wanted: expect.closeTo(0.015, 9) });
      expect(left?.place.slice(1)).toEqual([0.004, 0.3]);
      expect(lacking(separate(one, thick(one), { ...free, gap: 0.005, surroundings }))).toBeLessThan(1e-3);
      for (const y of heights(one, 0)) expect(y).toBeCloseTo(0.015, 3);
      one.position.forEach((value, i) => {
        if (i % 3 === 2) expect(value).toBeCloseTo(0.3, 9);
      });
      // held ends stay where they are, and nothing is pushed that has its distance
      const held = lines(
        [
          [-0.5, 0.004, 0],
          [0.5, 0.004, 0],
        ],
        [
          [-0.5, 0.5, 2],
          [0.5, 0.5, 2],
        ],
      );
      separate(held, thick(held), { ...free, holdEnds: true, surroundings });
      const [low, high] = [heights(held, 0), heights(held, 1)];
      expect([low[0], low[low.length - 1]]).toEqual([0.004, 0.004]);
      expect(low[low.length >> 1]).toBeCloseTo(0.01, 3);
      for (const y of high) expect(y).toBe(0.5);
    });
  });
});
