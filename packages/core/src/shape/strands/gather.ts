import { pickCurves } from '../../curve/carry.js';
import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { defineUnit } from '../../unit/unit.js';
import { nearestOfFirst } from './nearest-of-first.js';
import { reshaped } from './reshape.js';

export const gather = defineUnit({
  stage: 'shape',
  id: 'gather',
  label: 'Gather',
  purpose: 'Replaces groups of strands by one line each: guides for hair cards.',
  synonyms: ['hair cards', 'reduce', 'merge', 'average'],
  together: true,
  sample: { path: ['grown', { prop: 'bar', count: 600, length: 0.06 }], make: ['strands', {}], bar: true },
  parameters: {
    strands: {
      kind: 'count',
      label: 'Strands per line',
      help: 'Approximate number of strands that become one line.',
      default: 12,
      min: 1,
      max: 100_000,
      comfortable: [2, 60],
      gauge: 'curves',
    },
    mean: {
      kind: 'ratio',
      of: 'maximum',
      label: 'Average',
      help: '1 uses the average of the strands, 0 the strand in the middle.',
      default: 1,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
    },
  },
  presets: [
    { id: 'cards', label: 'Cards', parameters: {} },
    { id: 'broad-cards', label: 'Broad cards', parameters: { strands: 40 } },
    { id: 'every-twelfth', label: 'Every twelfth', parameters: { mean: 0 } },
  ],
  describe: ({ strands }) => `One line per ${strands} strands`,
  build(input, { strands, mean }, context): CurveSet {
    const count = curveCount(input);
    const kept = Math.ceil(count / strands);
    if (kept >= count) return input;
    const leader = nearestOfFirst(input, kept);
    const lines = pickCurves(input, [...Array(kept).keys()]);
    const members = new Uint32Array(kept);
    for (const c of leader) members[c]++;
    const sum = new Float64Array(lines.position.length);
    for (let c = 0; c < count; c++) addTo(sum, lines, leader[c], input, c);
    return reshaped(lines, context.step, (position, first, end, c) => {
      for (let i = 3 * first; i < 3 * end; i++) position[i] += mean * (sum[i] / members[c] - position[i]);
    });
  },
});

/** Adds a strand to the sum of its line, at equal shares of their points. */
function addTo(sum: Float64Array, lines: CurveSet, line: number, { start, position }: CurveSet, c: number): void {
  const [first, steps] = [lines.start[line], lines.start[line + 1] - lines.start[line] - 1];
  const [from, own] = [start[c], start[c + 1] - start[c] - 1];
  for (let k = 0; k <= steps; k++) {
    const at = (own * k) / steps;
    const q = Math.min(own - 1, Math.floor(at));
    const t = at - q;
    for (let n = 0; n < 3; n++) {
      const a = position[3 * (from + q) + n];
      sum[3 * (first + k) + n] += a + t * (position[3 * (from + q + 1) + n] - a);
    }
  }
}
