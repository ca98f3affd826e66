import { addScaled, cross, distance, normalize, scale, type Vec3, vec3 } from '../../numeric/vector.js';
import type { Cloth, ClothPlace } from '../elements/cloth.js';
import type { Leg } from './legs.js';
import { BELOW, type ThreadSize } from './thread.js';

/** Directions about the edge in which the cloth is looked for, and halvings until it is found. */
const AROUND = 24;
const HALVINGS = 12;
/** What is further off than such a share of the way is not where the cloth is. */
const ON = 0.06;
/** Points of a thread over an edge, its ends below the cloth included. */
export const WHIP_POINTS = 21;

/** Where the cloth is so far from its edge on both of its sides; on a sheet both are one place, seen from above and from below. */
export function sidesOfEdge(cloth: Cloth, leg: Leg, along: number, far: number): [ClothPlace, ClothPlace] {
  const { at, up, tangent } = cloth.planned(leg.curve, along, 0);
  const side = cross(vec3(), tangent, up);
  const about = (angle: number): Vec3 =>
    addScaled(vec3(), addScaled(vec3(), at, up, far * Math.cos(angle)), side, far * Math.sin(angle));
  const angles = Array.from({ length: AROUND + 1 }, (_, k) => (2 * Math.PI * k) / AROUND);
  const heights = angles.map((angle) => cloth.heightOf(about(angle)));
  const found: { angle: number; rises: boolean }[] = [];
  for (let k = 0; k < AROUND; k++) {
    let [low, high] = [angles[k], angles[k + 1]];
    const rises = heights[k] < 0 && heights[k + 1] >= 0;
    if (!rises && !(heights[k] >= 0 && heights[k + 1] < 0)) continue;
    for (let round = 0; round < HALVINGS; round++) {
      const middle = (low + high) / 2;
      if (cloth.heightOf(about(middle)) < 0 === rises) low = middle;
      else high = middle;
    }
    // beyond the rim of a sheet its two sides meet in the air
    if (Math.abs(cloth.heightOf(about(low))) < ON * far) found.push({ angle: low, rises });
  }
  const landed = ({ angle }: { angle: number }) => cloth.landed(about(angle), up);
  const [from, to] = [found.find(({ rises }) => rises), found.find(({ rises }) => !rises)];
  if (from && to) return [landed(from), landed(to)];
  const one = from ?? to;
  const above = one ? landed(one) : { at: addScaled(vec3(), at, side, -far), up: [...up] as Vec3, free: true };
  return [above, { ...above, up: scale(vec3(), above.up, -1) }];
}

/** A thread from a hole on one side of an edge over it to a hole on the other. Flat xyz. */
export function whipThread(
  from: ClothPlace,
  to: ClothPlace,
  edge: readonly [Vec3, Vec3],
  { radius, lift, arch }: ThreadSize,
  out: Float64Array,
  at: number,
): void {
  const high = radius + lift;
  const off = (place: Vec3, up: Vec3, far: number) => addScaled(vec3(), place, up, far);
  const between = (a: Vec3, b: Vec3, t: number) => a.map((value, k) => value + t * (b[k] - value)) as Vec3;
  const over = normalize(
    vec3(),
    [0, 1, 2].map((k) => from.up[k] + to.up[k]),
  );
  const middle = between(edge[0], edge[1], 0.5);
  // from both sides of a sheet the ways out cancel: over its rim is away from the holes
  const out0 =
    distance(from.up, scale(vec3(), to.up, -1)) < 0.3
      ? normalize(
          vec3(),
          [0, 1, 2].map((k) => 2 * middle[k] - from.at[k] - to.at[k]),
        )
      : over;
  const way: Vec3[] = [
    off(from.at, from.up, -BELOW * radius),
    from.at,
    off(between(from.at, edge[0], 0.16), from.up, high),
    off(between(from.at, edge[0], 0.7), from.up, high + arch / 2),
    off(
      between(edge[0], middle, 0.6),
      normalize(
        vec3(),
        [0, 1, 2].map((k) => from.up[k] + out0[k]),
      ),
      1.05 * high + arch,
    ),
    off(middle, out0, 1.15 * high + arch),
    off(
      between(edge[1], middle, 0.6),
      normalize(
        vec3(),
        [0, 1, 2].map((k) => to.up[k] + out0[k]),
      ),
      1.05 * high + arch,
    ),
    off(between(to.at, edge[1], 0.7), to.up, high + arch / 2),
    off(between(to.at, edge[1], 0.16), to.up, high),
    to.at,
    off(to.at, to.up, -BELOW * radius),
  ];
  for (let j = 0; j < WHIP_POINTS; j++) {
    const s = (j * (way.length - 1)) / (WHIP_POINTS - 1);
    const k = Math.min(way.length - 2, Math.floor(s));
    const t = s - k;
    const [a, b, c, d] = [Math.max(0, k - 1), k, k + 1, Math.min(way.length - 1, k + 2)].map((i) => way[i]);
    for (let n = 0; n < 3; n++)
      out[at + 3 * j + n] =
        b[n] +
        0.5 * t * (c[n] - a[n] + t * (2 * a[n] - 5 * b[n] + 4 * c[n] - d[n] + t * (3 * (b[n] - c[n]) + d[n] - a[n])));
  }
}
