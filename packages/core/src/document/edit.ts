import type { Fix } from '../unit/finding.js';
import type { ParameterValue } from '../unit/parameters.js';
import { presetParameters, unitOf } from '../unit/registry.js';
import {
  type DrawnCurve,
  isOwnDress,
  type KelpDocument,
  type Piece,
  type PieceStages,
  type ShapeUse,
  type UnitUse,
} from './document.js';
import { referencesOf } from './references.js';

/** Edits are pure: they return the changed document and leave the given one alone, so that undo is keeping the old one. */

export const withPiece = (document: KelpDocument, id: string, change: (piece: Piece) => Piece): KelpDocument => ({
  ...document,
  pieces: document.pieces.map((piece) => (piece.id === id ? change(piece) : piece)),
});

export const withCurve = (
  document: KelpDocument,
  id: string,
  change: (curve: DrawnCurve) => DrawnCurve,
): KelpDocument => ({
  ...document,
  curves: document.curves.map((curve) => (curve.id === id ? change(curve) : curve)),
});

/** Names one unit of a piece's chain. */
export type StagePlace =
  | { stage: 'path' | 'make' }
  | { stage: 'dress' /** Default: main. */; slot?: string }
  | { stage: 'shape'; index: number };

/** The slot that every piece has. */
export const MAIN_SLOT = 'main';

/** The unit that is at a place; for a slot without a dressing of its own, undefined. */
export function unitAt(piece: PieceStages, place: StagePlace): UnitUse | undefined {
  if (place.stage === 'shape') return piece.shape[place.index];
  if (place.stage !== 'dress') return piece[place.stage];
  const dress = piece.dress[place.slot ?? MAIN_SLOT];
  return isOwnDress(dress) ? dress : undefined;
}

/** All units of a piece that act, with their places, in the order of the stages. */
export function usesOf(piece: PieceStages): { place: StagePlace; use: UnitUse }[] {
  const places: StagePlace[] = [
    { stage: 'path' },
    ...piece.shape.flatMap((use, index): StagePlace[] => (use.enabled ? [{ stage: 'shape', index }] : [])),
    { stage: 'make' },
    ...Object.keys(piece.dress).map((slot): StagePlace => ({ stage: 'dress', slot })),
  ];
  return places.flatMap((place) => {
    const use = unitAt(piece, place);
    return use ? [{ place, use }] : [];
  });
}

export function withUse(piece: Piece, place: StagePlace, change: <U extends UnitUse>(use: U) => U): Piece {
  if (place.stage === 'dress') {
    const use = unitAt(piece, place);
    return use ? { ...piece, dress: { ...piece.dress, [place.slot ?? MAIN_SLOT]: change(use) } } : piece;
  }
  if (place.stage !== 'shape') return { ...piece, [place.stage]: change(piece[place.stage]) };
  return { ...piece, shape: piece.shape.map((use, i) => (i === place.index ? change(use) : use)) };
}

export const withParameter = (piece: Piece, place: StagePlace, name: string, value: ParameterValue): Piece =>
  withUse(piece, place, (use) => ({ ...use, parameters: { ...use.parameters, [name]: value } }));

/** A use of a unit as one of its presets sets it. */
export function newUse(stage: 'path' | 'shape' | 'make' | 'dress', unitId: string, presetId?: string): UnitUse {
  const unit = unitOf(stage, unitId);
  const version = unit.version ?? 1;
  return { unit: unitId, ...(version > 1 ? { version } : {}), parameters: presetParameters(unit, presetId) };
}

export const newShape = (unitId: string, parameters: Record<string, ParameterValue> = {}): ShapeUse => {
  const use = newUse('shape', unitId);
  return { ...use, parameters: { ...use.parameters, ...parameters }, enabled: true };
};

/** A new piece along one drawn curve: the first preset of everything, lying on what it was drawn on. */
export function newPiece(id: string, name: string, curves: readonly string[], onProp: boolean): Piece {
  const path = newUse('path', 'drawn');
  return {
    id,
    name,
    visible: true,
    path: { ...path, parameters: { ...path.parameters, curves: [...curves] } },
    shape: onProp ? [newShape('cling')] : [],
    make: newUse('make', 'cable'),
    dress: { [MAIN_SLOT]: newUse('dress', 'plain') },
    bake: { density: 1 },
  };
}

/** Curves that no piece runs along are taken out with the piece that used them. */
export function withoutPiece(document: KelpDocument, id: string): KelpDocument {
  const pieces = document.pieces.filter((piece) => piece.id !== id);
  const usedBefore = curvesOf(document.pieces);
  const usedAfter = curvesOf(pieces);
  return {
    ...document,
    pieces,
    curves: document.curves.filter((curve) => usedAfter.has(curve.id) || !usedBefore.has(curve.id)),
  };
}

/** Ids of the drawn curves that a piece's units name, each once. */
export const curveIdsOf = (piece: PieceStages): readonly string[] => referencesOf(piece).curves;

/** Ids of all drawn curves that any of the pieces names. */
export const curvesOf = (pieces: readonly PieceStages[]): Set<string> => new Set(pieces.flatMap(curveIdsOf));

/** Carries out the fix that a finding offers. A fix whose place is gone changes nothing. */
export function applyFix(document: KelpDocument, pieceId: string, fix: Fix): KelpDocument {
  switch (fix.kind) {
    case 'set':
      return withPiece(document, pieceId, (piece) =>
        withParameter(piece, { stage: fix.stage }, fix.parameter, fix.value),
      );
    case 'set-shape':
      return withPiece(document, pieceId, (piece) =>
        withParameter(piece, { stage: 'shape', index: fix.index }, fix.parameter, fix.value),
      );
    case 'add-shape':
      return withPiece(document, pieceId, (piece) => ({
        ...piece,
        shape: piece.shape.toSpliced(fix.index ?? piece.shape.length, 0, newShape(fix.unit, fix.parameters)),
      }));
    case 'smooth-point':
      return withCurve(document, fix.curve, (curve) => ({
        ...curve,
        points: curve.points.map((point, i) => (i === fix.point ? { ...point, corner: false } : point)),
      }));
    case 'delete-point':
      return withCurve(document, fix.curve, (curve) => ({
        ...curve,
        points: curve.points.filter((_, i) => i !== fix.point),
      }));
  }
}
