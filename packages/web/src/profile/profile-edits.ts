import type { Profile } from '@kelp/core';

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

/** A point after another one of its path. */
export const inserted = (paths: Paths, { path, point }: Spot, [x, y]: Place, corner: boolean): Paths =>
  withPath(paths, path, (old) => ({ ...old, points: old.points.toSpliced(point + 1, 0, { x, y, corner }) }));

export const moved = (paths: Paths, { path, point }: Spot, [x, y]: Place): Paths =>
  withPath(paths, path, (old) => ({ ...old, points: old.points.with(point, { ...old.points[point], x, y }) }));

export const sharpened = (paths: Paths, { path, point }: Spot, corner: boolean): Paths =>
  withPath(paths, path, (old) => ({ ...old, points: old.points.with(point, { ...old.points[point], corner }) }));

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

/** The box round all points; undefined where there are none. */
export function boxOf(paths: Paths): Box | undefined {
  const points = paths.flatMap((path) => path.points);
  if (points.length === 0) return undefined;
  const all = (pick: (a: number, b: number) => number, of: (point: (typeof points)[number]) => number) =>
    points.map(of).reduce((a, b) => pick(a, b));
  return {
    left: all(Math.min, ({ x }) => x),
    right: all(Math.max, ({ x }) => x),
    bottom: all(Math.min, ({ y }) => y),
    top: all(Math.max, ({ y }) => y),
  };
}

/** All points stretched about the middle of their box to a width and a height; a direction without extent stays. */
export function sized(paths: Paths, width: number, height: number): Paths {
  const box = boxOf(paths);
  if (!box) return paths;
  const [w, h] = [box.right - box.left, box.top - box.bottom];
  const [cx, cy] = [(box.left + box.right) / 2, (box.bottom + box.top) / 2];
  const [sx, sy] = [w > 0 ? width / w : 1, h > 0 ? height / h : 1];
  return paths.map((path) => ({
    ...path,
    points: path.points.map((point) => ({ ...point, x: cx + sx * (point.x - cx), y: cy + sy * (point.y - cy) })),
  }));
}

/**
 * The left half and its mirror image: paths that cross the upright axis once there and once back are cut on it and go on
 * mirrored; those on its left get a twin, those on its right go.
 */
export const mirrored = (paths: Paths): Paths => paths.flatMap((path) => (path.closed ? mirroredRing(path) : [path]));

function mirroredRing(path: Paths[number]): Paths {
  const { points } = path;
  const flipped = (point: (typeof points)[number]) => ({ ...point, x: -point.x || 0 });
  if (points.every(({ x }) => x <= 0) && points.some(({ x }) => x < 0) && !points.some(({ x }) => x === 0))
    return [path, { ...path, points: points.map(flipped).reverse() }];
  if (points.every(({ x }) => x > 0)) return [];
  const cut = points.flatMap((a, i) => {
    const b = points[(i + 1) % points.length];
    if (!((a.x < 0 && b.x > 0) || (a.x > 0 && b.x < 0))) return [a];
    const t = a.x / (a.x - b.x);
    return [a, { x: 0, y: a.y + t * (b.y - a.y), corner: a.corner && b.corner }];
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
  const [first, last] = [
    { ...half[0], x: 0 },
    { ...half[half.length - 1], x: 0 },
  ];
  return [{ ...path, points: [first, ...inner, last, ...inner.toReversed().map(flipped)] }];
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
