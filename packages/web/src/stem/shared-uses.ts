import { type Piece, type StagePlace, type UnitUse, unitAt } from '@kelp/core';

/** The same unit in several pieces, with its place in each. */
export interface SharedUse {
  stage: StagePlace['stage'];
  unit: string;
  in: { piece: Piece; place: StagePlace; use: UnitUse }[];
}

/** Units that all of the pieces have: those of path, make and dress, and each shape (the first of its kind in a piece). */
export function sharedUses(pieces: readonly Piece[]): SharedUse[] {
  const [first] = pieces;
  if (!first) return [];
  const whole = (stage: 'path' | 'make' | 'dress'): SharedUse[] => {
    const place = { stage } as const;
    const found = pieces.flatMap((piece) => {
      const use = unitAt(piece, place);
      return use ? [{ piece, place, use }] : [];
    });
    const same = found.length === pieces.length && found.every(({ use }) => use.unit === found[0].use.unit);
    return same ? [{ stage, unit: found[0].use.unit, in: found }] : [];
  };
  const shapes = [...new Set(first.shape.map(({ unit }) => unit))].flatMap((unit): SharedUse[] => {
    const found = pieces.flatMap((piece) => {
      const index = piece.shape.findIndex((use) => use.unit === unit);
      return index < 0 ? [] : [{ piece, place: { stage: 'shape', index } as const, use: piece.shape[index] }];
    });
    return found.length === pieces.length ? [{ stage: 'shape', unit, in: found }] : [];
  });
  return [...whole('path'), ...shapes, ...whole('make'), ...whole('dress')];
}

/** True when the pieces do not all have the same value there. */
export const isMixed = (shared: SharedUse, parameter: string): boolean =>
  new Set(shared.in.map(({ use }) => JSON.stringify(use.parameters[parameter]))).size > 1;
