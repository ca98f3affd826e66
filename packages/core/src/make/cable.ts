import { type AlongValue, greatest, isLane, mapAlong } from '../numeric/lane.js';
import { polygonSection, roundedBoxSection, roundSection, type Section } from '../section/section.js';
import { defineUnit } from '../unit/unit.js';
import { foldFixes } from './fold-fixes.js';
import { boxReach, costOfSwept, finerBends, STEERING, type Steered, sweptAlong } from './steering.js';

export const cable = defineUnit({
  stage: 'make',
  id: 'cable',
  label: 'Cable',
  purpose: 'One solid section swept along the line: cable, hose, pipe, bar, strap.',
  parameters: {
    radius: {
      kind: 'length',
      label: 'Radius',
      help: 'From the curve to the skin; for a box, half its height.',
      default: 0.012,
      min: 1e-5,
      max: 100,
      comfortable: [0.001, 0.1],
      along: true,
      share: 'size',
      gauge: 'diameter',
    },
    section: {
      kind: 'choice',
      label: 'Section',
      help: 'Shape of the cross-section.',
      default: 'round',
      options: [
        { value: 'round', label: 'Round' },
        { value: 'polygon', label: 'Edged' },
        { value: 'box', label: 'Box' },
      ],
    },
    sides: {
      gauge: 'corners',
      kind: 'count',
      label: 'Sides',
      help: 'Faces round the section.',
      default: 16,
      min: 3,
      max: 256,
      comfortable: [5, 48],
      when: { parameter: 'section', is: ['round', 'polygon'] },
    },
    width: {
      gauge: { kind: 'across', size: 'radius' },
      kind: 'ratio',
      of: 'height',
      label: 'Width',
      help: 'How much wider than high the box is.',
      default: 3,
      min: 0.05,
      max: 100,
      comfortable: [0.5, 12],
      when: { parameter: 'section', is: ['box'] },
    },
    rounding: {
      gauge: 'figure',
      kind: 'ratio',
      of: 'half the shorter side',
      label: 'Rounding',
      help: 'Roundness of the box’s corners: 0 sharp, 1 fully round.',
      default: 0.4,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      when: { parameter: 'section', is: ['box'] },
    },
    ...STEERING,
    leastBend: {
      kind: 'ratio',
      of: 'radius',
      label: 'Least bend',
      help: 'Bends tighter than this many radii are reported. Below 1 the inner side folds.',
      default: 2,
      min: 1,
      max: 100,
      comfortable: [1, 12],
      gauge: 'tightest',
    },
  },
  presets: [
    { id: 'plain-cable', label: 'Plain cable', parameters: { radius: 0.012 } },
    {
      id: 'ribbed-hose',
      label: 'Ribbed hose',
      parameters: { radius: 0.03, section: 'polygon', sides: 9, twist: 1.2, start: 'flat', end: 'flat', leastBend: 3 },
    },
    {
      id: 'flat-strap',
      label: 'Flat strap',
      parameters: { radius: 0.004, section: 'box', width: 6, rounding: 0.6, start: 'flat', end: 'flat', leastBend: 1 },
    },
  ],
  shelf: 'swept',
  cost: (input, p, { density }) => costOfSwept(input, steeredOf(p, density), p, density),
  fixes: (finding, { radius, folds }, length) => [...finerBends(finding), ...foldFixes(finding, radius, folds, length)],
  thickness: ({ radius, section, width, roll, twist }) =>
    section === 'box' ? mapAlong(radius, (r) => r * boxReach(width, roll, twist)) : radius,
  breadth: ({ radius, section, width, roll, twist }) =>
    section === 'box' ? mapAlong(radius, (r) => r * boxReach(width, roll, twist, Math.PI / 2)) : radius,
  describe({ radius, section, sides, width }, length) {
    const size = isLane(radius) ? `up to ${length(2 * greatest(radius))}` : length(2 * radius);
    if (section === 'box') return `Box ${length(2 * greatest(radius) * width)} × ${size}`;
    return section === 'polygon' ? `⌀ ${size}, ${sides} edges` : `⌀ ${size}, round`;
  },
  build: (input, p, context) =>
    sweptAlong(input, steeredOf(p, context.density), p, context, { id: 'cable', name: 'Cable' }),
});

interface CableSection {
  radius: AlongValue;
  section: string;
  sides: number;
  width: number;
  rounding: number;
}

function steeredOf({ radius, section: kind, sides, width, rounding }: CableSection, density: number): Steered {
  const section = sectionOf(kind, sides, width, rounding, density);
  return {
    section,
    size: radius,
    flatness: kind === 'box' ? Math.max(width, 1 / width) : 1,
    isRound: kind === 'round',
    least: kind === 'box' ? Math.min(1, width) : kind === 'polygon' ? Math.cos(Math.PI / sides) : 1,
    outline: kind === 'round' ? undefined : { x: section.x, y: section.y },
  };
}

function sectionOf(kind: string, sides: number, width: number, rounding: number, density: number): Section {
  if (kind === 'polygon') return polygonSection(sides);
  if (kind === 'box') return roundedBoxSection(width, rounding, Math.max(1, Math.round(3 * density)));
  // an even number keeps its mirror when it is made finer or coarser
  return roundSection(density === 1 ? sides : Math.max(3, 2 * Math.round((sides * density) / 2)));
}
