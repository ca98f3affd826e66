import { addScaled, dot, scale, subtract, turn, type Vec3, vec3 } from '../../numeric/vector.js';
import { anchorFor } from '../../surface/anchor.js';
import { createHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { WheelPick } from '../../unit/parameters.js';
import { inPlane, inWorld, type WheelPlane, wheelPlaces } from './places.js';

/** What a wheel can be taken hold of by. */
export interface WheelHandle {
  pick: WheelPick;
  /** Its middle as it is, tilted with the others; a place on its rim, for its size. */
  at: Vec3;
  rim: Vec3;
  radius: number;
}

/** Wheels as they are, and the plane they are in. */
export interface WheelHandles {
  plane: WheelPlane;
  tilt: number;
  handles: WheelHandle[];
}

/** What a list of wheels is taken hold of by in the view. @param radius of those that have none of their own */
export function wheelHandles(
  picks: readonly WheelPick[],
  radius: number,
  axis: readonly [number, number, number],
  tilt: number,
  surroundings: Surroundings,
): WheelHandles {
  const places = wheelPlaces(picks, [...axis], { surroundings });
  const { plane, flat } = inPlane(places, [...axis], tilt);
  const aside = addScaled(vec3(), scale(vec3(), plane.x, Math.SQRT1_2), plane.y, -Math.SQRT1_2);
  const handles = places.map(({ pick, radius: own }, i): WheelHandle => {
    const at = inWorld(plane, ...flat[i]);
    return { pick, at, rim: addScaled(vec3(), at, aside, own ?? radius), radius: own ?? radius };
  });
  return { plane, tilt, handles };
}

/** A wheel put to another place of the plane; what holds it on a prop holds it there. */
export function wheelMoved(
  pick: WheelPick,
  to: Vec3,
  { plane, tilt }: Pick<WheelHandles, 'plane' | 'tilt'>,
  surroundings: Surroundings,
): WheelPick {
  const from = subtract(vec3(), to, plane.origin);
  // back to where it is before all is tilted
  const y = turn(vec3(), plane.y, plane.x, -tilt);
  const place = addScaled(vec3(), addScaled(vec3(), plane.origin, plane.x, dot(from, plane.x)), y, dot(from, plane.y));
  const { anchor, prop: _prop, ...rest } = pick;
  const surface = anchor && surroundings.surface(anchor.prop);
  const hit = createHit();
  const held =
    anchor && surface?.closest(place[0], place[1], place[2], hit) && anchorFor(anchor.prop, surface, hit, place, 0);
  return { ...rest, position: place, ...(held ? { anchor: held } : {}) };
}
