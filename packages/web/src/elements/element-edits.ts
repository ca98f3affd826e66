import { type ElementEdit, type Part, type Piece, placesOf } from '@kelp/core';
import { editPieces } from '../manifest/piece-edits.js';

/** What was done to an element by hand; nothing yet when it is not listed. */
export const editOf = ({ elements }: Piece, id: number): ElementEdit =>
  elements?.find((one) => one.id === id) ?? { id };

/** Changes one element by hand; what comes to nothing is not kept. */
export function changeElement(piece: Piece, id: number, words: string, change: Partial<ElementEdit>, gesture?: string) {
  return editPieces(
    [piece],
    `${words} a part of ${piece.name}`,
    (now) => {
      const { id: _, ...next } = { ...editOf(now, id), ...change };
      const kept = Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined && value !== ''));
      const others = (now.elements ?? []).filter((one) => one.id !== id);
      return withList(now, Object.keys(kept).length > 0 ? [...others, { id, ...kept }] : others);
    },
    gesture,
  );
}

/** All elements of a piece as its unit makes them. */
export const putAllBack = (piece: Piece) =>
  editPieces([piece], `Reset parts of ${piece.name}`, (now) => withList(now, []));

function withList(piece: Piece, elements: ElementEdit[]): Piece {
  const { elements: _, ...rest } = piece;
  return elements.length > 0 ? { ...rest, elements } : rest;
}

/** Where an element stands in what was made; undefined where it is dropped, or not there. */
export function elementPlace(parts: readonly Part[], id: number): [number, number, number] | undefined {
  for (const part of parts) {
    const places = placesOf(part);
    const i = places?.id.indexOf(id) ?? -1;
    if (places && i >= 0) return [12, 13, 14].map((k) => places.matrix[16 * i + k]) as [number, number, number];
  }
  return undefined;
}
