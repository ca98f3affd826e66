import { curveLengths } from '../curve/arc-length.js';
import { allocateCurves, CURVE, type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { distance, type Vec3 } from '../numeric/vector.js';

/** Round things that are not everywhere as thick: their lines, and from the line to the skin at each point, metres. */
export interface Limbs {
  curves: CurveSet;
  radius: Float32Array;
}

export const noLimbs = (): Limbs => limbsOf([]);

/** One limb before it is placed beside the others. */
export interface Limb {
  id: number;
  points: readonly Vec3[];
  radius: readonly number[];
  closed?: boolean;
}

/** Many limbs in one block, with how far along each point is. */
export function limbsOf(all: readonly Limb[]): Limbs {
  const total = all.reduce((sum, { points }) => sum + points.length, 0);
  const curves = allocateCurves(all.length, total, [POINT.along]);
  const radius = new Float32Array(total);
  const lengths = new Float32Array(all.length);
  let p = 0;
  all.forEach((limb, c) => {
    let far = 0;
    limb.points.forEach((point, k) => {
      if (k > 0) far += distance(limb.points[k - 1], point);
      curves.position.set(point, 3 * p);
      curves.pointData[POINT.along][p] = far;
      radius[p] = limb.radius[k];
      p++;
    });
    curves.start[c + 1] = p;
    curves.id[c] = limb.id;
    curves.closed[c] = limb.closed ? 1 : 0;
    lengths[c] = far + (limb.closed ? distance(limb.points[limb.points.length - 1], limb.points[0]) : 0);
  });
  curves.curveData[CURVE.length] = lengths;
  return { curves, radius };
}

/** Where one limb is after a share of its length, and how thick there. */
export function placeOn({ curves, radius }: Limbs, c: number, t: number): { at: Vec3; radius: number } {
  const along = curves.pointData[POINT.along];
  const far = t * curveLengths(curves)[c];
  let [low, high] = [curves.start[c], curves.start[c + 1] - 1];
  // past the last point of a closed one it goes back to the first
  const last = high;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (along[middle] <= far) low = middle;
    else high = middle;
  }
  let step = along[high] - along[low];
  if (curves.closed[c] && far > along[last]) {
    [low, high] = [last, curves.start[c]];
    step = curveLengths(curves)[c] - along[last];
  }
  const f = step > 0 ? Math.min(1, Math.max(0, (far - along[low]) / step)) : 0;
  const of = (n: number) => curves.position[3 * low + n] * (1 - f) + curves.position[3 * high + n] * f;
  return { at: [of(0), of(1), of(2)], radius: radius[low] * (1 - f) + radius[high] * f };
}

/** A place on a strand from which something else grows. */
export interface Station {
  strand: number;
  /** Share of the strand's length. */
  t: number;
  /** Stable id of what grows here. */
  id: number;
}

/** Nothing grows so near the ends of a strand, as a share of its length. */
const ENDS = 0.07;

/**
 * Places on strands, `most` on the longest and fewer on shorter ones. The first few of any number are spread evenly (van
 * der Corput's sequence in base 2, 1935), so that more of them move none.
 * @param draw even in 0…1 for a strand's id
 * @param idOf of the k-th thing on a strand
 */
export function stationsOn(
  { curves }: Pick<Limbs, 'curves'>,
  most: number,
  draw: (id: number) => number,
  idOf: (id: number, k: number) => number,
): Station[] {
  const lengths = curveLengths(curves);
  const longest = lengths.reduce((a, b) => Math.max(a, b), 0);
  const out: Station[] = [];
  for (let strand = 0; strand < curveCount(curves); strand++) {
    const id = curves.id[strand];
    const first = draw(id);
    // what is left over counts at random, so that short strands are not all bare
    const count = Math.floor((most * lengths[strand]) / longest + Math.min(first, 1 - 1e-9));
    for (let k = 0; k < count; k++)
      out.push({ strand, t: ENDS + (1 - 2 * ENDS) * ((spread(k) + first) % 1), id: idOf(id, k) });
  }
  return out;
}

/** The bits of a whole number in reverse, behind the point. */
function spread(k: number): number {
  let value = 0;
  for (let [rest, share] = [k, 0.5]; rest > 0; rest >>>= 1, share /= 2) if (rest & 1) value += share;
  return value;
}
