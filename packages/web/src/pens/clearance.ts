import { createHit, END_REACH, type Surroundings } from '@kelp/core';

/** Further away than this nothing is looked for, metres. */
const NEAR = 2;
/** Most places of a line that is being thrown at which the props are asked. */
const MOST_PLACES = 400;
/** Places at which the other lines are looked at, and which of their points are. */
const PLACES = 24;
const EVERY = 4;

const hit = createHit();

/**
 * How far the skin of a round thing along a line is from props, from the ground and from other lines: below 0 it goes in.
 * As in the checks, its two ends may go into what they hang on.
 * @param line flat xyz, metres
 */
export function clearanceOf(
  line: Float64Array,
  radius: number,
  surroundings: Surroundings,
  others: Iterable<{ position: ArrayLike<number> }>,
): number {
  const lengths = Array.from({ length: line.length / 3 - 1 }, (_, k) =>
    Math.hypot(line[3 * k + 3] - line[3 * k], line[3 * k + 4] - line[3 * k + 1], line[3 * k + 5] - line[3 * k + 2]),
  );
  const total = lengths.reduce((sum, length) => sum + length, 0);
  const step = Math.max(radius, total / MOST_PLACES);
  const free = END_REACH * radius;
  const guides = [...others];
  let least = Infinity;
  let walked = 0;
  let lookedAt = -Infinity;
  lengths.forEach((length, k) => {
    const probes = Math.max(1, Math.ceil(length / step));
    for (let j = 0; j < probes; j++) {
      const t = j / probes;
      const s = walked + t * length;
      if (s < free || s > total - free) continue;
      const [x, y, z] = [0, 1, 2].map((n) => line[3 * k + n] * (1 - t) + line[3 * k + 3 + n] * t);
      least = Math.min(least, surroundings.signedDistance(x, y, z, hit, NEAR), y);
      if (s - lookedAt < total / PLACES) continue;
      lookedAt = s;
      for (const { position } of guides)
        for (let p = 0; p < position.length; p += 3 * EVERY)
          least = Math.min(least, Math.hypot(position[p] - x, position[p + 1] - y, position[p + 2] - z));
    }
    walked += length;
  });
  return least - radius;
}
