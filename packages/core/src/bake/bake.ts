import type { CurveSet } from '../curve/curve-set.js';
import type { KelpDocument, Piece } from '../document/document.js';
import { documentAt } from '../document/keyed.js';
import { pieceSource } from '../document/piece-source.js';
import { KelpError } from '../errors.js';
import { crossings, type Outlined, outlineOf } from '../evaluate/crossings.js';
import { type Build, evaluatePiece } from '../evaluate/evaluate.js';
import { notIgnored } from '../evaluate/gather.js';
import { MAX_VERTICES } from '../evaluate/made.js';
import type { SurfaceStore } from '../evaluate/resolve.js';
import { World } from '../evaluate/world.js';
import type { Mesh } from '../mesh/mesh.js';
import type { Track } from '../motion/track.js';
import type { Material, Placements, StrandsPart } from '../unit/carriers.js';
import { type Finding, findingText } from '../unit/finding.js';
import { millimetres } from '../unit/millimetres.js';
import { BakeEmitter, meshesOf } from './bake-emitter.js';
import type { Handed, KeptPiece, KeptPieces } from './kept-pieces.js';
import { buildAt, lighterBuild, partsTriangles } from './lighter.js';
import { asShapes, type BakedShapes, shapedPieces, shapePhases } from './morphs.js';
import { type BakeSettings, PLAIN_SETTINGS } from './settings.js';

export interface BakeOptions extends Partial<BakeSettings> {
  /** Memory there is for the piece at hand, bytes. One that would need more is made coarser, with a finding. Default: no limit. */
  memory?: number;
  /** Takes each mesh as it is made; the result holds none then, and no more than one piece is in memory. */
  onMesh?(mesh: BakedMesh): void;
  /** Receives placed parts where instances are asked for; without it, they come as meshes. */
  onPlaced?(placed: BakedPlaced): void;
  /** Where the clock stands, of its loop: 0 … 1. Default 0. */
  phase?: number;
  /** Takes what moves with the clock as it moves; without it, it comes as a mesh where it is. */
  onMoving?(moving: BakedMoving): void;
  /** Takes what the clock leads through shapes as such; without it, it comes as a mesh as it is at the beginning. */
  onShapes?(shaping: BakedShaping): void;
  /** Takes the lines that pieces run along, those of strands left out. */
  onLines?(lines: BakedLines): void;
  /** Takes strands as strands; without it they come as meshes. */
  onStrands?(strands: BakedStrands): void;
  /** What was baked of pieces that have not changed is taken from here, and what is baked kept here. */
  kept?: KeptPieces;
  /** Called with how many pieces are done, with the part of the one at hand, of how many, and which that is. Return false to stop. */
  onProgress?(done: number, total: number, name: string): boolean;
}

/** A vertex with its share of the faces, as it is made, merged and written, with what the piece before has left in memory. */
const BAKED_VERTEX_BYTES = 5 * 56;

/** One mesh of the result, with the one material it wears. */
export interface BakedMesh {
  name: string;
  mesh: Mesh;
  material: Material;
  /** The piece it is of; none where it is of several. */
  piece?: string;
  /** Where the piece's origin is, which the mesh is measured from; the world's when absent. */
  at?: readonly [number, number, number];
}

/** A mesh that is in many places. */
export interface BakedPlaced extends BakedMesh {
  places: Placements;
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

/** The lines that a piece runs along. */
export interface BakedLines {
  name: string;
  curves: CurveSet;
  material: Material;
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
  /** How far it was made lighter than at its density: it may be so far off that, metres. */
  off?: number;
  findings: Finding[];
}

export interface Baked {
  meshes: BakedMesh[];
  pieces: PieceReport[];
}

/**
 * Computes the pieces at full density, one after the other, and gives their meshes, one for each piece and material slot.
 * @throws KelpError EMPTY_MESH when no piece is chosen, UNKNOWN_ID when no piece has the asked name, MISSING_PROP when a prop's mesh is not in the store,
 * CANCELLED
 */
export function bake(given: KelpDocument, surfaces: SurfaceStore, options: BakeOptions = {}): Baked {
  const document = documentAt(given, options.phase ?? 0);
  for (const prop of document.props)
    if (!surfaces.has(prop.mesh))
      throw new KelpError('MISSING_PROP', `The mesh of prop "${prop.name}" is not there (${prop.mesh.slice(0, 12)}…)`);
  const pieces = chosenPieces(document, options.pieces);
  if (pieces.length === 0)
    throw new KelpError('EMPTY_MESH', 'Nothing to bake: no piece is visible. Show a piece, or name one.');
  const world = new World(document, surfaces.surroundings(document));
  world.once = true;
  const out: Baked = { meshes: [], pieces: [] };
  const outlined: Outlined[] = [];
  const tell = (done: number, name: string) => {
    if (options.onProgress?.(done, pieces.length, name) === false) throw new KelpError('CANCELLED', 'Bake cancelled');
  };
  const most = Math.min(MAX_VERTICES, Math.floor((options.memory ?? Infinity) / BAKED_VERTEX_BYTES));
  const onMesh = options.onMesh ?? ((mesh: BakedMesh) => out.meshes.push(mesh));
  let handed: Handed[] = [];
  // only what is to be kept is held on to
  const hold = options.kept && ((one: Handed) => handed.push(one));
  const emitter = new BakeEmitter({ ...PLAIN_SETTINGS, ...options }, document, onMesh, options, hold);
  const keeping = keepingOf(given, options);
  tell(0, pieces[0]?.name ?? '');
  const shares = options.triangles === undefined ? undefined : trianglesFor(world, pieces, options, most);
  pieces.forEach((piece, done) => {
    tell(done, piece.name);
    const known = keeping?.get(piece);
    if (known) {
      for (const one of known.handed) emitter.give(one);
      out.pieces.push({ ...known.report, findings: [...known.report.findings] });
      outlined.push(known.outlined);
      return;
    }
    handed = [];
    world.onStep = (share) => tell(done + share, piece.name);
    const density = (options.density ?? 1) * (shares?.density ?? 1);
    const full = evaluatePiece(world, piece, { density, most });
    const { build, off } =
      options.within === undefined
        ? { build: full, off: 0 }
        : lighterBuild(world, piece, full, density, options.within, most);
    // what only the lighter one has is no fault of the piece
    const report = reportOf(build, shares?.findings.get(piece.id) ?? full.findings);
    out.pieces.push(report);
    outlined.push(outlineOf(piece, full.made));
    const source = given.pieces.find(({ id }) => id === piece.id);
    const shapes = (still: Build) =>
      options.onShapes && source?.keyed
        ? shapesOf(world, source, still, most, density, options.merge === 'part')
        : undefined;
    const lighter = {
      within: options.within === undefined ? undefined : options.within - off,
      triangles: shares?.of.get(piece.id),
    };
    const { simplified: more, findings, triangles, vertices } = emitter.add(piece, build, lighter, shapes);
    report.findings.push(...findings);
    if (options.within !== undefined || options.slots || more > 0) Object.assign(report, { triangles, vertices });
    // against a number of triangles it is not known: the coarser one is not measured there
    if (options.within !== undefined) report.off = off + more;
    keeping?.keep(piece, {
      handed,
      report: { ...report, findings: [...report.findings] },
      outlined: outlined[outlined.length - 1],
    });
    // what was made is handed on; only lines may be asked for again
    world.cache.forget(piece.id);
    world.mades.clear();
  });
  emitter.finish();
  const met = crossings(outlined);
  const words = { length: millimetres, propName: world.propName };
  pieces.forEach((piece, i) => {
    const { findings } = out.pieces[i];
    findings.push(...notIgnored(piece, met.get(piece.id) ?? []));
    out.pieces[i].findings = findings.map((finding) => ({ ...finding, message: findingText(finding, words) }));
  });
  tell(pieces.length, '');
  return out;
}

/** What is kept of each piece, known by all that it is made from and how it is baked; a number of triangles hangs on all. */
function keepingOf(document: KelpDocument, options: BakeOptions) {
  const { kept, triangles, pieces: _, onProgress: __, ...asked } = options;
  if (!kept || triangles !== undefined) return undefined;
  // of the takers it counts that they are there
  const how = JSON.stringify(asked, (key, value) => (typeof value === 'function' ? key : value));
  const sourceOf = (piece: Piece) =>
    `${how} ${pieceSource(document, document.pieces.find(({ id }) => id === piece.id) ?? piece)}`;
  return {
    get: (piece: Piece) => kept.get(piece.id, sourceOf(piece)),
    keep: (piece: Piece, one: KeptPiece) => kept.keep(piece.id, sourceOf(piece), one),
  };
}

/** @param names of pieces, or ids of some whose names others have too @throws KelpError UNKNOWN_ID when it is none of a piece's */
function chosenPieces({ pieces }: KelpDocument, names: readonly string[] | undefined): Piece[] {
  if (!names) return pieces.filter(({ visible }) => visible);
  for (const asked of names)
    if (!pieces.some(({ name, id }) => name === asked || id === asked)) {
      const known = pieces.map(({ name }) => `"${name}"`).join(', ');
      throw new KelpError('UNKNOWN_ID', `No piece is called "${asked.slice(0, 80)}"; available: ${known || 'none'}`);
    }
  return pieces.filter(({ name, id }) => names.includes(name) || names.includes(id));
}

/** By how much all are to be made coarser for a number of triangles, and how many of these each piece may have then. */
interface Shares {
  density: number;
  of: Map<string, number>;
  /** As each piece has them at the density that was asked for. */
  findings: Map<string, readonly Finding[]>;
}

function trianglesFor(
  world: World,
  pieces: readonly Piece[],
  { triangles = 0, density = 1 }: BakeOptions,
  most: number,
): Shares {
  const of = new Map<string, number>();
  const findings: Shares['findings'] = new Map();
  for (const piece of pieces) {
    const build = buildAt(world, piece, density, most);
    of.set(piece.id, partsTriangles(build));
    findings.set(piece.id, build.findings);
  }
  const sum = [...of.values()].reduce((total, one) => total + one, 0);
  if (sum <= triangles) return { density: 1, of, findings };
  const share = triangles / sum;
  for (const [id, count] of of) of.set(id, Math.max(4, Math.floor(share * count)));
  // rings and sides both go by the density; what cannot be coarser is simplified
  return { density: Math.sqrt(share), of, findings };
}

function reportOf({ name, measures }: Build, findings: readonly Finding[]): PieceReport {
  return {
    name,
    length: measures.length,
    triangles: measures.triangles,
    vertices: measures.vertices,
    volume: measures.volume,
    findings: [...findings],
  };
}

/** The meshes of a piece as the clock leads it through its shapes, one a slot; none of those whose vertices do not match. */
function shapesOf(
  world: World,
  piece: Piece,
  first: Build,
  most: number,
  density: number,
  byPart: boolean,
): { meshes: (BakedShapes | undefined)[]; differ?: Finding } {
  const [, ...further] = shapedPieces(piece);
  const moving = new Set(first.parts.map(({ id }) => id));
  const differ: Finding = {
    code: 'shapes-differ',
    severity: 'note',
    message:
      'The animation changes its vertex count, or has too many vertices: only the first frame is written. Bake a frame sequence instead.',
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
  const all = [first, ...builds].map((build) => meshesOf(build, build, byPart, false).map(({ mesh }) => mesh()));
  const meshes = all[0].map((_mesh, slot) =>
    asShapes(
      all.map((one) => one[slot]),
      shapePhases(piece),
    ),
  );
  return { meshes, ...(meshes.includes(undefined) ? { differ } : {}) };
}
