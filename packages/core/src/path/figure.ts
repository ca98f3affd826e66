import { AXES, axisFrame } from '../numeric/axis.js';
import { defineUnit } from '../unit/unit.js';
import { traceCurves } from './trace.js';

const CIRCLE_STEPS = 96;

export const figure = defineUnit({
  stage: 'path',
  id: 'figure',
  label: 'Figure',
  purpose: 'A circle, polygon or straight line set by numbers.',
  synonyms: ['circle', 'polygon', 'line', 'ring', 'square'],
  sample: { parameters: { radius: 0.12 } },
  parameters: {
    kind: {
      kind: 'choice',
      label: 'Shape',
      help: 'Shape of the line.',
      default: 'circle',
      options: [
        { value: 'circle', label: 'Circle' },
        { value: 'polygon', label: 'Polygon' },
        { value: 'line', label: 'Line' },
      ],
    },
    at: {
      kind: 'point',
      gauge: 'place',
      grip: { kind: 'place' },
      label: 'Position',
      help: 'Centre of the shape, or start of a straight line.',
      default: [0, 0, 0],
    },
    axis: {
      kind: 'choice',
      label: 'Axis',
      help: 'Direction the shape faces, or the direction of a straight line.',
      default: 'up',
      options: AXES,
    },
    radius: {
      gauge: { kind: 'from-axis', at: 'at', axis: 'axis' },
      grip: { kind: 'size', from: 'at', axis: 'axis', way: 'across' },
      kind: 'length',
      label: 'Radius',
      help: 'Distance from the centre to the line or its corners.',
      default: 0.5,
      min: 1e-5,
      max: 1000,
      comfortable: [0.05, 3],
      when: { parameter: 'kind', is: ['circle', 'polygon'] },
    },
    sides: {
      gauge: 'figure',
      kind: 'count',
      label: 'Corners',
      help: 'Number of corners of the polygon.',
      default: 4,
      min: 3,
      max: 1000,
      comfortable: [3, 12],
      when: { parameter: 'kind', is: ['polygon'] },
    },
    turn: {
      gauge: { kind: 'about-axis', at: 'at', axis: 'axis', size: 'radius' },
      kind: 'angle',
      label: 'Rotation',
      help: 'Rotates the shape around its axis.',
      default: 0,
      min: -1000,
      max: 1000,
      comfortable: [-Math.PI, Math.PI],
      when: { parameter: 'kind', is: ['circle', 'polygon'] },
    },
    length: {
      gauge: { kind: 'along-axis', at: 'at', axis: 'axis' },
      grip: { kind: 'size', from: 'at', axis: 'axis', way: 'along' },
      kind: 'length',
      label: 'Length',
      help: 'Length of the line.',
      default: 1,
      min: 1e-5,
      max: 10_000,
      comfortable: [0.1, 10],
      when: { parameter: 'kind', is: ['line'] },
    },
  },
  presets: [
    { id: 'circle', label: 'Circle', parameters: {} },
    { id: 'square', label: 'Square', parameters: { kind: 'polygon', turn: Math.PI / 4 } },
    { id: 'line', label: 'Line', parameters: { kind: 'line' } },
  ],
  describe: ({ kind, radius, sides, length: size }, length) =>
    kind === 'line'
      ? `Line of ${length(size)}`
      : kind === 'circle'
        ? `Circle, radius ${length(radius)}`
        : `${sides} corners, radius ${length(radius)}`,
  build(_input, { kind, at, axis, radius, sides, turn, length }) {
    const [u, v, w] = axisFrame(axis);
    if (kind === 'line') {
      const end = at.map((value, n) => value + length * w[n]);
      return traceCurves([{ position: [...at, ...end], closed: false, id: 1 }]);
    }
    const count = kind === 'circle' ? CIRCLE_STEPS : sides;
    const position = new Float64Array(3 * count);
    for (let k = 0; k < count; k++) {
      const angle = turn + (2 * Math.PI * k) / count;
      const [x, y] = [radius * Math.cos(angle), radius * Math.sin(angle)];
      for (let n = 0; n < 3; n++) position[3 * k + n] = at[n] + x * u[n] + y * v[n];
    }
    const corners = kind === 'polygon' ? Array.from({ length: count }, (_, k) => k) : [];
    return traceCurves([{ position, closed: true, id: 1, corners }]);
  },
});
