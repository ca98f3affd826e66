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
    label: 'Preview',
    help: 'Every strand; a light hull for distant objects; or the line alone.',
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
    label: 'Tint variation',
    help: 'Darken strands at random: one by one, or by outer strand.',
    default: 'strand',
    options: [
      { value: 'even', label: 'None' },
      { value: 'strand', label: 'Per strand' },
      { value: 'level', label: 'Per outer strand' },
    ],
    group: 'Appearance',
  },
  variation: {
    kind: 'ratio',
    of: 'maximum',
    label: 'Tint amount',
    help: 'Largest random darkening of a strand; 0 is none.',
    default: 0.16,
    min: 0,
    max: 1,
    comfortable: [0, 0.5],
    unmeasured: 'A colour has no size.',
    when: { parameter: 'tinted', is: ['strand', 'level'] },
    group: 'Appearance',
  },
  seed: {
    kind: 'seed',
    label: 'Random seed',
    help: 'Change for different tints, ends, fuzz and noise.',
    default: 1,
    min: 0,
    max: 1e9,
    comfortable: [0, 100],
    unmeasured: 'A seed has no size.',
    group: 'Appearance',
  },
  density: {
    kind: 'ratio',
    of: 'water',
    label: 'Relative density',
    help: 'Density of the material relative to water, for mass: polyamide 1.14, polyester 1.38, hemp 1.48, steel 7.85.',
    default: 1.14,
    min: 0.01,
    max: 25,
    comfortable: [0.9, 8],
    unmeasured: 'A material property has no size.',
    group: 'Appearance',
  },
  sides: {
    kind: 'count',
    label: 'Sides',
    help: 'Number of segments around each strand.',
    default: 7,
    min: 3,
    max: 64,
    comfortable: [5, 16],
    gauge: 'corners',
    group: 'Resolution',
  },
  bendStep: { ...STEERING.bendStep, group: 'Resolution' },
  leastBend: {
    ...STEERING.leastBend,
    of: 'radius',
    help: 'Report bends of a strand tighter than this, relative to its radius.',
  },
} as const satisfies ParameterSet;

export type BundleChoice = ValuesOf<typeof BUNDLE>;
