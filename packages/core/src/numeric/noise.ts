import { randomAt } from './random.js';

/**
 * Smooth noise over a line, −1…1: random values at whole numbers, eased between with the quintic 6t⁵ − 15t⁴ + 10t³
 * (Perlin: Improving noise, SIGGRAPH 2002), so that slope and bend run on without a jump.
 * @param period whole numbers after which it repeats; 0 never
 */
export function lineNoise(x: number, seed: number, id: number, name: number, period = 0): number {
  const cell = Math.floor(x);
  const t = x - cell;
  const near = period > 0 ? ((cell % period) + period) % period : cell;
  const next = period > 0 ? (near + 1) % period : cell + 1;
  const a = 2 * randomAt(seed, id ^ Math.imul(near, 0x9e3779b1), name) - 1;
  const b = 2 * randomAt(seed, id ^ Math.imul(next, 0x9e3779b1), name) - 1;
  return a + (b - a) * t * t * t * (t * (6 * t - 15) + 10);
}
