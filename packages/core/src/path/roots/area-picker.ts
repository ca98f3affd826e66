/** Triangles by area: what is drawn evenly from them lies evenly on the surface. */
export class AreaPicker {
  /** Area up to the end of each of them. */
  readonly until: Float64Array;
  /** The one in which each step of equal area begins. */
  readonly begins: Uint32Array;
  readonly area: number;

  /** @param wanted triangles that take part */
  constructor(
    readonly mesh: { position: Float32Array; index: Uint32Array },
    readonly wanted: readonly number[],
  ) {
    const { position: p, index } = mesh;
    const count = wanted.length;
    this.until = new Float64Array(count);
    this.begins = new Uint32Array(count);
    let sum = 0;
    for (let k = 0; k < count; k++) {
      const i = 3 * wanted[k];
      const [a, b, c] = [3 * index[i], 3 * index[i + 1], 3 * index[i + 2]];
      const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
      const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
      sum += Math.sqrt(x * x + y * y + z * z) / 2;
      this.until[k] = sum;
    }
    this.area = sum;
    // where to look: as many steps of equal area as there are triangles
    for (let step = 0, k = 0; step < count; step++) {
      while (k < count - 1 && this.until[k] <= (step / count) * sum) k++;
      this.begins[step] = k;
    }
  }

  /** The place that was picked last: its triangle, shares and where it is. */
  triangle = -1;
  readonly shares: [number, number, number] = [1, 0, 0];
  readonly at: [number, number, number] = [0, 0, 0];

  /** Picks the place that three numbers in 0 … 1 represent (Turk: Generating random points in triangles, Graphics Gems, 1990). */
  pick(which: number, s: number, t: number): void {
    const { until, begins, wanted, shares, at } = this;
    const far = which * this.area;
    let low = begins[Math.floor(which * begins.length)];
    while (low < until.length - 1 && until[low] <= far) low++;
    const root = Math.sqrt(s);
    shares[0] = 1 - root;
    shares[1] = root * (1 - t);
    shares[2] = root * t;
    this.triangle = wanted[low];
    const { position: p, index } = this.mesh;
    const i = 3 * this.triangle;
    const [a, b, c] = [3 * index[i], 3 * index[i + 1], 3 * index[i + 2]];
    at[0] = shares[0] * p[a] + shares[1] * p[b] + shares[2] * p[c];
    at[1] = shares[0] * p[a + 1] + shares[1] * p[b + 1] + shares[2] * p[c + 1];
    at[2] = shares[0] * p[a + 2] + shares[1] * p[b + 2] + shares[2] * p[c + 2];
  }
}
