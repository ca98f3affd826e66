const known = new WeakMap<object, string>();

/**
 * A text that is the same for the same content. Parts of a document are replaced, never changed, so the text of one is
 * made once: what hundreds of pieces are compared by costs nothing where nothing changed.
 */
export function keyOf(part: unknown): string {
  if (typeof part !== 'object' || part === null) return JSON.stringify(part);
  let key = known.get(part);
  if (key === undefined) {
    key = JSON.stringify(part);
    known.set(part, key);
  }
  return key;
}
