import { freeName, keepVariant, type Piece, takeVariant, type Variant, withPiece } from '@kelp/core';
import { edit, newId } from '../state/edits.js';

/** Keeps the present state of a piece under the next free name. */
export const keepNow = (piece: Piece) =>
  edit(`Save a variant of ${piece.name}`, (document) =>
    keepVariant(document, piece.id, newId(), freeName('Variant', piece.variants ?? [])),
  );

export const putBack = (piece: Piece, variant: Variant) =>
  edit(`${variant.name} of ${piece.name}`, (document) => takeVariant(document, piece.id, variant.id));

const withVariants = (label: string, piece: Piece, change: (old: Variant[]) => Variant[]) =>
  edit(label, (document) => withPiece(document, piece.id, (now) => ({ ...now, variants: change(now.variants ?? []) })));

export const renameVariant = (piece: Piece, { id }: Variant, name: string) =>
  withVariants(`Rename a variant of ${piece.name}`, piece, (old) =>
    old.map((variant) => (variant.id === id ? { ...variant, name } : variant)),
  );

export const dropVariant = (piece: Piece, { id, name }: Variant) =>
  withVariants(`Delete ${name} of ${piece.name}`, piece, (old) => old.filter((variant) => variant.id !== id));
