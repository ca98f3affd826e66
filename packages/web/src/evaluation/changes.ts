import type { KelpDocument } from '@kelp/core';

interface Named {
  id: string;
}

const LISTS = ['props', 'pictures', 'curves', 'profiles', 'materials', 'regions', 'pieces'] as const;
type ListName = (typeof LISTS)[number];

/** A list as it differs from the one before: what is new or changed, and the order where that is not as it was. */
interface ListChanges<T extends Named> {
  changed: T[];
  order?: string[];
}

/** A document as it differs from the one before: of a project of a thousand pieces a drag sends one. */
export interface DocumentChanges {
  rest: Omit<KelpDocument, ListName>;
  /** Lists that are the same are given by their length alone. */
  lists: { [K in ListName]: ListChanges<KelpDocument[K][number]> | number };
}

/** What has to be said to one who has `before`. */
export function changesSince(before: KelpDocument | null, document: KelpDocument): DocumentChanges {
  const { props, pictures, curves, profiles, materials, regions, pieces, ...rest } = document;
  const now = { props, pictures, curves, profiles, materials, regions, pieces };
  const lists: Record<string, unknown> = {};
  for (const name of LISTS)
    lists[name] = before?.[name] === now[name] ? now[name].length : listChanges<Named>(before?.[name] ?? [], now[name]);
  return { rest, lists: lists as DocumentChanges['lists'] };
}

function listChanges<T extends Named>(before: readonly T[], now: readonly T[]): ListChanges<T> {
  const inOrder = before.length === now.length && before.every(({ id }, i) => id === now[i].id);
  if (inOrder) return { changed: now.filter((one, i) => one !== before[i]) };
  const had = new Set(before);
  return { changed: now.filter((one) => !had.has(one)), order: now.map(({ id }) => id) };
}

/**
 * The document after the changes. What did not change is the same object as before, lists included.
 * @throws Error when the changes were not made since `before`
 */
export function withChanges(before: KelpDocument | null, { rest, lists }: DocumentChanges): KelpDocument {
  const out: Record<string, unknown> = { ...rest };
  for (const name of LISTS) {
    const changes = lists[name] as ListChanges<Named> | number;
    const old: readonly Named[] = before?.[name] ?? [];
    if (typeof changes === 'number' && (!before || old.length !== changes))
      throw new Error(`The document before had other ${name}`);
    out[name] = typeof changes === 'number' ? old : restored(old, changes);
  }
  return out as unknown as KelpDocument;
}

function restored<T extends Named>(before: readonly T[], { changed, order }: ListChanges<T>): T[] {
  const fresh = new Map(changed.map((one) => [one.id, one]));
  if (!order) return before.map((one) => fresh.get(one.id) ?? one);
  const had = new Map(before.map((one) => [one.id, one]));
  return order.map((id) => {
    const one = fresh.get(id) ?? had.get(id);
    if (!one) throw new Error(`There was no ${id} before`);
    return one;
  });
}
