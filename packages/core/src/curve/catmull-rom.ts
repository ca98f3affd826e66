import { distanceAt } from '../numeric/vector.js';
import { allocateCurves, type CurveSet, POINT } from './curve-set.js';

/** The points an artist put down, as flat arrays. */
export interface ControlPoints {
  /** Flat xyz, metres. */
  position: Float64Array;
  /** 1 where the line turns sharply, 0 where it runs smoothly. */
  corner: Uint8Array;
  /** Thickness share at each point, 1 = as set. */
  radius: Float32Array;
  /** Turn of the section at each point, radians; absent means none. */
  roll?: Float32Array;
  closed: boolean;
  id: number;
}

/** Fine samples per span between two points: a turn of 90° gets 6° steps. */
const SAMPLES_PER_SPAN = 16;

/**
 * Centripetal Catmull-Rom curve (α = ½) through all points: no cusp and no self-crossing inside a span (Yuksel,
 * Schaefer, Keyser: Parameterization and applications of Catmull-Rom curves, CAD 43, 2011). Corners end a smooth run;
 * a run of two points is straight. Evaluated with the pyramid of Barry and Goldman (SIGGRAPH 1988).
 * Points in the same place as their neighbour are passed over. Fewer than two places give a CurveSet without curves.
 */
export function catmullRom(points: ControlPoints): CurveSet {
  const kept = distinctPoints(points);
  const count = kept.length;
  if (count < 2) return allocateCurves(0, 0);
  const closed = points.closed && count > 2;
  const spans = closed ? count : count - 1;
  const total = spans * SAMPLES_PER_SPAN + (closed ? 0 : 1);
  const out = allocateCurves(1, total, [
    POINT.knot,
    POINT.corner,
    POINT.radius,
    POINT.source,
    ...(points.roll ? [POINT.roll] : []),
  ]);
  out.start[1] = total;
  out.closed[0] = closed ? 1 : 0;
  out.id[0] = points.id;
  const { knot, corner, radius, source } = out.pointData;
  const at = (k: number) => kept[(k + count) % count];
  for (let s = 0; s < spans; s++) {
    const p1 = at(s);
    const p2 = at(s + 1);
    const p0 = points.corner[p1] || (!closed && s === 0) ? -1 : at(s - 1);
    const p3 = points.corner[p2] || (!closed && s === spans - 1) ? -1 : at(s + 2);
    const samples = s === spans - 1 && !closed ? SAMPLES_PER_SPAN + 1 : SAMPLES_PER_SPAN;
    for (let k = 0; k < samples; k++) {
      const q = s * SAMPLES_PER_SPAN + k;
      const t = k / SAMPLES_PER_SPAN;
      spanPoint(points.position, p0, p1, p2, p3, t, out.position, 3 * q);
      radius[q] = points.radius[p1] + (points.radius[p2] - points.radius[p1]) * t;
      if (points.roll) out.pointData[POINT.roll][q] = points.roll[p1] + (points.roll[p2] - points.roll[p1]) * t;
      const onPoint = k === 0 ? p1 : k === SAMPLES_PER_SPAN ? p2 : -1;
      source[q] = onPoint;
      knot[q] = onPoint >= 0 ? 1 : 0;
      corner[q] = onPoint >= 0 ? points.corner[onPoint] : 0;
    }
  }
  return out;
}

function distinctPoints({ position, closed }: ControlPoints): number[] {
  const same = (a: number, b: number) => distanceAt(position, a, b) < 1e-9;
  const kept: number[] = [];
  for (let i = 0; i < position.length / 3; i++) if (kept.length === 0 || !same(i, kept[kept.length - 1])) kept.push(i);
  while (closed && kept.length > 1 && same(kept[0], kept[kept.length - 1])) kept.pop();
  return kept;
}

/** Point at share `t` of the span p1…p2; p0 or p3 below 0 means the run ends there: it leaves straight. */
function spanPoint(
  position: Float64Array,
  p0: number,
  p1: number,
  p2: number,
  p3: number,
  t: number,
  out: Float64Array,
  at: number,
): void {
  const t01 = p0 < 0 ? knotStep(position, p1, p2) : knotStep(position, p0, p1);
  const t12 = knotStep(position, p1, p2);
  const t23 = p3 < 0 ? knotStep(position, p1, p2) : knotStep(position, p2, p3);
  const t1 = t01;
  const t2 = t1 + t12;
  const t3 = t2 + t23;
  const u = t1 + t * t12;
  for (let axis = 0; axis < 3; axis++) {
    const b = position[3 * p1 + axis];
    const c = position[3 * p2 + axis];
    const a = p0 < 0 ? 2 * b - c : position[3 * p0 + axis];
    const d = p3 < 0 ? 2 * c - b : position[3 * p3 + axis];
    const a1 = (a * (t1 - u) + b * u) / t1;
    const a2 = (b * (t2 - u) + c * (u - t1)) / t12;
    const a3 = (c * (t3 - u) + d * (u - t2)) / t23;
    const b1 = (a1 * (t2 - u) + a2 * u) / t2;
    const b2 = (a2 * (t3 - u) + a3 * (u - t1)) / (t3 - t1);
    out[at + axis] = (b1 * (t2 - u) + b2 * (u - t1)) / t12;
  }
}

/** Knot interval of the centripetal parameterization: the square root of the distance. */
const knotStep = (position: Float64Array, a: number, b: number): number => Math.sqrt(distanceAt(position, a, b));
