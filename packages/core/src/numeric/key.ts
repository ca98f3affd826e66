/** Keys are written in letters from here on, so that none is one that they are strung together with. */
const LETTER = 0x800;

/**
 * A text of 12 letters that represents a longer one: the same text always gives the same, and two different ones do not
 * meet (128 bits). Two hashes of 64 bits that mix by multiplication, in one pass, with the finish of MurmurHash3
 * (Appleby, public domain).
 */
export function shortKey(text: string): string {
  let a = 0xdeadbeef ^ 0x2545f491;
  let b = 0x41c6ce57 ^ 0x2545f491;
  let c = 0xdeadbeef ^ 0x9e3779b9;
  let d = 0x41c6ce57 ^ 0x9e3779b9;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 2654435761);
    b = Math.imul(b ^ code, 1597334677);
    c = Math.imul(c ^ code, 2654435761);
    d = Math.imul(d ^ code, 1597334677);
  }
  const mixed = (x: number, y: number) => Math.imul(x ^ (x >>> 16), 2246822507) ^ Math.imul(y ^ (y >>> 13), 3266489909);
  a = mixed(a, b);
  b = mixed(b, a);
  c = mixed(c, d);
  d = mixed(d, c);
  return letters(a) + letters(b) + letters(c) + letters(d);
}

const letters = (x: number): string =>
  String.fromCharCode(LETTER | (x >>> 21), LETTER | ((x >>> 10) & 0x7ff), LETTER | (x & 0x3ff));

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
