import { isLane } from '../numeric/lane.js';
import type { ParameterValues } from '../unit/parameters.js';
import { knownUnit, presetParameters, sizeParameter } from '../unit/registry.js';
import type { UnitUse } from './document.js';

/**
 * Another make unit, or another preset, for a line that has one already: a size that was set by hand stays, and so do
 * courses along the length where the new one has a number of the same name and kind.
 */
export function takenOver(old: UnitUse, next: UnitUse): UnitUse {
  const [before, after] = [knownUnit('make', old.unit), knownUnit('make', next.unit)];
  if (!before || !after) return next;
  const kept: ParameterValues = {};
  for (const [name, parameter] of Object.entries(after.parameters)) {
    const value = old.parameters[name];
    const same = before.parameters[name]?.kind === parameter.kind && 'along' in parameter && parameter.along;
    if (same && isLane(value)) kept[name] = value;
  }
  const [from, to] = [sizeParameter(old.unit), sizeParameter(next.unit)];
  const size = from && old.parameters[from];
  const asMade = before.presets.some((preset) => from && presetParameters(before, preset.id)[from] === size);
  if (to && size !== undefined && size !== '' && !asMade) kept[to] = size;
  return { ...next, parameters: { ...next.parameters, ...kept } };
}
