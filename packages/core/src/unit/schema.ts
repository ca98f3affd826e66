import * as yup from 'yup';
import { parameterSchema } from './kinds.js';
import type { ParameterSet } from './parameters.js';

/** Check of all parameters of a unit; a missing one is an error, so is one that the unit does not have. */
export function parametersSchema(set: ParameterSet): yup.Schema {
  const shape = Object.fromEntries(Object.entries(set).map(([name, parameter]) => [name, parameterSchema(parameter)]));
  return yup
    .object(shape)
    .noUnknown(({ path, unknown }) => `${path}: there is no parameter ${unknown}`)
    .strict()
    .required();
}
