import { drawnPath, MAX_BULGE, type Profile, type ProfilePoint } from '@kelp/core';

// Changes of a drawn profile. Metres; each gives new paths and leaves the old ones alone.

export type Paths = Profile['paths'];
export type Place = readonly [number, number];
/** A point of a profile: which path, which of its points. */
export interface Spot {
  path: number;
  point: number;
}

const withPath = (paths: Paths, index: number, change: (path: Paths[number]) => Paths[number]): Paths =>
  paths.map((path, i) => (i === index ? change(path) : path));

/** A new path that begins at a place. */
export const begun = (paths: Paths, [x, y]: Place, corner: boolean): Paths => [
  ...paths,
  { closed: false, points: [{ x, y, corner }] },
];

/** A point after another one of its path; an arc that it is put into becomes two of half its turn. */
export const inserted = (paths: Paths, { path, point }: Spot, [x, y]: Place, corner: boolean): Paths =>
  withPath(paths, path, (old) => {
    const bulge = old.points[point]?.bulge;
    const half = bulge ? { bulge: Math.tan(Math.atan(bulge) / 2) } : {};
    const points = old.points.toSpliced(point + 1, 0, { x, y, corner, ...half });
    return { ...old, points: bulge ? points.with(point, { ...points[point], ...half }) : points };
  });

export const moved = (paths: Paths, { path, point }: Spot, [x, y]: Place): Paths =>
  withPath(paths, path, (old) => ({ ...old, points: old.points.with(point, { ...old.points[point], x, y }) }));

export const sharpened = (paths: Paths, { path, point }: Spot, corner: boolean): Paths =>
  withPath(paths, path, (old) => ({ ...old, points: old.points.with(point, { ...old.points[point], corner }) }));

/** The stretch from a point to the next one of its path; undefined where there is none. */
export function stretchFrom(paths: Paths, { path, point }: Spot): { length: number; bow: number } | undefined {
  const { closed, points } = paths[path];
  const next = closed || point < points.length - 1 ? points[(point + 1) % points.length] : undefined;
  if (!next || points.length < 2) return undefined;
  const { x, y, bulge = 0 } = points[point];
  const length = Math.hypot(next.x - x, next.y - y);
  return { length, bow: (bulge * length) / 2 };
}

/** The next point as far away as that, in the direction it lies in; all others stay. */
export function spaced(paths: Paths, { path, point }: Spot, length: number): Paths {
  const { points } = paths[path];
  const next = (point + 1) % points.length;
  const [from, to] = [points[point], points[next]];
  const old = Math.hypot(to.x - from.x, to.y - from.y);
  if (old === 0) return paths;
  return moved(paths, { path, point: next }, [
    from.x + ((to.x - from.x) * length) / old,
    from.y + ((to.y - from.y) * length) / old,
  ]);
}

/** The stretch from a point to the next one as an arc that bows out so far, metres; straight or smooth again at 0. */
export const bowed = (paths: Paths, spot: Spot, bow: number): Paths =>
  withPath(paths, spot.path, (old) => {
    const { bulge: _, ...point } = old.points[spot.point];
    const half = (stretchFrom(paths, spot)?.length ?? 0) / 2;
    const bulge = Math.max(-MAX_BULGE, Math.min(MAX_BULGE, half > 0 ? bow / half : 0));
    return { ...old, points: old.points.with(spot.point, bulge === 0 ? point : { ...point, bulge }) };
  });

/** Without a point; a path without points is gone, one of two is no longer closed. */
export const without = (paths: Paths, { path, point }: Spot): Paths =>
  withPath(paths, path, (old) => {
    const points = old.points.toSpliced(point, 1);
    return { closed: old.closed && points.length > 2, points };
  }).filter(({ points }) => points.length > 0);

export const closedPath = (paths: Paths, path: number, closed: boolean): Paths =>
  withPath(paths, path, (old) => ({ ...old, closed: closed && old.points.length > 2 }));

export const withoutPath = (paths: Paths, path: number): Paths => paths.toSpliced(path, 1);

export interface Box {
  left: number;
  right: number;
  bottom: number;
  top: number;
}

/** The box round all points and arcs; undefined where there are none. */
export function boxOf(paths: Paths): Box | undefined {
  const places = paths.flatMap((path): Place[] =>
    path.points.some(({ bulge }) => bulge) ? drawnPath(path).places : path.points.map(({ x, y }) => [x, y]),
  );
  if (places.length === 0) return undefined;
  const all = (pick: (a: number, b: number) => number, axis: 0 | 1) =>
    places.map((place) => place[axis]).reduce((a, b) => pick(a, b));
  return { left: all(Math.min, 0), right: all(Math.max, 0), bottom: all(Math.min, 1), top: all(Math.max, 1) };
}

/** Arcs stay arcs: stretched unevenly they reach elsewhere than they would, and are stretched again. */
const ROUNDS = 8;

/** All points stretched about the middle of their box to a width and a height; a direction without extent stays. */
export function sized(paths: Paths, width: number, height: number, rounds = ROUNDS): Paths {
  const box = boxOf(paths);
  if (!box) return paths;
  const [w, h] = [box.right - box.left, box.top - box.bottom];
  const [cx, cy] = [(box.left + box.right) / 2, (box.bottom + box.top) / 2];
  const [sx, sy] = [w > 0 ? width / w : 1, h > 0 ? height / h : 1];
  const out = paths.map((path) => ({
    ...path,
    points: path.points.map((point) => ({ ...point, x: cx + sx * (point.x - cx), y: cy + sy * (point.y - cy) })),
  }));
  const hasArcs = paths.some(({ points }) => points.some(({ bulge }) => bulge));
  return hasArcs && rounds > 1 ? sized(out, width, height, rounds - 1) : out;
}

/**
 * The left half and its mirror image: paths that cross the upright axis once there and once back are cut on it and go on
 * mirrored; those on its left get a twin, those on its right go.
 */
export const mirrored = (paths: Paths): Paths => paths.flatMap((path) => (path.closed ? mirroredRing(path) : [path]));

function mirroredRing(path: Paths[number]): Paths {
  const { points } = path;
  const flipped = (point: ProfilePoint) => ({ ...point, x: -point.x || 0 });
  if (points.every(({ x }) => x <= 0) && points.some(({ x }) => x < 0) && !points.some(({ x }) => x === 0))
    return [path, { ...path, points: backwards(points, true).map(flipped) }];
  if (points.every(({ x }) => x > 0)) return [];
  const cut = points.flatMap((a, i) => {
    const b = points[(i + 1) % points.length];
    if (!((a.x < 0 && b.x > 0) || (a.x > 0 && b.x < 0))) return [a];
    const t = a.x / (a.x - b.x);
    const { bulge: _, ...straight } = a;
    return [straight, { x: 0, y: a.y + t * (b.y - a.y), corner: a.corner && b.corner }];
  });
  // the stretch that lies left, from where it leaves the axis to where it comes back
  const count = cut.length;
  const begins = cut.flatMap(({ x }, i) => (x >= 0 && cut[(i + 1) % count].x < 0 ? [i] : []));
  if (begins.length !== 1) return [path];
  const half: typeof points = [];
  for (let k = 0; k < count; k++) {
    const point = cut[(begins[0] + k) % count];
    half.push(point);
    if (k > 0 && point.x >= 0) break;
  }
  const inner = half.filter(({ x }) => x < 0);
  const left = [{ ...half[0], x: 0 }, ...inner, { ...half[half.length - 1], x: 0 }];
  const [last, ...right] = backwards(left, false);
  return [{ ...path, points: [...left.slice(0, -1), last, ...right.slice(0, -1).map(flipped)] }];
}

/** Points the other way round as seen in a mirror: an arc belongs to the point that it now begins at, and bows out as before. */
function backwards(points: readonly ProfilePoint[], closed: boolean): ProfilePoint[] {
  return points.toReversed().map(({ bulge: _, ...point }, k) => {
    const before = points.length - 2 - k;
    const { bulge } = before >= 0 ? points[before] : closed ? points[points.length - 1] : {};
    return bulge ? { ...point, bulge } : point;
  });
}

/** What a place snaps to: a point that is near, the grid, or nothing. @param step of the grid, 0 for none */
export function snapped([x, y]: Place, paths: Paths, step: number, near: number, except?: Spot): Place {
  let best: Place | undefined;
  let least = near;
  paths.forEach((path, i) => {
    path.points.forEach((point, k) => {
      if (except?.path === i && except.point === k) return;
      const far = Math.hypot(point.x - x, point.y - y);
      if (far < least) [best, least] = [[point.x, point.y], far];
    });
  });
  if (best) return best;
  const even = (value: number) => (step > 0 ? +(Math.round(value / step) * step).toPrecision(12) : value);
  return [even(x), even(y)];
}

/** A section to begin with: a rounded bar, 40 mm by 24. */
export const FIRST: Paths = [
  {
    closed: true,
    points: [
      { x: -0.02, y: -0.012, corner: true },
      { x: 0.02, y: -0.012, corner: true },
      { x: 0.02, y: 0.004, corner: true },
      { x: 0.012, y: 0.012, corner: false },
      { x: -0.012, y: 0.012, corner: false },
      { x: -0.02, y: 0.004, corner: true },
    ],
  },
];
