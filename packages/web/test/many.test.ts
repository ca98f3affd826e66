import { newPiece, newShape, withParameter } from '@kelp/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { afterClick } from '../src/manifest/choice.js';
import { isMixed, sharedUses } from '../src/stem/shared-uses.js';

describe('choosing many', () => {
  const listed = ['a', 'b', 'c', 'd', 'e'];
  const click = fc.record({ id: fc.constantFrom(...listed), ctrl: fc.boolean(), shift: fc.boolean() });

  it('never chooses one twice, and what was clicked last is the last, unless it was taken out', () => {
    fc.assert(
      fc.property(fc.array(click, { maxLength: 12 }), (clicks) => {
        let chosen: string[] = [];
        for (const { id, ...keys } of clicks) {
          const before = chosen;
          chosen = afterClick(listed, before, id, keys);
          expect(new Set(chosen).size).toBe(chosen.length);
          if (keys.ctrl && before.includes(id)) expect(chosen).not.toContain(id);
          else expect(chosen.at(-1)).toBe(id);
        }
      }),
    );
  });

  it('Shift takes all between, forwards and backwards', () => {
    expect(afterClick(listed, ['b'], 'd', { ctrl: false, shift: true }).toSorted()).toEqual(['b', 'c', 'd']);
    expect(afterClick(listed, ['d'], 'b', { ctrl: false, shift: true })).toEqual(['c', 'd', 'b']);
  });
});

describe('what several pieces have in common', () => {
  const one = { ...newPiece('one', 'One', [], false), shape: [newShape('smooth'), newShape('wobble', { amount: 1 })] };
  const two = { ...newPiece('two', 'Two', [], false), shape: [newShape('wobble', { amount: 2 })] };

  it('is offered once, with its place in each, and distinguished where it differs', () => {
    const shared = sharedUses([one, two]);
    expect(shared.map(({ unit }) => unit)).toEqual(['drawn', 'wobble', 'cable', 'plain']);
    const wobble = shared[1];
    expect(wobble.in.map(({ place }) => place)).toEqual([
      { stage: 'shape', index: 1 },
      { stage: 'shape', index: 0 },
    ]);
    expect(isMixed(wobble, 'amount')).toBe(true);
    expect(isMixed(wobble, 'seed')).toBe(false);
    const set = wobble.in.map(({ piece, place }) => withParameter(piece, place, 'amount', 3));
    expect(isMixed(sharedUses(set)[1], 'amount')).toBe(false);
    expect(sharedUses([one, two, { ...two, shape: [] }]).map(({ unit }) => unit)).not.toContain('wobble');
  });
});
