/** Greatest whole number that divides both (Euclid: Elements, VII 2). */
export function greatestCommonDivisor(a: number, b: number): number {
  let [x, y] = [Math.abs(a), Math.abs(b)];
  while (y > 0) [x, y] = [y, x % y];
  return x;
}
