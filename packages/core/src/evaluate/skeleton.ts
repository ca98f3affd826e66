import { curveLengths } from '../curve/arc-length.js';
import { curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { distanceAt } from '../numeric/vector.js';
import { nearAt } from '../part/reach.js';
import type { SweptBody } from '../unit/carriers.js';

/** Steps of the lines that are looked at, in section radii; and of bodies with more steps none are. */
const STEP = 1.5;
const MAX_STEPS = 200_000;
/** Strands wind about each other: steps leave their lines by this much of their radius at most. */
const STRAND_SAG = 0.03;

/** Next to an open end this many sections deep, going into something is a connection, not a mistake. */
export const END_REACH = 3;
/** What is broad goes in with its sides as well: next to its ends this many times as deep as it reaches there. */
const END_BREADTH = 1.5;

/** How far from an open end going into something is a connection, metres: by how far the skin is there at least and at most. */
export const endReach = (near: number, far: number): number => Math.max(END_REACH * near, END_BREADTH * far);

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

const known = new WeakMap<SweptBody, Skeleton>();
const NONE: Skeleton = {
  position: new Float64Array(0),
  near: new Float32Array(0),
  start: new Uint32Array(1),
  closed: new Uint8Array(0),
};

/**
 * The lines of bodies in steps of their own thickness, one after the other. Bodies of very many steps are left out. Made
 * once for each body: who moves one to another thread takes a copy.
 */
export function skeletonOf(bodies: readonly SweptBody[]): Skeleton {
  const each = bodies.map((body) => {
    const skeleton = known.get(body) ?? skeletonOfBody(body);
    known.set(body, skeleton);
    return skeleton;
  });
  return each.length === 1 ? each[0] : each.reduce(joined, NONE);
}

function skeletonOfBody(body: SweptBody): Skeleton {
  const { curves: rails } = body;
  const reach = Float32Array.from(body.section.radius, (_, p) => nearAt(body, p));
  const radius = reach.reduce((most, one) => Math.max(most, one), 0);
  const total = curveLengths(rails).reduce((sum, length) => sum + length, 0);
  if (!(radius > 0) || total / (STEP * radius) + curveCount(rails) > MAX_STEPS) return NONE;
  const { position, start, closed, pointData } = resample(
    { ...rails, pointData: { corner: rails.pointData[POINT.corner] ?? new Uint8Array(reach.length), reach } },
    { spacing: STEP * radius, maxSag: body.ofStrands ? STRAND_SAG * radius : undefined },
  );
  return { position, start, closed, near: pointData['reach'] };
}

function joined(a: Skeleton, b: Skeleton): Skeleton {
  const position = new Float64Array(a.position.length + b.position.length);
  position.set(a.position);
  position.set(b.position, a.position.length);
  const points = a.near.length;
  const lines = a.closed.length;
  return {
    position,
    near: Float32Array.from({ length: points + b.near.length }, (_, p) =>
      p < points ? a.near[p] : b.near[p - points],
    ),
    start: Uint32Array.from({ length: lines + b.start.length }, (_, c) =>
      c < lines ? a.start[c] : points + b.start[c - lines],
    ),
    closed: Uint8Array.from({ length: lines + b.closed.length }, (_, c) =>
      c < lines ? a.closed[c] : b.closed[c - lines],
    ),
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
