import type { DrawnCurve } from '@kelp/core';
import type { Rails } from '../evaluation/protocol.js';
import { alongRails } from '../lines/spot.js';

/** Distances along several curves, one after the other, as shares of each curve's own length. */
export function inShares(along: Float32Array): Float32Array {
  const out = new Float32Array(along.length);
  for (let from = 0; from < along.length; ) {
    let end = from + 1;
    while (end < along.length && along[end] >= along[end - 1]) end++;
    const length = along[end - 1] || 1;
    for (let p = from; p < end; p++) out[p] = along[p] / length;
    from = end;
  }
  return out;
}

/** Share of the curve's length at a point of the rails and a part of the way to the next one. */
export function shareAt(rails: Rails, point: number, part: number): number {
  let c = 0;
  while (c + 2 < rails.start.length && point >= rails.start[c + 1]) c++;
  const { at, length } = alongRails(rails, c);
  const p = point - rails.start[c];
  const next = p + 1 < at.length ? at[p + 1] : length;
  return length > 0 ? (at[p] + part * (next - at[p])) / length : 0;
}

/** A drawn point as the strip marks it. */
export interface PointMark {
  share: number;
  /** The line breaks there: two stretches are joined. */
  corner: boolean;
  /** It lies on a prop. */
  held: boolean;
}

/** Where the rings of the section stand along each curve, as shares. */
export function ringShares(rails: Rails): number[] {
  return Array.from({ length: rails.start.length - 1 }, (_, c) => {
    const { at, length } = alongRails(rails, c);
    return length > 0 ? Array.from(at, (distance) => distance / length) : [];
  }).flat();
}

/** The drawn points of each curve, each at the nearest point of the finished line. */
export function pointMarks(curves: readonly DrawnCurve[], rails: Rails): PointMark[] {
  const count = Math.min(curves.length, rails.start.length - 1);
  return curves.slice(0, count).flatMap(({ points }, c) => {
    const { at, length } = alongRails(rails, c);
    if (length === 0) return [];
    return points.map(({ position: [x, y, z], corner, anchor }) => {
      let best = 0;
      let nearest = Infinity;
      for (let p = 0; p < at.length; p++) {
        const q = 3 * (rails.start[c] + p);
        const far = Math.hypot(rails.position[q] - x, rails.position[q + 1] - y, rails.position[q + 2] - z);
        if (far < nearest) [nearest, best] = [far, p];
      }
      return { share: at[best] / length, corner, held: anchor !== undefined };
    });
  });
}
