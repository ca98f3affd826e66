import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { cross, distance, normalize, type Vec3, vec3 } from '../../numeric/vector.js';
import { areaOf, contains } from '../../section/plane.js';

export type Flat = [number, number];

/** A plane through curves, with axes to measure in it. World metres. */
export interface Plane {
  center: Vec3;
  x: Vec3;
  y: Vec3;
  normal: Vec3;
}

/** A closed row of places in a plane, counter-clockwise, with their heights over it. */
export interface Outline {
  curve: number;
  flat: Flat[];
  height: number[];
  /** Which places were drawn as corners. */
  corner: boolean[];
}

/** One slab: a rim and the holes in it. */
export interface Region {
  plane: Plane;
  rim: Outline;
  holes: Outline[];
}

/** An outline that encloses less of the square of its length than this is none. */
const MIN_AREA_SHARE = 1e-5;
/** A hole lies no further off the plane of the rim than this many times the rim's width. */
const OFF_PLANE = 0.5;

/** Closed curves as regions: what is inside another is a hole in it, what is in a hole is a region again. */
export function regionsOf(curves: CurveSet, corners: Float32Array | undefined): { regions: Region[]; flat: number[] } {
  const flat: number[] = [];
  const planes = Array.from({ length: curveCount(curves) }, (_, c) => {
    const plane = planeOf(curves, c);
    if (!plane) flat.push(c);
    return plane;
  });
  const own = planes.map((plane, c) => plane && inPlane(curves, c, plane, corners));
  const widths = own.map((outline) => (outline ? Math.sqrt(Math.abs(areaOf(outline.flat))) : 0));
  const reaches = planes.map((plane, c) => (plane ? reachOf(curves, c, plane.center) : 0));
  /** Whether one curve lies inside a larger one, in part at least, by the other's plane. */
  const isIn = (c: number, other: number): boolean => {
    const [a, b] = [planes[c], planes[other]];
    const rim = own[other];
    if (!a || !b || !rim || c === other || distance(a.center, b.center) > reaches[other]) return false;
    if (widths[c] > widths[other] || (widths[c] === widths[other] && c < other)) return false;
    const hole = inPlane(curves, c, b, corners);
    return (
      hole.height.every((high) => Math.abs(high) < OFF_PLANE * widths[other]) &&
      hole.flat.some((place) => contains(rim.flat, place))
    );
  };
  const near = centresNear(planes, reaches);
  const around = planes.map((_, c) => near(c).filter((other) => isIn(c, other)));
  const regions = new Map<number, Region>();
  planes.forEach((plane, c) => {
    const rim = own[c];
    if (plane && rim && around[c].length % 2 === 0) regions.set(c, { plane, rim: turned(rim, 1), holes: [] });
  });
  around.forEach((others, c) => {
    if (others.length % 2 === 0) return;
    const [owner] = others.filter((other) => regions.has(other)).sort((a, b) => widths[a] - widths[b]);
    const region = regions.get(owner);
    if (region) region.holes.push(turned(inPlane(curves, c, region.plane, corners), -1));
  });
  return { regions: [...regions.values()], flat };
}

/** Of each curve, those whose middle is no further from its own than any of them reaches: a grid over their middles. */
function centresNear(planes: readonly (Plane | undefined)[], reaches: readonly number[]): (c: number) => number[] {
  const size = reaches.reduce((a, b) => Math.max(a, b), 0) || 1;
  const cells = new Map<string, number[]>();
  const cellOf = ({ center }: Plane) => center.map((value) => Math.floor(value / size));
  planes.forEach((plane, c) => {
    if (!plane) return;
    const key = cellOf(plane).join(' ');
    const list = cells.get(key);
    if (list) list.push(c);
    else cells.set(key, [c]);
  });
  const steps = [-1, 0, 1];
  return (c) => {
    const plane = planes[c];
    if (!plane) return [];
    const [x, y, z] = cellOf(plane);
    return steps.flatMap((dx) =>
      steps.flatMap((dy) => steps.flatMap((dz) => cells.get(`${x + dx} ${y + dy} ${z + dz}`) ?? [])),
    );
  };
}

/** How far a curve reaches from a place, metres. */
function reachOf({ start, position }: CurveSet, c: number, center: Vec3): number {
  let far = 0;
  for (let i = 3 * start[c]; i < 3 * start[c + 1]; i += 3)
    far = Math.max(far, Math.hypot(position[i] - center[0], position[i + 1] - center[1], position[i + 2] - center[2]));
  return far;
}

/** The plane of a closed curve by Newell's normal; undefined where it encloses nothing. Its normal looks up, or ahead. */
function planeOf({ start, position }: CurveSet, c: number): Plane | undefined {
  const [first, end] = [start[c], start[c + 1]];
  const normal = vec3();
  const center = vec3();
  let length = 0;
  for (let p = first; p < end; p++) {
    const [i, j] = [3 * p, 3 * (p + 1 === end ? first : p + 1)];
    for (let n = 0; n < 3; n++) {
      const [a, b] = [(n + 1) % 3, (n + 2) % 3];
      center[n] += position[i + n] / (end - first);
      // about the first place: what is far from the origin loses no digits
      const at = (k: number, axis: number) => position[k + axis] - position[3 * first + axis];
      normal[n] += (at(i, a) - at(j, a)) * (at(i, b) + at(j, b));
    }
    length += Math.hypot(
      position[j] - position[i],
      position[j + 1] - position[i + 1],
      position[j + 2] - position[i + 2],
    );
  }
  if (Math.hypot(...normal) / 2 < MIN_AREA_SHARE * length * length) return undefined;
  normalize(normal, normal);
  const steep = Math.abs(normal[1]) < 1e-6;
  const back = steep ? normal[2] < 0 || (Math.abs(normal[2]) < 1e-6 && normal[0] < 0) : normal[1] < 0;
  if (back) for (let n = 0; n < 3; n++) normal[n] = -normal[n];
  const x = vec3();
  const helper: Vec3 = Math.abs(normal[0]) < 0.9 ? [1, 0, 0] : [0, 0, 1];
  const along = helper[0] * normal[0] + helper[1] * normal[1] + helper[2] * normal[2];
  for (let n = 0; n < 3; n++) x[n] = helper[n] - along * normal[n];
  normalize(x, x);
  return { center, x, y: cross(vec3(), normal, x), normal };
}

function inPlane(
  { start, position }: CurveSet,
  c: number,
  { center, x, y, normal }: Plane,
  corners: Float32Array | undefined,
): Outline {
  const out: Outline = { curve: c, flat: [], height: [], corner: [] };
  for (let p = start[c]; p < start[c + 1]; p++) {
    const d = [0, 1, 2].map((n) => position[3 * p + n] - center[n]);
    const along = (axis: Vec3) => d[0] * axis[0] + d[1] * axis[1] + d[2] * axis[2];
    out.flat.push([along(x), along(y)]);
    out.height.push(along(normal));
    out.corner.push(corners?.[p] === 1);
  }
  return out;
}

/** Counter-clockwise for `way` 1, clockwise for −1. */
function turned(outline: Outline, way: 1 | -1): Outline {
  return way * areaOf(outline.flat) > 0
    ? outline
    : {
        curve: outline.curve,
        flat: outline.flat.toReversed(),
        height: outline.height.toReversed(),
        corner: outline.corner.toReversed(),
      };
}

/**
 * The outline moved into what it encloses by this much, its sides staying parallel (mitred); undefined where one of them
 * would turn round.
 */
export function inset({ flat }: Outline, by: number): Flat[] | undefined {
  const count = flat.length;
  const normals = flat.map(([x, y], k): Flat => {
    const [nx, ny] = flat[(k + 1) % count];
    const size = Math.hypot(nx - x, ny - y) || 1;
    // to the left: into what the outline encloses
    return [(y - ny) / size, (nx - x) / size];
  });
  const out = flat.map(([x, y], k): Flat => {
    const [u, v] = [normals[(k + count - 1) % count], normals[k]];
    const lean = Math.max(0.25, 1 + u[0] * v[0] + u[1] * v[1]);
    return [x + (by * (u[0] + v[0])) / lean, y + (by * (u[1] + v[1])) / lean];
  });
  const kept = out.every(([x, y], k) => {
    const [nx, ny] = out[(k + 1) % count];
    const [ox, oy] = flat[k];
    const [px, py] = flat[(k + 1) % count];
    return (nx - x) * (px - ox) + (ny - y) * (py - oy) > 0;
  });
  return kept ? out : undefined;
}
