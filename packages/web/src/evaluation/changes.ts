import type { KelpDocument } from '@kelp/core';

interface Named {
  id: string;
}

/** A list as it is now: what is new or changed whole, the rest by its id alone. */
type Changed<T extends Named> = (T | string)[];

/** A document as it differs from the one before: a project of hundreds of lines is not sent whole at every step of a drag. */
export interface DocumentChanges {
  rest: Omit<KelpDocument, 'curves' | 'pieces'>;
  curves: Changed<KelpDocument['curves'][number]>;
  pieces: Changed<KelpDocument['pieces'][number]>;
}

/** What has to be said to one who has `before`. */
export function changesSince(before: KelpDocument | null, { curves, pieces, ...rest }: KelpDocument): DocumentChanges {
  return { rest, curves: changed(before?.curves, curves), pieces: changed(before?.pieces, pieces) };
}

/**
 * The document after the changes. What did not change is the same object as before.
 * @throws Error when the changes were not made since `before`
 */
export function withChanges(before: KelpDocument | null, { rest, curves, pieces }: DocumentChanges): KelpDocument {
  return { ...rest, curves: restored(before?.curves, curves), pieces: restored(before?.pieces, pieces) };
}

function changed<T extends Named>(before: readonly T[] = [], now: readonly T[]): Changed<T> {
  const had = new Set(before);
  return now.map((one) => (had.has(one) ? one.id : one));
}

function restored<T extends Named>(before: readonly T[] = [], now: Changed<T>): T[] {
  const had = new Map(before.map((one) => [one.id, one]));
  return now.map((one) => {
    if (typeof one !== 'string') return one;
    const same = had.get(one);
    if (!same) throw new Error(`There was no ${one} before`);
    return same;
  });
}
