import { normalize, subtract, turn, vec3 } from '../numeric/vector.js';
import { type Catenary, catenaryFromLength, catenaryPoint } from './catenary.js';

/** Steps of one hanging span. */
export const HANG_STEPS = 48;
/** A line that hangs from one point down and back up needs some width: this share of its length. */
const MIN_SPAN = 1e-3;

type Place = readonly [number, number, number];

/** A line between two held places before it is written down. */
export interface Hanging {
  /** Writes the place at share `t` of the length. */
  at(t: number, out: { [index: number]: number }, to: number): void;
}

/**
 * Hangs a line between two places.
 * @param solve the catenary for a span and a rise
 * @param swing turns the whole bow about the straight connection, radians: 0 hangs, positive swings to the right seen
 *   from the first place
 */
export function hang(p: Place, q: Place, solve: (span: number, rise: number) => Catenary, swing = 0): Hanging {
  const sideways = Math.hypot(q[0] - p[0], q[2] - p[2]);
  const rise = q[1] - p[1];
  const least = MIN_SPAN * Math.hypot(sideways, rise);
  const span = Math.max(sideways, least);
  const line = solve(span, rise);
  // a plumb span has no direction of its own and hangs in x
  const [dx, dz] = sideways > least ? [(q[0] - p[0]) / sideways, (q[2] - p[2]) / sideways] : [1, 0];
  const chord = subtract(vec3(), q, p);
  const axis = normalize(vec3(), chord);
  const off = vec3();
  return {
    at(t, out, to) {
      const [x, y] = catenaryPoint(line, span, rise, t);
      const far = x - span * t;
      turn(off, [dx * far, y - rise * t, dz * far], axis, -swing);
      for (let n = 0; n < 3; n++) out[to + n] = p[n] + chord[n] * t + off[n];
    },
  };
}

/** Points of a line of slack `slack` (extra length over the straight distance) between two places, flat xyz. */
export function hangingLine(p: Place, q: Place, slack: number, swing: number, steps = HANG_STEPS): Float64Array {
  const solve = (span: number, rise: number) => catenaryFromLength(span, rise, Math.hypot(span, rise) * (1 + slack));
  const line = hang(p, q, solve, swing);
  const out = new Float64Array(3 * (steps + 1));
  for (let k = 0; k <= steps; k++) line.at(k / steps, out, 3 * k);
  return out;
}

/** Steps in which the least bow is looked for: slack by slack, every side at each. */
const SIDES = 24;
const SLACKS = [0.0005, 0.002, 0.005, 0.01, 0.02, 0.035, 0.05, 0.075, 0.1, 0.14, 0.2, 0.28, 0.4, 0.55, 0.8];

/**
 * The bow with the least slack that is clear, whichever way it must swing for it; of the sides that are clear at that
 * slack the one nearest to hanging. The slack is then narrowed to a hundredth.
 * @param isClear whether a line (flat xyz) touches nothing
 */
export function leastBow(
  p: Place,
  q: Place,
  isClear: (line: Float64Array) => boolean,
): { slack: number; swing: number } | undefined {
  const sides = Array.from(
    { length: SIDES },
    (_, k) => (k % 2 === 0 ? 1 : -1) * Math.ceil(k / 2) * ((2 * Math.PI) / SIDES),
  );
  let before = 0;
  for (const slack of SLACKS) {
    const swing = sides.find((side) => isClear(hangingLine(p, q, slack, side)));
    if (swing === undefined) {
      before = slack;
      continue;
    }
    let [low, high] = [before, slack];
    for (let k = 0; k < 8 && high - low > 0.01 * high; k++) {
      const middle = (low + high) / 2;
      if (isClear(hangingLine(p, q, middle, swing))) high = middle;
      else low = middle;
    }
    return { slack: high, swing };
  }
  return undefined;
}
