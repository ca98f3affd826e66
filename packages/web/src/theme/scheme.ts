import { keptChoice } from '../state/kept-choice.js';
import { PALETTES, type Palette, type Scheme } from './colours.js';

/** Light unless the person chose dim in this browser. */
export const { toggle: toggleScheme, use: useScheme } = keptChoice<Scheme>('kelp-scheme', ['light', 'dim']);

/** The colours in force as plain values, for what is not drawn by the page. */
export const usePalette = (): Palette => PALETTES[useScheme()];
