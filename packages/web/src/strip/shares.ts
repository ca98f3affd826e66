import { type DrawnCurve, Walk, type Walkable } from '@kelp/core';
import type { PieceBuild } from '../evaluation/protocol.js';
import { alongGuide } from '../lines/spot.js';

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

/** Share of the curve's length at a point of the guide and a part of the way to the next one. */
export function shareAt(guide: Walkable, point: number, part: number): number {
  let c = 0;
  while (c + 2 < guide.start.length && point >= guide.start[c + 1]) c++;
  const { at, length } = alongGuide(guide, c);
  const p = point - guide.start[c];
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

/** Places of one kind along the line, as shares: the elements, joints, clips or lays that a make unit names. */
export interface MarkRow {
  kind: string;
  label: string;
  shares: number[];
}

export function markRows({ marks, guide }: Pick<PieceBuild, 'marks' | 'guide'>): MarkRow[] {
  const lengths = Array.from(guide.closed, (_, c) => new Walk(guide, c).length || 1);
  return marks.map(({ kind, label, along, curve }) => ({
    kind,
    label,
    shares: Array.from(along, (metres, i) => metres / lengths[curve[i]]),
  }));
}

/** Where the rings of the section stand along each curve, as shares. */
export function ringShares(guide: Walkable): number[] {
  return Array.from({ length: guide.start.length - 1 }, (_, c) => {
    const { at, length } = alongGuide(guide, c);
    return length > 0 ? Array.from(at, (distance) => distance / length) : [];
  }).flat();
}

/** The drawn points of each curve, each at the nearest point of the finished line. */
export function pointMarks(curves: readonly DrawnCurve[], guide: Walkable): PointMark[] {
  const count = Math.min(curves.length, guide.start.length - 1);
  return curves.slice(0, count).flatMap(({ points }, c) => {
    const { at, length } = alongGuide(guide, c);
    if (length === 0) return [];
    return points.map(({ position: [x, y, z], corner, anchor }) => {
      let best = 0;
      let nearest = Infinity;
      for (let p = 0; p < at.length; p++) {
        const q = 3 * (guide.start[c] + p);
        const far = Math.hypot(guide.position[q] - x, guide.position[q + 1] - y, guide.position[q + 2] - z);
        if (far < nearest) [nearest, best] = [far, p];
      }
      return { share: at[best] / length, corner, held: anchor !== undefined };
    });
  });
}
