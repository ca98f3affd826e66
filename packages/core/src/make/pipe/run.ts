import { carrySpots, copiedCurveData, roomLike } from '../../curve/carry.js';
import { CURVE, type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { resample } from '../../curve/resample.js';
import { type Bend, roundCorners } from '../../curve/round-corners.js';
import { tangentsOf } from '../../curve/tangents.js';
import { distanceAt } from '../../numeric/vector.js';
import type { Rails } from '../steering.js';

/** Straight points that turn by less than this are one leg (cosine of half a degree). */
const STRAIGHT = Math.cos(Math.PI / 360);

/** A straight (or drawn) stretch between bends, by metres from the start of its line. */
export interface Leg {
  curve: number;
  from: number;
  to: number;
}

/** A run of pipe: its rails with exact directions, its bends and the legs between them. */
export interface PipeRun extends Rails {
  bends: (Bend & { from: number; to: number })[];
  legs: Leg[];
}

/**
 * Straight legs and true circular bends.
 * @param straight legs go straight from drawn point to drawn point, where there are any
 * @param step greatest turn from ring to ring, radians
 */
export function pipeRun(input: CurveSet, straight: boolean, radius: number, step: number): PipeRun {
  const base = (straight && throughKnots(input)) || resample(input, { maxTurn: step });
  const { curves, bends } = roundCorners(base, radius, { by: 'arc', step }, STRAIGHT);
  const tangent = tangentsOf(curves);
  const along = new Float32Array(curves.position.length / 3);
  const lengths = new Float32Array(curveCount(curves));
  const arcs = new Map(bends.map((bend) => [bend.first, bend]));
  const legs: Leg[] = [];
  const placed: PipeRun['bends'] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const [first, end] = [curves.start[c], curves.start[c + 1]];
    const own: PipeRun['bends'] = [];
    let walked = 0;
    let arc: Bend | undefined;
    for (let p = first; p < end; p++) {
      if (p > first) walked += arc && p <= arc.last ? arcStep(arc) : distanceAt(curves.position, p - 1, p);
      along[p] = walked;
      arc = arcs.get(p) ?? (arc && p < arc.last ? arc : undefined);
      const bend = arcs.get(p);
      if (bend) own.push({ ...bend, from: walked, to: walked + bend.radius * bend.angle });
    }
    lengths[c] = walked + (curves.closed[c] ? distanceAt(curves.position, end - 1, first) : 0);
    for (const bend of own) directions(curves, bend, tangent);
    if (straight) endDirections(curves, c, tangent);
    legs.push(...legsBetween(c, own, lengths[c], curves.closed[c] === 1));
    placed.push(...own);
  }
  const rails: CurveSet = {
    ...curves,
    pointData: { ...curves.pointData, [POINT.along]: along },
    curveData: { ...curves.curveData, [CURVE.length]: lengths },
  };
  return { rails, frames: rotationMinimizingFrames(rails, { tangent }), bends: placed, legs };
}

const arcStep = ({ angle, radius, first, last }: Bend): number => (angle * radius) / (last - first);

/** The lines through their drawn points alone, each a corner; undefined where none were drawn. */
function throughKnots(input: CurveSet): CurveSet | undefined {
  const knot = input.pointData[POINT.knot];
  if (!knot) return undefined;
  const kept: number[] = [];
  const start = [0];
  for (let c = 0; c < curveCount(input); c++) {
    const [first, end] = [input.start[c], input.start[c + 1]];
    const own = Array.from({ length: end - first }, (_, k) => first + k).filter((p) => knot[p] === 1);
    // a line on which fewer are left than make one keeps all it has
    kept.push(
      ...(own.length > (input.closed[c] ? 2 : 1) ? own : Array.from({ length: end - first }, (_, k) => first + k)),
    );
    start.push(kept.length);
  }
  const out = roomLike(input, curveCount(input), kept.length, [POINT.corner]);
  out.start.set(start);
  out.closed.set(input.closed);
  out.id.set(input.id);
  out.curveData = copiedCurveData(input);
  const points = Uint32Array.from(kept);
  carrySpots(input, { a: points, b: points, t: new Float64Array(kept.length) }, out);
  out.pointData[POINT.corner].fill(1);
  return out;
}

/** Directions along an arc: those of its legs turned evenly from one to the other. */
function directions({ position }: CurveSet, { first, last, corner, angle }: Bend, tangent: Float64Array): void {
  const leg = (from: ArrayLike<number>, at: number, to: ArrayLike<number>, and: number) => {
    const d = [0, 1, 2].map((n) => to[and + n] - from[at + n]);
    const size = Math.hypot(...d);
    return d.map((value) => value / size);
  };
  const u = leg(position, 3 * first, corner, 0);
  const v = leg(corner, 0, position, 3 * last);
  for (let p = first; p <= last; p++) {
    const t = (p - first) / (last - first);
    const [a, b] = [Math.sin((1 - t) * angle), Math.sin(t * angle)];
    for (let n = 0; n < 3; n++) tangent[3 * p + n] = (a * u[n] + b * v[n]) / Math.sin(angle);
  }
}

/** An end of a straight leg looks straight along it. */
function endDirections({ position, start, closed }: CurveSet, c: number, tangent: Float64Array): void {
  if (closed[c]) return;
  for (const [p, from, to] of [
    [start[c], start[c], start[c] + 1],
    [start[c + 1] - 1, start[c + 1] - 2, start[c + 1] - 1],
  ]) {
    const size = distanceAt(position, from, to);
    if (size > 0)
      for (let n = 0; n < 3; n++) tangent[3 * p + n] = (position[3 * to + n] - position[3 * from + n]) / size;
  }
}

/** What is between the bends of one line; the leg over the seam of a closed one is one leg. */
function legsBetween(curve: number, bends: PipeRun['bends'], length: number, closed: boolean): Leg[] {
  const cuts = [0, ...bends.flatMap(({ from, to }) => [from, to]), length];
  const legs: Leg[] = [];
  for (let i = 0; i < cuts.length; i += 2)
    if (cuts[i + 1] - cuts[i] > 1e-6) legs.push({ curve, from: cuts[i], to: cuts[i + 1] });
  const [first, last] = [legs[0], legs[legs.length - 1]];
  if (closed && bends.length > 0 && legs.length > 1 && first.from === 0 && last.to === length)
    return [...legs.slice(1, -1), { curve, from: last.from, to: length + first.to }];
  return legs;
}
