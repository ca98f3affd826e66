import { isLane } from '../numeric/lane.js';
import { isNumberParameter, isWhole, type NumberParameter, type ParameterValue } from '../unit/parameters.js';
import { findUnit } from '../unit/registry.js';
import type { KelpDocument, KeyedNumber, Piece, UnitUse } from './document.js';
import { type StagePlace, unitAt, withParameter } from './edit.js';

/** How far a keyed number is on its way, of the loop's share: there and back it eases at both ends and closes. */
export const keyedShare = ({ way }: KeyedNumber, phase: number): number =>
  way === 'once' ? phase : (1 - Math.cos(2 * Math.PI * (phase - Math.floor(phase)))) / 2;

const placeOf = ({ stage, index = 0 }: KeyedNumber): StagePlace => (stage === 'shape' ? { stage, index } : { stage });

/** The use and the declaration that a keyed number is of; undefined where there is none any more. */
export function keyedNumber(piece: Piece, key: KeyedNumber): { use: UnitUse; parameter: NumberParameter } | undefined {
  const use = unitAt(piece, placeOf(key));
  // where another unit stands now, its numbers are others, whatever they are called
  const parameter = use?.unit === key.unit ? findUnit(key.unit)?.parameters[key.parameter] : undefined;
  return use && parameter && isNumberParameter(parameter) ? { use, parameter } : undefined;
}

/** A piece as it is where the clock stands, `phase` of the way through its loop; nothing of it is keyed any more. */
export function pieceAt(piece: Piece, phase: number): Piece {
  if (!piece.keyed) return piece;
  const { keyed, ...rest } = piece;
  let out: Piece = rest;
  for (const key of keyed) {
    const found = keyedNumber(out, key);
    if (!found) continue;
    const { use, parameter } = found;
    const exact = key.from + keyedShare(key, phase) * (key.to - key.from);
    const value = Math.min(parameter.max, Math.max(parameter.min, isWhole(parameter) ? Math.round(exact) : exact));
    const next = withValue(use.parameters[key.parameter], key.knot, value);
    if (next !== undefined) out = withParameter(out, placeOf(key), key.parameter, next);
  }
  return out;
}

/** A number, or the knot of a lane; undefined where there is no such knot. */
function withValue(old: ParameterValue, knot: number | undefined, value: number): ParameterValue | undefined {
  if (typeof old === 'number') return knot === undefined ? value : undefined;
  if (typeof old !== 'object' || !('knots' in old) || !isLane(old) || knot === undefined || !old.knots[knot])
    return undefined;
  return { ...old, knots: old.knots.with(knot, { ...old.knots[knot], value }) };
}

/** All pieces where the clock stands. @returns the same document where nothing is keyed */
export const documentAt = (document: KelpDocument, phase: number): KelpDocument =>
  document.pieces.some(({ keyed }) => keyed)
    ? { ...document, pieces: document.pieces.map((piece) => pieceAt(piece, phase)) }
    : document;
