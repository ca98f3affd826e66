import { addScaled, dot, scale, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit, type SurfaceHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';

/** Chords by which it is looked whether a line is clear. */
const CHORDS = 8;
/** So near its ends, in reaches, a line may be in what it is fastened to. */
const AT_ENDS = 2;
/** This many reaches from its ends it is looked whether its skin touches what it is fastened to; nearer it may. */
const END_REACH = 3;
const FROM_ENDS = 60;
/** What is lifted out goes this much further, in reaches: its neighbours come after it. */
const MORE = 0.03;
/** Steeper slopes, by the cosine, are lain on as this one. */
const MIN_COSINE = 0.35;

/** What props a line meets, and how it lies on them. */
export class Obstacles {
  private readonly hit: SurfaceHit = createHit();
  private readonly from: Vec3 = vec3();
  private readonly way: Vec3 = vec3();

  /** @param reach of the line's skin, metres */
  constructor(
    private readonly surroundings: Surroundings,
    private readonly up: Vec3,
    readonly reach: number,
  ) {}

  /** Whether a line of `points` places meets a prop on its way. */
  meets(line: Float64Array, first: number, points: number): boolean {
    const { hit, from, way } = this;
    const every = Math.max(1, Math.floor((points - 1) / CHORDS));
    const ends = AT_ENDS * this.reach + 1e-6;
    for (let k = 0; k < points - 1; k = Math.min(points - 1, k + every)) {
      const next = Math.min(points - 1, k + every);
      const far = chord(line, first + 3 * k, first + 3 * next, from, way);
      if (far === 0) continue;
      // what is met at the very ends is what the line is fastened to
      let begin = 0;
      if (k === 0) begin = Math.min(far, ends);
      addScaled(from, from, way, begin);
      const until = far - begin - (next === points - 1 ? ends : 0);
      if (until > 0 && this.surroundings.cast(from, way, hit) !== undefined && hit.distance < until) return true;
    }
    return this.grazes(line, first, points);
  }

  /** Whether its skin touches a prop where its middle runs clear of all: at its points, and in steps from either end. */
  private grazes(line: Float64Array, first: number, points: number): boolean {
    const { from, way, reach } = this;
    const touches = ([x, y, z]: Vec3) => this.surroundings.closest(x, y, z, this.hit, 0.97 * reach) !== undefined;
    for (let k = 1; k < points - 1; k++) {
      for (let n = 0; n < 3; n++) from[n] = line[first + 3 * k + n];
      if (touches(from)) return true;
    }
    for (const [end, next] of [
      [0, 1],
      [points - 1, points - 2],
    ]) {
      const far = chord(line, first + 3 * end, first + 3 * next, from, way);
      const at = vec3();
      for (let off = END_REACH * reach; off < far && off < FROM_ENDS * reach; off *= 1.15)
        if (touches(addScaled(at, from, way, off))) return true;
    }
    return false;
  }

  /**
   * Lifts what is below a surface onto it, seen along gravity from the straight way between the ends.
   * @returns which points were lifted
   */
  layOn(line: Float64Array, first: number, points: number): number[] {
    const { up, hit, from } = this;
    const down = scale(vec3(), up, -1);
    const last = first + 3 * (points - 1);
    const lifted: number[] = [];
    for (let k = 1; k < points - 1; k++) {
      const o = first + 3 * k;
      const t = k / (points - 1);
      for (let n = 0; n < 3; n++) from[n] = line[first + n] + t * (line[last + n] - line[first + n]);
      let below = 0;
      for (let n = 0; n < 3; n++) below += (from[n] - line[o + n]) * up[n];
      // under the straight way, not beside it: a line that leans keeps its side
      for (let n = 0; n < 3; n++) from[n] = line[o + n] + below * up[n];
      // where the straight way itself runs through a body, from above that one
      const inside = this.surroundings.enclosing(from[0], from[1], from[2]);
      const body = inside === undefined ? undefined : this.surroundings.surface(inside);
      const above = body ? topAbove(body.bounds, from, up) : 0;
      addScaled(from, from, up, above + this.reach);
      if (this.surroundings.cast(from, down, hit) === undefined) continue;
      const upright = dot(hit.normal, up);
      if (upright < 0) continue;
      // on a slope its skin reaches further up than on the level
      const depth = below + above + this.reach - hit.distance + this.reach / Math.max(MIN_COSINE, upright);
      if (depth <= 0) continue;
      for (let n = 0; n < 3; n++) line[o + n] += depth * up[n];
      lifted.push(k);
    }
    return lifted;
  }

  /**
   * Pushes what is nearer to a prop than its skin reaches out of it: points, and where an edge stands between two, both.
   * What is next to its ends stays.
   * @param room this many times its reach is kept free
   */
  pushOut(line: Float64Array, first: number, points: number, room: number): void {
    const { from } = this;
    const reach = room * this.reach;
    const last = first + 3 * (points - 1);
    const ends = AT_ENDS * this.reach;
    const held = (o: number) => apart(line, o, first) < ends || apart(line, o, last) < ends;
    for (let o = first + 3; o < last; o += 3) {
      if (held(o)) continue;
      for (let n = 0; n < 3; n++) from[n] = line[o + n];
      const missing = this.wayOut(from, reach);
      for (let n = 0; n < 3; n++) line[o + n] += missing * this.way[n];
    }
    for (let o = first + 3; o + 3 < last; o += 3) {
      if (held(o) || held(o + 3)) continue;
      for (let n = 0; n < 3; n++) from[n] = (line[o + n] + line[o + 3 + n]) / 2;
      const missing = this.wayOut(from, reach);
      for (let n = 0; n < 3; n++) {
        line[o + n] += missing * this.way[n];
        line[o + 3 + n] += missing * this.way[n];
      }
    }
  }

  /**
   * Lifts a line that is as smooth as it shall be out of what it cuts into, with its neighbours for `aside` points to either
   * side, less and less: it stays smooth.
   */
  liftOut(line: Float64Array, first: number, points: number, aside: number): void {
    const { from, reach } = this;
    const lift = new Float64Array(points);
    const ways = new Float64Array(3 * points);
    const last = first + 3 * (points - 1);
    const ends = AT_ENDS * reach;
    for (let k = 0; k + 1 < points; k++)
      for (const t of [0, 0.5]) {
        const o = first + 3 * k;
        for (let n = 0; n < 3; n++) from[n] = line[o + n] * (1 - t) + line[o + 3 + n] * t;
        if (apart(line, o, first) < ends || apart(line, o + 3, last) < ends) continue;
        const missing = this.wayOut(from, reach);
        if (missing <= 0) continue;
        const [low, high] = [Math.max(0, k - aside), Math.min(points - 1, k + aside + 1)];
        for (let j = low; j <= high; j++) {
          const share = Math.cos((Math.PI / 2) * Math.min(1, Math.abs(j - k - t) / (aside + 1))) ** 2;
          lift[j] = Math.max(lift[j], (missing + MORE * reach) * share);
          for (let n = 0; n < 3; n++) ways[3 * j + n] += missing * share * this.way[n];
        }
      }
    for (let k = 1; k < points - 1; k++) {
      const size = Math.hypot(ways[3 * k], ways[3 * k + 1], ways[3 * k + 2]);
      if (size > 0) for (let n = 0; n < 3; n++) line[first + 3 * k + n] += (lift[k] * ways[3 * k + n]) / size;
    }
  }

  /** How far a place has to go for its skin to be out of all props; `way` is then which way, unit. */
  private wayOut([x, y, z]: Vec3, reach: number): number {
    const { hit, way } = this;
    const far = this.surroundings.signedDistance(x, y, z, hit, 1.5 * reach);
    if (!(far < reach)) return 0;
    const { point, normal } = hit;
    // away from the nearest place; from within, back through it
    const inside = far < 0 ? -1 : 1;
    const size = Math.abs(far) > 1e-9 ? inside * Math.abs(far) : 0;
    for (let n = 0; n < 3; n++) way[n] = size !== 0 ? ([x, y, z][n] - point[n]) / size : normal[n];
    return reach - far;
  }

  /** The place on a prop nearest to another, this far off it; that other where the prop is gone. */
  onto(prop: string, at: Vec3, reach: number): Vec3 {
    const { hit } = this;
    if (this.surroundings.closest(at[0], at[1], at[2], hit, Infinity, prop) === undefined) return at;
    return [0, 1, 2].map((n) => hit.point[n] + reach * hit.normal[n]) as Vec3;
  }

  /** How far it is straight down from a place to a prop; Infinity where there is none. */
  under(at: Vec3): number {
    addScaled(this.from, at, this.up, -AT_ENDS * this.reach);
    const met = this.surroundings.cast(this.from, scale(vec3(), this.up, -1), this.hit);
    return met === undefined ? Infinity : this.hit.distance + AT_ENDS * this.reach;
  }
}

const apart = (line: Float64Array, i: number, j: number): number =>
  Math.hypot(line[i] - line[j], line[i + 1] - line[j + 1], line[i + 2] - line[j + 2]);

function chord(line: Float64Array, i: number, j: number, from: Vec3, way: Vec3): number {
  for (let n = 0; n < 3; n++) from[n] = line[i + n];
  subtract(way, line.subarray(j, j + 3), from);
  const far = Math.hypot(way[0], way[1], way[2]);
  if (far > 0) scale(way, way, 1 / far);
  return far;
}

/** How far the box of a body reaches above a place. */
function topAbove(bounds: ArrayLike<number>, at: Vec3, up: Vec3): number {
  let top = 0;
  for (let n = 0; n < 3; n++) top += up[n] * ((up[n] > 0 ? bounds[3 + n] : bounds[n]) - at[n]);
  return Math.max(0, top);
}

/** Evens out kinks where a line begins to lie on something, its ends held. */
export function smoothed(line: Float64Array, first: number, points: number, rounds: number): void {
  for (let round = 0; round < rounds; round++) {
    let before = [line[first], line[first + 1], line[first + 2]];
    for (let k = 1; k < points - 1; k++) {
      const o = first + 3 * k;
      const own = [line[o], line[o + 1], line[o + 2]];
      for (let n = 0; n < 3; n++) line[o + n] = own[n] / 2 + (before[n] + line[o + 3 + n]) / 4;
      before = own;
    }
  }
}

/** Points evenly along a way of straight pieces, about so far apart; its ends stay. Flat xyz. */
export function evenlyAlong(points: readonly number[], apart: number, most: number): Float64Array {
  const far = [0];
  for (let i = 3; i < points.length; i += 3)
    far.push(
      far[far.length - 1] +
        Math.hypot(points[i] - points[i - 3], points[i + 1] - points[i - 2], points[i + 2] - points[i - 1]),
    );
  const length = far[far.length - 1];
  const steps = Math.max(2, Math.min(most, Math.ceil(length / apart)));
  const out = new Float64Array(3 * steps + 3);
  let k = 0;
  for (let n = 0; n <= steps; n++) {
    const wanted = (length * n) / steps;
    while (k < far.length - 2 && far[k + 1] < wanted) k++;
    const t = far[k + 1] > far[k] ? Math.min(1, (wanted - far[k]) / (far[k + 1] - far[k])) : 0;
    for (let c = 0; c < 3; c++) out[3 * n + c] = points[3 * k + c] * (1 - t) + points[3 * k + 3 + c] * t;
  }
  return out;
}
