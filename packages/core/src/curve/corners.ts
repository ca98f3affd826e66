/** Bends sharper than this at one point (20°) are corners of a polyline, not samples of a smooth curve. */
export const CORNER_COSINE = Math.cos((20 * Math.PI) / 180);

/** Points at which a polyline, flat xyz, turns by more than 20°; the ends of an open one are none. */
export function cornersOf(position: ArrayLike<number>, closed: boolean): number[] {
  const count = position.length / 3;
  const corners: number[] = [];
  for (let k = closed ? 0 : 1; k < (closed ? count : count - 1); k++) {
    const [a, b, c] = [3 * ((k + count - 1) % count), 3 * k, 3 * ((k + 1) % count)];
    const u = [0, 1, 2].map((n) => position[b + n] - position[a + n]);
    const v = [0, 1, 2].map((n) => position[c + n] - position[b + n]);
    const dot = u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
    if (dot < CORNER_COSINE * Math.hypot(...u) * Math.hypot(...v)) corners.push(k);
  }
  return corners;
}
