import { type ResampleOptions, resample as resampleCurves, samplesOf } from '../curve/resample.js';
import { defineUnit } from '../unit/unit.js';
import { MAX_POINTS } from './most-points.js';

export const resample = defineUnit({
  stage: 'shape',
  id: 'resample',
  label: 'Resample',
  purpose: 'Redistributes the points of the line by count, spacing or bend.',
  synonyms: ['subdivide', 'rebuild', 'points', 'density', 'spacing'],
  sample: { parameters: { spacing: 0.07 } },
  parameters: {
    by: {
      kind: 'choice',
      label: 'Mode',
      help: 'Quantity that sets the distribution of points.',
      default: 'spacing',
      options: [
        { value: 'count', label: 'By count' },
        { value: 'spacing', label: 'By spacing' },
        { value: 'bend', label: 'By bend' },
      ],
    },
    count: {
      gauge: 'samples',
      kind: 'count',
      label: 'Segments',
      help: 'Number of segments per curve, evenly spaced.',
      default: 24,
      min: 1,
      max: 100_000,
      comfortable: [2, 200],
      when: { parameter: 'by', is: ['count'] },
    },
    spacing: {
      kind: 'length',
      label: 'Max spacing',
      help: 'Longest distance between two points.',
      default: 0.05,
      min: 1e-5,
      max: 1000,
      comfortable: [0.005, 0.5],
      gauge: 'spacing',
      when: { parameter: 'by', is: ['spacing'] },
    },
    turn: {
      kind: 'angle',
      label: 'Max angle',
      help: 'Largest change of direction from one point to the next.',
      default: Math.PI / 18,
      min: 0.002,
      max: 1.5,
      comfortable: [0.02, 0.6],
      gauge: 'turn',
      when: { parameter: 'by', is: ['bend'] },
    },
  },
  presets: [{ id: 'even', label: 'Even', parameters: {} }],
  describe: ({ by, count, spacing, turn }, length) =>
    by === 'count'
      ? `${count} segments`
      : by === 'spacing'
        ? `Points every ${length(spacing)}`
        : `Points every ${Math.round((turn * 180) / Math.PI)}°`,
  build(input, { by, count, spacing, turn }, context) {
    /** As it is set, or this many times as coarse. */
    const options = (coarser: number): ResampleOptions =>
      by === 'count'
        ? { steps: Math.max(1, Math.floor(count / coarser)) }
        : by === 'spacing'
          ? { spacing: spacing * coarser, keepKnots: true }
          : { maxTurn: turn * coarser, keepKnots: true };
    const points = samplesOf(input, options(1));
    if (points <= MAX_POINTS) return resampleCurves(input, options(1));
    context.report({
      code: 'too-many-points',
      severity: 'warning',
      message: `Needs ${points.toLocaleString('en')} points (limit ${MAX_POINTS.toLocaleString('en')}): fewer are made. Increase the spacing.`,
      size: { value: points, limit: MAX_POINTS, kind: 'count' },
    });
    let coarser = 1;
    // each line has a most of its own, so the first guess may be too small
    for (let now = points; now > MAX_POINTS; now = samplesOf(input, options(coarser)))
      coarser *= (1.001 * now) / MAX_POINTS;
    return resampleCurves(input, options(coarser));
  },
});
