import { chordsOf, measureEdges, summed, writeLengths } from '../curve/arc-length.js';
import { eachBlock, inBlocks } from '../curve/blocks.js';
import { CURVE, type CurveSet, curveCount, POINT, pointCount } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { greatest } from '../numeric/lane.js';
import { defineUnit } from '../unit/unit.js';
import { swayByKernel } from './sway/kernel.js';
import { type Sway, swayLines } from './sway/sway.js';

/** Steps of one wave: its course is then within a hundredth of the noise itself. */
const STEPS_A_WAVE = 8;
const MAX_SAMPLES = 400_000;

export const wobble = defineUnit({
  stage: 'shape',
  id: 'wobble',
  label: 'Wobble',
  purpose: 'Adds noise to the line, different for each line.',
  synonyms: ['noise', 'jitter', 'displace', 'random', 'wave'],
  sample: { parameters: { strength: 2, waves: 7 } },
  parameters: {
    by: {
      kind: 'choice',
      label: 'Units',
      help: 'Set the noise relative to the thickness, or as lengths.',
      default: 'thickness',
      options: [
        { value: 'thickness', label: 'Relative' },
        { value: 'length', label: 'Lengths' },
      ],
    },
    strength: {
      gauge: 'sway',
      kind: 'ratio',
      of: 'thickness',
      label: 'Noise amount',
      help: 'Largest deviation from the line; 0 is none.',
      default: 1,
      min: 0,
      max: 10_000,
      comfortable: [0, 10],
      along: true,
      when: { parameter: 'by', is: ['thickness'] },
    },
    amount: {
      gauge: 'sway',
      kind: 'length',
      label: 'Noise amount',
      help: 'Largest deviation from the line; 0 is none.',
      default: 0.02,
      min: 0,
      max: 1000,
      comfortable: [0, 0.2],
      along: true,
      when: { parameter: 'by', is: ['length'] },
    },
    waves: {
      gauge: 'spacing',
      kind: 'ratio',
      of: 'thickness',
      label: 'Wavelength',
      help: 'Length of one wave of the noise.',
      default: 20,
      min: 0.5,
      max: 100_000,
      comfortable: [4, 80],
      when: { parameter: 'by', is: ['thickness'] },
    },
    wave: {
      gauge: 'spacing',
      kind: 'length',
      label: 'Wavelength',
      help: 'Length of one wave of the noise.',
      default: 0.3,
      min: 1e-4,
      max: 10_000,
      comfortable: [0.05, 2],
      when: { parameter: 'by', is: ['length'] },
    },
    up: {
      gauge: 'figure',
      kind: 'ratio',
      of: 'sideways noise',
      label: 'Vertical share',
      help: 'Vertical noise relative to sideways noise; 0 stays level, 1 is equal.',
      default: 1,
      min: 0,
      max: 100,
      comfortable: [0, 2],
    },
    seed: {
      unmeasured: 'A seed has no size.',
      kind: 'seed',
      label: 'Random seed',
      help: 'Change for a different variation.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
    },
    held: {
      kind: 'choice',
      label: 'Pinned',
      help: 'Ends that stay in place; noise fades in over one wavelength.',
      default: 'ends',
      options: [
        { value: 'ends', label: 'Both ends' },
        { value: 'start', label: 'Start' },
        { value: 'none', label: 'None' },
      ],
    },
  },
  presets: [
    { id: 'light', label: 'Light', parameters: {} },
    { id: 'restless', label: 'Strong', parameters: { strength: 2, waves: 8 } },
  ],
  describe: ({ by, strength, amount }, length) =>
    by === 'thickness' ? `Wobble ${+greatest(strength).toPrecision(3)} ×` : `Wobble ${length(greatest(amount))}`,
  build(input, { by, strength, amount, waves, wave, up, seed, held }, context) {
    const thick = greatest(context.thickness);
    const period = by === 'thickness' ? waves * thick : wave;
    const size = by === 'thickness' ? strength : amount;
    const factor = by === 'thickness' ? thick : 1;
    if (!(period > 0) || greatest(size) * factor === 0) return input;
    const chords = chordsOf(input);
    const spacing = Math.max(period / STEPS_A_WAVE, chords.sum / MAX_SAMPLES);
    const sway: Sway = { period, size, factor, up, seed, held };
    if (pointCount(input) > MAX_SAMPLES && chords.longest <= spacing) return swayedAsTheyStand(input, sway);
    return inBlocks(input, (lines) => {
      const edges = measureEdges(lines);
      const out = resample(lines, { spacing, maxTurn: 0.15, keepKnots: true }, edges);
      swayLines(out, lines.curveData[CURVE.length] ?? summed(lines, edges.length), sway);
      // lengths have changed; corners are swayed with the rest
      return resample(out, { maxTurn: 0.15, keepKnots: true });
    });
  },
});

/** Lines that have more points than may be made, none too far from the next: their own points sway. */
function swayedAsTheyStand(input: CurveSet, sway: Sway): CurveSet {
  const out: CurveSet = {
    ...input,
    position: new Float64Array(input.position.length),
    pointData: { ...input.pointData, [POINT.along]: new Float32Array(pointCount(input)) },
    curveData: { ...input.curveData, [CURVE.length]: new Float32Array(curveCount(input)) },
  };
  eachBlock(out, (lines, first) => {
    const from = input.position.subarray(3 * input.start[first]);
    if (swayByKernel(from, lines, sway)) return;
    lines.position.set(from.subarray(0, lines.position.length));
    const { tangent, length } = measureEdges(lines);
    writeLengths(lines, length);
    swayLines(lines, lines.curveData[CURVE.length], sway, tangent);
    writeLengths(lines, measureEdges(lines).length);
  });
  return out;
}
