import type { Preset } from '../../unit/unit.js';

/** Starting points of `stitch`; the first is what a new piece gets. */
export const STITCH_PRESETS: readonly Preset[] = [
  { id: 'running-stitch', label: 'Running', synonyms: ['basting'], parameters: {} },
  { id: 'backstitch', label: 'Backstitch', parameters: { kind: 'back', length: 10, plies: '2' } },
  {
    id: 'cross-stitch',
    label: 'Crosses',
    synonyms: ['x'],
    parameters: { kind: 'cross', length: 9, gap: 3, breadth: 9 },
  },
  {
    id: 'zigzag-stitch',
    label: 'Zigzag',
    synonyms: ['overlock'],
    parameters: { kind: 'zigzag', length: 6, breadth: 14 },
  },
  {
    id: 'slanted-bars',
    label: 'Slanted bars',
    synonyms: ['baseball', 'satin'],
    parameters: { kind: 'bar', length: 4, gap: 2, breadth: 14, turn: Math.PI / 5 },
  },
  { id: 'chain-stitch', label: 'Chain', parameters: { kind: 'chain', length: 13, breadth: 8, radius: 0.0006 } },
  {
    id: 'blanket-stitch',
    label: 'Blanket',
    synonyms: ['edge'],
    parameters: { kind: 'blanket', length: 10, breadth: 14, radius: 0.0006 },
  },
  {
    id: 'whip-stitch',
    label: 'Whip stitch',
    synonyms: ['overcast', 'leather edge'],
    parameters: { kind: 'whip', length: 8, gap: 2, breadth: 10, radius: 0.0006 },
    sample: { path: ['edges', { prop: 'bar', chosen: 1 }], bar: true, parameters: { radius: 0.003 } },
  },
  {
    id: 'double-seam',
    label: 'Double seam',
    synonyms: ['jeans', 'topstitch'],
    parameters: { rows: 2, rowGap: 24, seam: 9, depth: 1.6, creases: 9, plies: '3' },
  },
];
