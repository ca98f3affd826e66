import { chainEdges, edgesOf, edgeTurns, faceNormals } from '../../mesh/edges.js';
import type { Mesh } from '../../mesh/mesh.js';
import { addScaled, cross, dot, length, normalize, subtract, upAcross, type Vec3, vec3 } from '../../numeric/vector.js';
import { propSpace } from '../../surface/prop-space.js';
import { createHit, type Surface } from '../../surface/surface.js';
import type { Surroundings } from '../../surface/surroundings.js';

/** A closed rim that a bridge leaves from or comes to. World metres. */
export interface Opening {
  /** Its places in order, counter-clockwise about `outward`, flat xyz. */
  place: Float64Array;
  /** Which way the walls go on from each place, unit, flat xyz. */
  wall: Float64Array;
  center: Vec3;
  /** Unit direction away from what is open. */
  outward: Vec3;
  /** Mean distance of its places from the centre. */
  radius: number;
}

/** A rim is meant by a place that is nearer to its middle than this many times its radius. */
const MEANT = 1.5;
/** Faces that turn by less than 1° are one flat face. */
const FLAT = Math.cos(Math.PI / 180);
/** A flat face is meant by a place that is no further off it than this many times its radius. */
const OFF_FACE = 0.5;
/** Faces of one flat region at most. */
const MAX_FACES = 20_000;

/**
 * The opening meant by a place: of what is nearest to it, the nearest rim, or the flat face it lies on.
 * @param sets what there is to meet: the props, and other pieces
 */
export function openingAt(at: Vec3, sets: readonly Surroundings[]): Opening | undefined {
  const hit = createHit();
  let surface: Surface | undefined;
  let within = Infinity;
  for (const set of sets) {
    const id = set.closest(at[0], at[1], at[2], hit, within);
    if (id === undefined) continue;
    surface = set.surface(id);
    within = hit.distance;
  }
  if (!surface) return undefined;
  let best: Opening | undefined;
  let nearest = MEANT;
  for (const loop of rimsOf(surface.mesh)) {
    const opening = inWorld(surface, loop);
    const away = length(subtract(vec3(), at, opening.center)) / opening.radius;
    if (away < nearest) [best, nearest] = [opening, away];
  }
  if (best) return best;
  const face = faceLoop(surface.mesh, hit.triangle);
  const opening = face && inWorld(surface, face);
  return opening && hit.distance < OFF_FACE * opening.radius ? opening : undefined;
}

/** A closed row of places in the mesh's own space, with the way its walls go on, and a direction it opens to. */
interface Loop {
  place: number[];
  wall: number[];
  outward: Vec3;
}

const rims = new WeakMap<Uint32Array, Loop[]>();

/** All closed rims of a mesh; worked out once for each. */
function rimsOf(mesh: Pick<Mesh, 'position' | 'index'>): Loop[] {
  let out = rims.get(mesh.index);
  if (out) return out;
  const { ends, faces } = edgesOf(mesh);
  const open: number[] = [];
  for (let e = 0; e < ends.length / 2; e++) if (faces[2 * e + 1] === -1) open.push(e);
  out = loopsOf(mesh, open, (e) => faces[2 * e]);
  rims.set(mesh.index, out);
  return out;
}

/** The outer rim of the flat face that a triangle belongs to. */
function faceLoop(mesh: Pick<Mesh, 'position' | 'index'>, triangle: number): Loop | undefined {
  const edges = edgesOf(mesh);
  const normals = faceNormals(mesh);
  const turns = edgeTurns(mesh, edges);
  const inside = new Set([triangle]);
  const queue = [triangle];
  const border: number[] = [];
  const normalOf = (f: number) => [normals[3 * f], normals[3 * f + 1], normals[3 * f + 2]] as const;
  for (let f = queue.pop(); f !== undefined && inside.size < MAX_FACES; f = queue.pop())
    for (let k = 0; k < 3; k++) {
      const e = edges.ofFace[3 * f + k];
      if (e < 0) continue;
      const other = edges.faces[2 * e] === f ? edges.faces[2 * e + 1] : edges.faces[2 * e];
      if (other < 0 || turns[e] < FLAT || dot(normalOf(other), normalOf(triangle)) < FLAT) continue;
      if (inside.has(other)) continue;
      inside.add(other);
      queue.push(other);
    }
  for (const f of inside)
    for (let k = 0; k < 3; k++) {
      const e = edges.ofFace[3 * f + k];
      if (e < 0) continue;
      const other = edges.faces[2 * e] === f ? edges.faces[2 * e + 1] : edges.faces[2 * e];
      if (!inside.has(other)) border.push(e);
    }
  const beyond = (e: number) => (inside.has(edges.faces[2 * e]) ? edges.faces[2 * e + 1] : edges.faces[2 * e]);
  const loops = loopsOf(mesh, border, beyond);
  const outward = normalize(vec3(), normalOf(triangle));
  const around = loops.toSorted((a, b) => perimeter(b) - perimeter(a))[0];
  return around && { ...around, outward };
}

const perimeter = ({ place }: Loop): number => {
  let sum = 0;
  for (let i = 0; i < place.length; i += 3) {
    const j = (i + 3) % place.length;
    sum += Math.hypot(place[j] - place[i], place[j + 1] - place[i + 1], place[j + 2] - place[i + 2]);
  }
  return sum;
};

/** Edges strung to closed rows. @param beside the face whose wall goes on at an edge; below 0 where there is none */
function loopsOf(
  mesh: Pick<Mesh, 'position' | 'index'>,
  chosen: readonly number[],
  beside: (e: number) => number,
): Loop[] {
  const { position, index } = mesh;
  const { ends, vertexOf, placeOf } = edgesOf(mesh);
  const normals = faceNormals(mesh);
  const at = (place: number): Vec3 => {
    const v = 3 * vertexOf[place];
    return [position[v], position[v + 1], position[v + 2]];
  };
  const walls = new Map<number, Vec3>();
  const faces = new Map<number, Vec3>();
  for (const e of chosen) {
    const face = beside(e);
    if (face < 0) continue;
    const [a, b] = [ends[2 * e], ends[2 * e + 1]];
    const third = [0, 1, 2].map((k) => placeOf[index[3 * face + k]]).find((place) => place !== a && place !== b);
    if (third === undefined) continue;
    const along = normalize(vec3(), subtract(vec3(), at(b), at(a)));
    const into = subtract(vec3(), at(a), at(third));
    const out = normalize(vec3(), addScaled(vec3(), into, along, -dot(into, along)));
    for (const place of [a, b]) {
      walls.set(place, addScaled(vec3(), walls.get(place) ?? vec3(), out, 1));
      faces.set(place, addScaled(vec3(), faces.get(place) ?? vec3(), normals.subarray(3 * face, 3 * face + 3), 1));
    }
  }
  return chainEdges(ends, chosen)
    .filter(({ closed, places }) => closed && places.length > 2)
    .map(({ places }) => {
      const wall = places.map((place) => normalize(vec3(), walls.get(place) ?? vec3()));
      const sum = (all: Iterable<Vec3>) => [...all].reduce((total, one) => addScaled(vec3(), total, one, 1), vec3());
      const going = sum(wall);
      // the rim of a hole in a flat plate opens to the side its faces look to
      const flat = length(going) < 0.1 * places.length;
      const outward = normalize(vec3(), flat ? sum(places.map((place) => faces.get(place) ?? vec3())) : going);
      return { place: places.flatMap(at), wall: wall.flat(), outward };
    });
}

/** The loop where the prop stands, counter-clockwise about its own normal, which looks where it opens to. */
function inWorld(surface: Surface, { place, wall, outward }: Loop): Opening {
  const space = propSpace(surface);
  const world = new Float64Array(place.length);
  for (let i = 0; i < place.length; i += 3) space.toWorld(place[i], place[i + 1], place[i + 2], world, i);
  const origin = vec3();
  space.toWorld(0, 0, 0, origin, 0);
  const turnedTo = (x: number, y: number, z: number): Vec3 => {
    const to = vec3();
    space.toWorld(x, y, z, to, 0);
    return normalize(to, subtract(to, to, origin));
  };
  const wallWorld = new Float64Array(wall.length);
  for (let i = 0; i < wall.length; i += 3) wallWorld.set(turnedTo(wall[i], wall[i + 1], wall[i + 2]), i);
  return openingOf(world, wallWorld, turnedTo(...outward));
}

/** An opening from its places: its normal by Newell's method, on the side that it opens to. */
function openingOf(place: Float64Array, wall: Float64Array, opens: Vec3): Opening {
  const count = place.length / 3;
  const center = vec3();
  const normal = vec3();
  for (let i = 0; i < place.length; i += 3) {
    const j = (i + 3) % place.length;
    for (let n = 0; n < 3; n++) {
      const [a, b] = [(n + 1) % 3, (n + 2) % 3];
      center[n] += place[i + n] / count;
      normal[n] += (place[i + a] - place[j + a]) * (place[i + b] + place[j + b]);
    }
  }
  normalize(normal, normal);
  const turned = dot(normal, opens) < 0;
  let radius = 0;
  for (let i = 0; i < place.length; i += 3)
    radius += Math.hypot(place[i] - center[0], place[i + 1] - center[1], place[i + 2] - center[2]) / count;
  const outward = turned ? addScaled(vec3(), vec3(), normal, -1) : normal;
  return turned
    ? { place: backwards(place), wall: backwards(wall), center, outward, radius }
    : { place, wall, center, outward, radius };
}

/** Flat xyz in the other order. */
export function backwards(flat: Float64Array): Float64Array {
  const out = new Float64Array(flat.length);
  for (let i = 0; i < flat.length; i += 3) out.set(flat.subarray(i, i + 3), flat.length - 3 - i);
  return out;
}

/** A round opening of a radius, where there is none: it looks along a direction. */
export function roundOpening(center: Vec3, outward: Vec3, radius: number, sides: number): Opening {
  const up = upAcross(vec3(), outward);
  const side = cross(vec3(), outward, up);
  const place = new Float64Array(3 * sides);
  const wall = new Float64Array(3 * sides);
  for (let k = 0; k < sides; k++) {
    const [cos, sin] = [radius * Math.cos((2 * Math.PI * k) / sides), radius * Math.sin((2 * Math.PI * k) / sides)];
    for (let n = 0; n < 3; n++) place[3 * k + n] = center[n] + cos * up[n] + sin * side[n];
    wall.set(outward, 3 * k);
  }
  return { place, wall, center: [...center], outward: [...outward], radius };
}
