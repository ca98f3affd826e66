import { catmullRom } from '../curve/catmull-rom.js';
import { type CurveSet, POINT } from '../curve/curve-set.js';
import type { Profile } from '../document/document.js';

export type ProfilePath = Profile['paths'][number];

/** A path of a profile as the curve it stands for: straight between sharp points, smooth through the others. */
export const pathCurve = ({ closed, points }: ProfilePath): CurveSet =>
  catmullRom({
    position: Float64Array.from(points.flatMap(({ x, y }) => [x, y, 0])),
    corner: Uint8Array.from(points, ({ corner }) => (corner ? 1 : 0)),
    radius: new Float32Array(points.length).fill(1),
    closed,
    id: 0,
  });

/**
 * The places of a path as it is drawn, flat xy, metres, and which point of the path each stretch of it belongs to.
 * Empty where it has fewer than two points.
 */
export function drawnPath(path: ProfilePath): { places: [number, number][]; point: number[] } {
  if (path.points.length < 2) return { places: [], point: [] };
  const { position, pointData } = pathCurve(path);
  const knot = pointData[POINT.knot];
  const places: [number, number][] = [];
  const point: number[] = [];
  let last = -1;
  for (let p = 0; p < position.length / 3; p++) {
    if (knot?.[p] === 1) last++;
    places.push([position[3 * p], position[3 * p + 1]]);
    point.push(Math.max(0, last));
  }
  return { places, point };
}
