import type { Spots } from './carry.js';
import { type CurveSet, POINT } from './curve-set.js';
import { rotationMinimizingFrames } from './frames.js';

/**
 * A roll is measured against the frames of the line, and those of other samples of the same line turn a little less or more on
 * bends. Writes the roll of `to` anew, so that the section stays turned in space as it was on `from`.
 * @param spots where on `from` each point of `to` lies; its roll is read from there already
 */
export function keepRoll(from: CurveSet, to: CurveSet, { a, b, t }: Spots): void {
  const roll = to.pointData[POINT.roll];
  const { normal: was } = rotationMinimizingFrames(from);
  const { normal, tangent } = rotationMinimizingFrames(to);
  for (let q = 0; q < roll.length; q++) {
    const [i, j, k] = [3 * a[q], 3 * b[q], 3 * q];
    const [x, y, z] = [0, 1, 2].map((n) => was[i + n] + (was[j + n] - was[i + n]) * t[q]);
    const [nx, ny, nz] = [normal[k], normal[k + 1], normal[k + 2]];
    const [tx, ty, tz] = [tangent[k], tangent[k + 1], tangent[k + 2]];
    const aside = x * (ty * nz - tz * ny) + y * (tz * nx - tx * nz) + z * (tx * ny - ty * nx);
    roll[q] += Math.atan2(aside, x * nx + y * ny + z * nz);
  }
}
