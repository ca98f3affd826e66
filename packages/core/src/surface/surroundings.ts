import { copyHit, createHit, type Surface, type SurfaceHit } from './surface.js';

/** The props a piece can touch, each under its id. */
export class Surroundings {
  private readonly ids: string[];
  private readonly surfaces: Surface[];
  private readonly scratch = createHit();

  constructor(props: ReadonlyMap<string, Surface>) {
    this.ids = [...props.keys()];
    this.surfaces = [...props.values()];
  }

  get isEmpty(): boolean {
    return this.surfaces.length === 0;
  }

  surface(id: string): Surface | undefined {
    return this.surfaces[this.ids.indexOf(id)];
  }

  /** The one prop there is; undefined where there are none or several. */
  get only(): Surface | undefined {
    return this.surfaces.length === 1 ? this.surfaces[0] : undefined;
  }

  /**
   * Closest place on any prop (or on `only`), nearer than `within`.
   * Returns the id of the prop, or undefined when nothing is that near.
   */
  closest(x: number, y: number, z: number, hit: SurfaceHit, within = Infinity, only?: string): string | undefined {
    let best: string | undefined;
    let reach = within;
    for (let i = 0; i < this.surfaces.length; i++) {
      if (only !== undefined && this.ids[i] !== only) continue;
      if (!this.surfaces[i].closest(x, y, z, hit, reach)) continue;
      best = this.ids[i];
      reach = hit.distance;
    }
    return best;
  }

  /** First prop that a ray meets and where. Returns its id, or undefined when nothing is in the way. */
  cast(origin: ArrayLike<number>, direction: ArrayLike<number>, hit: SurfaceHit): string | undefined {
    let best: string | undefined;
    let reach = Infinity;
    const found = this.scratch;
    for (let i = 0; i < this.surfaces.length; i++) {
      if (!this.surfaces[i].cast(origin, direction, found) || found.distance >= reach) continue;
      best = this.ids[i];
      reach = found.distance;
      copyHit(found, hit);
    }
    return best;
  }

  /**
   * How far (x, y, z) is outside the nearest prop, negative when it is inside; Infinity beyond `within`.
   * Inside means behind the nearest face; where the nearest place lies on an edge or corner, whose faces may disagree,
   * a ray decides: it leaves a closed body through the back of a face.
   */
  signedDistance(x: number, y: number, z: number, hit: SurfaceHit, within: number): number {
    const id = this.closest(x, y, z, hit, within);
    if (id === undefined) return Infinity;
    const dx = x - hit.point[0];
    const dy = y - hit.point[1];
    const dz = z - hit.point[2];
    const front = dx * hit.normal[0] + dy * hit.normal[1] + dz * hit.normal[2];
    const onEdge = Math.abs(front) < 0.999 * hit.distance;
    if (!onEdge || hit.distance < 1e-9) return front < 0 ? -hit.distance : hit.distance;
    return this.isBehindFaces(id, x, y, z) ? -hit.distance : hit.distance;
  }

  private isBehindFaces(id: string, x: number, y: number, z: number): boolean {
    const surface = this.surface(id);
    // a direction along no axis, so that it does not run within the faces of boxes
    const direction = [0.267, 0.802, 0.534];
    if (!surface?.cast([x, y, z], direction, this.scratch)) return false;
    const { normal } = this.scratch;
    return normal[0] * direction[0] + normal[1] * direction[1] + normal[2] * direction[2] > 0;
  }
}
