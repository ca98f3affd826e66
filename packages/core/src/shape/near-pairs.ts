import { SegmentGrid } from '../curve/segment-grid.js';

/**
 * Pairs are looked for so much further than they can touch, in radii. A segment is looked for again once it has moved a
 * third of that: until then it, and another that was looked for before it, come nearer by no more than the whole.
 */
const MARGIN = 1;

/**
 * Pairs of segments that are near enough to touch before long, kept from pass to pass (Verlet, Phys. Rev. 159, 1967): the
 * space is gone through again only for what has moved far enough for a pair to be missing.
 */
export class NearPairs {
  /** Two numbers a pair, the lower first. */
  pairs = new Uint32Array(1024);
  count = 0;
  /** How far both of a pair must have gone together before they can touch; 0 where they may already. One a pair. */
  until = new Float64Array(512);
  /** Where both ends of each segment were when it was looked for. */
  private readonly seen: Float64Array;
  /** Segments that have moved since. */
  private readonly stale: Uint8Array;
  private readonly margin: number;

  /**
   * @param ends points of each segment
   * @param reach how near two segments' skins may be and still count, metres: both radii and the gap
   * @param apart false for pairs that never count
   */
  constructor(
    private readonly ends: { from: Uint32Array; to: Uint32Array },
    private readonly reach: number,
    radius: number,
    private readonly apart: (a: number, b: number) => boolean,
  ) {
    this.margin = MARGIN * radius;
    this.stale = new Uint8Array(ends.from.length);
    this.seen = new Float64Array(6 * ends.from.length).fill(Number.NaN);
  }

  /** Brings the list up to date with where the points are now: only segments that have moved are looked for again. */
  update(position: Float64Array): void {
    const { from, to } = this.ends;
    const total = from.length;
    const { seen, stale } = this;
    const limit = (this.margin / 3) ** 2;
    let moved = 0;
    for (let s = 0; s < total; s++) {
      const i = 3 * from[s];
      const j = 3 * to[s];
      const o = 6 * s;
      const a =
        (position[i] - seen[o]) ** 2 + (position[i + 1] - seen[o + 1]) ** 2 + (position[i + 2] - seen[o + 2]) ** 2;
      const b =
        (position[j] - seen[o + 3]) ** 2 + (position[j + 1] - seen[o + 4]) ** 2 + (position[j + 2] - seen[o + 5]) ** 2;
      // what was never seen is as far away as can be
      stale[s] = a <= limit && b <= limit ? 0 : 1;
      if (stale[s] === 0) continue;
      moved++;
      for (let n = 0; n < 3; n++) {
        seen[o + n] = position[i + n];
        seen[o + 3 + n] = position[j + n];
      }
    }
    if (moved === 0) return;
    this.drop();
    this.find(position);
  }

  /** Takes out the pairs of segments that have moved. */
  private drop(): void {
    const { pairs, until, stale } = this;
    let kept = 0;
    for (let i = 0; i < this.count; i++) {
      if (stale[pairs[2 * i]] || stale[pairs[2 * i + 1]]) continue;
      pairs[2 * kept] = pairs[2 * i];
      pairs[2 * kept + 1] = pairs[2 * i + 1];
      until[kept++] = until[i];
    }
    this.count = kept;
  }

  private find(position: Float64Array): void {
    const { from, to } = this.ends;
    const total = from.length;
    const middle = new Float64Array(3 * total);
    const half = new Float64Array(total);
    let longest = 0;
    for (let s = 0; s < total; s++) {
      const i = 3 * from[s];
      const j = 3 * to[s];
      const x = position[j] - position[i];
      const y = position[j + 1] - position[i + 1];
      const z = position[j + 2] - position[i + 2];
      half[s] = Math.sqrt(x * x + y * y + z * z) / 2;
      if (half[s] > longest) longest = half[s];
      middle[3 * s] = position[i] + x / 2;
      middle[3 * s + 1] = position[i + 1] + y / 2;
      middle[3 * s + 2] = position[i + 2] + z / 2;
    }
    const grid = new SegmentGrid(middle, Math.max(this.reach + this.margin + 2 * longest, 1e-9));
    for (let a = 0; a < total; a++) {
      if (!this.stale[a]) continue;
      const [x, y, z] = [middle[3 * a], middle[3 * a + 1], middle[3 * a + 2]];
      grid.near(a, x, y, z, (b) => {
        // two that have both moved meet once
        if (b < a && this.stale[b]) return;
        const dx = middle[3 * b] - x;
        const dy = middle[3 * b + 1] - y;
        const dz = middle[3 * b + 2] - z;
        const far = this.reach + this.margin + half[a] + half[b];
        if (dx * dx + dy * dy + dz * dz < far * far && this.apart(a, b)) this.put(Math.min(a, b), Math.max(a, b));
      });
    }
  }

  private put(a: number, b: number): void {
    if (2 * this.count + 2 > this.pairs.length) {
      const larger = new Uint32Array(2 * this.pairs.length);
      larger.set(this.pairs);
      this.pairs = larger;
    }
    if (this.count >= this.until.length) {
      const longer = new Float64Array(this.pairs.length / 2);
      longer.set(this.until);
      this.until = longer;
    }
    this.pairs[2 * this.count] = a;
    this.pairs[2 * this.count + 1] = b;
    // nothing is known of how long they will stay apart
    this.until[this.count++] = 0;
  }
}
