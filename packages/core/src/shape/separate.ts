import type { CurveSet } from '../curve/curve-set.js';
import { type Approach, nearestOnSegments } from '../curve/segment-grid.js';
import { cross, distanceAt, length, mix, normalize, pointOf, subtract, vec3 } from '../numeric/vector.js';
import { createHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import { NearPairs } from './near-pairs.js';
import { BALL, Balls, SPAN, type Spans, spansOf } from './spans.js';

export interface SeparateOptions {
  /** Air between two skins, metres. */
  gap: number;
  /** Most passes over all curves; it ends sooner where nothing moves any more. */
  passes: number;
  holdEnds: boolean;
  surroundings?: Surroundings;
  /** Called with how much of the passes is done, 0…1. */
  onPass?(share: number): void;
}

/** What is left at the worst place. */
export interface Nearness {
  place: [number, number, number];
  /** By how much it is too near, and how far it should be, metres. */
  missing: number;
  wanted: number;
  with: 'line' | 'prop';
}

/** A push bends the line aside over this many radii to both sides at first, instead of making a dent. */
const REACH = 8;
/** In points: lines sampled very finely are bent aside over less. */
const MAX_REACH = 64;
/** Of a push, this much is done at once; all of it would make two neighbours jump over each other. */
const RELAXATION = 0.8;
/** Props are asked in every n-th pass: they cost more than lines. */
const PROP_PASSES = 3;
/** The reach shrinks from pass to pass; the last ones are not spread: they close what spreading left open. */
const EXACT_SHARE = 0.25;
/** This many passes that gain less than this share of what is missing are given up: there is no more room. */
const STALLED = 60;
const GAIN = 0.01;
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
  const most = radius.reduce((a, b) => Math.max(a, b), 0);
  // segments so near each other along one curve never count: none of a span can touch another of it
  const spans = spansOf(curves, Math.PI * most);
  const balls = new Balls(spans);
  const near = new NearPairs(spans, 2 * most + options.gap, most);
  const pushes = new Float64Array(PUSH * radius.length);
  const spread = new Float64Array(position.length);
  const sum = new Float64Array(radius.length);
  const spacing = meanStep(spans, position);
  const spreading = options.passes * (1 - EXACT_SHARE);
  let worst: Nearness | undefined;
  let [least, since, skipped] = [Infinity, 0, 0];
  for (let pass = 0; pass <= options.passes; pass++) {
    options.onPass?.(pass / (options.passes + 1));
    pushes.fill(0);
    balls.update(position);
    near.update(position, balls.span);
    worst = pushPairs(position, radius, options.gap, spans, balls, near, pushes);
    // the last round only looks at what is left
    const isLast = pass === options.passes;
    if (options.surroundings && (isLast || pass % PROP_PASSES === 0 || !worst))
      worst = pushOffProps(curves, radius, options, pushes, worst);
    if (isLast || !worst || worst.missing < DONE * worst.wanted) break;
    const left = worst.missing / worst.wanted;
    if (left < (1 - GAIN) * least) [least, since] = [left, pass];
    else if (pass - since >= STALLED) {
      if (pass + skipped >= spreading) break;
      // what spreading cannot mend, the exact passes may
      [least, since, skipped] = [Infinity, pass, spreading - pass];
    }
    const share = Math.max(0, 1 - (pass + skipped) / spreading);
    const follow = Math.min(MAX_REACH, Math.ceil((share * REACH * most) / (spacing || most)));
    move(curves, pushes, spread, sum, options.holdEnds, follow);
    balls.addWay(spread);
  }
  return worst;
}

/** Numbers of one point: the sum of the pushes on it, xyz, and of the squares of their shares. */
const PUSH = 4;

const approach: Approach = { s: 0, t: 0, distance: 0 };

/**
 * Pushes every pair of segments that is too near apart, by half of what is missing each.
 * @returns the worst of them
 */
function pushPairs(
  position: Float64Array,
  radius: Float64Array,
  gap: number,
  spans: Spans,
  balls: Balls,
  near: NearPairs,
  pushes: Float64Array,
): Nearness | undefined {
  const { from, to, first, curve } = spans;
  const { pairs, until } = near;
  const { segment, span } = balls;
  const most = near.radius;
  const reach = 2 * most + gap;
  let worst: Nearness | undefined;
  let worstShare = 0;
  for (let i = 0; i < 2 * near.count; i += 2) {
    const g = pairs[i];
    const h = pairs[i + 1];
    // two that rest, or are far enough apart for how far they went, cannot touch yet
    const walked = span[SPAN * g + 4] + span[SPAN * h + 4];
    if (walked < until[i >> 1]) continue;
    const x = span[SPAN * h] - span[SPAN * g];
    const y = span[SPAN * h + 1] - span[SPAN * g + 1];
    const z = span[SPAN * h + 2] - span[SPAN * g + 2];
    const far = reach + span[SPAN * g + 3] + span[SPAN * h + 3];
    const apart = Math.sqrt(x * x + y * y + z * z);
    if (apart >= far) {
      until[i >> 1] = walked + apart - far;
      continue;
    }
    const isOneCurve = curve[g] === curve[h];
    /** Least that two of their segments lack to touch: its square's, and it itself. */
    let lack2 = Number.POSITIVE_INFINITY;
    let lack = Number.POSITIVE_INFINITY;
    for (let a = first[g]; a < first[g + 1]; a++) {
      const ax = segment[BALL * a];
      const ay = segment[BALL * a + 1];
      const az = segment[BALL * a + 2];
      const around = reach + segment[BALL * a + 3];
      const hx = span[SPAN * h] - ax;
      const hy = span[SPAN * h + 1] - ay;
      const hz = span[SPAN * h + 2] - az;
      const wide = around + span[SPAN * h + 3];
      const outside = hx * hx + hy * hy + hz * hz - wide * wide;
      if (outside >= 0) {
        if (outside < lack2) lack2 = outside;
        continue;
      }
      const p = from[a];
      const q = to[a];
      for (let b = first[h]; b < first[h + 1]; b++) {
        const dx = segment[BALL * b] - ax;
        const dy = segment[BALL * b + 1] - ay;
        const dz = segment[BALL * b + 2] - az;
        const within = around + segment[BALL * b + 3];
        const beyond = dx * dx + dy * dy + dz * dz - within * within;
        if (beyond >= 0) {
          if (beyond < lack2) lack2 = beyond;
          continue;
        }
        if (isOneCurve && isNeighbour(spans, curve[g], a, b, most)) continue;
        const k = from[b];
        const l = to[b];
        nearestOnSegments(position, 3 * p, 3 * q, 3 * k, 3 * l, approach);
        const s = approach.s;
        const t = approach.t;
        const distance = approach.distance;
        const wanted = radius[p] + (radius[q] - radius[p]) * s + radius[k] + (radius[l] - radius[k]) * t + gap;
        lack = Math.min(lack, distance - reach);
        if (distance >= wanted) continue;
        const missing = wanted - distance;
        if (!worst || missing > worstShare * wanted) {
          worstShare = missing / wanted;
          worst = { place: mix(vec3(), pointOf(position, p), pointOf(position, q), s), missing, wanted, with: 'line' };
        }
        awayFrom(position, 3 * p, 3 * q, 3 * k, 3 * l, approach, a, b);
        const half = missing / 2;
        pushPoint(pushes, p, 1 - s, half);
        pushPoint(pushes, q, s, half);
        pushPoint(pushes, k, 1 - t, -half);
        pushPoint(pushes, l, t, -half);
      }
    }
    // d² − w² = (d − w)(d + w): no two middles are further apart than both balls are wide, nor wanted further than `far`
    until[i >> 1] = walked + Math.max(0, Math.min(lack, lack2 / (2 * apart + 2 * far)));
  }
  return worst;
}

function meanStep({ from, to }: Spans, position: Float64Array): number {
  let total = 0;
  for (let s = 0; s < from.length; s++) total += distanceAt(position, from[s], to[s]);
  return total / (from.length || 1);
}

function isNeighbour({ along, round }: Spans, curve: number, a: number, b: number, radius: number): boolean {
  const apart = Math.abs(along[a] - along[b]);
  const whole = round[curve];
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
function pushPoint(pushes: Float64Array, p: number, share: number, far: number): void {
  const by = share * far;
  const i = PUSH * p;
  pushes[i] += by * direction[0];
  pushes[i + 1] += by * direction[1];
  pushes[i + 2] += by * direction[2];
  pushes[i + 3] += share * share;
}

function pushOffProps(
  { position }: CurveSet,
  radius: Float64Array,
  { gap, surroundings }: SeparateOptions,
  pushes: Float64Array,
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
    for (let n = 0; n < 3; n++) pushes[PUSH * p + n] += missing * hit.normal[n];
    pushes[PUSH * p + 3] += 1;
  }
  return worst;
}

/**
 * Carries out the pushes of one pass: the mean of all on a point, spread along the curve.
 * @param reach points to both sides that follow a pushed one, less and less
 */
function move(
  { position, start, closed }: CurveSet,
  pushes: Float64Array,
  spread: Float64Array,
  sum: Float64Array,
  holdEnds: boolean,
  reach: number,
): void {
  for (let p = 0; p < sum.length; p++) {
    const scale = RELAXATION / Math.max(pushes[PUSH * p + 3], 0.5);
    for (let n = 0; n < 3; n++) pushes[PUSH * p + n] *= scale;
  }
  const follows = Float64Array.from({ length: reach + 1 }, (_, k) => 0.5 + 0.5 * Math.cos((Math.PI * k) / (reach + 1)));
  for (let c = 0; c < closed.length; c++) {
    const [first, last] = [start[c], start[c + 1] - 1];
    const held = holdEnds && !closed[c];
    // a held end takes no push, and hands none on to its neighbours, which would be pushed without end
    if (held) for (const p of [first, last]) pushes.fill(0, PUSH * p, PUSH * p + 3);
    spreadAlong(pushes, spread, sum, first, last, closed[c] === 1, follows);
    if (held) for (const p of [first, last]) spread.fill(0, 3 * p, 3 * p + 3);
    for (let i = 3 * first; i < 3 * last + 3; i++) position[i] += spread[i];
  }
}

/** Each point takes the pushes around it, each by its share, as their mean: where many push, they do not add up. */
function spreadAlong(
  pushes: Float64Array,
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
    const x = pushes[PUSH * p];
    const y = pushes[PUSH * p + 1];
    const z = pushes[PUSH * p + 2];
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
