/** Segments by the cell their middle lies in: finds all that can be near one without looking at the others. */
export class SegmentGrid {
  private readonly cell: Int32Array;
  private readonly start: Uint32Array;
  private readonly items: Uint32Array;
  private readonly mask: number;

  /**
   * @param middle flat xyz of the segments' middles
   * @param size width of a cell: two segments nearer than they may come have their middles within one cell of each other
   */
  constructor(
    private readonly middle: Float64Array,
    private readonly size: number,
  ) {
    const count = middle.length / 3;
    let buckets = 16;
    while (buckets < count) buckets *= 2;
    this.mask = buckets - 1;
    this.cell = new Int32Array(3 * count);
    for (let i = 0; i < this.cell.length; i++) this.cell[i] = Math.floor(middle[i] / size);
    this.start = new Uint32Array(buckets + 1);
    const bucket = new Uint32Array(count);
    for (let s = 0; s < count; s++) {
      bucket[s] = this.bucketOf(this.cell[3 * s], this.cell[3 * s + 1], this.cell[3 * s + 2]);
      this.start[bucket[s] + 1]++;
    }
    for (let b = 0; b < buckets; b++) this.start[b + 1] += this.start[b];
    const next = this.start.slice();
    this.items = new Uint32Array(count);
    for (let s = 0; s < count; s++) this.items[next[bucket[s]]++] = s;
  }

  private bucketOf(x: number, y: number, z: number): number {
    const h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35);
    return (h ^ (h >>> 15)) & this.mask;
  }

  /** Calls `visit` for every segment with a higher number whose middle is within one cell's width of this one's. */
  neighbours(s: number, visit: (other: number) => void): void {
    const { cell, middle, items, start } = this;
    const cx = cell[3 * s];
    const cy = cell[3 * s + 1];
    const cz = cell[3 * s + 2];
    const mx = middle[3 * s];
    const my = middle[3 * s + 1];
    const mz = middle[3 * s + 2];
    const reach = this.size * this.size;
    for (let x = cx - 1; x <= cx + 1; x++)
      for (let y = cy - 1; y <= cy + 1; y++)
        for (let z = cz - 1; z <= cz + 1; z++) {
          const b = this.bucketOf(x, y, z);
          for (let i = start[b]; i < start[b + 1]; i++) {
            const other = items[i];
            const o = 3 * other;
            // another cell may share the bucket
            if (other <= s || cell[o] !== x || cell[o + 1] !== y || cell[o + 2] !== z) continue;
            const dx = middle[o] - mx;
            const dy = middle[o + 1] - my;
            const dz = middle[o + 2] - mz;
            if (dx * dx + dy * dy + dz * dz < reach) visit(other);
          }
        }
  }
}

const clamp = (value: number): number => Math.min(1, Math.max(0, value));

/** Where two segments come nearest: shares along both and the distance. Written by `nearestOnSegments`. */
export interface Approach {
  s: number;
  t: number;
  distance: number;
}

/**
 * Nearest places of the segments p→p+1 (places i, j) and q→q+1 (places k, l) in flat xyz.
 * Ericson: Real-Time Collision Detection, 2005, section 5.1.9.
 */
export function nearestOnSegments(x: Float64Array, i: number, j: number, k: number, l: number, out: Approach): void {
  const ux = x[j] - x[i];
  const uy = x[j + 1] - x[i + 1];
  const uz = x[j + 2] - x[i + 2];
  const vx = x[l] - x[k];
  const vy = x[l + 1] - x[k + 1];
  const vz = x[l + 2] - x[k + 2];
  const rx = x[i] - x[k];
  const ry = x[i + 1] - x[k + 1];
  const rz = x[i + 2] - x[k + 2];
  const a = ux * ux + uy * uy + uz * uz;
  const e = vx * vx + vy * vy + vz * vz;
  const f = vx * rx + vy * ry + vz * rz;
  const c = ux * rx + uy * ry + uz * rz;
  const b = ux * vx + uy * vy + uz * vz;
  const denominator = a * e - b * b;
  let s = denominator > 1e-12 * a * e ? clamp((b * f - c * e) / denominator) : 0.5;
  let t = e > 0 ? (b * s + f) / e : 0;
  // the second one's end, or the second one where it is a point, decides the place on the first
  if (t < 0 || t > 1 || e === 0) {
    t = clamp(t);
    s = a > 0 ? clamp((b * t - c) / a) : 0;
  }
  out.s = s;
  out.t = t;
  const dx = rx + s * ux - t * vx;
  const dy = ry + s * uy - t * vy;
  const dz = rz + s * uz - t * vz;
  out.distance = Math.sqrt(dx * dx + dy * dy + dz * dz);
}
