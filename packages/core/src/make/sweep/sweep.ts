import { greatest, isLane, mapAlong } from '../../numeric/lane.js';
import { profileSize } from '../../section/own-section.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { CORNERS, cornered, reportBends } from '../corners.js';
import { FACING, type FacingChoice, facingOf, reportFacing } from '../facing.js';
import { foldFixes } from '../fold-fixes.js';
import { costOfSwept, finerBends, STEERING, type SweepSpec, sweptAlong, TRUE_WIDTH } from '../steering.js';
import { SWEEP_PRESETS } from './presets.js';
import { type Placed, reachOf } from './reach.js';
import {
  OWN,
  pictureOf,
  reportBlend,
  reportProfile,
  SAME,
  SECTIONS,
  type SweptSection,
  stagesOf,
  steeredOf,
} from './section.js';

const ANY_FORM = ['form', 'becomes', 'thenBecomes', 'lastBecomes'];
const ANY_SECTION = SECTIONS.map(({ value }) => value);

export const sweep = defineUnit({
  stage: 'make',
  id: 'sweep',
  label: 'Sweep',
  purpose: 'Any section swept along the line: bars, tubes, rails, beams, mouldings, seals.',
  synonyms: [
    'profile',
    'extrude',
    'loft',
    'bar',
    'rail',
    'beam',
    'moulding',
    'trim',
    'gutter',
    'gasket',
    'rebar',
    'rod',
    'tube',
  ],
  parameters: {
    form: {
      kind: 'choice',
      label: 'Section',
      help: 'Shape of the cross-section.',
      default: 'round',
      options: SECTIONS,
      picture: pictureOf,
    },
    profile: {
      kind: 'profile',
      label: 'Profile',
      help: 'Custom profile from the project; choosing one also sets its size.',
      default: '',
      when: { parameter: 'form', is: [OWN] },
    },
    radius: {
      kind: 'length',
      label: 'Radius',
      help: 'Distance from the middle to the top: half the height if not round.',
      default: 0.02,
      min: 1e-5,
      max: 100,
      comfortable: [0.001, 0.2],
      along: true,
      share: 'size',
      gauge: 'diameter',
    },
    width: {
      kind: 'ratio',
      of: 'height',
      label: 'Width factor',
      help: 'Width relative to the height.',
      default: 1,
      min: 0.05,
      max: 100,
      comfortable: [0.25, 8],
      along: true,
      gauge: { kind: 'across', size: 'radius' },
    },
    wall: {
      kind: 'ratio',
      of: 'half the height',
      label: 'Wall thickness',
      help: 'Thickness of walls and legs.',
      default: 0.2,
      min: 0.01,
      max: 0.95,
      comfortable: [0.05, 0.5],
      gauge: 'figure',
      when: {
        parameter: ANY_FORM,
        is: ['crescent', 'angle', 'tee', 'channel', 'beam', 'tube', 'box-tube'],
      },
    },
    points: {
      kind: 'count',
      label: 'Corner count',
      help: 'Number of polygon corners, star points or gear teeth.',
      default: 6,
      min: 3,
      max: 200,
      comfortable: [3, 24],
      gauge: 'corners',
      when: { parameter: ANY_FORM, is: ['polygon', 'star', 'gear'] },
    },
    depth: {
      kind: 'ratio',
      of: 'radius',
      label: 'Cut depth',
      help: 'Depth of the cuts between points or teeth.',
      default: 0.3,
      min: 0.01,
      max: 0.9,
      comfortable: [0.05, 0.6],
      gauge: 'figure',
      when: { parameter: ANY_FORM, is: ['star', 'gear'] },
    },
    rounding: {
      kind: 'ratio',
      of: 'maximum',
      label: 'Corner rounding',
      help: 'Roundness of the corners; 0 is sharp, 1 is as round as possible.',
      default: 0.2,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
      when: {
        parameter: ANY_FORM,
        is: ['polygon', 'box', 'angle', 'tee', 'channel', 'beam', 'star', 'gear', 'box-tube'],
      },
    },
    sides: {
      kind: 'count',
      label: 'Sides',
      help: 'Number of segments around curved parts.',
      default: 32,
      min: 4,
      max: 256,
      comfortable: [12, 64],
      gauge: 'corners',
      when: { parameter: ANY_FORM, is: ['round', 'half-round', 'crescent', 'tube'] },
      group: 'Resolution',
    },
    becomes: {
      kind: 'choice',
      label: 'Second section',
      help: 'Section to blend into along the line.',
      default: SAME,
      options: [{ value: SAME, label: 'Same' }, ...SECTIONS],
      picture: pictureOf,
      group: 'Blend',
    },
    later: {
      kind: 'profile',
      label: 'Second profile',
      help: 'Custom profile of the second section, scaled to the current height and width.',
      default: '',
      when: { parameter: 'becomes', is: [OWN] },
      group: 'Blend',
    },
    thenBecomes: {
      kind: 'choice',
      label: 'Third section',
      help: 'Section that follows the second.',
      default: SAME,
      options: [{ value: SAME, label: 'Same' }, ...SECTIONS],
      picture: pictureOf,
      when: { parameter: 'becomes', is: ANY_SECTION },
      group: 'Blend',
    },
    thenProfile: {
      kind: 'profile',
      label: 'Third profile',
      help: 'Custom profile of the third section.',
      default: '',
      when: { parameter: 'thenBecomes', is: [OWN] },
      group: 'Blend',
    },
    lastBecomes: {
      kind: 'choice',
      label: 'Fourth section',
      help: 'Section that follows the third.',
      default: SAME,
      options: [{ value: SAME, label: 'Same' }, ...SECTIONS],
      picture: pictureOf,
      when: { parameter: 'thenBecomes', is: ANY_SECTION },
      group: 'Blend',
    },
    lastProfile: {
      kind: 'profile',
      label: 'Fourth profile',
      help: 'Custom profile of the fourth section.',
      default: '',
      when: { parameter: 'lastBecomes', is: [OWN] },
      group: 'Blend',
    },
    share: {
      kind: 'ratio',
      of: 'all sections',
      label: 'Blend amount',
      help: 'Progress through the sections at the end of the line; 0 keeps the first, 1 reaches the last.',
      default: 1,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      along: true,
      gauge: 'figure',
      when: { parameter: 'becomes', is: ANY_SECTION },
      group: 'Blend',
    },
    roll: STEERING.roll,
    twist: STEERING.twist,
    start: { ...STEERING.start, default: 'flat' },
    end: { ...STEERING.end, default: 'flat' },
    rise: {
      kind: 'ratio',
      of: 'half the height',
      label: 'Height offset',
      help: 'Position of the line in the section; 0 in the middle, 1 at the bottom, −1 at the top.',
      default: 0,
      min: -100,
      max: 100,
      comfortable: [-1, 1],
      along: true,
      gauge: 'figure',
      group: 'Placement',
    },
    aside: {
      kind: 'ratio',
      of: 'half the width',
      label: 'Side offset',
      help: 'Sideways position of the section; 1 and −1 put the line on one of its sides.',
      default: 0,
      min: -100,
      max: 100,
      comfortable: [-1, 1],
      along: true,
      gauge: 'figure',
      group: 'Placement',
    },
    ...FACING,
    ...CORNERS,
    cuts: { ...STEERING.cuts, group: 'Resolution' },
    bendStep: { ...STEERING.bendStep, group: 'Resolution' },
    inAll: {
      kind: 'count',
      label: 'Segments',
      help: 'Fixed number of segments per line; 0 uses the settings above.',
      default: 0,
      min: 0,
      max: 200_000,
      comfortable: [0, 200],
      gauge: 'figure',
      group: 'Resolution',
    },
    texture: {
      kind: 'choice',
      label: 'Texture width',
      help: 'Fit the texture once around the section, or use true width in metres.',
      default: 'once',
      options: [
        { value: 'once', label: 'Once around' },
        { value: TRUE_WIDTH, label: 'True width' },
      ],
      group: 'Texture',
    },
    seam: {
      kind: 'ratio',
      of: 'the way around',
      label: 'Seam position',
      help: 'Position around the section where the texture starts and ends.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
      when: { parameter: 'becomes', is: [SAME] },
      group: 'Texture',
    },
    folds: { ...STEERING.folds, group: 'Checks' },
    leastBend: STEERING.leastBend,
  },
  presets: SWEEP_PRESETS,
  shelf: 'swept',
  outfits: [
    { id: 'painted', label: 'Painted', wears: { main: { unit: 'plain', preset: 'green-paint' } } },
    { id: 'brushed', label: 'Brushed', wears: { main: { unit: 'patterned', preset: 'brushed-steel' } } },
    { id: 'woven', label: 'Woven', wears: { main: { unit: 'patterned', preset: 'webbing' } } },
  ],
  sizedBy: (profile) => ({ ...profileSize(profile) }),
  cost: (input, p, context) =>
    costOfSwept(cornered(input, p, 2 * greatest(p.radius)).curves, steered(p, context), p, context.density),
  fixes: (finding, { radius, folds }, length) => [...finerBends(finding), ...foldFixes(finding, radius, folds, length)],
  thickness: (p) => mapAlong(p.radius, (r) => r * reachOf(p, formsOf(p))),
  breadth: (p) => mapAlong(p.radius, (r) => r * reachOf(p, formsOf(p), Math.PI / 2)),
  describe({ form, radius, width }, length) {
    const label = SECTIONS.find(({ value }) => value === form)?.label ?? form;
    const [high, wide] = [2 * greatest(radius), greatest(width)];
    const upTo = isLane(radius) || isLane(width) ? 'up to ' : '';
    return wide === 1
      ? `${label}, ${upTo}${length(high)}`
      : `${label}, ${upTo}${length(high * wide)} × ${length(high)}`;
  },
  build(input, p, context) {
    for (const { form, profile } of stagesOf(p)) reportProfile(form, profile, p.width, context);
    reportFacing(p, context);
    const height = 2 * greatest(p.radius);
    const { curves, bends } = cornered(input, p, height);
    reportBends(bends, { radius: p.bendRadius * height, diameter: height }, context);
    const what = steered(p, context);
    reportBlend(p, what.becomes?.blend, context);
    return sweptAlong(curves, what, p, context, { id: 'sweep', name: 'Sweep' });
  },
});

const formsOf = (p: SweptSection): string[] => stagesOf(p).map(({ form }) => form);

const steered = (p: SweptSection & Placed & FacingChoice, context: BuildContext): SweepSpec => ({
  ...steeredOf(p, context),
  facing: facingOf(p, context),
});
