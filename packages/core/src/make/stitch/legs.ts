import { curveCount, POINT } from '../../curve/curve-set.js';
import type { FramedLines } from '../elements/framed-lines.js';

/** A stretch of a line from corner to corner, or from end to end: it has whole stitches, so that a corner has a hole of its own. */
export interface Leg {
  curve: number;
  /** Metres along the line; beyond its length where it goes over the seam of a closed one. */
  from: number;
  to: number;
  /** How many stitches, and the number of its first one on the line. */
  count: number;
  first: number;
  /** It ends where it begins. */
  ring: boolean;
}

/**
 * The legs of all lines.
 * @param pitch from stitch to stitch, metres
 * @param even rings have an even number, where stitches are of two kinds by turns
 * @param most stitches in all
 */
export function legsOf(
  { lines, lengths }: FramedLines,
  pitch: number,
  even: boolean,
  most: number,
): { legs: Leg[]; asked: number } {
  const legs: Leg[] = [];
  const corner = lines.pointData[POINT.corner];
  const along = lines.pointData[POINT.along];
  let asked = 0;
  for (let c = 0; c < curveCount(lines); c++) {
    const closed = lines.closed[c] === 1;
    const at: number[] = [];
    for (let p = lines.start[c]; p < lines.start[c + 1]; p++) {
      const end = !closed && (p === lines.start[c] || p === lines.start[c + 1] - 1);
      if (end || corner?.[p]) at.push(along[p]);
    }
    const ring = closed && at.length === 0;
    if (ring) at.push(0);
    if (closed) at.push(at[0] + lengths[c]);
    let first = 0;
    for (let k = 0; k + 1 < at.length; k++) {
      const long = at[k + 1] - at[k];
      if (!(long > 0)) continue;
      const times = long / pitch;
      const wanted = ring && even ? 2 * Math.max(1, Math.round(times / 2)) : Math.max(1, Math.round(times));
      const count = Math.min(wanted, Math.max(0, most - asked));
      asked += wanted;
      // what cannot be made whole is not drawn out over the rest of the line
      if (count > 0) legs.push({ curve: c, from: at[k], to: at[k] + (long * count) / wanted, count, first, ring });
      first += count;
    }
  }
  return { legs, asked };
}
