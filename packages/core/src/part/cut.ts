import { contoursOf } from '../mesh/contours.js';
import type { Mesh } from '../mesh/mesh.js';
import { transformMesh } from '../mesh/transform.js';
import {
  cross,
  distance,
  dot,
  mix,
  pointOf,
  readPoint,
  subtract,
  upAcross,
  type Vec3,
  vec3,
} from '../numeric/vector.js';
import type { Part, PlacedPart, StrandsPart } from '../unit/carriers.js';

/** A place on a line and the plane across it. */
export interface CutPlane {
  at: Vec3;
  tangent: Vec3;
  /** Up as far as the direction allows, and right of it seen along the line. */
  up: Vec3;
  side: Vec3;
}

export function cutPlane(at: Vec3, tangent: Vec3): CutPlane {
  const up = upAcross(vec3(), tangent);
  return { at, tangent, up, side: cross(vec3(), tangent, up) };
}

/** Points of the outline that represents a strand. */
const STRAND_SIDES = 10;

/**
 * Outlines of a part where a plane cuts it, closed ones only: flat (side, up) pairs from the plane's place, metres.
 * Of what is placed or made of strands, only what is within `around` of that place is looked at.
 */
export function cutPart(part: Part, plane: CutPlane, around: number): Float64Array[] {
  switch (part.kind) {
    case 'mesh':
      return cutMesh(part.mesh, plane);
    case 'placed':
      return cutPlaced(part, plane, around);
    case 'strands':
      return cutStrands(part, plane, around);
  }
}

/** The faces that a plane crosses, which alone decide the outlines: one pass over a mesh of any size. */
function crossedFaces({ position, index }: Pick<Mesh, 'position' | 'index'>, tangent: Vec3, level: number) {
  const above = new Uint8Array(position.length / 3);
  for (let v = 0; v < above.length; v++)
    above[v] =
      position[3 * v] * tangent[0] + position[3 * v + 1] * tangent[1] + position[3 * v + 2] * tangent[2] < level
        ? 0
        : 1;
  const faces: number[] = [];
  for (let i = 0; i < index.length; i += 3) {
    const sum = above[index[i]] + above[index[i + 1]] + above[index[i + 2]];
    if (sum > 0 && sum < 3) faces.push(index[i], index[i + 1], index[i + 2]);
  }
  const number = new Map<number, number>();
  const places: number[] = [];
  const small = Uint32Array.from(faces, (v) => {
    let to = number.get(v);
    if (to === undefined) {
      to = number.size;
      number.set(v, to);
      places.push(position[3 * v], position[3 * v + 1], position[3 * v + 2]);
    }
    return to;
  });
  return { position: Float32Array.from(places), index: small };
}

function cutMesh(mesh: Pick<Mesh, 'position' | 'index'>, { at, tangent, side, up }: CutPlane): Float64Array[] {
  const level = dot(at, tangent);
  return contoursOf(crossedFaces(mesh, tangent, level), tangent, level, 1, 1).flatMap(({ closed, position }) => {
    if (!closed) return [];
    const points = new Float64Array((2 * position.length) / 3);
    const from = vec3();
    for (let p = 0; 3 * p < position.length; p++) {
      subtract(from, pointOf(position, p), at);
      points[2 * p] = dot(from, side);
      points[2 * p + 1] = dot(from, up);
    }
    return [points];
  });
}

function cutPlaced({ mesh, places }: PlacedPart, plane: CutPlane, around: number): Float64Array[] {
  let reach = 0;
  for (let p = 0; 3 * p < mesh.position.length; p++)
    reach = Math.max(reach, distance(pointOf(mesh.position, p), [0, 0, 0]));
  return Array.from(places.id.keys()).flatMap((i) => {
    const matrix = places.matrix.subarray(16 * i, 16 * i + 16);
    const size = reach * Math.cbrt(Math.abs(determinant(matrix)));
    const middle: Vec3 = [matrix[12], matrix[13], matrix[14]];
    if (distance(middle, plane.at) > around + 2 * size) return [];
    return cutMesh(transformMesh(mesh, matrix), plane);
  });
}

const determinant = (m: ArrayLike<number>): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);

function cutStrands(
  { curves, width }: StrandsPart,
  { at, tangent, side, up }: CutPlane,
  around: number,
): Float64Array[] {
  const out: Float64Array[] = [];
  const level = dot(at, tangent);
  const [a, b, place] = [vec3(), vec3(), vec3()];
  for (let c = 0; c < curves.closed.length; c++)
    for (let p = curves.start[c]; p + 1 < curves.start[c + 1]; p++) {
      readPoint(a, curves.position, p);
      readPoint(b, curves.position, p + 1);
      const [below, above] = [dot(a, tangent) - level, dot(b, tangent) - level];
      if (below > 0 === above > 0) continue;
      const t = below / (below - above);
      mix(place, a, b, t);
      if (distance(place, at) > around) continue;
      subtract(place, place, at);
      const radius = (width[p] + t * (width[p + 1] - width[p])) / 2;
      const points = new Float64Array(2 * STRAND_SIDES);
      for (let k = 0; k < STRAND_SIDES; k++) {
        const turn = (2 * Math.PI * k) / STRAND_SIDES;
        points[2 * k] = dot(place, side) + radius * Math.cos(turn);
        points[2 * k + 1] = dot(place, up) + radius * Math.sin(turn);
      }
      out.push(points);
    }
  return out;
}
