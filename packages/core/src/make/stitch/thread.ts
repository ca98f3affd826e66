import { addScaled, distance, mix, normalize, type Vec3, vec3 } from '../../numeric/vector.js';
import type { Cloth, ClothPlace } from '../elements/cloth.js';
import type { PlanThread } from './kinds.js';
import type { Leg } from './legs.js';

/** Points of a straight thread and, for each place of its plan, of one that goes round. */
export const STRAIGHT_POINTS = 13;
const LOOP_POINTS = 3;
/** How square its bow is: 2 is round, above that it lies flat and goes down steeply. */
const SQUARE = 3.2;
/** The bow of a straight thread: shares of its way and of its height (superellipse; Gridgeman: Lamé ovals, Math. Gazette 54, 1970). */
const BOW = bow(STRAIGHT_POINTS - 1);
/** How far a thread goes on below its hole, in radii. */
export const BELOW = 1.5;
/** Where it is looked whether the cloth is in the way, of the points from the first. */
const LOOKS = [3, 5, 6, 7, 9];
/** This often it is looked. */
const ROUNDS = 4;

export interface ThreadSize {
  radius: number;
  /** Off the cloth, and how much further at the middle of a stitch, metres. */
  lift: number;
  arch: number;
}

/** Points of a thread. */
export const pointsOf = ({ places }: PlanThread): number =>
  places.length === 2 ? STRAIGHT_POINTS + 2 : LOOP_POINTS * (places.length - 1) + 3;

/** A taut thread from hole to hole: it bows over the cloth and over what is between. Flat xyz. */
export function straightThread(
  from: ClothPlace,
  to: ClothPlace,
  over: number,
  size: ThreadSize,
  cloth: Cloth,
  out: Float64Array,
  at: number,
): void {
  const { radius, lift, arch } = size;
  const last = STRAIGHT_POINTS - 1;
  const flat = [vec3(), vec3()];
  let high = radius + lift + arch;
  const most = high + distance(from.at, to.at);
  const placeAt = (k: number): Vec3 => {
    mix(flat[0], from.at, to.at, BOW.x[k]);
    // square to the cloth at its holes
    mix(flat[1], from.up, to.up, BOW.x[k]);
    normalize(flat[1], flat[1]);
    return addScaled(flat[0], flat[0], flat[1], high * BOW.y[k]);
  };
  // what of the cloth is in the way lifts the whole bow: a thread is taut, and lies on what is highest
  for (let round = 0; round < ROUNDS; round++) {
    let missing = 0;
    for (const k of LOOKS) missing = Math.max(missing, radius + lift - cloth.heightOf(placeAt(k)) / BOW.y[k]);
    if (missing < 0.02 * radius) break;
    high = Math.min(most, high + missing);
  }
  high += 2 * radius * over;
  tail(from, radius, out, at);
  for (let k = 0; k <= last; k++) out.set(placeAt(k), at + 3 * k + 3);
  tail(to, radius, out, at + 3 * last + 6);
}

const tail = ({ at, up }: ClothPlace, radius: number, out: Float64Array, i: number): void => {
  for (let n = 0; n < 3; n++) out[i + n] = at[n] - BELOW * radius * up[n];
};

/** A thread that goes round: it lies on the cloth all its way. */
export function loopThread(
  leg: Leg,
  start: number,
  { places, holes, over }: PlanThread,
  size: ThreadSize,
  cloth: Cloth,
  out: Float64Array,
  at: number,
): void {
  const spans = places.length - 1;
  const count = LOOP_POINTS * spans + 1;
  const high = typeof over === 'number' ? places.map(() => over) : over;
  const placeAt = (s: number): { at: ClothPlace; over: number } => {
    const k = Math.min(spans - 1, Math.floor(s));
    const t = s - k;
    const through = (of: (i: number) => number) =>
      catmullRom(of(Math.max(0, k - 1)), of(k), of(k + 1), of(Math.min(spans, k + 2)), t);
    const along = through((i) => places[i][0]);
    const aside = through((i) => places[i][1]);
    return { at: cloth.place(leg.curve, start + along, aside), over: high[k] + t * (high[k + 1] - high[k]) };
  };
  for (let j = 0; j < count; j++) {
    const { at: place, over: above } = placeAt(j / LOOP_POINTS);
    const down = (holes[0] && j === 0) || (holes[1] && j === count - 1);
    const lies = down ? 0 : size.radius + size.lift + 2 * size.radius * above;
    const point: Vec3 = addScaled(vec3(), place.at, place.up, lies);
    out.set(point, at + 3 * j + 3);
    if (j > 0 && j < count - 1) continue;
    const i = j === 0 ? at : at + 3 * j + 6;
    // an end that stays above goes on a little: what follows begins there
    if (down) tail(place, size.radius, out, i);
    else out.set(addScaled(vec3(), point, place.up, -0.5 * size.radius), i);
  }
}

/** Uniform Catmull-Rom (Catmull and Rom 1974). */
const catmullRom = (a: number, b: number, c: number, d: number, t: number): number =>
  b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));

function bow(last: number): { x: number[]; y: number[] } {
  const angles = Array.from({ length: last + 1 }, (_, k) => (Math.PI * k) / last);
  return {
    x: angles.map((angle) => (1 - Math.sign(Math.cos(angle)) * Math.abs(Math.cos(angle)) ** (2 / SQUARE)) / 2),
    y: angles.map((angle, k) => (k === 0 || k === last ? 0 : Math.sin(angle) ** (2 / SQUARE))),
  };
}
