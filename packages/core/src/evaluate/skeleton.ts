import { curveLengths } from '../curve/arc-length.js';
import { curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { distanceAt } from '../numeric/vector.js';
import { nearAt } from '../part/reach.js';
import type { SweptBody } from '../unit/carriers.js';

/** Steps of the lines that are looked at, in section radii; and of bodies with more steps none are. */
const STEP = 1.5;
const MOST_STEPS = 200_000;

/** Of the distance two skins need, so much may be missing: a polygon touches with its flats, a coil with its steps. */
export const CONTACT = 0.08;
/** Next to an open end so many sections deep, going into something is a connection, not a mistake. */
export const END_REACH = 3;

/** Swept bodies as other bodies see them: points along their lines, and how far the skin is from them. */
export interface Skeleton {
  /** Flat xyz, metres. */
  position: Float64Array;
  /** One a point, metres. */
  near: Float32Array;
  /** First point of each line, and one more number: how many points there are. */
  start: Uint32Array;
  closed: Uint8Array;
}

/** The lines of bodies in steps of their own thickness, one after the other. Bodies of very many steps are left out. */
export function skeletonOf(bodies: readonly SweptBody[]): Skeleton {
  const position: number[] = [];
  const near: number[] = [];
  const start = [0];
  const closed: number[] = [];
  for (const body of bodies) {
    const { curves: rails } = body;
    const reach = Float32Array.from(body.section.radius, (_, p) => nearAt(body, p));
    const radius = reach.reduce((most, one) => Math.max(most, one), 0);
    const total = curveLengths(rails).reduce((sum, length) => sum + length, 0);
    if (!(radius > 0) || total / (STEP * radius) + curveCount(rails) > MOST_STEPS) continue;
    const line = resample(
      { ...rails, pointData: { corner: rails.pointData[POINT.corner] ?? new Uint8Array(reach.length), reach } },
      { spacing: STEP * radius },
    );
    for (const value of line.position) position.push(value);
    for (const value of line.pointData['reach']) near.push(value);
    const before = start.at(-1) ?? 0;
    for (let c = 0; c < curveCount(line); c++) {
      start.push(before + line.start[c + 1]);
      closed.push(line.closed[c]);
    }
  }
  return {
    position: Float64Array.from(position),
    near: Float32Array.from(near),
    start: Uint32Array.from(start),
    closed: Uint8Array.from(closed),
  };
}

/** The steps of a skeleton, one column a number. */
export interface Steps {
  /** Points it goes from and to, and its line. */
  from: Uint32Array;
  to: Uint32Array;
  curve: Uint32Array;
  /** Metres along its line to its middle, and the reach of its skin there. */
  at: Float64Array;
  near: Float64Array;
  /** Length of each line. */
  length: Float64Array;
}

export function stepsOf({ position, near, start, closed }: Skeleton): Steps {
  const lines = closed.length;
  let count = 0;
  for (let c = 0; c < lines; c++) count += start[c + 1] - start[c] - 1 + closed[c];
  const out: Steps = {
    from: new Uint32Array(count),
    to: new Uint32Array(count),
    curve: new Uint32Array(count),
    at: new Float64Array(count),
    near: new Float64Array(count),
    length: new Float64Array(lines),
  };
  let s = 0;
  for (let c = 0; c < lines; c++) {
    let walked = 0;
    for (let p = start[c]; p < start[c + 1] - 1 + closed[c]; p++, s++) {
      const q = p === start[c + 1] - 1 ? start[c] : p + 1;
      const size = distanceAt(position, p, q);
      out.from[s] = p;
      out.to[s] = q;
      out.curve[s] = c;
      out.at[s] = walked + size / 2;
      out.near[s] = (near[p] + near[q]) / 2;
      walked += size;
    }
    out.length[c] = walked;
  }
  return out;
}
