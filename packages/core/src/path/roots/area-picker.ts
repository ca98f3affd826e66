/** Triangles by area: what is drawn evenly from them lies evenly on the surface. */
export class AreaPicker {
  private readonly until: Float64Array;
  /** The triangle in which each step of equal area begins. */
  private readonly begins: Uint32Array;
  readonly area: number;

  /** @param wanted triangles that take part */
  constructor(
    private readonly mesh: { position: Float32Array; index: Uint32Array },
    private readonly wanted: readonly number[],
  ) {
    const { position: p, index } = mesh;
    this.until = new Float64Array(wanted.length);
    this.begins = new Uint32Array(wanted.length);
    let sum = 0;
    wanted.forEach((triangle, k) => {
      const [a, b, c] = [0, 1, 2].map((n) => 3 * index[3 * triangle + n]);
      const [ux, uy, uz] = [0, 1, 2].map((n) => p[b + n] - p[a + n]);
      const [vx, vy, vz] = [0, 1, 2].map((n) => p[c + n] - p[a + n]);
      sum += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
      this.until[k] = sum;
    });
    this.area = sum;
    // where to look: as many steps of equal area as there are triangles
    for (let step = 0, k = 0; step < wanted.length; step++) {
      while (k < wanted.length - 1 && this.until[k] <= (step / wanted.length) * sum) k++;
      this.begins[step] = k;
    }
  }

  /** The place that was picked last: its triangle, shares and where it is. */
  triangle = -1;
  readonly shares: [number, number, number] = [1, 0, 0];
  readonly at: [number, number, number] = [0, 0, 0];

  /** Picks the place that three numbers in 0 … 1 stand for (Turk: Generating random points in triangles, Graphics Gems, 1990). */
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
