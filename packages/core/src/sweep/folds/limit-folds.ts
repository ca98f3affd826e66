import type { CurveSet } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';
import type { Mesh } from '../../mesh/mesh.js';
import { distanceAt } from '../../numeric/vector.js';
import type { Section } from '../../section/section.js';
import type { Rings } from '../rings.js';
import { Column, type Fold, type Leg, ringOf } from './crease.js';
import { pressIn } from './press.js';

/** A step whose bend leaves less than this share of the line's way on the inside of the section may fold. */
const TIGHT = 0.1;
/** So often what folds is looked for. */
const ROUNDS = 4;

/**
 * Takes the folds out of the inner side of tight bends, so that no face is inside out. What lies between the place where a
 * column of places meets itself on its way in and on its way out is gathered there, in a crease: what is seen from outside
 * stays what it was. Where the line turns back so that they do not meet, the inner side is drawn in towards the line.
 * Corners are left: they are mitred.
 * @param reach how far the section reaches from the curve at a point, metres
 */
export function limitFolds(
  curves: CurveSet,
  frames: Frames,
  rings: Rings,
  section: Section,
  reach: (p: number) => number,
  mesh: Mesh,
): void {
  const { position: center } = curves;
  const columns = section.x.length;
  const tight = legsOf(curves, rings).filter((leg) => isTight(leg, rings.point, center, frames.tangent, reach));
  // beside what was drawn in a little may be left
  for (let round = 0, left = tight; round < ROUNDS && left.length > 0; round++) {
    const pressed = new Set<number>();
    left = left.filter((leg) => {
      const folds = foldsOf(leg, rings, center, columns, mesh);
      const turned = turnedBack(folds.map(({ fold }) => fold));
      for (const { column, fold } of folds)
        if (!turned.has(fold)) column.crease(fold);
        else for (let k = Math.floor(fold.from); k <= Math.ceil(fold.to); k++) pressed.add(ringOf(leg, k));
      return turned.size > 0;
    });
    if (pressed.size > 0) pressIn(curves, frames, rings, pressed, section, mesh);
  }
  // the last ring of a closed line is its first to the bit
  for (const { first, count, round } of tight)
    for (const array of round ? [mesh.position, mesh.normal] : [])
      array.copyWithin(3 * (first + count) * columns, 3 * first * columns, 3 * (first + 1) * columns);
}

/** All folds of a leg's columns. */
const foldsOf = (leg: Leg, rings: Rings, center: Float64Array, columns: number, mesh: Mesh) =>
  Array.from({ length: columns }, (_, k) => {
    const column = new Column(leg, rings, center, columns, k, mesh);
    return column.folds().map((fold) => ({ column, fold }));
  }).flat();

/** The folds that no crease takes, and with them all that lie in one stretch with one of these. */
function turnedBack(folds: readonly Fold[]): Set<Fold> {
  const turned = new Set<Fold>();
  let [stretch, end]: [Fold[], number] = [[], Number.NEGATIVE_INFINITY];
  const close = () => {
    if (stretch.some(({ creases }) => !creases)) for (const fold of stretch) turned.add(fold);
    stretch = [];
  };
  for (const fold of [...folds].sort((a, b) => a.from - b.from)) {
    if (fold.from > end) close();
    stretch.push(fold);
    end = Math.max(end, fold.to);
  }
  close();
  return turned;
}

function legsOf({ closed }: CurveSet, { start, point, corners }: Rings): Leg[] {
  return Array.from(closed).flatMap((isClosed, c): Leg[] => {
    const [first, last] = [start[c], start[c + 1] - 1];
    // without its last ring, which is its first
    if (isClosed && (corners.size === 0 || !point.subarray(first, last).some((p) => corners.has(p))))
      return [{ first, count: last - first, round: true }];
    const ends = [first, last];
    if (corners.size > 0) for (let ring = first + 1; ring < last; ring++) if (corners.has(point[ring])) ends.push(ring);
    ends.sort((a, b) => a - b);
    return ends.slice(1).map((end, k) => ({ first: ends[k], count: end - ends[k] + 1, round: false }));
  });
}

/** Whether the section may reach anywhere on a leg to where it folds: nearly nowhere does it. */
function isTight(
  { first, count, round }: Leg,
  point: Uint32Array,
  center: Float64Array,
  tangent: Float64Array,
  reach: (p: number) => number,
): boolean {
  for (let k = 0; k + 1 < count + Number(round); k++) {
    const [p, q] = [point[first + k], point[first + ((k + 1) % count)]];
    const step = distanceAt(center, p, q);
    if (distanceAt(tangent, p, q) * Math.max(reach(p), reach(q)) > (1 - TIGHT) * step) return true;
  }
  return false;
}
