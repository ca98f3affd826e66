import {
  type AlongValue,
  findUnit,
  isApplicable,
  isLane,
  isNumberParameter,
  type NumberParameter,
  type Piece,
  type StagePlace,
  usesOf,
} from '@kelp/core';

/** A number of a piece that may vary along its length. */
export interface LaneOfPiece {
  /** Unit and name: the same lane in another piece has the same key. */
  key: string;
  label: string;
  place: StagePlace;
  name: string;
  parameter: NumberParameter;
  value: AlongValue;
}

/** Every lane of the piece that has an effect: those of what is made first, then those of the other stages in their order. */
export function lanesOf(piece: Piece): LaneOfPiece[] {
  const uses = usesOf(piece);
  const ordered = [
    ...uses.filter(({ place }) => place.stage === 'make'),
    ...uses.filter(({ place }) => place.stage !== 'make'),
  ];
  const seen = new Map<string, number>();
  return ordered.flatMap(({ place, use }) => {
    const unit = findUnit(use.unit);
    return Object.entries(unit?.parameters ?? {}).flatMap(([name, parameter]): LaneOfPiece[] => {
      if (!isNumberParameter(parameter) || !parameter.along || !isApplicable(parameter, use.parameters)) return [];
      const again = seen.get(`${use.unit} ${name}`) ?? 0;
      seen.set(`${use.unit} ${name}`, again + 1);
      const label = place.stage === 'make' ? parameter.label : `${unit?.label}: ${parameter.label.toLowerCase()}`;
      const value = use.parameters[name] as AlongValue;
      return [{ key: `${use.unit} ${name} ${again}`, label, place, name, parameter, value }];
    });
  });
}

/** Lanes that are shown: those with knots, the size, and those that were asked for. The others wait in a menu. */
export function shownLanes(lanes: readonly LaneOfPiece[], asked: ReadonlySet<string>): LaneOfPiece[] {
  return lanes.filter(({ key, parameter, value }) => isLane(value) || parameter.share === 'size' || asked.has(key));
}
