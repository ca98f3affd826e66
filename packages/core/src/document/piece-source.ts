import type { KelpDocument, Piece } from './document.js';
import { referencesOf } from './references.js';

/**
 * All that a piece is made from, as text: as long as that is the same, so is what is made. What it is drawn on and wears is
 * the whole of it; where it names other pieces these too, with all lines.
 */
export function pieceSource(document: KelpDocument, piece: Piece): string {
  const { pieces, curves, name: _, displayUnit: __, ...rest } = document;
  const named = referencesOf(piece);
  const own =
    named.pieces.length > 0
      ? { pieces, curves }
      : { piece, curves: curves.filter(({ id }) => named.curves.includes(id)) };
  return JSON.stringify([own, rest]);
}
