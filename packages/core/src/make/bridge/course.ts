import { type CurveSet, POINT, singleCurve } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { addScaled, distance, dot, type Vec3, vec3 } from '../../numeric/vector.js';

/** Places of the fine course that even steps are taken from, for each ring. */
const FINER = 8;

/** The middle line of a bridge: even steps with directions and frames. Flat xyz, one a ring. */
export interface Course {
  position: Float64Array;
  tangent: Float64Array;
  normal: Float64Array;
  binormal: Float64Array;
  /** Metres from the start, one a ring. */
  along: Float64Array;
  /** Share of its parameter, 0…1, one a ring. */
  share: Float64Array;
  length: number;
}

/**
 * A cubic Bézier curve that leaves one place in a direction and comes to another against one. At fullness 1 its handles
 * are (4/3)·tan(θ/4)·chord/(2 sin(θ/2)), θ the turn from one direction to the other: those of a circular arc where the
 * two fit one (any text on Bézier curves), a third of the chord where nothing turns.
 * @param rings how many places, both ends included
 */
export function courseOf(from: Vec3, leaving: Vec3, to: Vec3, coming: Vec3, fullness: number, rings: number): Course {
  const chord = distance(from, to);
  const turn = Math.acos(Math.max(-1, Math.min(1, dot(leaving, coming))));
  const handle =
    fullness * (turn < 1e-4 ? chord / 3 : ((4 / 3) * Math.tan(turn / 4) * chord) / (2 * Math.sin(turn / 2)));
  const places = [from, addScaled(vec3(), from, leaving, handle), addScaled(vec3(), to, coming, -handle), to];
  const at = (t: number, n: number) => {
    const s = 1 - t;
    return (
      s * s * s * places[0][n] + 3 * s * s * t * places[1][n] + 3 * s * t * t * places[2][n] + t * t * t * places[3][n]
    );
  };
  const slope = (t: number, n: number) => {
    const s = 1 - t;
    return (
      3 * s * s * (places[1][n] - places[0][n]) +
      6 * s * t * (places[2][n] - places[1][n]) +
      3 * t * t * (places[3][n] - places[2][n])
    );
  };
  const steps = FINER * (rings - 1);
  const walked = new Float64Array(steps + 1);
  for (let k = 1; k <= steps; k++) {
    const [a, b] = [(k - 1) / steps, k / steps];
    walked[k] = walked[k - 1] + Math.hypot(at(b, 0) - at(a, 0), at(b, 1) - at(a, 1), at(b, 2) - at(a, 2));
  }
  const length = walked[steps];
  const position = new Float64Array(3 * rings);
  const tangent = new Float64Array(3 * rings);
  const along = new Float64Array(rings);
  for (let i = 0, k = 0; i < rings; i++) {
    const s = (length * i) / (rings - 1);
    while (k < steps - 1 && walked[k + 1] < s) k++;
    const gap = walked[k + 1] - walked[k];
    const t = i === rings - 1 ? 1 : (k + (gap > 0 ? (s - walked[k]) / gap : 0)) / steps;
    along[i] = s;
    // at both ends the directions are those that were asked for, also where a handle has no length
    const way = i === 0 ? leaving : i === rings - 1 ? coming : [slope(t, 0), slope(t, 1), slope(t, 2)];
    const size = Math.hypot(way[0], way[1], way[2]) || 1;
    for (let n = 0; n < 3; n++) {
      position[3 * i + n] = at(t, n);
      tangent[3 * i + n] = way[n] / size;
    }
  }
  const { normal } = rotationMinimizingFrames(singleCurve(position, { smooth: true }), { tangent });
  const binormal = new Float64Array(3 * rings);
  for (let i = 0; i < 3 * rings; i += 3)
    for (let n = 0; n < 3; n++) {
      const [a, b] = [i + ((n + 1) % 3), i + ((n + 2) % 3)];
      binormal[i + n] = tangent[a] * normal[b] - tangent[b] * normal[a];
    }
  const share = Float64Array.from(along, (s) => (length > 0 ? s / length : 0));
  return { position, tangent, normal, binormal, along, share, length };
}

/** The middle lines as curves, with their lengths. */
export function guideOf(courses: readonly Course[], ids: readonly number[]): CurveSet {
  const total = courses.reduce((sum, { along }) => sum + along.length, 0);
  const guide: CurveSet = {
    start: Uint32Array.from([
      0,
      ...courses.map((_, c) => courses.slice(0, c + 1).reduce((sum, { along }) => sum + along.length, 0)),
    ]),
    position: new Float64Array(3 * total),
    closed: new Uint8Array(courses.length),
    id: Uint32Array.from(ids),
    pointData: { [POINT.along]: new Float32Array(total) },
    curveData: { length: Float32Array.from(courses, ({ length }) => length) },
  };
  courses.forEach(({ position, along }, c) => {
    guide.position.set(position, 3 * guide.start[c]);
    guide.pointData[POINT.along].set(along, guide.start[c]);
  });
  return guide;
}
