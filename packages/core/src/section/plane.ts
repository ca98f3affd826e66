type Place = readonly [number, number];

/** Signed area, positive counter-clockwise (shoelace formula). */
export const areaOf = (places: readonly Place[]): number =>
  places.reduce((sum, [x, y], i) => {
    const [bx, by] = places[(i + 1) % places.length];
    return sum + (x * by - bx * y) / 2;
  }, 0);

/** Whether a place is inside an outline, by the crossings of a ray (even-odd). */
export function contains(places: readonly Place[], [px, py]: Place): boolean {
  let inside = false;
  places.forEach(([x, y], i) => {
    const [bx, by] = places[(i + 1) % places.length];
    if (y > py !== by > py && px < x + ((py - y) / (by - y)) * (bx - x)) inside = !inside;
  });
  return inside;
}

/** A place where outlines cross each other or themselves; undefined where none do. Looked for from left to right, so that only what overlaps is compared. */
export function crossingOf(outlines: readonly (readonly Place[])[]): [number, number] | undefined {
  const edges = outlines
    .flatMap((places) => places.map((a, i) => ({ a, b: places[(i + 1) % places.length] })))
    .map(({ a, b }) => ({ a, b, from: Math.min(a[0], b[0]), to: Math.max(a[0], b[0]) }))
    .sort((e, f) => e.from - f.from);
  for (const [i, e] of edges.entries())
    for (let k = i + 1; k < edges.length && edges[k].from <= e.to; k++) {
      const f = edges[k];
      // neighbours share a place
      if (e.a === f.a || e.a === f.b || e.b === f.a || e.b === f.b) continue;
      const [r, s] = [minus(e.b, e.a), minus(f.b, f.a)];
      const d = r[0] * s[1] - r[1] * s[0];
      const q = minus(f.a, e.a);
      const t = (q[0] * s[1] - q[1] * s[0]) / d;
      const u = (q[0] * r[1] - q[1] * r[0]) / d;
      if (t > 0 && t < 1 && u > 0 && u < 1) return [e.a[0] + t * r[0], e.a[1] + t * r[1]];
    }
  return undefined;
}

const minus = (a: Place, b: Place): [number, number] => [a[0] - b[0], a[1] - b[1]];
