import type { Mesh } from '@kelp/core';
import { HOUSE, PIER, WINCH } from './places.js';
import { SolidBuilder, type Vec } from './solid-builder.js';

export function houseWalls(): Mesh {
  const solid = new SolidBuilder();
  const { left, right, front, back, eaves } = HOUSE;
  const [cx, cz] = [(left + right) / 2, (front + back) / 2];
  const y = PIER.deck;
  const [w, d] = [right - left, front - back];
  solid.box([cx, y + eaves / 2, cz], [w, eaves, d], 0.015);
  // gables: a ridge along x
  const rise = 0.42;
  for (const x of [left + 0.02, right - 0.02]) {
    const [a, b] = [x - 0.02, x + 0.02];
    const at = (px: number): Vec[] => [
      [px, y + eaves - 0.02, back],
      [px, y + eaves - 0.02, front],
      [px, y + eaves + rise, cz],
    ];
    const [p, q] = [at(a), at(b)];
    solid.faces(
      [x, y + eaves + rise / 3, cz],
      [p, q, [p[0], p[1], q[1], q[0]], [p[1], p[2], q[2], q[1]], [p[2], p[0], q[0], q[2]]],
    );
  }
  // battens on the front and the right side, a door and a window frame
  for (let i = 0; i <= 8; i++)
    solid.box(
      [left + 0.04 + ((w - 0.08) * i) / 8, y + eaves / 2 - 0.02, front + 0.011],
      [0.035, eaves - 0.06, 0.024],
      0.004,
    );
  for (let i = 1; i < 5; i++)
    solid.box([right + 0.011, y + eaves / 2 - 0.02, back + (d * i) / 5], [0.024, eaves - 0.06, 0.035], 0.004);
  solid.box([left + 0.5, y + 0.78, front + 0.028], [0.66, 1.5, 0.05], 0.01);
  for (const [px, py, sx, sy] of [
    [0, 0.3, 0.62, 0.05],
    [0, -0.3, 0.62, 0.05],
    [-0.3, 0, 0.05, 0.6],
    [0.3, 0, 0.05, 0.6],
    [0, 0, 0.03, 0.6],
  ])
    solid.box([right - 0.46 + px, y + 1.12 + py, front + 0.032], [sx, sy, 0.045], 0.006);
  return solid.finish();
}

export function houseRoof(): Mesh {
  const solid = new SolidBuilder();
  const { left, right, front, back, eaves } = HOUSE;
  const cz = (front + back) / 2;
  const y = PIER.deck + eaves;
  const rise = 0.42;
  const over = 0.16;
  const thick = 0.05;
  const slope = rise / ((front - back) / 2);
  for (const side of [-1, 1]) {
    const edge = cz + side * ((front - back) / 2 + over);
    const low = y - over * slope + 0.02;
    const high = y + rise + 0.02;
    const at = (x: number): Vec[] => [
      [x, high, cz],
      [x, low, edge],
      [x, low + thick, edge],
      [x, high + thick, cz],
    ];
    const [p, q] = [at(left - over), at(right + over)];
    const middle: Vec = [(left + right) / 2, (low + high + thick) / 2, (cz + edge) / 2];
    solid.faces(middle, [p, q, ...[0, 1, 2, 3].map((i) => [p[i], p[(i + 1) % 4], q[(i + 1) % 4], q[i]])]);
  }
  solid.cylinder([(left + right) / 2, y + rise + 0.055, cz], 0.035, right - left + 2 * over, 20, 'x');
  return solid.finish(0.5);
}

/** The winch: a drum between two cheeks on a frame, in front of Kelp. */
export function winch(): Mesh {
  const solid = new SolidBuilder();
  const [x, , z] = WINCH.center;
  const y = PIER.deck;
  solid.box([x, y + 0.03, z], [0.5, 0.06, 0.5], 0.01);
  for (const dx of [-0.19, 0.19]) solid.box([x + dx, y + 0.2, z], [0.03, 0.34, 0.28], 0.008);
  solid.lathe(
    [x, y + 0.25, z],
    [
      [0, -0.175],
      [0.15, -0.175],
      [0.15, -0.15],
      [0.085, -0.145],
      [0.08, -0.13],
      [0.08, 0.13],
      [0.085, 0.145],
      [0.15, 0.15],
      [0.15, 0.175],
      [0, 0.175],
    ],
    40,
    'x',
  );
  // the shaft stands out on the right, with a washer for the spring that presses on the cheek
  solid.cylinder([x + 0.06, y + 0.25, z], 0.025, 0.68, 20, 'x', 0.004);
  solid.cylinder([WINCH.washer + 0.006, y + 0.25, z], 0.055, 0.012, 32, 'x', 0.002);
  return solid.finish();
}
