import { resample as resampleCurves } from '../curve/resample.js';
import { defineUnit } from '../unit/unit.js';

export const resample = defineUnit({
  stage: 'shape',
  id: 'resample',
  label: 'Resample',
  purpose: 'Sets the points of the line anew: so many, so far apart, or as the bends demand.',
  sample: { parameters: { spacing: 0.07 } },
  parameters: {
    by: {
      kind: 'choice',
      label: 'Set by',
      help: 'What decides where the points go.',
      default: 'spacing',
      options: [
        { value: 'count', label: 'Count' },
        { value: 'spacing', label: 'Spacing' },
        { value: 'bend', label: 'Bend' },
      ],
    },
    count: {
      gauge: 'samples',
      kind: 'count',
      label: 'Steps',
      help: 'Steps on each curve, evenly spread over its length.',
      default: 24,
      min: 1,
      max: 100_000,
      comfortable: [2, 200],
      when: { parameter: 'by', is: ['count'] },
    },
    spacing: {
      kind: 'length',
      label: 'Spacing',
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
      label: 'Turn',
      help: 'Greatest turn from one point to the next.',
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
      ? `${count} steps`
      : by === 'spacing'
        ? `Points every ${length(spacing)}`
        : `Points every ${Math.round((turn * 180) / Math.PI)}°`,
  build: (input, { by, count, spacing, turn }) =>
    resampleCurves(
      input,
      by === 'count'
        ? { steps: count }
        : by === 'spacing'
          ? { spacing, keepKnots: true }
          : { maxTurn: turn, keepKnots: true },
    ),
});
