import type { CurveSet } from '../curve/curve-set.js';
import { simplify } from '../curve/simplify.js';
import { strandCounts } from '../part/strand-meshes.js';
import type { StrandsPart } from '../unit/carriers.js';

/** Strands, and how far they are off those they represent, metres. */
export interface LeanStrands {
  part: StrandsPart;
  off: number;
}

/** Of the error that is allowed this much goes to fewer sides, the rest to fewer points. */
const BY_SIDES = 0.5;
/** What is no further off than this is the same: where a number of triangles is asked for, this much is tried first, metres. */
const MIN_ERROR = 1e-6;

/**
 * Strands with as few points and sides as keep their skin within an error: a regular polygon is off its circle by
 * r (1 − cos π/n); a line without some of its points is off by their distance from it, with half their width as one more
 * coordinate (see `simplify`).
 */
export function leanStrands(part: StrandsPart, within: number): LeanStrands {
  const half = part.width.reduce((most, width) => Math.max(most, width / 2), 0);
  const round = part.shape !== 'flat' && part.shape !== 'lines';
  const sides = round ? fewestSides(half, BY_SIDES * within, part.sides) : part.sides;
  const bySides = round && sides < part.sides ? sagitta(half, sides) : 0;
  // off along the line and in width at once: at most √2 of their distance together
  const tolerance = (within - bySides) / Math.SQRT2;
  const kept = keptPoints(part, tolerance);
  if (kept.length === part.width.length && sides === part.sides) return { part, off: 0 };
  return { part: { ...picked(part, kept), sides }, off: kept.length < part.width.length ? within : bySides };
}

/** Strands with no more triangles than that, or as few as there can be of them. */
export function strandsOfTriangles(part: StrandsPart, triangles: number): LeanStrands {
  let lean: LeanStrands = { part, off: 0 };
  for (let within = MIN_ERROR; within < 100 && strandCounts(lean.part).triangles > triangles; within *= 2)
    lean = leanStrands(part, within);
  return lean;
}

const sagitta = (radius: number, sides: number): number => radius * (1 - Math.cos(Math.PI / sides));

function fewestSides(radius: number, within: number, most: number): number {
  for (let sides = 3; sides < most; sides++) if (sagitta(radius, sides) <= within) return sides;
  return most;
}

/** Numbers of the points that are kept, curve by curve; a closed one comes back to its first. */
function keptPoints({ curves: { start, position, closed }, width }: StrandsPart, tolerance: number): number[] {
  const out: number[] = [];
  for (let c = 0; c < closed.length; c++) {
    const count = start[c + 1] - start[c];
    const points = new Float64Array(4 * (count + closed[c]));
    for (let k = 0; k < count + closed[c]; k++) {
      const p = start[c] + (k % count);
      points.set(position.subarray(3 * p, 3 * p + 3), 4 * k);
      points[4 * k + 3] = width[p] / 2;
    }
    // fewer than three close nothing
    const kept = simplify(points, tolerance, 4).filter((k) => k < count);
    if (closed[c] && kept.length < 3) for (let k = 0; k < count; k++) out.push(start[c] + k);
    else for (const k of kept) out.push(start[c] + k);
  }
  return out;
}

function picked(part: StrandsPart, points: readonly number[]): StrandsPart {
  const { curves, width } = part;
  const start = new Uint32Array(curves.start.length);
  let c = 0;
  for (const [k, p] of points.entries()) {
    while (p >= curves.start[c + 1]) start[++c] = k;
  }
  start.fill(points.length, c + 1);
  const values = <T extends Float32Array | Float64Array | Uint32Array | Int32Array | Uint8Array>(
    data: T,
    size: number,
  ): T => {
    const out = data.slice(0, size * points.length) as T;
    for (const [k, p] of points.entries()) for (let i = 0; i < size; i++) out[size * k + i] = data[size * p + i];
    return out;
  };
  const total = width.length;
  const pointData = Object.fromEntries(
    Object.entries(curves.pointData).map(([name, data]) => [name, values(data, data.length / total)]),
  );
  const own: CurveSet = { ...curves, start, position: values(curves.position, 3), pointData };
  return { ...part, curves: own, width: values(width, 1) };
}
