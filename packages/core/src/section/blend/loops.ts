import type { Section } from '../section.js';

/** One face of an outline: from a place to the next, with the normals at both and their shares of the way round. */
export interface Face {
  from: Place;
  to: Place;
}

export interface Place {
  x: number;
  y: number;
  nx: number;
  ny: number;
  /** Share of the way round, 0…1. */
  u: number;
}

/** An outline of a section. */
export interface Outline {
  faces: readonly Face[];
  /** Where its places begin in the rim of a section that is closed. */
  rim: number;
  closed: boolean;
}

/** Normals that differ by less than this are one (cosine). */
const SMOOTH = 0.9995;

/** The outlines a section consists of. */
export function outlinesOf({ x, y, normalX, normalY, u, face, open }: Section): Outline[] {
  const place = (column: number): Place => ({
    x: x[column],
    y: y[column],
    nx: normalX[column],
    ny: normalY[column],
    u: u[column],
  });
  const all: Face[][] = [];
  for (const column of face) {
    // the way round begins at 0 with each outline
    if (u[column] === 0) all.push([]);
    all[all.length - 1].push({ from: place(column), to: place(column + 1) });
  }
  let rim = 0;
  return all.map((faces) => {
    const outline = { faces, rim, closed: open !== true };
    rim += faces.length;
    return outline;
  });
}

export const lengthOf = ({ from, to }: Face): number => Math.hypot(to.x - from.x, to.y - from.y);

/** Whether a closed outline turns sharply where a face begins. */
export function isSharp({ faces }: Outline, f: number): boolean {
  const before = faces[(f + faces.length - 1) % faces.length].to;
  const after = faces[f].from;
  return before.nx * after.nx + before.ny * after.ny < SMOOTH;
}

/** The place at a share of the way round, on the face that begins there or before. */
export function placeOn({ faces }: Outline, f: number, u: number): Place {
  const { from, to } = faces[f];
  const t = to.u > from.u ? Math.max(0, Math.min(1, (u - from.u) / (to.u - from.u))) : 0;
  if (t === 0) return from;
  if (t === 1) return to;
  const mix = (a: number, b: number) => a + t * (b - a);
  const [nx, ny] = [mix(from.nx, to.nx), mix(from.ny, to.ny)];
  const size = Math.hypot(nx, ny) || 1;
  return { x: mix(from.x, to.x), y: mix(from.y, to.y), nx: nx / size, ny: ny / size, u };
}

/** The face in which a share of the way round lies, where it is not its end. */
export function faceAt({ faces }: Outline, u: number): number {
  let [low, high] = [0, faces.length];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (faces[middle].from.u <= u) low = middle;
    else high = middle;
  }
  return low;
}
