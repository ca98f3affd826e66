import type { CurveSet } from '../../curve/curve-set.js';
import { cellHash } from '../../numeric/cell-hash.js';

/** Roots that are asked to tell how far roots are apart. */
const ASKED = 24;

/** Of each strand, which of the first this many has its root nearest to its own: cells about as wide as those are apart. */
export function nearestOfFirst({ start, position }: CurveSet, first: number): Uint32Array {
  const count = start.length - 1;
  const out = new Uint32Array(count);
  const cell = 2 * apart({ start, position }, first) || 1;
  let size = 64;
  while (size < 2 * first) size *= 2;
  /** First root of each bucket of cells, and the one after each; −1 ends. */
  const begins = new Int32Array(size).fill(-1);
  const next = new Int32Array(first);
  const bucketOf = (x: number, y: number, z: number) => cellHash(x, y, z) & (size - 1);
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  const at = (c: number, n: number) => Math.floor(position[3 * start[c] + n] / cell);
  for (let c = 0; c < count; c++)
    for (let n = 0; n < 3; n++) {
      low[n] = Math.min(low[n], at(c, n));
      high[n] = Math.max(high[n], at(c, n));
    }
  for (let c = 0; c < first; c++) {
    const bucket = bucketOf(at(c, 0), at(c, 1), at(c, 2));
    next[c] = begins[bucket];
    begins[bucket] = c;
  }
  const widest = Math.max(...[0, 1, 2].map((n) => high[n] - low[n]));
  for (let c = 0; c < count; c++) {
    const i = 3 * start[c];
    const [cx, cy, cz] = [at(c, 0), at(c, 1), at(c, 2)];
    let best = 0;
    let least = Infinity;
    // shells of cells about its own, until the next shell is further off than what was found
    for (let r = 0; r <= widest && (r - 1) * cell < least; r++)
      for (let x = cx - r; x <= cx + r; x++)
        for (let y = cy - r; y <= cy + r; y++) {
          const inner = Math.abs(x - cx) < r && Math.abs(y - cy) < r;
          for (let z = cz - r; z <= cz + r; z += inner && r > 0 ? 2 * r : 1)
            for (let k = begins[bucketOf(x, y, z)]; k >= 0; k = next[k]) {
              const j = 3 * start[k];
              const dx = position[i] - position[j];
              const dy = position[i + 1] - position[j + 1];
              const dz = position[i + 2] - position[j + 2];
              const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
              if (far > least || (far === least && k > best)) continue;
              best = k;
              least = far;
            }
        }
    out[c] = best;
  }
  return out;
}

/** About how far the first roots are from each other: the mean of the nearest of some of them. */
function apart({ start, position }: Pick<CurveSet, 'start' | 'position'>, first: number): number {
  const every = Math.max(1, Math.floor(first / ASKED));
  let sum = 0;
  let asked = 0;
  for (let c = 0; c < first; c += every) {
    const i = 3 * start[c];
    let least = Infinity;
    for (let k = 0; k < first; k++) {
      if (k === c) continue;
      const j = 3 * start[k];
      const dx = position[i] - position[j];
      const dy = position[i + 1] - position[j + 1];
      const dz = position[i + 2] - position[j + 2];
      const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
      if (far > 0 && far < least) least = far;
    }
    if (!Number.isFinite(least)) continue;
    sum += least;
    asked++;
  }
  return asked > 0 ? sum / asked : 0;
}
