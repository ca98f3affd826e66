import type { Mesh } from '@kelp/core';
import { sheet } from '../nursery/bodies.js';
import { SolidBuilder, type Vec } from '../props/solid-builder.js';

// The slip, where rafts are hauled out under a roof; metres.

/** Top of the quay, and the edge that boats lie at. */
export const QUAY = { top: 0.7, left: -5.4, right: 5.6, back: -7.4, edge: 3.4 } as const;
export const ROOF = { half: 4.1, back: -6.8, front: 2.4 } as const;
/** The roof over a place: a bow across, with a rise towards the water. */
export const roofAt = (x: number, z: number): number =>
  3.5 + 0.95 * (1 - (x / ROOF.half) ** 2) + 0.035 * (z - ROOF.back);
export const PONTOON = { center: [2.6, 0.2, 10.2] as Vec, size: [3.2, 0.5, 2.8] as Vec } as const;

export const quay = (): Mesh =>
  new SolidBuilder()
    .box(
      [(QUAY.left + QUAY.right) / 2, QUAY.top - 0.9, (QUAY.back + QUAY.edge) / 2],
      [QUAY.right - QUAY.left, 1.8, QUAY.edge - QUAY.back],
      0.04,
    )
    .finish();

/** Sheets of the roof, 1 mm thick at most to the eye. */
export const roof = (): Mesh =>
  sheet(36, 36, (s, t) => {
    const x = ROOF.half * (2 * t - 1);
    const z = ROOF.back + (ROOF.front - ROOF.back) * s;
    return [x, roofAt(x, z), z];
  });

/** Posts under both eaves, with beams along them that the trusses stand on. */
export function posts(): Mesh {
  const solid = new SolidBuilder();
  for (const side of [-1, 1])
    for (let k = 0; k < 4; k++) {
      const z = -6.3 + 2.7 * k;
      const x = side * 3.72;
      const top = roofAt(x, z) - 0.72;
      solid.box([x, (QUAY.top + top) / 2, z], [0.18, top - QUAY.top, 0.18], 0.012);
      solid.box([x, QUAY.top + 0.04, z], [0.34, 0.08, 0.34], 0.01);
    }
  return solid.finish();
}

/** What floats at the foot of the gangway, on two drums. */
export function pontoon(): Mesh {
  const solid = new SolidBuilder();
  const [x, y, z] = PONTOON.center;
  const [w, h, d] = PONTOON.size;
  for (let k = 0; k < 14; k++) solid.box([x, y + h / 2 - 0.03, z - d / 2 + 0.1 + 0.2 * k], [w, 0.06, 0.192], 0.006);
  for (const side of [-1, 1]) solid.box([x + side * (w / 2 - 0.35), y - 0.08, z], [0.6, h - 0.1, d - 0.1], 0.08);
  return solid.finish();
}

/** A raft on its trolley under the roof. */
export function hull(): Mesh {
  const solid = new SolidBuilder();
  for (const side of [-1, 1]) solid.box([side * 0.75, QUAY.top + 0.62, -2.2], [0.55, 0.5, 4.6], 0.14);
  for (let k = 0; k < 9; k++) solid.box([0, QUAY.top + 0.92, -4.2 + 0.5 * k], [2.3, 0.07, 0.4], 0.008);
  for (const z of [-3.8, -0.6]) {
    solid.box([0, QUAY.top + 0.27, z], [2.2, 0.16, 0.16], 0.01);
    for (const side of [-1, 1]) solid.box([side * 0.95, QUAY.top + 0.11, z], [0.12, 0.22, 0.34], 0.05);
  }
  return solid.finish();
}
