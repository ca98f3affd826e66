import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { type AlongValue, valueAt } from '../../numeric/lane.js';
import { LineNoise } from '../../numeric/noise.js';
import { hashText } from '../../numeric/random.js';

export const SIDEWAYS = hashText('wobble sideways');
export const UP = hashText('wobble up');

/** How lines stray from their course. */
export interface Sway {
  /** Length of one wave, metres. */
  period: number;
  /** How far they stray at most, as a lane, and what that is multiplied by to be metres. */
  size: AlongValue;
  factor: number;
  /** How much they stray along the normal, against sideways. */
  up: number;
  seed: number;
  /** Which ends stay where they are: `ends` both, `start` the first, `none` none. */
  held: string;
}

/**
 * Moves the points of all curves off their course, in place; `along` is where they stood before.
 * @param lengths of the curves, metres
 * @param tangent of the points, where it is known
 */
export function swayLines(lines: CurveSet, lengths: ArrayLike<number>, sway: Sway, tangent?: Float64Array): void {
  const frames = rotationMinimizingFrames(lines, { tangent });
  const { position, start, closed, id } = lines;
  const along = lines.pointData[POINT.along];
  const far = writeReach(lines, along, lengths, sway);
  const sideways = new LineNoise(sway.seed, SIDEWAYS);
  const upward = new LineNoise(sway.seed, UP);
  for (let c = 0; c < curveCount(lines); c++) {
    const length = lengths[c] || 1;
    const waves = closed[c] ? wavesRound(length, sway.period) : 0;
    const step = waves > 0 ? length / waves : sway.period;
    sideways.onLine(id[c], waves);
    upward.onLine(id[c], waves);
    for (let p = start[c]; p < start[c + 1]; p++) {
      const b = far[p] * sideways.at(along[p] / step);
      const n = sway.up * far[p] * upward.at(along[p] / step);
      const i = 3 * p;
      const tx = frames.tangent[i];
      const ty = frames.tangent[i + 1];
      const tz = frames.tangent[i + 2];
      const nx = frames.normal[i];
      const ny = frames.normal[i + 1];
      const nz = frames.normal[i + 2];
      position[i] += n * nx + b * (ty * nz - tz * ny);
      position[i + 1] += n * ny + b * (tz * nx - tx * nz);
      position[i + 2] += n * nz + b * (tx * ny - ty * nx);
    }
  }
}

/** How far each point may stray, metres: what the lane says, faded in over one wave where an end is held. */
export function writeReach(
  { start, closed }: CurveSet,
  along: ArrayLike<number>,
  lengths: ArrayLike<number>,
  { period, size, factor, held }: Sway,
  out = new Float32Array(along.length),
): Float32Array {
  const even = typeof size === 'number' ? size * factor : undefined;
  for (let c = 0; c < closed.length; c++) {
    const length = lengths[c] || 1;
    const fadeIn = !closed[c] && held !== 'none';
    const fadeOut = !closed[c] && held === 'ends';
    for (let p = start[c]; p < start[c + 1]; p++) {
      const at = along[p];
      let far = even ?? valueAt(size, at / length) * factor;
      if (fadeIn && at < period) far *= ease(at / period);
      if (fadeOut && length - at < period) far *= ease((length - at) / period);
      out[p] = far;
    }
  }
  return out;
}

/** A closed line comes back to the same sway: a whole number of waves round it. */
const wavesRound = (length: number, period: number): number => Math.max(2, Math.round(length / period));

/** Smooth from 0 to 1 over 0…1. */
const ease = (x: number): number => (x > 0 ? x * x * (3 - 2 * x) : 0);
