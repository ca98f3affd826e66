import { curveLengths } from '../curve/arc-length.js';
import { bendRadii } from '../curve/bend.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import { smoothCurves } from '../curve/smooth.js';

/** A bend tighter than this many radii of what runs there folds its inner side, or nearly. */
const FOLDS = 1.1;
/** It is eased over this many times the width of the smoothing to either side. */
const ASIDE = 3;

/**
 * The line with the stretches eased in which its bends are so tight that what runs along it would fold into itself; the
 * rest stays as it is; and how many points fold.
 * @param radius of what runs there, one a point, metres
 * @param over width of the smoothing (one deviation), metres
 */
export function easeFolds(curves: CurveSet, radius: Float64Array, over: number): { curves: CurveSet; folds: number } {
  const radii = bendRadii(curves, Float32Array.from(radius));
  const share = new Float64Array(radii.length);
  const lengths = curveLengths(curves);
  let folds = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    const first = curves.start[c];
    const count = curves.start[c + 1] - first;
    const width = (ASIDE * over * Math.max(1, count - 1)) / (lengths[c] || 1);
    // steps to the nearest fold: once on, once back; a closed line is gone round twice
    const away = new Float64Array(count).fill(Infinity);
    for (let p = 0; p < count; p++)
      if (radii[first + p] < FOLDS * radius[first + p]) {
        away[p] = 0;
        folds++;
      }
    const rounds = curves.closed[c] ? 2 : 1;
    for (let k = 1; k < rounds * count; k++) away[k % count] = Math.min(away[k % count], away[(k - 1) % count] + 1);
    for (let k = rounds * count - 2; k >= 0; k--)
      away[k % count] = Math.min(away[k % count], away[(k + 1) % count] + 1);
    for (let p = 0; p < count; p++) {
      const near = Math.max(0, 1 - away[p] / (width + 1));
      share[first + p] = near * near * (3 - 2 * near);
    }
  }
  if (folds === 0) return { curves, folds };
  const eased = smoothCurves(curves, { over, hold: 'corners' }).position;
  const position = curves.position.map((value, i) => value + share[Math.floor(i / 3)] * (eased[i] - value));
  return { curves: { ...curves, position }, folds };
}

/**
 * How far what is with one side on a surface reaches towards the middle of the line's bend, one a point, metres: as far as
 * it is thick where the line bends to the surface or off it, as far as it is broad where it bends beside it. 0 away from
 * every surface.
 * @param up the way off the surface, flat xyz of unit vectors; (0, 0, 0) where none is near
 */
export function reachInBends(
  { position, start, closed }: CurveSet,
  up: Float64Array,
  thick: Float64Array,
  broad: Float64Array,
): Float64Array {
  const out = thick.slice();
  for (let c = 0; c < closed.length; c++) {
    const first = start[c];
    const count = start[c + 1] - first;
    for (let p = 0; p < count; p++) {
      if (!closed[c] && (p === 0 || p === count - 1)) continue;
      const [i, before, after] = [p, p - 1, p + 1].map((q) => 3 * (first + ((q + count) % count)));
      let [size, towards] = [0, 0];
      for (let axis = 0; axis < 3; axis++) {
        const bend = position[before + axis] + position[after + axis] - 2 * position[i + axis];
        size += bend * bend;
        towards += bend * up[i + axis];
      }
      const isNear = up[i] !== 0 || up[i + 1] !== 0 || up[i + 2] !== 0;
      const upright = size > 0 ? Math.min(1, (towards * towards) / size) : 1;
      const aside = Math.max(thick[first + p], broad[first + p]);
      out[first + p] = isNear ? Math.sqrt(upright * thick[first + p] ** 2 + (1 - upright) * aside ** 2) : 0;
    }
  }
  return out;
}
