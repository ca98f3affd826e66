import { AXES, axisFrame } from '../numeric/axis.js';
import { childId } from '../numeric/random.js';
import { defineUnit } from '../unit/unit.js';
import { noCurves, type Trace, traceCurves } from './trace.js';

const STEPS_A_TURN = 72;
/** No helix gets more points than this, whatever was asked. */
const MAX_POINTS = 200_000;

/**
 * Points of one helix: c(t) = (r(t) cos φ(t), r(t) sin φ(t), h t) over t = 0…1 with φ = 2π·turns·t + phase and r running
 * straight from `radius` to `endRadius`. Even radius: length √((2πrn)² + h²), curvature r/(r² + b²), torsion b/(r² + b²)
 * with b = h/2πn (any text on curves).
 */
export function helixPoints(
  turns: number,
  height: number,
  radius: number,
  endRadius: number,
  phase: number,
  hand: 1 | -1,
): Float64Array {
  const steps = Math.max(2, Math.min(MAX_POINTS, Math.ceil(turns * STEPS_A_TURN)));
  const out = new Float64Array(3 * (steps + 1));
  for (let k = 0; k <= steps; k++) {
    const t = k / steps;
    const angle = hand * 2 * Math.PI * turns * t + phase;
    const r = radius + (endRadius - radius) * t;
    out[3 * k] = r * Math.cos(angle);
    out[3 * k + 1] = r * Math.sin(angle);
    out[3 * k + 2] = height * t;
  }
  return out;
}

export const helix = defineUnit({
  stage: 'path',
  id: 'helix',
  label: 'Helix',
  purpose: 'Turns around an axis: coils, springs, wound hoses, threads.',
  synonyms: ['spiral', 'coil', 'spring', 'thread', 'screw'],
  sample: { parameters: { radius: 0.06, height: 0.2 } },
  parameters: {
    at: {
      kind: 'point',
      gauge: 'place',
      grip: { kind: 'place' },
      label: 'Base',
      help: 'Centre of the first turn.',
      default: [0, 0, 0],
    },
    axis: { kind: 'choice', label: 'Axis', help: 'Direction in which the helix rises.', default: 'up', options: AXES },
    turns: {
      gauge: 'figure',
      kind: 'ratio',
      of: 'full turn',
      label: 'Turns',
      help: 'Number of turns.',
      default: 5,
      min: 0.01,
      max: 2000,
      comfortable: [0.5, 40],
    },
    height: {
      gauge: { kind: 'along-axis', at: 'at', axis: 'axis' },
      grip: { kind: 'size', from: 'at', axis: 'axis', way: 'along' },
      kind: 'length',
      label: 'Height',
      help: 'Distance between both ends along the axis; below 0 goes down.',
      default: 0.5,
      min: -1000,
      max: 1000,
      comfortable: [0, 2],
    },
    radius: {
      gauge: { kind: 'from-axis', at: 'at', axis: 'axis' },
      grip: { kind: 'size', from: 'at', axis: 'axis', way: 'across' },
      kind: 'length',
      label: 'Radius',
      help: 'Distance from the axis to the line, at the base.',
      default: 0.2,
      min: 0,
      max: 1000,
      comfortable: [0.02, 1],
    },
    taper: {
      gauge: 'figure',
      kind: 'ratio',
      of: 'radius',
      label: 'Taper',
      help: 'Radius at the far end; 1 is even, 0 ends in a point, above 1 widens.',
      default: 1,
      min: 0,
      max: 1000,
      comfortable: [0, 3],
    },
    offset: {
      gauge: { kind: 'about-axis', at: 'at', axis: 'axis', size: 'radius' },
      kind: 'angle',
      label: 'Start angle',
      help: 'Angle around the axis at which it starts.',
      default: 0,
      min: -1000,
      max: 1000,
      comfortable: [-Math.PI, Math.PI],
    },
    starts: {
      gauge: 'curves',
      kind: 'count',
      label: 'Parallel lines',
      help: 'Number of lines, evenly spaced around the axis.',
      default: 1,
      min: 1,
      max: 4,
      comfortable: [1, 4],
    },
    hand: {
      kind: 'choice',
      label: 'Handedness',
      help: 'Winding direction, seen along the axis.',
      default: 'right',
      options: [
        { value: 'right', label: 'Right (Z)' },
        { value: 'left', label: 'Left (S)' },
      ],
    },
  },
  presets: [
    { id: 'coil', label: 'Coil', parameters: {} },
    { id: 'flat-coil', label: 'Flat coil', parameters: { height: 0, taper: 3, turns: 6 } },
    { id: 'spring', label: 'Spring', parameters: { turns: 14, radius: 0.05, height: 0.4 } },
  ],
  describe: ({ turns, height, starts }, length) =>
    `${+turns.toPrecision(3)} turns, ${length(height)} high${starts > 1 ? `, ${starts} lines` : ''}`,
  build(_input, { at, axis, turns, height, radius, taper, offset, starts, hand }, context) {
    const end = radius * taper;
    if (radius === 0 && end === 0 && height === 0) {
      context.report({
        code: 'curve-short',
        severity: 'error',
        message: 'Without radius and height the helix has no length. Set one of them.',
        place: [...at],
      });
      return noCurves();
    }
    const [u, v, w] = axisFrame(axis);
    const traces: Trace[] = [];
    for (let s = 0; s < starts; s++) {
      const phase = offset + (2 * Math.PI * s) / starts;
      const points = helixPoints(turns, height, radius, end, phase, hand === 'right' ? 1 : -1);
      for (let i = 0; i < points.length; i += 3) {
        const [a, b, c] = [points[i], points[i + 1], points[i + 2]];
        for (let n = 0; n < 3; n++) points[i + n] = at[n] + a * u[n] + b * v[n] + c * w[n];
      }
      traces.push({ position: points, closed: false, id: childId(0, s) });
    }
    return traceCurves(traces);
  },
});
