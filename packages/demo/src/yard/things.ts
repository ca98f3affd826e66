import type { Mesh } from '@kelp/core';
import { SolidBuilder } from '../props/solid-builder.js';

// The yard where rafts are hauled out, and kelp is lifted up to them; metres, the ground at 0.

/** Axles of the winch: its drum and its motor, and how far in front of them the belt runs. */
export const WINCH = {
  drum: [-2.3, 0.66, -0.55],
  motor: [-1.2, 0.34, -0.55],
  idler: [-1.72, 0.68, -0.55],
  front: 0.42,
} as const;
/** The sledge: the middle of its deck, and how far to its sides the tracks run. */
export const SLEDGE = { at: [0.35, 0.354, 0.95], aside: 0.44 } as const;
/** The conveyor: its lower and its upper axle, and its middle across. */
export const CONVEYOR = { low: [1.15, 0.34, -1.1], high: [3.1, 1.3, -1.1], width: 0.52 } as const;
/** The deck of the raft that the conveyor leads up to. */
const RAFT = { at: [4.05, 0.95, -1.1], size: [1.5, 0.12, 1.7] } as const;

export const ground = (): Mesh => new SolidBuilder().box([0.7, -0.09, -0.1], [8.4, 0.18, 4.6], 0.03).finish();

/** A frame of two cheeks with the drum between them, and the motor on its foot. */
export function winch(): Mesh {
  const solid = new SolidBuilder();
  const [x, y, z] = WINCH.drum;
  for (const side of [-1, 1]) {
    const at = z + side * 0.3;
    for (const foot of [-1, 1]) solid.box([x + foot * 0.3, 0.35, at], [0.09, 0.7, 0.06], 0.01);
    solid.box([x, 0.05, at], [0.86, 0.1, 0.1], 0.015);
    solid.box([x, y, at], [0.72, 0.12, 0.07], 0.015);
  }
  const drum: [number, number][] = [
    [0, -0.24],
    [0.26, -0.24],
    [0.26, -0.21],
    [0.15, -0.205],
    [0.15, 0.205],
    [0.26, 0.21],
    [0.26, 0.24],
    [0, 0.24],
  ];
  solid.lathe([x, y, z], drum, 40, 'z');
  solid.lathe(
    [x, y, z],
    [
      [0, -0.4],
      [0.035, -0.4],
      [0.035, WINCH.front + 0.07],
      [0, WINCH.front + 0.07],
    ],
    20,
    'z',
  );
  const [mx, my] = WINCH.motor;
  solid.lathe(
    [mx, my, z],
    [
      [0, -0.3],
      [0.13, -0.28],
      [0.16, -0.22],
      [0.16, 0.2],
      [0.11, 0.26],
      [0, 0.26],
    ],
    32,
    'z',
  );
  solid.lathe(
    [mx, my, z],
    [
      [0, 0.2],
      [0.02, 0.2],
      [0.02, WINCH.front + 0.07],
      [0, WINCH.front + 0.07],
    ],
    16,
    'z',
  );
  solid.box([mx, 0.1, z], [0.34, 0.2, 0.42], 0.02);
  const [ix, iy] = WINCH.idler;
  solid.box([(ix + x) / 2 + 0.12, iy, z + 0.3], [0.62, 0.06, 0.05], 0.01);
  solid.lathe(
    [ix, iy, z],
    [
      [0, 0.28],
      [0.015, 0.28],
      [0.015, WINCH.front + 0.05],
      [0, WINCH.front + 0.05],
    ],
    12,
    'z',
  );
  return solid.finish();
}

/** What the tracks carry: a deck with a stake at each corner, and what is on it. */
export function sledge(): Mesh {
  const solid = new SolidBuilder();
  const [x, y, z] = SLEDGE.at;
  solid.box([x, y - 0.1, z], [1.2, 0.16, 0.5], 0.02);
  for (let k = 0; k < 7; k++) solid.box([x - 0.66 + 0.22 * k, y + 0.19, z], [0.205, 0.05, 1.24], 0.006);
  for (const a of [-1, 1])
    for (const b of [-1, 1]) solid.box([x + a * 0.68, y + 0.33, z + b * 0.56], [0.06, 0.24, 0.06], 0.008);
  for (const a of [-1, 1]) solid.box([x + a * 0.4, y + 0.08, z], [0.12, 0.2, 0.6], 0.01);
  return solid.finish();
}

/** Two beams that carry the conveyor's axles, on legs. */
export function trestle(): Mesh {
  const solid = new SolidBuilder();
  const [low, high] = [CONVEYOR.low, CONVEYOR.high];
  for (const side of [-1, 1]) {
    const z = low[2] + side * (CONVEYOR.width / 2 + 0.06);
    for (const share of [0.08, 0.5, 0.92]) {
      const [x, y] = [0, 1].map((n) => low[n] + share * (high[n] - low[n]));
      solid.box([x, (y - 0.05) / 2, z], [0.08, y - 0.05, 0.05], 0.008);
      solid.box([x, 0.03, z], [0.2, 0.06, 0.14], 0.01);
    }
  }
  return solid.finish();
}

export function raft(): Mesh {
  const solid = new SolidBuilder();
  const [x, y, z] = RAFT.at;
  const [w, h, d] = RAFT.size;
  for (let k = 0; k < 8; k++) solid.box([x - w / 2 + 0.095 + 0.188 * k, y - h / 2, z], [0.18, h / 2, d], 0.006);
  for (const side of [-1, 1]) {
    solid.box([x, y - h / 2 - 0.1, z + side * 0.55], [w, 0.14, 0.12], 0.01);
    solid.box([x, (y - 0.2) / 2, z + side * 0.55], [0.7, y - 0.22, 0.5], 0.12);
  }
  return solid.finish();
}

/** A crate of slats with kelp in it. */
export function crate(): Mesh {
  const solid = new SolidBuilder();
  const [w, h, d] = [0.3, 0.2, 0.38];
  const [x, z] = [0.62, -0.55];
  for (const side of [-1, 1]) {
    for (const high of [0.04, 0.1, 0.16]) {
      solid.box([x, high, z + (side * d) / 2], [w, 0.045, 0.016], 0.003);
      solid.box([x + (side * w) / 2, high, z], [0.016, 0.045, d - 0.02], 0.003);
    }
    for (const end of [-1, 1])
      solid.box([x + (side * (w - 0.04)) / 2, h / 2, z + (end * (d - 0.05)) / 2], [0.03, h, 0.03], 0.003);
  }
  solid.box([x, 0.012, z], [w, 0.024, d], 0.003);
  for (let k = 0; k < 5; k++)
    solid.box([x - 0.02 + 0.01 * k, 0.13 + 0.012 * (k % 2), z - 0.14 + 0.07 * k], [0.22, 0.05, 0.06], 0.02, 0.5 * k);
  return solid.finish();
}
