import { addScaled, dot, normalize, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { FramedLines } from './framed-lines.js';
import { frameAt, roomFor, walkOf } from './stations.js';

/** A place on the cloth, and the way out of it. */
export interface ClothPlace {
  at: Vec3;
  up: Vec3;
  /** No prop is near enough: it is where the line is. */
  free: boolean;
  /** Which way the line runs there, where it was found from the line. */
  tangent?: Vec3;
}

/** The cloth that a line runs over: the props near it, or where there are none, what the line itself lies in. */
export class Cloth {
  private readonly hit = createHit();
  private readonly frame = roomFor(1);
  private readonly walks = new Map<number, ReturnType<typeof walkOf>>();

  /** @param within how far from the line a prop may be, metres @param inner its other side is meant: the way out is into the prop */
  constructor(
    private readonly framed: FramedLines,
    private readonly props: Surroundings,
    private readonly within: number,
    private readonly inner = false,
  ) {}

  /** Where a place of a line is before it is laid on anything: this far along it, and to the right of it. */
  planned(curve: number, along: number, aside: number): { at: Vec3; up: Vec3; tangent: Vec3 } {
    const { framed, frame } = this;
    let walk = this.walks.get(curve);
    if (!walk) {
      walk = walkOf(framed, curve);
      this.walks.set(curve, walk);
    }
    frameAt(framed, walk, along, frame, 0);
    const [t, up] = [frame.tangent, frame.up].map((v): Vec3 => [v[0], v[1], v[2]]);
    // right of the line, seen from above
    const side: Vec3 = [t[1] * up[2] - t[2] * up[1], t[2] * up[0] - t[0] * up[2], t[0] * up[1] - t[1] * up[0]];
    const at: Vec3 = [frame.at[0], frame.at[1], frame.at[2]];
    // what is cut short at an open end goes on straight
    const beyond = framed.lines.closed[curve] ? 0 : along - Math.min(walk.length, Math.max(0, along));
    return { at: addScaled(at, addScaled(at, at, t, beyond), side, aside), up, tangent: t };
  }

  /** The same on the cloth. */
  place(curve: number, along: number, aside: number): ClothPlace {
    const { at, up, tangent } = this.planned(curve, along, aside);
    const place = this.landed(at, up);
    place.tangent = tangent;
    return place;
  }

  /** The place of the cloth nearest to one. */
  landed(at: Vec3, up: Vec3): ClothPlace {
    const { hit, props } = this;
    const prop = props.closest(at[0], at[1], at[2], hit, this.within);
    if (prop === undefined) return { at: [...at], up: [...up], free: true };
    const place: Vec3 = [hit.point[0], hit.point[1], hit.point[2]];
    const off = subtract(vec3(), at, place);
    const normal: Vec3 = [hit.normal[0], hit.normal[1], hit.normal[2]];
    // beside an edge the way out leans over it; on the face itself the way there says nothing
    const out = hit.distance > 1e-6 && dot(off, normal) > 0.2 * hit.distance ? normalize(off, off) : normal;
    return { at: place, up: this.inner ? [-out[0], -out[1], -out[2]] : [...out], free: false };
  }

  /** How far above the cloth a place is, metres; below 0 under it. Infinity where there is none near. */
  heightOf(at: Vec3): number {
    return this.props.signedDistance(at[0], at[1], at[2], this.hit, this.within);
  }
}
