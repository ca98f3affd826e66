import type { AlongValue } from '../numeric/lane.js';
import type { Pair } from '../numeric/pair.js';

/** Base of every parameter declaration. From it come the check, the control, the listing and the reference page. */
interface ParameterBase {
  label: string;
  /** One sentence: what it does, for a tooltip and the reference page. */
  help: string;
  /** Shown only when another parameter has one of these values. */
  when?: { parameter: string; is: readonly string[] };
  /** Why it has no gauge, where a number has none. */
  unmeasured?: string;
}

/**
 * What a parameter measures on the result; the view draws it while the control is in use. Ratios of the thickness are
 * drawn as the length they come to, rates as the length of one.
 */
export const GAUGES = {
  diameter: 'across the section, halfway along',
  across: 'the width of the section, halfway along',
  corners: 'the corners of the section, halfway along',
  tightest: 'the tightest bend',
  distance: 'off the skin, halfway along',
  sway: 'to both sides, halfway along',
  spacing: 'a length along the line',
  turn: 'an angle about the line',
  drop: 'from the straight line down to the middle',
  start: 'from the start of the line',
  end: 'from the end of the line',
  place: 'a place',
  step: 'the way from one to the next',
  'from-axis': 'from the axis sideways',
  'along-axis': 'along the axis',
  'about-axis': 'an angle about the axis',
  samples: 'the points of the line',
  curves: 'the lines, numbered',
  shortest: 'the shortest line',
  figure: 'a figure at the middle of the line',
} as const;
export type Gauge = keyof typeof GAUGES;

/** Why there is nothing to measure, for kinds of parameters that never have a gauge. */
const UNMEASURED: Partial<Record<Parameter['kind'], string>> = {
  toggle: 'On or off: the view shows what it does.',
  choice: 'A choice: the view shows what it does.',
  colour: 'A colour has no size.',
  prop: 'A prop is chosen, not measured.',
  piece: 'A piece is chosen, not measured.',
  curves: 'Lines are chosen, not measured.',
};

/** Why a parameter has no gauge; undefined when it has one. */
export const whyUnmeasured = (parameter: Parameter): string | undefined =>
  'gauge' in parameter && parameter.gauge ? undefined : (parameter.unmeasured ?? UNMEASURED[parameter.kind]);

interface NumberBase extends ParameterBase {
  default: number;
  /** Hard limits: a value beyond them is refused. In metres, radians, counts or shares. */
  min: number;
  max: number;
  /** Range of the slider: beyond it is allowed, but rarely wanted. */
  comfortable: readonly [number, number];
  /** May vary along the length (a lane). */
  along?: boolean;
  gauge?: Gauge;
}

export interface LengthParameter extends NumberBase {
  kind: 'length';
}
export interface AngleParameter extends NumberBase {
  kind: 'angle';
}
export interface CountParameter extends NumberBase {
  kind: 'count';
}
/** Picks one of many random courses: a whole number without a meaning of its own. */
export interface SeedParameter extends NumberBase {
  kind: 'seed';
}
/** A share or a factor without unit; `of` says of what. */
export interface RatioParameter extends NumberBase {
  kind: 'ratio';
  of: string;
}
/** So much for each metre of length: turns, cuts. */
export interface RateParameter extends NumberBase {
  kind: 'rate';
  of: 'turns' | 'cuts';
}
export interface ToggleParameter extends ParameterBase {
  kind: 'toggle';
  default: boolean;
}
export interface ChoiceParameter extends ParameterBase {
  kind: 'choice';
  default: string;
  options: readonly { value: string; label: string }[];
}
export interface ColourParameter extends ParameterBase {
  kind: 'colour';
  /** sRGB, `#rrggbb`. */
  default: string;
}
/** One prop, or '' for whichever is nearest. */
export interface PropParameter extends ParameterBase {
  kind: 'prop';
  default: '';
}
/** Varies from one line to the next: a least and a most, drawn by the unit's `seed`. */
export interface PairParameter extends ParameterBase {
  kind: 'pair';
  /** What the two are, stored and shown like a number of that kind. */
  each: 'length' | 'angle' | 'ratio';
  of?: string;
  default: Readonly<Pair>;
  min: number;
  max: number;
  comfortable: readonly [number, number];
  gauge?: Gauge;
}
/** A place in the world, metres. */
export interface PointParameter extends ParameterBase {
  kind: 'point';
  gauge?: Gauge;
  default: readonly [number, number, number];
}
/** Another piece by id, or '' for none. */
export interface PieceParameter extends ParameterBase {
  kind: 'piece';
  default: '';
}
/** Drawn curves of the project, by id. */
export interface CurvesParameter extends ParameterBase {
  kind: 'curves';
  default: readonly string[];
}

export type NumberParameter =
  | LengthParameter
  | AngleParameter
  | CountParameter
  | SeedParameter
  | RatioParameter
  | RateParameter;
export type Parameter =
  | NumberParameter
  | ToggleParameter
  | ChoiceParameter
  | ColourParameter
  | PropParameter
  | PairParameter
  | PointParameter
  | PieceParameter
  | CurvesParameter;

export type ParameterSet = Record<string, Parameter>;

/** What `build` gets for a parameter. */
export type ValueOf<P extends Parameter> = P extends NumberParameter
  ? P extends { along: true }
    ? AlongValue
    : number
  : P extends ToggleParameter
    ? boolean
    : P extends CurvesParameter
      ? readonly string[]
      : P extends PairParameter
        ? Pair
        : P extends PointParameter
          ? readonly [number, number, number]
          : string;

export type ValuesOf<S extends ParameterSet> = { [K in keyof S]: ValueOf<S[K]> };

export type ParameterValue =
  | AlongValue
  | Pair
  | boolean
  | string
  | readonly string[]
  | readonly [number, number, number];
export type ParameterValues = Record<string, ParameterValue>;

const NUMBER_KINDS = new Set(['length', 'angle', 'count', 'seed', 'ratio', 'rate']);
export const isNumberParameter = (parameter: Parameter): parameter is NumberParameter =>
  NUMBER_KINDS.has(parameter.kind);

/** True where only whole numbers mean something. */
export const isWhole = ({ kind }: Parameter): boolean => kind === 'count' || kind === 'seed';

/** All defaults of a set. */
export const defaultsOf = (set: ParameterSet): ParameterValues =>
  Object.fromEntries(Object.entries(set).map(([name, parameter]) => [name, parameter.default]));

/** The unit of measure a parameter is stored in, as a word for listings. */
export function unitOfMeasure(parameter: Parameter): string {
  switch (parameter.kind) {
    case 'length':
    case 'point':
      return 'm';
    case 'angle':
      return 'rad';
    case 'rate':
      return `${parameter.of}/m`;
    case 'ratio':
      return `× ${parameter.of}`;
    case 'pair':
      return parameter.each === 'length' ? 'm' : parameter.each === 'angle' ? 'rad' : `× ${parameter.of}`;
    default:
      return '';
  }
}
