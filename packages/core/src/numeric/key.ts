/**
 * A text of 28 letters that stands for a longer one: the same text always gives the same, and two different ones do not
 * meet (106 bits). Two runs of a 53-bit hash that mixes by multiplication, the finish of MurmurHash3 (Appleby, public domain).
 */
export function shortKey(text: string): string {
  return (
    hash53(text, 0x2545f491).toString(16).padStart(14, '0') + hash53(text, 0x9e3779b9).toString(16).padStart(14, '0')
  );
}

function hash53(text: string, seed: number): number {
  let a = 0xdeadbeef ^ seed;
  let b = 0x41c6ce57 ^ seed;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 2654435761);
    b = Math.imul(b ^ code, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return 4294967296 * (2097151 & b) + (a >>> 0);
}

const known = new WeakMap<object, string>();

/**
 * The short key of any plain value. Parts of a document are replaced, never changed, so the key of one is made once:
 * what hundreds of pieces are compared by costs nothing where nothing changed.
 */
export function keyOf(part: unknown): string {
  if (typeof part !== 'object' || part === null) return JSON.stringify(part) ?? '';
  let key = known.get(part);
  if (key === undefined) {
    key = shortKey(JSON.stringify(part));
    known.set(part, key);
  }
  return key;
}

/** One short key of several. */
export const joinKeys = (...keys: readonly string[]): string => shortKey(keys.join('\u0000'));
