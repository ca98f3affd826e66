import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { resample } from '../../curve/resample.js';

/** Greatest turn from place to place of the lines that elements stand on: what is between two is led over by a chord. */
const TURN = Math.PI / 90;

/** Lines with the direction they run in and the way up for what is on them, as rolled by the points. Flat xyz. */
export interface FramedLines {
  lines: CurveSet;
  lengths: ArrayLike<number>;
  tangent: Float64Array;
  up: Float64Array;
}

/** @param upright the way up is that of the world, as far as the line allows, whatever was rolled */
export function framedLines(input: CurveSet, upright: boolean, density = 1): FramedLines {
  // many short straight lines, such as scattered ones, are as fine as they can be
  const straight = pointCount(input) === 2 * curveCount(input) && input.pointData[POINT.along];
  const lines = straight ? input : resample(input, { maxTurn: TURN / density });
  const { tangent, normal } = rotationMinimizingFrames(lines);
  if (upright) standUpright(tangent, normal);
  else rollBy(lines.pointData[POINT.roll], tangent, normal);
  return { lines, lengths: curveLengths(lines), tangent, up: normal };
}

function standUpright(tangent: Float64Array, up: Float64Array): void {
  for (let i = 0; i < up.length; i += 3) {
    const lean = tangent[i + 1];
    const [x, y, z] = [-lean * tangent[i], 1 - lean * lean, -lean * tangent[i + 2]];
    const size = Math.sqrt(x * x + y * y + z * z);
    // on a plumb line every way is as level as the next: it keeps its own
    if (size < 1e-4) continue;
    up[i] = x / size;
    up[i + 1] = y / size;
    up[i + 2] = z / size;
  }
}

function rollBy(roll: Float32Array | undefined, t: Float64Array, up: Float64Array): void {
  if (!roll) return;
  for (let p = 0, i = 0; p < roll.length; p++, i += 3) {
    if (roll[p] === 0) continue;
    const [cos, sin] = [Math.cos(roll[p]), Math.sin(roll[p])];
    const [x, y, z] = [up[i], up[i + 1], up[i + 2]];
    up[i] = cos * x + sin * (t[i + 1] * z - t[i + 2] * y);
    up[i + 1] = cos * y + sin * (t[i + 2] * x - t[i] * z);
    up[i + 2] = cos * z + sin * (t[i] * y - t[i + 1] * x);
  }
}
