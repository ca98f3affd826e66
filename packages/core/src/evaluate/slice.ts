import { Walk, type Walkable } from '../curve/walk.js';
import { dot, subtract, vec3 } from '../numeric/vector.js';
import { type CutPlane, cutPart, cutPlane } from '../part/cut.js';
import { partCounts } from '../part/part.js';
import type { Part } from '../unit/carriers.js';

/** One closed outline of the slice: flat (side, up) pairs from the first line, metres. */
export interface SliceOutline {
  points: Float64Array;
  /** Enclosed area, m². */
  area: number;
  /** It is the rim of a hole in another outline of the same part. */
  hole: boolean;
  part: string;
  slot: string;
}

/** A true cross-section of what was made. */
export interface Slice {
  outlines: SliceOutline[];
  /** Extent over all outlines, metres. */
  width: number;
  height: number;
  /** Area of the material, holes taken off, m². */
  area: number;
  /** Least distance between two bodies; Infinity when there is one only. */
  gap: number;
}

/** Every line is cut across itself: of very many, the first ones. */
const MAX_LINES = 16;
/** Triangles that are looked at for all lines together. */
const MAX_WORK = 4_000_000;
const MAX_OUTLINES = 400;
/** Lines further from the first than this many times the reach are not drawn beside it: all would be dots. */
const BESIDE = 24;

/**
 * Cuts the parts across every line of the guide, at one share of each line's length. Only outlines round a line or
 * beside it are kept: of a coil the other turns are left out, unless they come nearer than the section is wide. What other
 * lines carry is drawn where those stand, seen along the first.
 * @param near how far from its line an outline may begin, metres
 */
export function sliceAt(parts: readonly Part[], guide: Walkable, share: number, near: number): Slice | undefined {
  const first = planeAt(guide, 0, share);
  if (!first) return undefined;
  const triangles = parts.reduce((sum, part) => sum + partCounts(part).triangles, 0);
  const lines = Math.min(guide.closed.length, MAX_LINES, Math.max(1, Math.floor(MAX_WORK / Math.max(1, triangles))));
  const outlines: SliceOutline[] = [];
  const seen = new Set<string>();
  for (let c = 0; c < lines; c++) {
    const plane = c === 0 ? first : planeAt(guide, c, share);
    if (!plane) continue;
    const from = subtract(vec3(), plane.at, first.at);
    const [x, y] = [dot(from, first.side), dot(from, first.up)];
    if (Math.hypot(x, y) > BESIDE * near) continue;
    for (const part of parts)
      for (const points of cutPart(part, plane, 4 * near)) {
        if (distanceTo(points, 0, 0) > near && !holds(points, 0, 0)) continue;
        for (let i = 0; i < points.length; i += 2) {
          points[i] += x;
          points[i + 1] += y;
        }
        // lines that run side by side are cut by each other's planes too
        const name = `${part.id} ${nameOf(points, near)}`;
        if (seen.has(name) || outlines.length >= MAX_OUTLINES) continue;
        seen.add(name);
        outlines.push({ points, area: Math.abs(shoelace(points)), hole: false, part: part.name, slot: part.slot });
      }
  }
  if (outlines.length === 0) return undefined;
  const owner = markHoles(outlines);
  return { outlines, ...extentOf(outlines), gap: leastGap(outlines, owner) };
}

function planeAt(guide: Walkable, c: number, share: number): CutPlane | undefined {
  const walk = new Walk(guide, c);
  if (!(walk.length > 0)) return undefined;
  // at the very ends there is a cap, or nothing
  const metres = Math.min(0.999, Math.max(0.001, share)) * walk.length;
  return cutPlane(walk.pointAt(metres, vec3()), walk.directionAt(metres, vec3()));
}

/** Middle and size to a hundredth of the section: two cuts of one body have the same name. */
function nameOf(points: Float64Array, near: number): string {
  let [x, y] = [0, 0];
  for (let i = 0; i < points.length; i += 2) {
    x += points[i];
    y += points[i + 1];
  }
  const unit = (near || 1) / 50;
  return [(2 * x) / points.length, (2 * y) / points.length, Math.sqrt(Math.abs(shoelace(points)))]
    .map((value) => Math.round(value / unit))
    .join();
}

/** Signed area of a closed outline (shoelace formula, any geometry text). */
function shoelace(p: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < p.length; i += 2) {
    const j = (i + 2) % p.length;
    sum += p[i] * p[j + 1] - p[j] * p[i + 1];
  }
  return sum / 2;
}

/** Marks outlines that lie in an odd number of others of their part. Returns the nearest outline round each hole. */
function markHoles(outlines: readonly SliceOutline[]): Map<SliceOutline, SliceOutline> {
  const owner = new Map<SliceOutline, SliceOutline>();
  for (const one of outlines) {
    const round = outlines.filter(
      (other) =>
        other !== one &&
        other.part === one.part &&
        other.area > one.area &&
        holds(other.points, one.points[0], one.points[1]),
    );
    one.hole = round.length % 2 === 1;
    if (one.hole)
      owner.set(
        one,
        round.reduce((a, b) => (a.area < b.area ? a : b)),
      );
  }
  return owner;
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
  const area = outlines.reduce((sum, outline) => sum + (outline.hole ? -1 : 1) * outline.area, 0);
  return { width: range(0), height: range(1), area };
}

/** True when a place lies inside an outline: an even-odd count along a ray from it. */
function holds(p: Float64Array, x: number, y: number): boolean {
  let inside = false;
  for (let i = 0; i < p.length; i += 2) {
    const j = (i + 2) % p.length;
    const [ay, by] = [p[i + 1] - y, p[j + 1] - y];
    if (ay > 0 !== by > 0 && p[i] - x + ((p[j] - p[i]) * ay) / (ay - by) > 0) inside = !inside;
  }
  return inside;
}

/** Least distance between two bodies: a hole and what it is in are one. */
function leastGap(outlines: readonly SliceOutline[], owner: ReadonlyMap<SliceOutline, SliceOutline>): number {
  let least = Infinity;
  for (const one of outlines)
    for (const other of outlines) {
      if (one === other || owner.get(one) === other || owner.get(other) === one) continue;
      const { points: p } = one;
      for (let i = 0; i < p.length; i += 2) least = Math.min(least, distanceTo(other.points, p[i], p[i + 1]));
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
