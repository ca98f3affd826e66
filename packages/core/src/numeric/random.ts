/**
 * Random numbers that hang on stable ids: a value is a hash of (seed, id, name), never "the next number", so adding
 * ten strands leaves the others untouched.
 */

/** Mixes 32 bits so that every input bit moves every output bit (finalizer of MurmurHash3, Appleby, public domain). */
function mix(value: number): number {
  let h = value | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** A 32-bit id for a text (FNV-1a, draft-eastlake-fnv); used to turn names and document ids into numbers. */
export function hashText(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return mix(h);
}

/** The stable id of the `k`-th thing made from the thing called `id`. */
export const childId = (id: number, k: number): number => (mix(mix(id) + k) || 1) >>> 0;

/** Even in [0, 1): the same (seed, id, name) always gives the same number. `name` comes from `hashText`. */
export function randomAt(seed: number, id: number, name: number): number {
  return mix(mix(mix(seed) ^ id) + name) / 4294967296;
}

/** What a seed is turned into before ids are: by it a kernel makes the same numbers as `randomsOf`. */
export const mixedSeed = mix;

/** `randomAt` for many ids of one seed and one name. */
export function randomsOf(seed: number, name: number): (id: number) => number {
  const mixed = mix(seed);
  return (id) => mix(mix(mixed ^ id) + name) / 4294967296;
}
