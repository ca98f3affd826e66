import { curveLengths } from '../../curve/arc-length.js';
import type { CurveSet } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { smoothCurves } from '../../curve/smooth.js';
import { evenWays } from '../../surface/lie-flat.js';
import { type FramedLines, framedLines } from './framed-lines.js';

/** Steps of the line for each length over which it is calmed, and about as many for all lines at most. */
const STEPS = 3;
const MAX_STEPS = 200_000;

/**
 * Framed lines whose ways do not shake: on the facets of a scan a line that clings turns a little at each, and what is so far
 * to its side would run back and forth. Corners and ends keep their place.
 * @param over length over which directions are evened, metres
 */
export function calmLines(input: CurveSet, over: number): FramedLines {
  const all = curveLengths(input).reduce((sum, length) => sum + length, 0);
  const spacing = Math.max(over / STEPS, all / MAX_STEPS);
  const fine = smoothCurves(resample(input, { spacing }), { over, hold: 'corners' });
  const framed = framedLines(fine, false);
  return { ...framed, up: evenWays(framed.lines, framed.up, over) };
}
