import { addScaled, dot, length, scale, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import { type Catenary, catenaryFromLength, catenaryFromPull, catenaryFromSag } from '../../shape/catenary.js';

/** Width that a line from one place down and up to the same one has, as a share of its length. */
const MIN_SPAN = 1e-3;
/** Greatest turn from point to point, radians, and fewest and most steps of a span. */
const TURN = 0.14;
const MIN_POINTS = 8;
export const MAX_STEPS = 96;

/** How long a line is between two places: its slack over the straight way, how deep it hangs, how hard it is pulled, or so long. */
export type Pay =
  | { by: 'slack'; slack: number }
  | { by: 'sag'; drop: number }
  | { by: 'pull'; a: number }
  | { by: 'length'; metres: number };

/** A hanging line before its points are written down. */
export interface Span {
  from: Vec3;
  to: Vec3;
  steps: number;
  line: Catenary;
  /** Level way from one to the other as gravity sees it, metres, and its direction; how much higher the other is. */
  wide: number;
  level: Vec3;
  rise: number;
}

/**
 * The line between two places under a gravity of any direction.
 * @param up against gravity, unit
 */
export function spanBetween(from: Vec3, to: Vec3, up: Vec3, pay: Pay): Span {
  const chord = subtract(vec3(), to, from);
  const rise = dot(chord, up);
  const level = addScaled(vec3(), chord, up, -rise);
  const across = length(level);
  const least = MIN_SPAN * Math.hypot(across, rise);
  const wide = Math.max(across, least);
  // a plumb span has no level way of its own: any will do
  if (across > least) scale(level, level, 1 / across);
  else levelWay(level, up);
  const line = catenary(wide, rise, pay);
  const turn = Number.isFinite(line.a) ? wide / line.a : 0;
  const steps = Math.min(MAX_STEPS, Math.max(MIN_POINTS, Math.ceil(turn / TURN)));
  return { from, to, steps, line, wide, level, rise };
}

function catenary(wide: number, rise: number, pay: Pay): Catenary {
  switch (pay.by) {
    case 'slack':
      return catenaryFromLength(wide, rise, Math.hypot(wide, rise) * (1 + pay.slack));
    case 'sag':
      return catenaryFromSag(wide, rise, pay.drop);
    case 'pull':
      return catenaryFromPull(wide, rise, pay.a);
    case 'length':
      return catenaryFromLength(wide, rise, pay.metres);
  }
}

/** Some way that is level under a gravity. */
function levelWay(out: Vec3, up: Vec3): void {
  const k = Math.abs(up[0]) < 0.9 ? 0 : 2;
  for (let n = 0; n < 3; n++) out[n] = (n === k ? 1 : 0) - up[k] * up[n];
  scale(out, out, 1 / length(out));
}

/** Writes the points of a span, `steps + 1` of them, evenly spread over its level way: closest where it bends most. */
export function writeSpan(
  { from, to, steps, line, wide, level, rise }: Span,
  up: Vec3,
  out: Float64Array,
  at: number,
): void {
  const { a, lowest } = line;
  const chord = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const straight = !Number.isFinite(a);
  const q = -lowest / a;
  for (let k = 0; k <= steps; k++) {
    const t = k / steps;
    // how far below the straight way: both by sinh, which keeps its digits for a flat line
    const p = q + (t * wide) / a;
    const high = straight ? rise * t : 2 * a * Math.sinh((p + q) / 2) * Math.sinh((p - q) / 2);
    const off = k === 0 || k === steps ? 0 : high - rise * t;
    const o = at + 3 * k;
    out[o] = from[0] + chord[0] * t + off * up[0];
    out[o + 1] = from[1] + chord[1] * t + off * up[1];
    out[o + 2] = from[2] + chord[2] * t + off * up[2];
  }
  out.set(to, at + 3 * steps);
  // a plumb span goes a little aside on its way down
  const aside = wide - Math.abs(dot(chord as unknown as Vec3, level));
  if (aside > 0.5 * wide)
    for (let k = 1; k < steps; k++)
      for (let n = 0; n < 3; n++) out[at + 3 * k + n] += level[n] * wide * Math.sin((Math.PI * k) / steps) * 0.5;
}

/** Points of a line that is fastened at one end alone. */
export const FREE_STEPS = 14;
/** Over such a share of its length it bends from the way it left by down to plumb. */
const BENDS_OVER = 0.18;

/**
 * A broken line: it leaves its place the way it ran, bends down by its own stiffness and hangs plumb (angle from plumb falls
 * off exponentially: small-angle elastica under its own weight; any strength of materials text).
 * @param way unit, the way it ran off
 */
export function writeFree(from: Vec3, way: Vec3, up: Vec3, metres: number, out: Float64Array, at: number): void {
  const down = -dot(way, up);
  const level = addScaled(vec3(), way, up, down);
  const across = length(level);
  const start = Math.atan2(across, down);
  if (across > 0) scale(level, level, 1 / across);
  let [x, y, s] = [0, 0, 0];
  for (let k = 0; k <= FREE_STEPS; k++) {
    for (let n = 0; n < 3; n++) out[at + 3 * k + n] = from[n] + x * level[n] - y * up[n];
    // closest where it bends
    const next = metres * ((k + 1) / FREE_STEPS) ** 1.7;
    const angle = start * Math.exp(-(s + next) / 2 / (BENDS_OVER * metres));
    x += (next - s) * Math.sin(angle);
    y += (next - s) * Math.cos(angle);
    s = next;
  }
}
