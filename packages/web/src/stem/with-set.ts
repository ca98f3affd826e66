import {
  findUnit,
  type KelpDocument,
  type ParameterValue,
  type Piece,
  type StagePlace,
  withParameter,
} from '@kelp/core';

/** Nothing else of the document changes with a value. */
export const asItIs = (document: KelpDocument): KelpDocument => document;

/** The piece with a parameter set, and with what a profile brings along that was chosen by it: its own size. */
export function withSet(
  { profiles }: KelpDocument,
  piece: Piece,
  place: StagePlace,
  name: string,
  value: ParameterValue,
): Piece {
  const set = withParameter(piece, place, name, value);
  const unit = place.stage === 'make' ? findUnit(piece.make.unit) : undefined;
  const isProfile = unit?.parameters[name]?.kind === 'profile';
  const profile = isProfile ? profiles.find(({ id }) => id === value) : undefined;
  const brought = profile && unit?.sizedBy?.(profile);
  return Object.entries(brought ?? {}).reduce((now, [its, size]) => withParameter(now, place, its, size), set);
}
