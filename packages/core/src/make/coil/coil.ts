import { resample } from '../../curve/resample.js';
import { greatest, isLane, mapAlong } from '../../numeric/lane.js';
import { roundSection } from '../../section/section.js';
import { madeOf } from '../../unit/carriers.js';
import { defineUnit } from '../../unit/unit.js';
import { costOfSwept, finerBends, STEERING, type SweepSpec, sweptAlong } from '../steering.js';
import { groundEnds } from './ground-ends.js';
import { spacingOf, type Wound, windings } from './windings.js';

/** Greatest turn of the line that the strip and the view show, from place to place. */
const GUIDE_TURN = Math.PI / 30;

export const coil = defineUnit({
  stage: 'make',
  id: 'coil',
  label: 'Coil',
  purpose: 'A wire wound around the line: springs, curly cords, windings.',
  synonyms: ['spring', 'helix', 'spiral', 'winding', 'phone cord', 'solenoid'],
  parameters: {
    radius: {
      kind: 'length',
      label: 'Radius',
      help: 'Distance from the line to the middle of the wire.',
      default: 0.02,
      min: 1e-5,
      max: 100,
      comfortable: [0.002, 0.2],
      along: true,
      share: 'size',
      gauge: 'diameter',
    },
    wire: {
      kind: 'ratio',
      of: 'radius',
      label: 'Wire radius',
      help: 'Radius of the wire.',
      default: 0.15,
      min: 0.005,
      max: 0.95,
      comfortable: [0.03, 0.5],
      gauge: 'figure',
    },
    pitch: {
      kind: 'ratio',
      of: 'wire thickness',
      label: 'Pitch',
      help: 'Distance from turn to turn; turns never overlap, even inside bends.',
      default: 3,
      min: 1,
      max: 1000,
      comfortable: [1, 12],
      gauge: 'figure',
    },
    starts: {
      kind: 'count',
      label: 'Wire count',
      help: 'Number of wires side by side.',
      default: 1,
      min: 1,
      max: 4,
      comfortable: [1, 4],
      gauge: 'figure',
    },
    hand: {
      kind: 'choice',
      label: 'Handedness',
      help: 'Winding direction; right turns like a standard screw.',
      default: 'right',
      options: [
        { value: 'right', label: 'Right (Z)' },
        { value: 'left', label: 'Left (S)' },
      ],
    },
    closed: {
      kind: 'count',
      label: 'Closed end turns',
      help: 'Number of touching turns at each end, as on a compression spring.',
      default: 0,
      min: 0,
      max: 50,
      comfortable: [0, 4],
      gauge: 'figure',
    },
    ground: {
      kind: 'choice',
      label: 'End finish',
      help: 'Ground flat cuts the ends perpendicular to the line, with the wire tip a quarter as thick.',
      default: 'no',
      options: [
        { value: 'no', label: 'As wound' },
        { value: 'flat', label: 'Ground flat' },
      ],
    },
    sides: {
      kind: 'count',
      label: 'Sides',
      help: 'Number of segments around the wire.',
      default: 12,
      min: 3,
      max: 128,
      comfortable: [6, 24],
      gauge: 'corners',
    },
    bendStep: {
      ...STEERING.bendStep,
      default: Math.PI / 12,
      help: 'Largest turn between two segments; 15° gives 24 per turn.',
    },
    start: { ...STEERING.start, default: 'round' },
    end: { ...STEERING.end, default: 'round' },
  },
  presets: [
    {
      id: 'spring',
      label: 'Spring',
      synonyms: ['compression spring'],
      parameters: { radius: 0.016, wire: 0.14, pitch: 2.6, closed: 2, ground: 'flat', start: 'flat', end: 'flat' },
    },
    {
      id: 'curly-cord',
      label: 'Curly cord',
      synonyms: ['telephone cord'],
      parameters: { radius: 0.014, wire: 0.26, pitch: 1.15 },
    },
    {
      id: 'open-helix',
      label: 'Open helix',
      synonyms: ['corkscrew', 'dna'],
      parameters: { radius: 0.03, wire: 0.1, pitch: 12 },
    },
    {
      id: 'twin-winding',
      label: 'Twin winding',
      synonyms: ['solenoid'],
      parameters: { radius: 0.02, wire: 0.12, pitch: 4, starts: 2 },
    },
  ],
  shelf: 'swept',
  outfits: [
    { id: 'spring', label: 'Spring steel', wears: { main: { unit: 'patterned', preset: 'brushed-steel' } } },
    { id: 'curly-lead', label: 'Curly lead', wears: { main: { unit: 'plain', preset: 'rubber' } } },
    { id: 'winding', label: 'Winding', wears: { main: { unit: 'plain', preset: 'brass' } } },
  ],
  thickness: ({ radius, wire }) => mapAlong(radius, (r) => r * (1 + wire)),
  cost: (input, p, { density }) => costOfSwept(windings(input, p), steeredOf(p, density), steeringOf(p), density),
  fixes: finerBends,
  describe({ radius, wire, starts }, length) {
    const wires = starts === 1 ? '' : `${starts} wires, `;
    return `${wires}⌀ ${isLane(radius) ? 'up to ' : ''}${length(2 * greatest(radius))} of ⌀ ${length(2 * wire * greatest(radius))}`;
  },
  build(input, p, context) {
    const { longer } = spacingOf(input, p);
    if (longer > 1)
      context.report({
        code: 'too-many-turns',
        severity: 'warning',
        message: `Too many turns for this line: the pitch is ${longer.toFixed(1)} times as long. Increase the pitch, or shorten the line.`,
        size: { value: longer, limit: 1, kind: 'count' },
      });
    const steered = steeredOf(p, context.density);
    const made = sweptAlong(windings(input, p), steered, steeringOf(p), context, {
      id: 'coil',
      name: 'Coil',
    });
    if (p.ground === 'flat') groundEnds(made, input, p, steered.section);
    return madeOf(resample(input, { maxTurn: GUIDE_TURN, keepKnots: true }), { ...made });
  },
});

const steeringOf = ({ bendStep, start, end }: Wound) => ({
  cuts: 0,
  bendStep,
  roll: 0,
  twist: 0,
  start,
  end,
  leastBend: 1,
});

function steeredOf({ radius, wire, sides }: Wound, density: number): SweepSpec {
  const around = density === 1 ? sides : Math.max(3, 2 * Math.round((sides * density) / 2));
  return {
    section: roundSection(around),
    size: wire * greatest(radius),
    flatness: 1,
    isRound: true,
    least: 1,
    soft: true,
  };
}
