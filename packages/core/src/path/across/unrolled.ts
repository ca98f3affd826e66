import type { Sides } from './root-edge.js';

/** Rounds of solving at most; it ends when nothing moves by more than this. */
const ROUNDS = 4000;
const STILL = 1e-7;
/** Cells of the grid in which faces are looked up, each way. */
const CELLS = 48;

/** A shell laid into the unit square: its root edge below, its far edge above. */
export class Unrolled {
  /** Of each place of the skin, from side to side and from root to far edge. */
  readonly u: Float64Array;
  readonly v: Float64Array;
  private readonly cells: number[][] = Array.from({ length: CELLS * CELLS }, () => []);
  /** What was found last: the triangle and the shares of its second and third corner. */
  triangle = -1;
  readonly shares = new Float64Array(2);

  /**
   * Its rim lies on the square by its length; every other place is the mean of its neighbours by mean value coordinates,
   * so that no face folds over (Floater: Mean value coordinates, 2003; Tutte: How to draw a graph, 1963).
   */
  constructor(private readonly sides: Sides) {
    const { skin } = sides;
    const count = skin.position.length / 3;
    this.u = new Float64Array(count).fill(0.5);
    this.v = new Float64Array(count).fill(0.5);
    this.solve(this.layRim(count));
    this.fillCells();
  }

  private layRim(count: number): Uint8Array {
    const { u, v } = this;
    const {
      rim,
      ends: [root, side, far],
      skin: { position },
    } = this.sides;
    const fixed = new Uint8Array(count);
    const lay = (from: number, to: number, put: (place: number, t: number) => void) => {
      const at = (k: number) => rim[k % rim.length];
      const step = (k: number) =>
        Math.hypot(...[0, 1, 2].map((n) => position[3 * at(k) + n] - position[3 * at(k + 1) + n]));
      let total = 0;
      for (let k = from; k < to; k++) total += step(k);
      let walked = 0;
      for (let k = from; k <= to; k++) {
        put(at(k), total > 0 ? walked / total : 0);
        fixed[at(k)] = 1;
        walked += step(k);
      }
    };
    const put = (place: number, x: number, y: number) => {
      u[place] = x;
      v[place] = y;
    };
    lay(root, side, (place, t) => put(place, 1, t));
    lay(far, rim.length, (place, t) => put(place, 0, 1 - t));
    // corners belong to the root and the far edge
    lay(side, far, (place, t) => put(place, 1 - t, 1));
    lay(0, root, (place, t) => put(place, t, 0));
    return fixed;
  }

  private solve(fixed: Uint8Array): void {
    const { u, v } = this;
    const { start, next } = this.sides.skin;
    const weight = this.weights();
    const over = 1.85;
    for (let round = 0; round < ROUNDS; round++) {
      let moved = 0;
      for (let p = 0; p < fixed.length; p++) {
        if (fixed[p] || start[p + 1] === start[p]) continue;
        let [x, y, sum] = [0, 0, 0];
        for (let e = start[p]; e < start[p + 1]; e++) {
          x += weight[e] * u[next[e]];
          y += weight[e] * v[next[e]];
          sum += weight[e];
        }
        if (!(sum > 0)) continue;
        const [du, dv] = [over * (x / sum - u[p]), over * (y / sum - v[p])];
        u[p] += du;
        v[p] += dv;
        moved = Math.max(moved, Math.abs(du), Math.abs(dv));
      }
      if (moved < STILL) return;
    }
  }

  /** tan(α/2) + tan(β/2) over the length of each edge, α and β the angles beside it. One an entry of `next`. */
  private weights(): Float64Array {
    const { corner, position, start, next } = this.sides.skin;
    const out = new Float64Array(next.length);
    const add = (p: number, q: number, value: number) => {
      for (let e = start[p]; e < start[p + 1]; e++) if (next[e] === q) out[e] += value;
    };
    const way = (a: number, b: number) => [0, 1, 2].map((n) => position[3 * b + n] - position[3 * a + n]);
    for (let i = 0; i < corner.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const [p, q, r] = [corner[i + k], corner[i + ((k + 1) % 3)], corner[i + ((k + 2) % 3)]];
        const [a, b] = [way(p, q), way(p, r)];
        const [la, lb] = [Math.hypot(...a), Math.hypot(...b)];
        if (!(la > 0 && lb > 0)) continue;
        const cos = (a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / (la * lb);
        const half = Math.tan(Math.acos(Math.min(1, Math.max(-1, cos))) / 2);
        add(p, q, half / la);
        add(p, r, half / lb);
      }
    return out;
  }

  private fillCells(): void {
    const { corner } = this.sides.skin;
    const { u, v, cells } = this;
    const cell = (x: number) => Math.min(CELLS - 1, Math.max(0, Math.floor(x * CELLS)));
    for (let i = 0; i < corner.length; i += 3) {
      const of = [corner[i], corner[i + 1], corner[i + 2]];
      const [us, vs] = [of.map((p) => u[p]), of.map((p) => v[p])];
      for (let x = cell(Math.min(...us)); x <= cell(Math.max(...us)); x++)
        for (let y = cell(Math.min(...vs)); y <= cell(Math.max(...vs)); y++) cells[CELLS * y + x].push(i / 3);
    }
  }

  /** Finds the triangle that lies at a place of the square; the nearest of those about it where rounding leaves none. */
  find(x: number, y: number): boolean {
    const { corner } = this.sides.skin;
    const { u, v, shares } = this;
    const cell = (value: number) => Math.min(CELLS - 1, Math.max(0, Math.floor(value * CELLS)));
    let best = -Infinity;
    this.triangle = -1;
    for (const triangle of this.cells[CELLS * cell(y) + cell(x)]) {
      const [a, b, c] = [corner[3 * triangle], corner[3 * triangle + 1], corner[3 * triangle + 2]];
      const area = (u[b] - u[a]) * (v[c] - v[a]) - (u[c] - u[a]) * (v[b] - v[a]);
      if (area === 0) continue;
      const second = ((x - u[a]) * (v[c] - v[a]) - (u[c] - u[a]) * (y - v[a])) / area;
      const third = ((u[b] - u[a]) * (y - v[a]) - (x - u[a]) * (v[b] - v[a])) / area;
      const least = Math.min(second, third, 1 - second - third);
      if (least <= best) continue;
      best = least;
      this.triangle = triangle;
      shares[0] = second;
      shares[1] = third;
      if (least >= 0) break;
    }
    return best > -0.05;
  }
}
