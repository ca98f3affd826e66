import { boundsOf } from '../../mesh/measure.js';
import {
  addScaled,
  cross,
  distance,
  dot,
  normalize,
  scale,
  subtract,
  turn,
  upAcross,
  type Vec3,
  vec3,
} from '../../numeric/vector.js';
import { anchorPosition } from '../../surface/anchor.js';
import { propSpace } from '../../surface/prop-space.js';
import type { Surface } from '../../surface/surface.js';
import type { WheelPick } from '../../unit/parameters.js';
import type { BuildContext } from '../../unit/unit.js';

/** A wheel where it is in the world. */
export interface WheelPlace {
  pick: WheelPick;
  at: Vec3;
  /** Own radius, where it has one. */
  radius?: number;
}

/** Where wheels are; what is held on something that is gone is left out. */
export function wheelPlaces(
  picks: readonly WheelPick[],
  axis: Vec3,
  { surroundings }: Pick<BuildContext, 'surroundings'>,
): WheelPlace[] {
  return picks.flatMap((pick): WheelPlace[] => {
    const own = pick.radius === undefined ? {} : { radius: pick.radius };
    if (pick.prop !== undefined) {
      const surface = surroundings.surface(pick.prop);
      if (!surface || surface.mesh.index.length === 0) return [];
      const { at, radius } = roundOf(surface, axis);
      return [{ pick, at, radius, ...own }];
    }
    if (!pick.anchor) return [{ pick, at: [...pick.position], ...own }];
    const at = new Float64Array(3);
    return anchorPosition(pick.anchor, surroundings, at, 0) ? [{ pick, at: [at[0], at[1], at[2]], ...own }] : [];
  });
}

/** The middle of a prop, and how far it reaches from it across an axis: on average of two ways across. */
function roundOf(surface: Surface, axis: Vec3): { at: Vec3; radius: number } {
  const { position } = surface.mesh;
  const space = propSpace(surface);
  const world = new Float32Array(position.length);
  for (let i = 0; i < position.length; i += 3) space.toWorld(position[i], position[i + 1], position[i + 2], world, i);
  const { min, max } = boundsOf(world);
  const at = vec3((min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2);
  const across = upAcross(vec3(), axis);
  const other = cross(vec3(), axis, across);
  const reach = (way: Vec3): number => {
    let most = 0;
    for (let i = 0; i < world.length; i += 3)
      most = Math.max(
        most,
        Math.abs((world[i] - at[0]) * way[0] + (world[i + 1] - at[1]) * way[1] + (world[i + 2] - at[2]) * way[2]),
      );
    return most;
  };
  return { at, radius: Math.max(1e-4, (reach(across) + reach(other)) / 2) };
}

/** The plane of the wheels: its origin, its two ways across, and the axles' own, right-handed. */
export interface WheelPlane {
  origin: Vec3;
  x: Vec3;
  y: Vec3;
  axis: Vec3;
}

/** Wheels in the plane across the axles through the first one, its x towards the second; and that plane tilted about x. */
export function inPlane(
  places: readonly WheelPlace[],
  direction: Vec3,
  tilt: number,
): { plane: WheelPlane; flat: [x: number, y: number][] } {
  const axis = normalize(vec3(), direction);
  const origin = places[0]?.at ?? vec3();
  const towards = subtract(vec3(), places.find(({ at }) => distance(at, origin) > 1e-9)?.at ?? origin, origin);
  const x = addScaled(vec3(), towards, axis, -dot(towards, axis));
  if (dot(x, x) < 1e-18) upAcross(x, axis);
  normalize(x, x);
  const y = cross(vec3(), axis, x);
  const flat = places.map(({ at }): [number, number] => {
    const from = subtract(vec3(), at, origin);
    return [dot(from, x), dot(from, y)];
  });
  return { plane: { origin, x, y: turn(vec3(), y, x, tilt), axis: turn(vec3(), axis, x, tilt) }, flat };
}

/** A place of the plane in the world. */
export const inWorld = ({ origin, x, y }: WheelPlane, u: number, v: number): Vec3 =>
  addScaled(vec3(), addScaled(vec3(), origin, x, u), y, v);

/** The same of a direction. */
export const directionInWorld = ({ x, y }: WheelPlane, u: number, v: number): Vec3 =>
  addScaled(vec3(), scale(vec3(), x, u), y, v);
