import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { cellHash } from '../../numeric/cell-hash.js';

/**
 * The strands in whose middle others gather: in their own order each that no middle before it is near to; what is near to
 * one belongs to the nearest. Strands that come after change nothing. Gives the number of the middle of each strand's clump,
 * −1 for those in none.
 * @param spacing least distance of two middles, metres
 * @param reach strands further than this from every middle belong to none
 */
export function clumpsOf({ start, position }: CurveSet, spacing: number, reach: number): Int32Array {
  const count = start.length - 1;
  const root = (c: number) => 3 * start[c];
  const centres: number[] = [];
  let size = 64;
  while (size < 2 * count) size *= 2;
  const first = new Int32Array(size).fill(-1);
  const next: number[] = [];
  const bucketOf = (x: number, y: number, z: number) => cellHash(x, y, z) & (size - 1);
  const out = new Int32Array(count).fill(-1);
  /** The nearest middle within one spacing: a cell is twice as wide, so that it lies in one of eight. */
  const nearest = (i: number): number => {
    const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
    const cell = 2 * spacing;
    const [cx, cy, cz] = [Math.floor(x / cell - 0.5), Math.floor(y / cell - 0.5), Math.floor(z / cell - 0.5)];
    let best = -1;
    far = spacing * spacing;
    for (let a = cx; a <= cx + 1; a++)
      for (let b = cy; b <= cy + 1; b++)
        for (let d = cz; d <= cz + 1; d++)
          for (let n = first[bucketOf(a, b, d)]; n >= 0; n = next[n]) {
            const j = root(centres[n]);
            const dx = position[j] - x;
            const dy = position[j + 1] - y;
            const dz = position[j + 2] - z;
            const apart = dx * dx + dy * dy + dz * dz;
            if (apart < far || (apart === far && best < 0)) {
              far = apart;
              best = centres[n];
            }
          }
    return best;
  };
  let far = 0;
  const cell = 2 * spacing;
  for (let c = 0; c < count; c++) {
    const i = root(c);
    const centre = nearest(i);
    if (centre >= 0) {
      if (Math.sqrt(far) <= reach) out[c] = centre;
      continue;
    }
    out[c] = c;
    const bucket = bucketOf(
      Math.floor(position[i] / cell),
      Math.floor(position[i + 1] / cell),
      Math.floor(position[i + 2] / cell),
    );
    next.push(first[bucket]);
    first[bucket] = centres.length;
    centres.push(c);
  }
  return out;
}

/** Mean length of strands from root to tip along their points, of some of them, evenly picked: what sizes are shares of. */
export function meanLength(curves: CurveSet): number {
  const count = curveCount(curves);
  const every = Math.max(1, Math.floor(count / 500));
  let sum = 0;
  let seen = 0;
  for (let c = 0; c < count; c += every, seen++)
    for (let i = 3 * curves.start[c] + 3; i < 3 * curves.start[c + 1]; i += 3)
      sum += Math.hypot(
        curves.position[i] - curves.position[i - 3],
        curves.position[i + 1] - curves.position[i - 2],
        curves.position[i + 2] - curves.position[i - 1],
      );
  return seen > 0 ? sum / seen : 0;
}
