import { type KelpDocument, type Piece, referencesOf } from '@kelp/core';

/**
 * The pieces that may be another after a change of the document: those that changed, those whose curves, profiles,
 * regions or pictures did, and all that follow one of them. Where props or materials changed, every piece is asked: each knows what
 * it looked at, and answers at once when that is as it was.
 */
export function affectedPieces(before: KelpDocument | null, document: KelpDocument): Set<string> {
  const { pieces } = document;
  if (!before || before.props !== document.props || before.materials !== document.materials)
    return new Set(pieces.map(({ id }) => id));
  const old = new Set<object>(before.pieces);
  const out = new Set(pieces.filter((piece) => !old.has(piece)).map(({ id }) => id));
  const changed = {
    curves: changedIds(before.curves, document.curves),
    profiles: changedIds(before.profiles, document.profiles),
    regions: changedIds(before.regions, document.regions),
    pictures: changedIds(before.pictures, document.pictures),
  };
  for (const piece of pieces) {
    if (out.has(piece.id)) continue;
    const named = referencesOf(piece);
    for (const kind of ['curves', 'profiles', 'regions', 'pictures'] as const)
      if (changed[kind].size > 0 && named[kind].some((id) => changed[kind].has(id))) out.add(piece.id);
  }
  // a piece that is gone leaves those behind that followed it
  const gone = before.pieces.length > 0 ? changedIds(before.pieces, pieces) : new Set<string>();
  followers(pieces, new Set([...out, ...gone]), out);
  return out;
}

/** Ids of what is new, changed or gone. */
function changedIds(before: readonly { id: string }[], now: readonly { id: string }[]): Set<string> {
  if (before === now) return new Set();
  const old = new Map(before.map((one) => [one.id, one]));
  const out = new Set<string>();
  for (const one of now) {
    if (old.get(one.id) !== one) out.add(one.id);
    old.delete(one.id);
  }
  for (const id of old.keys()) out.add(id);
  return out;
}

/** Adds all pieces that follow one of `from`, over any number of others. */
function followers(pieces: readonly Piece[], from: ReadonlySet<string>, out: Set<string>): void {
  const by = new Map<string, string[]>();
  for (const piece of pieces)
    for (const id of referencesOf(piece).pieces) by.set(id, [...(by.get(id) ?? []), piece.id]);
  if (by.size === 0) return;
  const waiting = [...from];
  const seen = new Set(from);
  for (let id = waiting.pop(); id !== undefined; id = waiting.pop())
    for (const next of by.get(id) ?? [])
      if (!seen.has(next)) {
        seen.add(next);
        out.add(next);
        waiting.push(next);
      }
}
