import { type Approach, nearestOnSegments, SegmentGrid } from '../../curve/segment-grid.js';
import { pointOf } from '../../numeric/vector.js';
import type { Finding } from '../../unit/finding.js';
import type { Stations } from '../elements/stations.js';
import { type Lattice, type Run, TIE } from './lattice.js';

/** Members that run into each other by less than this share of the thinner one touch. */
const TOUCH = 0.05;
/** Pairs of members that are measured at most: what is all in one place is told long before. */
const MOST_PAIRS = 4_000_000;

/**
 * Where members of a truss run through those of another one, or of its own further on: told once, where they do so most.
 * Only bays that are near each other are looked at, so that the cost goes with what is near.
 */
export function clashes(lattice: Lattice, lengths: Float64Array, { at }: Stations, runs: readonly Run[], sizes: readonly number[]): Finding[] {
  const { joint, from, to, kind } = lattice;
  const own = byStation(lattice, at.length / 3);
  const longest = lengths.reduce((most, length) => Math.max(most, length), 0);
  const reach = reachOf(lattice, at) + longest + Math.max(...sizes);
  const grid = new SegmentGrid(at, 2 * reach);
  const near: Approach = { s: 0, t: 0, distance: 0 };
  const meetings = new Set<number>();
  let worst: { a: number; depth: number } | undefined;
  let left = MOST_PAIRS;
  const compare = (s: number, other: number) => {
    for (let i = own.start[s]; i < own.start[s + 1]; i++)
      for (let k = own.start[other]; k < own.start[other + 1]; k++) {
        const [a, b] = [own.member[i], own.member[k]];
        left--;
        nearestOnSegments(joint, 3 * from[a], 3 * to[a], 3 * from[b], 3 * to[b], near);
        const [one, two] = [sizes[kind[a]], sizes[kind[b]]];
        const depth = one + two - near.distance;
        if (!(depth > TOUCH * Math.min(one, two))) continue;
        meetings.add(s);
        if (depth > (worst?.depth ?? 0)) worst = { a, depth };
      }
  };
  for (const run of runs)
    for (let s = run.first; s < run.first + run.count && left > 0; s++)
      grid.near(s, at[3 * s], at[3 * s + 1], at[3 * s + 2], (other) => {
        // each pair once; those beside each other share joints
        if (other < s && left > 0 && (other < run.first || isFurtherOn(s, other, run))) compare(s, other);
      });
  if (!worst) return [];
  const { a, depth } = worst;
  const [x, y, z] = pointOf(joint, from[a]);
  return [
    {
      code: 'members-cut',
      severity: 'warning',
      message: `Its members run through each other${meetings.size > 1 ? ` in ${meetings.size.toLocaleString('en')} bays` : ''}: a line crosses itself or another one. Lead them clear of each other, or make it less deep.`,
      place: [x, y, z],
      size: { value: depth, limit: 0, kind: 'length' },
    },
  ];
} // biome-ignore format: its head and its message in one line each

/** Whether two stations of a line are so far from each other that their bays do not meet. */
function isFurtherOn(s: number, other: number, { count, closed }: Run): boolean {
  const apart = s - other;
  return apart > 1 && (!closed || count - apart > 1);
}

/** The members that begin at each station, but for ties. */
function byStation({ station, kind, members }: Lattice, stations: number) {
  const start = new Uint32Array(stations + 1);
  for (let m = 0; m < members; m++) if (kind[m] !== TIE) start[station[m] + 1]++;
  for (let s = 0; s < stations; s++) start[s + 1] += start[s];
  const member = new Uint32Array(start[stations]);
  const next = start.slice();
  for (let m = 0; m < members; m++) if (kind[m] !== TIE) member[next[station[m]]++] = m;
  return { start, member };
}

/** How far joints stand from their station at most. */
function reachOf({ joint, stationOf }: Lattice, at: Float64Array): number {
  let most = 0;
  for (let j = 0; j < stationOf.length; j++) {
    const s = 3 * stationOf[j];
    const [x, y, z] = [joint[3 * j] - at[s], joint[3 * j + 1] - at[s + 1], joint[3 * j + 2] - at[s + 2]];
    most = Math.max(most, x * x + y * y + z * z);
  }
  return Math.sqrt(most);
}
