import { newUse, type Piece, takenOver, unitOf, withPiece } from '@kelp/core';
import { edit } from '../state/edits.js';

/** Another preset for a piece, with what the line already has. */
export const takePreset = (piece: Piece, unit: string, preset: string) => {
  const label = unitOf('make', unit).presets.find((candidate) => candidate.id === preset)?.label ?? unit;
  return edit(`${label} for ${piece.name}`, (document) =>
    withPiece(document, piece.id, (now) => ({ ...now, make: takenOver(now.make, newUse('make', unit, preset)) })),
  );
};
