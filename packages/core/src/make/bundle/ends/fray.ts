import { curveLengths } from '../../../curve/arc-length.js';
import { POINT } from '../../../curve/curve-set.js';
import { hashText, randomsOf } from '../../../numeric/random.js';
import { type Course, eachStrand, type Strands } from '../strands.js';
import type { EndChoice } from './parameters.js';

const LEAN = hashText('fray lean');
const TURN = hashText('fray turn');
const CUT = hashText('fray cut');
const WAVE = hashText('fray wave');
/** Where an end opens by less, in radians, its curl, wave and cut grow less with it, so that at 0 it is closed. */
const BARELY = 0.2;
/** Of a line at most this part comes loose at one end. */
const MAX_SHARE = 0.5;
/** How far from one wave of a loose strand to the next, in thicknesses of the bundle. */
const WAVES = 0.9;
/** The middlemost strands lean out by this part of what the outermost do. */
const INNER = 0.3;

/** How far from its end a bundle is finished in its own way, metres. */
export const loosened = (length: number, radius: number, { over }: EndChoice): number =>
  Math.min(MAX_SHARE * length, 2 * radius * over);

/**
 * Lets the strands of one end come loose. Each keeps the course it was laid in and leans out from its bundle on top of it,
 * by an angle ψ that grows over the loose length: its points move by ∫ (cos ψ − 1) T + sin ψ O ds, T along the line and O
 * outwards where it comes loose, so that it is no longer than it was. Wave and uneven cuts come after that.
 */
export function frayEnd(course: Course, strands: Strands, end: EndChoice, which: 'start' | 'end', seed: number): void {
  const { rails, frames, radius } = course;
  const { lines } = strands;
  if (end.opening === 0) return;
  const along = rails.pointData[POINT.along];
  const lengths = curveLengths(rails);
  const grown = Math.min(1, end.opening / BARELY);
  const [lean, turn, cut, wave] = [LEAN, TURN, CUT, WAVE].map((name) =>
    randomsOf(seed, name ^ (which === 'end' ? 1 : 0)),
  );
  const { tangent, normal } = frames;
  const atEnd = which === 'end';
  const way = atEnd ? 1 : -1;
  eachStrand(course, strands, (strand, rail, from, to, points) => {
    if (lines.closed[strand] || points < 3) return;
    const size = 2 * radius[atEnd ? from + points - 1 : from];
    const loose = loosened(lengths[rail], size / 2, end);
    const away = (k: number) => (atEnd ? lengths[rail] - along[from + k] : along[from + k]);
    // the loose points, from where it comes loose to the tip
    const tail: number[] = [];
    for (let k = 0; k < points; k++) if (away(k) < loose) tail.push(k);
    if (!atEnd) tail.reverse();
    if (tail.length < 2) return;
    const id = lines.id[strand];
    const out = outwards(course, strands, from + tail[0], to + tail[0]);
    const share = Math.min(1, out.far / Math.max(0.5 * size - strands.radius[to + tail[0]], 1e-9));
    const random = (draw: (id: number) => number) => 2 * draw(id) - 1;
    // strands in the middle have no way out of their own
    const azimuth = share < 0.05 ? Math.PI * random(turn) : out.angle + 0.8 * end.unlike * random(turn);
    const opening = end.opening * (INNER + (1 - INNER) * share) * (1 + 0.6 * end.unlike * random(lean));
    const curled = Math.min(loose, Math.abs(end.curl) * end.curlRadius * size);
    const moved = new Float64Array(3 * tail.length);
    const sum = [0, 0, 0];
    for (let n = 0; n < tail.length; n++) {
      const [p, q] = [from + tail[n], to + tail[n]];
      const u = 1 - away(tail[n]) / loose;
      const left = loose * (1 - u);
      const curl = curled > 0 && left < curled ? (grown * end.curl * (curled - left)) / curled : 0;
      const psi = opening * u ** end.tip + curl;
      const step = n === 0 ? loose - away(tail[0]) : Math.abs(away(tail[n]) - away(tail[n - 1]));
      const [o, w] = acrossAt(tangent, normal, p, azimuth);
      const phase =
        (2 * Math.PI * (loose * u)) / (WAVES * size * (0.7 + 0.6 * wave(id))) + 2 * Math.PI * wave(id ^ 0x77);
      const wavy = grown * end.wave * 2 * strands.radius[q] * u * Math.sin(phase);
      for (let i = 0; i < 3; i++) {
        sum[i] += step * (way * (Math.cos(psi) - 1) * tangent[3 * p + i] + Math.sin(psi) * o[i]);
        moved[3 * n + i] = lines.position[3 * q + i] + sum[i] + wavy * w[i];
      }
    }
    const kept = 1 - grown * end.uneven * cut(id);
    shorten(
      lines.position,
      moved,
      tail,
      to,
      tail.map((k) => loose - away(k)),
      kept,
    );
  });
}

/** Writes the loose points back, the tip cut off: they are closer instead. */
function shorten(
  position: Float64Array,
  moved: Float64Array,
  tail: readonly number[],
  to: number,
  at: readonly number[],
  kept: number,
): void {
  let m = 0;
  for (let n = 0; n < tail.length; n++) {
    const wanted = at[0] + (at[n] - at[0]) * kept;
    while (m + 2 < tail.length && at[m + 1] < wanted) m++;
    const t = Math.min(1, Math.max(0, (wanted - at[m]) / (at[m + 1] - at[m] || 1)));
    for (let i = 0; i < 3; i++)
      position[3 * (to + tail[n]) + i] = moved[3 * m + i] * (1 - t) + moved[3 * m + 3 + i] * t;
  }
}

/** Where a point of a strand lies in its bundle: how far from the middle, and at which angle of the frames. */
function outwards({ rails, frames }: Course, { lines }: Strands, p: number, q: number) {
  const d = [0, 1, 2].map((i) => lines.position[3 * q + i] - rails.position[3 * p + i]);
  const [n, b] = acrossAt(frames.tangent, frames.normal, p, 0);
  const [x, y] = [n, b].map((axis) => axis.reduce((sum, value, i) => sum + value * d[i], 0));
  return { far: Math.hypot(x, y), angle: Math.atan2(y, x) };
}

/** The direction at an angle of the frame across the line, and the one a quarter turn on. */
function acrossAt(tangent: Float64Array, normal: Float64Array, p: number, angle: number): [number[], number[]] {
  const [t, n] = [tangent.subarray(3 * p, 3 * p + 3), normal.subarray(3 * p, 3 * p + 3)];
  const b = [t[1] * n[2] - t[2] * n[1], t[2] * n[0] - t[0] * n[2], t[0] * n[1] - t[1] * n[0]];
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return [b.map((value, i) => cos * n[i] + sin * value), b.map((value, i) => cos * value - sin * n[i])];
}
