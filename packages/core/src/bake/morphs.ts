import type { Piece } from '../document/document.js';
import { pieceAt } from '../document/keyed.js';
import type { Mesh } from '../mesh/mesh.js';

/** A mesh that goes through shapes over the loop: between two of them straight. */
export interface BakedShapes {
  mesh: Mesh;
  /** What is added to places and normals for each further shape. */
  targets: { position: Float32Array; normal: Float32Array }[];
  /** Of the loop, 0 … 1; and which shape it has there: 0 the mesh itself. */
  keys: { phase: number; shape: number }[];
}

/** Shapes over a loop: what goes there and back has each twice. */
const SHAPES = 16;

/** Places in the loop at which a piece whose numbers are led is made, and which of its shapes each is. */
export function shapePhases({ keyed = [] }: Pick<Piece, 'keyed'>): { phase: number; shape: number }[] {
  const back = keyed.every(({ way }) => way === 'back');
  return Array.from({ length: SHAPES + 1 }, (_, k) => ({
    phase: k / SHAPES,
    shape: back && k > SHAPES / 2 ? SHAPES - k : k,
  }));
}

/** A piece in each of its shapes, the first one first. */
export const shapedPieces = (piece: Piece): Piece[] =>
  shapePhases(piece)
    .filter(({ shape }, k) => shape === k)
    .map(({ phase }) => pieceAt(piece, phase));

/** Meshes of one kind as one that changes its shape; undefined where their vertices do not match. */
export function asShapes(meshes: readonly (Mesh | undefined)[], keys: BakedShapes['keys']): BakedShapes | undefined {
  const [mesh, ...further] = meshes as readonly Mesh[];
  const alike = further.every(
    (one) =>
      one?.position.length === mesh.position.length &&
      one.index.length === mesh.index.length &&
      one.index.every((value, i) => value === mesh.index[i]),
  );
  if (!alike) return undefined;
  const less = (a: Float32Array, b: Float32Array) => a.map((value, i) => value - b[i]);
  const targets = further.map(({ position, normal }) => ({
    position: less(position, mesh.position),
    normal: less(normal, mesh.normal),
  }));
  return { mesh, targets, keys };
}
