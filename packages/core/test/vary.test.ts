import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { POINT } from '../src/curve/curve-set.js';
import { pairAt, parameterSchema, unitOf } from '../src/index.js';
import { evenly } from './helpers.js';
import { build } from './units.js';

const pair = fc.tuple(evenly(-50, 50), evenly(0, 50)).map(([least, more]) => ({ least, most: least + more }));

describe('from one to the next', () => {
  it('every value lies between least and most, hangs on the id alone, and spreads with the pair', () => {
    fc.assert(
      fc.property(pair, fc.nat(1000), fc.array(fc.nat(), { minLength: 1, maxLength: 50 }), (between, seed, ids) => {
        const values = ids.map((id) => pairAt(between, seed, id, 'thickness'));
        for (const value of values) {
          expect(value).toBeGreaterThanOrEqual(between.least);
          expect(value).toBeLessThanOrEqual(between.most);
        }
        const reversed = ids.toReversed().map((id) => pairAt(between, seed, id, 'thickness'));
        expect(reversed.toReversed()).toEqual(values);
      }),
    );
  });

  it('fills the range evenly: a thousand draws, chi-square over ten columns', () => {
    const counts = new Array<number>(10).fill(0);
    for (let id = 0; id < 1000; id++) counts[Math.floor(pairAt({ least: 0, most: 10 }, 7, id, 'roll'))]++;
    const chi = counts.reduce((sum, count) => sum + (count - 100) ** 2 / 100, 0);
    // 0.1 % point of chi-square with 9 degrees of freedom (NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.4)
    expect(chi).toBeLessThan(27.877);
  });

  it('vary gives each line its own thickness and turn, and leaves the others alone when one is added', () => {
    const rows = (count: number) =>
      build('shape', 'repeat', { count, step: [0, 0, 1] }, { input: build('path', 'figure', { kind: 'line' }) });
    const drawn = (count: number) => {
      const out = build(
        'shape',
        'vary',
        { thickness: { least: 0.5, most: 2 }, roll: { least: -1, most: 1 } },
        { input: rows(count) },
      );
      return Array.from({ length: count }, (_, c) => [
        out.pointData[POINT.radius][out.start[c]],
        out.pointData[POINT.roll][out.start[c]],
      ]);
    };
    const [six, nine] = [drawn(6), drawn(9)];
    expect(nine.slice(0, 6)).toEqual(six);
    expect(new Set(nine.map(([thickness]) => thickness)).size).toBe(9);
  });

  it('a pair that is the wrong way round, out of its limits or no pair is refused', () => {
    const schema = parameterSchema(unitOf('shape', 'vary').parameters['thickness']);
    for (const wrong of [
      { least: 2, most: 1 },
      { least: 0, most: 1 },
      { least: 1 },
      1,
      { least: 1, most: Number.NaN },
      null,
    ])
      expect(() => schema.validateSync(wrong), JSON.stringify(wrong)).toThrow();
    expect(schema.validateSync({ least: 1, most: 1 })).toEqual({ least: 1, most: 1 });
  });
});
