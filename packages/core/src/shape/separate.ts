import { type CurveSet, curveCount } from '../curve/curve-set.js';
import { type Approach, nearestOnSegments, SegmentGrid } from '../curve/segment-grid.js';
import { distanceAt } from '../numeric/vector.js';
import { createHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';

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
  const middle = new Float64Array(3 * count);
  const push = new Float64Array(position.length);
  const spread = new Float64Array(position.length);
  const weight = new Float64Array(position.length / 3);
  const most = radius.reduce((a, b) => Math.max(a, b), 0);
  const approach: Approach = { s: 0, t: 0, distance: 0 };
  const spacing = meanStep(segments, position);
  let worst: Nearness | undefined;
  const visitPair = (a: number, b: number) => {
    if (segments.curve[a] === segments.curve[b] && isNeighbour(segments, a, b, most)) return;
    const p = segments.from[a];
    const q = segments.to[a];
    const k = segments.from[b];
    const l = segments.to[b];
    nearestOnSegments(position, 3 * p, 3 * q, 3 * k, 3 * l, approach);
    const { s, t, distance } = approach;
    const wanted = radius[p] + (radius[q] - radius[p]) * s + radius[k] + (radius[l] - radius[k]) * t + options.gap;
    if (distance >= wanted) return;
    const missing = wanted - distance;
    if (!worst || missing / wanted > worst.missing / worst.wanted)
      worst = {
        place: [0, 1, 2].map(
          (n) => position[3 * p + n] + s * (position[3 * q + n] - position[3 * p + n]),
        ) as Nearness['place'],
        missing,
        wanted,
        with: 'line',
      };
    const away = awayFrom(position, 3 * p, 3 * q, 3 * k, 3 * l, approach, a, b);
    add(p, 1 - s, away, missing / 2);
    add(q, s, away, missing / 2);
    add(k, 1 - t, away, -missing / 2);
    add(l, t, away, -missing / 2);
  };
  const add = (p: number, share: number, away: readonly number[], far: number) => {
    for (let n = 0; n < 3; n++) push[3 * p + n] += share * far * away[n];
    weight[p] += share * share;
  };
  for (let pass = 0; pass <= options.passes; pass++) {
    worst = undefined;
    push.fill(0);
    weight.fill(0);
    let longest = 0;
    for (let s = 0; s < count; s++) {
      const [p, q] = [segments.from[s], segments.to[s]];
      longest = Math.max(longest, distanceAt(position, p, q));
      for (let n = 0; n < 3; n++) middle[3 * s + n] = (position[3 * p + n] + position[3 * q + n]) / 2;
    }
    const size = Math.max(2 * most + options.gap + longest, 1e-9);
    const grid = new SegmentGrid(middle, size);
    for (let s = 0; s < count; s++) grid.neighbours(s, (other) => visitPair(s, other));
    // the last round only looks at what is left
    const isLast = pass === options.passes;
    if (options.surroundings && (isLast || pass % PROP_PASSES === 0 || !worst))
      worst = pushOffProps(curves, radius, options, push, weight, worst);
    if (isLast || !worst || worst.missing < DONE * worst.wanted) break;
    const share = Math.max(0, 1 - pass / (options.passes * (1 - EXACT_SHARE)));
    const reach = Math.min(MOST_REACH, Math.ceil((share * REACH * most) / (spacing || most)));
    move(curves, push, weight, spread, options.holdEnds, reach);
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

const direction = [0, 0, 0];

/** Unit direction from the second place to the first; where the two cross, at right angles to both segments. */
function awayFrom(
  x: Float64Array,
  i: number,
  j: number,
  k: number,
  l: number,
  { s, t, distance }: Approach,
  a: number,
  b: number,
): readonly number[] {
  if (distance > 1e-9) {
    for (let n = 0; n < 3; n++)
      direction[n] = (x[i + n] + s * (x[j + n] - x[i + n]) - x[k + n] - t * (x[l + n] - x[k + n])) / distance;
    return direction;
  }
  const u = [0, 1, 2].map((n) => x[j + n] - x[i + n]);
  const v = [0, 1, 2].map((n) => x[l + n] - x[k + n]);
  let cross = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  // one on the other: any way across them, another for each pair
  if (Math.hypot(...cross) < 1e-12) {
    const any = [Math.sin(a + 2 * b), Math.cos(3 * a + b), Math.sin(5 * a + 7 * b + 1)];
    cross = [u[1] * any[2] - u[2] * any[1], u[2] * any[0] - u[0] * any[2], u[0] * any[1] - u[1] * any[0]];
  }
  const size = Math.hypot(...cross) || 1;
  return cross.map((value) => value / size);
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
