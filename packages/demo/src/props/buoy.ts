import type { Mesh } from '@kelp/core';
import { SolidBuilder } from './solid-builder.js';

/** A drum of a buoy with a fender round its waist, a cone and a lifting eye. */
export function buoy(): Mesh {
  const solid = new SolidBuilder();
  solid.lathe(
    [0, 0, 0],
    [
      [0, -0.3],
      [0.2, -0.3],
      [0.3, -0.27],
      [0.36, -0.2],
      [0.38, -0.1],
      [0.38, 0.02],
      [0.4, 0.035],
      [0.42, 0.065],
      [0.42, 0.115],
      [0.4, 0.145],
      [0.38, 0.16],
      [0.38, 0.22],
      [0.36, 0.27],
      [0.31, 0.3],
      [0.09, 0.4],
      [0.07, 0.42],
      [0.06, 0.46],
      [0.06, 0.6],
      [0.075, 0.61],
      [0.075, 0.64],
      [0.06, 0.655],
      [0, 0.66],
    ],
    56,
  );
  return solid.finish(0.5);
}
