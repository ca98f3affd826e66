import fc from 'fast-check';
import { MathUtils, Vector3 } from 'three';
import { expect, it } from 'vitest';
import { measureEdges, writeLengths } from '../src/curve/arc-length.js';
import { joinCurves } from '../src/curve/carry.js';
import { CURVE } from '../src/curve/curve-set.js';
import { type CurveSet, curveCount, curveLengths, POINT, pointCount, singleCurve } from '../src/index.js';
import type { Lane } from '../src/numeric/lane.js';
import { swayByKernel } from '../src/shape/sway/kernel.js';
import { type Sway, swayLines } from '../src/shape/sway/sway.js';
import { drawn, evenly } from './helpers.js';
import { build } from './units.js';

/**
 * Lines of steps in whole millimetres, each turned against the one before by whole degrees: as smooth or as sharp as may
 * be, but not within two degrees of where a bend becomes a corner, which rounding alone would decide.
 */
const line = fc
  .array(
    fc.record({
      size: fc.integer({ min: 20, max: 200 }),
      turn: fc.oneof(
        fc.integer({ min: 0, max: 17 }),
        fc.integer({ min: 23, max: 37 }),
        fc.integer({ min: 43, max: 75 }),
      ),
      roll: fc.integer({ min: 0, max: 359 }),
    }),
    { minLength: 1, maxLength: 20 },
  )
  .map((steps) => {
    const place = new Vector3();
    const way = new Vector3(1, 0, 0);
    const side = new Vector3(0, 1, 0);
    const places = steps.map(({ size, turn, roll }) => {
      side.applyAxisAngle(way, MathUtils.degToRad(roll));
      way.applyAxisAngle(side, MathUtils.degToRad(turn));
      return place.addScaledVector(way, size / 1000).toArray();
    });
    return singleCurve(Float64Array.from([0, 0, 0, ...places.flat()]), { smooth: true });
  });
const lane: Lane = {
  knots: [
    { at: 0, value: 0 },
    { at: 0.6, value: 0.2 },
  ],
  ease: 'smooth',
};
const swayed: fc.Arbitrary<Sway> = fc.record({
  period: fc.double({ min: 0.05, max: 5, noNaN: true }),
  size: fc.oneof(evenly(0, 0.3), fc.constant(lane)),
  factor: fc.constantFrom(0.5, 1),
  up: evenly(0, 2),
  seed: fc.nat(1000),
  held: fc.constantFrom('ends', 'start', 'none'),
});

/** The lines with places along and lengths, all of their own. */
const ready = (lines: CurveSet): CurveSet => ({
  ...lines,
  position: lines.position.slice(),
  pointData: { ...lines.pointData, [POINT.along]: new Float32Array(pointCount(lines)) },
  curveData: { [CURVE.length]: new Float32Array(curveCount(lines)) },
});

it('the compiled sway does what the plain one does: on straight, sharp, level and plumb lines', () => {
  const plumb = singleCurve([0, 0, 0, 0, -1, 0, 0, -2, 0.001, 0.3, -3, 0], { smooth: true });
  fc.assert(
    fc.property(fc.array(line, { minLength: 1, maxLength: 5 }), swayed, (lines, sway) => {
      const [plain, quick] = [1, 2].map(() => ready(joinCurves([plumb, ...lines])));
      const { tangent, length } = measureEdges(plain);
      writeLengths(plain, length);
      swayLines(plain, plain.curveData[CURVE.length], sway, tangent);
      writeLengths(plain, measureEdges(plain).length);
      expect(swayByKernel(quick.position, quick, sway)).toBe(true);
      plain.position.forEach((value, i) => {
        // how far along it is has single precision, and a short wave is steep: 8.4e-6 was the most of 6,000 runs
        expect(Math.abs(quick.position[i] - value)).toBeLessThan(2e-5);
      });
      plain.pointData[POINT.along].forEach((value, p) => {
        expect(quick.pointData[POINT.along][p]).toBeCloseTo(value, 4);
      });
    }),
  );
});

it('leaves to the plain one what it is not made for: rings, corners, points that coincide, single points', () => {
  const sway: Sway = { period: 1, size: 0.1, factor: 1, up: 1, seed: 1, held: 'none' };
  const ring = singleCurve([0, 0, 0, 1, 0, 0, 0, 0, 1], { closed: true, smooth: true });
  const cornered = drawn(
    [
      [0, 0, 0],
      [1, 0, 0],
      [1, 0, 1],
    ],
    { corner: Uint8Array.of(0, 1, 0) },
  );
  for (const lines of [
    ring,
    cornered,
    singleCurve([0, 0, 0, 1, 0, 0, 1, 0, 0], { smooth: true }),
    singleCurve([0, 0, 0]),
  ]) {
    const asked = ready(lines);
    expect(swayByKernel(asked.position, asked, sway)).toBe(false);
    expect(asked.position).toEqual(lines.position);
  }
});

it('more points than may be made: their own points sway, each of their own course, held at the ends', () => {
  const [count, points] = [4100, 100];
  const lines = joinCurves(
    Array.from({ length: count }, (_, c) =>
      singleCurve(
        Float64Array.from({ length: 3 * points }, (_, i) => [Math.floor(i / 3) * 0.01, 0, c * 0.01][i % 3]),
        { id: c + 1 },
      ),
    ),
  );
  const out = build('shape', 'wobble', { strength: 0.5 }, { input: lines });
  expect(out.start).toEqual(lines.start);
  expect(out.curveData[CURVE.length][7]).toBeCloseTo(curveLengths({ ...out, curveData: {} })[7], 4);
  let far = 0;
  for (let c = 0; c < count; c++) {
    for (const p of [out.start[c], out.start[c + 1] - 1])
      for (let i = 3 * p; i < 3 * p + 3; i++) expect(out.position[i]).toBeCloseTo(lines.position[i], 9);
    for (let i = 3 * out.start[c]; i < 3 * out.start[c + 1]; i += 3)
      far = Math.max(far, Math.hypot(out.position[i + 1], out.position[i + 2] - c * 0.01));
  }
  expect(far).toBeGreaterThan(0.002);
  expect(far).toBeLessThan(Math.SQRT2 * 0.5 * 0.01 * 1.01);
  const middle = (c: number) => out.position[3 * (out.start[c] + 50) + 1];
  expect(middle(5)).not.toBe(middle(6));
});
