import { type Approach, nearestOnSegments, SegmentGrid } from '../../curve/segment-grid.js';
import { pointOf } from '../../numeric/vector.js';
import type { Finding } from '../../unit/finding.js';
import type { Stations } from '../elements/stations.js';
import { meetingBoxes, meets, widen } from './boxes.js';
import { type Run, TIE } from './bracing.js';
import type { Lattice } from './lattice.js';

/** Members that run into each other by less than this share of the thinner one touch. */
const TOUCH = 0.05;
/** Pairs of members that are measured at most: what is all in one place is reported long before. */
const MAX_PAIRS = 4_000_000;

/** This many stations in a row are looked for at once. */
const BLOCK = 8;

/**
 * Where members of a truss run through those of another one, or of its own further on: reported once, where they do so most.
 * Only bays that are near each other are looked at, block by block, so that the cost goes with what is near.
 */
export function clashes(lattice: Lattice, { at }: Stations, runs: readonly Run[], sizes: readonly number[]): Finding[] {
  const { joint, from, to, kind } = lattice;
  const box = bayBoxes(lattice, runs, at.length / 3, Math.max(...sizes));
  const blocks = blocksOf(box, runs);
  const { apart, together } = sorted(blocks, runs.length);
  const near: Approach = { s: 0, t: 0, distance: 0 };
  const meetings = new Set<number>();
  let own: ReturnType<typeof byStation> | undefined;
  let worst: { a: number; depth: number } | undefined;
  let left = MAX_PAIRS;
  const compare = (s: number, other: number) => {
    own ??= byStation(lattice, at.length / 3);
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
  /** Each pair of two blocks' bays once; those beside each other share joints. */
  const compareBlocks = (one: number, two: number) => {
    const run = runs[blocks.run[one]];
    const same = blocks.run[one] === blocks.run[two];
    for (let s = blocks.first[one]; s < blocks.end[one]; s++)
      for (let other = blocks.first[two]; other < Math.min(blocks.end[two], s); other++)
        if (left > 0 && meets(box, 6 * s, 6 * other) && (!same || isFurtherOn(s, other, run))) compare(s, other);
  };
  for (const [first, end] of apart)
    for (let b = first; b < end; b++)
      for (let other = first; other <= b; other++)
        if (other === b || meets(blocks.box, 6 * b, 6 * other)) compareBlocks(b, other);
  const grid = new SegmentGrid(Float64Array.from(together.flatMap((b) => pointOf(blocks.middle, b))), 2 * blocks.reach);
  for (let k = 0; k < together.length && left > 0; k++) {
    const b = together[k];
    compareBlocks(b, b);
    grid.near(k, blocks.middle[3 * b], blocks.middle[3 * b + 1], blocks.middle[3 * b + 2], (other) => {
      if (other < k && meets(blocks.box, 6 * b, 6 * together[other])) compareBlocks(b, together[other]);
    });
  }
  if (!worst) return [];
  const { a, depth } = worst;
  const [x, y, z] = pointOf(joint, from[a]);
  return [
    {
      code: 'members-cut',
      severity: 'warning',
      message: `Members intersect${meetings.size > 1 ? ` in ${meetings.size.toLocaleString('en')} bays` : ''} by {value}: a line crosses itself or another one. Move the lines apart, or reduce the depth.`,
      place: [x, y, z],
      size: { value: depth, limit: 0, kind: 'length' },
    },
  ];
}

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

/** A box round the bay that begins at each station: its joints and the next ones, and how thick members are. */
function bayBoxes({ joint, chords }: Lattice, runs: readonly Run[], stations: number, thick: number): Float64Array {
  const box = new Float64Array(6 * stations);
  for (let s = 0; s < stations; s++) {
    const end = 3 * chords * (s + 1);
    for (let n = 0; n < 3; n++) {
      let low = Infinity;
      let high = -Infinity;
      for (let j = end - 3 * chords + n; j < end; j += 3) {
        const x = joint[j];
        if (x < low) low = x;
        if (x > high) high = x;
      }
      box[6 * s + n] = low - thick;
      box[6 * s + 3 + n] = high + thick;
    }
  }
  for (const { first, count, closed } of runs) {
    const begin = box.slice(6 * first, 6 * first + 6);
    for (let s = first; s < first + count - 1; s++) widen(box, 6 * s, box, 6 * s + 6);
    if (closed) widen(box, 6 * (first + count - 1), begin, 0);
  }
  return box;
}

/** Stations of each line some at a time: which, the box round their bays, its middle, how far its corners are from that at most. */
function blocksOf(bays: Float64Array, runs: readonly Run[]) {
  const count = runs.reduce((sum, run) => sum + Math.ceil(run.count / BLOCK), 0);
  const [run, first, end] = [new Uint32Array(count), new Uint32Array(count), new Uint32Array(count)];
  const box = new Float64Array(6 * count);
  const middle = new Float64Array(3 * count);
  let reach = 0;
  let b = 0;
  runs.forEach((one, r) => {
    for (let s = one.first; s < one.first + one.count; s += BLOCK, b++) {
      run[b] = r;
      first[b] = s;
      end[b] = Math.min(one.first + one.count, s + BLOCK);
      box.set(bays.subarray(6 * s, 6 * s + 6), 6 * b);
      for (let k = s + 1; k < end[b]; k++) widen(box, 6 * b, bays, 6 * k);
      let size = 0;
      for (let n = 0; n < 3; n++) {
        const [low, high] = [box[6 * b + n], box[6 * b + 3 + n]];
        middle[3 * b + n] = (low + high) / 2;
        size += (high - low) ** 2 / 4;
      }
      reach = Math.max(reach, size);
    }
  });
  return { run, first, end, box, middle, reach: Math.sqrt(reach) };
}

/** A line of no more blocks than this may be compared block by block. */
const FEW = 16;
/** The blocks of lines that no other one comes near, first and end of each; and those of all others. */
function sorted({ run, box }: Pick<ReturnType<typeof blocksOf>, 'run' | 'box'>, runs: number) {
  const first = new Uint32Array(runs + 1);
  for (const r of run) first[r + 1]++;
  for (let r = 0; r < runs; r++) first[r + 1] += first[r];
  const whole = new Float64Array(6 * runs);
  for (let r = 0; r < runs; r++) {
    whole.set(box.subarray(6 * first[r], 6 * first[r] + 6), 6 * r);
    for (let b = first[r] + 1; b < first[r + 1]; b++) widen(whole, 6 * r, box, 6 * b);
  }
  const near = meetingBoxes(whole, runs);
  const apart: [first: number, end: number][] = [];
  const together: number[] = [];
  for (let r = 0; r < runs; r++)
    if (!near[r] && first[r + 1] - first[r] <= FEW) apart.push([first[r], first[r + 1]]);
    else for (let b = first[r]; b < first[r + 1]; b++) together.push(b);
  return { apart, together };
}
