import {
  type AlongValue,
  findUnit,
  greatest,
  isApplicable,
  isNumberParameter,
  isWhole,
  mapAlong,
  type NumberParameter,
  type Piece,
  type StagePlace,
  unitAt,
  usesOf,
  withParameter,
} from '@kelp/core';

/** A number of a piece that can be stepped through. */
export interface Dial {
  id: string;
  /** As it is chosen from a list: "Wobble · Amount". */
  label: string;
  place: StagePlace;
  name: string;
  parameter: NumberParameter;
  /** Where the piece stands now; of a lane, its greatest value. */
  value: number;
}

/** A dial with the first and the last value of its steps. */
export interface Sweep {
  dial: Dial;
  from: number;
  to: number;
}

export interface Proof {
  piece: Piece;
  /** The values it was made with, one a dial. */
  values: number[];
}

/** Every number of the piece that has an effect as it is, stage by stage. */
export function dialsOf(piece: Piece): Dial[] {
  return usesOf(piece).flatMap(({ place, use }) => {
    const unit = findUnit(use.unit);
    if (!unit) return [];
    return Object.entries(unit.parameters).flatMap(([name, parameter]): Dial[] => {
      if (!isApplicable(parameter, use.parameters) || !isNumberParameter(parameter)) return [];
      const value = greatest(use.parameters[name] as AlongValue);
      const id = `${JSON.stringify(place)} ${name}`;
      return [{ id, label: `${unit.label} · ${parameter.label}`, place, name, parameter, value }];
    });
  });
}

/** Steps with the present value in their middle where the range lets it be; seeds go on from the present one. */
export function firstSweep(dial: Dial): Sweep {
  const { parameter, value } = dial;
  const { min, max, comfortable, kind } = parameter;
  if (kind === 'seed') return { dial, from: value, to: value + 8 };
  const reach = Math.max(
    isWhole(parameter) ? 4 : 0,
    Math.min(Math.abs(value) * 0.8, (comfortable[1] - comfortable[0]) / 2),
  );
  const wanted = reach || (comfortable[1] - comfortable[0]) / 4;
  const room = Math.min(value - min, max - value);
  const half = room > wanted / 4 ? Math.min(wanted, room) : wanted;
  return { dial, from: Math.max(min, value - half), to: Math.min(max, value + half) };
}

/**
 * Nine states of the piece: nine steps of one dial, or three by three of two, the first dial along the rows.
 * A lane keeps its course; its greatest value is stepped.
 */
export function proofsOf(piece: Piece, first: Sweep, second: Sweep | null): Proof[] {
  const counts = second ? [3, 3] : [9, 1];
  return Array.from({ length: 9 }, (_, i) => {
    const steps = [
      [first, i % counts[0], counts[0]] as const,
      ...(second ? [[second, Math.floor(i / 3), 3] as const] : []),
    ];
    const values = steps.map(([sweep, step, of]) => stepOf(sweep, step, of));
    const made = steps.reduce((now, [{ dial }], k) => withDial(now, dial, values[k]), piece);
    return { piece: made, values };
  });
}

function stepOf({ dial: { parameter, value }, from, to }: Sweep, step: number, of: number): number {
  const exact = from + ((to - from) * step) / (of - 1);
  if (isWhole(parameter)) return Math.round(exact);
  // the middle step of a range round the present value is the present value, not a rounding of it
  return Math.abs(exact - value) < 1e-9 * Math.abs(to - from) ? value : +exact.toPrecision(4);
}

function withDial(piece: Piece, { place, name, value }: Dial, to: number): Piece {
  const old = unitAt(piece, place)?.parameters[name] as AlongValue;
  const next = typeof old === 'number' || value === 0 ? to : mapAlong(old, (knot) => (knot * to) / value);
  return withParameter(piece, place, name, next);
}
