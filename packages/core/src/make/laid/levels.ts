import { type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';
import { distanceAt } from '../../numeric/vector.js';
import type { LevelValue } from '../../unit/parameters.js';
import type { Places } from '../bundle/hull.js';
import { laidAbout } from './lay.js';
import { filledBy, type Packing, ringOf } from './packing.js';
import { type Fit, pairsOf, touching } from './touch.js';

/** One level of a bundle: this many strands about a middle. */
export interface Level {
  count: number;
  filling: string;
  hand: string;
  /** Length of one turn, in thicknesses of the bundle; or turns in all. */
  lay: number;
  by: string;
}

/** What has been laid so far: lines with their frames, and how thick each is at its points. */
export interface Laid {
  lines: CurveSet;
  frames: Frames;
  /** Radius of each line at each of its points, metres. */
  radius: Float32Array;
}

/** How a level came out. */
export interface Solved {
  /** Radius of its strands over that of the bundle, and what it would be did they run straight. */
  radius: number;
  straight: number;
  /** The least length of a turn, in radii of the bundle, bends counted in. */
  pitch: number;
}

/** Bends are counted in down to where this much of the way is left on their inside: a bundle that bends more tightly is reported. */
const MIN_INSIDE = 0.6;

/** One level as a parameter holds it: a lay of this many thicknesses. */
export const level = (count: number, filling: string, hand: string, lay: number): LevelValue => ({
  count,
  filling,
  hand,
  lay,
  by: 'thickness',
});

/** The same with the types of its fields; the schema has checked them. */
export const levelOf = (value: LevelValue): Level => value as unknown as Level;

/** Strands that a level makes of one line. */
export const strandsOf = ({ count, filling }: Level): number => count + (filling === 'cored' && count > 2 ? 1 : 0);

/** Strands that all levels make of one line. */
export const strandsIn = (levels: readonly LevelValue[]): number =>
  levels.reduce((product, one) => product * strandsOf(levelOf(one)), 1);

/** Turns for each metre that a level makes at a thickness of its bundle and on a length of line, right-handed (Z) above 0. */
export function turnsOf({ lay, hand, by }: Level, radius: number, length: number): number {
  const turns = by === 'turns' ? (length > 0 ? lay / length : 0) : radius > 0 ? 1 / (2 * lay * radius) : 0;
  return hand === 's' ? -turns : turns;
}

/** Where the strands of a level stand in a bundle of radius 1, and how thick each is. */
export interface SolvedLevel extends Places {
  x: Float64Array;
  y: Float64Array;
  size: Float64Array;
  solved: Solved;
}

/**
 * How thick the strands of a level can be without cutting each other where they are tightest, and where they then stand.
 * @param turns for each metre at each point
 */
export function solveLevel(
  { lines, frames, radius }: Laid,
  level: Level,
  fit: Fit,
  turns: (p: number) => number,
): SolvedLevel {
  const packing = level.filling === 'filled' ? filledBy(level.count) : ringOf(level.count);
  const pitch = tightestPitch(lines, frames, radius, turns);
  const { radius: thick, spread } = touching(packing, pairsOf(packing), pitch, fit);
  return { ...withCore(packing, spread, thick, level), solved: { radius: thick[0], straight: packing.radius, pitch } };
}

/**
 * Lays the strands of one level about each line.
 * @param turns for each metre of the whole at each point
 * @param roll radians, beside that
 */
export function layLevel(
  laid: Laid,
  level: Level,
  fit: Fit,
  turns: (p: number) => number,
  roll: (p: number) => number,
): { laid: Omit<Laid, 'frames'>; solved: Solved } {
  const { lines, frames, radius } = laid;
  const { x, y, size, solved } = solveLevel(laid, level, fit, turns);
  const out = laidAbout(lines, frames, { x, y, bundle: radius, turns, roll });
  const own = new Float32Array(pointCount(out));
  const each = size.length;
  for (let c = 0; c < curveCount(lines); c++)
    for (let k = 0; k < each; k++) {
      const to = out.start[c * each + k] - lines.start[c];
      for (let p = lines.start[c]; p < lines.start[c + 1]; p++) own[to + p] = radius[p] * size[k];
    }
  return { laid: { lines: out, radius: own }, solved };
}

/** The places drawn out to where the bundle ends; with a core, one more in the middle that fills the hole. */
function withCore({ x, y }: Packing, spread: number, thick: Float64Array, level: Level) {
  const places = { x: x.map((value) => value * spread), y: y.map((value) => value * spread), size: thick };
  if (strandsOf(level) === x.length) return places;
  const hole = Math.hypot(places.x[0], places.y[0]) - thick[0];
  const add = (values: Float64Array, value: number) => Float64Array.from([...values, value]);
  return { x: add(places.x, 0), y: add(places.y, 0), size: add(thick, hole) };
}

/** The least length of a turn in radii of the bundle: on the inside of a bend, 1 − κR of it is left. */
export function tightestPitch(
  lines: CurveSet,
  { tangent }: Frames,
  radius: Float32Array,
  turns: (p: number) => number,
): number {
  const along = lines.pointData[POINT.along];
  let least = Infinity;
  for (let c = 0; c < curveCount(lines); c++) {
    const [first, last] = [lines.start[c], lines.start[c + 1] - 1];
    for (let p = first; p <= last; p++) {
      const q = p === last ? p - 1 : p;
      const step = along[q + 1] - along[q];
      const bend = step > 0 ? (distanceAt(tangent, q, q + 1) / step) * radius[p] : 0;
      const rate = Math.abs(turns(p)) * radius[p];
      if (rate > 0) least = Math.min(least, Math.max(MIN_INSIDE, 1 - bend) / rate);
    }
  }
  return least;
}
