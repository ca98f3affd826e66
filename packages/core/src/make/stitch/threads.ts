import { allocateCurves, type CurveSet } from '../../curve/curve-set.js';
import { childId, hashText, randomAt } from '../../numeric/random.js';
import { add, cross, mix, normalize, type Vec3 } from '../../numeric/vector.js';
import type { Placements } from '../../unit/carriers.js';
import type { Cloth, ClothPlace } from '../elements/cloth.js';
import { PlacementsWriter } from '../elements/placements.js';
import { type PlanPlace, type PlanThread, stitchKind } from './kinds.js';
import type { Leg } from './legs.js';
import type { Hole } from './relief.js';
import { loopThread, pointsOf, straightThread, type ThreadSize } from './thread.js';
import { sidesOfEdge, WHIP_POINTS, whipThread } from './whip.js';

/** What stitches go by, radians and, all else, thread radii. */
export interface StitchChoice {
  kind: string;
  radius: number;
  length: number;
  gap: number;
  breadth: number;
  arch: number;
  turn: number;
  slant: number;
  rows: number;
  rowGap: number;
  lift: number;
  messTurn: number;
  messLength: number;
  messSide: number;
  seed: number;
}

/** One stitch: where its cell begins, and how it is sewn. */
interface Stitch {
  leg: Leg;
  id: number;
  from: number;
  /** Beside the line, metres. */
  aside: number;
  threads: PlanThread[];
}

export interface Sewn {
  lines: CurveSet;
  /** Of each line, which stitch it is of, and how each of those stands: y up off the cloth, z along. */
  of: Uint32Array;
  places: Placements;
  holes: Hole[];
  /** Where a hole is near no prop, and how many are. */
  free: { count: number; at?: Vec3; along: number };
  /** Begins of the stitches, for the strip. */
  marks: { id: Uint32Array; along: Float32Array; curve: Uint32Array };
}

/** From stitch to stitch, metres. */
export function pitchOf({ kind, radius, length, gap }: StitchChoice): number {
  return radius * (length + (stitchKind(kind).joined ? 0 : gap));
}

/** How far a row reaches to its sides, metres. */
export const halfOf = ({ kind, radius, breadth }: StitchChoice): number =>
  stitchKind(kind).broad ? (radius * breadth) / 2 : 0;

/** How far beside the line each row is, metres. */
export const rowsOf = ({ rows, rowGap, radius }: StitchChoice): number[] =>
  Array.from({ length: rows }, (_, row) => radius * rowGap * (row - (rows - 1) / 2));

const DRAWS = ['turn', 'length', 'side'].map((name) => hashText(`stitch ${name}`));

/** All stitches of some legs, as they are planned: nothing has been laid on anything yet. */
export function* stitchesOf(
  legs: readonly Leg[],
  lineIds: ArrayLike<number>,
  lengths: ArrayLike<number>,
  closed: ArrayLike<number>,
  p: StitchChoice,
): Generator<Stitch> {
  const kind = stitchKind(p.kind);
  const rows = rowsOf(p);
  for (const leg of legs) {
    const pitch = (leg.to - leg.from) / leg.count;
    for (let row = 0; row < p.rows; row++)
      for (let k = 0; k < leg.count; k++) {
        const ordinal = leg.first + k;
        const id = childId(childId(lineIds[leg.curve], ordinal), row);
        const draw = (n: number) => 2 * randomAt(p.seed, id, DRAWS[n]) - 1;
        const gap = kind.joined ? 0 : Math.min(0.9 * pitch, p.radius * p.gap);
        const long = (pitch - gap) * (1 + p.messLength * draw(1));
        const size = {
          pitch,
          length: Math.max(2.2 * p.radius, long),
          half: halfOf(p),
          thread: p.radius,
          turn: p.turn + p.messTurn * draw(0),
          ordinal,
          last: !leg.ring && k === leg.count - 1,
        };
        const begins = leg.from + k * pitch;
        yield {
          leg,
          id,
          from: closed[leg.curve] && begins >= lengths[leg.curve] ? begins - lengths[leg.curve] : begins,
          aside: rows[row] + p.messSide * p.radius * draw(2),
          threads: kind.plan(size),
        };
      }
  }
}

/** Threads and points that stitches come to. */
function sizeOf(stitches: readonly Stitch[], kind: string): { threads: number; points: number } {
  let [threads, points] = [0, 0];
  for (const stitch of stitches) {
    if (kind === 'whip') {
      threads++;
      points += WHIP_POINTS;
      continue;
    }
    for (const thread of stitch.threads) {
      threads++;
      points += pointsOf(thread);
    }
  }
  return { threads, points };
}

/** Sews: every thread as a line, every hole where it is on the cloth. */
export function sew(stitches: readonly Stitch[], cloth: Cloth, p: StitchChoice): Sewn {
  const { threads, points } = sizeOf(stitches, p.kind);
  const lines = allocateCurves(threads, points);
  const of = new Uint32Array(threads);
  const standing = new PlacementsWriter(stitches.length);
  const axes = new Float64Array(9);
  const [side, up, along] = [0, 3, 6].map((i) => axes.subarray(i, i + 3));
  const middle = new Float64Array(3);
  const marks = {
    id: new Uint32Array(stitches.length),
    along: new Float32Array(stitches.length),
    curve: new Uint32Array(stitches.length),
  };
  const size: ThreadSize = { radius: p.radius, lift: p.radius * p.lift, arch: p.radius * p.arch };
  const holes: Hole[] = [];
  const free: Sewn['free'] = { count: 0, along: 0 };
  let [c, point, ordinal] = [0, 0, -1];
  const begin = (id: number, count: number): number => {
    of[c] = ordinal;
    lines.id[c] = id;
    lines.start[++c] = point + count;
    point += count;
    return 3 * (point - count);
  };
  const stand = ({ leg, id, from }: Stitch, a: ClothPlace, b: ClothPlace) => {
    normalize(up, add(up, a.up, b.up));
    normalize(side, cross(side, up, a.tangent ?? cloth.planned(leg.curve, from, 0).tangent));
    cross(along, side, up);
    ordinal++;
    marks.id[ordinal] = id;
    marks.along[ordinal] = from;
    marks.curve[ordinal] = leg.curve;
    standing.addFrame(marks, ordinal, axes, mix(middle, a.at, b.at, 0.5));
  };
  const hole = (place: ClothPlace, { leg, id, from }: Stitch, n: number) => {
    if (place.free) {
      free.at ??= place.at;
      if (free.count++ === 0) free.along = from;
    }
    holes.push({
      at: place.at,
      up: place.up,
      free: place.free,
      id: childId(id, n),
      curve: leg.curve,
      along: from,
      tangent: place.tangent ?? cloth.planned(leg.curve, from, 0).tangent,
    });
  };
  for (const stitch of stitches) {
    const { leg, id, from } = stitch;
    if (p.kind === 'whip') {
      const pitch = (leg.to - leg.from) / leg.count;
      const [near, far] = [from + (pitch * (1 - p.slant)) / 2, from + (pitch * (1 + p.slant)) / 2];
      const [a] = sidesOfEdge(cloth, leg, near, 2 * halfOf(p));
      const [, b] = sidesOfEdge(cloth, leg, far, 2 * halfOf(p));
      const edge = [cloth.planned(leg.curve, near, 0).at, cloth.planned(leg.curve, far, 0).at] as const;
      stand(stitch, a, b);
      whipThread(a, b, edge, size, lines.position, begin(id, WHIP_POINTS));
      hole(a, stitch, 0);
      hole(b, stitch, 1);
      continue;
    }
    stitch.threads.forEach((thread, n) => {
      const places = thread.places.map(([u, v]): PlanPlace => [u, v + stitch.aside]);
      const ends = [places[0], places[places.length - 1]].map(([u, v]) => cloth.place(leg.curve, from + u, v));
      if (n === 0) stand(stitch, ends[0], ends[1]);
      const at = begin(childId(id, n), pointsOf(thread));
      if (places.length === 2 && thread.holes[0] && thread.holes[1])
        straightThread(ends[0], ends[1], Number(thread.over), size, cloth, lines.position, at);
      else loopThread(leg, from, { ...thread, places }, size, cloth, lines.position, at);
      ends.forEach((place, k) => {
        if (thread.holes[k]) hole(place, stitch, 2 * n + k);
      });
    });
  }
  return {
    lines,
    of,
    places: standing.finish(),
    holes,
    free,
    marks,
  };
}
