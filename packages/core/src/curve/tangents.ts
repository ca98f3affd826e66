import { CORNER_COSINE } from './corners.js';
import { type CurveSet, curveCount } from './curve-set.js';

/**
 * Unit tangents at all points of all curves, flat xyz.
 *
 * Inside: derivative of the parabola through the point and its two neighbours (second order on uneven spacing).
 * At an open end: the neighbour's tangent mirrored in the edge, exact on a circle. Where two points coincide the
 * tangent of the nearest real edge is taken; at a bend above 20° it is the bisector; a curve without any length gets (0, 0, 1).
 */
export function tangentsOf(curves: CurveSet, out = new Float64Array(curves.position.length)): Float64Array {
  const { position, start, closed } = curves;
  let zero = false;
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    const wrap = closed[c] === 1;
    zero = tangentsInside(position, first, last, out) || zero;
    if (wrap) {
      insideTangent(position, 3 * last, 3 * first, 3 * Math.min(last, first + 1), out);
      insideTangent(position, 3 * Math.max(first, last - 1), 3 * last, 3 * first, out);
      continue;
    }
    endTangent(position, out, first, first + 1, last - first > 1);
    endTangent(position, out, last, last - 1, last - first > 1);
    if (first === last) continue;
    out[3 * last] *= -1;
    out[3 * last + 1] *= -1;
    out[3 * last + 2] *= -1;
  }
  // points that coincide are rare: only then is there anything to look for
  if (zero || curves.start.some((first, c) => c < closed.length && coincide(position, first, curves.start[c + 1] - 1)))
    repairZero(curves, out);
  return out;
}

/** True when one of a curve's first or last two points, or its first and its last, stand in one place. */
function coincide(position: Float64Array, first: number, last: number): boolean {
  const same = (p: number, q: number) =>
    position[3 * p] === position[3 * q] &&
    position[3 * p + 1] === position[3 * q + 1] &&
    position[3 * p + 2] === position[3 * q + 2];
  return last <= first || same(first, first + 1) || same(last, last - 1) || same(first, last);
}

/**
 * Tangents of all points of a curve but its first and last. The edge after a point is the one before the next: each is
 * measured once. Returns whether two neighbours coincide.
 */
function tangentsInside(position: Float64Array, first: number, last: number, out: Float64Array): boolean {
  let zero = false;
  let i = 3 * first;
  let x0 = position[i];
  let y0 = position[i + 1];
  let z0 = position[i + 2];
  i += 3;
  let x1 = position[i];
  let y1 = position[i + 1];
  let z1 = position[i + 2];
  let ux = x1 - x0;
  let uy = y1 - y0;
  let uz = z1 - z0;
  let uu = ux * ux + uy * uy + uz * uz;
  for (let p = first + 1; p < last; p++) {
    x0 = position[i + 3];
    y0 = position[i + 4];
    z0 = position[i + 5];
    const vx = x0 - x1;
    const vy = y0 - y1;
    const vz = z0 - z1;
    const vv = vx * vx + vy * vy + vz * vz;
    const dot = ux * vx + uy * vy + uz * vz;
    if (dot > 0 && dot * dot > CORNER_COSINE * CORNER_COSINE * uu * vv) {
      const x = ux * vv + vx * uu;
      const y = uy * vv + vy * uu;
      const z = uz * vv + vz * uu;
      const scale = 1 / Math.sqrt(x * x + y * y + z * z);
      out[i] = x * scale;
      out[i + 1] = y * scale;
      out[i + 2] = z * scale;
    } else {
      insideTangent(position, i - 3, i, i + 3, out);
      if (uu === 0 || vv === 0) zero = true;
    }
    x1 = x0;
    y1 = y0;
    z1 = z0;
    ux = vx;
    uy = vy;
    uz = vz;
    uu = vv;
    i += 3;
  }
  return zero;
}

/** Tangent of the point at `p` between those at `a` and `b`; all three are places in the flat arrays. */
function insideTangent(position: Float64Array, a: number, p: number, b: number, out: Float64Array): void {
  const ux = position[p] - position[a];
  const uy = position[p + 1] - position[a + 1];
  const uz = position[p + 2] - position[a + 2];
  const vx = position[b] - position[p];
  const vy = position[b + 1] - position[p + 1];
  const vz = position[b + 2] - position[p + 2];
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  // weights h1/h0 and h0/h1, up to a common factor: each edge counts by the other's squared length. At a sharp bend
  // there is no parabola to speak of: the bisector, each edge by the other's length, is the plane of a mitre
  const dot = ux * vx + uy * vy + uz * vz;
  // cos > limit without its root: most points are smooth
  const isSmooth = dot > 0 && dot * dot > CORNER_COSINE * CORNER_COSINE * uu * vv;
  const wu = isSmooth ? vv : Math.sqrt(vv);
  const wv = isSmooth ? uu : Math.sqrt(uu);
  const x = ux * wu + vx * wv;
  const y = uy * wu + vy * wv;
  const z = uz * wu + vz * wv;
  const size = Math.sqrt(x * x + y * y + z * z);
  if (size > 0) {
    const scale = 1 / size;
    out[p] = x * scale;
    out[p + 1] = y * scale;
    out[p + 2] = z * scale;
  } else {
    const edge = Math.sqrt(uu) || Math.sqrt(vv);
    out[p] = edge > 0 ? (uu > 0 ? ux : vx) / edge : 0;
    out[p + 1] = edge > 0 ? (uu > 0 ? uy : vy) / edge : 0;
    out[p + 2] = edge > 0 ? (uu > 0 ? uz : vz) / edge : 0;
  }
}

/** Tangent at `p` pointing towards its only neighbour `q`, for which `out` is filled already (`curved`). */
function endTangent(position: Float64Array, out: Float64Array, p: number, q: number, curved: boolean): void {
  let x = position[3 * q] - position[3 * p];
  let y = position[3 * q + 1] - position[3 * p + 1];
  let z = position[3 * q + 2] - position[3 * p + 2];
  const size = Math.sqrt(x * x + y * y + z * z);
  if (size > 0) {
    x /= size;
    y /= size;
    z /= size;
  }
  if (curved) {
    const turn = q > p ? 1 : -1;
    const tx = turn * out[3 * q];
    const ty = turn * out[3 * q + 1];
    const tz = turn * out[3 * q + 2];
    const along = 2 * (x * tx + y * ty + z * tz);
    // a tangent that far off the edge is a corner's, not an arc's: keep the edge itself
    if (along > 2 * CORNER_COSINE) {
      x = along * x - tx;
      y = along * y - ty;
      z = along * z - tz;
    }
  }
  out[3 * p] = x;
  out[3 * p + 1] = y;
  out[3 * p + 2] = z;
}

function repairZero({ start, closed }: CurveSet, out: Float64Array): void {
  const isZero = (p: number) => out[3 * p] === 0 && out[3 * p + 1] === 0 && out[3 * p + 2] === 0;
  for (let c = 0; c < closed.length; c++) {
    let good = -1;
    for (let p = start[c]; p < start[c + 1]; p++) if (!isZero(p)) good = good < 0 ? p : good;
    for (let p = start[c]; p < start[c + 1]; p++) {
      if (!isZero(p)) good = p;
      else if (good < 0) out[3 * p + 2] = 1;
      else out.copyWithin(3 * p, 3 * good, 3 * good + 3);
    }
  }
}
