import { hashText, randomsOf } from '../../numeric/random.js';

/** A place on a mesh: its triangle, the shares of the corners, and where that is, in the mesh's own space. */
export interface SurfacePoint {
  triangle: number;
  shares: readonly [number, number, number];
  at: readonly [number, number, number];
}

/** Triangles by area: what is drawn evenly from them lies evenly on the surface. */
export class AreaPicker {
  private readonly until: Float64Array;
  readonly area: number;

  /** @param wanted triangles that take part */
  constructor(
    private readonly mesh: { position: Float32Array; index: Uint32Array },
    private readonly wanted: readonly number[],
  ) {
    const { position: p, index } = mesh;
    this.until = new Float64Array(wanted.length);
    let sum = 0;
    wanted.forEach((triangle, k) => {
      const [a, b, c] = [0, 1, 2].map((n) => 3 * index[3 * triangle + n]);
      const [ux, uy, uz] = [0, 1, 2].map((n) => p[b + n] - p[a + n]);
      const [vx, vy, vz] = [0, 1, 2].map((n) => p[c + n] - p[a + n]);
      sum += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
      this.until[k] = sum;
    });
    this.area = sum;
  }

  /** The place that three numbers in 0 … 1 stand for (Turk: Generating random points in triangles, Graphics Gems, 1990). */
  pick(which: number, s: number, t: number): SurfacePoint {
    const { until, wanted } = this;
    const far = which * this.area;
    let [low, high] = [0, until.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (until[middle] <= far) low = middle + 1;
      else high = middle;
    }
    const root = Math.sqrt(s);
    const shares = [1 - root, root * (1 - t), root * t] as const;
    const triangle = wanted[low];
    const { position: p, index } = this.mesh;
    const at = [0, 1, 2].map((n) => shares.reduce((sum, share, k) => sum + share * p[3 * index[3 * triangle + k] + n], 0));
    return { triangle, shares, at: at as [number, number, number] };
  } // biome-ignore format: one line each
}

/** Of so many places drawn at full evenness the one furthest from those before it is taken. */
const MOST_DRAWN = 14;
/** Draws for one place at most, those that fall where nothing stands included. */
const MOST_TRIES = 256;

/**
 * Places one after the other, each the furthest from all before it of several that are drawn (best candidate; Mitchell:
 * Spectrally optimal sampling for distribution ray tracing, SIGGRAPH 1991). The k-th is the same however many follow.
 * @param evenness 0 by chance alone … 1
 * @param keeps of a place by its number: whether it counts
 * @param most places that are tried
 */
export function* spreadPoints(
  picker: AreaPicker,
  seed: number,
  evenness: number,
  keeps: (point: SurfacePoint, number: number) => boolean,
  most: number,
): Generator<SurfacePoint & { number: number }> {
  const draws = 1 + Math.round(evenness * (MOST_DRAWN - 1));
  const [a, b, c] = ['triangle', 's', 't'].map((name) => randomsOf(seed, hashText(name)));
  const near = new Neighbours(picker.area);
  for (let number = 0; number < most; number++) {
    let best: SurfacePoint | undefined;
    let furthest = -1;
    for (let k = 0, kept = 0; k < MOST_TRIES && kept < draws; k++) {
      const id = Math.imul(number, MOST_TRIES) + k;
      const point = picker.pick(a(id), b(id), c(id));
      if (!keeps(point, number)) {
        // what falls where nothing stands is not made up for elsewhere: the density stays what it is
        if (k === 0) break;
        continue;
      }
      kept++;
      const far = draws === 1 ? 0 : near.distance(point.at);
      if (far > furthest) {
        furthest = far;
        best = point;
      }
    }
    if (!best) continue;
    if (draws > 1) near.add(best.at);
    yield { ...best, number };
  }
}

/** Places so far, in cells that get smaller as they get more: how near the nearest is, as far as it matters by then. */
class Neighbours {
  private readonly places: (readonly number[])[] = [];
  private cells = new Map<number, number[]>();
  private room = 16;
  private size: number;

  constructor(private readonly area: number) {
    this.size = this.cellFor(this.room);
  }

  /** Twice as wide as places would be apart on a square grid of so many. */
  private readonly cellFor = (count: number): number => 2 * Math.sqrt(this.area / count) || 1;

  add(at: readonly number[]): void {
    this.places.push(at);
    if (this.places.length <= this.room) {
      this.put(this.places.length - 1);
      return;
    }
    this.room *= 2;
    this.size = this.cellFor(this.room);
    this.cells = new Map();
    for (let i = 0; i < this.places.length; i++) this.put(i);
  }

  private put(i: number): void {
    const key = this.keyOf(...(this.places[i].map((value) => Math.floor(value / this.size)) as [number, number, number]));
    const cell = this.cells.get(key);
    if (cell) cell.push(i);
    else this.cells.set(key, [i]);
  } // biome-ignore format: one line each

  /** Cells may share a key by chance: what is in them is measured all the same. */
  private keyOf = (x: number, y: number, z: number): number =>
    (Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35)) >>> 0;

  /** To the nearest place; at most one cell's width. */
  distance([x, y, z]: readonly number[]): number {
    const { size } = this;
    let least = size * size;
    const [cx, cy, cz] = [Math.floor(x / size), Math.floor(y / size), Math.floor(z / size)];
    for (let i = cx - 1; i <= cx + 1; i++)
      for (let j = cy - 1; j <= cy + 1; j++)
        for (let k = cz - 1; k <= cz + 1; k++)
          for (const n of this.cells.get(this.keyOf(i, j, k)) ?? []) {
            const [px, py, pz] = this.places[n];
            least = Math.min(least, (px - x) ** 2 + (py - y) ** 2 + (pz - z) ** 2);
          }
    return Math.sqrt(least);
  }
}
