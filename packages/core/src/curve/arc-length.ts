import { distanceAt } from '../numeric/vector.js';
import { eachBlock } from './blocks.js';
import { CURVE, type CurveSet, curveCount, POINT, pointCount } from './curve-set.js';
import { tangentsOf } from './tangents.js';

/** Edges of all curves: edge `p` runs from point `p` to the next; the last edge of an open curve has length 0. */
export interface Edges {
  /** True length of each edge, metres: the arc through both points with the tangents' turn, not the chord. */
  length: Float64Array;
  /** Turn of the tangent over each edge, radians. */
  turn: Float64Array;
  tangent: Float64Array;
}

/**
 * Measures every edge. The arc over a chord h that turns by θ is h·(θ/2)/sin(θ/2) (circle); for θ above 90° (a corner)
 * the chord itself is taken.
 */
export function measureEdges(curves: CurveSet, tangent = tangentsOf(curves)): Edges {
  const { start, closed, position, pointData } = curves;
  const corner = pointData[POINT.corner];
  const length = new Float64Array(pointCount(curves));
  const turn = new Float64Array(pointCount(curves));
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    for (let p = first; p <= last; p++) {
      if (p === last && !closed[c]) break;
      const q = p === last ? first : p + 1;
      const i = 3 * p;
      const j = 3 * q;
      const x = position[j] - position[i];
      const y = position[j + 1] - position[i + 1];
      const z = position[j + 2] - position[i + 2];
      const chord = Math.sqrt(x * x + y * y + z * z);
      const atP =
        corner?.[p] || chord === 0 ? 0 : 1 - (tangent[i] * x + tangent[i + 1] * y + tangent[i + 2] * z) / chord;
      const atQ =
        corner?.[q] || chord === 0 ? 0 : 1 - (tangent[j] * x + tangent[j + 1] * y + tangent[j + 2] * z) / chord;
      const angle = angleOf(atP) + angleOf(atQ);
      turn[p] = angle;
      length[p] = angle < Math.PI / 2 ? chord * arcOverChord(angle / 2) : chord;
    }
  }
  return { length, turn, tangent };
}

/** acos(1 − e); for small angles its series, several times as fast and exact to 1e-9. Rounding never makes it no number. */
function angleOf(e: number): number {
  if (e >= 0.02) return Math.acos(e > 2 ? -1 : 1 - e);
  return e > 0 ? Math.sqrt(2 * e) * (1 + e * (1 / 12 + e * (3 / 160 + (e * 5) / 896))) : 0;
}

/** θ/sin θ; for small angles its series, exact to 1e-8. */
function arcOverChord(half: number): number {
  const s = half * half;
  return s < 0.06 ? 1 + s * (1 / 6 + s * (7 / 360 + (s * 31) / 15120)) : half / Math.sin(half);
}

/** Length of each curve, metres: what `resample` measured on the fine curve, or the points' own where it never ran. */
export function curveLengths(curves: CurveSet): Float32Array {
  const known = curves.curveData[CURVE.length];
  if (known) return known as Float32Array;
  const out = new Float32Array(curveCount(curves));
  eachBlock(curves, (block, first) => out.set(summed(block, measureEdges(block).length), first));
  return out;
}

/** Length of all curves together, metres, from point to point: never more than the true one, and quick. */
export function chordsOf({ position, start, closed }: CurveSet): number {
  let sum = 0;
  for (let c = 0; c < closed.length; c++) {
    const last = start[c + 1] - 1;
    for (let p = start[c]; p < last; p++) sum += distanceAt(position, p, p + 1);
    if (closed[c]) sum += distanceAt(position, last, start[c]);
  }
  return sum;
}

/** Length of each curve from the lengths of its edges. */
export function summed(curves: CurveSet, edges: Float64Array): Float32Array {
  const out = new Float32Array(curveCount(curves));
  for (let c = 0; c < out.length; c++) {
    let sum = 0;
    for (let p = curves.start[c]; p < curves.start[c + 1]; p++) sum += edges[p];
    out[c] = sum;
  }
  return out;
}
