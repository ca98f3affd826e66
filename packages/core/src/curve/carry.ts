import {
  absentValue,
  allocateCurves,
  CURVE,
  type CurveData,
  type CurveSet,
  curveCount,
  POINT,
  pointCount,
} from './curve-set.js';
import type { Spot } from './walk.js';

// How an operation treats what a curve carries: in one place, so that none drops an attribute.

/** They mark a place: they hold on that very point and are not blended in between. */
const MARKS: ReadonlySet<string> = new Set([
  POINT.knot,
  POINT.corner,
  POINT.source,
  POINT.wheel,
  POINT.wheelRound,
  POINT.wheelOff,
]);
/** Follow from the shape: whoever changes it writes them anew. */
const DERIVED: ReadonlySet<string> = new Set([POINT.along]);

/** Names of the point attributes that an operation hands on. */
export const carriedNames = ({ pointData }: CurveSet): string[] =>
  Object.keys(pointData).filter((name) => !DERIVED.has(name));

/** Room for other curves that carry what these carry, with as many numbers each. */
export function roomLike(from: CurveSet, curves: number, points: number, further: readonly string[] = []): CurveSet {
  const out = allocateCurves(curves, points, [
    ...further.filter((name) => !from.pointData[name]),
    ...carriedNames(from),
  ]);
  const had = pointCount(from);
  for (const name of carriedNames(from)) {
    const size = had > 0 ? from.pointData[name].length / had : 1;
    if (size > 1) out.pointData[name] = new Float32Array(size * points);
  }
  return out;
}

/** Where each point of other curves comes from: between points `a` and `b`, at share `t`. One entry a point. */
export interface Spots {
  a: Uint32Array;
  b: Uint32Array;
  t: Float64Array;
}

export function spotsOf(spots: readonly Spot[]): Spots {
  return {
    a: Uint32Array.from(spots, ({ a }) => a),
    b: Uint32Array.from(spots, ({ b }) => b),
    t: Float64Array.from(spots, ({ t }) => t),
  };
}

/** Writes every attribute of `out` from the places its points come from. What `from` lacks is absent. */
export function carryPoints(from: CurveSet, spots: Spots, out: CurveSet): void {
  for (const name of carriedNames(out)) carryAttribute(name, from, spots, out);
}

function carryAttribute(name: string, from: CurveSet, { a, b, t }: Spots, out: CurveSet): void {
  const source = from.pointData[name];
  const data = out.pointData[name];
  const absent = absentValue(name);
  if (!source) {
    data.fill(absent);
    return;
  }
  if (MARKS.has(name)) {
    for (let p = 0; p < data.length; p++)
      data[p] = t[p] < 1e-9 ? source[a[p]] : t[p] > 1 - 1e-9 ? source[b[p]] : absent;
    return;
  }
  const size = data.length / a.length;
  if (size === 1) {
    for (let p = 0; p < data.length; p++) {
      const value = source[a[p]];
      const by = name === POINT.roll ? rollStep(source, a[p], b[p]) : source[b[p]] - value;
      data[p] = value + t[p] * by;
    }
    return;
  }
  for (let p = 0; p < a.length; p++)
    for (let k = 0; k < size; k++) {
      const value = source[size * a[p] + k];
      data[size * p + k] = value + t[p] * (source[size * b[p] + k] - value);
    }
}

/** Writes position and attributes of places between points: straight from one to the other. */
export function carrySpots(from: CurveSet, spots: Spots, out: CurveSet): void {
  const { a, b, t } = spots;
  for (let p = 0; p < a.length; p++)
    for (let n = 0; n < 3; n++) {
      const value = from.position[3 * a[p] + n];
      out.position[3 * p + n] = value + t[p] * (from.position[3 * b[p] + n] - value);
    }
  carryPoints(from, spots, out);
}

/** Curve attributes of other curves, each of which comes from `source[k]` of `from`. True lengths are not handed on. */
export function carryCurves(from: CurveSet, source: ArrayLike<number>): Record<string, CurveData> {
  const had = curveCount(from);
  return Object.fromEntries(
    Object.entries(from.curveData)
      .filter(([name]) => name !== CURVE.length)
      .map(([name, data]) => {
        const size = had > 0 ? data.length / had : 1;
        const out =
          data instanceof Uint32Array ? new Uint32Array(size * source.length) : new Float32Array(size * source.length);
        for (let k = 0; k < source.length; k++)
          for (let n = 0; n < size; n++) out[size * k + n] = data[size * source[k] + n];
        return [name, out];
      }),
  );
}

/** The same for curves of which each comes from the one with its number. */
export const copiedCurveData = ({ curveData }: CurveSet): Record<string, CurveData> =>
  Object.fromEntries(
    Object.entries(curveData)
      .filter(([name]) => name !== CURVE.length)
      .map(([name, data]) => [name, data.slice()]),
  );

/** Some curves of a set, in the given order, with all they carry. */
export function pickCurves(curves: CurveSet, wanted: readonly number[]): CurveSet {
  const points = wanted.reduce((sum, c) => sum + curves.start[c + 1] - curves.start[c], 0);
  const out = roomLike(curves, wanted.length, points);
  const along = curves.pointData[POINT.along];
  if (along) out.pointData[POINT.along] = new Float32Array(points);
  let to = 0;
  wanted.forEach((c, k) => {
    const [first, end] = [curves.start[c], curves.start[c + 1]];
    out.position.set(curves.position.subarray(3 * first, 3 * end), 3 * to);
    for (const [name, data] of Object.entries(curves.pointData)) {
      const size = data.length / (curves.position.length / 3);
      out.pointData[name].set(data.subarray(size * first, size * end), size * to);
    }
    to += end - first;
    out.start[k + 1] = to;
    out.closed[k] = curves.closed[c];
    out.id[k] = curves.id[c];
  });
  out.curveData = carryCurves(curves, wanted);
  const length = curves.curveData[CURVE.length];
  if (length) out.curveData[CURVE.length] = Float32Array.from(wanted, (c) => length[c]);
  return out;
}

/** All curves of several sets in one. What one set lacks is absent there; lengths are kept where all have them. */
export function joinCurves(sets: readonly CurveSet[]): CurveSet {
  if (sets.length === 1) return sets[0];
  const curveTotal = sets.reduce((sum, set) => sum + curveCount(set), 0);
  const pointTotal = sets.reduce((sum, set) => sum + pointCount(set), 0);
  const out = allocateCurves(curveTotal, pointTotal);
  for (const set of sets)
    for (const [name, data] of Object.entries(set.pointData)) {
      const size = pointCount(set) > 0 ? data.length / pointCount(set) : 1;
      if ((out.pointData[name]?.length ?? -1) < size * pointTotal)
        out.pointData[name] = new Float32Array(size * pointTotal).fill(absentValue(name));
    }
  for (const set of sets)
    for (const [name, data] of Object.entries(set.curveData)) {
      if (name === CURVE.length && !sets.every((other) => other.curveData[name])) continue;
      const size = curveCount(set) > 0 ? data.length / curveCount(set) : 1;
      out.curveData[name] ??=
        data instanceof Uint32Array ? new Uint32Array(size * curveTotal) : new Float32Array(size * curveTotal);
    }
  let c = 0;
  let p = 0;
  for (const set of sets) {
    for (let i = 0; i < curveCount(set); i++) out.start[c + i] = set.start[i] + p;
    out.position.set(set.position, 3 * p);
    out.closed.set(set.closed, c);
    out.id.set(set.id, c);
    for (const [name, data] of Object.entries(set.pointData)) {
      const size = out.pointData[name].length / (pointTotal || 1);
      if (data.length === size * pointCount(set)) out.pointData[name].set(data, size * p);
    }
    for (const [name, data] of Object.entries(set.curveData))
      out.curveData[name]?.set(data, (out.curveData[name].length / (curveTotal || 1)) * c);
    c += curveCount(set);
    p += pointCount(set);
  }
  out.start[curveTotal] = pointTotal;
  return out;
}

/** Copies of one set, each moved by its own rule, in one set. `ids(id, copy)` names the curves. */
export function copyCurves(
  curves: CurveSet,
  copies: number,
  move: (x: number, y: number, z: number, copy: number, out: Float64Array, at: number) => void,
  ids: (id: number, copy: number) => number,
): CurveSet {
  const count = curveCount(curves);
  const points = pointCount(curves);
  const repeated = <T extends CurveData>(data: T): T => {
    const out = new (data.constructor as new (size: number) => T)(data.length * copies);
    for (let k = 0; k < copies; k++) out.set(data, k * data.length);
    return out;
  };
  const each = <T extends CurveData>(data: Record<string, T>) =>
    Object.fromEntries(Object.entries(data).map(([name, values]) => [name, repeated(values)]));
  const out: CurveSet = {
    start: new Uint32Array(count * copies + 1),
    position: new Float64Array(3 * points * copies),
    closed: new Uint8Array(count * copies),
    id: new Uint32Array(count * copies),
    pointData: each(curves.pointData),
    curveData: each(curves.curveData),
  };
  for (let k = 0; k < copies; k++) {
    for (let c = 0; c < count; c++) {
      out.start[k * count + c + 1] = k * points + curves.start[c + 1];
      out.closed[k * count + c] = curves.closed[c];
      out.id[k * count + c] = ids(curves.id[c], k);
    }
    for (let i = 0; i < 3 * points; i += 3)
      move(curves.position[i], curves.position[i + 1], curves.position[i + 2], k, out.position, 3 * k * points + i);
  }
  return out;
}

/** How far the section turns from point `a` to point `b`, radians: over the seam of a closed line the shorter way. */
export function rollStep(roll: Float32Array, a: number, b: number): number {
  const by = roll[b] - roll[a];
  return b < a ? by - 2 * Math.PI * Math.round(by / (2 * Math.PI)) : by;
}
