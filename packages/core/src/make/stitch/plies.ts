import { copyCurves } from '../../curve/carry.js';
import type { CurveSet } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { childId } from '../../numeric/random.js';
import { distanceAt } from '../../numeric/vector.js';

/**
 * Threads laid of plies that touch: with radius R of the whole each has R·s / (1 + s), s = sin(π / n), about a circle of what
 * is left of R. They go once round in `lay` metres.
 */
export function laidThreads(
  threads: CurveSet,
  plies: number,
  radius: number,
  lay: number,
): { lines: CurveSet; radius: number } {
  if (plies < 2) return { lines: threads, radius };
  const s = Math.sin(Math.PI / plies);
  const each = (radius * s) / (1 + s);
  const far = radius - each;
  const { tangent: t, normal: m } = rotationMinimizingFrames(threads);
  const turn = new Float64Array(threads.position.length / 3);
  for (let c = 0; c + 1 < threads.start.length; c++)
    for (let p = threads.start[c] + 1; p < threads.start[c + 1]; p++)
      turn[p] = turn[p - 1] + (2 * Math.PI * distanceAt(threads.position, p - 1, p)) / lay;
  const lines = copyCurves(
    threads,
    plies,
    (x, y, z, ply, out, to) => {
      const i = to % threads.position.length;
      const angle = turn[i / 3] + (2 * Math.PI * ply) / plies;
      const [cos, sin] = [far * Math.cos(angle), far * Math.sin(angle)];
      const at = [x, y, z];
      for (let n = 0; n < 3; n++) {
        const [a, b] = [i + ((n + 1) % 3), i + ((n + 2) % 3)];
        out[to + n] = at[n] + cos * m[i + n] + sin * (t[a] * m[b] - t[b] * m[a]);
      }
    },
    (id, ply) => childId(id, ply),
  );
  return { lines, radius: each };
}
