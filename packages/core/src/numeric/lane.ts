import { KelpError } from '../errors.js';

/** How a lane runs from one knot to the next. */
export type LaneEase = 'smooth' | 'straight';

export interface LaneKnot {
  /** Share of the length, 0 at the start and 1 at the end. */
  at: number;
  value: number;
  /** How the lane runs from here to the next knot, where that differs from the lane's own ease. */
  ease?: LaneEase;
}

/** A value that varies along a curve: knots over 0…1 in rising order, at least one. Constant beyond the outer knots. */
export interface Lane {
  knots: LaneKnot[];
  ease: LaneEase;
  /** A region of the project, by id: its knots then go from outside of it (0) to inside (1), not over the length. */
  region?: string;
}

/** A number that is the same everywhere, or a lane. */
export type AlongValue = number | Lane;

export const isLane = (value: unknown): value is Lane =>
  typeof value === 'object' && value !== null && Array.isArray((value as Lane).knots);

/**
 * The value at share `t` of the length.
 * @throws KelpError BAD_SHAPE when a lane has no knots
 */
export function valueAt(value: AlongValue, t: number): number {
  if (typeof value === 'number') return value;
  const { knots, ease } = value;
  if (knots.length === 0) throw new KelpError('BAD_SHAPE', 'A lane needs at least one knot');
  const last = knots.length - 1;
  if (t <= knots[0].at) return knots[0].value;
  if (t >= knots[last].at) return knots[last].value;
  let k = 0;
  while (k < last - 1 && knots[k + 1].at < t) k++;
  const a = knots[k];
  const b = knots[k + 1];
  const width = b.at - a.at;
  const x = width > 0 ? (t - a.at) / width : 1;
  const eased = (a.ease ?? ease) === 'smooth' ? x * x * (3 - 2 * x) : x;
  return a.value + (b.value - a.value) * eased;
}

/** Greatest value a lane (or number) takes; both eases stay between their knots. */
export function greatest(value: AlongValue): number {
  return typeof value === 'number' ? value : Math.max(...value.knots.map((knot) => knot.value));
}

/** And the least. */
export const leastOf = (value: AlongValue): number =>
  typeof value === 'number' ? value : Math.min(...value.knots.map((knot) => knot.value));

/** The same course, every value put through `change`. */
export function mapAlong(value: AlongValue, change: (value: number) => number): AlongValue {
  if (typeof value === 'number') return change(value);
  return { ...value, knots: value.knots.map((knot) => ({ ...knot, value: change(knot.value) })) };
}
