import { catmullRom } from '@kelp/core';

type Place = readonly [number, number];

/** A smooth curve through the points of a path may be so far off it, as a share of its length. */
const TOLERANCE = 1e-3;
/** Most rounds of halving: what is sharper than this is a corner to the eye. */
const ROUNDS = 7;
/** Places looked at between two steps, as shares of the step. */
const BETWEEN = [0.2, 0.35, 0.5, 0.65, 0.8];

/**
 * Halves steps along a path until a smooth curve through their places is the path within the tolerance.
 * @param placeAt place on the path; where the path runs on smoothly over an end, also beyond it
 * @param steps where points stand, rising, 0 and 1 included
 * @param runsOn whether the path runs on smoothly before 0 and after 1
 */
export function refineSteps(placeAt: (t: number) => Place, steps: readonly number[], runsOn: [boolean, boolean]) {
  let refined = [...steps];
  for (let round = 0; round < ROUNDS; round++) {
    const wide = spansOff(placeAt, refined, runsOn);
    if (wide.length === 0) break;
    const middles = wide.map((span) => (refined[span] + refined[span + 1]) / 2);
    refined = [...refined, ...middles].sort((a, b) => a - b);
  }
  return refined;
}

/** The steps between which the smooth curve is off the path, by number. */
function spansOff(placeAt: (t: number) => Place, steps: readonly number[], [before, after]: [boolean, boolean]) {
  const last = steps.length - 1;
  const parameters = [...(before ? [-steps[1]] : []), ...steps, ...(after ? [2 - steps[last - 1]] : [])];
  const count = parameters.length;
  const curve = catmullRom({
    position: Float64Array.from(parameters.flatMap((t) => [...placeAt(t), 0])),
    corner: new Uint8Array(count),
    radius: new Float32Array(count),
    closed: false,
    id: 0,
  });
  const { position } = curve;
  const fine = (position.length / 3 - 1) / (count - 1);
  let length = 0;
  for (let i = 3; i < position.length; i += 3)
    length += Math.hypot(position[i] - position[i - 3], position[i + 1] - position[i - 2]);
  // points in one place are passed over: then the spans are not those of the steps, and there is nothing to refine
  if (!Number.isInteger(fine)) return [];
  const off: number[] = [];
  for (let span = 0; span < last; span++) {
    const from = 3 * fine * (span + (before ? 1 : 0));
    const stretch = position.subarray(from, from + 3 * fine + 3);
    const width = steps[span + 1] - steps[span];
    if (BETWEEN.some((share) => distanceTo(stretch, placeAt(steps[span] + share * width)) > TOLERANCE * length))
      off.push(span);
  }
  return off;
}

/** Distance of a place to a row of flat xyz points joined by lines. */
function distanceTo(row: ArrayLike<number>, [x, y]: Place): number {
  let nearest = Infinity;
  for (let i = 0; i + 5 < row.length; i += 3) {
    const [ux, uy] = [row[i + 3] - row[i], row[i + 4] - row[i + 1]];
    const along = ((x - row[i]) * ux + (y - row[i + 1]) * uy) / (ux * ux + uy * uy || 1);
    const t = Math.max(0, Math.min(1, along));
    nearest = Math.min(nearest, Math.hypot(row[i] + t * ux - x, row[i + 1] + t * uy - y));
  }
  return nearest;
}
