import type { ParameterSet, ValuesOf } from '../../unit/parameters.js';
import { STEERING } from '../steering.js';
import { ENDS } from './ends/parameters.js';
import { LIFE } from './life/parameters.js';

/** What is shown and baked of a bundle. */
export type Shown = 'strands' | 'hull' | 'line';

/** What all bundles of strands have in common: how they are seen, dressed, divided, how they end and live. */
export const BUNDLE = {
  shown: {
    kind: 'choice',
    label: 'Shown',
    help: 'Every strand; the hull they fill, light enough for what is far away; or the line alone.',
    default: 'strands',
    options: [
      { value: 'strands', label: 'Strands' },
      { value: 'hull', label: 'Hull' },
      { value: 'line', label: 'Line' },
    ],
  },
  ...ENDS,
  ...LIFE,
  tinted: {
    kind: 'choice',
    label: 'Tint',
    help: 'Whether strands are a little darker than each other: each by itself, or those of one outer strand alike.',
    default: 'strand',
    options: [
      { value: 'even', label: 'None' },
      { value: 'strand', label: 'Strand' },
      { value: 'level', label: 'Outer' },
    ],
    group: 'Look',
  },
  variation: {
    kind: 'ratio',
    of: 'its colour',
    label: 'Darker by',
    help: 'How much darker than the dress a strand may be.',
    default: 0.16,
    min: 0,
    max: 1,
    comfortable: [0, 0.5],
    unmeasured: 'It is about colour, not the place.',
    when: { parameter: 'tinted', is: ['strand', 'level'] },
    group: 'Look',
  },
  seed: {
    kind: 'seed',
    label: 'Seed',
    help: 'Another draw of tints, ends, stray fibres and unevenness.',
    default: 1,
    min: 0,
    max: 1e9,
    comfortable: [0, 100],
    unmeasured: 'It is a draw, not a measure.',
    group: 'Look',
  },
  density: {
    kind: 'ratio',
    of: 'water',
    label: 'Density',
    help: 'Of the stuff of its strands, for its mass: polyamide 1.14, polyester 1.38, hemp 1.48, steel 7.85.',
    default: 1.14,
    min: 0.01,
    max: 25,
    comfortable: [0.9, 8],
    unmeasured: 'It is about the stuff, not the place.',
    group: 'Look',
  },
  sides: {
    kind: 'count',
    label: 'Sides',
    help: 'Faces round each strand.',
    default: 7,
    min: 3,
    max: 64,
    comfortable: [5, 16],
    gauge: 'corners',
    group: 'Divisions',
  },
  bendStep: { ...STEERING.bendStep, group: 'Divisions' },
  leastBend: {
    ...STEERING.leastBend,
    of: 'radius',
    help: 'Bends of a strand tighter than so many times its radius are reported.',
  },
} as const satisfies ParameterSet;

export type BundleChoice = ValuesOf<typeof BUNDLE>;
