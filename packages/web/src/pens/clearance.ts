import { createHit, endReach, type Surroundings } from '@kelp/core';

/** Further away than this nothing is looked for, metres. */
const NEAR = 2;
/** Most places of a line that is being thrown at which the props are asked. */
const MAX_PLACES = 400;
/** Places at which the other lines are looked at, and which of their points are. */
const PLACES = 24;
const EVERY = 4;

const hit = createHit();

/** How far a skin is from its line at least and at most, metres. */
export interface Reach {
  near: number;
  far: number;
}

/**
 * How far the skin of a thing along a line is, whichever way it is turned, from props, from the ground and from other lines: below 0 it goes in.
 * As in the checks, its two ends may go into what they hang on.
 * @param line flat xyz, metres
 */
export function clearanceOf(
  line: Float64Array,
  { near, far }: Reach,
  surroundings: Surroundings,
  others: Iterable<{ position: ArrayLike<number> }>,
): number {
  const lengths = Array.from({ length: line.length / 3 - 1 }, (_, k) =>
    Math.hypot(line[3 * k + 3] - line[3 * k], line[3 * k + 4] - line[3 * k + 1], line[3 * k + 5] - line[3 * k + 2]),
  );
  const total = lengths.reduce((sum, length) => sum + length, 0);
  const step = Math.max(near, total / MAX_PLACES);
  const free = endReach(near, far);
  const guides = [...others];
  let least = Infinity;
  let walked = 0;
  let lookedAt = -Infinity;
  // the last place that was measured, and how far from there no prop is
  const measured = { x: 0, y: 0, z: 0, clear: 0 };
  lengths.forEach((length, k) => {
    const probes = Math.max(1, Math.ceil(length / step));
    for (let j = 0; j < probes; j++) {
      const asked = walked + (j / probes) * length;
      // the places next to what is free are looked at where it ends: the checks begin just there
      const s = Math.max(free, Math.min(total - free, asked));
      if (Math.abs(s - asked) > step || free > total / 2) continue;
      const t = (s - walked) / (length || 1);
      const [x, y, z] = [0, 1, 2].map((n) => line[3 * k + n] * (1 - t) + line[3 * k + 3 + n] * t);
      least = Math.min(least, y);
      // where no prop can be nearer than the nearest so far none is asked
      if (measured.clear - Math.hypot(x - measured.x, y - measured.y, z - measured.z) < least) {
        const distance = surroundings.signedDistance(x, y, z, hit, NEAR);
        least = Math.min(least, distance);
        Object.assign(measured, { x, y, z, clear: Math.min(distance, NEAR) });
      }
      if (s - lookedAt < total / PLACES) continue;
      lookedAt = s;
      for (const { position } of guides)
        for (let p = 0; p < position.length; p += 3 * EVERY)
          least = Math.min(least, Math.hypot(position[p] - x, position[p + 1] - y, position[p + 2] - z));
    }
    walked += length;
  });
  return least - far;
}
