import { curveLengths } from '../../curve/arc-length.js';
import { allocateCurves, type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { MAX_STEPS, resample } from '../../curve/resample.js';
import { type AlongValue, greatest, isLane, valueAt } from '../../numeric/lane.js';
import { distanceAt } from '../../numeric/vector.js';

/** Of the way along the line the inside of a bend has this part left at least, however tight it is. */
const MIN_INSIDE = 0.1;
/** Places of the wire's middle for each turn, before its own bend step is looked at; and at most, on one line and on all. */
const PLACES = 24;
const MAX_PLACES = { line: MAX_STEPS, all: 1_000_000 };
/** A coil that tapers to nothing goes on winding as if it had this part of its size. */
const MIN_SIZE = 0.1;

/** What a wire is wound by. */
export interface Wound {
  radius: AlongValue;
  wire: number;
  pitch: number;
  starts: number;
  hand: string;
  closed: number;
  sides: number;
  bendStep: number;
  start: string;
  end: string;
}

/**
 * The middle lines of the wires: c(s) + R(s)·(cos φ N + sin φ B) over rotation-minimizing frames (N, B), φ growing by a
 * turn for each pitch, so that a bend of the line adds no turn. On the inside of a bend, where there is 1 − κR of the way
 * left, turns that would run into each other lie side by side. Round a closed line they go whole turns.
 */
export function windings(input: CurveSet, p: Wound): CurveSet {
  const size = greatest(p.radius);
  const thick = 2 * p.wire * size;
  const { spacing, longer } = spacingOf(input, p);
  const rails = resample(input, { spacing });
  const { normal, tangent } = rotationMinimizingFrames(rails);
  const count = curveCount(rails);
  const each = pointCount(rails);
  const out = allocateCurves(count * p.starts, each * p.starts, [POINT.corner, POINT.radius]);
  const lengths = curveLengths(rails);
  const along = rails.pointData[POINT.along];
  const share = rails.pointData[POINT.radius];
  const side = p.hand === 'left' ? -1 : 1;
  let to = 0;
  for (let c = 0; c < count; c++) {
    const [first, end] = [rails.start[c], rails.start[c + 1]];
    const length = lengths[c];
    const closed = rails.closed[c] === 1;
    const sizeAt = (q: number) => valueAt(p.radius, length > 0 ? along[q] / length : 0) * (share?.[q] ?? 1);
    /** Curvature over a turn or so, 1/m: the change of the direction by the way. */
    const bendAt = (q: number) => {
      const [a, b] = [Math.max(first, q - PLACES / 2), Math.min(end - 1, q + PLACES / 2)];
      return b > a ? distanceAt(tangent, a, b) / (along[b] - along[a]) : 0;
    };
    const close = closed ? 0 : Math.min(length / 2, p.closed * p.starts * thick);
    const rates = Float64Array.from({ length: end - first }, (_, i) => {
      const s = along[first + i];
      const own = Math.max(MIN_SIZE * size, sizeAt(first + i));
      const touching = (1 - Math.min(1 - MIN_INSIDE, bendAt(first + i) * own)) / (p.starts * 2 * p.wire * own);
      const rate = s < close || s > length - close ? touching : Math.min(touching, 1 / (p.pitch * 2 * p.wire * own));
      return rate / longer;
    });
    const turns = turnsOf(rates, along.subarray(first, end), closed ? length : undefined);
    for (let k = 0; k < p.starts; k++) {
      const line = c * p.starts + k;
      out.closed[line] = rails.closed[c];
      out.id[line] = p.starts === 1 ? rails.id[c] : rails.id[c] * 4 + k;
      for (let q = first; q < end; q++, to++) {
        const angle = side * 2 * Math.PI * (turns[q - first] + k / p.starts);
        const far = sizeAt(q);
        const [cos, sin] = [far * Math.cos(angle), far * Math.sin(angle)];
        for (let n = 0; n < 3; n++) {
          const [a, b] = [3 * q + ((n + 1) % 3), 3 * q + ((n + 2) % 3)];
          const binormal = tangent[a] * normal[b] - tangent[b] * normal[a];
          out.position[3 * to + n] = rails.position[3 * q + n] + cos * normal[3 * q + n] + sin * binormal;
        }
        out.pointData[POINT.radius][to] = far / size;
      }
      out.start[line + 1] = to;
    }
  }
  return out;
}

/** How far apart the places of the wire stand along the line, metres; and how many times the pitch where they would be too many. */
export function spacingOf(input: CurveSet, p: Wound): { spacing: number; longer: number } {
  const { knots } = isLane(p.radius) ? p.radius : { knots: [{ value: p.radius }] };
  const size = greatest(p.radius);
  const shares = input.pointData[POINT.radius]?.reduce((a, b) => Math.min(a, b), 1) ?? 1;
  const least = Math.max(MIN_SIZE * size, shares * Math.min(...knots.map(({ value }) => value)));
  const turn = 2 * p.wire * least * (p.closed > 0 ? Math.min(p.pitch, p.starts) : p.pitch);
  const lengths = curveLengths(input);
  const all = lengths.reduce((sum, length) => sum + length, 0);
  const longest = lengths.reduce((a, b) => Math.max(a, b), 0);
  const places = (length: number) => (PLACES * length) / turn;
  const longer = Math.max(1, places(longest) / MAX_PLACES.line, (p.starts * places(all)) / MAX_PLACES.all);
  return { spacing: (longer * turn) / PLACES, longer };
}

/** Turns up to each place by the turns a metre there (trapezoid); whole ones in all round a closed line of that length. */
function turnsOf(rates: Float64Array, along: Float32Array, round: number | undefined): Float64Array {
  const out = new Float64Array(rates.length);
  for (let i = 1; i < out.length; i++)
    out[i] = out[i - 1] + ((rates[i] + rates[i - 1]) / 2) * (along[i] - along[i - 1]);
  if (round === undefined) return out;
  const last = out.length - 1;
  const all = out[last] + ((rates[last] + rates[0]) / 2) * (round - along[last]);
  return out.map((turns) => (turns * Math.max(1, Math.round(all))) / all);
}
