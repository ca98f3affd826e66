import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { curveLengths, resample, rotationMinimizingFrames, singleCurve } from '../src/index.js';
import { drawn, helix } from './helpers.js';

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
    const angle = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true });
    fc.assert(
      fc.property(angle, fc.double({ min: -1.7, max: 1.7, noNaN: true }), angle, (turn, rise, other) => {
        const [x, y, z] = beginning(Math.cos(turn), rise, Math.sin(turn));
        // the steepest way up of all that stand square to the line
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
});

it('length of a sampled helix: √((2πRn)² + h²)', () => {
  const { curve, length } = helix(0.05, 0.05, 8, 400);
  expect(curveLengths(curve)[0] / length).toBeCloseTo(1, 6);
});
