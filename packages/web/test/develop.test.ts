import { DataUtils } from 'three';
import { expect, it } from 'vitest';
import { develop } from '../src/look/develop.js';

const half = DataUtils.toHalfFloat;
const grey = (light: number, alpha = 1) => [half(light), half(light), half(light), half(alpha)];

it('light becomes sRGB (IEC 61966-2-1, checked by its inverse), what is brighter than paper is rounded off, never cut', () => {
  const lights = [0, 0.001, 0.002, 0.01, 0.05, 0.18, 0.4, 0.7, 1, 2, 6, 40];
  const pixels = Uint16Array.from(lights.flatMap((light) => grey(light)));
  const out = develop(pixels, lights.length, 1);
  let before = -1;
  lights.forEach((light, i) => {
    const shown = out[4 * i] / 255;
    // the inverse of the standard's curve: linear below 0.04045, a power of 2.4 above
    const linear = shown <= 0.04045 ? shown / 12.92 : ((shown + 0.055) / 1.055) ** 2.4;
    const soft = light / (1 + 0.25 * light);
    if (soft < 1) expect(Math.abs(linear - soft)).toBeLessThan(0.012);
    expect(out[4 * i]).toBeGreaterThanOrEqual(before);
    before = out[4 * i];
    expect(out[4 * i + 3]).toBe(255);
  });
  expect(out[0]).toBe(0);
});

it('the bottom row comes last, alpha stays a share, and what is no light is black', () => {
  const pixels = Uint16Array.from([...grey(1), ...grey(0, 0), ...grey(0, 0.5), ...grey(Number.NaN)]);
  const out = [...develop(pixels, 2, 2)];
  const rows = [out.slice(0, 8), out.slice(8)];
  expect(rows[0].slice(0, 4)).toEqual([0, 0, 0, 128]);
  expect(rows[0].slice(4, 7)).toEqual([0, 0, 0]);
  expect(rows[1][0]).toBeGreaterThan(200);
  expect(rows[1].slice(4)).toEqual([0, 0, 0, 0]);
});
