import { catmullRom } from '../curve/catmull-rom.js';
import { type CurveSet, POINT } from '../curve/curve-set.js';
import type { Profile, ProfilePoint } from '../document/document.js';

export type ProfilePath = Profile['paths'][number];

/** Places of an arc no further apart than this much of its turn: the curve through them leaves it by 1/400 of its radius at most, at its ends; within by far less. */
const ARC_STEP = Math.PI / 16;

/** A path of a profile as the curve it represents: arcs, straight between sharp points, smooth through the others. */
export const pathCurve = (path: ProfilePath): CurveSet => {
  const points = withArcs(path).map(({ point }) => point);
  return catmullRom({
    position: Float64Array.from(points.flatMap(({ x, y }) => [x, y, 0])),
    corner: Uint8Array.from(points, ({ corner }) => (corner ? 1 : 0)),
    radius: new Float32Array(points.length).fill(1),
    closed: path.closed,
    id: 0,
  });
};

/** The points of a path, with those of its arcs between them; and which of its own points each belongs to. */
function withArcs({ closed, points }: ProfilePath): { point: ProfilePoint; of: number }[] {
  return points.flatMap((point, of) => {
    const next = closed || of < points.length - 1 ? points[(of + 1) % points.length] : undefined;
    const { bulge = 0 } = point;
    // where an arc begins or ends, what is beside it does not bend it
    const before = closed || of > 0 ? points.at(of - 1) : undefined;
    const own = bulge || before?.bulge ? { ...point, corner: true } : point;
    const [dx, dy] = next ? [next.x - point.x, next.y - point.y] : [0, 0];
    if (!next || bulge === 0 || (dx === 0 && dy === 0)) return [{ point: own, of }];
    // the middle of the circle stands off the middle of the chord by (1 − b²)/4b of it, to its left
    const off = (1 - bulge * bulge) / (4 * bulge);
    const [cx, cy] = [point.x + dx / 2 - off * dy, point.y + dy / 2 + off * dx];
    const turn = 4 * Math.atan(bulge);
    const steps = Math.max(2, Math.ceil(Math.abs(turn) / ARC_STEP));
    const inner = Array.from({ length: steps - 1 }, (_, k) => {
      const angle = (turn * (k + 1)) / steps;
      const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
      const [rx, ry] = [point.x - cx, point.y - cy];
      return { point: { x: cx + cos * rx - sin * ry, y: cy + sin * rx + cos * ry, corner: false }, of };
    });
    return [{ point: own, of }, ...inner];
  });
}

/**
 * The places of a path as it is drawn, flat xy, metres, and which point of the path each stretch of it belongs to.
 * Empty where it has fewer than two points.
 */
export function drawnPath(path: ProfilePath): { places: [number, number][]; point: number[] } {
  if (path.points.length < 2) return { places: [], point: [] };
  const owner = withArcs(path).map(({ of }) => of);
  const { position, pointData } = pathCurve(path);
  const knot = pointData[POINT.knot];
  const places: [number, number][] = [];
  const point: number[] = [];
  let last = -1;
  for (let p = 0; p < position.length / 3; p++) {
    if (knot?.[p] === 1) last++;
    places.push([position[3 * p], position[3 * p + 1]]);
    point.push(owner[Math.max(0, last)] ?? 0);
  }
  return { places, point };
}
