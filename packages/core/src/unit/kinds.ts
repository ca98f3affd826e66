import * as yup from 'yup';
import { type AlongValue, isLane } from '../numeric/lane.js';
import type {
  AnchorPick,
  AnchorsParameter,
  ChoiceParameter,
  LevelsParameter,
  NumberParameter,
  PairParameter,
  Parameter,
  WheelPick,
  WheelsParameter,
} from './parameters.js';
import type { References } from './references.js';

/** Most knots on one lane. */
export const MAX_KNOTS = 500;
/** World coordinates, metres: beyond this single-precision meshes fall apart. */
export const MAX_COORDINATE = 1e6;
/** Longest list of references in one parameter. */
const MAX_NAMED = 10_000;

/** All that Kelp knows of a kind of parameter, but for its control, which the interface has under the same name. */
export interface Kind<P extends Parameter = Parameter> {
  /** The unit of measure it is stored in, as a word for listings. */
  unit(parameter: P): string;
  /** Why it never has a gauge. */
  unmeasured?: string;
  /** Check of one value, hard limits included. */
  schema(parameter: P): yup.Schema;
  /** Puts what a value names into `out`. */
  references?(value: never, out: References): void;
}

type KindOf<K extends Parameter['kind']> = Kind<Extract<Parameter, { kind: K }>>;

const nothing = () => '';
const id = () => yup.string().max(64).defined();
const ids = () => yup.array(yup.string().max(64).required()).max(MAX_NAMED).required();

const number = (unit: (parameter: NumberParameter) => string, whole = false): Kind<NumberParameter> => ({
  unit,
  schema: (parameter) => alongSchema(parameter, whole),
  references: (value: AlongValue, out) => void (isLane(value) && value.region && out.regions.push(value.region)),
});

/** One row a kind. A new kind is a row here and a control in the interface. */
export const KINDS: { [K in Parameter['kind']]: Kind } = {
  length: number(() => 'm'),
  angle: number(() => 'rad'),
  count: number(nothing, true),
  seed: number(nothing, true),
  ratio: number((parameter) => `× ${'of' in parameter ? parameter.of : ''}`),
  rate: number((parameter) => `${'of' in parameter ? parameter.of : ''}/m`),
  toggle: {
    unit: nothing,
    unmeasured: 'On or off: the view shows the effect.',
    schema: () => yup.boolean().required(),
  },
  choice: {
    unit: nothing,
    unmeasured: 'A choice: the view shows the effect.',
    schema: ({ options }: ChoiceParameter) =>
      yup
        .string()
        .oneOf(options.map(({ value }) => value))
        .required(),
  } satisfies KindOf<'choice'>,
  colour: {
    unit: nothing,
    unmeasured: 'A colour has no size.',
    schema: () =>
      yup
        .string()
        .matches(/^#[0-9a-f]{6}$/, ({ path }) => `${path} must be a colour like #2c6a50`)
        .required(),
  },
  pair: {
    unit: ({ each, of }: PairParameter) => (each === 'length' ? 'm' : each === 'angle' ? 'rad' : `× ${of}`),
    schema: pairSchema,
  } satisfies KindOf<'pair'>,
  point: { unit: () => 'm', schema: () => pointSchema() } satisfies KindOf<'point'>,
  direction: {
    unit: nothing,
    schema: () =>
      pointSchema(1.001).test(
        'unit',
        ({ path }) => `${path} must be a direction of length 1`,
        (value) => !value || Math.abs(Math.hypot(...value) - 1) < 1e-3,
      ),
  } satisfies KindOf<'direction'>,
  prop: {
    unit: nothing,
    unmeasured: 'A prop is picked, not measured.',
    schema: id,
    references: (value: string, out) => void (value && out.props.push(value)),
  },
  piece: {
    unit: nothing,
    unmeasured: 'A piece is picked, not measured.',
    schema: id,
    references: (value: string, out) => void (value && out.pieces.push(value)),
  },
  curves: {
    unit: nothing,
    unmeasured: 'Lines are picked, not measured.',
    schema: ids,
    references: (value: readonly string[], out) => void out.curves.push(...value),
  },
  props: {
    unit: nothing,
    unmeasured: 'Props are picked, not measured.',
    schema: ids,
    references: (value: readonly string[], out) => void out.props.push(...value),
  },
  pieces: {
    unit: nothing,
    unmeasured: 'Pieces are picked, not measured.',
    schema: ids,
    references: (value: readonly string[], out) => void out.pieces.push(...value),
  },
  profile: {
    unit: nothing,
    unmeasured: 'A profile is picked, not measured.',
    schema: id,
    references: (value: string, out) => void (value && out.profiles.push(value)),
  },
  region: {
    unit: nothing,
    unmeasured: 'A region is picked, not measured.',
    schema: id,
    references: (value: string, out) => void (value && out.regions.push(value)),
  },
  picture: {
    unit: nothing,
    unmeasured: 'An image is picked, not measured.',
    schema: id,
    references: (value: string, out) => void (value && out.pictures.push(value)),
  },
  anchors: {
    unit: nothing,
    unmeasured: 'Anchors are picked, not measured.',
    schema: anchorsSchema,
    references: (value: readonly AnchorPick[], out) => {
      for (const pick of value) {
        if (pick.on !== 'place') out[`${pick.on}s`].push(pick.id);
        else if (pick.anchor) out.props.push(pick.anchor.prop);
      }
    },
  } satisfies KindOf<'anchors'>,
  wheels: {
    unit: nothing,
    unmeasured: 'Wheels are dragged in the view.',
    schema: wheelsSchema,
    references: (value: readonly WheelPick[], out) => {
      for (const { prop, anchor } of value) for (const id of [prop, anchor?.prop]) if (id) out.props.push(id);
    },
  } satisfies KindOf<'wheels'>,
  links: {
    unit: nothing,
    unmeasured: 'Single connections are shown in the view.',
    schema: () => yup.array(linkSchema().required()).max(MAX_NAMED).required(),
  },
  levels: {
    unit: nothing,
    unmeasured: 'A list: each of its numbers is shown in the view.',
    schema: levelsSchema,
  } satisfies KindOf<'levels'>,
} as { [K in Parameter['kind']]: Kind };

/** The unit of measure a parameter is stored in, as a word for listings. */
export const unitOfMeasure = (parameter: Parameter): string => KINDS[parameter.kind].unit(parameter);

/** Why a parameter has no gauge; undefined when it has one. */
export const whyUnmeasured = (parameter: Parameter): string | undefined =>
  'gauge' in parameter && parameter.gauge ? undefined : (parameter.unmeasured ?? KINDS[parameter.kind].unmeasured);

/** Check of one parameter's value, hard limits included. The same for files, the API and forms. */
export const parameterSchema = (parameter: Parameter): yup.Schema => KINDS[parameter.kind].schema(parameter);

export function finiteNumber(min: number, max: number, whole: boolean): yup.NumberSchema {
  const schema = yup
    .number()
    .strict()
    .test(
      'finite',
      ({ path }) => `${path} must be a finite number`,
      (value) => value === undefined || Number.isFinite(value),
    )
    .min(min, ({ path }) => `${path} must be ${min} or more`)
    .max(max, ({ path }) => `${path} must be ${max} or less`);
  return whole ? schema.integer(({ path }) => `${path} must be a whole number`) : schema;
}

function alongSchema(parameter: NumberParameter, whole: boolean): yup.Schema {
  const one = finiteNumber(parameter.min, parameter.max, whole);
  if (!parameter.along) return one.required();
  return yup.lazy((value) =>
    typeof value === 'object' && value !== null ? laneSchema(one) : one.required(),
  ) as unknown as yup.Schema;
}

function pairSchema({ min, max }: PairParameter): yup.Schema {
  const one = finiteNumber(min, max, false).required();
  return yup
    .object({ least: one, most: one })
    .noUnknown()
    .strict()
    .test(
      'order',
      ({ path }) => `${path}: the smallest must not be above the largest`,
      (value) => !(value?.least > value?.most),
    )
    .required();
}

function pointSchema(far = MAX_COORDINATE): yup.TupleSchema<[number, number, number]> {
  const coordinate = finiteNumber(-far, far, false).required();
  return yup.tuple([coordinate, coordinate, coordinate]).required() as yup.TupleSchema<[number, number, number]>;
}

function anchorsSchema(_: AnchorsParameter): yup.Schema {
  return yup
    .array(
      yup.lazy((pick: { on?: unknown } | undefined) =>
        pick?.on === 'place'
          ? yup
              .object({
                on: yup.string().required(),
                id: id().min(1),
                position: pointSchema(),
                anchor: anchorSchema(),
              })
              .noUnknown()
              .strict()
              .required()
          : yup
              .object({
                on: yup.string().oneOf(['prop', 'piece', 'curve', 'place']).required(),
                id: id().min(1),
                ...(pick?.on === 'prop' ? { was: pointSchema().optional() } : {}),
              })
              .noUnknown()
              .strict()
              .required(),
      ) as unknown as yup.Schema,
    )
    .max(MAX_NAMED)
    .required();
}

/** Most wheels of one belt. */
export const MAX_WHEELS = 500;

function wheelsSchema(_: WheelsParameter): yup.Schema {
  return yup
    .array(
      yup
        .object({
          id: id().min(1),
          position: pointSchema(),
          anchor: anchorSchema(),
          prop: yup.string().min(1).max(64),
          radius: finiteNumber(1e-4, 1000, false),
          outside: yup.boolean(),
          takesUp: yup.boolean(),
        })
        .noUnknown()
        .strict()
        .required(),
    )
    .max(MAX_WHEELS)
    .required();
}

/** Limits of where something is held on a prop: which triangle, and shares of its corners. */
export const ANCHOR_BOUNDS = { triangle: [0, 1e9], shares: [-2, 3] } as const;

/** A place held on a prop, or nothing. */
export function anchorSchema() {
  const share = finiteNumber(...ANCHOR_BOUNDS.shares, false).required();
  return yup
    .object({
      prop: id()
        .min(1)
        .matches(/^[\w-]+$/, ({ path }) => `${path} may hold letters, digits, - and _ only`),
      triangle: finiteNumber(...ANCHOR_BOUNDS.triangle, true).required(),
      barycentric: yup.tuple([share, share, share]).required(),
      height: finiteNumber(-MAX_COORDINATE, MAX_COORDINATE, false).required(),
      rise: finiteNumber(-MAX_COORDINATE, MAX_COORDINATE, false),
    })
    .noUnknown()
    .default(undefined)
    .optional();
}

/** A stable number of 32 bits. */
const stable = () => finiteNumber(0, 0xffff_ffff, true);

const linkSchema = () =>
  yup
    .object({
      from: stable().required(),
      to: stable().required(),
      how: yup.string().oneOf(['out', 'led', 'added']).required(),
      instead: stable(),
    })
    .noUnknown()
    .strict();

function levelsSchema({ fields, least, most }: LevelsParameter): yup.Schema {
  const shape = Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, parameterSchema(field)]));
  return yup
    .array(yup.object(shape).noUnknown().strict().required())
    .min(least, ({ path }) => `${path} must have ${least} entries or more`)
    .max(most, ({ path }) => `${path} must have ${most} entries or fewer`)
    .required();
}

const ease = () => yup.string().oneOf(['smooth', 'straight']);

const laneSchema = (value: yup.NumberSchema) =>
  yup
    .object({
      ease: ease().required(),
      region: yup.string().min(1).max(64),
      knots: yup
        .array(
          yup.object({ at: finiteNumber(0, 1, false).required(), value: value.required(), ease: ease() }).noUnknown(),
        )
        .min(1)
        .max(MAX_KNOTS)
        .test(
          'rising',
          ({ path }) => `${path} must be in order from 0 to 1`,
          (knots) => !knots || knots.every((knot, i) => i === 0 || knots[i - 1].at <= knot.at),
        )
        .required(),
    })
    .noUnknown()
    .strict()
    .required();
