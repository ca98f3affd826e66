import type { CurveSet } from './curve-set.js';
import type { Frames } from './frames.js';

/**
 * Share of a wanted direction that lies across the line, from which on it is trusted a little, and entirely: 0.1 is 6° off
 * the line, 0.5 is 30°.
 */
const TRUSTED = [0.1, 0.5] as const;
/** How much more a trusted direction counts than an even turn. */
const FIRM = 4e6;
/** Keeps a line as it was where nothing was asked of it. */
const LOOSE = 1e-6;

/**
 * Turns about the line, radians, one a point, that make the frames' normal look where it is asked to. Where what is asked
 * runs nearly along the line it says nothing: the turn goes on evenly there (least squares over the length: trusted
 * directions are met, ∫ (dθ/ds)² is least between them), so that a section kept upright does not flip over where its line
 * goes straight up.
 * @param wanted flat xyz, one direction a point, of any length
 * @param at metres from the start of its curve, one a point
 */
export function turnsTowards(
  { start, closed }: Pick<CurveSet, 'start' | 'closed'>,
  { tangent, normal }: Frames,
  wanted: Float64Array,
  at: ArrayLike<number>,
  lengths: ArrayLike<number>,
): Float64Array {
  const turns = new Float64Array(wanted.length / 3);
  for (let c = 0; c < closed.length; c++) {
    const [first, count] = [start[c], start[c + 1] - start[c]];
    const angle = new Float64Array(count);
    const weight = new Float64Array(count);
    let best = 0;
    for (let k = 0; k < count; k++) {
      const seen = seenFrom(tangent, normal, wanted, first + k);
      angle[k] = seen.angle;
      weight[k] = seen.trust;
      if (weight[k] > weight[best]) best = k;
    }
    // a ring begins and ends where it is surest, once round a whole number of turns further
    const ring = closed[c] === 1;
    const order = Uint32Array.from({ length: ring ? count + 1 : count }, (_, k) => (ring ? (best + k) % count : k));
    const length = lengths[c] || 1;
    const steps = Float64Array.from({ length: order.length - 1 }, (_, k) => {
      const gap = at[first + order[k + 1]] - at[first + order[k]];
      return Math.max(1e-9, (gap < 0 || (ring && count === 1) ? gap + length : gap) / length);
    });
    const unwrapped = unwrap(order, angle, weight, ring ? 0 : best);
    const weights = Float64Array.from(order, (k) => weight[k]);
    const solved = evenly(unwrapped, weights, steps);
    for (let k = 0; k < count; k++) turns[first + order[k]] = solved[k];
  }
  return turns;
}

/** Angle of a wanted direction about the tangent of `p`, from the normal, and how far it is to be trusted, 0…1. */
function seenFrom(tangent: Float64Array, normal: Float64Array, wanted: Float64Array, p: number) {
  const i = 3 * p;
  const [x, y, z] = wanted.subarray(i, i + 3);
  const [tx, ty, tz] = tangent.subarray(i, i + 3);
  const [nx, ny, nz] = normal.subarray(i, i + 3);
  const alongNormal = x * nx + y * ny + z * nz;
  const alongBinormal = x * (ty * nz - tz * ny) + y * (tz * nx - tx * nz) + z * (tx * ny - ty * nx);
  const size = Math.hypot(x, y, z);
  const across = size > 0 ? Math.hypot(alongNormal, alongBinormal) / size : 0;
  const t = Math.min(1, Math.max(0, (across - TRUSTED[0]) / (TRUSTED[1] - TRUSTED[0])));
  return { angle: Math.atan2(alongBinormal, alongNormal), trust: t * t * (3 - 2 * t) };
}

/** The same angles without a jump of a whole turn between one that is trusted and the next. */
function unwrap(order: Uint32Array, angle: Float64Array, weight: Float64Array, from: number): Float64Array {
  const out = new Float64Array(order.length);
  const follow = (begin: number, end: number, step: 1 | -1) => {
    let last = angle[order[from]];
    for (let k = begin; k !== end; k += step) {
      const own = angle[order[k]];
      out[k] = own + 2 * Math.PI * Math.round((last - own) / (2 * Math.PI));
      if (weight[order[k]] > 0) last = out[k];
    }
  };
  follow(from, order.length, 1);
  follow(from, -1, -1);
  return out;
}

/** Least squares of nearness to the angles, by weight, and of even change: a symmetric tridiagonal system (Thomas). */
function evenly(angle: Float64Array, weight: Float64Array, steps: Float64Array): Float64Array {
  const count = angle.length;
  const diagonal = new Float64Array(count);
  const right = new Float64Array(count);
  const pull = steps.map((step) => 1 / step);
  for (let k = 0; k < count; k++) {
    const share = ((k > 0 ? steps[k - 1] : 0) + (k + 1 < count ? steps[k] : 0)) / 2;
    const held = FIRM * weight[k] ** 2 * share;
    diagonal[k] = held + LOOSE + (k > 0 ? pull[k - 1] : 0) + (k + 1 < count ? pull[k] : 0);
    right[k] = held * angle[k];
  }
  for (let k = 1; k < count; k++) {
    const factor = -pull[k - 1] / diagonal[k - 1];
    diagonal[k] += factor * pull[k - 1];
    right[k] -= factor * right[k - 1];
  }
  const out = new Float64Array(count);
  for (let k = count - 1; k >= 0; k--) out[k] = (right[k] + (k + 1 < count ? pull[k] * out[k + 1] : 0)) / diagonal[k];
  return out;
}
