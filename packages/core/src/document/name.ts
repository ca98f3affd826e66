import { LIMITS } from './schema.js';
import { isVisible, visible } from './visible.js';

/** Room kept at the end of a name for the number that distinguishes it from others of the same name. */
const ROOM_FOR_NUMBER = 10;
/** Limit on reported names; the rest are made visible without a note each. */
const MAX_NOTES = 20;

/**
 * A text from outside (a file, a field) as a name that a document may hold: without blanks at its ends, without
 * characters that hide or turn others, and not too long, cut between whole characters.
 * @param fallback what it is called when nothing is left; itself a valid name
 * @param room characters to keep free for what will be put after it
 */
export function tidyName(text: string, fallback: string, room = 0): string {
  const name = cut(visible(text).trim(), LIMITS.name - room).trim();
  return name === '' || !isVisible(name) ? fallback : name;
}

/** Lists of a document whose items have names. */
const NAMED = ['props', 'pictures', 'curves', 'profiles', 'materials', 'regions', 'pieces'] as const;

type Json = Record<string, unknown>;

/**
 * Makes names that cannot be seen, or hide or reverse the text beside them, such that can: earlier versions took them.
 * What is no name is left for the check to tell.
 * @returns the document, the same object where nothing was to do, and what was done, in words
 */
export function tidyNames(document: Json): { document: Json; notes: string[] } {
  const notes: string[] = [];
  const named = <T>(item: T, fallback: string): T => {
    const name = (item as Json | null)?.['name'];
    if (typeof name !== 'string' || name.trim() === '' || isVisible(name)) return item;
    const tidy = tidyName(name, fallback);
    if (notes.length < MAX_NOTES) notes.push(`"${tidy}" had invisible characters in its name; they were removed.`);
    return { ...item, name: tidy };
  };
  let out = named(document, 'Project');
  for (const list of NAMED) {
    const items = document[list];
    if (!Array.isArray(items)) continue;
    const tidied = items.map((item) => {
      const one = named(item, 'Unnamed');
      const variants = (one as Json | null)?.['variants'];
      if (!Array.isArray(variants)) return one;
      const inside = variants.map((variant) => named(variant, 'Unnamed'));
      return inside.some((variant, k) => variant !== variants[k]) ? { ...one, variants: inside } : one;
    });
    if (tidied.some((item, i) => item !== items[i])) out = { ...out, [list]: tidied };
  }
  return { document: out, notes };
}

/** The name, or the name with the first free number after it; never longer than a name may be. */
export function freeName(wanted: string, taken: readonly { name: string }[]): string {
  const names = new Set(taken.map(({ name }) => name));
  if (!names.has(wanted)) return wanted;
  const stem = tidyName(wanted, '', ROOM_FOR_NUMBER);
  for (let i = 2; ; i++) if (!names.has(`${stem} ${i}`)) return `${stem} ${i}`;
}

function cut(text: string, length: number): string {
  if (text.length <= length) return text;
  const isFirstHalf = /[\uD800-\uDBFF]/.test(text[length - 1] ?? '');
  return text.slice(0, isFirstHalf ? length - 1 : length);
}
