import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { createHit, type SurfaceHit } from './surface.js';
import type { Surroundings } from './surroundings.js';

/** The way up is asked at every this many samples and blended in between. */
const COARSE = 8;
/** How many asked places the way up is blended over, to either side. */
const BLEND = 2;
/** Before it is laid down, the line is lifted this many times its distance: it then bridges gaps narrower than itself. */
const LIFT = 1.5;

/**
 * Which way is off the surface, one unit vector a point, blended along the curve so that a gap between two planks or a
 * single facet does not turn it. (0, 0, 0) where no surface is within `reach`. `height` is how far over the surface the
 * point surely is: a search that begins near the surface visits far less of its tree.
 */
export function waysUp(curves: CurveSet, surroundings: Surroundings, reach: number, only?: string): Ways {
  const height = new Float64Array(curves.position.length / 3);
  const up = new Float64Array(curves.position.length);
  const hit = createHit();
  for (let c = 0; c < curveCount(curves); c++) {
    const first = curves.start[c];
    const count = curves.start[c + 1] - first;
    const asked = Math.ceil((count - 1) / COARSE) + 1;
    const ways = new Float64Array(3 * asked);
    const heights = new Float64Array(asked);
    for (let k = 0; k < asked; k++) {
      const i = 3 * (first + Math.min(count - 1, k * COARSE));
      const [x, y, z] = [curves.position[i], curves.position[i + 1], curves.position[i + 2]];
      const prop = surroundings.closest(x, y, z, hit, reach, only);
      if (prop === undefined) continue;
      outwards(x, y, z, hit, surroundings.isBehind(prop, x, y, z, hit), ways, 3 * k);
      for (let axis = 0; axis < 3; axis++) heights[k] += ([x, y, z][axis] - hit.point[axis]) * ways[3 * k + axis];
    }
    const blended = blendWays(ways, asked);
    for (let j = 0; j < count; j++) {
      const k = Math.min(asked - 1, Math.floor(j / COARSE));
      const next = Math.min(asked - 1, k + 1);
      const t = (j - k * COARSE) / COARSE;
      const i = 3 * (first + j);
      for (let axis = 0; axis < 3; axis++)
        up[i + axis] = blended[3 * k + axis] * (1 - t) + blended[3 * next + axis] * t;
      normalize(up, i);
      // where the two neighbours disagree, an edge may lie between them: then less is sure, or nothing
      const differ = Math.abs(heights[k] - heights[next]);
      height[first + j] = Math.max(0, Math.min(heights[k], heights[next]) - 2 * differ);
    }
  }
  return { up, height };
}

interface Ways {
  /** Flat xyz, one unit vector a point. */
  up: Float64Array;
  /** Metres, one a point, 0 or more. */
  height: Float64Array;
}

/** Mean of each way and its neighbours, then once more with those that disagree with the mean left out. */
function blendWays(ways: Float64Array, count: number): Float64Array {
  let mean = ways;
  for (let round = 0; round < 2; round++) {
    const next = new Float64Array(ways.length);
    for (let k = 0; k < count; k++) {
      for (let j = Math.max(0, k - BLEND); j <= Math.min(count - 1, k + BLEND); j++) {
        const agree =
          round === 0
            ? 1
            : Math.max(
                0,
                ways[3 * j] * mean[3 * k] + ways[3 * j + 1] * mean[3 * k + 1] + ways[3 * j + 2] * mean[3 * k + 2],
              );
        for (let axis = 0; axis < 3; axis++) next[3 * k + axis] += ways[3 * j + axis] * agree * agree;
      }
      normalize(next, 3 * k);
    }
    mean = next;
  }
  return mean;
}

function normalize(v: Float64Array, i: number): void {
  const size = Math.sqrt(v[i] * v[i] + v[i + 1] * v[i + 1] + v[i + 2] * v[i + 2]);
  if (size < 1e-9) return;
  v[i] /= size;
  v[i + 1] /= size;
  v[i + 2] /= size;
}

/**
 * Every point within `reach` of a surface moves to `distance` over the place nearest to where it is lifted; in the outer
 * half of the reach less and less, so that the line leaves a surface without a jerk. One query a point.
 */
export function layOn(
  curves: CurveSet,
  surroundings: Surroundings,
  distance: Float64Array,
  reach: number,
  { up, height }: Ways,
  only?: string,
): CurveSet {
  const position = curves.position.slice();
  const hit = createHit();
  for (let p = 0; p < distance.length; p++) {
    const i = 3 * p;
    if (up[i] === 0 && up[i + 1] === 0 && up[i + 2] === 0) continue;
    const lift = LIFT * Math.max(0, distance[p]) - height[p];
    const x = position[i] + lift * up[i];
    const y = position[i + 1] + lift * up[i + 1];
    const z = position[i + 2] + lift * up[i + 2];
    const prop = surroundings.closest(x, y, z, hit, reach + Math.abs(lift), only);
    if (prop === undefined) continue;
    const share = Math.min(1, 2 - (2 * hit.distance) / (reach + Math.abs(lift)));
    placeOver(x, y, z, hit, surroundings.isBehind(prop, x, y, z, hit), distance[p], position, i);
    if (share === 1) continue;
    const pull = share * share * (3 - 2 * share);
    for (let axis = 0; axis < 3; axis++)
      position[i + axis] = curves.position[i + axis] + pull * (position[i + axis] - curves.position[i + axis]);
  }
  return { ...curves, position };
}

/**
 * The eased line, lifted so that it is nowhere deeper than the one that was laid on: over a sharp edge easing would cut
 * through it. The lift is an upper envelope as smooth as the easing itself, so no bend comes back with it.
 */
export function keepOutside(held: CurveSet, eased: CurveSet, up: Float64Array, over: number): CurveSet {
  const position = eased.position;
  const sunk = new Float64Array(position.length / 3);
  for (let p = 0; p < sunk.length; p++)
    for (let axis = 0; axis < 3; axis++)
      sunk[p] += (held.position[3 * p + axis] - position[3 * p + axis]) * up[3 * p + axis];
  const lengths = curveLengths(held);
  for (let c = 0; c < curveCount(held); c++) {
    const [first, end] = [held.start[c], held.start[c + 1]];
    const step = lengths[c] / Math.max(1, end - first - 1);
    const width = Math.min(200, Math.ceil((2.5 * over) / (step || 1)));
    const lift = smoothEnvelope(sunk.subarray(first, end), width);
    for (let p = first; p < end; p++)
      for (let axis = 0; axis < 3; axis++) position[3 * p + axis] += lift[p - first] * up[3 * p + axis];
  }
  return eased;
}

/**
 * The laid line with its open ends moved as the stretch before them is, on the mean: beside an edge the very last place would
 * slip to one side, and ends are held where they are when a line is eased.
 * @param over how long that stretch is, metres
 */
export function calmEnds(drawn: CurveSet, laid: CurveSet, over: number): CurveSet {
  const { start, closed } = laid;
  const position = laid.position.slice();
  const along = drawn.pointData[POINT.along];
  for (let c = 0; c < curveCount(laid); c++) {
    if (closed[c]) continue;
    for (const [end, step] of [
      [start[c], 1],
      [start[c + 1] - 1, -1],
    ]) {
      const mean = [0, 0, 0];
      let [count, p] = [0, end];
      const within = () => p >= start[c] && p < start[c + 1] && Math.abs(along[p] - along[end]) <= over;
      for (; within(); p += step, count++)
        for (let n = 0; n < 3; n++) mean[n] += laid.position[3 * p + n] - drawn.position[3 * p + n];
      for (p = end; within(); p += step) {
        const t = 1 - Math.abs(along[p] - along[end]) / (over || 1);
        const share = t * t * (3 - 2 * t);
        for (let n = 0; n < 3; n++)
          position[3 * p + n] += share * (drawn.position[3 * p + n] + mean[n] / count - laid.position[3 * p + n]);
      }
    }
  }
  return { ...laid, position };
}

/** At least `values` (and 0) everywhere, without a kink: the maximum over ± `width`, averaged over ± `width` with a bell. */
function smoothEnvelope(values: Float64Array, width: number): Float64Array {
  const last = values.length - 1;
  const highest = new Float64Array(values.length);
  const out = new Float64Array(values.length);
  // the same bell at every place
  const bell = Float64Array.from({ length: width + 1 }, (_, k) =>
    Math.exp(-0.5 * ((2.5 * k) / Math.max(1, width)) ** 2),
  );
  for (let i = 0; i <= last; i++) {
    const end = Math.min(last, i + width);
    let most = 0;
    for (let k = Math.max(0, i - width); k <= end; k++) if (values[k] > most) most = values[k];
    highest[i] = most;
  }
  for (let i = 0; i <= last; i++) {
    const end = Math.min(last, i + width);
    let sum = 0;
    let total = 0;
    for (let k = Math.max(0, i - width); k <= end; k++) {
      const weight = bell[k < i ? i - k : k - i];
      sum += weight * highest[k];
      total += weight;
    }
    out[i] = sum / total;
  }
  return out;
}

/**
 * Points nearer than `distance`, and points up to `feel` inside a body, are pushed out to it: after smoothing, in inner
 * corners where two faces are near, and where a line is only to keep off.
 */
export function pushOut(
  curves: CurveSet,
  surroundings: Surroundings,
  distance: Float64Array,
  up: Float64Array,
  feel: number,
  only?: string,
): CurveSet {
  const position = curves.position.slice();
  const hit = createHit();
  for (let p = 0; p < distance.length; p++) {
    const i = 3 * p;
    const near = distance[p] * 0.995;
    for (let again = 0; again < 4; again++) {
      const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
      const prop = surroundings.closest(x, y, z, hit, Math.max(near, feel), only);
      if (prop === undefined) break;
      const { point } = hit;
      const behind = surroundings.isBehind(prop, x, y, z, hit);
      if (!behind && hit.distance >= near) break;
      const free = (x - point[0]) * up[i] + (y - point[1]) * up[i + 1] + (z - point[2]) * up[i + 2];
      // beside a wall of a gap the way out is up, not across
      if (again < 3 && free < 0.7 * hit.distance)
        for (let axis = 0; axis < 3; axis++) position[i + axis] += (distance[p] - free) * up[i + axis];
      else placeOver(x, y, z, hit, behind, distance[p], position, i);
    }
  }
  return { ...curves, position };
}

/** By how much the one that is nearest to a surface, or deepest in a body, is short of its distance, metres; felt so far inside. */
export function mostShort(
  { position }: CurveSet,
  surroundings: Surroundings,
  distance: Float64Array,
  feel: number,
  only?: string,
): number {
  const hit = createHit();
  let short = 0;
  for (let p = 0; p < distance.length; p++) {
    const [x, y, z] = position.subarray(3 * p, 3 * p + 3);
    const clear = surroundings.signedDistance(x, y, z, hit, Math.max(feel, distance[p]), only);
    short = Math.max(short, distance[p] - clear);
  }
  return short;
}

/** Puts the point at `distance` on the line from its closest place: round an edge that line turns, on a face it is the normal. */
function placeOver(
  x: number,
  y: number,
  z: number,
  hit: SurfaceHit,
  behind: boolean,
  distance: number,
  position: Float64Array,
  i: number,
): void {
  outwards(x, y, z, hit, behind, position, i);
  for (let axis = 0; axis < 3; axis++) position[i + axis] = hit.point[axis] + distance * position[i + axis];
}

/** Unit vector from the closest place to (x, y, z), out of the body; the face's normal where the point lies on it. */
function outwards(
  px: number,
  py: number,
  pz: number,
  { point, normal }: SurfaceHit,
  behind: boolean,
  out: Float64Array,
  i: number,
): void {
  const x = px - point[0];
  const y = py - point[1];
  const z = pz - point[2];
  const size = Math.sqrt(x * x + y * y + z * z);
  const front = x * normal[0] + y * normal[1] + z * normal[2];
  const onFace = size < 1e-7 || Math.abs(front) < 1e-3 * size;
  const scale = onFace ? 0 : (behind ? -1 : 1) / size;
  out[i] = onFace ? normal[0] : x * scale;
  out[i + 1] = onFace ? normal[1] : y * scale;
  out[i + 2] = onFace ? normal[2] : z * scale;
}
