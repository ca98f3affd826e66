import { unitsOf } from '@kelp/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseNumber } from '../src/fields/parse.js';
import { bytesText, lengthText, shownAs, sizeText } from '../src/fields/units.js';

const mm = { factor: 0.001, unit: 'mm', digits: 2 };
const degrees = { factor: Math.PI / 180, unit: '°', digits: 1 };
const plain = { factor: 1, unit: '×', digits: 2 };

describe('number fields read what people type', () => {
  // an inch is 25.4 mm and a foot 304.8 mm exactly
  it.each([
    ['12', mm, 12],
    ['  12,5 ', mm, 12.5],
    ['-3e2', mm, -300],
    ['3/8 in', mm, 9.525],
    ['3/8"', mm, 9.525],
    ['1 ft', mm, 304.8],
    ['2*12mm + 1mm', mm, 25],
    ['(2 + 3) * 4', mm, 20],
    ['0.02 m', mm, 20],
    ['45°', degrees, 45],
    ['1 rad', degrees, 57.29578],
    ['2 × 3', plain, Number.NaN],
    ['1/4', plain, 0.25],
  ])('%s', async (text, shown, expected) => {
    if (Number.isNaN(expected)) await expect(parseNumber(text, shown)).rejects.toThrow('cannot be read');
    else expect(await parseNumber(text, shown)).toBeCloseTo(expected, 4);
  });

  it.each(['', '   ', 'a lot', '3 kg', '5 deg', '1/0', 'x'.repeat(10_000), 'import("fs")', 'f(x)=x', '[1,2]'])(
    '%s is refused with a sentence',
    async (text) => {
      await expect(parseNumber(text, mm)).rejects.toThrow(/\w+/);
    },
  );
});

it('a sum of lengths in any units is the sum of what they are (international yard and pound agreement of 1959)', async () => {
  const metres = { mm: 0.001, cm: 0.01, m: 1, in: 0.0254, ft: 0.3048 } as const;
  const unit = fc.constantFrom(...(Object.keys(metres) as (keyof typeof metres)[]));
  const amount = fc.integer({ min: -400, max: 400 }).map((n) => n / 8);
  await fc.assert(
    fc.asyncProperty(amount, unit, amount, unit, unit, async (a, unitA, b, unitB, shown) => {
      const as = { factor: metres[shown], unit: shown, digits: 2 };
      const exact = (a * metres[unitA] + b * metres[unitB]) / metres[shown];
      const sum = await parseNumber(`${a} ${unitA} + (${b}${unitB})`, as);
      expect(sum).toBeCloseTo(exact, 7);
    }),
  );
});

it('lengths are reported in the project’s unit, in larger ones where they get long', () => {
  expect(lengthText(0.024, 'mm')).toBe('24 mm');
  expect(lengthText(4.8234, 'mm')).toBe('4.82 m');
  expect(lengthText(1 - 1e-15, 'mm')).toBe('1.00 m');
  expect(lengthText(0.0254, 'in')).toBe('1 in');
  expect(sizeText([0.0991, 0.0966, 0.0754], 'mm')).toBe('99.1 × 96.6 × 75.4 mm');
  expect(sizeText([2, 0.5, 0], 'cm')).toBe('2.00 × 0.50 × 0.00 m');
  expect(bytesText(1_500_000)).toBe('1.4 MB');
});

it('every number of every unit knows how it is shown', () => {
  for (const stage of ['path', 'shape', 'make', 'dress'] as const)
    for (const unit of unitsOf(stage))
      for (const parameter of Object.values(unit.parameters))
        if ('comfortable' in parameter) expect(shownAs(parameter, 'mm').factor).toBeGreaterThan(0);
});
