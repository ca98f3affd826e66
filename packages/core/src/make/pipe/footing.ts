import { addScaled, cross, dot, normalize, scale, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import { createHit } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';
import { type Axes, alongPipe, type Stand } from './places.js';

/** Of the way from the pipe's middle to the wall, what is across the pipe at least: nothing is held from its end. */
const MIN_ACROSS = 0.5;

/** What holds a pipe at its brackets. */
export interface Footing {
  clamps: Axes[];
  rods: Axes[];
  feet: Axes[];
  /** Brackets with nothing near enough to be fastened to. */
  free: Stand[];
}

/**
 * Clamps about the pipe, each with a rod to the nearest place of a prop across the pipe and a plate on it.
 * @param radius of the pipe, metres
 * @param within how far from its middle a prop may be
 */
export function footing(stands: readonly Stand[], surroundings: Surroundings, radius: number, within: number): Footing {
  const out: Footing = { clamps: [], rods: [], feet: [], free: [] };
  const hit = createHit();
  for (const stand of stands) {
    out.clamps.push(alongPipe(stand, radius));
    const way = wayAcross(stand, surroundings, within, hit);
    if (!way) {
      out.free.push(stand);
      continue;
    }
    const { direction, length } = way;
    const side = cross(vec3(), direction, stand.along);
    const axes = (x: number, size: number): Axes => ({
      stand,
      x: scale(vec3(), direction, x),
      y: scale(vec3(), side, -size),
      z: scale(vec3(), stand.along, size),
    });
    if (length > radius) out.rods.push(axes(length, radius));
    out.feet.push({ ...axes(radius, radius), at: addScaled(vec3(), stand.at, direction, length) });
  }
  return out;
}

/** Straight across the pipe to what is nearest. */
function wayAcross(
  { at, along }: Stand,
  surroundings: Surroundings,
  within: number,
  hit: ReturnType<typeof createHit>,
): { direction: Vec3; length: number } | undefined {
  if (surroundings.closest(at[0], at[1], at[2], hit, within) === undefined) return undefined;
  const way = subtract(vec3(), [hit.point[0], hit.point[1], hit.point[2]], at);
  const far = hit.distance;
  if (far === 0) return undefined;
  const direction = addScaled(vec3(), way, along, -dot(way, along));
  if (Math.hypot(...direction) < MIN_ACROSS * far) return undefined;
  normalize(direction, direction);
  // where the wall is not square to the way, the rod goes on to it
  return surroundings.cast(at, direction, hit) !== undefined && hit.distance <= within
    ? { direction, length: hit.distance }
    : undefined;
}
