import type { Mesh } from '../../mesh/mesh.js';
import type { Rings } from '../rings.js';

/** A place folds where it goes on by less than such a share of the line's own step. */
const FOLDED = 0.02;
/** A crease is a little round: over such a share of what was folded to either side. */
const ROUND = 0.12;

/** Rings from one corner to the next; of a closed line without corners all, its seam once. */
export interface Leg {
  first: number;
  count: number;
  round: boolean;
  /** Steps that may fold, from each of these rings to the next, rising. */
  tight: readonly number[];
}

/** The ring at a place of a leg. */
export const ringOf = ({ first, count, round }: Leg, k: number): number =>
  first + (round ? ((k % count) + count) % count : k);

/** A stretch of a column that runs back on itself: from one place of the leg to another, which may lie between two rings. */
export interface Fold {
  from: number;
  to: number;
  /** Gathered in a crease its places go on along the line: no face is inside out. Not so where the line turns back. */
  creases: boolean;
}

/**
 * The places of one column of a section along a leg. In a tight bend it runs back on itself and forth again: a place p from
 * the curve goes on by 1 − κ·p of the curve's own step, κ the curvature vector (the swallowtail of an offset curve, any text
 * on these).
 */
export class Column {
  private readonly leg: Leg;
  private readonly rings: Rings;
  private readonly center: Float64Array;
  private readonly columns: number;
  private readonly column: number;
  private readonly mesh: Mesh;

  constructor(leg: Leg, rings: Rings, center: Float64Array, columns: number, column: number, mesh: Mesh) {
    this.leg = leg;
    this.rings = rings;
    this.center = center;
    this.columns = columns;
    this.column = column;
    this.mesh = mesh;
  }

  /** All stretches that fold. */
  folds(): Fold[] {
    const out: Fold[] = [];
    const { count, round, tight } = this.leg;
    const steps = round ? count : count - 1;
    let seen = -1;
    for (const k of tight) {
      if (k <= seen || this.onwards(k) >= FOLDED) continue;
      let end = k + 1;
      while (end < (round ? k + count : steps) && this.onwards(end) < FOLDED) end++;
      const fold = this.foldAround(k, end);
      // two that reach into each other are one: each alone would gather the places between them beyond the other's
      while (out.length > 0 && out[out.length - 1].to > fold.from)
        this.widen(fold, out.pop()?.from ?? fold.from, fold.to);
      out.push(fold);
      seen = Math.max(k, Math.ceil(fold.to) - 1);
    }
    const [first, last] = [out[0], out[out.length - 1]];
    if (round && out.length > 1 && last.to > first.from + count) {
      out.shift();
      this.widen(last, last.from, Math.max(last.to, first.to + count));
    }
    return out;
  }

  private widen(fold: Fold, from: number, to: number): void {
    fold.from = Math.min(fold.from, from);
    fold.to = to;
    fold.creases = this.goesOn(fold.from, to);
  }

  private ring(k: number): number {
    return ringOf(this.leg, k);
  }

  /** A number of the mesh at a place of the column, which may lie between two rings. */
  private at(array: Float32Array, at: number, n: number): number {
    const k = Math.floor(at);
    const value = (one: number) => array[3 * (this.ring(one) * this.columns + this.column) + n];
    return at === k ? value(k) : value(k) + (at - k) * (value(k + 1) - value(k));
  }

  /** How far a place goes on to the next ring, along the line there, as a share of the line's own step. */
  private onwards(k: number): number {
    const { position } = this.mesh;
    const [r, s] = [this.ring(k), this.ring(k + 1)];
    const [p, q] = [3 * this.rings.point[r], 3 * this.rings.point[s]];
    const [i, j] = [3 * (r * this.columns + this.column), 3 * (s * this.columns + this.column)];
    let gone = 0;
    let size = 0;
    for (let n = 0; n < 3; n++) {
      const step = this.center[q + n] - this.center[p + n];
      gone += step * (position[j + n] - position[i + n]);
      size += step * step;
    }
    // two rings stand at one place on a hard edge
    return size > 0 ? gone / size : 1;
  }

  /** By how much the place at `b` lies before that at `a`, along the way of the line from one to the other. */
  private apart(a: number, b: number): number {
    const { point } = this.rings;
    const along = (from: number, n: number) => {
      const k = Math.floor(from);
      return this.center[3 * point[this.ring(k + 1)] + n] - this.center[3 * point[this.ring(k)] + n];
    };
    let gone = 0;
    for (let n = 0; n < 3; n++)
      gone +=
        (along(Math.max(this.least, a - 1), n) + along(Math.min(this.most - 1, b), n)) *
        (this.at(this.mesh.position, b, n) - this.at(this.mesh.position, a, n));
    return gone;
  }

  private get least(): number {
    return this.leg.round ? Number.NEGATIVE_INFINITY : 0;
  }

  private get most(): number {
    return this.leg.round ? Number.POSITIVE_INFINITY : this.leg.count - 1;
  }

  /** From where the column meets itself on its way in to where it does so on its way out, about what runs back. */
  private foldAround(from: number, to: number): Fold {
    const most = this.leg.count - 2;
    let [a, b] = [from, to];
    let before = this.apart(a, b);
    // out to both sides until the way in and the way out have passed each other
    while (before < 0 && b - a < most) {
      const [wideA, wideB] = [Math.max(this.least, a - 1), Math.min(this.most, b + 1)];
      const now = this.apart(wideA, wideB);
      if (wideA === a && wideB === b) break;
      if (now >= 0) {
        const share = before / (before - now);
        a += share * (wideA - a);
        b += share * (wideB - b);
        break;
      }
      [a, b, before] = [wideA, wideB, now];
    }
    const rounded = ROUND * (b - a);
    [a, b] = [Math.max(this.least, a - rounded), Math.min(this.most, b + rounded)];
    return { from: a, to: b, creases: this.goesOn(a, b) };
  }

  /** Whether the straight way between two places goes on along every step of the line between them. */
  private goesOn(a: number, b: number): boolean {
    const way = [0, 1, 2].map((n) => this.at(this.mesh.position, b, n) - this.at(this.mesh.position, a, n));
    const { point } = this.rings;
    for (let k = Math.floor(a); k < Math.ceil(b); k++) {
      const [p, q] = [3 * point[this.ring(k)], 3 * point[this.ring(k + 1)]];
      let gone = 0;
      for (let n = 0; n < 3; n++) gone += (this.center[q + n] - this.center[p + n]) * way[n];
      if (gone <= 0) return false;
    }
    return true;
  }

  /** Gathers a fold in its crease: all its places evenly on the straight way across it. */
  crease({ from: a, to: b }: Fold): void {
    const { position, normal } = this.mesh;
    const ends = [position, normal].map((array) =>
      [0, 1, 2].map((n) => [this.at(array, a, n), this.at(array, b, n)] as const),
    );
    for (let k = Math.ceil(a); k <= Math.floor(b); k++) {
      const t = (k - a) / (b - a);
      const i = 3 * (this.ring(k) * this.columns + this.column);
      let size = 0;
      for (let n = 0; n < 3; n++) {
        position[i + n] = ends[0][n][0] + t * (ends[0][n][1] - ends[0][n][0]);
        normal[i + n] = ends[1][n][0] + t * (ends[1][n][1] - ends[1][n][0]);
        size += normal[i + n] ** 2;
      }
      for (let n = 0; n < 3; n++) normal[i + n] /= Math.sqrt(size) || 1;
    }
  }
}
