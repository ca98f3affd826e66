import type { Preset } from '../../unit/unit.js';
import { MERGED } from './parameters.js';

/** Starting points of `tendrils`; the first is what a new piece gets. */
export const TENDRIL_PRESETS: readonly Preset[] = [
  { id: 'slime', label: 'Slime', synonyms: ['goo', 'mucus', 'drip'], parameters: {} },
  {
    id: 'slime-skin',
    label: 'Merged growth',
    synonyms: ['organic', 'merged', 'flesh'],
    parameters: { skin: MERGED, drips: 4 },
  },
  {
    id: 'kelp-growth',
    label: 'Weed growth',
    synonyms: ['roots', 'vines'],
    parameters: {
      radius: 0.005,
      root: 2.2,
      thinning: 1.6,
      drips: 14,
      dripLength: { least: 14, most: 90 },
      dripWidth: 0.5,
      bead: 0,
      links: 4,
      linkSlack: { least: 0.2, most: 0.9 },
      noise: 1.6,
      lumps: 0.35,
    },
  },
  {
    id: 'web',
    label: 'Web',
    synonyms: ['cobweb', 'spider'],
    parameters: {
      radius: 0.0015,
      root: 2,
      thinning: 6,
      drips: 0,
      links: 9,
      linkWidth: 0.8,
      linkSlack: { least: 0.01, most: 0.06 },
      linkReach: 160,
      noise: 0.3,
      lumps: 0.05,
    },
  },
];
