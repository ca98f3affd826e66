import { emptyMesh, type Mesh, withComputedNormals } from '@kelp/core';
import type { Vec } from '../props/solid-builder.js';

/** A cross-section of a body along x: where, how high its middle is, half its width and half its height. */
export type Station = readonly [x: number, middle: number, wide: number, high: number];

/** Sections of a body are put this many between two stations, and this many places round it. */
const BETWEEN = 4;
const ROUND = 40;

/** A closed body through its stations, smooth between them. */
export function body(stations: readonly Station[], aside = 0): Mesh {
  const rows: Station[] = [];
  for (let k = 0; k + 1 < stations.length; k++)
    for (let i = 0; i < BETWEEN; i++) rows.push(between(stations, k, i / BETWEEN));
  rows.push(stations[stations.length - 1]);
  const position: number[] = [];
  const index: number[] = [];
  for (const [x, y, wide, high] of rows)
    for (let k = 0; k < ROUND; k++) {
      const turn = (2 * Math.PI * k) / ROUND;
      position.push(x, y + high * Math.cos(turn), aside + wide * Math.sin(turn));
    }
  for (let r = 0; r + 1 < rows.length; r++)
    for (let k = 0; k < ROUND; k++) {
      const [a, b] = [r * ROUND + k, r * ROUND + ((k + 1) % ROUND)];
      index.push(a, b, b + ROUND, a, b + ROUND, a + ROUND);
    }
  for (const [row, end] of [
    [0, rows[0]],
    [rows.length - 1, rows[rows.length - 1]],
  ] as const) {
    const tip = position.length / 3;
    position.push(end[0], end[1], aside);
    for (let k = 0; k < ROUND; k++) {
      const [a, b] = [row * ROUND + k, row * ROUND + ((k + 1) % ROUND)];
      index.push(...(row === 0 ? [tip, b, a] : [tip, a, b]));
    }
  }
  return finished(position, index);
}

/** Cubic through four neighbours (Catmull & Rom, 1974). */
function between(all: readonly Station[], k: number, t: number): Station {
  const at = (i: number) => all[Math.min(all.length - 1, Math.max(0, i))];
  const [a, b, c, d] = [at(k - 1), at(k), at(k + 1), at(k + 2)];
  const mixed = b.map((value, n) => {
    const [p, q, r] = [a[n], c[n], d[n]];
    return value + 0.5 * t * (q - p + t * (2 * p - 5 * value + 4 * q - r + t * (3 * (value - q) + r - p)));
  });
  return mixed as unknown as Station;
}

/** A sheet of places by row and column. */
export function sheet(rows: number, columns: number, at: (s: number, t: number) => Vec): Mesh {
  const position: number[] = [];
  const index: number[] = [];
  for (let r = 0; r <= rows; r++)
    for (let c = 0; c <= columns; c++) {
      position.push(...at(r / rows, c / columns));
      if (r === rows || c === columns) continue;
      const k = r * (columns + 1) + c;
      index.push(k, k + columns + 1, k + columns + 2, k, k + columns + 2, k + 1);
    }
  return finished(position, index);
}

function finished(position: readonly number[], index: readonly number[]): Mesh {
  const at = Float32Array.from(position);
  return withComputedNormals(
    { ...emptyMesh(), position: at, uv: new Float32Array((2 * at.length) / 3), index: Uint32Array.from(index) },
    1.2,
  );
}
