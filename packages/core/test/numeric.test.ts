import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Lane, valueAt } from '../src/index.js';
import { greatest, mapAlong } from '../src/numeric/lane.js';
import { LineNoise } from '../src/numeric/noise.js';
import { hashText, randomAt } from '../src/numeric/random.js';
import { evenly } from './helpers.js';

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

describe('noise along a line', () => {
  const seed = fc.nat(1e6);
  const id = fc.nat(1e9);
  const name = hashText('sideways');
  const lineNoise = (x: number, s: number, i: number, period = 0) => {
    const noise = new LineNoise(s, name);
    noise.onLine(i, period);
    return noise.at(x);
  };

  it('stays within one, runs on without a jump in slope or bend, and comes round where it is to', () => {
    const place = evenly(-1000, 1000);
    fc.assert(
      fc.property(place, seed, id, fc.integer({ min: 1, max: 40 }), (x, s, i, period) => {
        const at = (shift: number) => lineNoise(x + shift, s, i);
        expect(Math.abs(at(0))).toBeLessThanOrEqual(1);
        // the quintic is nowhere steeper than 15/8 (its derivative at ½), between values at most 2 apart
        expect(Math.abs(at(1e-3) - at(0))).toBeLessThanOrEqual(1e-3 * 2 * (15 / 8) + 1e-9);
        // and its bend nowhere above 10/√3 (at ½ ± √3/6)
        expect(Math.abs(at(1e-3) - 2 * at(0) + at(-1e-3))).toBeLessThanOrEqual(1e-6 * 2 * (10 / Math.sqrt(3)) + 1e-9);
        // a walk keeps what it stood between: it reports the same, forth, back and on another line
        const walk = new LineNoise(s, name);
        walk.onLine(i + 1);
        walk.at(x);
        walk.onLine(i);
        for (const shift of [0, 0.4, 1, 1.7, 0.2]) expect(walk.at(x + shift)).toBe(at(shift));
        const round = (shift: number) => lineNoise(x + shift, s, i, period);
        expect(round(period)).toBeCloseTo(round(0), 6);
        expect(round(-3 * period)).toBeCloseTo(round(0), 6);
      }),
    );
  });

  it('has no lean and no memory: mean 0, and neighbours in line or id agree at random only (5 standard errors)', () => {
    const count = 20_000;
    const values = Array.from({ length: count }, (_, k) => lineNoise(k, 7, 3));
    const others = Array.from({ length: count }, (_, k) => lineNoise(k, 7, 4));
    const mean = (list: number[]) => list.reduce((sum, value) => sum + value, 0) / list.length;
    // even between −1 and 1: variance 1/3, and 1/9 for the product of two
    expect(Math.abs(mean(values))).toBeLessThan(5 * Math.sqrt(1 / 3 / count));
    expect(Math.abs(mean(values.map((value, k) => value * others[k])))).toBeLessThan(5 * Math.sqrt(1 / 9 / count));
    const next = values.slice(1).map((value, k) => value * values[k]);
    expect(Math.abs(mean(next))).toBeLessThan(5 * Math.sqrt(1 / 9 / count));
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
      fc.property(lane, evenly(0, 1), (course, t) => {
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
