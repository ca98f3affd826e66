import { copyCurves } from '../curve/carry.js';
import { AXES, axisFrame } from '../numeric/axis.js';
import { childId } from '../numeric/random.js';
import { dot } from '../numeric/vector.js';
import { defineUnit } from '../unit/unit.js';
import { MAX_POINTS } from './most-points.js';

export const repeat = defineUnit({
  stage: 'shape',
  id: 'repeat',
  label: 'Repeat',
  purpose: 'Copies the line in a row or around an axis.',
  synonyms: ['array', 'copies', 'duplicate', 'radial', 'circular'],
  sample: { parameters: { count: 5, step: [0, 0, 0.05] } },
  parameters: {
    way: {
      kind: 'choice',
      label: 'Arrangement',
      help: 'Arrange copies in a row, or around an axis.',
      default: 'row',
      options: [
        { value: 'row', label: 'In a row' },
        { value: 'round', label: 'Around axis' },
      ],
    },
    count: {
      gauge: 'curves',
      kind: 'count',
      label: 'Count',
      help: 'Number of lines, including the first.',
      default: 3,
      min: 1,
      max: 100_000,
      comfortable: [1, 40],
    },
    step: {
      gauge: 'step',
      kind: 'point',
      label: 'Step',
      help: 'Distance from each copy to the next.',
      default: [0.1, 0, 0],
      when: { parameter: 'way', is: ['row'] },
    },
    axis: {
      kind: 'choice',
      label: 'Axis',
      help: 'Axis to copy around.',
      default: 'up',
      options: AXES,
      when: { parameter: 'way', is: ['round'] },
    },
    at: {
      gauge: 'place',
      grip: { kind: 'place' },
      kind: 'point',
      label: 'Centre',
      help: 'A point on the axis.',
      default: [0, 0, 0],
      when: { parameter: 'way', is: ['round'] },
    },
    angle: {
      gauge: { kind: 'about-axis', at: 'at', axis: 'axis' },
      kind: 'angle',
      label: 'Total angle',
      help: 'Angle over which copies are spread; a full turn leaves no duplicate.',
      default: 2 * Math.PI,
      min: -100,
      max: 100,
      comfortable: [-2 * Math.PI, 2 * Math.PI],
      when: { parameter: 'way', is: ['round'] },
    },
  },
  presets: [
    { id: 'row', label: 'In a row', parameters: {} },
    { id: 'round', label: 'Around axis', parameters: { way: 'round', count: 6 } },
  ],
  describe: ({ way, count }) => `${count} ${way === 'row' ? 'in a row' : 'around an axis'}`,
  build(input, { way, count, step, axis, at, angle }, context) {
    const points = input.position.length / 3;
    const most = Math.max(1, Math.floor(MAX_POINTS / Math.max(1, points)));
    if (count > most)
      context.report({
        code: 'too-many-copies',
        severity: 'warning',
        message: `${count.toLocaleString('en')} copies are too many: ${most.toLocaleString('en')} are made. Reduce the count.`,
      });
    const copies = Math.min(count, most);
    const id = (own: number, k: number) => (k === 0 ? own : childId(own, k));
    if (way === 'row')
      return copyCurves(
        input,
        copies,
        (x, y, z, k, out, i) => {
          out[i] = x + k * step[0];
          out[i + 1] = y + k * step[1];
          out[i + 2] = z + k * step[2];
        },
        id,
      );
    const full = Math.abs(Math.abs(angle) - 2 * Math.PI) < 1e-6;
    const each = copies > 1 ? angle / (full ? copies : copies - 1) : 0;
    const [u, v, w] = axisFrame(axis);
    return copyCurves(
      input,
      copies,
      (x, y, z, k, out, i) => {
        const from = [x - at[0], y - at[1], z - at[2]];
        const [a, b, c] = [dot(from, u), dot(from, v), dot(from, w)];
        const [cos, sin] = [Math.cos(k * each), Math.sin(k * each)];
        for (let n = 0; n < 3; n++)
          out[i + n] = at[n] + (cos * a - sin * b) * u[n] + (sin * a + cos * b) * v[n] + c * w[n];
      },
      id,
    );
  },
});
