import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Lane, valueAt } from '../src/index.js';
import { greatest, mapAlong } from '../src/numeric/lane.js';
import { hashText, randomAt } from '../src/numeric/random.js';

describe('random numbers that hang on stable ids', () => {
  it('are the same for the same seed, id and name, and do not know of their neighbours', () => {
    const length = hashText('length');
    const few = Array.from({ length: 10 }, (_, id) => randomAt(7, id, length));
    const many = Array.from({ length: 1000 }, (_, id) => randomAt(7, id, length));
    expect(many.slice(0, 10)).toEqual(few);
    expect(randomAt(7, 3, hashText('twist'))).not.toBe(few[3]);
    expect(randomAt(8, 3, length)).not.toBe(few[3]);
  });

  it('are even: chi-square of 11 equal bins stays below 29.59, the 99.9 % limit for 10 degrees of freedom (any table)', () => {
    for (const name of ['length', 'twist', 'seed 417']) {
      const bins = new Array<number>(11).fill(0);
      const count = 22_000;
      for (let id = 0; id < count; id++) bins[Math.floor(11 * randomAt(417, id, hashText(name)))]++;
      const expected = count / 11;
      expect(bins.reduce((sum, found) => sum + (found - expected) ** 2 / expected, 0)).toBeLessThan(29.59);
    }
  });
});

describe('lanes', () => {
  const lane = fc
    .record({
      ease: fc.constantFrom<Lane['ease']>('smooth', 'straight'),
      at: fc.uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 1, maxLength: 8 }),
      seed: fc.integer(),
      own: fc.array(fc.constantFrom<Lane['ease'] | undefined>('smooth', 'straight', undefined), {
        minLength: 8,
        maxLength: 8,
      }),
    })
    .map(
      ({ ease, at, seed, own }): Lane => ({
        ease,
        knots: at
          .sort((a, b) => a - b)
          .map((share, i) => ({ at: share / 100, value: Math.sin(seed + i), ease: own[i] })),
      }),
    );

  it('pass through their knots, stay between neighbours and are constant beyond the outer ones', () => {
    fc.assert(
      fc.property(lane, fc.double({ min: 0, max: 1, noNaN: true }), (course, t) => {
        for (const { at, value } of course.knots) expect(valueAt(course, at)).toBeCloseTo(value, 12);
        const before = course.knots.findLast((knot) => knot.at <= t) ?? course.knots[0];
        const after = course.knots.find((knot) => knot.at >= t) ?? course.knots[course.knots.length - 1];
        const value = valueAt(course, t);
        expect(value).toBeGreaterThanOrEqual(Math.min(before.value, after.value) - 1e-12);
        expect(value).toBeLessThanOrEqual(Math.max(before.value, after.value) + 1e-12);
        expect(greatest(mapAlong(course, (v) => 2 * v))).toBeCloseTo(2 * greatest(course), 12);
      }),
    );
  });

  it('run from a knot to the next as that knot says, else as the lane does', () => {
    const course = (ease?: Lane['ease']): Lane => ({
      ease: 'straight',
      knots: [
        { at: 0, value: 0, ...(ease && { ease }) },
        { at: 0.5, value: 1 },
        { at: 1, value: 0 },
      ],
    });
    expect(valueAt(course(), 0.125)).toBe(0.25);
    // smoothstep 3t² − 2t³ at a quarter
    expect(valueAt(course('smooth'), 0.125)).toBeCloseTo(3 / 16 - 2 / 64, 12);
    expect(valueAt(course('smooth'), 0.625)).toBe(0.75);
  });

  it('a lane without knots is refused', () => {
    expect(() => valueAt({ ease: 'smooth', knots: [] }, 0.5)).toThrow('at least one knot');
  });
});
