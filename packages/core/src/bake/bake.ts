import type { KelpDocument, Piece } from '../document/document.js';
import { KelpError } from '../errors.js';
import { crossings, type Outlined, outlineOf } from '../evaluate/crossings.js';
import { type Build, evaluatePiece } from '../evaluate/evaluate.js';
import { notIgnored } from '../evaluate/gather.js';
import { costOfPiece, MOST_VERTICES } from '../evaluate/made.js';
import type { SurfaceStore } from '../evaluate/resolve.js';
import { World } from '../evaluate/world.js';
import { type Mesh, mergeMeshes } from '../mesh/mesh.js';
import { realMesh } from '../part/part.js';
import type { Material } from '../unit/carriers.js';
import type { Finding } from '../unit/finding.js';

export interface BakeOptions {
  /** Bake only the piece with this name; every visible piece otherwise. */
  piece?: string;
  /** Factor on all divisions. Default 1. */
  density?: number;
  /** Memory there is for it, bytes. Pieces that would need more together are each made coarser, and tell it. Default: no limit. */
  memory?: number;
  /** Told how many pieces are done, with the part of the one at hand, of how many, and which that is. Return false to stop. */
  onProgress?(done: number, total: number, name: string): boolean;
}

/** A vertex with its share of the faces, as it is made, merged, written, and in the file that is put together. */
const BAKED_VERTEX_BYTES = 5 * 56;

/** One mesh of the result, with the one material it wears. */
export interface BakedMesh {
  name: string;
  mesh: Mesh;
  material: Material;
}

export interface PieceReport {
  name: string;
  length: number;
  triangles: number;
  vertices: number;
  volume: number;
  findings: Finding[];
}

export interface Baked {
  meshes: BakedMesh[];
  pieces: PieceReport[];
}

/**
 * Computes the pieces at full density and gathers their meshes, one for each piece and material slot.
 * @throws KelpError UNKNOWN_ID when no piece has the asked name, MISSING_PROP when a prop's mesh is not in the store,
 * CANCELLED
 */
export function bake(document: KelpDocument, surfaces: SurfaceStore, options: BakeOptions = {}): Baked {
  for (const prop of document.props)
    if (!surfaces.has(prop.mesh))
      throw new KelpError('MISSING_PROP', `The mesh of prop "${prop.name}" is not there (${prop.mesh.slice(0, 12)}…)`);
  const pieces = document.pieces.filter((piece) =>
    options.piece === undefined ? piece.visible : piece.name === options.piece,
  );
  if (options.piece !== undefined && pieces.length === 0) {
    const names = document.pieces.map((piece) => `"${piece.name}"`).join(', ');
    throw new KelpError(
      'UNKNOWN_ID',
      `There is no piece called "${options.piece.slice(0, 80)}"; there are: ${names || 'none'}`,
    );
  }
  const world = new World(document, surfaces.surroundings(document));
  const out: Baked = { meshes: [], pieces: [] };
  const outlined: Outlined[] = [];
  const tell = (done: number, name: string) => {
    if (options.onProgress?.(done, pieces.length, name) === false)
      throw new KelpError('CANCELLED', 'The bake was cancelled');
  };
  tell(0, pieces[0]?.name ?? '');
  // lines are worked out for this, and kept until their piece is made
  const allowed = shareOf(world, pieces, options, tell);
  pieces.forEach((piece, done) => {
    tell(done, piece.name);
    world.onStep = (share) => tell(done + share, piece.name);
    const build = evaluatePiece(world, piece, { density: options.density, most: allowed(piece) });
    out.pieces.push(reportOf(build));
    outlined.push(outlineOf(piece, build.made));
    out.meshes.push(...bakedMeshes(build));
    // what was made is in the result; only lines may be asked for again
    world.cache.forget(piece.id);
    world.mades.clear();
  });
  const met = crossings(outlined);
  pieces.forEach((piece, i) => {
    out.pieces[i].findings.push(...notIgnored(piece, met.get(piece.id) ?? []));
  });
  tell(pieces.length, '');
  return out;
}

/** How many vertices each piece may have: what it asks for where all of them fit, else the same part of that for each. */
function shareOf(
  world: World,
  pieces: readonly Piece[],
  { memory = Infinity, density = 1 }: BakeOptions,
  tell: (done: number, name: string) => void,
): (piece: Piece) => number {
  const room = memory / BAKED_VERTEX_BYTES;
  if (room === Infinity) return () => MOST_VERTICES;
  const costs = new Map(
    pieces.map((piece) => {
      world.onStep = () => tell(0, piece.name);
      const { vertices } = costOfPiece(world, piece, density * piece.bake.density) ?? { vertices: 0 };
      return [piece, Math.min(MOST_VERTICES, vertices)];
    }),
  );
  const all = [...costs.values()].reduce((sum, vertices) => sum + vertices, 0);
  const part = Math.min(1, room / all);
  return (piece) => (part < 1 ? Math.floor(part * (costs.get(piece) ?? 0)) : MOST_VERTICES);
}

function reportOf({ name, measures, findings }: Build): PieceReport {
  return {
    name,
    length: measures.length,
    triangles: measures.triangles,
    vertices: measures.vertices,
    volume: measures.volume,
    findings,
  };
}

function bakedMeshes(build: Build): BakedMesh[] {
  const slots = [...new Set(build.parts.map((part) => part.slot))];
  return slots.map((slot) => ({
    name: slots.length === 1 ? build.name : `${build.name} ${slot}`,
    mesh: mergeMeshes(build.parts.filter((part) => part.slot === slot).map(realMesh)),
    material: { ...build.materials[slot], name: `${build.name} ${build.materials[slot].name}` },
  }));
}
