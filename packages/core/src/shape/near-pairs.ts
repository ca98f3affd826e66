import { SegmentGrid } from '../curve/segment-grid.js';
import { SPAN, type Spans } from './spans.js';

/**
 * Pairs are looked for this much further than they can touch, in radii. A span is looked for again once one of its points
 * has moved a third of that: until then it, and another that was looked for before it, come nearer by no more than the whole.
 */
const MARGIN = 0.5;

/**
 * Pairs of spans that are near enough to touch before long, kept from pass to pass (Verlet, Phys. Rev. 159, 1967): the
 * space is gone through again only for what has moved far enough for a pair to be missing.
 */
export class NearPairs {
  /** Two numbers a pair, the lower first. */
  pairs = new Uint32Array(1024);
  count = 0;
  /** How far both of a pair must have gone together before they can touch; 0 where they may already. One a pair. */
  until = new Float64Array(512);
  /** Where the points of each span were when it was looked for: those its segments begin at, and its last one. */
  private readonly seen: Float64Array;
  /** Spans that have moved since. */
  private readonly stale: Uint8Array;
  private readonly margin: number;

  /** @param reach how near two segments may be and still count, metres: both radii and the gap */
  constructor(
    private readonly spans: Spans,
    private readonly reach: number,
    readonly radius: number,
  ) {
    const { from, curve } = spans;
    this.margin = MARGIN * radius;
    this.stale = new Uint8Array(curve.length);
    this.seen = new Float64Array(3 * (from.length + curve.length)).fill(Number.NaN);
  }

  /**
   * Brings the list up to date with where the points are now: only spans that have moved are looked for again.
   * @param balls round the spans
   */
  update(position: Float64Array, balls: Float64Array): void {
    const { from, to, first, curve } = this.spans;
    let moved = 0;
    for (let g = 0; g < curve.length; g++) {
      const o = first[g] + g;
      let stale = this.hasMoved(position, to[first[g + 1] - 1], first[g + 1] + g);
      for (let s = first[g]; s < first[g + 1] && !stale; s++)
        stale = this.hasMoved(position, from[s], o + s - first[g]);
      this.stale[g] = stale ? 1 : 0;
      if (!stale) continue;
      moved++;
      for (let s = first[g]; s < first[g + 1]; s++) this.see(position, from[s], o + s - first[g]);
      this.see(position, to[first[g + 1] - 1], first[g + 1] + g);
    }
    if (moved === 0) return;
    this.drop();
    this.find(balls);
  }

  private hasMoved(position: Float64Array, p: number, o: number): boolean {
    const { seen, margin } = this;
    const x = position[3 * p] - seen[3 * o];
    const y = position[3 * p + 1] - seen[3 * o + 1];
    const z = position[3 * p + 2] - seen[3 * o + 2];
    // what was never seen is as far away as can be
    return !(9 * (x * x + y * y + z * z) <= margin * margin);
  }

  private see(position: Float64Array, p: number, o: number): void {
    this.seen[3 * o] = position[3 * p];
    this.seen[3 * o + 1] = position[3 * p + 1];
    this.seen[3 * o + 2] = position[3 * p + 2];
  }

  /** Takes out the pairs of spans that have moved. */
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

  private find(balls: Float64Array): void {
    const { stale } = this;
    const total = stale.length;
    const middle = new Float64Array(3 * total);
    let largest = 0;
    for (let g = 0; g < total; g++) {
      for (let n = 0; n < 3; n++) middle[3 * g + n] = balls[SPAN * g + n];
      largest = Math.max(largest, balls[SPAN * g + 3]);
    }
    const within = this.reach + this.margin;
    const grid = new SegmentGrid(middle, Math.max(within + 2 * largest, 1e-9));
    for (let a = 0; a < total; a++) {
      if (!stale[a]) continue;
      const x = middle[3 * a];
      const y = middle[3 * a + 1];
      const z = middle[3 * a + 2];
      const near = within + balls[SPAN * a + 3];
      grid.near(a, x, y, z, (b) => {
        // two that have both moved meet once
        if (b < a && stale[b]) return;
        const dx = middle[3 * b] - x;
        const dy = middle[3 * b + 1] - y;
        const dz = middle[3 * b + 2] - z;
        const far = near + balls[SPAN * b + 3];
        if (dx * dx + dy * dy + dz * dz < far * far) this.put(Math.min(a, b), Math.max(a, b));
      });
    }
  }

  private put(a: number, b: number): void {
    if (this.count >= this.until.length) {
      const pairs = new Uint32Array(2 * this.pairs.length);
      pairs.set(this.pairs);
      this.pairs = pairs;
      const until = new Float64Array(pairs.length / 2);
      until.set(this.until);
      this.until = until;
    }
    this.pairs[2 * this.count] = a;
    this.pairs[2 * this.count + 1] = b;
    // nothing is known of how long they will stay apart
    this.until[this.count++] = 0;
  }
}
