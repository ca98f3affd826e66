import type { CurveSet } from '../curve/curve-set.js';
import { type Nearness, type SeparateOptions, separate } from './separate.js';

/** How far each point was pushed, one attribute an axis: it is resampled along with the lines. */
const MOVED = ['moved x', 'moved y', 'moved z'] as const;
/** Of the way back to where a point was, this much is gone in one round. */
const PULL = 0.05;
const ROUNDS = 8;
/** A round that leaves more than this of the wanted distance too near is taken back. */
const TOUCHING = 1e-3;

/** Pushes lines apart and remembers, on top of what it remembered before, how far every point went. */
export function pushApart(curves: CurveSet, radius: Float64Array, options: SeparateOptions): Nearness | undefined {
  const before = curves.position.slice();
  const left = separate(curves, radius, options);
  eachMoved(curves, (moved, p, i) => {
    moved[p] += curves.position[i] - before[i];
  });
  return left;
}

/** Forgets how far points were pushed. */
export function forgetMoved(curves: CurveSet): void {
  for (const name of MOVED) delete curves.pointData[name];
}

/**
 * Takes up the air that pushing lines apart left between them: like a line under tension, each goes back towards where
 * it was, a little a round, and is pushed off again where it now cuts. It ends where a round does not come out clean.
 * @param left what was too near before
 * @returns what is too near now
 */
export function settle(
  curves: CurveSet,
  radius: Float64Array,
  options: SeparateOptions,
  left: Nearness | undefined,
): Nearness | undefined {
  let now = left;
  for (let round = 0; round < ROUNDS && !isTooNear(now); round++) {
    const before = curves.position.slice();
    eachMoved(curves, (moved, p, i) => {
      curves.position[i] -= PULL * moved[p];
      moved[p] *= 1 - PULL;
    });
    const after = pushApart(curves, radius, options);
    if (isTooNear(after)) {
      curves.position.set(before);
      break;
    }
    now = after;
  }
  return now;
}

const isTooNear = (left: Nearness | undefined): boolean => left !== undefined && left.missing > TOUCHING * left.wanted;

/** Goes over all points, an axis at a time: what is remembered of that axis, the point, and its place in `position`. */
function eachMoved({ position, pointData }: CurveSet, visit: (moved: Float32Array, p: number, i: number) => void) {
  for (const [axis, name] of MOVED.entries()) {
    pointData[name] ??= new Float32Array(position.length / 3);
    for (let p = 0; p < pointData[name].length; p++) visit(pointData[name], p, 3 * p + axis);
  }
}
