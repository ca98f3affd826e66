import { withChordLengths } from '../../curve/chord-lengths.js';
import { CURVE, type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';

/** Strands between two asks whether the work is still wanted. */
const STEP = 8192;

/**
 * The same strands with other places: `write` gets each strand's points to change where they lie. What they carry is theirs
 * still; lengths are measured anew.
 */
export function reshaped(
  curves: CurveSet,
  step: (share: number) => void,
  write: (position: Float64Array, first: number, end: number, curve: number) => void,
): CurveSet {
  const position = curves.position.slice();
  const { start } = curves;
  const count = curveCount(curves);
  for (let c = 0; c < count; c++) {
    if (c % STEP === 0) step(c / count);
    write(position, start[c], start[c + 1], c);
  }
  const { [POINT.along]: _along, ...pointData } = curves.pointData;
  const { [CURVE.length]: _length, ...curveData } = curves.curveData;
  return withChordLengths({ ...curves, position, pointData, curveData });
}

/**
 * The same strands with their steps turned: `turn` gets the unit direction of each step, to change, and the share of the
 * length at its end. Roots stay, and every step is as long as it was.
 */
export function bent(
  curves: CurveSet,
  step: (share: number) => void,
  turn: (direction: Float64Array, share: number, curve: number) => void,
): CurveSet {
  const direction = new Float64Array(3);
  return reshaped(curves, step, (position, first, end, c) => {
    const from = curves.position;
    const total = lengthOf(from, first, end);
    let far = 0;
    for (let p = first + 1; p < end; p++) {
      const i = 3 * p;
      const x = from[i] - from[i - 3];
      const y = from[i + 1] - from[i - 2];
      const z = from[i + 2] - from[i - 1];
      const long = Math.sqrt(x * x + y * y + z * z);
      far += long;
      if (long === 0) {
        for (let n = 0; n < 3; n++) position[i + n] = position[i - 3 + n];
        continue;
      }
      direction[0] = x / long;
      direction[1] = y / long;
      direction[2] = z / long;
      turn(direction, total > 0 ? far / total : 0, c);
      const size = Math.sqrt(direction[0] ** 2 + direction[1] ** 2 + direction[2] ** 2);
      // straight against where it was to go: it stays
      const by = size > 1e-12 ? long / size : 0;
      for (let n = 0; n < 3; n++)
        position[i + n] = position[i - 3 + n] + (by > 0 ? by * direction[n] : from[i + n] - from[i - 3 + n]);
    }
  });
}

/** Length of a line from point to point, metres. */
export function lengthOf(position: Float64Array, first: number, end: number): number {
  let sum = 0;
  for (let i = 3 * first + 3; i < 3 * end; i += 3) {
    const x = position[i] - position[i - 3];
    const y = position[i + 1] - position[i - 2];
    const z = position[i + 2] - position[i - 1];
    sum += Math.sqrt(x * x + y * y + z * z);
  }
  return sum;
}
