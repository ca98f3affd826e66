import type { AlongValue } from '../numeric/lane.js';
import type { Pair } from '../numeric/pair.js';
import type { Anchor } from '../surface/anchor.js';

/** Base of every parameter declaration. From it come the check, the control, the listing and the reference page. */
interface ParameterBase {
  label: string;
  /** One sentence: what it does, for a tooltip and the reference page. */
  help: string;
  /** Shown only when another parameter, or one of several, has one of these values. */
  when?: { parameter: string | readonly string[]; is: readonly string[] };
  /** Why it has no gauge, where a number has none. */
  unmeasured?: string;
  /** Numbers of one group are folded together in the Stem; those without one stand first, open. */
  group?: string;
  /** It can be taken hold of in the view. */
  grip?: Grip;
}

/**
 * How a parameter is pulled in the view: a place is dragged over the props; a size is pulled from the place that the
 * parameter `from` holds, along the axis that the choice `axis` holds, or across it.
 */
export type Grip = { kind: 'place' } | { kind: 'size'; from: string; axis: string; way: 'along' | 'across' };

/**
 * What a parameter measures on the result; the view draws it while the control is in use. Ratios of the thickness are
 * drawn as the length they come to, rates as the length of one.
 */
export const GAUGES = {
  diameter: 'diameter of the section at mid-length',
  across: 'width of the section at mid-length',
  corners: 'corners of the section at mid-length',
  tightest: 'the tightest bend',
  distance: 'distance from the surface at mid-length',
  'off-line': 'distance from the line at mid-length',
  sway: 'deviation to both sides at mid-length',
  spacing: 'length along the line',
  turn: 'angle around the line',
  drop: 'drop from the straight line at mid-span',
  start: 'distance from the start of the line',
  end: 'distance from the end of the line',
  place: 'a position',
  step: 'distance from one to the next',
  'from-axis': 'distance from the axis',
  'along-axis': 'distance along the axis',
  'about-axis': 'angle around the axis',
  samples: 'the points of the line',
  curves: 'the lines, numbered',
  shortest: 'the shortest line',
  figure: 'figure at the middle of the line',
} as const;
export type Gauge = keyof typeof GAUGES;

/** A gauge, and the parameters of the same unit that it measures with. */
export interface GaugeUse {
  kind: Gauge;
  /** Size that a ratio multiplies. */
  size?: string;
  /** Place and axis that it is measured from. */
  at?: string;
  axis?: string;
}

/** The gauge of a parameter, whichever way it was declared. */
export function gaugeOf(parameter: Parameter): GaugeUse | undefined {
  const gauge = 'gauge' in parameter ? parameter.gauge : undefined;
  return typeof gauge === 'string' ? { kind: gauge } : gauge;
}

interface NumberBase extends ParameterBase {
  default: number;
  /** Hard limits: a value beyond them is refused. In metres, radians, counts or shares. */
  min: number;
  max: number;
  /** Range of the slider: beyond it is allowed, but rarely wanted. */
  comfortable: readonly [number, number];
  /** May vary along the length (a lane). */
  along?: boolean;
  /** How it shares in the thickness: the size itself, kept when another unit or preset is taken. */
  share?: 'size';
  gauge?: Gauge | GaugeUse;
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
/** This much for each metre of length: turns, cuts. */
export interface RateParameter extends NumberBase {
  kind: 'rate';
  of: 'turns' | 'segments';
}
export interface ToggleParameter extends ParameterBase {
  kind: 'toggle';
  default: boolean;
}
export interface ChoiceParameter extends ParameterBase {
  kind: 'choice';
  default: string;
  options: readonly { value: string; label: string }[];
  /** What an option looks like: an SVG path from −1 to 1, y down, filled by even-odd. */
  picture?(value: string): string;
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
  gauge?: Gauge | GaugeUse;
}
/** A place in the world, metres. */
export interface PointParameter extends ParameterBase {
  kind: 'point';
  gauge?: Gauge | GaugeUse;
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

/** A profile of the project by id, or '' for none. */
export interface ProfileParameter extends ParameterBase {
  kind: 'profile';
  default: '';
}
/** Several props or pieces, by id, in the order picked. */
export interface PropsParameter extends ParameterBase {
  kind: 'props';
  default: readonly string[];
}
export interface PiecesParameter extends ParameterBase {
  kind: 'pieces';
  default: readonly string[];
}
/** Where something is fastened: whole things of the project, or places; in the order picked. */
export interface AnchorsParameter extends ParameterBase {
  kind: 'anchors';
  default: readonly AnchorPick[];
}
export type AnchorPick =
  | { on: 'piece' | 'curve'; id: string }
  /** `was`: where the prop stood when it was picked. */
  | { on: 'prop'; id: string; was?: readonly [number, number, number] }
  /** A place of its own: where it was put, and where it is held, if it is held on a prop. */
  | { on: 'place'; id: string; position: readonly [number, number, number]; anchor?: Anchor };

/** Wheels of a belt, in the order in which it meets them. */
export interface WheelsParameter extends ParameterBase {
  kind: 'wheels';
  default: readonly WheelPick[];
  /** Names of the parameters that hold the size of those without one of their own, the way of the axles, and their tilt. */
  radius: string;
  axis: string;
  tilt: string;
}
export interface WheelPick {
  id: string;
  /** Its middle, where it was put; and where it is held, if it is held on a prop. */
  position: readonly [number, number, number];
  anchor?: Anchor;
  /** A prop that is the wheel: its middle and its size are the wheel's, and none is made. */
  prop?: string;
  /** Of its own, metres; as all others when absent. */
  radius?: number;
  /** The belt passes it with its outer face. */
  outside?: boolean;
  /** It slides until the belt has the length that is given. */
  takesUp?: boolean;
}

/** What was done by hand to single connections between anchors. */
export interface LinksParameter extends ParameterBase {
  kind: 'links';
  default: readonly LinkChange[];
}
/** One connection, by the stable numbers of what it runs between: taken out, led to another anchor, or added. */
export interface LinkChange {
  from: number;
  to: number;
  how: 'out' | 'led' | 'added';
  /** Where it is led instead of `to`. */
  instead?: number;
}
/** A unit vector of the world. */
export interface DirectionParameter extends ParameterBase {
  kind: 'direction';
  gauge?: Gauge | GaugeUse;
  default: readonly [number, number, number];
}
/** A region or a picture of the project by id, or '' for none. */
export interface RegionParameter extends ParameterBase {
  kind: 'region';
  default: '';
}
export interface PictureParameter extends ParameterBase {
  kind: 'picture';
  default: '';
}
/** A short list of equal records: the levels of a rope, the layers of a coat. */
export interface LevelsParameter extends ParameterBase {
  kind: 'levels';
  /** What each record holds. */
  fields: Record<string, NumberParameter | ChoiceParameter | ColourParameter>;
  /** Fewest and most records. */
  least: number;
  most: number;
  default: readonly LevelValue[];
}
export type LevelValue = Readonly<Record<string, number | string>>;

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
  | CurvesParameter
  | ProfileParameter
  | PropsParameter
  | PiecesParameter
  | AnchorsParameter
  | WheelsParameter
  | LinksParameter
  | DirectionParameter
  | RegionParameter
  | PictureParameter
  | LevelsParameter;

export type ParameterSet = Record<string, Parameter>;

/** What `build` gets for a parameter. */
export type ValueOf<P extends Parameter> = P extends NumberParameter
  ? P extends { along: true }
    ? AlongValue
    : number
  : P extends ToggleParameter
    ? boolean
    : P extends CurvesParameter | PropsParameter | PiecesParameter
      ? readonly string[]
      : P extends PairParameter
        ? Pair
        : P extends PointParameter | DirectionParameter
          ? readonly [number, number, number]
          : P extends AnchorsParameter
            ? readonly AnchorPick[]
            : P extends WheelsParameter
              ? readonly WheelPick[]
              : P extends LinksParameter
                ? readonly LinkChange[]
                : P extends LevelsParameter
                  ? readonly LevelValue[]
                  : string;

export type ValuesOf<S extends ParameterSet> = { [K in keyof S]: ValueOf<S[K]> };

export type ParameterValue =
  | AlongValue
  | Pair
  | boolean
  | string
  | readonly string[]
  | readonly [number, number, number]
  | readonly AnchorPick[]
  | readonly WheelPick[]
  | readonly LinkChange[]
  | readonly LevelValue[];
export type ParameterValues = Record<string, ParameterValue>;

const NUMBER_KINDS = new Set(['length', 'angle', 'count', 'seed', 'ratio', 'rate']);
export const isNumberParameter = (parameter: Parameter): parameter is NumberParameter =>
  NUMBER_KINDS.has(parameter.kind);

/** True where only whole numbers mean something. */
export const isWhole = ({ kind }: Parameter): boolean => kind === 'count' || kind === 'seed';

/** All defaults of a set. */
export const defaultsOf = (set: ParameterSet): ParameterValues =>
  Object.fromEntries(Object.entries(set).map(([name, parameter]) => [name, parameter.default]));

/** True where the other parameters make this one count. */
export const isApplicable = ({ when }: Parameter, values: ParameterValues): boolean =>
  !when || [when.parameter].flat().some((name) => when.is.includes(String(values[name])));
