import { unitsOf } from '@kelp/core';
import { describe, expect, it } from 'vitest';
import { parseNumber } from '../src/fields/parse.js';
import { bytesText, lengthText, shownAs } from '../src/fields/units.js';

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

it('lengths are told in the project’s unit, in larger ones where they get long', () => {
  expect(lengthText(0.024, 'mm')).toBe('24 mm');
  expect(lengthText(4.8234, 'mm')).toBe('4.82 m');
  expect(lengthText(0.0254, 'in')).toBe('1 in');
  expect(bytesText(1_500_000)).toBe('1.4 MB');
});

it('every number of every unit knows how it is shown', () => {
  for (const stage of ['path', 'shape', 'make', 'dress'] as const)
    for (const unit of unitsOf(stage))
      for (const parameter of Object.values(unit.parameters))
        if ('comfortable' in parameter) expect(shownAs(parameter, 'mm').factor).toBeGreaterThan(0);
});
