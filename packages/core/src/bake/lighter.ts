import type { Piece } from '../document/document.js';
import { type Build, evaluatePiece } from '../evaluate/evaluate.js';
import { World } from '../evaluate/world.js';
import { type Mesh, mergeMeshes, vertexCount } from '../mesh/mesh.js';
import { partCounts, realMesh } from '../part/part.js';
import { Surface } from '../surface/surface.js';
import { simplified } from './simplify.js';

/** Densities that are tried, as shares of the one asked for. */
const SHARES = [0.7, 0.5, 0.35, 0.25, 0.18, 0.125, 0.09, 0.0625];
/** Of the error that is allowed this much goes to fewer divisions; what is left of it to simplification. */
const BY_DENSITY = 0.7;
/** Places that are asked how far off they are; and a piece of more triangles than this is only simplified. */
const PLACES = 20_000;
const MAX_TRIANGLES = 2_000_000;

/** A build, and how far it is off the one at the density that was asked for, metres. */
export interface Lighter {
  build: Build;
  off: number;
}

/** The piece at the least density at which its surface is no further than that off its own at full density. */
export function lighterBuild(
  world: World,
  piece: Piece,
  full: Build,
  density: number,
  within: number,
  most: number,
): Lighter {
  const own = skinOf(full);
  let best: Lighter = { build: full, off: 0 };
  // how far strands are off at another density is not measured: they are only simplified
  if (!own || own.index.length > 3 * MAX_TRIANGLES || full.parts.some(({ kind }) => kind === 'strands')) return best;
  const surface = Surface.of(own);
  for (const share of SHARES) {
    const build = buildAt(world, piece, density * share, most);
    const skin = skinOf(build);
    // what has come apart into other parts is something else, and not lighter
    if (!skin || build.parts.length !== full.parts.length) break;
    if (partsTriangles(build) >= partsTriangles(best.build)) continue;
    const off = Math.max(farthest(own, Surface.of(skin)), farthest(skin, surface));
    if (off > BY_DENSITY * within) break;
    best = { build, off };
  }
  return best;
}

/** The piece at a density, in a world of its own: in the other one it is known as it is. */
export function buildAt(world: World, piece: Piece, density: number, most: number): Build {
  const own = new World(world.document, world.surroundings);
  own.once = true;
  own.onStep = world.onStep;
  return evaluatePiece(own, piece, { density, most });
}

export const partsTriangles = ({ parts }: Build): number =>
  parts.reduce((sum, part) => sum + partCounts(part).triangles, 0);

/** All of a piece that is no strands, as one mesh. */
function skinOf({ parts }: Build): Mesh | undefined {
  const meshes = parts.flatMap((part) => (part.kind === 'strands' ? [] : [realMesh(part)]));
  return meshes.some((mesh) => mesh.index.length > 0) ? mergeMeshes(meshes) : undefined;
}

/**
 * The quadrics say less than is true: where a mesh comes out further off, this many smaller errors are tried, the first and each
 * further one by these factors. */
const TRIES = 6;
const FIRST = 0.6;
const SMALLER = 0.6;

/**
 * A mesh simplified so that it is truly no further off than that, both ways, as far as places of both tell (Hausdorff's
 * distance, sampled); down to a number of triangles, where it says how far off it is then.
 */
export function leanMesh(mesh: Mesh, within: number, triangles: number): { mesh: Mesh; off: number } {
  const own = Surface.of(mesh);
  let allowed = FIRST * within;
  for (let k = 0; k < TRIES; k++) {
    const lean = simplified(mesh, allowed, triangles);
    if (lean === mesh || lean.index.length === 0) break;
    const off = Math.max(farthest(mesh, Surface.of(lean)), farthest(lean, own));
    if (off <= within) return { mesh: lean, off };
    allowed *= SMALLER;
  }
  return { mesh, off: 0 };
}

/** How far the vertices and the middles of faces of a mesh are off a surface at most, metres. */
export function farthest(mesh: Mesh, surface: Surface): number {
  const { position, index } = mesh;
  let most = 0;
  const look = (x: number, y: number, z: number) => {
    most = Math.max(most, surface.distance(x, y, z, Infinity));
  };
  const vertices = vertexCount(mesh);
  const step = Math.max(1, Math.ceil(vertices / PLACES));
  for (let v = 0; v < vertices; v += step) look(position[3 * v], position[3 * v + 1], position[3 * v + 2]);
  const faces = index.length / 3;
  const every = Math.max(1, Math.ceil(faces / PLACES));
  for (let f = 0; f < faces; f += every) {
    const [a, b, c] = [3 * index[3 * f], 3 * index[3 * f + 1], 3 * index[3 * f + 2]];
    look(
      (position[a] + position[b] + position[c]) / 3,
      (position[a + 1] + position[b + 1] + position[c + 1]) / 3,
      (position[a + 2] + position[b + 2] + position[c + 2]) / 3,
    );
  }
  return most;
}
