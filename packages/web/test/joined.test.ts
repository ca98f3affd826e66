import fc from 'fast-check';
import { expect, it } from 'vitest';
import { joined } from '../src/view/joined.js';

it('flags that lie over each other are one, the worst; none is lost, and those that are do not overlap', () => {
  expect(
    joined([
      { x: 100, y: 100, rank: 1 },
      { x: 180, y: 110, rank: 101 },
      { x: 600, y: 100, rank: 0 },
    ]),
  ).toEqual([-1, 1, 0]);
  const label = fc.record({ x: fc.nat(1000), y: fc.nat(600), rank: fc.nat(200) });
  fc.assert(
    fc.property(fc.array(label, { maxLength: 40 }), (labels) => {
      const out = joined(labels);
      const standing = labels.filter((_, i) => out[i] >= 0);
      expect(out.filter((others) => others >= 0).reduce((sum, others) => sum + others + 1, 0)).toBe(labels.length);
      for (const [k, a] of standing.entries())
        for (const b of standing.slice(k + 1))
          expect(Math.abs(a.x - b.x) >= 150 || Math.abs(a.y - b.y) >= 26).toBe(true);
    }),
  );
});
