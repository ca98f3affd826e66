import { absentValue, type CurveSet, curveCount, POINT } from './curve-set.js';

/** Where a length along a curve falls: between points `a` and `b` of the block, at share `t`. */
export interface Spot {
  a: number;
  b: number;
  t: number;
}

/**
 * Finds the places of rising lengths along one curve in one go.
 * Open curves hold at their ends, closed ones go round; needs `along` (any resampled curve has it).
 */
export class SpotFinder {
  private readonly first: number;
  private readonly last: number;
  private p: number;

  constructor(
    private readonly curves: CurveSet,
    c: number,
    private readonly length: number,
  ) {
    this.first = curves.start[c];
    this.last = curves.start[c + 1] - 1;
    this.p = this.first;
    this.closed = curves.closed[c] === 1;
  }
  private readonly closed: boolean;

  at(wanted: number): Spot {
    const along = this.curves.pointData[POINT.along];
    const s = this.closed
      ? ((wanted % this.length) + this.length) % this.length
      : Math.min(this.length, Math.max(0, wanted));
    if (along[this.p] > s) this.p = this.first;
    while (this.p < this.last && along[this.p + 1] <= s) this.p++;
    const a = this.p;
    if (a === this.last && !this.closed) return { a, b: a, t: 0 };
    const b = a === this.last ? this.first : a + 1;
    const end = a === this.last ? this.length : along[a + 1];
    return { a, b, t: end > along[a] ? Math.min(1, (s - along[a]) / (end - along[a])) : 0 };
  }
}

/** Writes position and attributes of a spot to point `to` of `out`; marks are set only on the very point. */
export function writeSpot(curves: CurveSet, { a, b, t }: Spot, out: CurveSet, to: number): void {
  for (let n = 0; n < 3; n++)
    out.position[3 * to + n] =
      curves.position[3 * a + n] + t * (curves.position[3 * b + n] - curves.position[3 * a + n]);
  for (const name of Object.keys(out.pointData)) {
    const source = curves.pointData[name];
    const isMark = name === POINT.knot || name === POINT.corner || name === POINT.source;
    if (!source || name === POINT.along) continue;
    const onPoint = t < 1e-9 ? a : t > 1 - 1e-9 ? b : -1;
    if (isMark) out.pointData[name][to] = onPoint >= 0 ? source[onPoint] : absentValue(name);
    else out.pointData[name][to] = source[a] + t * (source[b] - source[a]);
  }
}

/** Copies of one set, each moved by its own rule, in one set. `ids(c, copy)` names the curves. */
export function copyCurves(
  curves: CurveSet,
  copies: number,
  move: (x: number, y: number, z: number, copy: number, out: Float64Array, at: number) => void,
  ids: (id: number, copy: number) => number,
): CurveSet {
  const count = curveCount(curves);
  const points = curves.position.length / 3;
  const repeat = (data: Float32Array) => {
    const out = new Float32Array(data.length * copies);
    for (let k = 0; k < copies; k++) out.set(data, k * data.length);
    return out;
  };
  const each = (data: Record<string, Float32Array>) =>
    Object.fromEntries(Object.entries(data).map(([name, values]) => [name, repeat(values)]));
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
