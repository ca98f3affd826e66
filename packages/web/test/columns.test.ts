import { newPiece } from '@kelp/core';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { PieceBuild } from '../src/evaluation/protocol.js';
import { COLUMNS, narrowColumn, type Order, orderAfter, sorted } from '../src/manifest/columns.js';

const build = (length: number, triangles: number, ms: number, lines: number, findings: number) =>
  ({
    measures: { length, triangles, further: [] },
    guide: { closed: new Uint8Array(lines) },
    ms,
    findings: Array.from({ length: findings }),
  }) as unknown as PieceBuild;

it('pieces are listed by any figure, largest first or last; those without a result count as nothing', () => {
  const figure = fc.nat(4);
  const piece = fc.record({
    name: fc.string({ maxLength: 4 }),
    built: fc.option(fc.tuple(figure, figure, figure, figure, figure)),
  });
  const by = fc.constantFrom<Order['by']>('own', 'name', 'findings', ...COLUMNS.map(({ id }) => id));
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 12 }), by, fc.boolean(), (given, by, reversed) => {
      const pieces = given.map(({ name }, i) => newPiece(String(i), name, [], false));
      const builds = new Map(given.flatMap(({ built }, i) => (built ? [[String(i), build(...built)] as const] : [])));
      const listed = sorted(pieces, { by, reversed }, builds);
      expect(new Set(listed)).toEqual(new Set(pieces));
      if (reversed) listed.reverse();
      if (by === 'own') {
        expect(listed).toEqual(pieces);
        return;
      }
      const which = { length: 0, triangles: 1, time: 2, lines: 3, findings: 4 };
      for (let i = 1; i < listed.length; i++) {
        const [before, after] = [listed[i - 1], listed[i]];
        if (by === 'name') expect(before.name.localeCompare(after.name)).toBeLessThanOrEqual(0);
        else {
          const size = ({ id }: { id: string }) => given[Number(id)].built?.[which[by]] ?? 0;
          expect(size(before)).toBeGreaterThanOrEqual(size(after));
        }
      }
    }),
  );
});

it('a click on a head orders by it, a second one turns the order round; a narrow list shows what it is ordered by', () => {
  const first = orderAfter({ by: 'own', reversed: false }, 'time');
  expect(first).toEqual({ by: 'time', reversed: false });
  expect(orderAfter(first, 'time')).toEqual({ by: 'time', reversed: true });
  expect(orderAfter(orderAfter(first, 'time'), 'lines')).toEqual({ by: 'lines', reversed: false });
  expect([narrowColumn('lines'), narrowColumn('name')]).toEqual(['lines', 'length']);
});
