/**
 * Segments by the cell their middle lies in: finds all that can be near one without looking at the others. What is in
 * one cell lies together in memory.
 */
export class SegmentGrid {
  /** First place of each bucket, in the order of the grid; cells share buckets at random. */
  private readonly start: Uint32Array;
  /** In the order of the grid: which segment, its cell, its middle. */
  private readonly segment: Uint32Array;
  private readonly cell: Int32Array;
  private readonly middle: Float64Array;
  private readonly mask: number;

  /**
   * @param middle flat xyz of the segments' middles
   * @param size how near two middles must be to be a pair; a cell is twice as wide, so that eight of them hold all
   */
  constructor(
    middle: Float64Array,
    private readonly size: number,
  ) {
    const count = middle.length / 3;
    let buckets = 16;
    while (buckets < count) buckets *= 2;
    this.mask = buckets - 1;
    const scale = 1 / (2 * size);
    const bucket = new Uint32Array(count);
    this.start = new Uint32Array(buckets + 1);
    for (let s = 0; s < count; s++) {
      const i = 3 * s;
      const x = Math.floor(middle[i] * scale);
      bucket[s] = this.bucketOf(x, Math.floor(middle[i + 1] * scale), Math.floor(middle[i + 2] * scale));
      this.start[bucket[s] + 1]++;
    }
    for (let b = 0; b < buckets; b++) this.start[b + 1] += this.start[b];
    const next = this.start.slice();
    this.segment = new Uint32Array(count);
    this.cell = new Int32Array(3 * count);
    this.middle = new Float64Array(3 * count);
    for (let s = 0; s < count; s++) {
      const to = next[bucket[s]]++;
      this.segment[to] = s;
      for (let n = 0; n < 3; n++) {
        this.middle[3 * to + n] = middle[3 * s + n];
        this.cell[3 * to + n] = Math.floor(middle[3 * s + n] * scale);
      }
    }
  }

  private bucketOf(x: number, y: number, z: number): number {
    const h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35);
    return (h ^ (h >>> 15)) & this.mask;
  }

  /** Calls `visit` for every segment whose middle is nearer than the grid's size to that of segment `s`, itself left out. */
  near(s: number, mx: number, my: number, mz: number, visit: (other: number) => void): void {
    const { segment, cell, middle, start } = this;
    const { size } = this;
    const reach = size * size;
    const scale = 1 / (2 * size);
    const right = Math.floor((mx + size) * scale);
    const high = Math.floor((my + size) * scale);
    const front = Math.floor((mz + size) * scale);
    for (let x = Math.floor((mx - size) * scale); x <= right; x++)
      for (let y = Math.floor((my - size) * scale); y <= high; y++)
        for (let z = Math.floor((mz - size) * scale); z <= front; z++) {
          const b = this.bucketOf(x, y, z);
          for (let k = start[b], end = start[b + 1]; k < end; k++) {
            const j = 3 * k;
            const dx = middle[j] - mx;
            const dy = middle[j + 1] - my;
            const dz = middle[j + 2] - mz;
            // another cell may share the bucket
            if (dx * dx + dy * dy + dz * dz >= reach || cell[j] !== x || cell[j + 1] !== y || cell[j + 2] !== z)
              continue;
            if (segment[k] !== s) visit(segment[k]);
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
