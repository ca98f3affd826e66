import { KINDS } from './kinds.js';
import type { ParameterSet, ParameterValues } from './parameters.js';

/** What of a project something needs, by id. */
export interface References {
  curves: string[];
  props: string[];
  pieces: string[];
  profiles: string[];
  regions: string[];
  pictures: string[];
}

export const noReferences = (): References => ({
  curves: [],
  props: [],
  pieces: [],
  profiles: [],
  regions: [],
  pictures: [],
});

/** What the parameters of a unit name, by their declaration. */
export function parameterReferences(set: ParameterSet, values: ParameterValues): References {
  const out = noReferences();
  for (const [name, parameter] of Object.entries(set)) {
    const value = values[name];
    if (value !== undefined) KINDS[parameter.kind].references?.(value as never, out);
  }
  return out;
}
