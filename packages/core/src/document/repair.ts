import { defaultsOf, type ParameterValues } from '../unit/parameters.js';
import { findUnit } from '../unit/registry.js';

type Json = Record<string, unknown>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Lifts every use of a unit to what the unit is now: its upgrades run, a parameter that the file lacks gets its default,
 * one that is gone is dropped. A unit that is not known stays as it is, and is reported when it is to be computed.
 * Broken parts are left for the check to name.
 * @returns the document, the same object where nothing was to do, and what was done, in words
 */
export function repairUses(document: Json): { document: Json; notes: string[] } {
  const notes: string[] = [];
  const pieces = sameOrMapped(document['pieces'], (piece) => {
    if (!isObject(piece)) return piece;
    const name = typeof piece['name'] === 'string' ? piece['name'] : 'A piece';
    const lifted = repairStages(piece, name, notes);
    const variants = sameOrMapped(lifted['variants'], (variant) => {
      if (!isObject(variant) || !isObject(variant['stages'])) return variant;
      const stages = repairStages(variant['stages'], name, notes);
      return stages === variant['stages'] ? variant : { ...variant, stages };
    });
    return variants === lifted['variants'] ? lifted : { ...lifted, variants };
  });
  const materials = sameOrMapped(document['materials'], (material) => {
    if (!isObject(material)) return material;
    const dress = repairUse(material['dress'], String(material['name']), notes);
    return dress === material['dress'] ? material : { ...material, dress };
  });
  if (pieces === document['pieces'] && materials === document['materials']) return { document, notes };
  return { document: { ...document, pieces, ...(materials ? { materials } : {}) }, notes };
}

function repairStages(stages: Json, name: string, notes: string[]): Json {
  const path = repairUse(stages['path'], name, notes);
  const make = repairUse(stages['make'], name, notes);
  const shape = sameOrMapped(stages['shape'], (use) => repairUse(use, name, notes));
  let dress = stages['dress'];
  if (isObject(dress)) {
    const slots = Object.entries(dress).map(([slot, use]) => [slot, repairUse(use, name, notes)] as const);
    if (slots.some(([slot, use]) => use !== (dress as Json)[slot])) dress = Object.fromEntries(slots);
  }
  const same =
    path === stages['path'] && make === stages['make'] && shape === stages['shape'] && dress === stages['dress'];
  return same ? stages : { ...stages, path, make, shape, dress };
}

function repairUse(use: unknown, piece: string, notes: string[]): unknown {
  if (!isObject(use) || typeof use['unit'] !== 'string' || !isObject(use['parameters'])) return use;
  const unit = findUnit(use['unit']);
  if (!unit) return use;
  let parameters = use['parameters'] as ParameterValues;
  let version = typeof use['version'] === 'number' ? use['version'] : 1;
  for (const { from, upgrade } of unit.upgrades ?? [])
    if (from === version) {
      parameters = upgrade(parameters);
      version = from + 1;
    }
  const declared = Object.keys(unit.parameters);
  const missing = declared.filter((name) => !(name in parameters));
  const gone = Object.keys(parameters).filter((name) => !(name in unit.parameters));
  if (parameters === use['parameters'] && missing.length === 0 && gone.length === 0) return use;
  const defaults = defaultsOf(unit.parameters);
  if (missing.length > 0)
    notes.push(`${piece}: ${unit.label} had no ${missing.join(', ').slice(0, 100)}; the default was used.`);
  if (gone.length > 0)
    notes.push(`${piece}: ${unit.label} no longer has ${gone.join(', ').slice(0, 100)}; it was removed.`);
  const whole = Object.fromEntries(declared.map((name) => [name, parameters[name] ?? defaults[name]]));
  return { ...use, ...(version > 1 ? { version } : {}), parameters: whole };
}

function sameOrMapped(list: unknown, change: (item: unknown) => unknown): unknown {
  if (!Array.isArray(list)) return list;
  const out = list.map(change);
  return out.every((item, i) => item === list[i]) ? list : out;
}
