import type { Unit } from './unit.js';

/** All words by which a unit, or one of its presets, is found: its names, what it is for, and its synonyms. */
export function searchText(unit: Unit, presetId?: string): string {
  const presets = presetId === undefined ? unit.presets : unit.presets.filter(({ id }) => id === presetId);
  return [
    unit.id,
    unit.label,
    unit.purpose,
    ...(unit.synonyms ?? []),
    ...presets.flatMap(({ label, synonyms = [] }) => [label, ...synonyms]),
  ].join(' ');
}

/** Whether every word of a query occurs in a text, in any order and case; an empty query matches everything. */
export function matchesSearch(query: string, text: string): boolean {
  const where = text.toLowerCase();
  return query
    .toLowerCase()
    .split(/\s+/)
    .every((word) => where.includes(word));
}
