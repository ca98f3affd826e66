import { cellHash } from '../../numeric/cell-hash.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import type { AreaPicker } from '../roots/area-picker.js';

/** A place on a mesh: its triangle, the shares of the corners, and where that is, in the mesh's own space. */
export interface SurfacePoint {
  triangle: number;
  shares: readonly [number, number, number];
  at: readonly [number, number, number];
}

/** Of this many places drawn at full evenness the one furthest from those before it is taken. */
const MAX_CANDIDATES = 14;
/** Draws for one place at most, those that fall where nothing stands included. */
const MAX_TRIES = 256;

/**
 * Places one after the other, each the furthest from all before it of several that are drawn (best candidate; Mitchell:
 * Spectrally optimal sampling for distribution ray tracing, SIGGRAPH 1991). The k-th is the same however many follow.
 * @param evenness 0 at random alone … 1
 * @param keeps of a place by its number: whether it counts
 * @param most places that are tried
 */
export function* spreadPoints(
  picker: AreaPicker,
  seed: number,
  evenness: number,
  keeps: (at: readonly [number, number, number], number: number) => boolean,
  most: number,
): Generator<SurfacePoint & { number: number }> {
  const draws = 1 + Math.round(evenness * (MAX_CANDIDATES - 1));
  const [a, b, c] = ['triangle', 's', 't'].map((name) => randomsOf(seed, hashText(name)));
  const near = new Neighbours(picker.area);
  for (let number = 0; number < most; number++) {
    let best: SurfacePoint | undefined;
    let furthest = -1;
    for (let k = 0, kept = 0; k < MAX_TRIES && kept < draws; k++) {
      const id = Math.imul(number, MAX_TRIES) + k;
      picker.pick(a(id), b(id), c(id));
      if (!keeps(picker.at, number)) {
        // what falls where nothing stands is not made up for elsewhere: the density stays what it is
        if (k === 0) break;
        continue;
      }
      kept++;
      const far = draws === 1 ? 0 : near.distance(picker.at);
      if (far > furthest) {
        furthest = far;
        best = { triangle: picker.triangle, shares: [...picker.shares], at: [...picker.at] };
      }
    }
    if (!best) continue;
    if (draws > 1) near.add(best.at);
    yield { ...best, number };
  }
}

/** Places so far, in cells that get smaller as they get more: how near the nearest is, as far as it matters by then. */
class Neighbours {
  private places = new Float64Array(3 * 16);
  private count = 0;
  /** First place of each bucket of cells and the one after each place, from 1; 0 ends. */
  private first = new Int32Array(64);
  private next = new Int32Array(17);
  private size: number;

  constructor(private readonly area: number) {
    this.size = this.cellFor(16);
  }

  /** Twice as wide as places would be apart on a square grid of this many. */
  private readonly cellFor = (count: number): number => 2 * Math.sqrt(this.area / count) || 1;

  add([x, y, z]: readonly number[]): void {
    const room = this.next.length - 1;
    if (this.count === room) {
      const places = new Float64Array(6 * room);
      places.set(this.places);
      this.places = places;
      this.first = new Int32Array(8 * room);
      this.next = new Int32Array(2 * room + 1);
      this.size = this.cellFor(2 * room);
      for (let i = 0; i < room; i++) this.put(i);
    }
    const i = 3 * this.count;
    this.places[i] = x;
    this.places[i + 1] = y;
    this.places[i + 2] = z;
    this.put(this.count++);
  }

  private put(i: number): void {
    const { places, size, first, next } = this;
    const bucket = this.bucketOf(
      Math.floor(places[3 * i] / size),
      Math.floor(places[3 * i + 1] / size),
      Math.floor(places[3 * i + 2] / size),
    );
    next[i + 1] = first[bucket];
    first[bucket] = i + 1;
  }

  /** Cells may share a bucket at random: what is in it is measured all the same. */
  private bucketOf(x: number, y: number, z: number): number {
    return cellHash(x, y, z) & (this.first.length - 1);
  }

  /** To the nearest place; at most one cell's width. */
  distance([x, y, z]: readonly number[]): number {
    const { size, places, first, next } = this;
    let least = size * size;
    const [cx, cy, cz] = [Math.floor(x / size), Math.floor(y / size), Math.floor(z / size)];
    for (let i = cx - 1; i <= cx + 1; i++)
      for (let j = cy - 1; j <= cy + 1; j++)
        for (let k = cz - 1; k <= cz + 1; k++)
          for (let n = first[this.bucketOf(i, j, k)]; n > 0; n = next[n]) {
            const p = 3 * (n - 1);
            const [dx, dy, dz] = [places[p] - x, places[p + 1] - y, places[p + 2] - z];
            least = Math.min(least, dx * dx + dy * dy + dz * dz);
          }
    return Math.sqrt(least);
  }
}
