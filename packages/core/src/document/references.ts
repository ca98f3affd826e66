import { noReferences, parameterReferences, type References } from '../unit/references.js';
import { findUnit } from '../unit/registry.js';
import type { KelpDocument, Picture, PieceStages, UnitUse } from './document.js';

const ofUse = new WeakMap<UnitUse, References>();
const ofPiece = new WeakMap<PieceStages, References>();

/** What one use of a unit names, by the unit's declaration; nothing where the unit is not known. */
export function referencesOfUse(use: UnitUse): References {
  let known = ofUse.get(use);
  if (!known) {
    const unit = findUnit(use.unit);
    known = unit ? parameterReferences(unit.parameters, use.parameters) : noReferences();
    ofUse.set(use, known);
  }
  return known;
}

/** What all units of a piece name, each once: for evaluation, deleting, variants, merging and the archive. */
export function referencesOf(piece: PieceStages): References {
  let known = ofPiece.get(piece);
  if (!known) {
    const all = [piece.path, ...piece.shape, piece.make].map(referencesOfUse);
    known = noReferences();
    for (const kind of Object.keys(known) as (keyof References)[])
      known[kind] = [...new Set(all.flatMap((one) => one[kind]))];
    ofPiece.set(piece, known);
  }
  return known;
}

/** The pictures whose shades the units of these pieces read. */
export function picturesRead({ pictures, pieces }: Pick<KelpDocument, 'pictures' | 'pieces'>): Picture[] {
  if (pictures.length === 0) return [];
  const named = new Set(pieces.flatMap((piece) => referencesOf(piece).pictures));
  return pictures.filter(({ id }) => named.has(id));
}
