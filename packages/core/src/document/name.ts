import { LIMITS } from './schema.js';

/** Room kept at the end of a name for the number that tells it from its namesakes. */
const ROOM_FOR_NUMBER = 10;

/**
 * A text from outside (a file, a field) as a name that a document may hold: without blanks at its ends and not too
 * long, cut between whole characters.
 * @param fallback what it is called when nothing is left; itself a valid name
 * @param room characters to keep free for what will be put after it
 */
export function tidyName(text: string, fallback: string, room = 0): string {
  const name = cut(text.trim(), LIMITS.name - room).trim();
  return name === '' ? fallback : name;
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
