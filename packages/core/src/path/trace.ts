import { allocateCurves, type CurveSet, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';

/** Steps of a path before anything is bent or swept: fine enough for the sharpest bend an eye can tell, radians. */
export const MIN_TURN = 0.1;

/** One curve as a path unit computes it. */
export interface Trace {
  /** Flat xyz, metres. */
  position: ArrayLike<number>;
  closed: boolean;
  id: number;
  /** Points at which the line turns sharply. */
  corners?: readonly number[];
}

/** Curves from computed points, with the attributes every path has: ends and corners are held points. */
export function traceCurves(traces: readonly Trace[]): CurveSet {
  const total = traces.reduce((sum, trace) => sum + trace.position.length / 3, 0);
  const out = allocateCurves(traces.length, total, [POINT.knot, POINT.corner, POINT.radius, POINT.source]);
  out.pointData[POINT.radius].fill(1);
  out.pointData[POINT.source].fill(-1);
  let first = 0;
  traces.forEach(({ position, closed, id, corners }, c) => {
    const count = position.length / 3;
    out.position.set(position, 3 * first);
    out.closed[c] = closed ? 1 : 0;
    out.id[c] = id >>> 0;
    out.start[c + 1] = first + count;
    if (!closed) for (const p of [first, first + count - 1]) out.pointData[POINT.knot][p] = 1;
    for (const p of corners ?? []) {
      out.pointData[POINT.knot][first + p] = 1;
      out.pointData[POINT.corner][first + p] = 1;
    }
    first += count;
  });
  return resample(out, { maxTurn: MIN_TURN, keepKnots: true });
}

/** No curves at all, with the attributes every path has. */
export const noCurves = (): CurveSet => allocateCurves(0, 0, [POINT.along]);
