import { normalize, pointOf, set, subtract, type Vec3 } from '../numeric/vector.js';

/** Where a length along a curve falls: between points `a` and `b` of the block, at share `t`. */
export interface Spot {
  a: number;
  b: number;
  t: number;
}

/** Curves as far as walking goes: a CurveSet, or what the page has of one. */
export interface Walkable {
  position: ArrayLike<number>;
  start: ArrayLike<number>;
  closed: ArrayLike<number>;
}

/**
 * The one way along a line: one curve of a set, by metres from its start. An open curve holds at its ends, a closed one
 * goes round, its closing edge included. Walking on from where it was costs next to nothing.
 */
export class Walk {
  /** Whole length, metres. */
  readonly length: number;
  /** Distance from the start at each of the curve's points. */
  readonly at: ArrayLike<number>;
  readonly first: number;
  private readonly count: number;
  private readonly closed: boolean;
  private p = 0;

  /** @param known distances that are known already, true lengths rather than chords: one a point of the block, and the whole */
  constructor(
    private readonly curves: Walkable,
    c = 0,
    known?: { along: Float32Array; length: number },
  ) {
    const { position, start, closed } = curves;
    this.first = start[c] ?? 0;
    this.count = (start[c + 1] ?? 0) - this.first;
    this.closed = closed[c] === 1;
    if (known) {
      this.at = known.along.subarray(this.first, this.first + this.count);
      this.length = known.length;
      return;
    }
    const at = new Float64Array(Math.max(0, this.count));
    const step = (p: number, q: number) => {
      const [i, j] = [3 * (this.first + p), 3 * (this.first + q)];
      const x = position[j] - position[i];
      const y = position[j + 1] - position[i + 1];
      const z = position[j + 2] - position[i + 2];
      return Math.sqrt(x * x + y * y + z * z);
    };
    for (let p = 1; p < this.count; p++) at[p] = at[p - 1] + step(p - 1, p);
    this.at = at;
    const last = this.count - 1;
    this.length = this.count > 0 ? at[last] + (this.closed ? step(last, 0) : 0) : 0;
  }

  /** Where this many metres from the start are. */
  spot(metres: number): Spot {
    const { at, length, closed, count, first } = this;
    const last = count - 1;
    const s = closed && length > 0 ? ((metres % length) + length) % length : Math.min(length, Math.max(0, metres));
    if (at[this.p] > s) this.p = 0;
    while (this.p < last && at[this.p + 1] <= s) this.p++;
    const a = this.p;
    if (a === last && !closed) return { a: first + a, b: first + a, t: 0 };
    const b = a === last ? 0 : a + 1;
    const end = a === last ? length : at[b];
    return { a: first + a, b: first + b, t: end > at[a] ? Math.min(1, (s - at[a]) / (end - at[a])) : 0 };
  }

  /** out = the place this many metres from the start. */
  pointAt(metres: number, out: Vec3): Vec3 {
    const { a, b, t } = this.spot(metres);
    const { position: x } = this.curves;
    return set(
      out,
      x[3 * a] + t * (x[3 * b] - x[3 * a]),
      x[3 * a + 1] + t * (x[3 * b + 1] - x[3 * a + 1]),
      x[3 * a + 2] + t * (x[3 * b + 2] - x[3 * a + 2]),
    );
  }

  /** out = unit direction of the edge there; at an end, of the last edge that has a length. */
  directionAt(metres: number, out: Vec3): Vec3 {
    const { count, first, closed } = this;
    const { position } = this.curves;
    const { a } = this.spot(metres);
    const edges = closed ? count : count - 1;
    for (let k = 0; k < edges; k++) {
      // forwards from the spot, then from its other side
      const p = Math.min(a - first, edges - 1);
      const i = k <= p ? p - k : k;
      const [from, to] = [first + i, first + ((i + 1) % count)];
      subtract(out, pointOf(position, to), pointOf(position, from));
      if (out[0] !== 0 || out[1] !== 0 || out[2] !== 0) return normalize(out, out);
    }
    return set(out, 0, 0, 1);
  }
}
