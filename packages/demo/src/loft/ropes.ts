import { type DrawnPoint, newShape, newUse, type ParameterValues } from '@kelp/core';
import { type Farm, free } from '../farm.js';
import { BENCH } from './bench.js';

// What lies on the bench: every rope shows its strands, and one of its ends.

/** Lying on the bench: points by x and z, as high as the line is thick. */
const lying = (radius: number, places: readonly (readonly [number, number])[]): DrawnPoint[] =>
  places.map(([x, z]) => free(x, BENCH.top + radius + 0.0005, z));

const laid = (preset: string, parameters: ParameterValues) => {
  const make = newUse('make', 'laid', preset);
  Object.assign(make.parameters, parameters);
  return make;
};
const level = (count: number, filling: string, hand: string, lay: number) => ({ count, filling, hand, lay, by: 'thickness' }); // biome-ignore format: one line

/** Three strands, whipped at one end and come loose at the other. */
export function mooringRope(farm: Farm): void {
  const radius = 0.015;
  farm.made(
    'Mooring rope',
    lying(radius, [[-0.47, 0.2], [-0.3, 0.23], [-0.12, 0.14], [0.06, 0.06], [0.24, 0.12], [0.38, 0.2]]),
    [newShape('smooth', { over: 1 })],
    laid('three-strand', { radius, levels: [level(3, 'hollow', 'z', 3.5), level(7, 'filled', 's', 4)], sides: 7, start: 'whipped', startOver: 1.4, end: 'frayed', endOver: 3 }),
    { colour: '#d8c38a', roughness: 0.85 },
  );
} // biome-ignore format: its places on one line

/** Thread in a loose hank, laid across the rope, with stray fibres on it. */
export function hankOfThread(farm: Farm): void {
  const radius = 0.009;
  const over = BENCH.top + 0.03 + radius + 0.001;
  const at = BENCH.top + radius + 0.0005;
  farm.made(
    'Hank of thread',
    [
      free(-0.24, at, 0.02), free(-0.2, at, 0.08), free(-0.17, over - 0.008, 0.125), free(-0.15, over + 0.0005, 0.162),
      free(-0.135, over - 0.006, 0.2), free(-0.11, at, 0.25), free(-0.05, at, 0.275),
    ],
    [],
    laid('hank', { radius, fuzz: 1.2, wander: 0.15, scale: 0.72 }),
    { colour: '#3f7486', roughness: 0.8 },
  );
} // biome-ignore format: its places on two lines

/** Nineteen wires. */
export function wireStay(farm: Farm): void {
  const radius = 0.006;
  farm.made(
    'Wire stay',
    lying(radius, [[-0.46, -0.06], [-0.2, -0.03], [0.1, -0.07], [0.46, -0.02]]),
    [],
    laid('wire-1x19', { radius }),
    { colour: '#a9b0b2', roughness: 0.35, metalness: 1 },
  );
} // biome-ignore format: its places on one line

/** Three ropes laid into one, its end melted together. */
export function cableLaidEnd(farm: Farm): void {
  const radius = 0.022;
  farm.made(
    'Cable-laid rope',
    lying(radius, [[-0.47, -0.15], [-0.28, -0.13], [-0.05, -0.19], [0.08, -0.17]]),
    [],
    laid('cable-laid', { radius, levels: [level(3, 'hollow', 's', 4), level(3, 'hollow', 'z', 3.5), level(4, 'filled', 's', 4)], sides: 6, end: 'sealed', endOver: 0.8 }),
    { colour: '#8a5a3b', roughness: 0.75 },
  );
} // biome-ignore format: its places on one line

/** Braided about a core, led in a bight. */
export function longline(farm: Farm): void {
  const radius = 0.0085;
  const make = newUse('make', 'braid', 'braided-line');
  Object.assign(make.parameters, { radius, lay: 3.4, places: 6, sides: 6, start: 'sealed', startOver: 0.7, end: 'frayed', endOver: 1.6 });
  farm.made(
    'Longline',
    lying(radius, [[0.1, 0.25], [0.2, 0.2], [0.36, 0.16], [0.44, 0.06], [0.36, 0.0], [0.22, 0.03], [0.12, 0.0]]),
    [newShape('smooth', { over: 2 })],
    make,
    { colour: '#c2513b', roughness: 0.7 },
  );
} // biome-ignore format: its places on one line
