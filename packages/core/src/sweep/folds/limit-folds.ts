import type { CurveSet } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';
import type { Mesh } from '../../mesh/mesh.js';
import { distanceAt } from '../../numeric/vector.js';
import type { Section } from '../../section/section.js';
import type { Rings } from '../rings.js';
import { Column, type Fold, type Leg, ringOf } from './crease.js';
import { pressIn } from './press.js';

/** A step whose bend leaves less than this share of the line's way on the inside of the section may fold. */
const TIGHT = 0.3;

/**
 * Takes the folds out of the inner side of tight bends, so that no face is inside out. What is between the place where a
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
  const tight = tightLegs(curves, frames.tangent, rings, reach);
  const pressed = new Set<number>();
  for (const leg of tight) {
    const folds = foldsOf(leg, rings, center, columns, mesh);
    const turned = turnedBack(folds.map(({ fold }) => fold));
    for (const { column, fold } of folds)
      if (!turned.has(fold)) column.crease(fold);
      else for (let k = Math.floor(fold.from); k <= Math.ceil(fold.to); k++) pressed.add(ringOf(leg, k));
  }
  if (pressed.size > 0) pressIn(curves, frames, rings, pressed, section, mesh);
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

/** The legs on which the section may reach to where it folds, with the steps near which it does: nearly nowhere. */
function tightLegs(
  { position, closed }: CurveSet,
  tangent: Float64Array,
  { start, point, corners }: Rings,
  reach: (p: number) => number,
): Leg[] {
  const legs: Leg[] = [];
  for (let c = 0; c + 1 < start.length; c++) {
    const last = start[c + 1] - 1;
    const steps: number[] = [];
    for (let ring = start[c]; ring < last; ring++) {
      const [p, q] = [point[ring], point[ring + 1]];
      // there the tangent is the mitre's, not the line's
      if (corners.size > 0 && (corners.has(p) || corners.has(q))) continue;
      if (distanceAt(tangent, p, q) * Math.max(reach(p), reach(q)) > (1 - TIGHT) * distanceAt(position, p, q))
        steps.push(ring);
    }
    if (steps.length === 0) continue;
    const isCorner = (ring: number) => corners.has(point[ring]);
    const inner = Array.from({ length: last - start[c] - 1 }, (_, k) => start[c] + 1 + k).filter(isCorner);
    // a closed line without corners is one leg, its seam once
    const round = closed[c] === 1 && inner.length === 0 && !isCorner(start[c]);
    const ends = [start[c], ...inner, last];
    ends.slice(1).forEach((end, k) => {
      const [first, count] = [ends[k], end - ends[k] + (round ? 0 : 1)];
      const near = steps.filter((ring) => ring >= first && ring < end).map((ring) => ring - first);
      if (near.length > 0 && count > 2) legs.push({ first, count, round, tight: round ? wound(near, count) : near });
    });
  }
  return legs;
}

/** The same round a closed line, counted on from the widest stretch that is not tight: no fold is seen from both its ends. */
function wound(steps: readonly number[], count: number): number[] {
  const gap = (k: number) => steps[k] - (k > 0 ? steps[k - 1] : steps[steps.length - 1] - count);
  const begin = steps.reduce((best, _, k) => (gap(k) > gap(best) ? k : best), 0);
  return [...steps.slice(begin), ...steps.slice(0, begin).map((k) => k + count)];
}
