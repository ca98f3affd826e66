import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bendRadii } from '../src/curve/bend.js';
import { checkCurves, POINT } from '../src/curve/curve-set.js';
import { smoothCurves } from '../src/curve/smooth.js';
import {
  type CurveSet,
  curveLengths,
  type KelpError,
  pointCount,
  resample,
  rotationMinimizingFrames,
  simplify,
  singleCurve,
} from '../src/index.js';
import { circle, drawn, totalLength } from './helpers.js';

const coordinate = fc.integer({ min: -100, max: 100 }).map((value) => value / 100);

/** Steps of one drawn span that turn back on the step before: a cusp. */
function cusps({ position }: CurveSet, from: number, to: number): number {
  let count = 0;
  for (let p = from + 1; p < to; p++) {
    let dot = 0;
    for (let axis = 0; axis < 2; axis++)
      dot +=
        (position[3 * p + axis] - position[3 * p - 3 + axis]) * (position[3 * p + 3 + axis] - position[3 * p + axis]);
    if (dot < 0) count++;
  }
  return count;
}

/** Whether two of the steps between points `from` and `to` cross in the plane z = 0. */
function crosses({ position: p }: CurveSet, from: number, to: number): boolean {
  const side = (a: number, b: number, c: number) =>
    (p[3 * b] - p[3 * a]) * (p[3 * c + 1] - p[3 * a + 1]) - (p[3 * b + 1] - p[3 * a + 1]) * (p[3 * c] - p[3 * a]);
  for (let i = from; i < to; i++)
    for (let j = i + 2; j < to; j++)
      if (side(i, i + 1, j) * side(i, i + 1, j + 1) < 0 && side(j, j + 1, i) * side(j, j + 1, i + 1) < 0) return true;
  return false;
}

describe('centripetal Catmull-Rom', () => {
  it('passes through every point and has no cusp and no loop inside a span (Yuksel et al., CAD 43, 2011)', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(coordinate, coordinate), { minLength: 4, maxLength: 8 }), (points) => {
        fc.pre(points.every((p, i) => i === 0 || Math.hypot(p[0] - points[i - 1][0], p[1] - points[i - 1][1]) > 0.01));
        const curve = drawn(points.map(([x, y]) => [x, y, 0]));
        const knots = [...curve.pointData[POINT.source].keys()].filter((p) => curve.pointData[POINT.source][p] >= 0);
        expect(knots).toHaveLength(points.length);
        knots.forEach((p, i) => {
          expect(
            Math.hypot(curve.position[3 * p] - points[i][0], curve.position[3 * p + 1] - points[i][1]),
          ).toBeLessThan(1e-9);
          if (i === 0) return;
          expect(crosses(curve, knots[i - 1], p)).toBe(false);
          expect(cusps(curve, knots[i - 1], p)).toBe(0);
        });
      }),
    );
  });

  it('ends a smooth run at a corner, whose neighbours do not feel what is beyond', () => {
    const corner = Uint8Array.of(0, 1, 0);
    const curve = drawn(
      [
        [0, 0, 0],
        [1, 0, 0],
        [1, 1, 0],
      ],
      { corner },
    );
    for (let p = 0; p <= 16; p++) expect(curve.position[3 * p + 1]).toBeCloseTo(0, 12);
  });

  it('passes over points in one place, and gives no curve when there is only one place', () => {
    expect(
      drawn([
        [0, 0, 0],
        [0, 0, 0],
      ]).closed,
    ).toHaveLength(0);
    expect(
      drawn([
        [0, 0, 0],
        [0, 0, 0],
        [1, 0, 0],
        [1, 0, 0],
      ]).position.every(Number.isFinite),
    ).toBe(true);
  });
});

describe('resample', () => {
  it('keeps spacing and turn within what was asked, and the length', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 3, maxLength: 6 }),
        fc.boolean(),
        (points, closed) => {
          fc.pre(
            points.every((p, i) =>
              points.every((q, j) => i === j || Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) > 0.1),
            ),
          );
          const source = drawn(points, { closed });
          const fine = resample(source, { spacing: 0.05, maxTurn: 0.2 });
          expect(curveLengths(fine)[0] / curveLengths(source)[0]).toBeCloseTo(1, 4);
          const count = pointCount(fine);
          for (let p = 0; p + 1 < count; p++) {
            const step = Math.hypot(
              ...[0, 1, 2].map((axis) => fine.position[3 * p + 3 + axis] - fine.position[3 * p + axis]),
            );
            expect(step).toBeLessThan(0.0505);
          }
        },
      ),
      { numRuns: 50 },
    );
  });

  it('finds the radius of a circle again, from as many steps as were asked', () => {
    const ring = resample(circle(0.3, 64), { steps: 50 });
    expect(pointCount(ring)).toBe(50);
    for (const radius of bendRadii(ring, 0.05)) expect(radius).toBeCloseTo(0.3, 3);
  });
});

it('a closed line whose section turns once round turns on over its seam, in steps as small as asked; a step leaves it by no more than asked', () => {
  const round = circle(0.5, 40);
  const turning = Float32Array.from({ length: 40 }, (_, k) => (2 * Math.PI * k) / 40);
  const line = { ...round, pointData: { ...round.pointData, [POINT.roll]: turning } };
  const out = resample(line, { maxRoll: 0.1 });
  const roll = out.pointData[POINT.roll];
  expect(pointCount(out)).toBeGreaterThanOrEqual(63);
  expect(pointCount(out)).toBeLessThan(70);
  roll.forEach((value, p) => {
    const by = roll[(p + 1) % roll.length] - value;
    expect(Math.abs(by - 2 * Math.PI * Math.round(by / (2 * Math.PI)))).toBeLessThan(0.11);
  });
  // a circle of radius r in n steps leaves them by r·(1 − cos(π/n))
  for (const maxSag of [0.01, 0.001, 0.0001]) {
    const sag = 0.5 * (1 - Math.cos(Math.PI / pointCount(resample(circle(0.5, 400), { maxSag }))));
    expect(sag / maxSag).toBeGreaterThan(0.8);
    expect(sag / maxSag).toBeLessThan(1.02);
  }
});

it('a section that was turned stays so in space when its line is sampled anew, though the frames of rough lines drift', () => {
  const leg = fc.tuple(coordinate, coordinate, fc.constantFrom(0.4, 0.8));
  fc.assert(
    fc.property(fc.array(leg, { minLength: 10, maxLength: 40 }), (legs) => {
      const points = [[0, 0, 0]];
      for (const way of legs)
        for (let k = 0; k < 10; k++)
          points.push(points[points.length - 1].map((value, n) => value + (0.1 * way[n]) / Math.hypot(...way)));
      const line = singleCurve(points.flat(), { smooth: true });
      const roll = new Float32Array(points.length).fill(0.4);
      const from = { ...line, pointData: { ...line.pointData, [POINT.roll]: roll } };
      const to = resample(from, { maxTurn: 0.1 });
      const [before, after, way] = [upsOf(from), upsOf(to), rotationMinimizingFrames(to).tangent].map((all) =>
        all.slice(-3),
      );
      // the end may point a little elsewhere: what counts is the turn about it
      const dot = (a: ArrayLike<number>, b: ArrayLike<number>) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
      const across = Math.sqrt(1 - dot(before, way) ** 2);
      expect(dot(before, after) / across).toBeGreaterThan(Math.cos(0.01));
    }),
  );
});

/** Which way the section looks at each point. */
function upsOf(curves: CurveSet): Float64Array {
  const { tangent, normal } = rotationMinimizingFrames(curves);
  return normal.map((value, i) => {
    const [k, n] = [i - (i % 3), i % 3];
    const [a, b] = [k + ((n + 1) % 3), k + ((n + 2) % 3)];
    const roll = curves.pointData[POINT.roll][k / 3];
    return Math.cos(roll) * value + Math.sin(roll) * (tangent[a] * normal[b] - tangent[b] * normal[a]);
  });
}

it('smoothing a closed line is the same wherever its points begin, and passes through its corners', () => {
  const count = 120;
  const ring = (begin: number, corners: readonly number[]) => {
    const curve = singleCurve(
      Array.from({ length: count }, (_, k) => {
        const angle = (2 * Math.PI * (k + begin)) / count;
        const far = 1 + 0.05 * Math.cos(20 * angle);
        return [far * Math.cos(angle), 0, far * Math.sin(angle)];
      }).flat(),
      { closed: true },
    );
    const corner = new Float32Array(count);
    for (const at of corners) corner[(at - begin + count) % count] = 1;
    return { ...curve, pointData: { [POINT.corner]: corner } };
  };
  const place = fc.integer({ min: 0, max: count - 1 });
  fc.assert(
    fc.property(place, fc.uniqueArray(place, { maxLength: 3 }), (begin, corners) => {
      const [here, there] = [0, begin].map((first) =>
        smoothCurves(ring(first, corners), { over: 0.15, hold: 'corners' }),
      );
      for (let k = 0; k < count; k++) {
        const at = (k + begin) % count;
        for (let n = 0; n < 3; n++) expect(there.position[3 * k + n]).toBeCloseTo(here.position[3 * at + n], 9);
        const far = Math.hypot(here.position[3 * k], here.position[3 * k + 2]);
        // its ripples are gone, but where a corner holds it
        const free = corners.every((corner) => Math.min(Math.abs(corner - k), count - Math.abs(corner - k)) > 10);
        if (free) expect(Math.abs(far - 0.985)).toBeLessThan(0.02);
        if (corners.includes(k)) expect(far).toBeCloseTo(1 + 0.05 * Math.cos((20 * 2 * Math.PI * k) / count), 9);
      }
    }),
  );
});

it('smoothing holds the ends, straightens what wobbles and leaves a straight line alone', () => {
  const wobble = singleCurve(
    Float64Array.from({ length: 300 }, (_, i) =>
      i % 3 === 0 ? i / 300 : i % 3 === 1 ? 0.02 * Math.sin((20 * Math.PI * Math.floor(i / 3)) / 99) : 0,
    ),
  );
  const smooth = smoothCurves(wobble, { over: 0.05 });
  expect([...smooth.position.subarray(0, 3)]).toEqual([...wobble.position.subarray(0, 3)]);
  expect([...smooth.position.subarray(297)]).toEqual([...wobble.position.subarray(297)]);
  const height = (position: Float64Array) =>
    position.filter((_, i) => i % 3 === 1).reduce((most, y) => Math.max(most, Math.abs(y)), 0);
  expect(height(smooth.position)).toBeLessThan(0.3 * height(wobble.position));
});

it('simplify keeps every point of the original within the tolerance (Douglas and Peucker 1973)', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 2, maxLength: 60 }), (points) => {
      const kept = simplify(points.flat(), 0.15);
      expect(kept[0]).toBe(0);
      expect(kept[kept.length - 1]).toBe(points.length - 1);
      for (let k = 1; k < kept.length; k++)
        for (let i = kept[k - 1] + 1; i < kept[k]; i++) {
          const [a, b, p] = [points[kept[k - 1]], points[kept[k]], points[i]];
          const size = b.reduce((sum, value, axis) => sum + (value - a[axis]) ** 2, 0);
          const t =
            size > 0
              ? Math.max(
                  0,
                  Math.min(1, b.reduce((sum, value, axis) => sum + (value - a[axis]) * (p[axis] - a[axis]), 0) / size),
                )
              : 0;
          expect(Math.hypot(...p.map((value, axis) => value - a[axis] - t * (b[axis] - a[axis])))).toBeLessThan(
            0.15 + 1e-9,
          );
        }
    }),
  );
});

it.each([
  ['NaN', singleCurve([0, 0, 0, 1, Number.NaN, 0]), 'BAD_NUMBER', 'Point 1 has NaN for y'],
  ['infinite', singleCurve([0, 0, Number.POSITIVE_INFINITY, 1, 0, 0]), 'BAD_NUMBER', 'Point 0 has Infinity for z'],
  ['one point', singleCurve([0, 0, 0]), 'TOO_FEW_POINTS', 'Curve 0 has 1 points'],
])('a curve with %s is refused with its place', (_name, curve, code, text) => {
  const error = (() => {
    try {
      checkCurves(curve);
    } catch (thrown) {
      return thrown as KelpError;
    }
    return undefined;
  })();
  expect(error?.code).toBe(code);
  expect(error?.message).toContain(text);
});

it('an L of two metres that nobody marked is two metres, and keeps its corner', () => {
  const corner = singleCurve([0, 0, 0, 1, 0, 0, 1, 1, 0]);
  expect(totalLength(corner)).toBe(2);
  const fine = resample(corner, { spacing: 0.07 });
  expect(fine.curveData['length'][0]).toBeCloseTo(2, 6);
  for (let i = 0; i < fine.position.length; i += 3) {
    const [x, y] = fine.position.subarray(i, i + 2);
    expect(Math.min(Math.hypot(y, Math.max(0, x - 1)), Math.hypot(x - 1, Math.max(0, y - 1)))).toBeLessThan(1e-12);
  }
  // a bend below 20° is a smooth line's
  expect(singleCurve([0, 0, 0, 1, 0, 0, 2, 0.35, 0]).pointData['corner']).toBeUndefined();
});
