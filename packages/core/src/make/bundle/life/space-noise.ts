import { randomsOf } from '../../../numeric/random.js';

/**
 * Smooth noise in space, −1…1: random values at the corners of a lattice of 1, eased between with 6t⁵ − 15t⁴ + 10t³
 * (Perlin: Improving noise, SIGGRAPH 2002).
 */
export function spaceNoise(seed: number, name: number): (x: number, y: number, z: number) => number {
  const random = randomsOf(seed, name);
  const corner = (i: number, j: number, k: number) =>
    2 * random((Math.imul(i, 0x8da6b343) ^ Math.imul(j, 0xd8163841) ^ Math.imul(k, 0xcb1ab31f)) >>> 0) - 1;
  const eased = (t: number) => t * t * t * (t * (6 * t - 15) + 10);
  const between = (a: number, b: number, t: number) => a + (b - a) * t;
  return (x, y, z) => {
    const [i, j, k] = [Math.floor(x), Math.floor(y), Math.floor(z)];
    const [u, v, w] = [eased(x - i), eased(y - j), eased(z - k)];
    const row = (dj: number, dk: number) => between(corner(i, j + dj, k + dk), corner(i + 1, j + dj, k + dk), u);
    return between(between(row(0, 0), row(1, 0), v), between(row(0, 1), row(1, 1), v), w);
  };
}
