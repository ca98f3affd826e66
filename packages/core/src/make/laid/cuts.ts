import { curveLengths } from '../../curve/arc-length.js';
import type { CurveSet } from '../../curve/curve-set.js';
import { type AlongValue, greatest, leastOf, mapAlong } from '../../numeric/lane.js';
import type { LevelValue } from '../../unit/parameters.js';
import { type Level, levelOf, strandsIn, turnsOf } from './levels.js';

/** Places of a strand for each turn of the level that turns fastest, in a draft; and at most on all strands. */
const MIN_PLACES = 10;
const MAX_PLACES = 1_000_000;
/** A bundle that tapers to nothing is laid as if it had this part of its size. */
const MIN_SIZE = 0.1;

/** What says how close the places stand. */
interface Cut {
  radius: AlongValue;
  twist: AlongValue;
  twistBy: string;
  levels: readonly LevelValue[];
  places: number;
  bendStep: number;
}

/** How far apart the places stand along the line; and how many times that where there would be too many. */
export function cutOptions(input: CurveSet, p: Cut, density: number) {
  const strands = strandsIn(p.levels);
  const long = curveLengths(input).reduce((a, b) => Math.max(a, b), 0);
  const twist = greatest(mapAlong(p.twist, Math.abs)) / (p.twistBy === 'whole' ? long || 1 : 1);
  let size = Math.max(MIN_SIZE * greatest(p.radius), leastOf(p.radius));
  let fastest = 0;
  p.levels.forEach((one, n) => {
    const own = levelOf(one);
    fastest = Math.max(fastest, Math.abs(turnsOf(own, size, long)) + (n === 0 ? twist : 0));
    size *= thinner(own);
  });
  // with fewer, a strand would cut across its own bundle
  const spacing = 1 / (Math.max(Math.min(p.places, MIN_PLACES), p.places * density) * fastest);
  const all = curveLengths(input).reduce((sum, length) => sum + length, 0);
  const longer = Math.max(1, (strands * all) / spacing / MAX_PLACES);
  return { options: { spacing: spacing * longer, maxTurn: p.bendStep / density }, longer };
}

/** About how thick the strands of a level are against their bundle: enough to say how fast they will turn. */
const thinner = ({ count, filling }: Level): number =>
  count === 1 ? 1 : filling === 'filled' ? 0.87 / Math.sqrt(count) : 1 / (1 + 1 / Math.sin(Math.PI / count));
