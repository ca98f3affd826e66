import { distanceAt } from '../numeric/vector.js';
import { type CurveSet, curveCount, POINT } from './curve-set.js';

export interface SmoothOptions {
  /** Standard deviation of the weights along the curve, metres. Details shorter than this vanish. */
  over: number;
  /** Points that keep their place besides open ends: none, drawn points and corners, or corners alone. */
  hold?: 'ends' | 'points' | 'corners';
}

/** Weights reach this many standard deviations. */
const WINDOW = 2.5;

/**
 * Smooths positions with Gaussian weights along the curve; samples should be about evenly spaced. Held points stay
 * exactly: the curve is mirrored through them. The more is smoothed, the nearer a run comes to the straight line.
 */
export function smoothCurves(curves: CurveSet, options: SmoothOptions): CurveSet {
  const { start, closed, position } = curves;
  const out = position.slice();
  const held = heldMask(curves, options.hold ?? 'ends');
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    let length = 0;
    for (let p = first; p < last + closed[c]; p++) length += distanceAt(position, p, p < last ? p + 1 : first);
    const step = length / Math.max(1, last - first + closed[c]);
    const width = Math.min(400, Math.floor((WINDOW * options.over) / (step || 1)));
    if (width < 1) continue;
    const weights = Float64Array.from({ length: width + 1 }, (_, k) =>
      Math.exp(-0.5 * ((k * step) / options.over) ** 2),
    );
    const count = last - first + 1;
    if (!closed[c]) smoothRuns(position, out, held, first, last, weights);
    else {
      const begin = firstHeld(held, first, last);
      if (begin < 0) smoothRing(position, out, first, count, weights);
      else smoothFrom(position, out, held, first, count, begin - first, weights);
    }
  }
  return { ...curves, position: out };
}

function heldMask({ pointData, position }: CurveSet, hold: NonNullable<SmoothOptions['hold']>): Uint8Array {
  const mask = new Uint8Array(position.length / 3);
  const knot = pointData[POINT.knot];
  const corner = pointData[POINT.corner];
  if (hold === 'ends') return mask;
  for (let p = 0; p < mask.length; p++) mask[p] = corner?.[p] || (hold === 'points' && knot?.[p]) ? 1 : 0;
  return mask;
}

function firstHeld(held: Uint8Array, first: number, last: number): number {
  for (let p = first; p <= last; p++) if (held[p]) return p;
  return -1;
}

function smoothRing(
  values: Float64Array,
  out: Float64Array,
  first: number,
  count: number,
  weights: Float64Array,
): void {
  for (let i = 0; i < count; i++) {
    for (let axis = 0; axis < 3; axis++) {
      let sum = values[3 * (first + i) + axis] * weights[0];
      let total = weights[0];
      for (let k = 1; k < weights.length && 2 * k < count; k++) {
        sum +=
          (values[3 * (first + ((i + k) % count)) + axis] + values[3 * (first + ((i - k + count) % count)) + axis]) *
          weights[k];
        total += 2 * weights[k];
      }
      out[3 * (first + i) + axis] = sum / total;
    }
  }
}

/** A closed line that is held somewhere, from there once round to there again: it has no other ends. */
function smoothFrom(
  values: Float64Array,
  out: Float64Array,
  held: Uint8Array,
  first: number,
  count: number,
  begin: number,
  weights: Float64Array,
): void {
  const at = (k: number) => first + ((begin + k) % count);
  const round = Float64Array.from({ length: 3 * (count + 1) }, (_, n) => values[3 * at(Math.floor(n / 3)) + (n % 3)]);
  const eased = round.slice();
  const holds = Uint8Array.from({ length: count + 1 }, (_, k) => held[at(k)]);
  smoothRuns(round, eased, holds, 0, count, weights);
  for (let k = 0; k < count; k++) for (let axis = 0; axis < 3; axis++) out[3 * at(k) + axis] = eased[3 * k + axis];
}

/** From held point to held point; the ends are held. */
function smoothRuns(
  values: Float64Array,
  out: Float64Array,
  held: Uint8Array,
  first: number,
  last: number,
  weights: Float64Array,
): void {
  let runStart = first;
  for (let p = first + 1; p <= last; p++) {
    if (!held[p] && p !== last) continue;
    smoothRun(values, out, runStart, p, weights);
    runStart = p;
  }
}

/** A run between two held points. Beyond them the curve is mirrored through the point, so that it passes through it. */
function smoothRun(values: Float64Array, out: Float64Array, first: number, last: number, weights: Float64Array): void {
  const size = last - first;
  for (let axis = 0; axis < 3; axis++) {
    const head = values[3 * first + axis];
    const tail = values[3 * last + axis];
    /** Mirrored again and again: a run shorter than the window meets its own image's end. */
    const at = (i: number): number => {
      if (i < 0) return 2 * head - at(-i);
      if (i > size) return 2 * tail - at(2 * size - i);
      return values[3 * (first + i) + axis];
    };
    for (let i = 1; i < size; i++) {
      let sum = values[3 * (first + i) + axis] * weights[0];
      let total = weights[0];
      for (let k = 1; k < weights.length; k++) {
        sum += (at(i - k) + at(i + k)) * weights[k];
        total += 2 * weights[k];
      }
      out[3 * (first + i) + axis] = sum / total;
    }
  }
}
