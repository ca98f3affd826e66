import type { Mesh } from '@kelp/core';
import { PIER, STAIR } from './places.js';
import { SolidBuilder, type Vec } from './solid-builder.js';

/** Treads between two stringers, from the pier's front edge down to the water. */
export function stair(): Mesh {
  const solid = new SolidBuilder();
  const { left, right, rise, run, treads } = STAIR;
  const [y, z] = [PIER.deck, PIER.front];
  for (let k = 1; k <= treads; k++)
    solid.box(
      [(left + right) / 2, y - k * rise - 0.02, z + (k - 0.4) * run],
      [right - left - 0.06, 0.04, run + 0.03],
      0.008,
    );
  const end = treads + 0.4;
  for (const x of [left, right]) {
    const side = (dx: number): Vec[] => [
      [x + dx, y - 0.06, z],
      [x + dx, y - 0.06 - end * rise, z + end * run],
      [x + dx, y - 0.26 - end * rise, z + end * run],
      [x + dx, y - 0.26, z],
    ];
    const [p, q] = [side(-0.025), side(0.025)];
    const middle: Vec = [x, y - 0.16 - (end * rise) / 2, z + (end * run) / 2];
    solid.faces(middle, [p, q, ...[0, 1, 2, 3].map((i) => [p[i], p[(i + 1) % 4], q[(i + 1) % 4], q[i]])]);
  }
  return solid.finish(0.5);
}

/** Posts and a flat bar over them, level on the pier and sloping with the stair: its edge carries the hand rail. */
export function stairRail(): Mesh {
  const solid = new SolidBuilder();
  const { right: x, rise, run, treads, rail } = STAIR;
  const [y, z] = [PIER.deck, PIER.front];
  const way: [number, number][] = [
    [y + rail, z - 0.62],
    [y + rail, z + 0.04],
    [y + rail - treads * rise, z + 0.04 + treads * run],
  ];
  for (const [height, depth] of [
    [0, -0.55],
    [0, -0.06],
    [-2, 0.04 + 2 * run],
    [-treads + 0.5, 0.04 + (treads - 0.5) * run],
  ] as const) {
    const [foot, top] = [y + height * rise - 0.12, y + rail + height * rise - 0.02];
    solid.cylinder([x + 0.05, (foot + top) / 2, z + depth], 0.016, top - foot, 20, 'y', 0.002);
  }
  const ring = ([h, d]: [number, number]): Vec[] => [
    [x + 0.03, h - 0.012, d],
    [x + 0.07, h - 0.012, d],
    [x + 0.07, h + 0.012, d],
    [x + 0.03, h + 0.012, d],
  ];
  for (let k = 0; k + 1 < way.length; k++) {
    const [p, q] = [ring(way[k]), ring(way[k + 1])];
    const middle: Vec = [x + 0.05, (way[k][0] + way[k + 1][0]) / 2, (way[k][1] + way[k + 1][1]) / 2];
    solid.faces(middle, [
      ...[0, 1, 2, 3].map((i) => [p[i], p[(i + 1) % 4], q[(i + 1) % 4], q[i]]),
      ...(k === 0 ? [p] : [q]),
    ]);
  }
  return solid.finish(0.5);
}
