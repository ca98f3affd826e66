import { type CurveSet, POINT } from '../../curve/curve-set.js';
import {
  addScaled,
  cross,
  distance,
  dot,
  length,
  normalize,
  pointOf,
  scale,
  subtract,
  type Vec3,
  vec3,
} from '../../numeric/vector.js';

/** A wheel of a line: found from its own points, so that it follows wherever the line was moved. */
export interface WheelArc {
  /** Its number in the list of wheels, from 0. */
  number: number;
  /** It is a prop: none is made. */
  there: boolean;
  centre: Vec3;
  /** The line goes round it counter-clockwise, seen against this. Unit. */
  axis: Vec3;
  /** Of the line, metres. */
  radius: number;
  /** How far it stays off the line: above 0 it is not touched. */
  off: number;
  /** First and last point on it. */
  first: number;
  last: number;
  /** Metres along the line where it runs onto it, and how far it is led round, radians. */
  along: number;
  turn: number;
}

/** Points that say of less than this share of a turn that they go round tell nothing of the circle. */
const MIN_TURN = 1e-3;

/** The wheels of one line, in the order in which it meets them. */
export function wheelArcs({ start, position, pointData, closed }: CurveSet, c: number): WheelArc[] {
  const [mark, round, off, along] = [POINT.wheel, POINT.wheelRound, POINT.wheelOff, POINT.along].map(
    (name) => pointData[name],
  );
  if (!mark || !round || !off || !along || !closed[c]) return [];
  const out: WheelArc[] = [];
  for (let first = start[c]; first < start[c + 1]; ) {
    let last = first;
    while (last + 1 < start[c + 1] && mark[last + 1] === mark[first]) last++;
    if (mark[first] !== 0) {
      const one = {
        number: Math.abs(mark[first]) - 1,
        there: mark[first] < 0,
        off: off[first],
        first,
        last,
        along: along[first],
      };
      const turn = (along[last] - along[first]) / Math.abs(round[first]);
      const middle = (first + last) >> 1;
      const circle =
        turn > MIN_TURN
          ? circleThrough(pointOf(position, first), pointOf(position, middle), pointOf(position, last))
          : undefined;
      out.push({ ...one, turn, ...(circle ?? { centre: vec3(), axis: vec3(), radius: Math.abs(round[first]) }) });
    }
    first = last + 1;
  }
  const axis = commonAxis(out);
  // what is only touched, or passed, stands square to the line in the plane of the others
  for (const arc of out) {
    if (length(arc.axis) > 0) continue;
    const count = start[c + 1] - start[c];
    const beside = (by: number) => pointOf(position, start[c] + ((arc.first - start[c] + by + count) % count));
    const way = subtract(vec3(), beside(1), beside(-1));
    const outward = normalize(vec3(), cross(vec3(), way, axis));
    const side = Math.sign(round[arc.first]);
    addScaled(arc.centre, pointOf(position, arc.first), outward, -side * (arc.radius + arc.off));
    scale(arc.axis, axis, side);
  }
  return out;
}

/** The circle through three places, and the way about which they follow each other counter-clockwise. */
function circleThrough(a: Vec3, b: Vec3, c: Vec3): { centre: Vec3; axis: Vec3; radius: number } | undefined {
  const u = subtract(vec3(), b, a);
  const v = subtract(vec3(), c, a);
  const axis = cross(vec3(), u, v);
  const area = dot(axis, axis);
  if (!(area > 0)) return undefined;
  // a + (|v|² (u × v) × u + |u|² v × (u × v)) / 2 |u × v|²
  const one = cross(vec3(), axis, u);
  const two = cross(vec3(), v, axis);
  const to = addScaled(vec3(), scale(vec3(), one, dot(v, v)), two, dot(u, u));
  const centre = addScaled(vec3(), a, to, 1 / (2 * area));
  // places on a circle make a triangle that turns as they follow each other
  return { centre, radius: distance(centre, a), axis: normalize(axis, axis) };
}

const UP: Vec3 = [0, 0, 1];

/** The way about which the whole goes round counter-clockwise; of a crossed one, that of its first wheel. Unit. */
export function commonAxis(arcs: readonly WheelArc[]): Vec3 {
  const out = vec3();
  for (const { axis, turn } of arcs) addScaled(out, out, axis, turn);
  return length(out) > 1e-3 ? normalize(out, out) : [...(arcs.find(({ turn }) => turn > MIN_TURN)?.axis ?? UP)];
}
