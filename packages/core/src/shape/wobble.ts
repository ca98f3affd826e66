import { chordsOf, measureEdges, summed } from '../curve/arc-length.js';
import { inBlocks } from '../curve/blocks.js';
import { CURVE, type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { rotationMinimizingFrames } from '../curve/frames.js';
import { resample } from '../curve/resample.js';
import { type AlongValue, greatest, valueAt } from '../numeric/lane.js';
import { lineNoise } from '../numeric/noise.js';
import { hashText } from '../numeric/random.js';
import { defineUnit } from '../unit/unit.js';

/** Steps of one wave: its course is then within a hundredth of the noise itself. */
const STEPS_A_WAVE = 8;
const MOST_SAMPLES = 400_000;
const SIDEWAYS = hashText('wobble sideways');
const UP = hashText('wobble up');

export const wobble = defineUnit({
  stage: 'shape',
  id: 'wobble',
  label: 'Wobble',
  purpose: 'Lets the line stray a little from its course, each line in its own way.',
  sample: { parameters: { strength: 2, waves: 7 } },
  parameters: {
    by: {
      kind: 'choice',
      label: 'Measured',
      help: 'Amount and wave follow the thickness of the thing, or stay as long as they are.',
      default: 'thickness',
      options: [
        { value: 'thickness', label: 'By thickness' },
        { value: 'length', label: 'As lengths' },
      ],
    },
    strength: {
      gauge: 'sway',
      kind: 'ratio',
      of: 'thickness',
      label: 'Amount',
      help: 'How far it strays at most.',
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
      label: 'Amount',
      help: 'How far it strays at most.',
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
      label: 'Wave',
      help: 'Length of one sway.',
      default: 20,
      min: 0.5,
      max: 100_000,
      comfortable: [4, 80],
      when: { parameter: 'by', is: ['thickness'] },
    },
    wave: {
      gauge: 'spacing',
      kind: 'length',
      label: 'Wave',
      help: 'Length of one sway.',
      default: 0.3,
      min: 1e-4,
      max: 10_000,
      comfortable: [0.05, 2],
      when: { parameter: 'by', is: ['length'] },
    },
    up: {
      gauge: 'figure',
      kind: 'ratio',
      of: 'sideways',
      label: 'Up and down',
      help: 'How much it strays up and down, against sideways; 0 stays level.',
      default: 1,
      min: 0,
      max: 100,
      comfortable: [0, 2],
    },
    seed: {
      unmeasured: 'A seed has no size: every number is another course.',
      kind: 'seed',
      label: 'Seed',
      help: 'Another number, another course.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
    },
    held: {
      kind: 'choice',
      label: 'Held at',
      help: 'Ends that are held stay where they are; the sway fades in over one wave.',
      default: 'ends',
      options: [
        { value: 'ends', label: 'Both ends' },
        { value: 'start', label: 'The start' },
        { value: 'none', label: 'Nothing' },
      ],
    },
  },
  presets: [
    { id: 'light', label: 'Light', parameters: {} },
    { id: 'restless', label: 'Restless', parameters: { strength: 2, waves: 8 } },
  ],
  describe: ({ by, strength, amount }, length) =>
    by === 'thickness' ? `Wobble ${+greatest(strength).toPrecision(3)} ×` : `Wobble ${length(greatest(amount))}`,
  build(input, { by, strength, amount, waves, wave, up, seed, held }, context) {
    const thick = greatest(context.thickness);
    const period = by === 'thickness' ? waves * thick : wave;
    const size = by === 'thickness' ? strength : amount;
    const factor = by === 'thickness' ? thick : 1;
    if (!(period > 0) || greatest(size) * factor === 0) return input;
    const spacing = Math.max(period / STEPS_A_WAVE, chordsOf(input) / MOST_SAMPLES);
    const sway: Sway = { period, size, factor, up, seed, held };
    return inBlocks(input, (lines) => {
      const edges = measureEdges(lines);
      const out = resample(lines, { spacing, maxTurn: 0.15, keepKnots: true }, edges);
      swayed(out, lines.curveData[CURVE.length] ?? summed(lines, edges.length), sway);
      // lengths have changed; corners are swayed with the rest
      return resample(out, { maxTurn: 0.15, keepKnots: true });
    });
  },
});

interface Sway {
  /** Length of one wave; how far it strays, as a lane, and what that is multiplied by. Metres. */
  period: number;
  size: AlongValue;
  factor: number;
  up: number;
  seed: number;
  held: string;
}

/** Moves the points of all curves off their course, in place. */
function swayed(out: CurveSet, lengths: ArrayLike<number>, { period, size, factor, up, seed, held }: Sway): void {
  const { tangent, normal } = rotationMinimizingFrames(out);
  const along = out.pointData[POINT.along];
  for (let c = 0; c < curveCount(out); c++) {
    const length = lengths[c] || 1;
    // a closed line must come back to the same sway: a whole number of waves round it
    const round = out.closed[c] ? Math.max(2, Math.round(length / period)) : 0;
    const step = round > 0 ? length / round : period;
    for (let p = out.start[c]; p < out.start[c + 1]; p++) {
      const fade =
        round > 0
          ? 1
          : ease(held === 'none' ? 1 : along[p] / step) * ease(held === 'ends' ? (length - along[p]) / step : 1);
      const far = valueAt(size, along[p] / length) * factor * fade;
      const b = far * lineNoise(along[p] / step, seed, out.id[c], SIDEWAYS, round);
      const n = up * far * lineNoise(along[p] / step, seed, out.id[c], UP, round);
      const i = 3 * p;
      const tx = tangent[i];
      const ty = tangent[i + 1];
      const tz = tangent[i + 2];
      const nx = normal[i];
      const ny = normal[i + 1];
      const nz = normal[i + 2];
      out.position[i] += n * nx + b * (ty * nz - tz * ny);
      out.position[i + 1] += n * ny + b * (tz * nx - tx * nz);
      out.position[i + 2] += n * nz + b * (tx * ny - ty * nx);
    }
  }
}

const ease = (x: number): number => (x >= 1 ? 1 : x <= 0 ? 0 : x * x * (3 - 2 * x));
