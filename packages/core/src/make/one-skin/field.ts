import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import type { Limbs } from '../limbs.js';

/** Beyond this many fillets a limb no longer counts for what is round another one. */
const FADES = 4;
/** Cells are this much of what a limb can be felt over: smaller ones hold fewer steps each, but each step is in more. */
const CELL = 0.4;

/** Steps in cells at most, all together. */
const MAX_ENTRIES = 12_000_000;

/** Where on which limb a place is nearest to the skin. */
export interface Nearest {
  limb: number;
  /** The point before it, and how far on to the next. */
  point: number;
  next: number;
  t: number;
}

/**
 * How far inside its nearest limb a place is, limbs running into each other where they meet: the smooth union
 * −k·ln Σ exp(−dᵢ/k) of the distances to each (log-sum-exp: Boyd, Vandenberghe, Convex Optimization, 2004, section 3.1.5; in
 * whatever order it is the same). Within one limb the nearest step alone counts, so that it is as thick as it was said to be.
 */
export class LimbField {
  /** Steps of the limbs: flat from xyz, way xyz, 1 / squared length, radius, by how much that changes; and whose they are. */
  private readonly step: Float64Array;
  private readonly limb: Uint32Array;
  private readonly point: Uint32Array;
  private readonly next: Uint32Array;
  /** Steps by the cells they can be felt in. */
  private readonly cells = new Map<number, number[]>();
  private readonly size: number;
  private readonly reach: number;
  /** How far on its step the place is that was asked for last. */
  private t = 0;
  /** Limbs that can be felt in one cell hang together. */
  private readonly parent: Uint32Array;

  /**
   * @param blend fillet, metres
   * @param least nothing is thinner, metres: thinner than a cell of what is sampled it would be lost
   */
  constructor(
    limbs: Limbs,
    private readonly blend: number,
    least: number,
  ) {
    const { curves, radius } = limbs;
    const { from, to, of } = stepsOf(curves);
    this.limb = of;
    this.point = from;
    this.next = to;
    this.step = new Float64Array(9 * from.length);
    this.parent = Uint32Array.from({ length: curveCount(curves) }, (_, c) => c);
    this.reach = FADES * blend + 2 * least;
    let wide = 0;
    for (let s = 0; s < from.length; s++) {
      const [i, j] = [3 * from[s], 3 * to[s]];
      const o = 9 * s;
      let squared = 0;
      for (let n = 0; n < 3; n++) {
        this.step[o + n] = curves.position[i + n];
        this.step[o + 3 + n] = curves.position[j + n] - curves.position[i + n];
        squared += this.step[o + 3 + n] ** 2;
      }
      const [a, b] = [Math.max(least, radius[from[s]]), Math.max(least, radius[to[s]])];
      this.step[o + 6] = squared > 0 ? 1 / squared : 0;
      this.step[o + 7] = a;
      this.step[o + 8] = b - a;
      wide += Math.max(a, b) + Math.sqrt(squared) / 2;
    }
    this.size = this.fitting(CELL * (this.reach + wide / Math.max(1, from.length)));
    for (let s = 0; s < from.length; s++) this.enter(s);
  }

  /** The size of a cell, or as much larger that all steps together are not in more cells than there is memory for. */
  private fitting(size: number): number {
    let entries = 0;
    for (let o = 0; o < this.step.length; o += 9) {
      const room = 2 * (Math.max(this.step[o + 7], this.step[o + 7] + this.step[o + 8]) + this.reach);
      entries += [3, 4, 5].reduce((all, n) => all * (1 + (Math.abs(this.step[o + n]) + room) / size), 1);
    }
    return entries > MAX_ENTRIES ? size * Math.cbrt(entries / MAX_ENTRIES) : size;
  }

  private enter(s: number): void {
    const o = 9 * s;
    const room = Math.max(this.step[o + 7], this.step[o + 7] + this.step[o + 8]) + this.reach;
    const low = [0, 1, 2].map((n) =>
      Math.floor((this.step[o + n] + Math.min(0, this.step[o + 3 + n]) - room) / this.size),
    );
    const high = [0, 1, 2].map((n) =>
      Math.floor((this.step[o + n] + Math.max(0, this.step[o + 3 + n]) + room) / this.size),
    );
    for (let x = low[0]; x <= high[0]; x++)
      for (let y = low[1]; y <= high[1]; y++)
        for (let z = low[2]; z <= high[2]; z++) {
          // the box round a step has corners that are far from it
          if (
            this.off(o, (x + 0.5) * this.size, (y + 0.5) * this.size, (z + 0.5) * this.size) >
            this.reach + 0.87 * this.size
          )
            continue;
          const key = keyOf(x, y, z);
          const there = this.cells.get(key);
          if (!there) this.cells.set(key, [s]);
          else {
            this.parent[this.root(this.limb[s])] = this.root(this.limb[there[there.length - 1]]);
            there.push(s);
          }
        }
  }

  /** How far outside the skin of one step a place is, metres. */
  private off(o: number, x: number, y: number, z: number): number {
    const { step } = this;
    const [px, py, pz] = [x - step[o], y - step[o + 1], z - step[o + 2]];
    let t = (px * step[o + 3] + py * step[o + 4] + pz * step[o + 5]) * step[o + 6];
    if (t < 0) t = 0;
    else if (t > 1) t = 1;
    this.t = t;
    const [qx, qy, qz] = [px - t * step[o + 3], py - t * step[o + 4], pz - t * step[o + 5]];
    return Math.sqrt(qx * qx + qy * qy + qz * qz) - step[o + 7] - t * step[o + 8];
  }

  private root(limb: number): number {
    while (this.parent[limb] !== limb) {
      this.parent[limb] = this.parent[this.parent[limb]];
      limb = this.parent[limb];
    }
    return limb;
  }

  /** Limbs that can run into each other, each group with its box: all in one box would be mostly air. */
  groups(): { limbs: Set<number>; min: [number, number, number]; max: [number, number, number] }[] {
    const out = new Map<number, { limbs: Set<number>; min: [number, number, number]; max: [number, number, number] }>();
    for (let s = 0; s < this.limb.length; s++) {
      const root = this.root(this.limb[s]);
      const group = out.get(root) ?? {
        limbs: new Set(),
        min: [Infinity, Infinity, Infinity],
        max: [-Infinity, -Infinity, -Infinity],
      };
      out.set(root, group);
      group.limbs.add(this.limb[s]);
      const o = 9 * s;
      const room = Math.max(this.step[o + 7], this.step[o + 7] + this.step[o + 8]) + this.blend;
      for (let n = 0; n < 3; n++) {
        group.min[n] = Math.min(group.min[n], this.step[o + n] + Math.min(0, this.step[o + 3 + n]) - room);
        group.max[n] = Math.max(group.max[n], this.step[o + n] + Math.max(0, this.step[o + 3 + n]) + room);
      }
    }
    return [...out.values()];
  }

  private near(x: number, y: number, z: number): readonly number[] | undefined {
    return this.cells.get(keyOf(Math.floor(x / this.size), Math.floor(y / this.size), Math.floor(z / this.size)));
  }

  /** Metres inside the skin, below 0 outside; far outside some number below 0. */
  at(x: number, y: number, z: number): number {
    const there = this.near(x, y, z);
    if (!there) return -this.reach;
    const { limb, blend } = this;
    let [least, own, sum] = [Infinity, Infinity, 0];
    for (let k = 0; k < there.length; k++) {
      const off = this.off(9 * there[k], x, y, z);
      if (off < own) own = off;
      // of one limb only the nearest step counts
      if (limb[there[k + 1]] === limb[there[k]]) continue;
      if (own < least) least = own;
      if (blend > 0) sum += Math.exp(-own / blend);
      own = Infinity;
    }
    return sum > 0 && Number.isFinite(sum) ? blend * Math.log(sum) : -least;
  }

  /**
   * The same, with the way out of the skin (not of length 1 where limbs meet) and the limb that is nearest: of each limb the
   * way off its line, leaning with its taper, weighed as it counts.
   */
  slopeAt(x: number, y: number, z: number, way: [number, number, number], found: Nearest): number {
    way.fill(0);
    const there = this.near(x, y, z);
    if (!there) return -this.reach;
    const { limb, blend, step } = this;
    let [least, own, sum, best] = [Infinity, Infinity, 0, 0];
    for (let k = 0; k < there.length; k++) {
      const off = this.off(9 * there[k], x, y, z);
      if (off < own) [own, best] = [off, there[k]];
      if (limb[there[k + 1]] === limb[there[k]]) continue;
      const o = 9 * best;
      this.off(o, x, y, z);
      const weight = blend > 0 ? Math.exp((Math.min(own, least) - own) / blend) : own < least ? 1 : 0;
      // what was summed so far is measured against what is nearest by now
      const before = own < least ? (blend > 0 ? Math.exp((own - least) / blend) : 0) : 1;
      if (own < least) {
        least = own;
        this.note(best, found);
      }
      const lean = this.t > 0 && this.t < 1 ? step[o + 8] * step[o + 6] : 0;
      const [qx, qy, qz] = [
        x - step[o] - this.t * step[o + 3],
        y - step[o + 1] - this.t * step[o + 4],
        z - step[o + 2] - this.t * step[o + 5],
      ];
      const far = Math.sqrt(qx * qx + qy * qy + qz * qz) || 1;
      way[0] = before * way[0] + weight * (qx / far - lean * step[o + 3]);
      way[1] = before * way[1] + weight * (qy / far - lean * step[o + 4]);
      way[2] = before * way[2] + weight * (qz / far - lean * step[o + 5]);
      sum = before * sum + weight;
      own = Infinity;
    }
    for (let n = 0; n < 3; n++) way[n] /= sum;
    return blend > 0 ? blend * Math.log(sum) - least : -least;
  }

  private note(s: number, found: Nearest): void {
    found.limb = this.limb[s];
    found.point = this.point[s];
    found.next = this.next[s];
    found.t = this.t;
  }

  /** Where on one limb a place is nearest to the skin; that limb is near. */
  nearestOn(limb: number, x: number, y: number, z: number, found: Nearest): void {
    let least = Infinity;
    for (const s of this.near(x, y, z) ?? []) {
      if (this.limb[s] !== limb) continue;
      const off = this.off(9 * s, x, y, z);
      if (off >= least) continue;
      least = off;
      this.note(s, found);
    }
  }
}

/** Steps from point to point of all limbs, in their order. */
function stepsOf({ start, closed }: CurveSet): { from: Uint32Array; to: Uint32Array; of: Uint32Array } {
  const from: number[] = [];
  const to: number[] = [];
  const of: number[] = [];
  for (let c = 0; c + 1 < start.length; c++) {
    const end = start[c + 1];
    for (let p = start[c]; p + 1 < end + (closed[c] ? 1 : 0); p++) {
      from.push(p);
      to.push(p + 1 < end ? p + 1 : start[c]);
      of.push(c);
    }
  }
  return { from: Uint32Array.from(from), to: Uint32Array.from(to), of: Uint32Array.from(of) };
}

/** One whole number for a cell; those that share one at random are only looked at for nothing. */
const keyOf = (x: number, y: number, z: number): number =>
  (Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35)) | 0;
