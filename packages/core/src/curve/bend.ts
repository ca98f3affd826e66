import { type CurveData, type CurveSet, curveCount, POINT, pointCount } from './curve-set.js';

/**
 * Bend radius at every point, metres: the circle through the point and the first points at least one `reach` before and
 * after it, which lie on the curve itself; on a long straight step, a place one reach away. A reach of the section's own radius sees what matters for a sweep: whether
 * its inner side folds. Within one reach of an open end or of a corner the circle is drawn through what there is.
 * `Infinity` where the line is straight, at the very ends of an open curve, and at marked corners, which are mitred.
 * Radius of the circle through three points: abc / 4·area (any geometry text).
 *
 * @param reach metres, the same for all or one a point
 */
export function bendRadii(curves: CurveSet, reach: number | Float32Array): Float64Array {
  const { start, closed, position } = curves;
  const out = new Float64Array(pointCount(curves)).fill(Infinity);
  const corner = curves.pointData[POINT.corner];
  const before = new Float64Array(3);
  const after = new Float64Array(3);
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    for (let p = first; p <= last; p++) {
      if (corner?.[p] || (!closed[c] && (p === first || p === last))) continue;
      const far = typeof reach === 'number' ? reach : reach[p];
      walk(position, corner, first, last, closed[c] === 1, p, far, -1, before);
      walk(position, corner, first, last, closed[c] === 1, p, far, 1, after);
      out[p] = circleRadius(before, position, 3 * p, after);
    }
  }
  return out;
}

/** A step that goes further beyond than such a share of the reach, and is this many times the one before, leads into a straight leg. */
const FAR = 0.5;
const LONGER = 3;

/**
 * Goes `distance` along the polyline from point `p` and on to the next point, but not past a corner, and writes where it
 * arrives. On a step into a straight leg it stops where it is.
 */
function walk(
  position: Float64Array,
  corner: CurveData | undefined,
  first: number,
  last: number,
  closed: boolean,
  p: number,
  distance: number,
  step: 1 | -1,
  out: Float64Array,
): void {
  let left = distance;
  let before = 0;
  let a = p;
  for (let guard = 0; guard <= last - first; guard++) {
    let b = a + step;
    if (b > last) b = closed ? first : -1;
    else if (b < first) b = closed ? last : -1;
    if (b < 0) break;
    const x = position[3 * b] - position[3 * a];
    const y = position[3 * b + 1] - position[3 * a + 1];
    const z = position[3 * b + 2] - position[3 * a + 2];
    const size = Math.sqrt(x * x + y * y + z * z);
    left -= size;
    if (left < -FAR * distance && before > 0 && size > LONGER * before) {
      const t = 1 + left / size;
      out[0] = position[3 * a] + t * x;
      out[1] = position[3 * a + 1] + t * y;
      out[2] = position[3 * a + 2] + t * z;
      return;
    }
    before = size;
    a = b;
    if (left <= 0 || corner?.[a]) break;
  }
  out[0] = position[3 * a];
  out[1] = position[3 * a + 1];
  out[2] = position[3 * a + 2];
}

function circleRadius(a: Float64Array, position: Float64Array, p: number, b: Float64Array): number {
  const ux = a[0] - position[p];
  const uy = a[1] - position[p + 1];
  const uz = a[2] - position[p + 2];
  const vx = b[0] - position[p];
  const vy = b[1] - position[p + 1];
  const vz = b[2] - position[p + 2];
  const cx = uy * vz - uz * vy;
  const cy = uz * vx - ux * vz;
  const cz = ux * vy - uy * vx;
  const area2 = Math.sqrt(cx * cx + cy * cy + cz * cz);
  const u = Math.sqrt(ux * ux + uy * uy + uz * uz);
  const v = Math.sqrt(vx * vx + vy * vy + vz * vz);
  const w = Math.sqrt((ux - vx) ** 2 + (uy - vy) ** 2 + (uz - vz) ** 2);
  // u/v may be 0 at coincident points: no bend to speak of
  if (u * v * w === 0 || area2 < 1e-9 * u * v) return Infinity;
  return (u * v * w) / (2 * area2);
}
