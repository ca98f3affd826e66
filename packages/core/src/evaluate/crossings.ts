import { type Approach, nearestOnSegments } from '../curve/segment-grid.js';
import type { Piece } from '../document/document.js';
import { referencesOf } from '../document/references.js';
import { mix, pointOf, type Vec3, vec3 } from '../numeric/vector.js';
import { BoxTree } from '../surface/box-tree.js';
import type { Made } from '../unit/carriers.js';
import { CONTACT, type Finding } from '../unit/finding.js';
import { gatherFindings } from './gather.js';
import { END_REACH, type Skeleton, type Steps, skeletonOf, stepsOf } from './skeleton.js';

/** Steps that are looked at together first. */
const SPAN = 16;

/** A piece as the others see it. */
export interface Outlined {
  id: string;
  name: string;
  skeleton: Skeleton;
  /** Ids of pieces it names: what moves on another one touches it. */
  named: ReadonlySet<string>;
}

export const outlineOf = (piece: Piece, made: Made): Outlined => ({
  id: piece.id,
  name: piece.name,
  skeleton: skeletonOf(made.bodies),
  named: new Set(referencesOf(piece).pieces),
});

/** A few steps of one piece that follow each other along one line. */
interface Span {
  piece: number;
  first: number;
  end: number;
}

/** One place where two pieces run through each other. */
interface Meeting {
  step: number;
  missing: number;
  wanted: number;
  place: Vec3;
}

/**
 * Where pieces run through each other: reported at the later one of two, once for each stretch, at its deepest. What goes
 * into another one with its open end is joined to it. Steps are looked at only where boxes round a few of them meet, so
 * the cost goes with what is near, not with what there is.
 */
export function crossings(pieces: readonly Outlined[]): Map<string, Finding[]> {
  const steps = pieces.map(({ skeleton }) => stepsOf(skeleton));
  const spans: Span[] = [];
  const boxes: Float64Array[] = [];
  pieces.forEach(({ skeleton }, piece) => {
    for (const [first, end] of spansOf(steps[piece])) {
      spans.push({ piece, first, end });
      boxes.push(boxOf(skeleton, steps[piece], first, end));
    }
  });
  const tree = new BoxTree(boxes);
  /** By the later piece, then by the earlier one. */
  const found = new Map<number, Map<number, Meeting[]>>();
  spans.forEach((own, i) => {
    for (const j of tree.within(boxes[i], boxes[i].subarray(3))) {
      const other = spans[j];
      if (other.piece >= own.piece || areFriends(pieces[own.piece], pieces[other.piece])) continue;
      const meetings = meet(
        pieces[own.piece].skeleton,
        steps[own.piece],
        own,
        pieces[other.piece].skeleton,
        steps[other.piece],
        other,
      );
      if (meetings.length === 0) continue;
      const byOther = found.get(own.piece) ?? new Map<number, Meeting[]>();
      const all = byOther.get(other.piece) ?? [];
      all.push(...meetings);
      byOther.set(other.piece, all);
      found.set(own.piece, byOther);
    }
  });
  return new Map(
    [...found].map(([own, byOther]) => [
      pieces[own].id,
      gatherFindings([...byOther].flatMap(([other, meetings]) => stretches(meetings, steps[own], pieces[other].name))),
    ]),
  );
}

const areFriends = (a: Outlined, b: Outlined): boolean => a.named.has(b.id) || b.named.has(a.id);

function* spansOf({ curve }: Steps): Generator<[number, number]> {
  for (let first = 0; first < curve.length; ) {
    let end = first + 1;
    while (end < curve.length && end - first < SPAN && curve[end] === curve[first]) end++;
    yield [first, end];
    first = end;
  }
}

/** Least xyz and greatest xyz of all that the skins of some steps reach. */
function boxOf({ position }: Skeleton, { from, to, near }: Steps, first: number, end: number): Float64Array {
  const box = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
  for (let s = first; s < end; s++)
    for (const p of [from[s], to[s]])
      for (let k = 0; k < 3; k++) {
        box[k] = Math.min(box[k], position[3 * p + k] - near[s]);
        box[3 + k] = Math.max(box[3 + k], position[3 * p + k] + near[s]);
      }
  return box;
}

/** The steps of one span that are deeper in those of another than a contact is. */
function meet(a: Skeleton, as: Steps, own: Span, b: Skeleton, bs: Steps, other: Span): Meeting[] {
  const out: Meeting[] = [];
  const approach: Approach = { s: 0, t: 0, distance: 0 };
  // the segments of both in one list, as the distance of two is asked
  const ends = new Float64Array(12);
  for (let i = own.first; i < own.end; i++) {
    let worst: Meeting | undefined;
    for (let j = other.first; j < other.end; j++) {
      const wanted = as.near[i] + bs.near[j];
      for (let k = 0; k < 3; k++) {
        ends[k] = a.position[3 * as.from[i] + k];
        ends[3 + k] = a.position[3 * as.to[i] + k];
        ends[6 + k] = b.position[3 * bs.from[j] + k];
        ends[9 + k] = b.position[3 * bs.to[j] + k];
      }
      nearestOnSegments(ends, 0, 3, 6, 9, approach);
      const missing = wanted - approach.distance;
      if (missing <= CONTACT * wanted || missing <= (worst?.missing ?? 0)) continue;
      if (isEnd(a, as, i, bs.near[j]) || isEnd(b, bs, j, as.near[i])) continue;
      worst = { step: i, missing, wanted, place: mix(vec3(), pointOf(ends, 0), pointOf(ends, 1), approach.s) };
    }
    if (worst) out.push(worst);
  }
  return out;
}

/** Whether a step lies so near an open end of its line that this may be joined to something so thick. */
function isEnd({ closed }: Skeleton, { curve, at, near, length }: Steps, s: number, thick: number): boolean {
  if (closed[curve[s]]) return false;
  const reach = thick + END_REACH * near[s];
  return at[s] < reach || at[s] > length[curve[s]] - reach;
}

/** Steps that follow each other are one stretch. */
function stretches(meetings: Meeting[], { at, curve }: Steps, other: string): Finding[] {
  const out: Finding[] = [];
  let before: Meeting | undefined;
  let deepest = 0;
  for (const meeting of meetings.toSorted((a, b) => a.step - b.step)) {
    const { step, missing, wanted, place } = meeting;
    const goesOn = before !== undefined && step <= before.step + 1 && curve[step] === curve[before.step];
    before = meeting;
    if (goesOn && missing <= deepest) continue;
    if (goesOn) out.pop();
    deepest = missing;
    out.push({
      code: 'cuts-piece',
      severity: 'warning',
      message: `Intersects ${other} by {value} (limit {limit}). Move one of the two lines.`,
      place,
      along: at[step],
      size: { value: missing, limit: CONTACT * wanted, kind: 'length' },
    });
  }
  return out;
}
