import { measureEdges } from '../curve/arc-length.js';
import { CURVE, type CurveSet, curveCount, POINT, pointCount } from '../curve/curve-set.js';
import type { Frames } from '../curve/frames.js';
import { MITRE_COSINE } from '../curve/tangents.js';

/** Where the section is put: one ring a point, a second one on hard edges and on the seam of a closed curve. */
export interface Rings {
  /** Offsets of each curve's rings. */
  start: Uint32Array;
  total: number;
  /** Strips of faces between rings, all curves together. */
  bands: number;
  /** Point of each ring. */
  point: Uint32Array;
  /** Length from the start of the curve, metres. */
  v: Float64Array;
  /** Bend at the ring, radians, where it is mitred; 0 elsewhere. */
  bend: Float32Array;
  /** −1: faces the stretch before a hard edge, 1: the stretch after it, 0: both. */
  side: Int8Array;
  /** One a point, flat xyz: direction of the stretch and axis of the bend where mitred; curvature vector everywhere, 1/m. */
  mitre: Float64Array;
  hinge: Float64Array;
  curvature: Float64Array;
}

/** Lays out the rings of all curves. `hardAngle`: a bend above it at one point is a hard edge, radians. */
export function planRings(curves: CurveSet, { tangent }: Frames, hardAngle: number): Rings {
  const points = pointCount(curves);
  const { start, closed } = curves;
  const bendAt = new Float32Array(points);
  const mitre = new Float64Array(3 * points);
  const hinge = new Float64Array(3 * points);
  const curvature = new Float64Array(3 * points);
  const count = curveCount(curves);
  const ringStart = new Uint32Array(count + 1);
  for (let c = 0; c < count; c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    let extra = closed[c] ? 1 : 0;
    for (let p = first; p <= last; p++) {
      const before = p > first ? p - 1 : closed[c] ? last : p;
      const after = p < last ? p + 1 : closed[c] ? first : p;
      bendAt[p] = bendOf(curves.position, tangent, before, p, after, mitre, hinge, curvature);
      // a closed curve's first point has two rings anyway: the seam's
      if (bendAt[p] > hardAngle && !(closed[c] && p === first)) extra++;
    }
    ringStart[c + 1] = ringStart[c] + (last - first + 1) + extra;
  }
  const total = ringStart[count];
  const rings: Rings = {
    start: ringStart,
    total,
    bands: 0,
    mitre,
    hinge,
    curvature,
    point: new Uint32Array(total),
    v: new Float64Array(total),
    bend: new Float32Array(total),
    side: new Int8Array(total),
  };
  const along = curves.pointData[POINT.along];
  const edges = along ? undefined : measureEdges(curves, tangent).length;
  const lengths = curves.curveData[CURVE.length];
  let ring = 0;
  for (let c = 0; c < count; c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    let walked = 0;
    for (let p = first; p <= last; p++) {
      const v = along ? along[p] : walked;
      if (edges) walked += edges[p];
      const hard = bendAt[p] > hardAngle;
      const seam = closed[c] === 1 && p === first;
      ring = putRing(rings, ring, p, v, bendAt[p], hard ? (seam ? 1 : -1) : 0);
      if (hard && !seam) ring = putRing(rings, ring, p, v, bendAt[p], 1);
      rings.bands += p < last || closed[c] ? 1 : 0;
    }
    if (closed[c]) {
      const length = along && lengths ? lengths[c] : walked;
      ring = putRing(rings, ring, first, length, bendAt[first], bendAt[first] > hardAngle ? -1 : 0);
    }
  }
  return rings;
}

function putRing(rings: Rings, ring: number, p: number, v: number, bend: number, side: number): number {
  rings.point[ring] = p;
  rings.v[ring] = v;
  rings.bend[ring] = bend;
  rings.side[ring] = side;
  return ring + 1;
}

/** Fills curvature, and mitre and hinge where the bend at `p` is a corner. Returns that bend or 0. */
function bendOf(
  position: Float64Array,
  tangent: Float64Array,
  a: number,
  p: number,
  b: number,
  mitre: Float64Array,
  hinge: Float64Array,
  curvature: Float64Array,
): number {
  const ux = position[3 * p] - position[3 * a];
  const uy = position[3 * p + 1] - position[3 * a + 1];
  const uz = position[3 * p + 2] - position[3 * a + 2];
  const vx = position[3 * b] - position[3 * p];
  const vy = position[3 * b + 1] - position[3 * p + 1];
  const vz = position[3 * b + 2] - position[3 * p + 2];
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  const step = Math.sqrt(uu) + Math.sqrt(vv);
  if (step > 0) {
    curvature[3 * p] = (tangent[3 * b] - tangent[3 * a]) / step;
    curvature[3 * p + 1] = (tangent[3 * b + 1] - tangent[3 * a + 1]) / step;
    curvature[3 * p + 2] = (tangent[3 * b + 2] - tangent[3 * a + 2]) / step;
  }
  const size = Math.sqrt(uu * vv);
  if (size === 0 || a === b) return 0;
  const cos = (ux * vx + uy * vy + uz * vz) / size;
  if (cos > MITRE_COSINE) return 0;
  const hx = uy * vz - uz * vy;
  const hy = uz * vx - ux * vz;
  const hz = ux * vy - uy * vx;
  const sine = Math.sqrt(hx * hx + hy * hy + hz * hz);
  if (sine < 1e-9 * size) return 0;
  hinge[3 * p] = hx / sine;
  hinge[3 * p + 1] = hy / sine;
  hinge[3 * p + 2] = hz / sine;
  // in the ring's plane and in the plane of the bend: perpendicular to both the hinge and the tangent
  mitre[3 * p] = hinge[3 * p + 1] * tangent[3 * p + 2] - hinge[3 * p + 2] * tangent[3 * p + 1];
  mitre[3 * p + 1] = hinge[3 * p + 2] * tangent[3 * p] - hinge[3 * p] * tangent[3 * p + 2];
  mitre[3 * p + 2] = hinge[3 * p] * tangent[3 * p + 1] - hinge[3 * p + 1] * tangent[3 * p];
  return Math.acos(Math.max(-1, cos));
}
