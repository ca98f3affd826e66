import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { type Approach, nearestOnSegments, SegmentGrid } from '../../curve/segment-grid.js';
import { mix, pointOf, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';
import { LINK } from './link.js';

/** It is looked this many times as far off as is to be kept clear: what is further off is clear enough. */
const LOOKS = 8;
/** So near its ends a line may be near what it is fastened to, in clearances. */
const AT_ENDS = 1.5;
/** It is looked every so manieth part of a clearance. */
const STEPS = 4;
/** Lines that are fastened to one thing may be near each other over such a share of their length from there. */
const FROM_ONE = 0.4;
/** Places at which all lines together are looked at, at most. */
const MAX_PLACES = 120_000;

export interface Clearance {
  /** Least distance from skin to skin or prop of each line, metres; infinite where nothing is near. */
  least: Float32Array;
  /** The nearest approach of all: where, how far along, how near, and to what. */
  worst?: { place: Vec3; along: number; near: number; to: 'prop' | 'line' };
}

/**
 * How clear lines are of props and of each other, but for their ends.
 * @param reach of a line's skin, metres
 * @param clear what is to be kept clear, metres
 */
export function clearancesOf(lines: CurveSet, reach: number, clear: number, surroundings: Surroundings): Clearance {
  const total = curveLengths(lines).reduce((sum, one) => sum + one, 0);
  const even = resample(lines, { spacing: Math.max(clear / STEPS, reach, total / MAX_PLACES), maxTurn: 0.15 });
  const out: Clearance = { least: new Float32Array(curveCount(lines)).fill(Infinity) };
  const lengths = curveLengths(even);
  const along = even.pointData[POINT.along];
  const ends = AT_ENDS * clear + 2 * reach;
  const counts = (c: number, p: number) => Math.min(along[p], lengths[c] - along[p]) > Math.min(ends, 0.4 * lengths[c]);
  const note = (c: number, place: Vec3, at: number, near: number, to: 'prop' | 'line') => {
    out.least[c] = Math.min(out.least[c], near);
    if (near < (out.worst?.near ?? Infinity)) out.worst = { place, along: at, near, to };
  };
  const hit = createHit();
  if (!surroundings.isEmpty)
    for (let c = 0; c < curveCount(even); c++)
      for (let p = even.start[c]; p < even.start[c + 1]; p++) {
        const [x, y, z] = pointOf(even.position, p);
        if (!counts(c, p) || surroundings.closest(x, y, z, hit, reach + LOOKS * clear) === undefined) continue;
        note(c, [x, y, z], along[p], hit.distance - reach, 'prop');
      }
  betweenLines(even, reach, clear, counts, (c, p, d, q) => fromOne(even, lengths, c, p, d, q), note);
  return out;
}

/** Whether two places are on lines that leave one thing, near it; the strands of one connection always are. */
function fromOne(
  { pointData, curveData }: CurveSet,
  lengths: Float32Array,
  c: number,
  p: number,
  d: number,
  q: number,
): boolean {
  const [from, to] = [curveData[LINK.from], curveData[LINK.to]];
  if (!from || !to) return false;
  const along = pointData[POINT.along];
  // how far from each of its ends, as a share
  const ends = (line: number, place: number) => [
    { key: from[line], share: along[place] / lengths[line] },
    { key: to[line], share: 1 - along[place] / lengths[line] },
  ];
  const [own, other] = [ends(c, p), ends(d, q)];
  const shared = own.filter(({ key }) => other.some((end) => end.key === key));
  if (shared.length === 2) return true;
  return shared.some(
    ({ key, share }) => share < FROM_ONE && other.some((end) => end.key === key && end.share < FROM_ONE),
  );
}

/** Nearest places of different lines. */
function betweenLines(
  { start, position, pointData }: CurveSet,
  reach: number,
  clear: number,
  counts: (c: number, p: number) => boolean,
  joined: (c: number, p: number, d: number, q: number) => boolean,
  note: (c: number, place: Vec3, at: number, near: number, to: 'line') => void,
): void {
  const from: number[] = [];
  const line: number[] = [];
  let longest = 0;
  for (let c = 0; c + 1 < start.length; c++)
    for (let p = start[c]; p + 1 < start[c + 1]; p++) {
      if (!counts(c, p)) continue;
      from.push(p);
      line.push(c);
      longest = Math.max(longest, Math.hypot(...[0, 1, 2].map((n) => position[3 * p + 3 + n] - position[3 * p + n])));
    }
  const middle = Float64Array.from(
    from.flatMap((p) => [0, 1, 2].map((n) => (position[3 * p + n] + position[3 * p + 3 + n]) / 2)),
  );
  const grid = new SegmentGrid(middle, 2 * reach + clear + longest);
  const approach: Approach = { s: 0, t: 0, distance: 0 };
  from.forEach((p, s) => {
    grid.near(s, middle[3 * s], middle[3 * s + 1], middle[3 * s + 2], (other) => {
      if (line[other] === line[s] || joined(line[s], p, line[other], from[other])) return;
      nearestOnSegments(position, 3 * p, 3 * p + 3, 3 * from[other], 3 * from[other] + 3, approach);
      note(
        line[s],
        mix(vec3(), pointOf(position, p), pointOf(position, p + 1), approach.s),
        pointData[POINT.along][p],
        approach.distance - 2 * reach,
        'line',
      );
    });
  });
}
