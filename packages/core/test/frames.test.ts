import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { curveLengths, resample, rotationMinimizingFrames, singleCurve } from '../src/index.js';
import { drawn, evenly, helix } from './helpers.js';

/** Angle of the frame's normal against the helix's own normal (towards the axis), radians, continued over turns. */
function turnAgainstFrenet(radius: number, pitch: number, turns: number, steps: number): number {
  const { curve, tangent } = helix(radius, pitch, turns, steps);
  const start: [number, number, number] = [-1, 0, 0];
  const { normal } = rotationMinimizingFrames(curve, { tangent, startDirection: start });
  let total = 0;
  let before = 0;
  for (let i = 0; i <= steps; i++) {
    const t = (2 * Math.PI * turns * i) / steps;
    const [nx, , nz] = [-Math.cos(t), 0, Math.sin(t)];
    const [tx, ty, tz] = tangent.subarray(3 * i, 3 * i + 3);
    const [bx, by, bz] = [ty * nz, tz * nx - tx * nz, -ty * nx];
    const [x, y, z] = normal.subarray(3 * i, 3 * i + 3);
    const angle = Math.atan2(x * bx + y * by + z * bz, x * nx + z * nz);
    total += Math.atan2(Math.sin(angle - before), Math.cos(angle - before));
    before = angle;
  }
  return total;
}

type Place = readonly [number, number, number];
const minus = (a: Place, b: Place): Place => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dotOf = (a: Place, b: Place): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const crossOf = (a: Place, b: Place): Place => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const unit = (a: Place): Place => {
  const size = Math.hypot(...a) || 1;
  return [a[0] / size, a[1] / size, a[2] / size];
};
const placeOf = (list: ArrayLike<number>, i: number): Place => [list[3 * i], list[3 * i + 1], list[3 * i + 2]];

/** Writhe of a closed polygon: the solid angles of all pairs of edges (Klenin & Langowski, Biopolymers 54, 2000, method 1a). */
function writheOf(points: ArrayLike<number>): number {
  const count = points.length / 3;
  let sum = 0;
  for (let i = 0; i < count; i++)
    for (let j = i + 2; j < count; j++) {
      const [p1, p2, p3, p4] = [i, i + 1, j, (j + 1) % count].map((k) => placeOf(points, k));
      if (i === 0 && j === count - 1) continue;
      const [r13, r14, r23, r24] = [minus(p3, p1), minus(p4, p1), minus(p3, p2), minus(p4, p2)];
      const faces = [crossOf(r13, r14), crossOf(r14, r24), crossOf(r24, r23), crossOf(r23, r13)].map(unit);
      const angle = faces.reduce(
        (all, face, k) => all + Math.asin(Math.max(-1, Math.min(1, dotOf(face, faces[(k + 1) % 4])))),
        0,
      );
      sum += angle * Math.sign(dotOf(crossOf(minus(p4, p3), minus(p2, p1)), r13));
    }
  return sum / (2 * Math.PI);
}

/** Turns of a frame about its closed curve, against being carried along without turning. */
function twistOf(tangent: Float64Array, normal: Float64Array): number {
  const count = normal.length / 3;
  let sum = 0;
  for (let i = 0; i < count; i++) {
    const [t, u] = [placeOf(tangent, i), placeOf(tangent, (i + 1) % count)];
    const [n, m] = [placeOf(normal, i), placeOf(normal, (i + 1) % count)];
    // the least turn from one tangent to the next, applied to the normal
    const axis = crossOf(t, u);
    const along = dotOf(axis, n) / (1 + dotOf(t, u));
    const turn = crossOf(axis, n);
    const carried: Place = [0, 1, 2].map((k) => dotOf(t, u) * n[k] + turn[k] + along * axis[k]) as never;
    sum += Math.atan2(dotOf(crossOf(carried, m), u), dotOf(carried, m));
  }
  return sum / (2 * Math.PI);
}

describe('rotation-minimizing frames', () => {
  it('turn back against the Frenet frame by the integral of the torsion (Bishop, Amer. Math. Monthly 82, 1975)', () => {
    // helix R 0.05, height 0.4, 8 turns: τ = c/(R² + c²), length √((2πRn)² + h²)
    const [radius, pitch, turns] = [0.05, 0.05, 8];
    const c = pitch / (2 * Math.PI);
    const torsion = c / (radius ** 2 + c ** 2);
    const length = Math.hypot(2 * Math.PI * radius * turns, pitch * turns);
    expect(torsion).toBeCloseTo(3.104462, 5);
    expect(length).toBeCloseTo(2.544906, 5);
    expect(turnAgainstFrenet(radius, pitch, turns, 1600)).toBeCloseTo(-torsion * length, 5);
  });

  it('double reflection is of fourth order: half the step, a sixteenth of the error (Wang et al., TOG 27(1), 2008)', () => {
    const c = 0.5 / (2 * Math.PI);
    const exact = -(c / (1 + c ** 2)) * Math.hypot(2 * Math.PI * 2, 0.5 * 2);
    const error = (steps: number) => Math.abs(turnAgainstFrenet(1, 0.5, 2, steps) - exact);
    const order = Math.log2(error(40) / error(80));
    expect(order).toBeGreaterThan(3.8);
    expect(order).toBeLessThan(4.2);
  });

  it('begin upright on lines up to 60° steep, and on both sides of plumb the same way', () => {
    const beginning = (x: number, y: number, z: number) =>
      rotationMinimizingFrames(singleCurve([0, 0, 0, x, y, z])).normal.slice(0, 3);
    const angle = evenly(0, 2 * Math.PI);
    fc.assert(
      fc.property(angle, evenly(-1.7, 1.7), angle, (turn, rise, other) => {
        const [x, y, z] = beginning(Math.cos(turn), rise, Math.sin(turn));
        // the steepest way up of all that are square to the line
        expect(y).toBeCloseTo(1 / Math.hypot(1, rise), 9);
        expect(x * Math.sin(turn) - z * Math.cos(turn)).toBeCloseTo(0, 9);
        // drops that lean by 2 %, in any two directions
        const drops = [turn, other].map((way) => beginning(0.02 * Math.cos(way), -1, 0.02 * Math.sin(way)));
        expect(drops[0][0] * drops[1][0] + drops[0][1] * drops[1][1] + drops[0][2] * drops[1][2]).toBeGreaterThan(
          0.995,
        );
      }),
    );
  });

  it('stay unit and perpendicular, and meet at the seam of any closed curve', () => {
    const coordinate = fc.integer({ min: -100, max: 100 }).map((value) => value / 100);
    fc.assert(
      fc.property(fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 4, maxLength: 7 }), (points) => {
        const spread = points.every((p, i) =>
          points.every((q, j) => i === j || Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) > 0.1),
        );
        fc.pre(spread);
        const curve = resample(drawn(points, { closed: true }), { spacing: 0.02, maxTurn: 0.05 });
        const { tangent, normal } = rotationMinimizingFrames(curve);
        const count = normal.length / 3;
        for (let p = 0; p < count; p++) {
          const q = (p + 1) % count;
          const dot = (a: Float64Array, i: number, b: Float64Array, j: number) =>
            a[3 * i] * b[3 * j] + a[3 * i + 1] * b[3 * j + 1] + a[3 * i + 2] * b[3 * j + 2];
          expect(dot(normal, p, normal, p)).toBeCloseTo(1, 9);
          expect(Math.abs(dot(normal, p, tangent, p))).toBeLessThan(1e-9);
          // no snap anywhere, the seam included: a step turns the frame by little more than the curve itself
          expect(dot(normal, p, normal, q)).toBeGreaterThan(0.9);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('of closed curves link with them a whole number of times: Lk = Tw + Wr (Calugareanu, White, Fuller)', () => {
    // closed helix round a ring, as a knotted rope runs: its own writhe is far from whole
    const number = (min: number, max: number) => evenly(min, max);
    fc.assert(
      fc.property(fc.constantFrom(1, 2, 3, 4), number(0.15, 0.5), number(0.3, 1), (turns, wide, high) => {
        const points = Array.from({ length: 16 * turns + 8 }, (_, i, all = 16 * turns + 8) => {
          const t = (2 * Math.PI * i) / all;
          const r = 1 + wide * Math.cos(turns * t);
          return [r * Math.cos(t), high * Math.sin(turns * t) + 0.1 * Math.sin(t), r * Math.sin(t)] as const;
        });
        const curve = resample(drawn(points, { closed: true }), { spacing: 0.03 });
        const { tangent, normal } = rotationMinimizingFrames(curve);
        const link = twistOf(tangent, normal) + writheOf(curve.position);
        expect(Math.abs(link - Math.round(link))).toBeLessThan(0.005);
        // and no more than that: the seam is met with less than half a turn, as exactly as the link came out whole
        expect(Math.abs(twistOf(tangent, normal))).toBeLessThan(0.5 + Math.abs(link - Math.round(link)) + 1e-9);
      }),
      { numRuns: 15 },
    );
  });
});

it('length of a sampled helix: √((2πRn)² + h²)', () => {
  const { curve, length } = helix(0.05, 0.05, 8, 400);
  expect(curveLengths(curve)[0] / length).toBeCloseTo(1, 6);
});
