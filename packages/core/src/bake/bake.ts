import type { KelpDocument, Piece } from '../document/document.js';
import { documentAt } from '../document/keyed.js';
import { KelpError } from '../errors.js';
import { crossings, type Outlined, outlineOf } from '../evaluate/crossings.js';
import { type Build, evaluatePiece } from '../evaluate/evaluate.js';
import { notIgnored } from '../evaluate/gather.js';
import { MOST_VERTICES } from '../evaluate/made.js';
import type { SurfaceStore } from '../evaluate/resolve.js';
import { World } from '../evaluate/world.js';
import { type Mesh, mergeMeshes } from '../mesh/mesh.js';
import { tangentsOf } from '../mesh/tangents.js';
import { movedPart } from '../motion/moved.js';
import type { Track } from '../motion/track.js';
import { realMesh } from '../part/part.js';
import { strandMeshes } from '../part/strand-meshes.js';
import type { Material, StrandsPart } from '../unit/carriers.js';
import type { Finding } from '../unit/finding.js';
import { asShapes, type BakedShapes, shapedPieces, shapePhases } from './morphs.js';

export interface BakeOptions {
  /** Bake only the piece with this name; every visible piece otherwise. */
  piece?: string;
  /** Factor on all divisions. Default 1. */
  density?: number;
  /** Memory there is for the piece at hand, bytes. One that would need more is made coarser, and tells it. Default: no limit. */
  memory?: number;
  /** Takes each mesh as it is made; the result holds none then, and no more than one piece is in memory. */
  onMesh?(mesh: BakedMesh): void;
  /** Where the clock stands, of its loop: 0 … 1. Default 0. */
  phase?: number;
  /** Takes what moves with the clock as it moves; without it, it comes as a mesh where it stands. */
  onMoving?(moving: BakedMoving): void;
  /** Takes what the clock leads through shapes as such; without it, it comes as a mesh as it is at the beginning. */
  onShapes?(shaping: BakedShaping): void;
  /** Takes strands as strands; without it they come as meshes. */
  onStrands?(strands: BakedStrands): void;
  /** Told how many pieces are done, with the part of the one at hand, of how many, and which that is. Return false to stop. */
  onProgress?(done: number, total: number, name: string): boolean;
}

/** A vertex with its share of the faces, as it is made, merged and written, with what the piece before has left in memory. */
const BAKED_VERTEX_BYTES = 5 * 56;

/** One mesh of the result, with the one material it wears. */
export interface BakedMesh {
  name: string;
  mesh: Mesh;
  material: Material;
}

/** A part of the result that moves with the clock: one mesh that turns, or rides in many places. */
export interface BakedMoving {
  name: string;
  mesh: Mesh;
  material: Material;
  track: Track;
  /** Length of the loop, seconds. */
  seconds: number;
}

/** A mesh of the result that the clock leads through shapes. */
export interface BakedShaping extends BakedShapes {
  name: string;
  material: Material;
  /** Length of the loop, seconds. */
  seconds: number;
}

/** Many strands of the result. What writes them makes lines or meshes of them, a part at a time. */
export interface BakedStrands {
  name: string;
  strands: StrandsPart;
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
 * Computes the pieces at full density, one after the other, and gives their meshes, one for each piece and material slot.
 * @throws KelpError UNKNOWN_ID when no piece has the asked name, MISSING_PROP when a prop's mesh is not in the store,
 * CANCELLED
 */
export function bake(given: KelpDocument, surfaces: SurfaceStore, options: BakeOptions = {}): Baked {
  const document = documentAt(given, options.phase ?? 0);
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
  world.once = true;
  const out: Baked = { meshes: [], pieces: [] };
  const outlined: Outlined[] = [];
  const tell = (done: number, name: string) => {
    if (options.onProgress?.(done, pieces.length, name) === false)
      throw new KelpError('CANCELLED', 'The bake was cancelled');
  };
  const most = Math.min(MOST_VERTICES, Math.floor((options.memory ?? Infinity) / BAKED_VERTEX_BYTES));
  tell(0, pieces[0]?.name ?? '');
  pieces.forEach((piece, done) => {
    tell(done, piece.name);
    world.onStep = (share) => tell(done + share, piece.name);
    const build = evaluatePiece(world, piece, { density: options.density, most });
    out.pieces.push(reportOf(build));
    outlined.push(outlineOf(piece, build.made));
    const onMesh = options.onMesh ?? ((mesh: BakedMesh) => out.meshes.push(mesh));
    const { onMoving } = options;
    const still = onMoving
      ? handMoving(build, document.clock.seconds, piece.bake.tangents === true, onMoving)
      : atPhase(build, options.phase ?? 0);
    const source = given.pieces.find(({ id }) => id === piece.id);
    const shapes =
      options.onShapes && source?.keyed ? shapesOf(world, source, still, most, options.density) : undefined;
    if (shapes?.differ) out.pieces[done].findings.push(shapes.differ);
    let slot = 0;
    for (const mesh of bakedMeshes(still, piece.bake.tangents === true)) {
      const shaped = shapes?.meshes[slot++];
      if (shaped) options.onShapes?.({ ...shaped, ...mesh, seconds: document.clock.seconds });
      else onMesh(mesh);
    }
    for (const strands of bakedStrands(build))
      if (options.onStrands) options.onStrands(strands);
      else asMeshes(strands, onMesh);
    // what was made is handed on; only lines may be asked for again
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

/** What was built, where the clock has carried it. */
function atPhase(build: Build, phase: number): Build {
  if (build.motion.length === 0 || phase === 0) return build;
  const tracks = new Map(build.motion.map((track) => [track.part, track]));
  const parts = build.parts.map((part) => {
    const track = tracks.get(part.id);
    return track ? movedPart(part, track, phase) : part;
  });
  return { ...build, parts };
}

/** The meshes of a piece as the clock leads it through its shapes, one a slot; none of those whose vertices do not match. */
function shapesOf(world: World, piece: Piece, first: Build, most: number, density?: number): { meshes: (BakedShapes | undefined)[]; differ?: Finding } {
  const [, ...further] = shapedPieces(piece);
  const moving = new Set(first.parts.map(({ id }) => id));
  const differ: Finding = {
    code: 'shapes-differ',
    severity: 'note',
    message: 'Led by the clock its vertices are not the same all through the loop, or too many: it is written as it is at the beginning. Bake a numbered range of frames.',
  };
  if (first.measures.vertices * (further.length + 1) > most) return { meshes: [], differ };
  const builds = further.map((one) => {
    // in a world of its own: in the other one it is known as it begins
    const pieces = world.document.pieces.map((other) => (other.id === one.id ? one : other));
    const own = new World({ ...world.document, pieces }, world.surroundings);
    own.once = true;
    own.onStep = world.onStep;
    const { parts, ...build } = evaluatePiece(own, one, { density, most });
    return { ...build, parts: parts.filter(({ id }) => moving.has(id)) };
  });
  const all = [first, ...builds].map((build) => [...bakedMeshes(build, false)].map(({ mesh }) => mesh));
  const meshes = all[0].map((_mesh, slot) => asShapes(all.map((one) => one[slot]), shapePhases(piece)));
  return { meshes, ...(meshes.includes(undefined) ? { differ } : {}) };
} // biome-ignore format: its longer lines in one

/** Hands on what moves, as it moves; what is left stands still. */
function handMoving(build: Build, seconds: number, tangents: boolean, onMoving: (moving: BakedMoving) => void): Build {
  const moving = new Set<string>();
  for (const track of build.motion) {
    const part = build.parts.find(({ id }) => id === track.part);
    if (!part || part.kind === 'strands' || (track.kind === 'ride') !== (part.kind === 'placed')) continue;
    moving.add(part.id);
    const { material } = named(build, part.slot);
    onMoving({ name: `${build.name} ${part.name}`, mesh: tangents || hasRelief(material) ? withTangents(part.mesh) : part.mesh, material, track, seconds });
  }
  return moving.size > 0 ? { ...build, parts: build.parts.filter(({ id }) => !moving.has(id)) } : build;
} // biome-ignore format: its longest lines in one

/** One at a time: who takes one in hand need not have the next in memory. */
function* bakedMeshes(build: Build, tangents: boolean): Generator<BakedMesh> {
  const solid = build.parts.filter(({ kind }) => kind !== 'strands');
  for (const slot of slotsOf(build)) {
    const parts = solid.filter((part) => part.slot === slot);
    if (parts.length === 0) continue;
    const mesh = mergeMeshes(parts.map(realMesh));
    const called = named(build, slot);
    yield { ...called, mesh: tangents || hasRelief(called.material) ? withTangents(mesh) : mesh };
  }
}

/** A normal map needs tangents: without them each program would take its own. */
const hasRelief = ({ pattern }: Material): boolean => pattern !== undefined && pattern.relief > 0;

const withTangents = (mesh: Mesh): Mesh => ({
  ...mesh,
  attributes: { ...mesh.attributes, tangent: { size: 4, data: tangentsOf(mesh) } },
});

/** Where there are several kinds of lines each is called by what it is of. */
function* bakedStrands(build: Build): Generator<BakedStrands> {
  const all = build.parts.filter((part): part is StrandsPart => part.kind === 'strands');
  for (const strands of all) {
    const called = named(build, strands.slot);
    yield { ...called, name: all.length > 1 ? `${build.name} ${strands.name}` : called.name, strands };
  }
}

function asMeshes({ name, strands, material }: BakedStrands, onMesh: (mesh: BakedMesh) => void): void {
  let k = 0;
  for (const mesh of strandMeshes(strands)) onMesh({ name: k++ === 0 ? name : `${name} ${k}`, mesh, material });
}

const slotsOf = ({ parts }: Build): string[] => [...new Set(parts.map(({ slot }) => slot))];

/** What is made of a slot is called by the piece, and by the slot where there are several. */
const named = (build: Build, slot: string): { name: string; material: Material } => ({
  name: slotsOf(build).length === 1 ? build.name : `${build.name} ${slot}`,
  material: { ...build.materials[slot], name: `${build.name} ${build.materials[slot].name}` },
});
