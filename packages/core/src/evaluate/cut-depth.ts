import { cornersAt, reachTowards, skinTowards } from '../part/reach.js';
import { createHit, type SurfaceHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { SectionReach } from '../unit/carriers.js';

const corner = createHit();

/** A section between the rings of two points: at the share `t` of the way from `p` to `next`. */
export interface Between {
  p: number;
  next: number;
  t: number;
}

/**
 * How deep a section, its middle at (x, y, z), goes into the props, metres; below 0 it is clear by about this much. Towards a face it goes in as far as it reaches; towards an edge, which stands beside its corners, only straight:
 * so where its reach says that it goes in, its corners and the way to the closest place are looked at.
 * @param distance of the middle from the closest place, `hit`; negative inside
 * @param enough what may be missing: less than that is not looked into
 */
export function cutDepth(
  section: SectionReach,
  { p, next, t }: Between,
  [x, y, z]: readonly [number, number, number],
  distance: number,
  { point, distance: far }: SurfaceHit,
  surroundings: Surroundings,
  enough: number,
): number {
  if (distance === Infinity) return Number.NEGATIVE_INFINITY;
  const [dx, dy, dz] = [point[0] - x, point[1] - y, point[2] - z];
  if (far < 1e-9) return section.least * section.radius[p] - distance;
  const most = reachTowards(section, p, dx, dy, dz) - distance;
  if (!section.outline || most <= enough || distance <= 0) return most;
  let depth = skinTowards(section, p, dx, dy, dz) - distance;
  const corners = cornersAt(section, p);
  // the skin runs straight from ring to ring; over the seam the corners may be others
  if (t > 0 && next === p + 1) {
    const others = cornersAt(section, next);
    for (let k = 0; k < corners.length; k++) corners[k] += t * (others[k] - corners[k]);
  }
  for (let k = 0; k < corners.length; k += 3)
    depth = Math.max(
      depth,
      -surroundings.signedDistance(x + corners[k], y + corners[k + 1], z + corners[k + 2], corner, most),
    );
  return depth;
}
