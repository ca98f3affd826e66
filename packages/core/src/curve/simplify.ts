/**
 * The fewest points of a polyline that keep it within `tolerance` (Ramer 1972; Douglas and Peucker 1973).
 * @param position flat xyz
 * @returns indices of the kept points in order; first and last are always among them
 */
export function simplify(position: ArrayLike<number>, tolerance: number): number[] {
  const count = position.length / 3;
  if (count <= 2) return Array.from({ length: count }, (_, i) => i);
  const keep = new Uint8Array(count);
  keep[0] = keep[count - 1] = 1;
  const open: [number, number][] = [[0, count - 1]];
  for (let span = open.pop(); span; span = open.pop()) {
    const [a, b] = span;
    let far = -1;
    let most = tolerance * tolerance;
    for (let i = a + 1; i < b; i++) {
      const d = segmentDistanceSquared(position, i, a, b);
      if (d > most) {
        most = d;
        far = i;
      }
    }
    if (far < 0) continue;
    keep[far] = 1;
    open.push([a, far], [far, b]);
  }
  return Array.from({ length: count }, (_, i) => i).filter((i) => keep[i]);
}

function segmentDistanceSquared(p: ArrayLike<number>, i: number, a: number, b: number): number {
  let dot = 0;
  let size = 0;
  for (let k = 0; k < 3; k++) {
    const d = p[3 * b + k] - p[3 * a + k];
    dot += (p[3 * i + k] - p[3 * a + k]) * d;
    size += d * d;
  }
  const t = size > 0 ? Math.max(0, Math.min(1, dot / size)) : 0;
  let sum = 0;
  for (let k = 0; k < 3; k++) sum += (p[3 * i + k] - p[3 * a + k] - t * (p[3 * b + k] - p[3 * a + k])) ** 2;
  return sum;
}
