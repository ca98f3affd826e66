import type { Shown } from './units.js';

/** Longest text a number field reads. */
const MAX_LENGTH = 100;

/**
 * Reads what was typed into a number field: a plain number in the shown unit, arithmetic, or a value with a unit of its
 * own ("3/8 in", "2*12mm + 1mm", "45 deg"). Gives the number in the shown unit.
 * @throws Error with a sentence that says what cannot be read
 */
export async function parseNumber(text: string, shown: Shown): Promise<number> {
  const trimmed = text.trim().replaceAll('°', ' deg').replaceAll(',', '.').replaceAll('×', '').replaceAll('⌀', '');
  if (trimmed === '') throw new Error('Type a number.');
  if (trimmed.length > MAX_LENGTH) throw new Error('The number is too long.');
  const plain = Number(trimmed);
  if (Number.isFinite(plain)) return plain;
  // arithmetic and units are rarely typed, and the library that reads them is large
  const { evaluate } = await import('./arithmetic.js');
  return evaluate(trimmed, shown);
}
