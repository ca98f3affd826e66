import { describe, expect, it } from 'vitest';
import { curveLengths } from '../src/curve/arc-length.js';
import { POINT } from '../src/curve/curve-set.js';
import { newUse, singleCurve } from '../src/index.js';
import type { Cable } from '../src/make/cable/course.js';
import { rowOf, strandSpacing, strandsIn } from '../src/make/cable/strands.js';
import { childId } from '../src/numeric/random.js';

// Where the cables of a bundle run, along a straight line from (0, 0, 0) to (2, 0, 0), by the formulas by hand.

const LENGTH = 2;
const RADIUS = 0.01;
const straight = singleCurve([0, 0, 0, LENGTH, 0, 0]);
const numbers = (set: Partial<Cable>) =>
  ({ ...newUse('make', 'cable').parameters, fans: 'none', uneven: 0, ...set }) as Cable;
const row = rowOf('flat', 3);
const run = (set: Partial<Cable>, every = 0, line = straight) =>
  strandsIn(line, row, numbers(set), RADIUS, every, RADIUS);
/** Far along, up and aside of each point of cable k. */
function points({ lines }: ReturnType<typeof run>, k: number): { x: number; y: number; z: number }[] {
  return Array.from({ length: lines.start[k + 1] - lines.start[k] }, (_, i) => {
    const [x, y, z] = lines.position.subarray(3 * (lines.start[k] + i), 3 * (lines.start[k] + i) + 3);
    return { x, y, z };
  });
}

it('rows: one alone in the middle, flat ones side by side, round ones as near as they can be', () => {
  for (const [lay, count] of [
    ['one', 5],
    ['flat', 1],
    ['round', 1],
  ] as const)
    expect(rowOf(lay, count)).toEqual({ x: Float64Array.of(0), y: Float64Array.of(0), high: 1, wide: 1 });
  expect([[...row.x], [...row.y], row.high, row.wide]).toEqual([[0, 0, 0], [-2.02, 0, 2.02], 1, 3.02]);
  // seven circles in one: three radii (Graham 1968)
  const seven = rowOf('round', 7);
  expect(seven.high).toBeCloseTo(3, 3);
  for (let a = 0; a < 7; a++)
    for (let b = 0; b < a; b++)
      expect(Math.hypot(seven.x[a] - seven.x[b], seven.y[a] - seven.y[b])).toBeGreaterThan(2.019);
});

describe('cables side by side', () => {
  it('keep their places, turned as the line is rolled, and are known by their line and number', () => {
    const roll = {
      ease: 'straight' as const,
      knots: [
        { at: 0, value: 0 },
        { at: 1, value: 2 },
      ],
    };
    const turned = {
      ...straight,
      pointData: {
        ...straight.pointData,
        [POINT.roll]: Float32Array.of(0.5, 0.5),
        [POINT.radius]: Float32Array.of(1, 3),
      },
    };
    const out = run({ roll }, 0, turned);
    expect([...out.lines.id]).toEqual([0, 1, 2].map((k) => childId(straight.id[0], k)));
    for (let k = 0; k < 3; k++)
      for (const { x, y, z } of points(out, k)) {
        const t = x / LENGTH;
        const aside = 2.02 * (k - 1) * RADIUS * (1 + 2 * t);
        const angle = 2 * t + 0.5;
        expect([y, z]).toEqual([
          expect.closeTo(-aside * Math.sin(angle), 6),
          expect.closeTo(aside * Math.cos(angle), 6),
        ]);
      }
    expect(strandsIn(straight, rowOf('one', 3), numbers({}), RADIUS, 0, RADIUS).lines.id).toEqual(straight.id);
  });

  it('lie together under ties, and between them as loose as is asked, some more, some less', () => {
    const loose = 0.4;
    const apart = points(run({ ties: 20, loose }, 0.2), 2).map(({ x, y, z }) => ({
      x,
      by: Math.hypot(y, z) / (2.02 * RADIUS),
    }));
    const most = new Map<number, number>();
    for (const { x, by } of apart) {
      const span = Math.floor(x / 0.2);
      const off = Math.abs(x - 0.2 * Math.round(x / 0.2));
      if (off < 0.9 * RADIUS) expect(by).toBeCloseTo(1, 9);
      expect(by).toBeLessThanOrEqual(1 + 1.5 * loose);
      most.set(span, Math.max(most.get(span) ?? 0, by));
    }
    const widest = [...most.values()].slice(0, 10).map((by) => (by - 1) / loose);
    expect(Math.min(...widest)).toBeGreaterThan(0.4);
    expect(Math.max(...widest) - Math.min(...widest)).toBeGreaterThan(0.2);
    expect(points(run({ ties: 20, loose: 0 }, 0.2), 2).every(({ z }) => Math.abs(z - 2.02 * RADIUS) < 1e-9)).toBe(true);
  });

  it('fan out at the ends that are asked for, over as far as is asked', () => {
    const over = 16 * RADIUS;
    for (const [fans, start, end] of [
      ['start', 4, 1],
      ['end', 1, 4],
      ['both', 4, 4],
      ['none', 1, 1],
    ] as const) {
      const out = points(run({ fans, fan: 3, fanOver: 16 }), 0);
      const apart = out.map(({ z }) => -z / (2.02 * RADIUS));
      expect([apart[0], apart.at(-1)]).toEqual([expect.closeTo(start, 9), expect.closeTo(end, 9)]);
      out.forEach(({ x }, i) => {
        const near = Math.min(start > 1 ? x : Infinity, end > 1 ? LENGTH - x : Infinity);
        const t = Math.max(0, 1 - near / over);
        expect(apart[i]).toBeCloseTo(1 + 3 * t * t * (1.5 - 0.5 * t), 5);
      });
    }
    // a fan has ten steps at least, and what is tied loosely as many from tie to tie
    expect(strandSpacing(numbers({ fans: 'end', fanOver: 16 }), row, RADIUS)).toBeCloseTo(over / 10, 12);
    expect(strandSpacing(numbers({ fans: 'none', ties: 5, loose: 1 }), row, RADIUS)).toBeCloseTo((5 * RADIUS) / 10, 12);
    expect(strandSpacing(numbers({ fans: 'start', fanOver: 2, ties: 5, loose: 1 }), row, RADIUS)).toBeCloseTo(
      (2 * RADIUS) / 10,
      12,
    );
    for (const set of [{}, { ties: 5, loose: 0 }, { ties: 0, loose: 1 }])
      expect(strandSpacing(numbers({ ties: 0, loose: 0, ...set }), row, RADIUS)).toBeUndefined();
  });

  it('end unevenly where they fan out: sooner on their own line, no more than asked, and elsewhere as they were', () => {
    const even = run({ fans: 'end', fan: 0 });
    const out = run({ fans: 'end', fan: 0, uneven: 12 });
    const lengths = [...curveLengths(out.lines)];
    for (let k = 0; k < 3; k++) {
      const [had, has] = [points(even, k), points(out, k)];
      const sooner = LENGTH - has.at(-1)!.x;
      expect(sooner).toBeGreaterThanOrEqual(0);
      expect(sooner).toBeLessThanOrEqual(12 * RADIUS);
      expect(lengths[k]).toBeCloseTo(LENGTH - sooner, 6);
      has.forEach((place, i) => {
        // along a straight line it stays on it, in its order; further off the end than three times as much nothing moves
        expect(place.z).toBeCloseTo(had[i].z, 9);
        if (i > 0) expect(place.x).toBeGreaterThan(has[i - 1].x);
        if (LENGTH - had[i].x > 3 * sooner + 1e-9) expect(place.x).toBeCloseTo(had[i].x, 9);
        else expect(LENGTH - place.x).toBeCloseTo(sooner + ((LENGTH - had[i].x) * 2) / 3, 6);
      });
    }
    expect(new Set(lengths.map((length) => length.toFixed(6))).size).toBe(3);
    // at both ends each by its own
    const both = run({ fans: 'both', fan: 0, uneven: 12 });
    for (let k = 0; k < 3; k++) {
      const has = points(both, k);
      expect(has[0].x).toBeGreaterThan(0);
      expect(has.at(-1)!.x).toBeCloseTo(points(out, k).at(-1)!.x, 9);
    }
    expect([...run({ uneven: 12 }).lines.position]).toEqual([...run({}).lines.position]);
    // no more than six tenths of the half of a short one is given
    const short = singleCurve([0, 0, 0, 0.05, 0, 0]);
    for (let k = 0; k < 3; k++)
      expect(points(run({ fans: 'end', fan: 0, fanOver: 1, uneven: 100 }, 0, short), k).at(-1)!.x).toBeCloseTo(
        0.05 - 0.3 * 0.05,
        6,
      );
  });
});
