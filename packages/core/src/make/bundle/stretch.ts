import { measureEdges, writeLengths } from '../../curve/arc-length.js';
import { allocateCurves, CURVE, type CurveSet, POINT } from '../../curve/curve-set.js';
import { childId } from '../../numeric/random.js';
import type { Course } from './strands.js';

/** Part of one line, with how thick its bundle is there. */
export interface Stretch {
  rails: CurveSet;
  radius: Float32Array;
}

/** The line of one bundle from one place to another, metres along it, as this many even points; `as` gives it an id of its own. */
export function stretchOf(
  { rails, radius }: Course,
  c: number,
  from: number,
  to: number,
  count: number,
  as: number,
): Stretch {
  const out = allocateCurves(1, count, [POINT.along]);
  out.curveData[CURVE.length] = new Float32Array(1);
  out.start[1] = count;
  out.id[0] = childId(rails.id[c], as);
  const along = rails.pointData[POINT.along];
  const thick = new Float32Array(count);
  let p = rails.start[c];
  for (let k = 0; k < count; k++) {
    const at = from + ((to - from) * k) / (count - 1);
    // it may run back
    while (p > rails.start[c] && along[p] > at) p--;
    while (p + 2 < rails.start[c + 1] && along[p + 1] < at) p++;
    const t = (at - along[p]) / (along[p + 1] - along[p] || 1);
    for (let i = 0; i < 3; i++)
      out.position[3 * k + i] = rails.position[3 * p + i] * (1 - t) + rails.position[3 * p + 3 + i] * t;
    thick[k] = radius[p] * (1 - t) + radius[p + 1] * t;
  }
  writeLengths(out, measureEdges(out).length);
  return { rails: out, radius: thick };
}
