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
  /** So many on each line; else as many as the spacing gives. */
  count?: number;
  /** From one to the next, metres. */
  spacing: AlongValue;
  /** Where the first stands from the start, and the last at most from the end, metres. */
  first: number;
  last: number;
  /** The spacing is drawn out or drawn in so that the last one stands at the end. Closed lines always are. */
  even: boolean;
  /** Length of the k-th of a line along it, metres: the spacing is then the gap between one's end and the next's beginning. */
  lengthOf?(line: number, ordinal: number, share: number): number;
}

/** Steps over which a spacing that varies is summed. */
const STEPS = 512;

/** Elements asked for in all, before any is placed. */
export const stationCount = ({ lines, lengths }: FramedLines, spread: Spread): number => {
  let sum = 0;
  for (let c = 0; c < curveCount(lines); c++) sum += planOf(c, lengths[c], lines.closed[c] === 1, spread).count;
  return sum;
};

/** Where elements stand. @param most of all lines together: further ones are left out */
export function stationsAlong(framed: FramedLines, spread: Spread, most: number): Stations {
  const { lines, lengths } = framed;
  const plans = Array.from({ length: curveCount(lines) }, (_, c) =>
    planOf(c, lengths[c], lines.closed[c] === 1, spread),
  );
  const total = Math.min(
    most,
    plans.reduce((sum, { count }) => sum + count, 0),
  );
  const out = roomFor(total);
  let n = 0;
  for (let c = 0; c < plans.length && n < total; c++) {
    const { count, at } = plans[c];
    const walk = walkOf(framed, c);
    for (let k = 0; k < count && n < total; k++, n++) {
      out.id[n] = childId(lines.id[c], k);
      out.curve[n] = c;
      out.ordinal[n] = k;
      out.along[n] = at(k);
      out.share[n] = lengths[c] > 0 ? out.along[n] / lengths[c] : 0;
      frameAt(framed, walk, out.along[n], out, n);
    }
  }
  return out;
}

export const roomFor = (count: number): Stations => ({
  id: new Uint32Array(count),
  curve: new Uint32Array(count),
  ordinal: new Uint32Array(count),
  along: new Float32Array(count),
  share: new Float32Array(count),
  at: new Float64Array(3 * count),
  tangent: new Float64Array(3 * count),
  up: new Float64Array(3 * count),
});

/** The way along a line, true lengths where they are known. */
export function walkOf({ lines, lengths }: Pick<FramedLines, 'lines' | 'lengths'>, c: number): Walk {
  const along = lines.pointData[POINT.along];
  return along && lines.curveData[CURVE.length]
    ? new Walk(lines, c, { along, length: lengths[c] })
    : new Walk(lines, c);
}

/** Writes place, direction and way up at so many metres along a line into entry `n`. */
export function frameAt(
  { lines, tangent, up }: Pick<FramedLines, 'lines' | 'tangent' | 'up'>,
  walk: Walk,
  metres: number,
  out: Pick<Stations, 'at' | 'tangent' | 'up'>,
  n: number,
): void {
  const { a, b, t } = walk.spot(metres);
  const [i, j, o] = [3 * a, 3 * b, 3 * n];
  const { position } = lines;
  let [dot, tt, uu] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    out.at[o + k] = position[i + k] + t * (position[j + k] - position[i + k]);
    const along = tangent[i + k] + t * (tangent[j + k] - tangent[i + k]);
    const over = up[i + k] + t * (up[j + k] - up[i + k]);
    out.tangent[o + k] = along;
    out.up[o + k] = over;
    tt += along * along;
    dot += along * over;
  }
  const size = Math.sqrt(tt) || 1;
  const lean = tt > 0 ? dot / tt : 0;
  for (let k = 0; k < 3; k++) {
    out.up[o + k] -= lean * out.tangent[o + k];
    uu += out.up[o + k] * out.up[o + k];
    out.tangent[o + k] /= size;
  }
  const tall = Math.sqrt(uu) || 1;
  for (let k = 0; k < 3; k++) out.up[o + k] /= tall;
}

interface Plan {
  count: number;
  /** Metres from the start of the k-th. */
  at(k: number): number;
}

const NOBODY: Plan = { count: 0, at: () => 0 };

function planOf(c: number, length: number, closed: boolean, spread: Spread): Plan {
  const { count: asked, spacing, first, last, even, lengthOf } = spread;
  const start = closed ? 0 : first;
  const room = closed ? length : length - first - last;
  // one element finds its place on any line
  if (!(length > 0) || room < 0) return NOBODY;
  const shift = closed ? first : 0;
  if (asked !== undefined) {
    const step = closed ? room / asked : room / Math.max(1, asked - 1);
    return { count: asked, at: (k) => start + shift + k * step };
  }
  if (lengthOf) return packedPlan({ room, start: start + shift, closed, even }, (k, share) => lengthOf(c, k, share), (share) => valueAt(spacing, share), length); // biome-ignore format: one line
  if (!(leastOf(spacing) > 0)) return NOBODY;
  if (!isLane(spacing)) {
    const times = room / spacing;
    const steps = closed || even ? Math.max(closed ? 1 : 0, Math.round(times)) : Math.floor(times + 1e-9);
    const step = (closed || even) && steps > 0 ? room / steps : spacing;
    return { count: closed ? steps : steps + 1, at: (k) => start + shift + k * step };
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
const LEAST_STEP = 1e-3;
/** Most of one line. */
const MOST_PACKED = 1_000_000;

/** One after the other with gaps between them: what room is left at the end goes into the gaps. */
function packedPlan(
  { room, start, closed, even }: { room: number; start: number; closed: boolean; even: boolean },
  lengthOf: (k: number, share: number) => number,
  gapAt: (share: number) => number,
  length: number,
): Plan {
  const at: number[] = [];
  let [end, gaps] = [0, 0];
  for (let k = 0; k < MOST_PACKED; k++) {
    const share = (start + end) / length;
    const own = lengthOf(k, share);
    if (!(own > 0)) break;
    const gap = k > 0 || closed ? Math.max(gapAt(share), (LEAST_STEP - 1) * own) : 0;
    if (end + gap + own > room * (1 + 1e-9)) break;
    // a ring has a gap before the first one too
    at.push(end + gap + own / 2);
    end += gap + own;
    gaps += k > 0 || closed ? 1 : 0;
  }
  const spare = (closed || even) && gaps > 0 ? (room - end) / gaps : 0;
  return { count: at.length, at: (k) => start + at[k] + spare * (closed ? k + 1 : k) };
}
