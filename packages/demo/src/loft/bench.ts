import type { Mesh } from '@kelp/core';
import { SolidBuilder, type Vec } from '../props/solid-builder.js';

/** The bench's top: its middle at the origin, metres. */
export const BENCH = { top: 0.07, wide: 1.1, deep: 0.6 } as const;
export const LOFT_CLEAT: Vec = [0.3, BENCH.top, -0.16];
export const LOFT_PEG: Vec = [-0.47, BENCH.top, -0.24];
/** Radius of the peg, and its height. */
export const PEG = { radius: 0.022, height: 0.12 } as const;

/** Four planks on two beams. */
export function bench(): Mesh {
  const solid = new SolidBuilder();
  const planks = 4;
  const step = BENCH.deep / planks;
  for (let k = 0; k < planks; k++)
    solid.box([0, BENCH.top - 0.015, -BENCH.deep / 2 + (k + 0.5) * step], [BENCH.wide, 0.03, step - 0.004], 0.003);
  for (const x of [-0.42, 0.42]) solid.box([x, BENCH.top - 0.05, 0], [0.06, 0.04, BENCH.deep - 0.06], 0.004);
  return solid.finish();
}

export function benchCleat(): Mesh {
  const solid = new SolidBuilder();
  const [x, y, z] = LOFT_CLEAT;
  solid.box([x, y + 0.006, z], [0.16, 0.012, 0.06], 0.004);
  for (const dx of [-0.035, 0.035]) solid.cylinder([x + dx, y + 0.035, z], 0.013, 0.05, 20, 'y', 0.002);
  solid.lathe(
    [x, y + 0.066, z],
    [
      [0, -0.11],
      [0.007, -0.107],
      [0.012, -0.085],
      [0.015, -0.03],
      [0.015, 0.03],
      [0.012, 0.085],
      [0.007, 0.107],
      [0, 0.11],
    ],
    20,
    'x',
  );
  return solid.finish(0.8);
}

export function peg(): Mesh {
  const [x, y, z] = LOFT_PEG;
  return new SolidBuilder().cylinder([x, y + PEG.height / 2, z], PEG.radius, PEG.height, 28, 'y', 0.004).finish();
}
