import { resample } from '../curve/resample.js';
import { smoothCurves } from '../curve/smooth.js';
import { greatest } from '../numeric/lane.js';
import { defineUnit } from '../unit/unit.js';

export const smooth = defineUnit({
  stage: 'shape',
  id: 'smooth',
  label: 'Smooth',
  purpose: 'Removes wobble and tight bends from a line.',
  synonyms: ['relax', 'average', 'fair', 'soften'],
  sample: { lines: ['zigzag'], parameters: { over: 8 } },
  parameters: {
    over: {
      kind: 'ratio',
      of: 'thickness',
      label: 'Smoothing length',
      help: 'Length over which bends are evened out, relative to the thickness.',
      default: 6,
      min: 0,
      max: 10_000,
      comfortable: [0, 60],
      gauge: 'spacing',
    },
    held: {
      kind: 'choice',
      label: 'Pinned',
      help: 'Points that keep their position.',
      default: 'ends',
      options: [
        { value: 'ends', label: 'Both ends' },
        { value: 'points', label: 'Every point' },
      ],
    },
  },
  presets: [
    { id: 'gentle', label: 'Gentle', parameters: {} },
    { id: 'strong', label: 'Strong', parameters: { over: 25 } },
  ],
  describe: ({ over }) => `Smooth over ${+over.toPrecision(3)} ×`,
  build(input, { over, held }, context) {
    const length = over * greatest(context.thickness);
    if (length <= 0) return input;
    // ten samples within the window are enough for its weights
    const even = resample(input, { spacing: length / 4, maxTurn: 0.15, keepKnots: held === 'points' });
    if (held === 'ends') even.pointData['corner']?.fill(0);
    return smoothCurves(even, { over: length, hold: held === 'points' ? 'points' : 'ends' });
  },
});
