import fc from 'fast-check';
import { expect, it } from 'vitest';
import { emptyDocument, freeName, LIMITS, nameSchema, openDocument, tidyName } from '../src/index.js';

/** Any text, ends and lengths that a name may not have included. */
const text = fc
  .tuple(
    fc.string({ unit: 'binary', maxLength: 40 }),
    fc.constantFrom('', ' ', '\u1680', '\t\n', '🪢'),
    fc.integer({ min: 0, max: 210 }),
  )
  .map(([start, between, times]) => start + between.repeat(times));

it('any text becomes a name that a document takes, and a name stays as it is', () => {
  fc.assert(
    fc.property(text, fc.nat(50), (given, room) => {
      const name = tidyName(given, 'Line', room);
      expect(nameSchema.isValidSync(name)).toBe(true);
      expect(name === 'Line' || name.length <= LIMITS.name - room).toBe(true);
      expect(name === 'Line' || isInOrder(name, given)).toBe(true);
      expect(tidyName(name, 'Line', room)).toBe(name);
    }),
  );
});

/** Whether the letters of one text are in the other in their order: nothing was put in. */
function isInOrder(part: string, whole: string): boolean {
  let from = 0;
  for (const letter of part) {
    from = whole.indexOf(letter, from);
    if (from < 0) return false;
    from += letter.length;
  }
  return true;
}

it.each([
  ['nothing but a zero', '\0'],
  ['a line end', 'Mooring\nline'],
  ['a direction of writing (UTS 39, section 5.4, and the bidi controls of UAX 9)', 'evil\u202egnp.exe'],
  ['blanks that take no room', '\u200b\u2060'],
  ['a letter that is drawn as nothing', '\u3164'],
  ['half a character', 'a\ud83e'],
])('a name with %s is refused, and made visible where it comes from a file', (_what, name) => {
  expect(nameSchema.isValidSync(name)).toBe(false);
  const { document, notes } = openDocument({ ...emptyDocument('x'), name, regions: [] });
  expect(nameSchema.isValidSync(document.name)).toBe(true);
  expect(notes).toHaveLength(1);
});

it('names in all scripts, with marks and joined pictures, are names', () => {
  for (const name of ['Ανεμόσκαλα', 'कमल', '绳', 'حبل', '👩‍🌾', 'é', '3'])
    expect(nameSchema.isValidSync(name)).toBe(true);
});

it('is cut between whole characters', () => {
  expect(tidyName(`a${'🪢'.repeat(120)}`, 'Line')).toBe(`a${'🪢'.repeat(99)}`);
});

it('a free name is a valid one that nothing has, however long its namesakes are', () => {
  fc.assert(
    fc.property(text, fc.nat(12), (given, count) => {
      const taken: { name: string }[] = [];
      for (let i = 0; i <= count; i++) {
        const name = freeName(tidyName(given, 'Line'), taken);
        expect(nameSchema.isValidSync(name)).toBe(true);
        expect(taken.some((other) => other.name === name)).toBe(false);
        taken.push({ name });
      }
    }),
  );
});
