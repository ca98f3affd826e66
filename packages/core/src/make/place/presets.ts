import type { Preset } from '../../unit/unit.js';

/** Starting points of `place`; the first is what a new piece gets. */
export const PLACE_PRESETS: readonly Preset[] = [
  {
    id: 'floats',
    label: 'Floats',
    synonyms: ['buoys', 'corks'],
    parameters: { size: 0.09, spacing: 0.7, facing: 'y', held: 'middle', upright: false },
  },
  {
    id: 'bollards',
    label: 'Bollards',
    synonyms: ['posts', 'fence'],
    parameters: { parts: [{ part: 'bollard', times: 1, size: 1 }], size: 0.11, spacing: 1.2 },
    sample: { parameters: { size: 0.025, spacing: 0.1 } },
  },
  {
    id: 'pearls',
    label: 'Pearls',
    synonyms: ['beads', 'necklace'],
    parameters: { parts: [{ part: 'ball', times: 1, size: 1 }], size: 0.02, by: 'gap', gap: 0, held: 'middle' },
  },
  {
    id: 'studs',
    label: 'Studs',
    synonyms: ['rivets', 'bolts', 'nails'],
    parameters: { parts: [{ part: 'stud', times: 1, size: 1 }], size: 0.008, spacing: 0.03, upright: false },
  },
  {
    id: 'pegs',
    label: 'Pegs',
    synonyms: ['stakes', 'spikes'],
    parameters: { parts: [{ part: 'peg', times: 1, size: 1 }], size: 0.02, spacing: 0.15 },
  },
  {
    id: 'barnacles',
    label: 'Barnacles',
    synonyms: ['shells', 'growth'],
    parameters: {
      parts: [
        { part: 'barnacle', times: 3, size: 1 },
        { part: 'barnacle', times: 2, size: 0.75 },
      ],
      order: 'chance',
      size: 0.014,
      by: 'count',
      count: 1,
      facing: 'y',
      upright: false,
      sizes: { least: 0.8, most: 1.15 },
      turns: { least: -Math.PI, most: Math.PI },
      tilt: 0.25,
      shade: 0.3,
    },
    sample: {
      path: ['scattered', { prop: 'bar', count: 90, evenness: 0.8, to: 1, edges: 0.01 }],
      bar: 'board',
      parameters: { size: 0.013 },
    },
  },
];
