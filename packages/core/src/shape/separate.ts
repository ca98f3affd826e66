import { type CurveSet, curveCount } from '../curve/curve-set.js';
import { type Approach, nearestOnSegments } from '../curve/segment-grid.js';
import { cross, distanceAt, length, mix, normalize, pointOf, subtract, vec3 } from '../numeric/vector.js';
import { createHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import { NearPairs } from './near-pairs.js';

export interface SeparateOptions {
  /** Air between two skins, metres. */
  gap: number;
  /** Most passes over all curves; it ends sooner where nothing moves any more. */
  passes: number;
  holdEnds: boolean;
  surroundings?: Surroundings;
}

/** What is left at the worst place. */
export interface Nearness {
  place: [number, number, number];
  /** By how much it is too near, and how far it should be, metres. */
  missing: number;
  wanted: number;
  with: 'line' | 'prop';
}

/** A push bends the line aside over so many radii to both sides at first, instead of making a dent. */
const REACH = 8;
/** In points: lines sampled very finely are bent aside over less. */
const MOST_REACH = 64;
/** Of a push, so much is done at once; all of it would make two neighbours jump over each other. */
const RELAXATION = 0.8;
/** Props are asked in every so-manieth pass: they cost more than lines. */
const PROP_PASSES = 3;
/** The reach shrinks from pass to pass; the last ones are not spread: they close what spreading left open. */
const EXACT_SHARE = 0.25;
/** Good enough, as a share of the wanted distance. */
const DONE = 1e-3;

/**
 * Moves the points of all curves in place until no two segments are nearer than their radii and the gap allow: each too
 * near pair is pushed apart by half of what is missing, all pushes of a pass are summed and spread along the curves
 * (position-based dynamics: Müller, Heidelberger, Hennix, Ratcliff, 2007, solved by Jacobi passes).
 * Neighbours along one curve are let be for three radii: a curve cannot keep its own distance from itself.
 * @param radius one a point, metres
 * @returns the worst place that is left, undefined where everything has room
 */
export function separate(curves: CurveSet, radius: Float64Array, options: SeparateOptions): Nearness | undefined {
  const { position } = curves;
  const segments = segmentsOf(curves);
  const count = segments.from.length;
  const half = new Float64Array(count);
  /** How far each segment has gone at most since the beginning. */
  const gone = new Float64Array(count);
  const middle = new Float64Array(3 * count);
  const push = new Float64Array(position.length);
  const spread = new Float64Array(position.length);
  const weight = new Float64Array(position.length / 3);
  const most = radius.reduce((a, b) => Math.max(a, b), 0);
  const approach: Approach = { s: 0, t: 0, distance: 0 };
  const spacing = meanStep(segments, position);
  let worst: Nearness | undefined;
  const near = new NearPairs(
    segments,
    2 * most + options.gap,
    most,
    (a, b) => segments.curve[a] !== segments.curve[b] || !isNeighbour(segments, a, b, most),
  );
  const reach = 2 * most + options.gap;
  /** Pushes every pair that is too near apart, by half of what is missing each. */
  const pushPairs = () => {
    const { pairs, until } = near;
    const { from, to } = segments;
    let worstShare = worst ? worst.missing / worst.wanted : 0;
    for (let i = 0; i < 2 * near.count; i += 2) {
      const a = pairs[i];
      const b = pairs[i + 1];
      // two that rest, or are far enough apart for how far they went, cannot touch yet
      const walked = gone[a] + gone[b];
      if (walked < until[i >> 1]) continue;
      const x = middle[3 * b] - middle[3 * a];
      const y = middle[3 * b + 1] - middle[3 * a + 1];
      const z = middle[3 * b + 2] - middle[3 * a + 2];
      const far = reach + half[a] + half[b];
      const apart = x * x + y * y + z * z;
      if (apart >= far * far) {
        until[i >> 1] = walked + Math.sqrt(apart) - far;
        continue;
      }
      const p = from[a];
      const q = to[a];
      const k = from[b];
      const l = to[b];
      nearestOnSegments(position, 3 * p, 3 * q, 3 * k, 3 * l, approach);
      const s = approach.s;
      const t = approach.t;
      const distance = approach.distance;
      const wanted = radius[p] + (radius[q] - radius[p]) * s + radius[k] + (radius[l] - radius[k]) * t + options.gap;
      if (distance >= wanted) {
        until[i >> 1] = walked + Math.max(0, distance - reach);
        continue;
      }
      const missing = wanted - distance;
      if (!worst || missing > worstShare * wanted) {
        worstShare = missing / wanted;
        worst = { place: mix(vec3(), pointOf(position, p), pointOf(position, q), s), missing, wanted, with: 'line' };
      }
      awayFrom(position, 3 * p, 3 * q, 3 * k, 3 * l, approach, a, b);
      const half2 = missing / 2;
      pushPoint(push, weight, p, 1 - s, half2);
      pushPoint(push, weight, q, s, half2);
      pushPoint(push, weight, k, 1 - t, -half2);
      pushPoint(push, weight, l, t, -half2);
    }
  };
  for (let pass = 0; pass <= options.passes; pass++) {
    worst = undefined;
    push.fill(0);
    weight.fill(0);
    near.update(position);
    for (let s = 0; s < count; s++) {
      const i = 3 * segments.from[s];
      const j = 3 * segments.to[s];
      const x = position[j] - position[i];
      const y = position[j + 1] - position[i + 1];
      const z = position[j + 2] - position[i + 2];
      half[s] = Math.sqrt(x * x + y * y + z * z) / 2;
      middle[3 * s] = position[i] + x / 2;
      middle[3 * s + 1] = position[i + 1] + y / 2;
      middle[3 * s + 2] = position[i + 2] + z / 2;
    }
    pushPairs();
    // the last round only looks at what is left
    const isLast = pass === options.passes;
    if (options.surroundings && (isLast || pass % PROP_PASSES === 0 || !worst))
      worst = pushOffProps(curves, radius, options, push, weight, worst);
    if (isLast || !worst || worst.missing < DONE * worst.wanted) break;
    const share = Math.max(0, 1 - pass / (options.passes * (1 - EXACT_SHARE)));
    const follow = Math.min(MOST_REACH, Math.ceil((share * REACH * most) / (spacing || most)));
    move(curves, push, weight, spread, options.holdEnds, follow);
    const stepOf = (p: number) => Math.sqrt(spread[3 * p] ** 2 + spread[3 * p + 1] ** 2 + spread[3 * p + 2] ** 2);
    for (let s = 0; s < count; s++) gone[s] += Math.max(stepOf(segments.from[s]), stepOf(segments.to[s]));
  }
  return worst;
}

interface Segments {
  from: Uint32Array;
  to: Uint32Array;
  curve: Uint32Array;
  /** Length from the curve's start to the segment's middle, and the whole length; 0 as whole where it is open. */
  along: Float64Array;
  round: Float64Array;
}

function segmentsOf(curves: CurveSet): Segments {
  const { start, closed, position } = curves;
  let total = 0;
  for (let c = 0; c < curveCount(curves); c++) total += start[c + 1] - start[c] - 1 + closed[c];
  const out: Segments = {
    from: new Uint32Array(total),
    to: new Uint32Array(total),
    curve: new Uint32Array(total),
    along: new Float64Array(total),
    round: new Float64Array(curveCount(curves)),
  };
  let s = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    let walked = 0;
    for (let p = start[c]; p < start[c + 1] - 1 + closed[c]; p++) {
      const q = p === start[c + 1] - 1 ? start[c] : p + 1;
      const length = distanceAt(position, p, q);
      out.from[s] = p;
      out.to[s] = q;
      out.curve[s] = c;
      out.along[s++] = walked + length / 2;
      walked += length;
    }
    out.round[c] = closed[c] ? walked : 0;
  }
  return out;
}

function meanStep({ from, to }: Segments, position: Float64Array): number {
  let total = 0;
  for (let s = 0; s < from.length; s++) total += distanceAt(position, from[s], to[s]);
  return total / (from.length || 1);
}

function isNeighbour({ along, round, curve }: Segments, a: number, b: number, radius: number): boolean {
  const apart = Math.abs(along[a] - along[b]);
  const whole = round[curve[a]];
  return Math.min(apart, whole > 0 ? whole - apart : apart) < Math.PI * radius + 1e-9;
}

const direction = new Float64Array(3);

/** → `direction`: unit, from the second place to the first; where the two cross, at right angles to both segments. */
function awayFrom(
  x: Float64Array,
  i: number,
  j: number,
  k: number,
  l: number,
  { s, t, distance }: Approach,
  a: number,
  b: number,
): void {
  if (distance > 1e-9) {
    for (let n = 0; n < 3; n++)
      direction[n] = (x[i + n] + s * (x[j + n] - x[i + n]) - x[k + n] - t * (x[l + n] - x[k + n])) / distance;
    return;
  }
  const u = subtract(vec3(), pointOf(x, j / 3), pointOf(x, i / 3));
  const v = subtract(vec3(), pointOf(x, l / 3), pointOf(x, k / 3));
  cross(direction, u, v);
  // one on the other: any way across them, another for each pair
  if (length(direction) < 1e-12)
    cross(direction, u, [Math.sin(a + 2 * b), Math.cos(3 * a + b), Math.sin(5 * a + 7 * b + 1)]);
  normalize(direction, direction);
}

/** Pushes a point along `direction`, by its share of `far`. */
function pushPoint(push: Float64Array, weight: Float64Array, p: number, share: number, far: number): void {
  const by = share * far;
  const i = 3 * p;
  push[i] += by * direction[0];
  push[i + 1] += by * direction[1];
  push[i + 2] += by * direction[2];
  weight[p] += share * share;
}

function pushOffProps(
  { position }: CurveSet,
  radius: Float64Array,
  { gap, surroundings }: SeparateOptions,
  push: Float64Array,
  weight: Float64Array,
  before: Nearness | undefined,
): Nearness | undefined {
  let worst = before;
  const hit = createHit();
  for (let p = 0; p < radius.length; p++) {
    const wanted = radius[p] + gap;
    const [x, y, z] = [position[3 * p], position[3 * p + 1], position[3 * p + 2]];
    const far = surroundings?.signedDistance(x, y, z, hit, 4 * wanted) ?? Infinity;
    if (far >= wanted) continue;
    const missing = wanted - far;
    if (!worst || missing / wanted > worst.missing / worst.wanted)
      worst = { place: [x, y, z], missing, wanted, with: 'prop' };
    for (let n = 0; n < 3; n++) push[3 * p + n] += missing * hit.normal[n];
    weight[p] += 1;
  }
  return worst;
}

/**
 * Carries out the pushes of one pass: the mean of all on a point, spread along the curve.
 * @param reach points to both sides that follow a pushed one, less and less
 */
function move(
  { position, start, closed }: CurveSet,
  push: Float64Array,
  weight: Float64Array,
  spread: Float64Array,
  holdEnds: boolean,
  reach: number,
): void {
  for (let p = 0; p < weight.length; p++) {
    const scale = RELAXATION / Math.max(weight[p], 0.5);
    for (let n = 0; n < 3; n++) push[3 * p + n] *= scale;
  }
  const follows = Float64Array.from({ length: reach + 1 }, (_, k) => 0.5 + 0.5 * Math.cos((Math.PI * k) / (reach + 1)));
  for (let c = 0; c < closed.length; c++) {
    const [first, last] = [start[c], start[c + 1] - 1];
    const held = holdEnds && !closed[c];
    // a held end takes no push, and hands none on to its neighbours, which would be pushed without end
    if (held) for (const p of [first, last]) push.fill(0, 3 * p, 3 * p + 3);
    spreadAlong(push, spread, weight, first, last, closed[c] === 1, follows);
    if (held) for (const p of [first, last]) spread.fill(0, 3 * p, 3 * p + 3);
    for (let i = 3 * first; i < 3 * last + 3; i++) position[i] += spread[i];
  }
}

/** Each point takes the pushes around it, each by its share, as their mean: where many push, they do not add up. */
function spreadAlong(
  push: Float64Array,
  spread: Float64Array,
  sum: Float64Array,
  first: number,
  last: number,
  closed: boolean,
  follows: Float64Array,
): void {
  const count = last - first + 1;
  const reach = Math.min(follows.length - 1, (count - 1) >> 1);
  spread.fill(0, 3 * first, 3 * last + 3);
  sum.fill(0, first, last + 1);
  for (let p = first; p <= last; p++) {
    const [x, y, z] = [push[3 * p], push[3 * p + 1], push[3 * p + 2]];
    if (x === 0 && y === 0 && z === 0) continue;
    for (let k = -reach; k <= reach; k++) {
      let q = p + k;
      if (q < first || q > last) {
        if (!closed) continue;
        q += q < first ? count : -count;
      }
      const share = follows[Math.abs(k)];
      spread[3 * q] += share * share * x;
      spread[3 * q + 1] += share * share * y;
      spread[3 * q + 2] += share * share * z;
      sum[q] += share;
    }
  }
  for (let p = first; p <= last; p++) {
    if (sum[p] > 0) for (let n = 0; n < 3; n++) spread[3 * p + n] /= sum[p];
  }
}
