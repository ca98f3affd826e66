import { crossingOf } from '../plane.js';
import { seesAll } from '../runs.js';
import { inColumns, type Section } from '../section.js';
import { capOf } from './cap.js';
import { type Face, faceAt, lengthOf, type Outline, outlinesOf, type Place, placeOn } from './loops.js';
import { type Meeting, meet } from './meet.js';

/** Two sections with the same columns and faces: column by column the one becomes the other. */
export interface Blend {
  from: Section;
  to: Section;
  /** How fast each column's place moves round, one a column: normals are mixed by it (the outline's own derivative). */
  speedFrom: Float64Array;
  speedTo: Float64Array;
  /** Places of each outline, in the order of the rim. */
  loops: readonly number[];
}

/** Shares nearer to each other than this are one place. */
const SAME = 1e-7;
const SMOOTH = 0.9995;

/**
 * Two sections as one that can be anything between them, with the places of both. Undefined where they have other
 * numbers of outlines, or one is a sheet and the other is none.
 */
export function blendOf(a: Section, b: Section): Blend | undefined {
  const [from, to] = [outlinesOf(a), outlinesOf(b)];
  if (from.length !== to.length || (a.open === true) !== (b.open === true)) return undefined;
  const met = from.map((outline, k) => blendedLoop(outline, to[k]));
  const columns = met.flatMap((loop) => loop.columns);
  let before = 0;
  const face: number[] = [];
  const rim: number[] = [];
  for (const loop of met) {
    face.push(...loop.face.map((column) => before + column));
    rim.push(...loop.face.map((column) => before + column));
    before += loop.columns.length;
    if (a.open) rim.push(before - 1);
  }
  const share = (pick: (column: BothPlaces) => Place) =>
    inColumns(
      columns.map((column) => ({ ...pick(column), u: column.u })),
      face,
      rim,
    );
  const loops = met.map((loop) => loop.face.length);
  const withEnd = (section: Section): Section => ({
    ...section,
    cap: section.cap && (capOf(section, loops) ?? section.cap),
  });
  return {
    from: withEnd({ ...a, ...share((column) => column.from), round: false }),
    to: withEnd({ ...b, ...share((column) => column.to), round: false }),
    loops,
    speedFrom: Float64Array.from(columns, ({ speedFrom }) => speedFrom),
    speedTo: Float64Array.from(columns, ({ speedTo }) => speedTo),
  };
}

/** Whether an outline crosses itself, or another, somewhere between both. */
export function crossesBetween(blend: Blend): boolean {
  return [0.25, 0.5, 0.75].some((share) => {
    const { x, y, rim } = blendedAt(blend, share);
    let begin = 0;
    const outlines = blend.loops.map((count) => {
      begin += count;
      return Array.from(rim.subarray(begin - count, begin), (column): [number, number] => [x[column], y[column]]);
    });
    return !blend.from.open && crossingOf(outlines) !== undefined;
  });
}

/** What lies between both, by a share from 0 to 1. */
export function blendedAt({ from, to, speedFrom, speedTo, loops }: Blend, share: number): Section {
  if (share === 0) return from;
  if (share === 1) return to;
  const mix = (one: Float64Array, other: Float64Array) => one.map((value, k) => value + share * (other[k] - value));
  const x = mix(from.x, to.x);
  const y = mix(from.y, to.y);
  const normal = (one: Float64Array, other: Float64Array) =>
    one.map((value, k) => (1 - share) * speedFrom[k] * value + share * speedTo[k] * other[k]);
  const [nx, ny] = [normal(from.normalX, to.normalX), normal(from.normalY, to.normalY)];
  const size = nx.map((value, k) => Math.hypot(value, ny[k]) || 1);
  const domed = loops.length === 1 && !from.open && seesAll(Array.from(from.rim, (column) => [x[column], y[column]]));
  const cap = domed || from.open ? undefined : capOf({ x, y, rim: from.rim }, loops);
  return {
    // where its outline crosses itself none fits: it is closed as the nearer of both is
    ...(share < 0.5 ? from : to),
    ...(domed || cap ? { domed, cap } : {}),
    x,
    y,
    normalX: nx.map((value, k) => value / size[k]),
    normalY: ny.map((value, k) => value / size[k]),
    area: from.area + share * (to.area - from.area),
    perimeter: from.perimeter + share * (to.perimeter - from.perimeter),
    reach: x.reduce((far, value, k) => Math.max(far, Math.hypot(value, y[k])), 0),
  };
}

interface BothPlaces {
  from: Place;
  to: Place;
  speedFrom: number;
  speedTo: number;
  u: number;
}

interface BlendedLoop {
  columns: BothPlaces[];
  /** Column at which each face begins. */
  face: number[];
}

/** The outline with the places of both. */
function blendedLoop(from: Outline, to: Outline): BlendedLoop {
  const meeting = meet(from, to);
  const shares = bothShares(from, to, meeting);
  const columns: BothPlaces[] = [];
  const face: number[] = [];
  shares.slice(0, -1).forEach((begin, i) => {
    const end = shares[i + 1];
    const ends = [facePart(from, begin.from, end.from), facePart(to, begin.to, end.to)];
    const step = end.from - begin.from;
    const [speedFrom, speedTo] = ends.map((part) => lengthOf(part) / (step || 1));
    const put = (pick: 'from' | 'to', u: number) =>
      columns.push({ from: ends[0][pick], to: ends[1][pick], speedFrom, speedTo, u });
    const last = columns.at(-1);
    const goesOn = last && isSmooth(last.from, ends[0].from) && isSmooth(last.to, ends[1].from);
    if (!goesOn) {
      put('from', begin.from - shares[0].from);
      // one place to the bit, whichever face it was asked of
      const next = columns[columns.length - 1];
      if (last) Object.assign(next, { from: moved(next.from, last.from), to: moved(next.to, last.to) });
    }
    if (goesOn) {
      last.speedFrom = (last.speedFrom + speedFrom) / 2;
      last.speedTo = (last.speedTo + speedTo) / 2;
    }
    face.push(columns.length - 1);
    put('to', end.from - shares[0].from);
  });
  closeUp(columns, from.closed);
  return { columns, face };
}

const moved = (place: Place, { x, y }: Place): Place => ({ ...place, x, y });

const isSmooth = (a: Place, b: Place): boolean => a.nx * b.nx + a.ny * b.ny > SMOOTH;

/** Where it closes it is one place to the bit, and one in speed where it is smooth. */
function closeUp(columns: BothPlaces[], closed: boolean): void {
  if (!closed) return;
  const [first, last] = [columns[0], columns[columns.length - 1]];
  last.from = moved(last.from, first.from);
  last.to = moved(last.to, first.to);
  if (!isSmooth(first.from, last.from) || !isSmooth(first.to, last.to)) return;
  first.speedFrom = last.speedFrom = (first.speedFrom + last.speedFrom) / 2;
  first.speedTo = last.speedTo = (first.speedTo + last.speedTo) / 2;
}

/** The part of an outline's face between two shares that lie in one face. */
function facePart(outline: Outline, begin: number, end: number): Face {
  const round = Math.floor((begin + end) / 2);
  const f = faceAt(outline, (begin + end) / 2 - round);
  return { from: placeOn(outline, f, begin - round), to: placeOn(outline, f, end - round) };
}

/** Every share at which a face of either begins, as shares of both, rising, from the first meeting on. */
function bothShares(from: Outline, to: Outline, meeting: Meeting): { from: number; to: number }[] {
  const first = meeting.from[0];
  const round = (u: number, begin: number) => begin + (u - begin - Math.floor(u - begin));
  const all = [
    ...from.faces.map((one) => {
      const u = round(one.from.u, first);
      return { from: u, to: mapped(u, meeting.from, meeting.to) };
    }),
    ...to.faces.map((one) => {
      const u = round(one.from.u, meeting.to[0]);
      return { from: mapped(u, meeting.to, meeting.from), to: u };
    }),
    ...meeting.from.map((u, k) => ({ from: u, to: meeting.to[k] })),
  ].sort((a, b) => a.from - b.from || a.to - b.to);
  const kept: { from: number; to: number }[] = [];
  for (const one of all) {
    const last = kept.at(-1);
    if (!last || one.from - last.from > SAME || one.to - last.to > SAME) kept.push(one);
  }
  // the last is where it closes
  kept[kept.length - 1] = { from: first + 1, to: meeting.to[meeting.to.length - 1] };
  return kept;
}

/** Along straight legs between places that rise. */
function mapped(value: number, from: readonly number[], to: readonly number[]): number {
  let k = 1;
  while (k < from.length - 1 && from[k] < value) k++;
  const step = from[k] - from[k - 1];
  const t = step > 0 ? (value - from[k - 1]) / step : 0;
  return to[k - 1] + t * (to[k] - to[k - 1]);
}
