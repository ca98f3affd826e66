import {
  type AlongValue,
  findUnit,
  isNumberParameter,
  type NumberParameter,
  type Piece,
  type StagePlace,
  type UnitUse,
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

/** Every lane of the piece that has an effect: those of what is made first, then those of its shapes in their order. */
export function lanesOf({ make, shape }: Piece): LaneOfPiece[] {
  const uses: [StagePlace, UnitUse][] = [
    [{ stage: 'make' }, make],
    ...shape.flatMap((use, index): [StagePlace, UnitUse][] => (use.enabled ? [[{ stage: 'shape', index }, use]] : [])),
  ];
  const seen = new Set<string>();
  return uses.flatMap(([place, use]) => {
    const unit = findUnit(use.unit);
    return Object.entries(unit?.parameters ?? {}).flatMap(([name, parameter]): LaneOfPiece[] => {
      const { when } = parameter;
      const acts = !when || when.is.includes(String(use.parameters[when.parameter]));
      if (!acts || !isNumberParameter(parameter) || !parameter.along) return [];
      const again = [...seen].filter((key) => key.startsWith(`${use.unit} ${name} `)).length;
      const key = `${use.unit} ${name} ${again}`;
      seen.add(key);
      const label = place.stage === 'make' ? parameter.label : `${unit?.label}: ${parameter.label.toLowerCase()}`;
      return [{ key, label, place, name, parameter, value: use.parameters[name] as AlongValue }];
    });
  });
}
