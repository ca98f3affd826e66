import { type DrawnPoint, simplify } from '@kelp/core';

/** The hand pulls the line on a rope of this length unless another is set, pixels: shaking within it leaves no trace. */
export const ROPE = 14;

/** Fitted points stand at least this many tolerances apart. */
const APART = 9;

/** Follows the hand at the end of a rope. Returns the new place, or the old one while the rope is slack. */
export function steadied(
  last: readonly [number, number],
  hand: readonly [number, number],
  rope = ROPE,
): [number, number] {
  const [dx, dy] = [hand[0] - last[0], hand[1] - last[1]];
  const size = Math.hypot(dx, dy);
  if (size <= rope) return [last[0], last[1]];
  const share = (size - rope) / size;
  return [last[0] + dx * share, last[1] + dy * share];
}

/** A stroke's samples as few points: `keptOf` them. */
export const fitStroke = (samples: readonly DrawnPoint[], tolerance: number): DrawnPoint[] =>
  keptOf(samples, tolerance).map((i) => samples[i]);

/**
 * Which of a stroke's samples represent it: those that keep straight ways between them within `tolerance` (metres), evened by a running
 * mean so that pixel steps do not show.
 */
export function keptOf(samples: readonly DrawnPoint[], tolerance: number): number[] {
  if (samples.length <= 2) return samples.map((_, i) => i);
  const position = samples.flatMap((sample, i) => {
    const before = samples[Math.max(0, i - 1)].position;
    const after = samples[Math.min(samples.length - 1, i + 1)].position;
    const isEnd = i === 0 || i === samples.length - 1;
    return sample.position.map((value, axis) => (isEnd ? value : (before[axis] + 2 * value + after[axis]) / 4));
  });
  const kept = simplify(position, tolerance);
  const last = samples.length - 1;
  // points in a bunch make a wobble, not a better fit
  const apart: number[] = [];
  for (const i of kept)
    if (apart.length === 0 || i === last || gap(samples[i], samples[apart[apart.length - 1]]) > APART * tolerance)
      apart.push(i);
  if (apart.length > 2 && gap(samples[apart[apart.length - 2]], samples[last]) < APART * tolerance) apart.splice(-2, 1);
  return apart;
}

/**
 * A stroke that goes from one prop over a gap to another sees, in the gap, whatever lies far behind it. Such a run of free
 * samples between two held ones is left out where it strays further from the straight way than that is long: the line
 * then spans the gap. A stroke that truly goes over the ground stays near that way and is kept.
 */
export function bridged(samples: readonly DrawnPoint[]): DrawnPoint[] {
  const out: DrawnPoint[] = [];
  for (let i = 0; i < samples.length; ) {
    if (samples[i].anchor || out.length === 0) {
      out.push(samples[i++]);
      continue;
    }
    let end = i;
    while (end < samples.length && !samples[end].anchor) end++;
    const before = out[out.length - 1];
    const run = samples.slice(i, end);
    const after = samples[end];
    const strays =
      before.anchor && after && run.some((free) => gap(free, before) + gap(free, after) > 3 * gap(before, after));
    if (!strays) out.push(...run);
    i = end;
  }
  return out;
}

const gap = (a: DrawnPoint, b: DrawnPoint): number =>
  Math.hypot(...[0, 1, 2].map((k) => a.position[k] - b.position[k]));
