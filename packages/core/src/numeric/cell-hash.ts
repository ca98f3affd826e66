/**
 * A 32-bit number for a cell of a grid without end (large odd factors, as of MurmurHash3; Teschner et al.: Optimized
 * spatial hashing, 2003). Cells may share one at random.
 */
export function cellHash(x: number, y: number, z: number): number {
  const h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35);
  return h ^ (h >>> 15);
}
