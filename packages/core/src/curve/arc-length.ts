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
      const unit = 1 / chord;
      const atP =
        corner?.[p] || chord === 0 ? 0 : 1 - (tangent[i] * x + tangent[i + 1] * y + tangent[i + 2] * z) * unit;
      const atQ =
        corner?.[q] || chord === 0 ? 0 : 1 - (tangent[j] * x + tangent[j + 1] * y + tangent[j + 2] * z) * unit;
      const angle = angleOf(atP) + angleOf(atQ);
      turn[p] = angle;
      length[p] = angle < Math.PI / 2 ? chord * arcOverChord(angle / 2) : chord;
    }
  }
  return { length, turn, tangent };
}

/** acos(1 − e), several times as fast for what is no sharp bend. Rounding never makes it no number. */
function angleOf(e: number): number {
  if (e > 0.5) return Math.acos(e > 2 ? -1 : 1 - e);
  if (!(e > 0)) return 0;
  // 2·asin(√z): the rational approximation of fdlibm, e_asin.c (Sun Microsystems, 1993)
  const z = 0.5 * e;
  const top = 0.20121253213486293 + z * (-0.04005553450067941 + z * (0.0007915349942898145 + z * 3.479331075960212e-5));
  const low = 2.0209457602335057 + z * (-0.6882839716054533 + z * 0.07703815055590194);
  const tail =
    (z * (0.16666666666666666 + z * (-0.3255658186224009 + z * top))) / (1 + z * (-2.403394911734414 + z * low));
  return 2 * Math.sqrt(z) * (1 + tail);
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

/** Length of all curves together and of the longest step, metres, from point to point: never more than the true one, and quick. */
export function chordsOf({ position, start, closed }: CurveSet): { sum: number; longest: number } {
  let sum = 0;
  let longest = 0;
  for (let c = 0; c < closed.length; c++) {
    const first = 3 * start[c];
    const last = 3 * start[c + 1] - 3;
    // of a closed one the step from its last point to its first comes first
    for (let i = closed[c] ? first : first + 3; i <= last; i += 3) {
      const before = i === first ? last : i - 3;
      const x = position[i] - position[before];
      const y = position[i + 1] - position[before + 1];
      const z = position[i + 2] - position[before + 2];
      const chord = Math.sqrt(x * x + y * y + z * z);
      sum += chord;
      if (chord > longest) longest = chord;
    }
  }
  return { sum, longest };
}

/** Writes into `along` and `length` of the curves, which are there, what `resample` would: `edges` as measured. */
export function writeLengths(curves: CurveSet, edges: Float64Array): void {
  const along = curves.pointData[POINT.along];
  const lengths = curves.curveData[CURVE.length];
  for (let c = 0; c < curveCount(curves); c++) {
    let sum = 0;
    for (let p = curves.start[c]; p < curves.start[c + 1]; p++) {
      along[p] = sum;
      sum += edges[p];
    }
    lengths[c] = sum;
  }
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
