import type { CurveSet } from '../../curve/curve-set.js';
import { type AlongValue, greatest, isLane, valueAt } from '../../numeric/lane.js';
import { pairAt } from '../../numeric/pair.js';
import { childId, hashText, randomsOf } from '../../numeric/random.js';
import type { LevelValue } from '../../unit/parameters.js';
import { type FramedLines, framedLines } from '../elements/framed-lines.js';
import { FrameRoom, type Spread, type Stations, stationsAlong } from '../elements/stations.js';
import { type ChosenPart, partPicker } from './chosen-parts.js';
import type { StandChoice } from './stand.js';

/** One placing at a time is looked at: what it is on is not kept. */
const room = new FrameRoom();

/** Elements of one piece at most. */
export const MAX_PLACED = 500_000;

export interface PlaceChoice extends StandChoice {
  parts: readonly LevelValue[];
  props: readonly string[];
  propSize: string;
  order: string;
  size: AlongValue;
  by: string;
  spacing: AlongValue;
  gap: AlongValue;
  count: number;
  even: boolean;
  first: number;
  last: number;
  missing: number;
  upright: boolean;
  held: string;
  bent: string;
  shade: number;
  sides: number;
}

/** Which part is where, and how large. */
export interface Placing {
  framed: FramedLines;
  stations: Stations;
  /** Stations that are not left out, in order. */
  shown: Uint32Array;
  /** How many were asked for. */
  asked: number;
  parts: readonly ChosenPart[];
  /** By station: the part, the size asked for, metres, and what its mesh is multiplied by. */
  which: Uint8Array;
  size: Float64Array;
  scale: Float64Array;
}

export function placingOf(input: CurveSet, p: PlaceChoice, parts: readonly ChosenPart[]): Placing {
  const framed = framedLines(input, p.upright);
  const spread = spreadOf(framed, p, parts);
  const { asked, ...stations } = stationsAlong(framed, spread, MAX_PLACED, room);
  const count = stations.id.length;
  const out: Placing = {
    framed,
    stations,
    shown: shownOf(stations, p),
    asked,
    parts,
    which: new Uint8Array(count),
    size: new Float64Array(count),
    scale: new Float64Array(count),
  };
  const pick = partPicker(parts, p.order, p.seed);
  const alike = p.sizes.least === 1 && p.sizes.most === 1;
  // of one part, one size: nothing is drawn for each
  if (alike && parts.length === 1 && !isLane(p.size)) {
    out.size.fill(p.size);
    out.scale.fill(scaleOf(parts[0], p.size, p));
    return out;
  }
  for (let n = 0; n < count; n++) {
    const id = stations.id[n];
    out.which[n] = pick(id, stations.ordinal[n]);
    out.size[n] = valueAt(p.size, stations.share[n]) * (alike ? 1 : pairAt(p.sizes, p.seed, id, 'size'));
    out.scale[n] = scaleOf(parts[out.which[n]], out.size[n], p);
  }
  return out;
}

/** Which of an element's extents lies along the line. */
export const axisAlong = ({ facing }: Pick<PlaceChoice, 'facing'>): number => 'xyz'.indexOf(facing.replace('-', ''));

/** What a part's mesh is multiplied by; props as large as they are go by how the size varies alone. */
const scaleOf = ({ scale, sized }: ChosenPart, size: number, p: PlaceChoice): number =>
  scale * (sized ? size : size / (greatest(p.size) || 1));

function spreadOf({ lines }: FramedLines, p: PlaceChoice, parts: readonly ChosenPart[]): Spread {
  const { first, last, even } = p;
  if (p.by === 'count') return { count: p.count, spacing: 1, first, last, even };
  if (p.by === 'spacing') return { spacing: p.spacing, first, last, even };
  const pick = partPicker(parts, p.order, p.seed);
  const axis = axisAlong(p);
  const lengthOf = (line: number, ordinal: number, share: number) => {
    const id = childId(lines.id[line], ordinal);
    const part = parts[pick(id, ordinal)];
    return 2 * part.reach[axis] * scaleOf(part, valueAt(p.size, share) * pairAt(p.sizes, p.seed, id, 'size'), p);
  };
  return { spacing: p.gap, first, last, even, lengthOf };
}

function shownOf({ id }: Stations, { missing, seed }: PlaceChoice): Uint32Array {
  const all = new Uint32Array(id.length);
  for (let n = 0; n < all.length; n++) all[n] = n;
  if (missing === 0) return all;
  const chance = randomsOf(seed, hashText('missing'));
  return all.filter((n) => chance(id[n]) >= missing);
}
