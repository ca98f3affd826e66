import { CURVE, curveCount, POINT } from '../../curve/curve-set.js';
import { Walk } from '../../curve/walk.js';
import { type AlongValue, isLane, leastOf, valueAt } from '../../numeric/lane.js';
import { childId } from '../../numeric/random.js';
import type { FramedLines } from './framed-lines.js';

/** Places along lines where elements stand, with frames: unit directions, flat xyz. One entry each. */
export interface Stations {
  /** Stable: the k-th of a line keeps its id whatever the spacing. */
  id: Uint32Array;
  /** Which line, which place of it, metres from its start and share of its length. */
  curve: Uint32Array;
  ordinal: Uint32Array;
  along: Float32Array;
  share: Float32Array;
  at: Float64Array;
  tangent: Float64Array;
  up: Float64Array;
}

export interface Spread {
  /** This many on each line; else as many as the spacing gives. */
  count?: number | ((length: number, closed: boolean) => number);
  /** From one to the next, metres. */
  spacing: AlongValue;
  /** Where the first stands from the start, and the last at most from the end, metres. */
  first: number;
  last: number;
  /** The spacing is drawn out or drawn in so that the last one is at the end. Closed lines always are. */
  even: boolean;
  /** Length of the k-th of a line along it, metres: the spacing is then the gap between one's end and the next's beginning. */
  lengthOf?(line: number, ordinal: number, share: number): number;
}

/** Steps over which a spacing that varies is summed. */
const STEPS = 512;

/**
 * Where elements stand.
 * @param most of all lines together: further ones are left out
 * @param room writes places and frames into memory that the next call with it writes over: fresh memory costs more than the work
 */
export function stationsAlong(
  framed: FramedLines,
  spread: Spread,
  most: number,
  room?: FrameRoom,
): Stations & { asked: number } {
  const { lines, lengths } = framed;
  const plans: Plan[] = [];
  let asked = 0;
  for (let c = 0; c < curveCount(lines); c++) {
    // what is packed one by one is counted no further than it may go
    const plan = planOf(c, lengths[c], lines.closed[c] === 1, spread, Math.max(0, most + 1 - asked));
    plans.push(plan);
    asked += plan.count;
  }
  const total = Math.min(most, asked);
  const out = room ? { ...roomFor(total, false), ...room.frames(total) } : roomFor(total);
  let n = 0;
  for (let c = 0; c < plans.length && n < total; c++) {
    const { count, at, even } = plans[c];
    const from = n;
    const perMetre = lengths[c] > 0 ? 1 / lengths[c] : 0;
    const { id, curve, ordinal, along, share } = out;
    const line = lines.id[c];
    n = Math.min(total, from + count);
    for (let i = from, k = 0; i < n; i++, k++) {
      id[i] = childId(line, k);
      curve[i] = c;
      ordinal[i] = k;
      along[i] = even ? even.from + k * even.step : at(k);
      share[i] = along[i] * perMetre;
    }
    framesOn(framed, c, out, from, n);
  }
  return { ...out, asked };
}

export const roomFor = (count: number, frames = true): Stations => ({
  id: new Uint32Array(count),
  curve: new Uint32Array(count),
  ordinal: new Uint32Array(count),
  along: new Float32Array(count),
  share: new Float32Array(count),
  at: new Float64Array(frames ? 3 * count : 0),
  tangent: new Float64Array(frames ? 3 * count : 0),
  up: new Float64Array(frames ? 3 * count : 0),
});

/** Memory for the places and frames of stations that nobody keeps. */
export class FrameRoom {
  private held = new Float64Array(0);

  frames(count: number): Pick<Stations, 'at' | 'tangent' | 'up'> {
    if (this.held.length < 9 * count) this.held = new Float64Array(9 * count);
    const part = (k: number) => this.held.subarray(3 * k * count, 3 * (k + 1) * count);
    return { at: part(0), tangent: part(1), up: part(2) };
  }
}

/** The way along a line, true lengths where they are known. */
export function walkOf({ lines, lengths }: Pick<FramedLines, 'lines' | 'lengths'>, c: number): Walk {
  const along = lines.pointData[POINT.along];
  return along && lines.curveData[CURVE.length]
    ? new Walk(lines, c, { along, length: lengths[c] })
    : new Walk(lines, c);
}

/** Frames of some entries that are on one line; nothing is made anew for one. */
function framesOn(framed: FramedLines, c: number, out: Stations, from: number, end: number): void {
  const { at, first, length } = walkOf(framed, c);
  const { start, closed } = framed.lines;
  const last = start[c + 1] - start[c] - 1;
  const ring = closed[c] === 1 && length > 0;
  let p = 0;
  for (let n = from; n < end; n++) {
    const metres = out.along[n];
    const s = ring ? metres - length * Math.floor(metres / length) : Math.min(length, Math.max(0, metres));
    if (at[p] > s) p = 0;
    while (p < last && at[p + 1] <= s) p++;
    const over = p === last;
    const next = over ? (ring ? 0 : p) : p + 1;
    const until = over ? length : at[next];
    blendFrame(framed, first + p, first + next, until > at[p] ? Math.min(1, (s - at[p]) / (until - at[p])) : 0, out, n);
  }
}

/** Writes place, direction and way up at this many metres along a line into entry `n`. */
export function frameAt(
  framed: Pick<FramedLines, 'lines' | 'tangent' | 'up'>,
  walk: Walk,
  metres: number,
  out: Pick<Stations, 'at' | 'tangent' | 'up'>,
  n: number,
): void {
  const { a, b, t } = walk.spot(metres);
  blendFrame(framed, a, b, t, out, n);
}

/** The frame at a share of the way from one point of a line to the next. */
function blendFrame(
  { lines: { position }, tangent, up }: Pick<FramedLines, 'lines' | 'tangent' | 'up'>,
  a: number,
  b: number,
  t: number,
  out: Pick<Stations, 'at' | 'tangent' | 'up'>,
  n: number,
): void {
  const i = 3 * a;
  const j = 3 * b;
  const o = 3 * n;
  const { at, tangent: along, up: over } = out;
  at[o] = position[i] + t * (position[j] - position[i]);
  at[o + 1] = position[i + 1] + t * (position[j + 1] - position[i + 1]);
  at[o + 2] = position[i + 2] + t * (position[j + 2] - position[i + 2]);
  const tx = tangent[i] + t * (tangent[j] - tangent[i]);
  const ty = tangent[i + 1] + t * (tangent[j + 1] - tangent[i + 1]);
  const tz = tangent[i + 2] + t * (tangent[j + 2] - tangent[i + 2]);
  let x = up[i] + t * (up[j] - up[i]);
  let y = up[i + 1] + t * (up[j + 1] - up[i + 1]);
  let z = up[i + 2] + t * (up[j + 2] - up[i + 2]);
  const tt = tx * tx + ty * ty + tz * tz;
  const lean = tt > 0 ? (tx * x + ty * y + tz * z) / tt : 0;
  x -= lean * tx;
  y -= lean * ty;
  z -= lean * tz;
  const size = 1 / (Math.sqrt(tt) || 1);
  along[o] = tx * size;
  along[o + 1] = ty * size;
  along[o + 2] = tz * size;
  const tall = 1 / (Math.sqrt(x * x + y * y + z * z) || 1);
  over[o] = x * tall;
  over[o + 1] = y * tall;
  over[o + 2] = z * tall;
}

interface Plan {
  count: number;
  /** Metres from the start of the k-th. */
  at(k: number): number;
  /** Where they are evenly spread: the first, and the way to the next. */
  even?: { from: number; step: number };
}

const evenly = (count: number, from: number, step: number): Plan => ({
  count,
  at: (k) => from + k * step,
  even: { from, step },
});

const NOBODY: Plan = { count: 0, at: () => 0 };

function planOf(c: number, length: number, closed: boolean, spread: Spread, left: number): Plan {
  const { count, spacing, first, last, even, lengthOf } = spread;
  const start = closed ? 0 : first;
  const room = closed ? length : length - first - last;
  // one element finds its place on any line
  if (!(length > 0) || room < 0) return NOBODY;
  const shift = closed ? first : 0;
  const asked = typeof count === 'function' ? count(length, closed) : count;
  if (asked !== undefined) {
    const step = closed ? room / asked : room / Math.max(1, asked - 1);
    return evenly(asked, start + shift, step);
  }
  if (lengthOf)
    return packedPlan(
      { room, start: start + shift, closed, even, left },
      (k, share) => lengthOf(c, k, share),
      (share) => valueAt(spacing, share),
      length,
    );
  if (!(leastOf(spacing) > 0)) return NOBODY;
  if (!isLane(spacing)) {
    const times = room / spacing;
    const steps = closed || even ? Math.max(closed ? 1 : 0, Math.round(times)) : Math.floor(times + 1e-9);
    const step = (closed || even) && steps > 0 ? room / steps : spacing;
    return evenly(closed ? steps : steps + 1, start + shift, step);
  }
  return variedPlan(spacing, length, { start, room, closed, even, shift });
}

/** Where the spacing varies: how many spacings there are up to a place is summed up, and the k-th found where it is k. */
function variedPlan(
  spacing: AlongValue,
  length: number,
  { start, room, closed, even, shift }: { start: number; room: number; closed: boolean; even: boolean; shift: number },
): Plan {
  const sums = new Float64Array(STEPS + 1);
  const perStep = room / STEPS;
  let before = 1 / valueAt(spacing, start / length);
  for (let i = 1; i <= STEPS; i++) {
    const here = 1 / valueAt(spacing, (start + i * perStep) / length);
    sums[i] = sums[i - 1] + ((before + here) / 2) * perStep;
    before = here;
  }
  const all = sums[STEPS];
  const steps = closed || even ? Math.max(closed ? 1 : 0, Math.round(all)) : Math.floor(all + 1e-9);
  const each = (closed || even) && steps > 0 ? all / steps : 1;
  let i = 0;
  return {
    count: closed ? steps : steps + 1,
    at(k) {
      const wanted = k * each;
      if (sums[i] > wanted) i = 0;
      while (i < STEPS - 1 && sums[i + 1] < wanted) i++;
      const width = sums[i + 1] - sums[i];
      return start + shift + perStep * (i + (width > 0 ? Math.min(1, (wanted - sums[i]) / width) : 0));
    },
  };
}

/** What is packed closer than this, against the length of one, would have no end. */
const MIN_STEP = 1e-3;
/** One after the other with gaps between them: what room is left at the end goes into the gaps. */
function packedPlan(
  { room, start, closed, even, left }: { room: number; start: number; closed: boolean; even: boolean; left: number },
  lengthOf: (k: number, share: number) => number,
  gapAt: (share: number) => number,
  length: number,
): Plan {
  const at: number[] = [];
  let [end, gaps] = [0, 0];
  for (let k = 0; k < left; k++) {
    const share = (start + end) / length;
    const own = lengthOf(k, share);
    if (!(own > 0)) break;
    const gap = k > 0 || closed ? Math.max(gapAt(share), (MIN_STEP - 1) * own) : 0;
    if (end + gap + own > room * (1 + 1e-9)) break;
    // a ring has a gap before the first one too
    at.push(end + gap + own / 2);
    end += gap + own;
    gaps += k > 0 || closed ? 1 : 0;
  }
  const spare = (closed || even) && gaps > 0 ? (room - end) / gaps : 0;
  return { count: at.length, at: (k) => start + at[k] + spare * (closed ? k + 1 : k) };
}
