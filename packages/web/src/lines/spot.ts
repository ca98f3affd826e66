import { addScaled, cross, upAcross, type Vec3, vec3, Walk, type Walkable } from '@kelp/core';

export type Place = Vec3;

/** A place on a line with the directions there: along it, level to its side, and up from both. */
export interface Spot {
  place: Place;
  tangent: Place;
  side: Place;
  up: Place;
}

export const moved = (from: readonly number[], by: readonly number[], far: number): Place =>
  addScaled(vec3(), from, by, far);

/** Distance along curve `c` of the guide at each of its points, and the length of the whole, metres. */
export function alongGuide(guide: Walkable, c: number): Pick<Walk, 'at' | 'length'> {
  return new Walk(guide, c);
}

/** The spot at a share of a curve's length. */
export function spotAt(guide: Walkable, share: number, c = 0): Spot {
  const walk = new Walk(guide, c);
  // the very end of a ring is its beginning: it stays just before it
  const metres = Math.max(0, Math.min(1, share)) * walk.length * (guide.closed[c] ? 1 - 1e-9 : 1);
  const tangent = walk.directionAt(metres, vec3());
  const up = upAcross(vec3(), tangent);
  return { place: walk.pointAt(metres, vec3()), tangent, side: cross(vec3(), tangent, up), up };
}

/** The piece of a curve between two distances along it, metres. */
export function stretch(guide: Walkable, from: number, to: number, c = 0): Place[] {
  const walk = new Walk(guide, c);
  const steps = 24;
  // a ring is not gone round twice
  const end = walk.length * (guide.closed[c] ? 1 - 1e-9 : 1);
  return Array.from({ length: steps + 1 }, (_, i) =>
    walk.pointAt(Math.max(0, Math.min(end, from + ((to - from) * i) / steps)), vec3()),
  );
}

/** An arc about a direction: from `first` towards `second`, by an angle, radians. */
export function arc(
  middle: readonly number[],
  first: readonly number[],
  second: readonly number[],
  radius: number,
  angle: number,
): Place[] {
  const turned = Math.max(-4 * Math.PI, Math.min(4 * Math.PI, angle));
  const steps = Math.max(8, Math.ceil(Math.abs(turned) * 12));
  return Array.from({ length: steps + 1 }, (_, i) => {
    const at = (turned * i) / steps;
    return moved(moved(middle, first, radius * Math.cos(at)), second, radius * Math.sin(at));
  });
}
