import type { KelpDocument } from './document.js';
import { freeName } from './name.js';

/** The lists of a document whose entries others name by id. */
const LISTS = ['props', 'pictures', 'curves', 'profiles', 'materials', 'regions', 'pieces'] as const;
type Entry = { id: string; name: string };

/**
 * A document with all of another one in it. What is in both, to the letter, is there once; where two different things have
 * one id, that which comes gets a new one, and whatever names it does too. Names that are taken get a number.
 * @param newId gives ids that are nowhere yet
 * @returns the document, and the ids of the pieces that came
 */
export function mergedDocument(
  into: KelpDocument,
  from: KelpDocument,
  newId: () => string,
): { document: KelpDocument; pieces: string[] } {
  const known = new Map(LISTS.flatMap((list) => into[list].map((entry) => [entry.id, JSON.stringify(entry)] as const)));
  const renamed = new Map<string, string>();
  let coming = from;
  // what names a thing that gets a new id is no longer what is there already
  for (let before = -1; before < renamed.size; coming = withIds(from, renamed) as KelpDocument) {
    before = renamed.size;
    for (const list of LISTS)
      from[list].forEach(({ id }, k) => {
        const old = known.get(id);
        if (old !== undefined && !renamed.has(id) && old !== JSON.stringify(coming[list][k])) renamed.set(id, newId());
      });
  }
  const document = { ...into };
  for (const list of LISTS) {
    const there = new Set(into[list].map(({ id }) => id));
    const all: Entry[] = [...into[list]];
    for (const entry of coming[list]) if (!there.has(entry.id)) all.push({ ...entry, name: freeName(entry.name, all) });
    Object.assign(document, { [list]: all });
  }
  const before = new Set(into.pieces.map(({ id }) => id));
  return { document, pieces: document.pieces.map(({ id }) => id).filter((id) => !before.has(id)) };
}

/** Keys whose values are words of their own, never ids, though they may read like one. */
const WORDS = new Set(['name', 'unit', 'code', 'reason', 'parameter', 'format']);

function withIds(value: unknown, renamed: ReadonlyMap<string, string>): unknown {
  if (typeof value === 'string') return renamed.get(value) ?? value;
  if (Array.isArray(value)) return value.map((one) => withIds(one, renamed));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, one]) => [key, WORDS.has(key) ? one : withIds(one, renamed)]),
  );
}
