import { linearColour } from '../../numeric/colour.js';
import { hashText, randomAt } from '../../numeric/random.js';

/** Colours that go together, sRGB. */
const COLOURS = {
  signal: { label: 'Signal', colours: ['#c8402f', '#e2a72b', '#2f6ea8', '#2f8a55', '#e8e4da', '#30363a'] },
  earth: { label: 'Earth', colours: ['#6b4a33', '#9a7047', '#c2a273', '#4d5238', '#7c2f24', '#3a332c'] },
  sea: { label: 'Sea', colours: ['#1f5c6b', '#3f8a8c', '#8fbdb4', '#24384a', '#d9d3bd', '#57754a'] },
  dark: { label: 'Dark', colours: ['#25292b', '#31383a', '#3d3a36', '#1d2226', '#44494a'] },
} as const;
export type PaletteName = keyof typeof COLOURS;

export const PALETTES = Object.entries(COLOURS).map(([value, { label }]) => ({ value, label }));

const NAME = hashText('palette');

/** The colour of one cable by its id, linear rgb; undefined without a palette. */
export function colourFrom(palette: string, seed: number, id: number): [number, number, number] | undefined {
  const known = COLOURS[palette as PaletteName];
  if (!known) return undefined;
  return linearColour(known.colours[Math.floor(randomAt(seed, id, NAME) * known.colours.length)]);
}
