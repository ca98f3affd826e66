import {
  findUnit,
  isNumberParameter,
  KelpError,
  matchesSearch,
  type Parameter,
  searchText,
  type Unit,
  unitOfMeasure,
  units,
} from '@kelp/core';
import { Command } from 'commander';
import { print, printJson } from '../print.js';

export const listCommand = (): Command =>
  new Command('list')
    .description('List units with their parameters, units of measure and ranges.')
    .argument('[unit]', 'unit id')
    .option('--search <words>', 'only units that match all words, synonyms included')
    .option('--json', 'print the list as one JSON value')
    .action(run);

function run(id: string | undefined, { json, search }: { json?: boolean; search?: string }): void {
  const named = id === undefined ? units : [findUnit(id)].filter((unit) => unit !== undefined);
  if (named.length === 0)
    throw new KelpError(
      'UNKNOWN_UNIT',
      `No unit is called "${id}"; available: ${units.map((unit) => unit.id).join(', ')}`,
    );
  const chosen = search === undefined ? named : named.filter((unit) => matchesSearch(search, searchText(unit)));
  if (chosen.length === 0) throw new KelpError('UNKNOWN_UNIT', `No unit matches "${search}".`);
  if (json) {
    printJson(id === undefined ? chosen.map(described) : described(chosen[0]));
    return;
  }
  for (const unit of chosen) {
    print(`${unit.id} (${unit.stage}): ${unit.purpose}`);
    if (id === undefined) continue;
    for (const [name, parameter] of Object.entries(unit.parameters))
      print(`  ${name}: ${parameter.help} ${rangeOf(parameter)}`);
    print(`  presets: ${unit.presets.map((preset) => preset.id).join(', ')}`);
    if (unit.outfits) print(`  outfits: ${unit.outfits.map((outfit) => outfit.id).join(', ')}`);
  }
}

function described({ id, stage, label, purpose, synonyms, parameters, presets, outfits }: Unit) {
  const list = Object.entries(parameters).map(([name, parameter]) => ({
    name,
    unit: unitOfMeasure(parameter),
    ...parameter,
  }));
  return { id, stage, label, purpose, synonyms, parameters: list, presets, ...(outfits ? { outfits } : {}) };
}

function rangeOf(parameter: Parameter): string {
  if (isNumberParameter(parameter)) {
    const measure = unitOfMeasure(parameter);
    const lane = parameter.along ? ', may vary along the length' : '';
    return `[${parameter.min} … ${parameter.max}${measure ? ` ${measure}` : ''}, default ${+parameter.default.toPrecision(4)}${lane}]`;
  }
  if (parameter.kind === 'choice')
    return `[${parameter.options.map((option) => option.value).join(' | ')}, default ${parameter.default}]`;
  return `[${parameter.kind}, default ${parameter.default === '' ? 'nearest' : JSON.stringify(parameter.default)}]`;
}
