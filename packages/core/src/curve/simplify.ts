/**
 * The fewest points of a polyline that keep it within `tolerance` (Ramer 1972; Douglas and Peucker 1973).
 * @param position flat coordinates, point by point
 * @param size coordinates of a point: 3 for places
 * @returns indices of the kept points in order; first and last are always among them
 */
export function simplify(position: ArrayLike<number>, tolerance: number, size = 3): number[] {
  const count = position.length / size;
  if (count <= 2) return Array.from({ length: count }, (_, i) => i);
  const keep = new Uint8Array(count);
  keep[0] = keep[count - 1] = 1;
  const open: [number, number][] = [[0, count - 1]];
  for (let span = open.pop(); span; span = open.pop()) {
    const [a, b] = span;
    let far = -1;
    let most = tolerance * tolerance;
    for (let i = a + 1; i < b; i++) {
      const d = segmentDistanceSquared(position, i, a, b, size);
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

function segmentDistanceSquared(p: ArrayLike<number>, i: number, a: number, b: number, size: number): number {
  let dot = 0;
  let square = 0;
  for (let k = 0; k < size; k++) {
    const d = p[size * b + k] - p[size * a + k];
    dot += (p[size * i + k] - p[size * a + k]) * d;
    square += d * d;
  }
  const t = square > 0 ? Math.max(0, Math.min(1, dot / square)) : 0;
  let sum = 0;
  for (let k = 0; k < size; k++)
    sum += (p[size * i + k] - p[size * a + k] - t * (p[size * b + k] - p[size * a + k])) ** 2;
  return sum;
}
