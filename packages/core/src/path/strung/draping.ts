import { distance, type Vec3 } from '../../numeric/vector.js';
import { type Span, spanBetween, writeSpan } from './hanging.js';
import { evenlyAlong, type Obstacles, smoothed } from './obstacles.js';

/** Steps of a line that lies on something. */
const LYING_STEPS = 64;
/** Rounds of evening out and lying on again, and how much of it each is at full smoothing. */
const ROUNDS = 6;
const SMOOTHING = 15;
/** At first it keeps this much further off, as a share of its radius: that rounds the edges it goes over. */
const ROOM = 0.6;
/** Passes that it is eased by in the end, how often it is lifted out of what it then cuts into, and over how many points. */
const EASED = 24;
const LIFTS = 6;
const LIFTED = 16;
/** Points of a line that lies: this many radii apart, and how many at most. */
const APART = 1.1;
const MAX_CONTACTS = 600;

/** A line that meets something: it lies on that, drawn up first where that is asked for. */
export function laid(
  span: Span,
  up: Vec3,
  obstacles: Obstacles,
  { meets, smoothing }: { meets: string; smoothing: number },
): Float64Array {
  const straight = distance(span.from, span.to);
  let slack = span.line.length / straight - 1;
  if (meets === 'lifted') {
    const line = new Float64Array(3 * (LYING_STEPS + 1));
    const clears = () => {
      writeSpan({ ...spanBetween(span.from, span.to, up, { by: 'slack', slack }), steps: LYING_STEPS }, up, line, 0);
      return !obstacles.meets(line, 0, LYING_STEPS + 1);
    };
    // as little as is needed, by halves
    let [clear, met] = [0, slack];
    for (let k = 0; k < 7; k++) {
      slack = (clear + met) / 2;
      if (clears()) clear = slack;
      else met = slack;
    }
    slack = clear;
    if (clears()) return line;
  }
  const points: number[] = [...span.from];
  drape(span.from, span.to, slack, up, obstacles, MAX_RECURSION, points);
  const line = evenlyAlong(points, Math.max(APART * obstacles.reach, span.line.length / MAX_CONTACTS), MAX_CONTACTS);
  const count = line.length / 3;
  for (let round = 0; round < ROUNDS && smoothing > 0; round++) {
    smoothed(line, 0, count, Math.ceil(SMOOTHING * smoothing));
    if (round + 1 < ROUNDS) obstacles.layOn(line, 0, count);
    obstacles.pushOut(line, 0, count, 1 + ROOM * (1 - round / (ROUNDS - 1)));
  }
  if (smoothing > 0) {
    // over an edge it bends no tighter than it is smoothed: it is lifted there instead
    smoothed(line, 0, count, Math.ceil(EASED * smoothing));
    for (let round = 0; round < LIFTS; round++) obstacles.liftOut(line, 0, count, Math.ceil(LIFTED * smoothing));
  }
  return line;
}

/** A broken line beside what it hangs on: it is lifted off that. */
export function clearOf(line: Float64Array, obstacles: Obstacles): Float64Array {
  if (!obstacles.meets(line, 0, line.length / 3)) return line;
  const out = evenlyAlong([...line], APART * obstacles.reach, MAX_CONTACTS);
  for (let round = 0; round < LIFTS; round++) obstacles.liftOut(out, 0, out.length / 3, LIFTED);
  return out;
}

/** What hangs between two places on which the line lies is looked at again this often. */
const MAX_RECURSION = 4;

/**
 * Leads a line from where it is to a place: where it meets something it lies on that, and hangs from there to what it meets
 * next, with the same share of slack. Its points after the first go to `out`.
 */
function drape(from: Vec3, to: Vec3, slack: number, up: Vec3, obstacles: Obstacles, deep: number, out: number[]): void {
  const span = spanBetween(from, to, up, { by: 'slack', slack });
  const steps = deep === MAX_RECURSION ? LYING_STEPS : Math.max(span.steps, LYING_STEPS >> (MAX_RECURSION - deep + 1));
  const line = new Float64Array(3 * (steps + 1));
  writeSpan({ ...span, steps }, up, line, 0);
  const lifted = deep > 0 && obstacles.meets(line, 0, steps + 1) ? obstacles.layOn(line, 0, steps + 1) : [];
  if (lifted.length === 0) {
    for (let k = 3; k < line.length; k++) out.push(line[k]);
    return;
  }
  const place = (k: number): Vec3 => [line[3 * k], line[3 * k + 1], line[3 * k + 2]];
  let here = from;
  for (const [n, k] of lifted.entries()) {
    const next = place(k);
    // from point to point on what it lies on, and freely to where it begins to lie
    if (n > 0 && lifted[n - 1] === k - 1) out.push(...next);
    else drape(here, next, slack, up, obstacles, deep - 1, out);
    here = next;
  }
  drape(here, to, slack, up, obstacles, deep - 1, out);
}
