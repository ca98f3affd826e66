import type { Preset } from '../../unit/unit.js';
import { level } from './levels.js';

/** Starting points of `laid`; the first is what a new piece gets. */
export const LAID_PRESETS: readonly Preset[] = [
  { id: 'three-strand', label: 'Three-strand', synonyms: ['mooring line', 'hemp', 'jute'], parameters: {} },
  {
    id: 'four-strand',
    label: 'Four-strand',
    synonyms: ['rope'],
    parameters: { levels: [level(4, 'cored', 'z', 3.5), level(9, 'filled', 's', 4)] },
  },
  {
    id: 'cable-laid',
    label: 'Cable-laid',
    synonyms: ['hawser', 'tow line'],
    parameters: {
      radius: 0.04,
      levels: [level(3, 'hollow', 's', 4), level(3, 'hollow', 'z', 3.5), level(7, 'filled', 's', 4)],
      sides: 6,
    },
  },
  {
    id: 'two-ply',
    label: 'Two-ply',
    synonyms: ['twine', 'string', 'knitting'],
    parameters: { radius: 0.002, levels: [level(2, 'hollow', 'z', 3), level(19, 'filled', 's', 5)], sides: 6 },
  },
  {
    id: 'yarn',
    label: 'Yarn',
    synonyms: ['wool', 'knitting'],
    parameters: { radius: 0.003, levels: [level(37, 'filled', 'z', 5)], sides: 6 },
  },
  {
    id: 'hank',
    label: 'Loose hank',
    synonyms: ['skein', 'loose threads'],
    parameters: { radius: 0.02, levels: [level(24, 'filled', 'z', 14)], scale: 0.8, start: 'round', end: 'round' },
  },
  {
    id: 'wire-1x7',
    label: 'Wire 1 × 7',
    synonyms: ['steel wire', 'guitar string'],
    parameters: { density: 7.85, radius: 0.004, levels: [level(7, 'filled', 'z', 8)], sides: 10 },
  },
  {
    id: 'wire-1x19',
    label: 'Wire 1 × 19',
    synonyms: ['stay', 'rigging wire'],
    parameters: { density: 7.85, radius: 0.006, levels: [level(19, 'filled', 'z', 8)], sides: 8 },
  },
  {
    id: 'wire-7x7',
    label: 'Wire 7 × 7',
    synonyms: ['steel cable'],
    parameters: { density: 7.85, radius: 0.008, levels: [level(7, 'filled', 'z', 7), level(7, 'filled', 's', 7)] },
  },
  {
    id: 'wire-6x19',
    label: 'Wire 6 × 19',
    synonyms: ['crane rope', 'winch wire'],
    parameters: {
      density: 7.85,
      radius: 0.01,
      levels: [level(6, 'cored', 'z', 7), level(19, 'filled', 's', 7)],
      sides: 6,
    },
  },
];
