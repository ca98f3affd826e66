import { emptyDocument, type KelpDocument, newPiece } from '@kelp/core';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { changesSince, withChanges } from '../src/evaluation/changes.js';

const line = (id: string) => ({ id, name: id, closed: false, points: [] });
const document: fc.Arbitrary<KelpDocument> = fc
  .uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 5 })
  .map((ids) => ({
    ...emptyDocument('Any'),
    curves: ids.map(line),
    pieces: ids.map((id) => newPiece(`piece ${id}`, id, [id], false)),
  }));

it('arrive as the document they were made from, by any way; what stayed is the same object and is not sent again', () => {
  const edit = fc.tuple(fc.nat(), fc.constantFrom('rename', 'remove', 'add', 'turn round'));
  fc.assert(
    fc.property(document, fc.array(edit, { maxLength: 8 }), (first, edits) => {
      let here: KelpDocument = first;
      let there = withChanges(null, structuredClone(changesSince(null, here)));
      for (const [at, kind] of edits) {
        const index = at % Math.max(1, here.curves.length);
        const curves = {
          rename: () => here.curves.map((curve, i) => (i === index ? { ...curve, name: `${curve.name}'` } : curve)),
          remove: () => here.curves.toSpliced(index, 1),
          add: () => [...here.curves, line(`new ${at} ${here.curves.length}`)],
          'turn round': () => here.curves.toReversed(),
        }[kind]();
        const next = { ...here, curves };
        const said = changesSince(here, next);
        const news = curves.filter((curve) => !here.curves.includes(curve));
        const { curves: reported } = said.lists;
        expect(typeof reported === 'number' ? [] : reported.changed).toEqual(news);
        const before = new Set(there.curves);
        there = withChanges(there, structuredClone(said));
        expect(there.curves.filter((curve) => !before.has(curve))).toHaveLength(news.length);
        here = next;
        expect(there).toEqual(here);
      }
    }),
  );
});

it('are refused by one who has another document', () => {
  const now = { ...emptyDocument('Any'), curves: [line('a')] };
  expect(() => withChanges(emptyDocument('Other'), changesSince(now, now))).toThrow('a');
});
