import { cellHash } from '../../numeric/cell-hash.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import type { AreaPicker } from './area-picker.js';

/** Places on a mesh, one after the other as they were found: the k-th is the same however many follow. */
export interface Roots {
  /** Which draw each came from: the stable number of the place. */
  number: Uint32Array;
  triangle: Uint32Array;
  /** Shares of the triangle's second and third corner, two a place. */
  shares: Float64Array;
  count: number;
}

/** Distance that full evenness keeps between places, as a share of √(area / count so far). */
const APART = 0.57;
/** Draws for one place: after these it is put where one fell. */
const MOST_DRAWS = 32;
/** Draws by which the share of the area that something stands on is told. */
const PROBES = 1024;

/**
 * Places spread over an area one after the other: a draw is taken where it keeps off all places before it, by a distance
 * that shrinks as they get more (dart throwing with a falling radius; McCool & Fiume: Hierarchical Poisson disk sampling
 * distributions, Graphics Interface 1992). Each place costs the same, however many there are.
 * @param evenness 0 by chance alone … 1
 * @param keeps of a place by its number: whether something stands there; undefined where it always does
 * @param toFill places left out by `keeps` are made up for elsewhere
 */
export function spreadRoots(
  picker: AreaPicker,
  count: number,
  seed: number,
  evenness: number,
  keeps: ((at: readonly [number, number, number], number: number) => boolean) | undefined,
  toFill: boolean,
  step: (share: number) => void,
): Roots {
  const [a, b, c] = ['triangle', 's', 't'].map((name) => randomsOf(seed, hashText(name)));
  const draw = (id: number) => picker.pick(a(id), b(id), c(id));
  const stood = keeps ? shareKept(picker, draw, keeps) : 1;
  const out: Roots = {
    number: new Uint32Array(count),
    triangle: new Uint32Array(count),
    shares: new Float64Array(2 * count),
    count: 0,
  };
  const near = new Neighbours(picker.area * stood, evenness * APART, count);
  const most = toFill ? Math.min(4_000_000, 2000 * count) : count;
  for (let number = 0; number < most && out.count < count; number++) {
    if ((number & 4095) === 0) step(out.count / count);
    let found = -1;
    let drawn = 0;
    for (let k = 0; k < MOST_DRAWS; k++) {
      drawn = k;
      draw(Math.imul(number, MOST_DRAWS) + k);
      if (keeps && !keeps(picker.at, number)) {
        // what falls where nothing stands is not made up for by the same number: the density stays what it is
        if (k === 0) break;
        continue;
      }
      found = k;
      if (near.isFree(picker.at)) break;
    }
    if (found < 0) continue;
    // none was free: the last one that something may stand on
    if (found !== drawn) draw(Math.imul(number, MOST_DRAWS) + found);
    near.add(picker.at);
    const i = out.count++;
    out.number[i] = number;
    out.triangle[i] = picker.triangle;
    out.shares[2 * i] = picker.shares[1];
    out.shares[2 * i + 1] = picker.shares[2];
  }
  return out;
}

/** About what share of the area something stands on. */
function shareKept(
  picker: AreaPicker,
  draw: (id: number) => void,
  keeps: (at: readonly [number, number, number], number: number) => boolean,
): number {
  let kept = 0;
  for (let k = 0; k < PROBES; k++) {
    draw(-1 - k);
    if (keeps(picker.at, k)) kept++;
  }
  return Math.max(1, kept) / PROBES;
}

/** Places so far in cells, and the distance that the next one is to keep from all of them. */
class Neighbours {
  private readonly places: Float32Array;
  private count = 0;
  private readonly next: Int32Array;
  private first = new Int32Array(64);
  private size = 0;
  /** So many places the cells are made for. */
  private room = 16;
  private apart = 0;

  constructor(
    private readonly area: number,
    private readonly share: number,
    most: number,
  ) {
    this.places = new Float32Array(3 * most);
    this.next = new Int32Array(most + 1);
    this.size = this.cells();
    this.apart = this.distance();
  }

  private readonly distance = (): number => this.share * Math.sqrt(this.area / (this.count + 1));
  /** As wide as twice the distance that is kept while the cells are in use. */
  private readonly cells = (): number => 2.0001 * this.share * Math.sqrt(this.area / (this.room / 4)) || 1;

  add(at: readonly [number, number, number]): void {
    const { places, count } = this;
    places[3 * count] = at[0];
    places[3 * count + 1] = at[1];
    places[3 * count + 2] = at[2];
    this.count++;
    this.apart = this.distance();
    if (this.share === 0) return;
    if (this.count < this.room) {
      this.put(count);
      return;
    }
    this.room *= 4;
    this.first = new Int32Array(this.room / 2);
    this.size = this.cells();
    for (let i = 0; i < this.count; i++) this.put(i);
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

  /** Cells may share a bucket by chance: what is in it is measured all the same. */
  private bucketOf(x: number, y: number, z: number): number {
    return cellHash(x, y, z) & (this.first.length - 1);
  }

  /** Whether no place is nearer than is to be kept: looked up in the cells that so far reaches into. */
  isFree(at: readonly [number, number, number]): boolean {
    if (this.share === 0) return true;
    const { size, apart, places, first, next } = this;
    const limit = apart * apart;
    const [x, y, z] = at;
    const [x1, y1, z1] = [(x + apart) / size, (y + apart) / size, (z + apart) / size];
    const [y0, z0] = [Math.floor((y - apart) / size), Math.floor((z - apart) / size)];
    for (let i = Math.floor((x - apart) / size); i <= x1; i++)
      for (let j = y0; j <= y1; j++)
        for (let k = z0; k <= z1; k++)
          for (let n = first[this.bucketOf(i, j, k)]; n > 0; n = next[n]) {
            const p = 3 * (n - 1);
            const dx = places[p] - x;
            const dy = places[p + 1] - y;
            const dz = places[p + 2] - z;
            if (dx * dx + dy * dy + dz * dz < limit) return false;
          }
    return true;
  }
}
