import type { Partings } from './partings.js';
import type { Skin } from './skin.js';

/** Guides that have a say at one place at most; the one that comes after them tells where the last one's say ends. */
export const MOST_NEAR = 4;
/** Ways along edges are longer than straight ones by no more than this, however the edges lie. */
const DETOUR = 1.5;

/** Where a guide stands on the skin. */
export interface GuideRoot {
  triangle: number;
  /** World. */
  at: Float64Array;
}

/** The guides that are near over the skin, for every place of it. */
export interface NearGuides {
  /** `MOST_NEAR + 1` entries a place, the nearest first: which guide, −1 for none; and how far that is along the edges. */
  guide: Int32Array;
  way: Float64Array;
  /** Of each guide, how far the nearest way from its own root over the skin's places and back to it is. */
  slack: Float64Array;
}

/**
 * Walks from all guides at once over the skin's edges and keeps at each place those that arrive first (Dijkstra: A note on
 * two problems in connexion with graphs, 1959, with several sources). No way runs across a parting.
 * @param reach no guide has a say further than this
 */
export function nearGuides(
  skin: Skin,
  roots: readonly GuideRoot[],
  partings: Partings,
  reach: number,
  step: (share: number) => void,
): NearGuides {
  const each = MOST_NEAR + 1;
  const places = skin.position.length / 3;
  const guide = new Int32Array(each * places).fill(-1);
  const way = new Float64Array(each * places).fill(Infinity);
  const heap = new Heap();
  /** A guide that may come to a place in so far: kept, and gone on from, where it is among the nearest known so far. */
  const reaches = (p: number, g: number, far: number) => {
    const [first, last] = [each * p, each * p + each - 1];
    let at = first;
    while (at < last && guide[at] !== g && guide[at] >= 0) at++;
    if (way[at] <= far) return;
    // those that are further move up to where it was, or the last one out
    for (; at > first && way[at - 1] > far; at--) {
      guide[at] = guide[at - 1];
      way[at] = way[at - 1];
    }
    guide[at] = g;
    way[at] = far;
    heap.push(far, p, g);
  };
  const slack = new Float64Array(roots.length).fill(Infinity);
  roots.forEach(({ triangle, at }, g) => {
    for (let k = 0; k < 3; k++) {
      const p = skin.corner[3 * triangle + k];
      if (!partings.isEmpty && partings.crosses(at, 0, skin.position, 3 * p)) continue;
      const far = apart(at, 0, skin.position, 3 * p);
      slack[g] = Math.min(slack[g], 2 * far);
      reaches(p, g, far);
    }
  });
  const most = DETOUR * reach + Math.max(0, ...slack.filter(Number.isFinite));
  const total = Math.min(roots.length, each) * places;
  for (let done = 0; heap.pop(); ) {
    const { place: p, guide: g, far } = heap;
    let at = each * p;
    while (at < each * p + each && guide[at] !== g) at++;
    // a shorter way was found since, or nearer guides
    if (at === each * p + each || way[at] !== far) continue;
    if ((++done & 16383) === 0) step(done / total);
    for (let e = skin.start[p]; e < skin.start[p + 1]; e++) {
      const q = skin.next[e];
      const there = far + apart(skin.position, 3 * p, skin.position, 3 * q);
      if (there > most || there >= way[each * q + each - 1]) continue;
      if (!partings.isEmpty && partings.crosses(skin.position, 3 * p, skin.position, 3 * q)) continue;
      reaches(q, g, there);
    }
  }
  return { guide, way, slack };
}

const apart = (a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): number => {
  const [x, y, z] = [b[j] - a[i], b[j + 1] - a[i + 1], b[j + 2] - a[i + 2]];
  return Math.sqrt(x * x + y * y + z * z);
};

/** The shares of guides at one place; written by `at`, to be read before it is asked again. */
export class Shares {
  readonly guide = new Int32Array(3 * (MOST_NEAR + 1));
  readonly share = new Float64Array(3 * (MOST_NEAR + 1));
  count = 0;
  private readonly far = new Float64Array(3 * (MOST_NEAR + 1));
  private readonly nearest = new Float64Array(MOST_NEAR + 1);
  /** Of each guide, at which asking it was met last and as the how manieth. */
  private readonly met: Float64Array;
  private asking = 0;

  constructor(
    private readonly skin: Skin,
    private readonly roots: readonly GuideRoot[],
    private readonly near: NearGuides,
    private readonly partings: Partings,
    private readonly reach: number,
  ) {
    this.met = new Float64Array(roots.length);
  }

  /**
   * Shares by the inverse of the distance, which end at the reach or at the guide that comes after the last one that
   * has a say (Franke & Nielson: Smooth interpolation of large sets of scattered data, 1980): they sum to 1, and at a
   * guide's own root it alone counts. Over the skin two places are as far from each other as straight through space, and
   * further by what the way round is longer than that.
   * @param where world xyz
   */
  at(triangle: number, where: Float64Array): void {
    const { guide, share, far, skin, near, roots, partings, met } = this;
    const each = MOST_NEAR + 1;
    this.asking += share.length;
    let count = 0;
    for (let k = 0; k < 3; k++) {
      const p = skin.corner[3 * triangle + k];
      const first = each * p;
      if (near.guide[first] < 0) continue;
      if (!partings.isEmpty && partings.crosses(where, 0, skin.position, 3 * p)) continue;
      const to = apart(where, 0, skin.position, 3 * p);
      for (let i = first; i < first + each && near.guide[i] >= 0; i++) {
        const g = near.guide[i];
        const there = near.way[i] + to;
        const at = met[g] - this.asking;
        if (at >= 0) {
          if (there < far[at]) far[at] = there;
          continue;
        }
        met[g] = this.asking + count;
        guide[count] = g;
        far[count++] = there;
      }
    }
    let own = -1;
    for (let k = 0; k < count; k++) {
      const g = guide[k];
      const straight = apart(where, 0, roots[g].at, 0);
      far[k] = straight + Math.max(0, far[k] - near.slack[g] - DETOUR * straight);
      if (far[k] < 1e-9) own = k;
    }
    const limit = Math.min(this.reach, this.after(count));
    let sum = 0;
    for (let k = 0; k < count; k++) {
      const d = far[k];
      // a guide's own root: it alone
      const weight = own >= 0 ? (k === own ? 1 : 0) : d < limit ? (1 / d - 1 / limit) ** 2 : 0;
      share[k] = weight;
      sum += weight;
    }
    this.count = sum > 0 ? count : 0;
    for (let k = 0; k < count; k++) share[k] /= sum;
  } // biome-ignore format: one line each

  /** How far the first guide without a say is, of so many. */
  private after(count: number): number {
    if (count <= MOST_NEAR) return Infinity;
    const { far, nearest } = this;
    nearest.fill(Infinity);
    for (let k = 0; k < count; k++) {
      if (far[k] >= nearest[MOST_NEAR]) continue;
      let at = MOST_NEAR;
      for (; at > 0 && nearest[at - 1] > far[k]; at--) nearest[at] = nearest[at - 1];
      nearest[at] = far[k];
    }
    return nearest[MOST_NEAR];
  }
}

/** Places by how far they are, the nearest first: a heap of three arrays. */
class Heap {
  private fars = new Float64Array(1024);
  private places = new Uint32Array(1024);
  private guides = new Uint32Array(1024);
  private size = 0;
  /** What was popped last. */
  far = 0;
  place = 0;
  guide = 0;

  push(far: number, place: number, guide: number): void {
    if (this.size === this.fars.length) this.grow();
    const { fars, places, guides } = this;
    let i = this.size++;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (fars[up] <= far) break;
      fars[i] = fars[up];
      places[i] = places[up];
      guides[i] = guides[up];
      i = up;
    }
    fars[i] = far;
    places[i] = place;
    guides[i] = guide;
  }

  pop(): boolean {
    if (this.size === 0) return false;
    const { fars, places, guides } = this;
    this.far = fars[0];
    this.place = places[0];
    this.guide = guides[0];
    const last = --this.size;
    const [far, place, guide] = [fars[last], places[last], guides[last]];
    let i = 0;
    for (let down = 1; down < last; down = 2 * i + 1) {
      if (down + 1 < last && fars[down + 1] < fars[down]) down++;
      if (fars[down] >= far) break;
      fars[i] = fars[down];
      places[i] = places[down];
      guides[i] = guides[down];
      i = down;
    }
    fars[i] = far;
    places[i] = place;
    guides[i] = guide;
    return true;
  }

  private grow(): void {
    const size = 2 * this.fars.length;
    const more = <T extends Float64Array | Uint32Array>(old: T, made: T): T => {
      made.set(old);
      return made;
    };
    this.fars = more(this.fars, new Float64Array(size));
    this.places = more(this.places, new Uint32Array(size));
    this.guides = more(this.guides, new Uint32Array(size));
  }
}
