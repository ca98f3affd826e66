import svgpath from 'svgpath';
import type { CurveFilePoint, FileCurve } from './curve-file.js';
import { refineSteps } from './refine-steps.js';

type Place = [number, number];
/** A straight stretch or a cubic; quadratics and arcs have become cubics. */
interface Segment {
  from: Place;
  to: Place;
  /** Control places of a cubic. */
  curve?: [Place, Place];
}

/** Turn of a cubic from step to step at first, radians, as if it turned evenly; where it does not, steps are refined. */
const STEP_TURN = 0.25;
/** Neighbours that turn less than this where they meet run on smoothly (5°). */
const SMOOTH_COSINE = Math.cos((5 * Math.PI) / 180);
/** Where a straight stretch runs into a bend, points this far from its ends keep the straight straight. */
const NEAR_END = 0.1;
/** The first step from an end or a corner, as a share of the others. */
const END_STEP = 0.25;

/**
 * The curves of one SVG path (SVG 2, chapter 9): lines and cubics as they are, quadratics raised, arcs by the conversion
 * of appendix B.2.4. Points are put so closely that a smooth curve through them is the path.
 * @param transform SVG transform of the element and all around it
 * @returns the curves, and what was wrong with the path, undefined where nothing was
 */
export function pathCurves(d: string, transform: string, name: string): { curves: FileCurve[]; problem?: string } {
  const path = svgpath.from(d).abs().unshort().unarc().transform(transform);
  // what comes before the fault is kept by the parser
  const problem = plainProblem((path as unknown as { err?: string }).err);
  const curves: FileCurve[] = [];
  let segments: Segment[] = [];
  let start: Place = [0, 0];
  let at: Place = [0, 0];
  const finish = (closed: boolean) => {
    const curve = segments.length > 0 ? curveOf(segments, closed, name) : undefined;
    if (curve) curves.push(curve);
    segments = [];
  };
  const add = (to: Place, curve?: [Place, Place]) => {
    if (curve || Math.hypot(to[0] - at[0], to[1] - at[1]) > 0) segments.push({ from: at, to, curve });
    at = to;
  };
  path.iterate((segment) => {
    const [command, ...n] = segment as [string, ...number[]];
    switch (command) {
      case 'M':
        finish(false);
        at = [n[0], n[1]];
        start = at;
        break;
      case 'L':
        add([n[0], n[1]]);
        break;
      case 'H':
        add([n[0], at[1]]);
        break;
      case 'V':
        add([at[0], n[0]]);
        break;
      case 'C':
        add(
          [n[4], n[5]],
          [
            [n[0], n[1]],
            [n[2], n[3]],
          ],
        );
        break;
      case 'Q':
        add([n[2], n[3]], raised(at, [n[0], n[1]], [n[2], n[3]]));
        break;
      case 'Z':
      case 'z':
        add(start);
        finish(true);
        at = start;
    }
  });
  finish(false);
  return { curves, problem };
}

/** What the parser found, in words for a person; places are counted from 1. */
function plainProblem(found: string | undefined): string | undefined {
  if (!found) return undefined;
  const [, what = found, place] = /^(?:SvgPath: )?(.*?)(?: \(at pos (\d+)\))?$/.exec(found) ?? [];
  const command = /^bad command (.)/.exec(what)?.[1];
  const words = command
    ? `unknown command "${command}"`
    : what.startsWith('missed param')
      ? 'a number is missing'
      : what.startsWith('param should start')
        ? 'something that is not a number'
        : what.startsWith('string should start')
          ? 'a path starts with M'
          : what;
  return place === undefined ? words : `${words} at character ${Number(place) + 1} of its path`;
}

/** The same quadratic as a cubic: two thirds of the way to its control place from both ends. */
const raised = (a: Place, b: Place, c: Place): [Place, Place] => [
  [a[0] + (2 / 3) * (b[0] - a[0]), a[1] + (2 / 3) * (b[1] - a[1])],
  [c[0] + (2 / 3) * (b[0] - c[0]), c[1] + (2 / 3) * (b[1] - c[1])],
];

function curveOf(segments: Segment[], closed: boolean, name: string): FileCurve | undefined {
  const points: CurveFilePoint[] = [];
  const put = ([x, y]: Place, corner: boolean) => points.push({ position: [x, y, 0], corner });
  const count = segments.length;
  for (let i = 0; i < count; i++) {
    const segment = segments[i];
    const before = i > 0 || closed ? segments[(i + count - 1) % count] : undefined;
    const after = i < count - 1 || closed ? segments[(i + 1) % count] : undefined;
    const smoothStart = before !== undefined && runsOn(before, segment);
    put(segment.from, before !== undefined && !smoothStart);
    for (const t of stepsOf(segment, smoothStart, after !== undefined && runsOn(segment, after)))
      put(placeAt(segment, t), false);
  }
  if (!closed) put(segments[count - 1].to, false);
  return points.length > 1 ? { name, closed: closed && points.length > 2, points } : undefined;
}

function stepsOf({ from, to, curve }: Segment, smoothStart: boolean, smoothEnd: boolean): number[] {
  if (!curve) return [...(smoothStart ? [NEAR_END] : []), ...(smoothEnd ? [1 - NEAR_END] : [])];
  const legs = [from, ...curve, to];
  let turn = 0;
  for (let k = 0; k < 2; k++) turn += turnBetween(legs[k], legs[k + 1], legs[k + 1], legs[k + 2]);
  const count = Math.min(256, Math.max(2, Math.ceil(turn / STEP_TURN)));
  const even = Array.from({ length: count + 1 }, (_, k) => k / count);
  // a smooth curve leaves its ends and corners straight: a short first step keeps it on the bend
  if (!smoothStart) even.splice(1, 0, END_STEP / count);
  if (!smoothEnd) even.splice(-1, 0, 1 - END_STEP / count);
  return refineSteps((t) => placeAt({ from, to, curve }, t), even, [smoothStart, smoothEnd]).slice(1, -1);
}

function placeAt({ from, to, curve }: Segment, t: number): Place {
  const s = 1 - t;
  const [b, c] = curve ?? [from, to];
  const at = (k: 0 | 1) =>
    curve
      ? s * s * s * from[k] + 3 * s * s * t * b[k] + 3 * s * t * t * c[k] + t * t * t * to[k]
      : s * from[k] + t * to[k];
  return [at(0), at(1)];
}

/** First and last leg of a segment that has a length. */
function leg({ from, to, curve }: Segment, last: boolean): [Place, Place] {
  const legs = curve ? [from, ...curve, to] : [from, to];
  const order = last ? [...legs].reverse() : legs;
  const other = order.find((place) => place[0] !== order[0][0] || place[1] !== order[0][1]) ?? order[1];
  return last ? [other, order[0]] : [order[0], other];
}

function runsOn(before: Segment, after: Segment): boolean {
  const [a, b] = leg(before, true);
  const [c, d] = leg(after, false);
  return Math.cos(turnBetween(a, b, c, d)) > SMOOTH_COSINE;
}

function turnBetween(a: Place, b: Place, c: Place, d: Place): number {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], d[0] - c[0], d[1] - c[1]];
  return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
}
