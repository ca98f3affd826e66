import { contoursOf } from '../mesh/contours.js';
import type { Part } from '../unit/unit.js';

/** The curves that a slice is taken along: flat xyz and offsets. */
interface Rails {
  position: ArrayLike<number>;
  start: ArrayLike<number>;
}

/** One closed outline in the plane of the slice: flat (side, up) pairs from the line, metres. */
export interface SliceOutline {
  points: Float64Array;
  /** Enclosed area, m². */
  area: number;
}

/** A true cross-section of what was made. */
export interface Slice {
  outlines: SliceOutline[];
  /** Extent over all outlines, metres. */
  width: number;
  height: number;
  /** Sum of the areas, m². */
  area: number;
  /** Least distance between two outlines; Infinity when there is one only. */
  gap: number;
}

/**
 * Cuts the parts across the first curve at a share of its length. Only outlines round the line or beside it are kept:
 * of a coil the other turns are left out, unless they come nearer than the section is wide.
 * @param near how far from the line an outline may begin, metres
 */
export function sliceAt(
  parts: readonly Part[],
  { position, start }: Rails,
  share: number,
  near: number,
): Slice | undefined {
  const place = placeAlong(position, start[1] ?? position.length / 3, share);
  if (!place) return undefined;
  const { at, tangent } = place;
  // up as far as the direction allows, side to its right seen along the line
  const lead = Math.abs(tangent[1]) < 0.97 ? [0, 1, 0] : [1, 0, 0];
  const along = lead[0] * tangent[0] + lead[1] * tangent[1] + lead[2] * tangent[2];
  const up = unit(lead.map((value, n) => value - along * tangent[n]));
  const side = [
    tangent[1] * up[2] - tangent[2] * up[1],
    tangent[2] * up[0] - tangent[0] * up[2],
    tangent[0] * up[1] - tangent[1] * up[0],
  ];
  const level = at[0] * tangent[0] + at[1] * tangent[1] + at[2] * tangent[2];
  const outlines: SliceOutline[] = [];
  for (const { mesh } of parts)
    for (const { closed, position: cut } of contoursOf(mesh, tangent, level, 1, 1)) {
      if (!closed) continue;
      const points = new Float64Array((2 * cut.length) / 3);
      for (let i = 0; i < cut.length; i += 3) {
        const from = [cut[i] - at[0], cut[i + 1] - at[1], cut[i + 2] - at[2]];
        const k = (2 * i) / 3;
        points[k] = from[0] * side[0] + from[1] * side[1] + from[2] * side[2];
        points[k + 1] = from[0] * up[0] + from[1] * up[1] + from[2] * up[2];
      }
      if (distanceTo(points, 0, 0) <= near || holdsMiddle(points))
        outlines.push({ points, area: Math.abs(shoelace(points)) });
    }
  return outlines.length > 0 ? { outlines, ...extentOf(outlines), gap: leastGap(outlines) } : undefined;
}

function placeAlong(position: ArrayLike<number>, end: number, share: number) {
  const step = (p: number) => Math.hypot(...[0, 1, 2].map((n) => position[3 * p + 3 + n] - position[3 * p + n]));
  let total = 0;
  for (let p = 0; p + 1 < end; p++) total += step(p);
  // at the very ends there is a cap, or nothing
  let left = Math.min(0.999, Math.max(0.001, share)) * total;
  for (let p = 0; p + 1 < end; p++) {
    const size = step(p);
    if (size < left || size === 0) {
      left -= size;
      continue;
    }
    const t = left / size;
    const way = [0, 1, 2].map((n) => position[3 * p + 3 + n] - position[3 * p + n]);
    return { at: way.map((value, n) => position[3 * p + n] + t * value), tangent: way.map((value) => value / size) };
  }
  return undefined;
}

const unit = (v: number[]) => v.map((value) => value / (Math.hypot(...v) || 1));

/** Signed area of a closed outline (shoelace formula, any geometry text). */
function shoelace(p: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < p.length; i += 2) {
    const j = (i + 2) % p.length;
    sum += p[i] * p[j + 1] - p[j] * p[i + 1];
  }
  return sum / 2;
}

function extentOf(outlines: readonly SliceOutline[]) {
  const range = (first: number) => {
    let [low, high] = [Infinity, -Infinity];
    for (const { points } of outlines)
      for (let i = first; i < points.length; i += 2) {
        low = Math.min(low, points[i]);
        high = Math.max(high, points[i]);
      }
    return high - low;
  };
  return { width: range(0), height: range(1), area: outlines.reduce((sum, { area }) => sum + area, 0) };
}

/** True when the line itself runs inside the outline: an even-odd count along a ray from it. */
function holdsMiddle(p: Float64Array): boolean {
  let inside = false;
  for (let i = 0; i < p.length; i += 2) {
    const j = (i + 2) % p.length;
    if (p[i + 1] > 0 !== p[j + 1] > 0 && p[i] + ((p[j] - p[i]) * p[i + 1]) / (p[i + 1] - p[j + 1]) > 0)
      inside = !inside;
  }
  return inside;
}

/** Least distance from the points of one outline to the edges of another. */
function leastGap(outlines: readonly SliceOutline[]): number {
  let least = Infinity;
  for (const { points: p } of outlines)
    for (const { points: q } of outlines) {
      if (p === q) continue;
      for (let i = 0; i < p.length; i += 2) least = Math.min(least, distanceTo(q, p[i], p[i + 1]));
    }
  return least;
}

/** Distance from a place to the nearest edge of a closed outline. */
function distanceTo(q: Float64Array, x: number, y: number): number {
  let least = Infinity;
  for (let j = 0; j < q.length; j += 2) {
    const k = (j + 2) % q.length;
    const [ux, uy] = [q[k] - q[j], q[k + 1] - q[j + 1]];
    const t = ((x - q[j]) * ux + (y - q[j + 1]) * uy) / (ux * ux + uy * uy || 1);
    const c = Math.min(1, Math.max(0, t));
    least = Math.min(least, Math.hypot(q[j] + c * ux - x, q[j + 1] + c * uy - y));
  }
  return least;
}
