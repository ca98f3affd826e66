import type { AlongValue } from '../numeric/lane.js';

/** Base of every parameter declaration. From it come the check, the control, the listing and the reference page. */
interface ParameterBase {
  label: string;
  /** One sentence: what it does, for a tooltip and the reference page. */
  help: string;
  /** Shown only when another parameter has one of these values. */
  when?: { parameter: string; is: readonly string[] };
}

/** What a parameter measures on the result; the view draws it while the control is in use. */
export type Gauge = 'diameter' | 'radius' | 'distance' | 'spacing' | 'turn' | 'drop' | 'start' | 'end';

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
/** Drawn curves of the project, by id. */
export interface CurvesParameter extends ParameterBase {
  kind: 'curves';
  default: readonly string[];
}

export type NumberParameter = LengthParameter | AngleParameter | CountParameter | RatioParameter | RateParameter;
export type Parameter =
  | NumberParameter
  | ToggleParameter
  | ChoiceParameter
  | ColourParameter
  | PropParameter
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
      : string;

export type ValuesOf<S extends ParameterSet> = { [K in keyof S]: ValueOf<S[K]> };

export type ParameterValue = AlongValue | boolean | string | readonly string[];
export type ParameterValues = Record<string, ParameterValue>;

const NUMBER_KINDS = new Set(['length', 'angle', 'count', 'ratio', 'rate']);
export const isNumberParameter = (parameter: Parameter): parameter is NumberParameter =>
  NUMBER_KINDS.has(parameter.kind);

/** All defaults of a set. */
export const defaultsOf = (set: ParameterSet): ParameterValues =>
  Object.fromEntries(Object.entries(set).map(([name, parameter]) => [name, parameter.default]));

/** The unit of measure a parameter is stored in, as a word for listings. */
export function unitOfMeasure(parameter: Parameter): string {
  switch (parameter.kind) {
    case 'length':
      return 'm';
    case 'angle':
      return 'rad';
    case 'rate':
      return `${parameter.of}/m`;
    case 'ratio':
      return `× ${parameter.of}`;
    default:
      return '';
  }
}
