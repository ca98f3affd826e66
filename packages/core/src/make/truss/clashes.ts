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
export function clashes(lattice: Lattice, { at }: Stations, runs: readonly Run[], sizes: readonly number[]): Finding[] {
  const { joint, from, to, kind } = lattice;
  const own = byStation(lattice, at.length / 3);
  const { box, middle, reach } = boxesOf(lattice, own, Math.max(...sizes));
  const grid = new SegmentGrid(middle, 2 * reach);
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
      grid.near(s, middle[3 * s], middle[3 * s + 1], middle[3 * s + 2], (other) => {
        // each pair once; those beside each other share joints
        if (other < s && left > 0 && (other < run.first || isFurtherOn(s, other, run)) && meets(box, 6 * s, 6 * other)) compare(s, other);
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

/** A box round the members that begin at each station, its middle, and how far its corners are from that at most. */
function boxesOf({ joint, from, to }: Lattice, { start, member }: ReturnType<typeof byStation>, thick: number) {
  const stations = start.length - 1;
  const box = new Float64Array(6 * stations);
  const middle = new Float64Array(3 * stations);
  let reach = 0;
  for (let s = 0; s < stations; s++) {
    const b = 6 * s;
    let size = 0;
    for (let n = 0; n < 3; n++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = start[s]; i < start[s + 1]; i++) {
        const x = joint[3 * from[member[i]] + n];
        const y = joint[3 * to[member[i]] + n];
        if (x < low) low = x;
        if (x > high) high = x;
        if (y < low) low = y;
        if (y > high) high = y;
      }
      // where no member begins nothing meets it
      box[b + n] = low - thick;
      box[b + 3 + n] = high + thick;
      if (low > high) continue;
      middle[3 * s + n] = (low + high) / 2;
      size += (high - low + 2 * thick) ** 2 / 4;
    }
    if (size > reach) reach = size;
  }
  return { box, middle, reach: Math.sqrt(reach) };
}

const meets = (box: Float64Array, a: number, b: number): boolean =>
  box[a] <= box[b + 3] && box[b] <= box[a + 3] && box[a + 1] <= box[b + 4] && box[b + 1] <= box[a + 4] && box[a + 2] <= box[b + 5] && box[b + 2] <= box[a + 5]; // biome-ignore format: one line
