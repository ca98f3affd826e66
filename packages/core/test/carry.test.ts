import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { joinCurves } from '../src/curve/carry.js';
import { reverseCurves } from '../src/curve/reverse.js';
import {
  type CurveSet,
  curveCount,
  type Lane,
  newUse,
  pointCount,
  resample,
  takenOver,
  unitsOf,
} from '../src/index.js';
import { circle, drawn } from './helpers.js';
import { build } from './units.js';

/** Too large for a 32-bit float: a whole number that went through one comes out another. */
const ROOTS = [0x0100_0001, 0xffff_fff1];

/** A line and a ring that carry what units of recipes put there: one number, three and four a point, whole ones a curve. */
function laden(): CurveSet {
  const line = resample(
    drawn([
      [0, 0, 0],
      [1, 0.3, 0],
      [2, -0.2, 0.4],
      [3, 0.1, 0],
    ]),
    { spacing: 0.05 },
  );
  const ring = circle(0.5, 60);
  for (let p = 0; p < pointCount(ring); p++) ring.position[3 * p + 1] += 4;
  ring.id[0] = 2;
  [line, ring].forEach((curves, k) => {
    const count = pointCount(curves);
    const each = (size: number) => Float32Array.from({ length: size * count }, (_, i) => 10 * (k + 1) + (i % size));
    Object.assign(curves.pointData, { strand: each(1), axis: each(3), tint: each(4) });
    curves.curveData = { root: Uint32Array.of(ROOTS[k]), anchor: Float32Array.of(k + 0.25, k + 0.5, k + 0.75) };
  });
  return joinCurves([line, ring]);
}

/** Every number is where the curve's own root says it belongs. */
function expectAllCarried(out: CurveSet): void {
  expect(curveCount(out)).toBeGreaterThanOrEqual(2);
  expect(out.pointData.axis).toHaveLength(3 * pointCount(out));
  expect(out.pointData.tint).toHaveLength(4 * pointCount(out));
  expect(out.curveData.root).toBeInstanceOf(Uint32Array);
  expect(out.curveData.anchor).toHaveLength(3 * curveCount(out));
  for (let c = 0; c < curveCount(out); c++) {
    const from = ROOTS.indexOf(out.curveData.root[c]);
    expect(from).toBeGreaterThanOrEqual(0);
    expect([...out.curveData.anchor.subarray(3 * c, 3 * c + 3)]).toEqual([from + 0.25, from + 0.5, from + 0.75]);
    for (let p = out.start[c]; p < out.start[c + 1]; p++) {
      expect(out.pointData.strand[p]).toBeCloseTo(10 * (from + 1), 4);
      for (const [name, size] of [
        ['axis', 3],
        ['tint', 4],
      ] as const)
        for (let n = 0; n < size; n++) expect(out.pointData[name][size * p + n]).toBeCloseTo(10 * (from + 1) + n, 4);
    }
  }
}

describe('what curves carry', () => {
  // every shape of Kelp, and whichever comes next: none may drop what a recipe put on its lines
  it.each(unitsOf('shape').map(({ id }) => id))('goes through %s: as many numbers, whole ones whole', (id) => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 50 }), (seed) => {
        const input = laden();
        const out = build('shape', id, { seed, spacing: 30, strength: 2, strands: 1 }, { input });
        expectAllCarried(out);
      }),
      { numRuns: 3 },
    );
  });

  it('turns round with the line, and goes over the seam of a mirrored one', () => {
    expectAllCarried(reverseCurves(laden()));
    const placed = laden();
    placed.pointData.axis = Float32Array.from(placed.position);
    for (const out of [reverseCurves(placed), resample(placed, { spacing: 0.03 })])
      out.pointData.axis.forEach((value, i) => {
        expect(value).toBeCloseTo(out.position[i], 2);
      });
    const met = build('shape', 'mirror', { at: [3, 0, 0] }, { input: laden() });
    // the line met the plane and is one with its mirrored half, the ring stands beside its own
    expect(curveCount(met)).toBe(3);
    expectAllCarried(met);
  });
});

it('another preset keeps a size set by hand and courses of the same name; one as it was made takes the new size', () => {
  const before = newUse('make', 'cable', 'plain-cable');
  const lane: Lane = { knots: [{ at: 0.5, value: 2 }], ease: 'smooth' };
  const next = newUse('make', 'cable', 'ribbed-hose');
  expect(takenOver(before, next)).toEqual(next);
  const byHand = { ...before, parameters: { ...before.parameters, radius: 0.0123, twist: lane } };
  expect(takenOver(byHand, next).parameters).toEqual({ ...next.parameters, radius: 0.0123, twist: lane });
});
