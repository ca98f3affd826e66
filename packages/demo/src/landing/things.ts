import type { Mesh } from '@kelp/core';
import { SolidBuilder, type Vec } from '../props/solid-builder.js';

/** The wall of the pump house: its face looks to +z; metres. */
export const WALL = { left: -1.15, right: 0.05, face: -0.45, top: 1.15, thick: 0.08 } as const;
/** Three pilings, and how high weed grows on them. */
export const PILINGS: readonly Vec[] = [
  [0.28, 0, -0.28],
  [0.72, 0, -0.36],
  [1.16, 0, -0.24],
];
export const PILING = { radius: 0.075, height: 0.98 } as const;
/** The box on the wall that cables come from, its middle; and its size. */
export const BOX: Vec = [-0.86, 0.86, WALL.face + 0.05];
export const BOX_SIZE: Vec = [0.24, 0.18, 0.1];
/** Sensors on the wall. */
export const SENSORS: readonly Vec[] = [
  [-0.62, 0.22, WALL.face],
  [-0.3, 0.37, WALL.face],
  [-0.07, 0.3, WALL.face],
];
/** The stand with four taps that the hoses go to. */
export const TAPS: readonly Vec[] = [-0.09, -0.03, 0.03, 0.09].map((z): Vec => [0.66, 0.2, 0.2 + z]);

export function quay(): Mesh {
  const solid = new SolidBuilder();
  for (let k = 0; k < 3; k++) solid.box([-0.8 + 0.8 * k, -0.03, 0], [0.794, 0.06, 1.1], 0.008);
  return solid.finish();
}

/** Boards with a batten over each gap, on a sill. */
export function wall(): Mesh {
  const solid = new SolidBuilder();
  const boards = 6;
  const step = (WALL.right - WALL.left) / boards;
  for (let k = 0; k < boards; k++)
    solid.box(
      [WALL.left + (k + 0.5) * step, WALL.top / 2, WALL.face - WALL.thick / 2],
      [step - 0.003, WALL.top, WALL.thick],
      0.004,
    );
  solid.box(
    [(WALL.left + WALL.right) / 2, WALL.top + 0.02, WALL.face - WALL.thick / 2],
    [WALL.right - WALL.left + 0.06, 0.05, WALL.thick + 0.06],
    0.008,
  );
  return solid.finish();
}

export function pilings(): Mesh {
  const solid = new SolidBuilder();
  for (const [x, y, z] of PILINGS) {
    solid.cylinder([x, y + PILING.height / 2 - 0.02, z], PILING.radius, PILING.height, 40);
    solid.cylinder([x, y + PILING.height - 0.01, z], PILING.radius + 0.012, 0.04, 40);
  }
  return solid.finish();
}

export function terminalBox(): Mesh {
  const solid = new SolidBuilder();
  solid.box(BOX, BOX_SIZE, 0.012);
  solid.box([BOX[0], BOX[1], BOX[2] + 0.052], [BOX_SIZE[0] - 0.03, BOX_SIZE[1] - 0.03, 0.008], 0.003);
  return solid.finish();
}

export function sensors(): Mesh {
  const solid = new SolidBuilder();
  for (const [x, y, z] of SENSORS) {
    solid.box([x, y, z + 0.014], [0.07, 0.05, 0.028], 0.005);
    solid.cylinder([x, y - 0.055, z + 0.016], 0.013, 0.06, 20, 'y', 0.003);
  }
  return solid.finish();
}

export function taps(): Mesh {
  const solid = new SolidBuilder();
  const [x, , z] = TAPS[0].map((_, k) => TAPS.reduce((sum, tap) => sum + tap[k] / TAPS.length, 0));
  solid.box([x, 0.085, z], [0.06, 0.17, 0.26], 0.008);
  solid.box([x, 0.006, z], [0.14, 0.012, 0.32], 0.004);
  for (const [tx, ty, tz] of TAPS) solid.cylinder([tx, ty - 0.03, tz], 0.014, 0.06, 20, 'y', 0.002);
  return solid.finish();
}
