import type { Preset } from '../../unit/unit.js';

/** Starting points of `strands`; the first is what a new piece gets. */
export const STRANDS_PRESETS: readonly Preset[] = [
  {
    id: 'fur',
    label: 'Fur',
    synonyms: ['pelt', 'animal'],
    parameters: {},
    sample: sampleOf(
      { count: 4500, length: 0.05 },
      [
        ['droop', { amount: 0.35 }],
        ['clump', { share: 0.3 }],
      ],
      { radius: 0.0011 },
    ),
  },
  {
    id: 'hair',
    label: 'Hair',
    synonyms: ['head', 'scalp'],
    parameters: { radius: 0.00004, tip: 0.5, sides: 4 },
    sample: sampleOf(
      { count: 1500, length: 0.16 },
      [
        [
          'droop',
          {
            amount: {
              ease: 'smooth',
              knots: [
                { at: 0, value: 0 },
                { at: 1, value: 1 },
              ],
            },
          },
        ],
        ['clump', { share: 0.14 }],
        ['curl', { turns: 2.5, radius: 0.02 }],
      ],
      { radius: 0.0009 },
    ),
  },
  {
    id: 'bristle',
    label: 'Bristle',
    synonyms: ['brush', 'broom'],
    parameters: { radius: 0.0007, tip: 0.9, taper: 0.2, sides: 5 },
    sample: sampleOf(
      { count: 1200, length: 0.05 },
      [
        ['cut', { share: { least: 0.92, most: 1 } }],
        ['clump', { by: 'length', size: 0.02, tightness: 0.3 }],
      ],
      { radius: 0.0013 },
    ),
  },
  {
    id: 'coir',
    label: 'Coir',
    synonyms: ['mat', 'rug', 'fibre'],
    parameters: { radius: 0.0006, tip: 0.7, sides: 4 },
    sample: sampleOf({ count: 2200, length: 0.035 }, [['frizz', { amount: 0.18, waves: 4 }]], { radius: 0.0011 }),
  },
  {
    id: 'meadow',
    label: 'Meadow',
    synonyms: ['grass', 'lawn'],
    parameters: { radius: 0.0016, tip: 0.05, taper: 0.9, bakedAs: 'flat' },
    sample: sampleOf(
      { count: 700, length: 0.09, upright: 1 },
      [
        [
          'droop',
          {
            amount: {
              ease: 'smooth',
              knots: [
                { at: 0, value: 0 },
                { at: 1, value: 0.55 },
              ],
            },
            towards: [0.8, -0.6, 0],
          },
        ],
        ['cut', { share: { least: 0.5, most: 1 } }],
      ],
      { radius: 0.0024 },
    ),
  },
];

type Before = readonly (readonly [string, Record<string, unknown>])[];

function sampleOf(grown: Record<string, unknown>, before: Before, parameters: Record<string, unknown> = {}) {
  return { path: ['grown', { prop: 'bar', ...grown }], before, bar: true, parameters } as never;
}
