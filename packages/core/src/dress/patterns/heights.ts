import { randomAt } from '../../numeric/random.js';

export const PATTERNS = ['ribs', 'braid', 'weave', 'knurl', 'brushed', 'rubber'] as const;
export type PatternKind = (typeof PATTERNS)[number];

/** How high a pattern is at a place of its tile, 0 … 1; u and v are 0 … 1, and what leaves at one side comes in at the other. */
export const PATTERN_HEIGHT: Record<PatternKind, (u: number, v: number) => number> = {
  // one round ring a tile, with a narrow groove
  ribs: (_u, v) => Math.sqrt(Math.max(0, 1 - (2 * v - 1) ** 2)),
  // two families of strands, slanting either way
  braid: (u, v) => woven(u + v, u - v),
  weave: (u, v) => woven(2 * u, 2 * v),
  // pyramids on their corners, their tips taken off
  knurl: (u, v) => Math.min(0.8, wave(u + v), wave(u - v)) / 0.8,
  // scratches along v: much finer across it
  brushed: (u, v) => (noise(u, v, 96, 3, 1) + noise(u, v, 192, 5, 2) + noise(u, v, 48, 2, 3)) / 3,
  // low bumps without order, finer ones on them
  rubber: (u, v) => 0.6 * noise(u, v, 24, 24, 4) + 0.4 * noise(u, v, 56, 56, 5),
};

/** 0 at whole numbers, 1 halfway between them, straight in between. */
const wave = (x: number): number => 1 - Math.abs(2 * (x - Math.floor(x)) - 1);

/** Two families of round strands, one a cell of a and b each: over one, under the next. */
function woven(a: number, b: number): number {
  const [cellA, cellB] = [Math.floor(a), Math.floor(b)];
  const [x, y] = [a - cellA - 0.5, b - cellB - 0.5];
  const over = (cellA + cellB) % 2 === 0 ? 1 : -1;
  const one = strand(x, y, over);
  const other = strand(y, x, -over);
  return Math.max(one, other);
}

/** A strand that runs along x: round over y, up in the middle of this cell, or down there; its edge is at the bottom. */
const strand = (x: number, y: number, over: number): number =>
  0.5 * Math.sqrt(Math.max(0, 1 - (2 * y) ** 2)) * (1 + over * Math.cos(Math.PI * x));

const NOISE = 0x9a77;

/** Smooth noise on a lattice of this many cells each way that closes on itself, 0 … 1. */
function noise(u: number, v: number, across: number, along: number, seed: number): number {
  const [x, y] = [u * across, v * along];
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [s, t] = [eased(x - i), eased(y - j)];
  const at = (di: number, dj: number) => randomAt(seed, ((i + di) % across) + across * ((j + dj) % along), NOISE);
  const low = at(0, 0) + s * (at(1, 0) - at(0, 0));
  const high = at(0, 1) + s * (at(1, 1) - at(0, 1));
  return low + t * (high - low);
}

const eased = (t: number): number => t * t * (3 - 2 * t);
