import {
  bendRadii,
  type CurveSet,
  catmullRom,
  controlPoints,
  type DrawnPoint,
  distance,
  resample,
  type Surroundings,
} from '@kelp/core';
import { keptOf } from './steady.js';

/** Bends are kept by this much, up to as wide as this many radii; coarse points are tried before fine ones. */
const AS_WIDE = 0.85;
const ROOMY = 2.5;
const TRIES = [1, 0.5, 0.25];
/** This often a point is put in where the curve strays. */
const ROUNDS = 6;
/** Steps of the curve that is looked at, in radii. */
const STEP = 0.25;

/**
 * A laid line as few points, the curve through which keeps within a tolerance (metres) of it; more where that bends more
 * tightly than the line does, as far as it matters to what runs along it.
 * @param closed the line ends where it begins; the points then do not
 * @param radius of what runs along it, metres
 */
export function fitLaid(
  laid: readonly DrawnPoint[],
  closed: boolean,
  tolerance: number,
  radius: number,
  surroundings: Surroundings,
): DrawnPoint[] {
  const pointsOf = (kept: readonly number[]) => (closed ? kept.slice(0, -1) : kept).map((i) => laid[i]);
  const through = (points: DrawnPoint[]) =>
    resample(catmullRom(controlPoints({ id: '', name: '', closed, points }, surroundings)), { spacing: STEP * radius });
  const bendOf = (points: DrawnPoint[]) =>
    points.length < 2 + Number(closed) ? 0 : bendRadii(through(points), radius).reduce((a, b) => Math.min(a, b));
  const wanted = AS_WIDE * Math.min(ROOMY * radius, bendOf(pointsOf(laid.map((_, i) => i))));
  let points: DrawnPoint[] = [];
  for (const share of TRIES) {
    let kept = keptOf(laid, share * tolerance);
    for (let round = 0; round < ROUNDS; round++) {
      if (kept.length < 2 + Number(closed)) break;
      const strays = strayed(laid, kept, through(pointsOf(kept)), tolerance);
      if (strays.length === 0) break;
      kept = [...kept, ...strays].sort((a, b) => a - b);
    }
    points = pointsOf(kept);
    if (bendOf(points) >= wanted) break;
  }
  return points;
}

/** Of the samples between each two that are kept the one that the curve is furthest from, where that is too far. */
function strayed(laid: readonly DrawnPoint[], kept: readonly number[], curve: CurveSet, tolerance: number): number[] {
  const steps = curve.position.length / 3;
  const to = ({ position }: DrawnPoint, p: number) =>
    distance(position, curve.position.subarray(3 * (p % steps), 3 * (p % steps) + 3));
  // both run along each other: what is nearest lies on from where it was
  const ahead = Math.ceil((4 * steps) / laid.length) + 8;
  const out: number[] = [];
  let at = 0;
  for (let span = 1; span < kept.length; span++) {
    let [worst, most] = [-1, tolerance];
    for (let i = kept[span - 1]; i < kept[span]; i++) {
      let best = at;
      for (let p = at; p <= at + ahead; p++) if (to(laid[i], p) < to(laid[i], best)) best = p;
      at = best;
      if (to(laid[i], best) > most) [worst, most] = [i, to(laid[i], best)];
    }
    if (worst > kept[span - 1]) out.push(worst);
  }
  return out;
}
