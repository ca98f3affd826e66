import { type CurveSet, POINT } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';
import type { Rail } from '../../motion/rail.js';
import { cross, dot, normalize, pointOf, scale, subtract, turn, type Vec3, vec3 } from '../../numeric/vector.js';
import { type FramedLines, framedLines } from '../elements/framed-lines.js';
import { commonAxis, type WheelArc, wheelArcs } from './arcs.js';

/** A line that a belt runs along: closed ones are ridden round. */
export interface BeltRail {
  rail: Rail;
  arcs: WheelArc[];
  /** The axles' own way; none where it goes round no wheels. */
  axis?: Vec3;
  closed: boolean;
}

/** The lines of a belt as they are swept, with frames whose normal looks out of the loop, and each as a rail. */
export interface BeltLines {
  lines: CurveSet;
  frames: Frames;
  rails: BeltRail[];
}

/**
 * Frames of a line round wheels are exact: along the circles, and straight between them; turned as its points say. Any
 * other line has the frames that what is along it has.
 */
export function beltLines(input: CurveSet, density: number): BeltLines {
  const arcs = Array.from(input.closed, (_closed, c) => wheelArcs(input, c));
  if (arcs.some((some) => some.filter(({ last, first }) => last > first).length < 2))
    return freeLines(framedLines(input, false, density));
  const { position, start, pointData } = input;
  const tangent = new Float64Array(position.length);
  const normal = new Float64Array(position.length);
  const rails = arcs.map((some, c): BeltRail => {
    const axis = commonAxis(some);
    const [from, to] = [start[c], start[c + 1]];
    for (let p = from; p < to; p++) {
      // a straight stretch goes on as the wheel before it ends
      const next = pointOf(position, p + 1 < to ? p + 1 : from);
      const way = subtract(vec3(), next, pointOf(position, p > from ? p - 1 : to - 1));
      tangent.set(normalize(way, way), 3 * p);
    }
    for (const arc of some.filter(({ first, last }) => last > first))
      for (let p = arc.first; p <= arc.last; p++) {
        const way = cross(vec3(), arc.axis, subtract(vec3(), pointOf(position, p), arc.centre));
        tangent.set(normalize(way, way), 3 * p);
      }
    for (let p = from; p < to; p++) {
      const t = pointOf(tangent, p);
      const out = cross(vec3(), t, axis);
      const lean = dot(out, t);
      normalize(out, subtract(vec3(), out, scale(vec3(), t, lean)));
      const roll = pointData[POINT.roll]?.[p] ?? 0;
      normal.set(roll === 0 ? out : turn(vec3(), out, t, roll), 3 * p);
    }
    return { rail: railOf(input, c, tangent, normal), arcs: some, axis, closed: true };
  });
  return { lines: input, frames: { tangent, normal, smooth: true }, rails };
}

function freeLines({ lines, tangent, up }: FramedLines): BeltLines {
  const rails = Array.from(
    lines.closed,
    (closed, c): BeltRail => ({ rail: railOf(lines, c, tangent, up), arcs: [], closed: closed === 1 }),
  );
  return { lines, frames: { tangent, normal: up }, rails };
}

/** A line as a rail; a closed one ends where it began. */
function railOf(
  { position, start, pointData, closed, curveData }: CurveSet,
  c: number,
  tangent: Float64Array,
  normal: Float64Array,
): Rail {
  const [from, to] = [start[c], start[c + 1]];
  const ring = closed[c] === 1;
  const round = <T extends Float64Array | Float32Array>(out: T, of: ArrayLike<number>): T => {
    for (let i = 0; i < 3 * (to - from); i++) out[i] = of[3 * from + i];
    if (ring) for (let n = 0; n < 3; n++) out[3 * (to - from) + n] = of[3 * from + n];
    return out;
  };
  const room = to - from + (ring ? 1 : 0);
  const along = new Float64Array(room);
  for (let p = from; p < to; p++) along[p - from] = pointData[POINT.along][p];
  if (ring) along[room - 1] = curveData['length'][c];
  return {
    position: round(new Float64Array(3 * room), position),
    tangent: round(new Float32Array(3 * room), tangent),
    outward: round(new Float32Array(3 * room), normal),
    along,
  };
}
