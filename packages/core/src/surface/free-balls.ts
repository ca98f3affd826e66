import { createHit, type Surface, type SurfaceHit } from './surface.js';

/** Balls are no larger than this share of the prop's own box: what looks further asks anew. */
const MAX_RADIUS_SHARE = 0.25;
/** Steps in which a ball gets so small that nothing is in it. */
const STEPS = 6;
/** Of a bound this much is taken away: rounding must let nothing in. */
const NEARLY = 1 - 1e-9;

/**
 * For each face of a prop a ball before it that touches it and has no other surface within: whatever is in there is known
 * to be free without a question. As large as it can be, found by shrinking (Ma, Bae & Choi: 3D medial axis point
 * approximation using nearest neighbors and the normal field, 2012), when it is first asked for.
 */
export class FreeBalls {
  /** Of each face its middle, xyz, and its radius; NaN where it is not known yet. */
  private readonly balls: Float64Array;
  private readonly most: number;
  private readonly face = createHit();
  private readonly met = createHit();

  /**
   * @param closest the nearest place on any surface that counts, nearer than `within`; whether there is one
   * @param enclosed whether a place is inside something: nothing is free there
   */
  constructor(
    private readonly surface: Surface,
    private readonly closest: (x: number, y: number, z: number, met: SurfaceHit, within: number) => boolean,
    private readonly enclosed: (x: number, y: number, z: number) => boolean,
  ) {
    this.balls = new Float64Array((4 * surface.mesh.index.length) / 3).fill(Number.NaN);
    const [a, b, c, d, e, f] = surface.bounds;
    this.most = MAX_RADIUS_SHARE * Math.hypot(d - a, e - b, f - c);
  }

  /** Writes the ball before a face: middle and radius. Of a face that is not there it is nowhere, with no size. */
  before(face: number, out: Float64Array): void {
    const { balls } = this;
    const i = 4 * face;
    if (!(i >= 0 && i < balls.length)) {
      out.fill(0);
      return;
    }
    if (Number.isNaN(balls[i + 3])) this.find(face, i);
    for (let n = 0; n < 4; n++) out[n] = balls[i + n];
  }

  private find(triangle: number, to: number): void {
    const { balls, face, met } = this;
    this.surface.place(triangle, [1 / 3, 1 / 3, 1 / 3], face);
    const [px, py, pz] = face.point;
    const [nx, ny, nz] = face.normal;
    let radius = this.most;
    let free = 0;
    for (let step = 0; step < STEPS && radius > 0; step++) {
      balls[to] = px + radius * nx;
      balls[to + 1] = py + radius * ny;
      balls[to + 2] = pz + radius * nz;
      if (!this.closest(balls[to], balls[to + 1], balls[to + 2], met, radius * NEARLY)) {
        free = radius * NEARLY;
        break;
      }
      // this much is free round this middle in any case
      free = met.distance * NEARLY;
      if (step === STEPS - 1) break;
      const [x, y, z] = [met.point[0] - px, met.point[1] - py, met.point[2] - pz];
      const ahead = 2 * (x * nx + y * ny + z * nz);
      radius = ahead > 0 ? Math.min(radius, (x * x + y * y + z * z) / ahead) : 0;
    }
    balls[to + 3] = radius > 0 && !this.enclosed(balls[to], balls[to + 1], balls[to + 2]) ? free : 0;
  }
}
