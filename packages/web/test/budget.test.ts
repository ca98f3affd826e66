import fc from 'fast-check';
import { expect, it } from 'vitest';
import { apparentSize, fitting, type Weighed } from '../src/view/budget.js';

const things = fc.array(
  fc.record({
    at: fc.tuple(fc.integer({ min: -90, max: 90 }), fc.integer({ min: -90, max: 90 })),
    size: fc.integer({ min: 1, max: 9 }),
    triangles: fc.integer({ min: 1, max: 5_000 }),
  }),
  { minLength: 1, maxLength: 60 },
);

it('a picture holds what it has time for, and never leaves out a thing for one that looks smaller and is as heavy', () => {
  fc.assert(
    fc.property(things, fc.integer({ min: 1, max: 100_000 }), (made, budget) => {
      const all: Weighed[] = made.map(({ at: [x, z], size, triangles }) => ({
        box: [x, 0, z, x + size, size, z + size],
        triangles,
      }));
      const eye = [0, 2, 100] as const;
      const kept = fitting(all, eye, budget);
      // what is in hand is drawn, be it the heaviest and the furthest away
      const held = all.map((thing, i) => ({ ...thing, inHand: i === all.length - 1 }));
      expect(fitting(held, eye, budget).at(-1)).toBe(1);
      const shown = all.filter((_, i) => kept[i]);
      const largest = all.reduce((a, b) => (apparentSize(b, eye) > apparentSize(a, eye) ? b : a));
      expect(shown.map((thing) => apparentSize(thing, eye))).toContain(apparentSize(largest, eye));
      if (shown.length > 1) expect(shown.reduce((sum, thing) => sum + thing.triangles, 0)).toBeLessThanOrEqual(budget);
      for (const [i, out] of all.entries())
        if (!kept[i])
          for (const other of shown)
            if (apparentSize(other, eye) < apparentSize(out, eye)) expect(other.triangles).toBeLessThan(out.triangles);
    }),
  );
});
