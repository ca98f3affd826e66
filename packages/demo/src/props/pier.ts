import type { Mesh } from '@kelp/core';
import { GATE, LAMP_ARM, LAMP_POSTS, PIER, PIER_BOLLARDS } from './places.js';
import { SolidBuilder, type Vec } from './solid-builder.js';

/** Planks side by side along x from `left` to `right`, each `depth` long in z. */
function planks(
  solid: SolidBuilder,
  left: number,
  right: number,
  back: number,
  front: number,
  top: number,
  width: number,
): void {
  const count = Math.round((right - left) / width);
  const step = (right - left) / count;
  for (let i = 0; i < count; i++)
    solid.box([left + (i + 0.5) * step, top - 0.022, (front + back) / 2], [step - 0.009, 0.044, front - back], 0.005);
}

export function pier(): Mesh {
  const solid = new SolidBuilder();
  planks(solid, PIER.left, PIER.right, PIER.back, PIER.front, PIER.deck, 0.17);
  const middle = (PIER.left + PIER.right) / 2;
  const length = PIER.right - PIER.left;
  for (const z of [-0.92, 0, 0.92]) solid.box([middle, PIER.deck - 0.134, z], [length - 0.06, 0.18, 0.12], 0.008);
  for (const z of [PIER.back + 0.04, PIER.front - 0.04])
    solid.box([middle, PIER.deck + 0.032, z], [length, 0.064, 0.08], 0.012);
  for (const x of [PIER.left + 0.5, middle, PIER.right - 0.5])
    for (const z of [-0.92, 0.92]) solid.cylinder([x, 0.1, z], 0.13, 1.24, 28);
  return solid.finish();
}

/** A mooring bollard: flared foot, waist, mushroom head. */
const bollardProfile: readonly (readonly [number, number])[] = [
  [0, -0.01],
  [0.17, -0.01],
  [0.175, 0.012],
  [0.16, 0.03],
  [0.115, 0.05],
  [0.1, 0.085],
  [0.095, 0.14],
  [0.095, 0.3],
  [0.1, 0.33],
  [0.12, 0.355],
  [0.142, 0.375],
  [0.148, 0.395],
  [0.138, 0.42],
  [0.1, 0.438],
  [0.05, 0.446],
  [0, 0.448],
];

export function bollards(): Mesh {
  const solid = new SolidBuilder();
  for (const place of PIER_BOLLARDS) solid.lathe(place, bollardProfile, 48);
  return solid.finish(0.7);
}

export function lampPosts(): Mesh {
  const solid = new SolidBuilder();
  for (const [x, y, z] of LAMP_POSTS) {
    solid.lathe(
      [x, y, z],
      [
        [0, -0.005],
        [0.1, -0.005],
        [0.1, 0.012],
        [0.05, 0.03],
        [0.042, 0.08],
        [0.034, 2.1],
        [0.038, 2.12],
        [0.03, 2.15],
        [0, 2.16],
      ],
      28,
    );
    solid.cylinder([x, y + LAMP_ARM.height, z + LAMP_ARM.reach / 2], 0.016, LAMP_ARM.reach, 20, 'z', 0.004);
    const tip: Vec = [x, y + LAMP_ARM.height, z + LAMP_ARM.reach];
    solid.lathe(
      tip,
      [
        [0, -0.17],
        [0.09, -0.17],
        [0.112, -0.155],
        [0.1, -0.11],
        [0.06, -0.06],
        [0.03, -0.03],
        [0.028, 0.02],
        [0, 0.03],
      ],
      32,
    );
  }
  return solid.finish(0.7);
}

/** Two round posts with square feet and flat tops. */
export function gatePosts(): Mesh {
  const solid = new SolidBuilder();
  for (const [x, y, z] of GATE.feet) {
    solid.box([x, y + 0.015, z], [0.2, 0.03, 0.2], 0.006);
    solid.lathe(
      [x, y, z],
      [
        [0, 0.02],
        [GATE.radius + 0.02, 0.02],
        [GATE.radius, 0.07],
        [GATE.radius, GATE.height],
        [0, GATE.height],
      ],
      40,
    );
  }
  return solid.finish();
}
