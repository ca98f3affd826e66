import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { rotationMinimizingFrames } from '../curve/frames.js';
import { createHit } from './surface.js';
import type { Surroundings } from './surroundings.js';

/** Weights reach this many standard deviations. */
const WINDOW = 2.5;
/** A way up that is less than this square to the line says nothing about its roll. */
const LEAST = 0.2;

/**
 * The turn that brings the section's own up to that of the surface the line lies on, radians, one a point, added to what
 * the points had: what is flat then lies flat. Eased over a length (one standard deviation, metres); where no surface is
 * near the turn stays as it was before, so that nothing turns in the air.
 * @param near how far from the surface, metres, the line still lies on it; one a point
 */
export function rollOntoSurface(
  curves: CurveSet,
  surroundings: Surroundings,
  near: Float64Array,
  over: number,
  only?: string,
): CurveSet {
  const { tangent, normal } = rotationMinimizingFrames(curves);
  const { position } = curves;
  const count = position.length / 3;
  // the way up as seen from the frame: along its normal and along its binormal
  const seen = new Float64Array(2 * count);
  const hit = createHit();
  for (let p = 0; p < count; p++) {
    const i = 3 * p;
    const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
    if (surroundings.closest(x, y, z, hit, near[p], only) === undefined || hit.distance < 1e-9) continue;
    const [ux, uy, uz] = [x - hit.point[0], y - hit.point[1], z - hit.point[2]].map((value) => value / hit.distance);
    const alongNormal = ux * normal[i] + uy * normal[i + 1] + uz * normal[i + 2];
    const alongBinormal =
      ux * (tangent[i + 1] * normal[i + 2] - tangent[i + 2] * normal[i + 1]) +
      uy * (tangent[i + 2] * normal[i] - tangent[i] * normal[i + 2]) +
      uz * (tangent[i] * normal[i + 1] - tangent[i + 1] * normal[i]);
    if (Math.hypot(alongNormal, alongBinormal) < LEAST) continue;
    seen[2 * p] = alongNormal;
    seen[2 * p + 1] = alongBinormal;
  }
  const had = curves.pointData[POINT.roll];
  const roll = had ? had.slice() : new Float32Array(count);
  const lengths = curveLengths(curves);
  for (let c = 0; c < curveCount(curves); c++) {
    const [first, end] = [curves.start[c], curves.start[c + 1]];
    const step = lengths[c] / Math.max(1, end - first - 1 + curves.closed[c]);
    const turns = eased(seen.subarray(2 * first, 2 * end), curves.closed[c] === 1, over / (step || 1));
    turns.forEach((turn, k) => {
      roll[first + k] += turn;
    });
  }
  return { ...curves, pointData: { ...curves.pointData, [POINT.roll]: roll } };
}

/** Angles of ways that are weighted along the line, without a jump from one to the next; those of none are the last ones. */
function eased(seen: Float64Array, closed: boolean, spread: number): Float64Array {
  const count = seen.length / 2;
  const width = Math.min(400, Math.ceil(WINDOW * spread));
  const weights = Float64Array.from({ length: width + 1 }, (_, k) =>
    Math.exp(-0.5 * (k / Math.max(spread, 1e-9)) ** 2),
  );
  const out = new Float64Array(count).fill(Number.NaN);
  for (let p = 0; p < count; p++) {
    let [x, y] = [0, 0];
    for (let k = -width; k <= width; k++) {
      const q = closed ? (((p + k) % count) + count) % count : p + k;
      if (q < 0 || q >= count) continue;
      x += weights[Math.abs(k)] * seen[2 * q];
      y += weights[Math.abs(k)] * seen[2 * q + 1];
    }
    if (Math.hypot(x, y) > 1e-9) out[p] = Math.atan2(y, x);
  }
  let last = out.find((angle) => !Number.isNaN(angle)) ?? 0;
  // the nearest of the angles that are the same but for whole turns
  return out.map((angle) => {
    if (!Number.isNaN(angle)) last = angle + 2 * Math.PI * Math.round((last - angle) / (2 * Math.PI));
    return last;
  });
}
