/** The convex outline round places, counter-clockwise (monotone chain, Andrew 1979). */
export function hullOf(x: ArrayLike<number>, y: ArrayLike<number>): { x: Float64Array; y: Float64Array } {
  const order = Array.from(x, (_, i) => i).sort((a, b) => x[a] - x[b] || y[a] - y[b]);
  const chain = (places: readonly number[]) => {
    const out: number[] = [];
    for (const i of places) {
      while (out.length > 1 && turn(out[out.length - 2], out[out.length - 1], i) <= 1e-12) out.pop();
      out.push(i);
    }
    return out.slice(0, -1);
  };
  const turn = (a: number, b: number, c: number) => (x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]);
  const hull = [...chain(order), ...chain(order.toReversed())];
  return { x: Float64Array.from(hull, (i) => x[i]), y: Float64Array.from(hull, (i) => y[i]) };
}

/** From the middle to the nearest side of a convex outline. */
export function leastReach({ x, y }: { x: ArrayLike<number>; y: ArrayLike<number> }): number {
  let least = Infinity;
  for (let i = 0; i < x.length; i++) {
    const j = (i + 1) % x.length;
    const [dx, dy] = [x[j] - x[i], y[j] - y[i]];
    least = Math.min(least, Math.max(0, x[i] * dy - y[i] * dx) / Math.hypot(dx, dy));
  }
  return least;
}
