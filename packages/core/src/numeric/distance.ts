/** Distance between points `a` and `b` of flat xyz. */
export function pointDistance(position: Float64Array, a: number, b: number): number {
  const x = position[3 * b] - position[3 * a];
  const y = position[3 * b + 1] - position[3 * a + 1];
  const z = position[3 * b + 2] - position[3 * a + 2];
  return Math.sqrt(x * x + y * y + z * z);
}
