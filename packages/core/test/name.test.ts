import fc from 'fast-check';
import { expect, it } from 'vitest';
import { freeName, LIMITS, nameSchema, tidyName } from '../src/index.js';

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
      expect(name === 'Line' || given.includes(name)).toBe(true);
      expect(tidyName(name, 'Line', room)).toBe(name);
    }),
  );
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
