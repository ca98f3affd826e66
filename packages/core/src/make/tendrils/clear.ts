import { distance, normalize, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';

/** A line is looked at in about this many chords. */
const CHORDS = 12;

/**
 * Whether a line runs through a prop on its way.
 * @param skip so near either end it may: there it grows from something, metres
 */
export function runsThrough(
  points: readonly Vec3[],
  skip: readonly [number, number],
  surroundings: Surroundings,
): boolean {
  if (surroundings.isEmpty) return false;
  const hit = createHit();
  const way = vec3();
  const last = points.length - 1;
  const every = Math.max(1, Math.floor(last / CHORDS));
  for (let k = 0; k < last; k = Math.min(last, k + every)) {
    const next = Math.min(last, k + every);
    const far = distance(points[k], points[next]);
    if (!(far > 0)) continue;
    normalize(way, subtract(way, points[next], points[k]));
    const begin = Math.min(far, Math.max(0, skip[0] - distance(points[0], points[k])));
    const until = far - Math.max(0, skip[1] - distance(points[last], points[next]));
    const from: Vec3 = [0, 1, 2].map((n) => points[k][n] + begin * way[n]) as Vec3;
    if (surroundings.cast(from, way, hit) !== undefined && hit.distance < until - begin) return true;
  }
  return false;
}
