import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { rotationMinimizingFrames } from '../curve/frames.js';
import { createHit } from './surface.js';
import type { Surroundings } from './surroundings.js';

/** Weights reach this many standard deviations. */
const WINDOW = 2.5;
/** A way up that is less than this square to the line says nothing about its roll. */
const MIN_SINE = 0.2;

/** Where a section is held against what is under it, in its breadths to both sides. */
const ACROSS = [-1, -0.5, 0, 0.5, 1];
/** And where it lies, so that no edge and no round of a post passes between two of them. */
const CLOSE_ACROSS = [-1, -0.75, -0.5, -0.25, 0, 0.25, 0.5, 0.75, 1];
/** From this many breadths over the line what is under it is looked for: gaps narrower than the section are bridged. */
const OVER = 1;
/** What reaches this many times as far to its sides as down is flat. */
export const FLAT = 1.2;
/** This often the way off is looked at from above. */
const LOOKS = 2;
/** This many points to each side are looked at for a way over a gap. */
const MAX_VISIBLE = 40;
/** What moved by less than this share of its height, or leans by less, radians, lies as it did. */
const STILL = 0.002;
/** What sinks in by less than this share of its height lies well. */
const SUNK = 0.02;
/** Slopes above this are walls beside the line, not what it lies on. */
const MAX_SLOPE = 1.2;

/**
 * Which way is off the place that each point lies on, one unit vector a point; (0, 0, 0) where none is that near.
 * @param near how far from the surface, metres, the line still lies on it; one a point
 */
export function waysOff(curves: CurveSet, surroundings: Surroundings, near: Float64Array, only?: string): Float64Array {
  const { position } = curves;
  const out = new Float64Array(position.length);
  const hit = createHit();
  for (let p = 0; p < near.length; p++) {
    const i = 3 * p;
    const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
    if (surroundings.closest(x, y, z, hit, near[p], only) === undefined || hit.distance < 1e-9) continue;
    for (let n = 0; n < 3; n++) out[i + n] = (position[i + n] - hit.point[n]) / hit.distance;
  }
  return out;
}

/**
 * Ways off as something broad feels them: looked at from as far off as it reaches to its sides, an edge or a gap narrower
 * than that hardly turns them.
 * @param up the ways as the line feels them, one unit vector a point
 */
export function waysFromAbove(
  { position }: CurveSet,
  surroundings: Surroundings,
  up: Float64Array,
  breadth: Float64Array,
  only?: string,
): Float64Array {
  const out = up.slice();
  const hit = createHit();
  for (let p = 0; p < breadth.length; p++)
    // what was felt at an edge may lean: the second look is from where the first one points
    for (let look = 0; look < LOOKS; look++) {
      const i = 3 * p;
      const [x, y, z] = [0, 1, 2].map((n) => position[i + n] + breadth[p] * out[i + n]);
      if (surroundings.closest(x, y, z, hit, 2 * breadth[p], only) === undefined || hit.distance < 1e-9) break;
      for (let n = 0; n < 3; n++) out[i + n] = ([x, y, z][n] - hit.point[n]) / hit.distance;
    }
  return out;
}

/**
 * How something broader than it is high rests: it is laid over the highest places under its breadth, one on each side of
 * the line, so that it bridges gaps and leans on a step. Changes `up` to the way off that rest.
 * @param breadth how far it reaches to each side, metres, one a point
 * @param distance how far it reaches down, metres, one a point
 * @returns the line, raised where it would sink in
 */
export function restAcross(
  curves: CurveSet,
  surroundings: Surroundings,
  up: Float64Array,
  breadth: Float64Array,
  distance: Float64Array,
  only?: string,
): CurveSet {
  const { tangent } = rotationMinimizingFrames(curves);
  const position = curves.position.slice();
  const hit = createHit();
  const heights = new Float64Array(ACROSS.length);
  for (let p = 0; p < breadth.length; p++) {
    const i = 3 * p;
    const [t, u] = [tangent.subarray(i, i + 3), up.subarray(i, i + 3)];
    const side = [t[1] * u[2] - t[2] * u[1], t[2] * u[0] - t[0] * u[2], t[0] * u[1] - t[1] * u[0]];
    const size = Math.hypot(...side);
    if (breadth[p] <= FLAT * distance[p] || size < MIN_SINE) continue;
    for (let n = 0; n < 3; n++) side[n] /= size;
    // square to line and side
    const over = [side[1] * t[2] - side[2] * t[1], side[2] * t[0] - side[0] * t[2], side[0] * t[1] - side[1] * t[0]];
    const lift = OVER * breadth[p];
    ACROSS.forEach((share, k) => {
      const [x, y, z] = [0, 1, 2].map((n) => position[i + n] + share * breadth[p] * side[n] + lift * over[n]);
      heights[k] = lift - surroundings.signedDistance(x, y, z, hit, 2 * lift + distance[p], only);
    });
    const { height, slope } = restOn(heights, breadth[p]);
    if (!(height > Number.NEGATIVE_INFINITY) || Math.abs(slope) > MAX_SLOPE) continue;
    const lean = Math.hypot(1, slope);
    const missing = Math.max(0, height + distance[p] * lean);
    for (let n = 0; n < 3; n++) {
      up[i + n] = (over[n] - slope * side[n]) / lean;
      position[i + n] += missing * over[n];
    }
  }
  return { ...curves, position };
}

/** Which way is up for the section as it is rolled, one unit vector a point: it turns as smoothly as the roll does. */
export function sectionUp(curves: CurveSet): Float64Array {
  const { tangent: t, normal: m } = rotationMinimizingFrames(curves);
  const roll = curves.pointData[POINT.roll];
  const up = new Float64Array(m.length);
  for (let i = 0; i < m.length; i += 3) {
    const [cos, sin] = [Math.cos(roll[i / 3]), Math.sin(roll[i / 3])];
    for (let n = 0; n < 3; n++) {
      const [a, b] = [i + ((n + 1) % 3), i + ((n + 2) % 3)];
      up[i + n] = cos * m[i + n] + sin * (t[a] * m[b] - t[b] * m[a]);
    }
  }
  return up;
}

/** Ways blended along the line over a length (one standard deviation, metres), unit vectors again: along them it may be moved without bunching. */
export function evenWays(curves: CurveSet, ways: Float64Array, over: number): Float64Array {
  const { start, closed } = curves;
  const out = new Float64Array(ways.length);
  const lengths = curveLengths(curves);
  for (let c = 0; c < curveCount(curves); c++) {
    const [first, count] = [start[c], start[c + 1] - start[c]];
    const spread = (over * Math.max(1, count - 1 + closed[c])) / (lengths[c] || 1);
    const weights = bellOf(spread);
    const width = weights.length - 1;
    for (let p = 0; p < count; p++) {
      const i = 3 * (first + p);
      for (let k = -width; k <= width; k++) {
        const q = closed[c] ? (((p + k) % count) + count) % count : p + k;
        if (q < 0 || q >= count) continue;
        for (let n = 0; n < 3; n++) out[i + n] += weights[Math.abs(k)] * ways[3 * (first + q) + n];
      }
      const size = Math.hypot(out[i], out[i + 1], out[i + 2]) || 1;
      for (let n = 0; n < 3; n++) out[i + n] /= size;
    }
  }
  return out;
}

/** A line and which way is up for its section at each point. */
export interface Rolled {
  curves: CurveSet;
  up: Float64Array;
}

/**
 * The line raised where the section would still sink in with its lower side: where the ground turns faster than the roll
 * may. Undefined where it sinks in nowhere.
 * @param breadth how far it reaches to each side, metres, one a point
 * @param distance how far it reaches down, metres, one a point
 * @param ways which way it is raised, one unit vector a point
 * @param before what was looked at the last time: what is as it was then is not looked at again
 */
export function raiseSection(
  { curves, up }: Rolled,
  surroundings: Surroundings,
  breadth: Float64Array,
  distance: Float64Array,
  ways: Float64Array,
  before: Rolled | undefined,
  only?: string,
): CurveSet | undefined {
  const { tangent: t } = rotationMinimizingFrames(curves);
  const position = curves.position.slice();
  const hit = createHit();
  let sunk = false;
  const stands = (i: number, n: number): boolean =>
    before !== undefined &&
    Math.abs(before.curves.position[i + n] - position[i + n]) < STILL * distance[i / 3] &&
    Math.abs(before.up[i + n] - up[i + n]) < STILL;
  for (let p = 0; p < breadth.length; p++) {
    const i = 3 * p;
    if (breadth[p] <= FLAT * distance[p] || (stands(i, 0) && stands(i, 1) && stands(i, 2))) continue;
    let deepest = 0;
    for (const share of CLOSE_ACROSS) {
      const [x, y, z] = [0, 1, 2].map((n) => {
        const [a, b] = [i + ((n + 1) % 3), i + ((n + 2) % 3)];
        return position[i + n] + share * breadth[p] * (t[a] * up[b] - t[b] * up[a]) - distance[p] * up[i + n];
      });
      deepest = Math.max(deepest, -surroundings.signedDistance(x, y, z, hit, breadth[p], only));
    }
    if (deepest <= SUNK * distance[p]) continue;
    sunk = true;
    for (let n = 0; n < 3; n++) position[i + n] += deepest * ways[i + n];
  }
  return sunk ? { ...curves, position } : undefined;
}

/**
 * How something broader than it is high runs over gaps that it is led across: where places before and behind, no further
 * off than it reaches to its sides, have a straight way between them that passes above the line, it takes that way.
 * @param up the way off what it lies on, one unit vector a point
 * @param breadth how far it reaches to each side, metres, one a point
 * @param distance how far it reaches down, metres, one a point
 */
export function bridgeAlong(
  curves: CurveSet,
  up: Float64Array,
  breadth: Float64Array,
  distance: Float64Array,
): CurveSet {
  const { start, closed, position } = curves;
  const { tangent } = rotationMinimizingFrames(curves);
  const out = position.slice();
  for (let c = 0; c < curveCount(curves); c++) {
    const [first, count] = [start[c], start[c + 1] - start[c]];
    for (let p = first; p < first + count; p++) {
      if (breadth[p] <= FLAT * distance[p]) continue;
      const i = 3 * p;
      /** Along the line and off the surface, as seen from p; undefined past an end or out of reach. */
      const seen = (k: number): [number, number] | undefined => {
        const far = p - first + k;
        if (!closed[c] && (far < 0 || far >= count)) return undefined;
        const j = 3 * (first + (((far % count) + count) % count));
        let [along, off] = [0, 0];
        for (let n = 0; n < 3; n++) {
          along += (position[j + n] - position[i + n]) * tangent[i + n];
          off += (position[j + n] - position[i + n]) * up[i + n];
        }
        return Math.hypot(along, off) > breadth[p] || k * along <= 0 ? undefined : [along, off];
      };
      let missing = 0;
      const before = within(seen, -1);
      const behind = within(seen, 1);
      for (const [a, ha] of before)
        for (const [b, hb] of behind) missing = Math.max(missing, ha + ((hb - ha) * -a) / (b - a));
      for (let n = 0; n < 3; n++) out[i + n] += missing * up[i + n];
    }
  }
  return { ...curves, position: out };
}

/** All that is seen to one side until the first that is not. */
function within(seen: (k: number) => [number, number] | undefined, side: 1 | -1): [number, number][] {
  const out: [number, number][] = [];
  for (let k = side; Math.abs(k) <= MAX_VISIBLE; k += side) {
    const one = seen(k);
    if (!one) break;
    out.push(one);
  }
  return out;
}

/** Height in the middle and slope of what is over all heights: of the pairs on both sides the highest, of those the widest. */
function restOn(heights: Float64Array, breadth: number): { height: number; slope: number } {
  const middle = heights.length >> 1;
  let best = { height: heights[middle], slope: 0 };
  for (let a = middle - 1; a >= 0; a--)
    for (let b = middle + 1; b < heights.length; b++) {
      const width = (ACROSS[b] - ACROSS[a]) * breadth;
      const slope = (heights[b] - heights[a]) / width;
      const height = heights[a] - ACROSS[a] * breadth * slope;
      if (height >= best.height - 1e-6 * breadth) best = { height, slope };
    }
  return best;
}

/**
 * The turn that brings the section's own up to the ways given, radians, one a point, added to what the points had: what
 * is flat then lies flat. Eased over a length (one standard deviation, metres); where there is no way the turn stays as
 * it was before, so that nothing turns in the air.
 */
export function rollTowards(curves: CurveSet, up: Float64Array, over: number): CurveSet {
  const { tangent, normal } = rotationMinimizingFrames(curves);
  const count = up.length / 3;
  // the way up as seen from the frame: along its normal and along its binormal
  const seen = new Float64Array(2 * count);
  for (let p = 0; p < count; p++) {
    const i = 3 * p;
    const [ux, uy, uz] = [up[i], up[i + 1], up[i + 2]];
    const alongNormal = ux * normal[i] + uy * normal[i + 1] + uz * normal[i + 2];
    const alongBinormal =
      ux * (tangent[i + 1] * normal[i + 2] - tangent[i + 2] * normal[i + 1]) +
      uy * (tangent[i + 2] * normal[i] - tangent[i] * normal[i + 2]) +
      uz * (tangent[i] * normal[i + 1] - tangent[i + 1] * normal[i]);
    if (Math.hypot(alongNormal, alongBinormal) < MIN_SINE) continue;
    seen[2 * p] = alongNormal;
    seen[2 * p + 1] = alongBinormal;
  }
  const had = curves.pointData[POINT.roll];
  const roll = had ? had.slice() : new Float32Array(count);
  const lengths = curveLengths(curves);
  for (let c = 0; c < curveCount(curves); c++) {
    const [first, end] = [curves.start[c], curves.start[c + 1]];
    const step = lengths[c] / Math.max(1, end - first - 1 + curves.closed[c]);
    const turns = eased(seen.subarray(2 * first, 2 * end), curves.closed[c] === 1, over / (step || 1));
    turns.forEach((turn, k) => {
      roll[first + k] += turn;
    });
  }
  return { ...curves, pointData: { ...curves.pointData, [POINT.roll]: roll } };
}

/** Weights of a bell this many samples wide (one deviation), from its middle outwards. */
const bellOf = (spread: number): Float64Array =>
  Float64Array.from({ length: Math.min(400, Math.ceil(WINDOW * spread)) + 1 }, (_, k) =>
    Math.exp(-0.5 * (k / Math.max(spread, 1e-9)) ** 2),
  );

/** Angles of ways that are weighted along the line, without a jump from one to the next; those of none are the last ones. */
function eased(seen: Float64Array, closed: boolean, spread: number): Float64Array {
  const count = seen.length / 2;
  const weights = bellOf(spread);
  const width = weights.length - 1;
  const out = new Float64Array(count).fill(Number.NaN);
  for (let p = 0; p < count; p++) {
    let [x, y] = [0, 0];
    for (let k = -width; k <= width; k++) {
      const q = closed ? (((p + k) % count) + count) % count : p + k;
      if (q < 0 || q >= count) continue;
      x += weights[Math.abs(k)] * seen[2 * q];
      y += weights[Math.abs(k)] * seen[2 * q + 1];
    }
    if (Math.hypot(x, y) > 1e-9) out[p] = Math.atan2(y, x);
  }
  let last = out.find((angle) => !Number.isNaN(angle)) ?? 0;
  // the nearest of the angles that are the same but for whole turns
  return out.map((angle) => {
    if (!Number.isNaN(angle)) last = angle + 2 * Math.PI * Math.round((last - angle) / (2 * Math.PI));
    return last;
  });
}
