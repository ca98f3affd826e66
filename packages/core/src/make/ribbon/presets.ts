import type { Preset } from '../../unit/unit.js';

/** Starting points of `ribbon`; the first is what a new piece gets. */
export const RIBBON_PRESETS: readonly Preset[] = [
  { id: 'plain-ribbon', label: 'Plain ribbon', synonyms: ['tape', 'strip'], parameters: {} },
  {
    id: 'eelgrass',
    label: 'Eelgrass',
    synonyms: ['grass', 'seaweed'],
    parameters: { radius: 0.008, root: 0.55, tip: 0.02, taper: 0.55, crown: 0.18, twist: 0.35, lean: 0.7 },
  },
  {
    id: 'hair-cards',
    label: 'Hair cards',
    synonyms: ['hair', 'game hair'],
    parameters: {
      radius: 0.006,
      root: 0.8,
      tip: 0.3,
      taper: 0.5,
      blades: 2,
      textureAlong: 'own',
      across: 1,
      strips: 8,
    },
    sample: {
      path: ['grown', { prop: 'bar', count: 420, length: 0.09 }],
      before: [
        ['droop', { amount: 0.4 }],
        ['gather', { strands: 6 }],
      ],
      bar: true,
    },
  },
  {
    id: 'rolled-paper',
    label: 'Twisted tape',
    synonyms: ['streamer', 'curled tape'],
    parameters: { radius: 0.02, twist: 2.4, cuts: 90, across: 4 },
  },
  {
    id: 'leaf',
    label: 'Leaf',
    synonyms: ['blade', 'foliage'],
    parameters: { radius: 0.03, root: 0.05, tip: 0.02, taper: 0.6, crown: -0.25, across: 6 },
  },
];
