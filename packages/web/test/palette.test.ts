import { describe, expect, it } from 'vitest';
import { PALETTES, type Palette } from '../src/theme/colours.js';

/** Relative luminance and contrast ratio (W3C, Web Content Accessibility Guidelines 2.1, definitions of both). */
function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const share = Number.parseInt(colour.slice(at, at + 2), 16) / 255;
    return share <= 0.03928 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
const contrast = (a: string, b: string): number => {
  const [low, high] = [luminance(a), luminance(b)].toSorted((x, y) => x - y);
  return (high + 0.05) / (low + 0.05);
};

/** Words, and what they are on. */
type Pairing = readonly [keyof Palette, keyof Palette];
const WORDS: readonly Pairing[] = (['ground', 'panel', 'field', 'chosen'] as const)
  .flatMap((paper) => (['ink', 'inkSecond', 'coral', 'straw'] as const).map((ink): Pairing => [ink, paper]))
  .concat([
    ['kelp', 'panel'],
    ['tide', 'panel'],
    ['onInk', 'ink'],
    ['onInk', 'kelp'],
    ['onInk', 'tide'],
    ['onInk', 'coral'],
    ['onInk', 'straw'],
    ['onInk', 'inkSecond'],
    ['ringText', 'view'],
  ]);

describe.each(Object.entries(PALETTES))('the %s room', (_name, palette) => {
  it('is read by everyone: at least 4.5 to 1 between words and what they are on (WCAG 2.1, 1.4.3, level AA)', () => {
    for (const [ink, paper] of WORDS)
      expect(contrast(palette[ink], palette[paper]), `${ink} on ${paper}`).toBeGreaterThanOrEqual(4.5);
  });

  it('shows its guide lines, rings and handles: at least 3 to 1 against the view (1.4.11)', () => {
    for (const line of ['ink', 'tide'] as const)
      expect(contrast(palette[line], palette.view), line).toBeGreaterThanOrEqual(3);
  });
});

it('the measure itself: black on white is 21 to 1, grey #767676 on white the lightest that passes', () => {
  expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 9);
  expect(contrast('#767676', '#ffffff')).toBeGreaterThan(4.5);
  expect(contrast('#777777', '#ffffff')).toBeLessThan(4.5);
});
