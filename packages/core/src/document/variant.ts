import type { DrawnCurve, KelpDocument, Piece, PieceStages, Variant } from './document.js';
import { curvesOf, withPiece } from './edit.js';

/** Kept states of a piece: what runs there now is put aside under a name, and can be put back whole. */

const stagesOf = ({ path, shape, make, dress, elements, keyed, bake }: PieceStages): PieceStages => ({
  path,
  shape,
  make,
  dress,
  ...(elements ? { elements } : {}),
  ...(keyed ? { keyed } : {}),
  bake,
});

const linesOf = (document: KelpDocument, stages: PieceStages): DrawnCurve[] => {
  const used = curvesOf([stages]);
  return document.curves.filter((curve) => used.has(curve.id));
};

/** Keeps the present state of a piece, with the lines it runs along, as its newest variant. */
export const keepVariant = (document: KelpDocument, pieceId: string, id: string, name: string): KelpDocument =>
  withPiece(document, pieceId, (piece) => ({
    ...piece,
    variants: [...(piece.variants ?? []), { id, name, stages: stagesOf(piece), curves: linesOf(document, piece) }],
  }));

/**
 * Puts a kept state back: the piece's stages, and its lines as they were. A line drawn since that no piece uses any
 * more is taken out. An unknown variant changes nothing.
 */
export function takeVariant(document: KelpDocument, pieceId: string, variantId: string): KelpDocument {
  const old = document.pieces.find(({ id }) => id === pieceId);
  const variant = old?.variants?.find(({ id }) => id === variantId);
  if (!old || !variant) return document;
  const kept = new Map(variant.curves.map((curve) => [curve.id, curve]));
  const pieces = document.pieces.map((piece) => (piece.id === pieceId ? { ...piece, ...variant.stages } : piece));
  const used = curvesOf(pieces);
  const left = curvesOf([old]);
  const curves = document.curves
    .filter(({ id }) => used.has(id) || !left.has(id))
    .map((curve) => kept.get(curve.id) ?? curve);
  const there = new Set(curves.map(({ id }) => id));
  return { ...document, pieces, curves: [...curves, ...variant.curves.filter(({ id }) => !there.has(id))] };
}

/** True when the piece stands exactly as the variant keeps it. */
export function isVariant(document: KelpDocument, piece: Piece, variant: Variant): boolean {
  const now = [stagesOf(piece), linesOf(document, piece)];
  return JSON.stringify(now) === JSON.stringify([stagesOf(variant.stages), variant.curves]);
}
