import * as yup from 'yup';
import type { Parameter, ParameterSet } from './parameters.js';
import { isNumberParameter, isWhole } from './parameters.js';

/** Most knots on one lane. */
export const MOST_KNOTS = 500;

/** World coordinates, metres: beyond this single-precision meshes fall apart. */
export const FARTHEST = 1e6;

/** Check of one parameter's value, hard limits included. The same for files, the API and forms. */
export function parameterSchema(parameter: Parameter): yup.Schema {
  if (isNumberParameter(parameter)) {
    const number = finiteNumber(parameter.min, parameter.max, isWhole(parameter));
    if (!parameter.along) return number.required();
    return yup.lazy((value) =>
      typeof value === 'object' && value !== null ? laneSchema(number) : number.required(),
    ) as unknown as yup.Schema;
  }
  switch (parameter.kind) {
    case 'toggle':
      return yup.boolean().required();
    case 'choice':
      return yup
        .string()
        .oneOf(parameter.options.map((option) => option.value))
        .required();
    case 'colour':
      return yup
        .string()
        .matches(/^#[0-9a-f]{6}$/, ({ path }) => `${path} must be a colour like #2c6a50`)
        .required();
    case 'prop':
    case 'piece':
      return yup.string().max(64).defined();
    case 'pair': {
      const number = finiteNumber(parameter.min, parameter.max, false).required();
      return yup
        .object({ least: number, most: number })
        .noUnknown()
        .strict()
        .test(
          'order',
          ({ path }) => `${path}: least must not be above most`,
          (value) => !(value?.least > value?.most),
        )
        .required();
    }
    case 'point': {
      const coordinate = finiteNumber(-FARTHEST, FARTHEST, false).required();
      return yup.tuple([coordinate, coordinate, coordinate]).required();
    }
    case 'curves':
      return yup.array(yup.string().max(64).required()).max(10_000).required();
  }
}

/** Check of all parameters of a unit; a missing one is an error, so is one that the unit does not have. */
export function parametersSchema(set: ParameterSet): yup.Schema {
  const shape = Object.fromEntries(Object.entries(set).map(([name, parameter]) => [name, parameterSchema(parameter)]));
  return yup
    .object(shape)
    .noUnknown(({ path, unknown }) => `${path}: no parameter is called ${unknown}`)
    .strict()
    .required();
}

function finiteNumber(min: number, max: number, whole: boolean): yup.NumberSchema {
  const number = yup
    .number()
    .strict()
    .test(
      'finite',
      ({ path }) => `${path} must be a finite number`,
      (value) => value === undefined || Number.isFinite(value),
    )
    .min(min, ({ path }) => `${path} must be ${min} or more`)
    .max(max, ({ path }) => `${path} must be ${max} or less`);
  return whole ? number.integer(({ path }) => `${path} must be a whole number`) : number;
}

const ease = () => yup.string().oneOf(['smooth', 'straight']);

const laneSchema = (value: yup.NumberSchema) =>
  yup
    .object({
      ease: ease().required(),
      knots: yup
        .array(
          yup.object({ at: finiteNumber(0, 1, false).required(), value: value.required(), ease: ease() }).noUnknown(),
        )
        .min(1)
        .max(MOST_KNOTS)
        .test(
          'rising',
          ({ path }) => `${path} must rise from 0 to 1`,
          (knots) => !knots || knots.every((knot, i) => i === 0 || knots[i - 1].at <= knot.at),
        )
        .required(),
    })
    .noUnknown()
    .strict()
    .required();
