import { measureEdges } from '../curve/arc-length.js';
import { CORNER_COSINE } from '../curve/corners.js';
import { CURVE, type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import type { Frames } from '../curve/frames.js';

/** A bend of more at one point is a hard edge, radians, unless another limit is asked for. */
export const HARD_ANGLE = 0.7;

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
  /** −1: faces the stretch before a hard edge, 1: the stretch after it, 0: both. */
  side: Int8Array;
  /** The points at which the line turns sharply; few, and none on most curves. */
  corners: Map<number, Corner>;
}

/** A mitred bend. */
export interface Corner {
  /** Turn of the line, radians. */
  bend: number;
  /** Unit direction in which the ring is stretched: in its plane and in the plane of the bend. */
  mitre: readonly [number, number, number];
  /** Unit axis of the bend. */
  hinge: readonly [number, number, number];
}

/** Lays out the rings of all curves. `hardAngle`: a bend above it at one point is a hard edge, radians. */
export function planRings(curves: CurveSet, { tangent, smooth }: Frames, hardAngle: number): Rings {
  const { start, closed } = curves;
  const count = curveCount(curves);
  const corners: Rings['corners'] = smooth ? new Map() : findCorners(curves, tangent);
  const along = curves.pointData[POINT.along];
  if (along && corners.size === 0 && !closed.includes(1)) return ringsOfPoints(curves, along, corners);
  const isHard = (p: number) => corners.size > 0 && (corners.get(p)?.bend ?? 0) > hardAngle;
  const ringStart = new Uint32Array(count + 1);
  for (let c = 0; c < count; c++) {
    let extra = closed[c] ? 1 : 0;
    // a closed curve's first point has two rings anyway: the seam's
    if (corners.size > 0)
      for (let p = start[c]; p < start[c + 1]; p++) if (isHard(p) && !(closed[c] && p === start[c])) extra++;
    ringStart[c + 1] = ringStart[c] + (start[c + 1] - start[c]) + extra;
  }
  const total = ringStart[count];
  const rings: Rings = {
    start: ringStart,
    total,
    bands: 0,
    corners,
    point: new Uint32Array(total),
    v: new Float64Array(total),
    side: new Int8Array(total),
  };
  const edges = along ? undefined : measureEdges(curves, tangent).length;
  const lengths = curves.curveData[CURVE.length];
  const { point, v, side } = rings;
  let ring = 0;
  for (let c = 0; c < count; c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    rings.bands += last - first + closed[c];
    let walked = 0;
    for (let p = first; p <= last; p++) {
      const hard = isHard(p);
      const seam = closed[c] === 1 && p === first;
      point[ring] = p;
      v[ring] = along ? along[p] : walked;
      side[ring++] = hard ? (seam ? 1 : -1) : 0;
      if (hard && !seam) {
        point[ring] = p;
        v[ring] = v[ring - 1];
        side[ring++] = 1;
      }
      if (edges) walked += edges[p];
    }
    if (closed[c]) {
      point[ring] = first;
      v[ring] = along && lengths ? lengths[c] : walked;
      side[ring++] = isHard(first) ? -1 : 0;
    }
  }
  return rings;
}

/** Rings of open lines without corners, measured already: of very many short lines a walk over all points is felt. */
function ringsOfPoints({ start }: CurveSet, along: Float32Array, corners: Rings['corners']): Rings {
  const total = along.length;
  const point = new Uint32Array(total);
  for (let p = 0; p < total; p++) point[p] = p;
  return {
    start,
    total,
    bands: total - (start.length - 1),
    corners,
    point,
    v: new Float64Array(along),
    side: new Int8Array(total),
  };
}

/** Every point whose two edges turn by more than 20°. */
export function findCorners(curves: CurveSet, tangent: Float64Array): Map<number, Corner> {
  const { position, start, closed } = curves;
  const corners = new Map<number, Corner>();
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    const from = closed[c] ? first : first + 1;
    const to = closed[c] ? last : last - 1;
    for (let p = from; p <= to; p++) {
      const a = 3 * (p > first ? p - 1 : last);
      const b = 3 * (p < last ? p + 1 : first);
      const i = 3 * p;
      const ux = position[i] - position[a];
      const uy = position[i + 1] - position[a + 1];
      const uz = position[i + 2] - position[a + 2];
      const vx = position[b] - position[i];
      const vy = position[b + 1] - position[i + 1];
      const vz = position[b + 2] - position[i + 2];
      const dot = ux * vx + uy * vy + uz * vz;
      const sizes = (ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz);
      // cos > limit without the root: most points leave here
      if (dot > 0 && dot * dot > CORNER_COSINE * CORNER_COSINE * sizes) continue;
      const hx = uy * vz - uz * vy;
      const hy = uz * vx - ux * vz;
      const hz = ux * vy - uy * vx;
      const sine = Math.sqrt(hx * hx + hy * hy + hz * hz);
      if (sizes === 0 || sine < 1e-9 * Math.sqrt(sizes)) continue;
      const hinge = [hx / sine, hy / sine, hz / sine] as const;
      const [tx, ty, tz] = [tangent[i], tangent[i + 1], tangent[i + 2]];
      const mitre = [
        hinge[1] * tz - hinge[2] * ty,
        hinge[2] * tx - hinge[0] * tz,
        hinge[0] * ty - hinge[1] * tx,
      ] as const;
      corners.set(p, { bend: Math.acos(Math.max(-1, dot / Math.sqrt(sizes))), mitre, hinge });
    }
  }
  return corners;
}
