import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { rotationMinimizingFrames } from '../curve/frames.js';
import { type ResampleOptions, resample, samplesOf } from '../curve/resample.js';
import type { Mesh } from '../mesh/mesh.js';
import { type AlongValue, greatest, isLane, mapAlong, valueAt } from '../numeric/lane.js';
import { polygonSection, roundedBoxSection, roundSection, type Section } from '../section/section.js';
import { capSize, type EndKind } from '../sweep/caps.js';
import { sweep } from '../sweep/sweep.js';
import { madeOf, type Part } from '../unit/carriers.js';
import { defineUnit } from '../unit/unit.js';

const ENDS = [
  { value: 'flat', label: 'Flat' },
  { value: 'round', label: 'Round' },
  { value: 'open', label: 'Open' },
] as const;
/**
 * A section that is not round needs a ring at least every so much turn, or its edges look sawn. Where it is the points
 * that roll, what lies under it turns them: one so many times as broad as high needs so many times as many, or its broad
 * sides run through what it lies on.
 */
const TWIST_STEP = 0.2;
/** Straight steps of what is flat leave its line by so much of its own height at most. */
const FLAT_SAG = 0.04;
/** A vertex with its share of the faces: position, normal and texture coordinate, and about two triangles. */
const VERTEX_BYTES = 56;
/** Steps over which a thickness that varies is drawn. */
const LANE_STEPS = 64;

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
    cuts: {
      kind: 'rate',
      of: 'cuts',
      label: 'Cross-cuts',
      help: 'Rings for each metre of length, on straight stretches too.',
      default: 12,
      min: 0,
      max: 100_000,
      comfortable: [0, 200],
      gauge: 'spacing',
    },
    bendStep: {
      kind: 'angle',
      label: 'Bend step',
      help: 'Greatest turn from ring to ring; a 90° bend gets about 20 rings at 4.5°.',
      default: Math.PI / 30,
      min: 0.005,
      max: 1,
      comfortable: [0.04, 0.35],
      gauge: 'turn',
    },
    roll: {
      kind: 'angle',
      label: 'Roll',
      help: 'Turns the section about the line.',
      default: 0,
      min: -1000,
      max: 1000,
      comfortable: [-Math.PI, Math.PI],
      along: true,
      gauge: 'turn',
    },
    twist: {
      kind: 'rate',
      of: 'turns',
      label: 'Twist',
      help: 'Turns of the section for each metre; below 0 the other way. On a closed curve, whole turns in all.',
      default: 0,
      min: -10_000,
      max: 10_000,
      comfortable: [-4, 4],
      along: true,
      gauge: 'turn',
    },
    start: { kind: 'choice', label: 'Start', help: 'How the start is closed.', default: 'round', options: ENDS },
    end: { kind: 'choice', label: 'End', help: 'How the end is closed.', default: 'round', options: ENDS },
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
  cost(input, p, { density }) {
    const section = sectionOf(p.section, p.sides, p.width, p.rounding, density);
    const rings = samplesOf(input, cutOptions(input, p, density));
    const closed = input.closed.reduce((sum, one) => sum + one, 0);
    const caps = [p.start, p.end].map((kind) => capSize(section, kind as EndKind).vertices);
    // a closed line has its first ring twice; of many short lines the ends are the greater part
    const vertices = (rings + closed) * section.x.length + (curveCount(input) - closed) * (caps[0] + caps[1]);
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  fixes: ({ code }) =>
    code === 'coarse'
      ? { label: 'Set a finer bend step', kind: 'set', stage: 'make', parameter: 'bendStep', value: Math.PI / 30 }
      : undefined,
  thickness: ({ radius, section, width, roll, twist }) =>
    section === 'box' ? mapAlong(radius, (r) => r * boxReach(width, roll, twist)) : radius,
  breadth: ({ radius, section, width, roll, twist }) =>
    section === 'box' ? mapAlong(radius, (r) => r * boxReach(width, roll, twist, Math.PI / 2)) : radius,
  describe({ radius, section, sides, width }, length) {
    const size = isLane(radius) ? `up to ${length(2 * greatest(radius))}` : length(2 * radius);
    if (section === 'box') return `Box ${length(2 * greatest(radius) * width)} × ${size}`;
    return section === 'polygon' ? `⌀ ${size}, ${sides} edges` : `⌀ ${size}, round`;
  },
  build(input, p, context) {
    const section = sectionOf(p.section, p.sides, p.width, p.rounding, context.density);
    const rails = resample(input, cutOptions(input, p, context.density));
    const radius = new Float32Array(rails.position.length / 3);
    const roll = new Float32Array(radius.length);
    fillLanes(rails, p.radius, p.roll, p.twist, radius, roll);
    const turned = roll.some((value) => value !== 0);
    const varies = isLane(p.radius) || radius.some((value) => value !== radius[0]);
    const frames = rotationMinimizingFrames(rails);
    const mesh = sweep(rails, section, {
      frames,
      radius: varies ? radius : (radius[0] ?? greatest(p.radius)),
      roll: turned ? roll : 0,
      start: p.start as EndKind,
      end: p.end as EndKind,
      into: spareMesh(context.spare),
    });
    const outline = p.section === 'round' ? undefined : { x: section.x, y: section.y, ...frames, roll };
    const least =
      p.section === 'box' ? Math.min(1, p.width) : p.section === 'polygon' ? Math.cos(Math.PI / p.sides) : 1;
    return madeOf(rails, {
      parts: mesh.index.length > 0 ? [{ kind: 'mesh', id: 'cable', name: 'Cable', mesh, slot: 'main' }] : [],
      bodies: [{ id: 'cable', curves: rails, section: { radius, least, outline }, leastBend: p.leastBend }],
    });
  },
});

/** How far a box of height 2 reaches towards what it lies on, or turned by `aside` from there: half its height, on edge half its width. */
function boxReach(width: number, roll: AlongValue, twist: AlongValue, aside = 0): number {
  // what turns on its way comes to lie on each of its sides, and on its corners
  if (isLane(roll) || isLane(twist) || twist !== 0) return Math.hypot(1, width);
  return Math.abs(Math.cos(roll + aside)) + width * Math.abs(Math.sin(roll + aside));
}

function sectionOf(kind: string, sides: number, width: number, rounding: number, density: number): Section {
  if (kind === 'polygon') return polygonSection(sides);
  if (kind === 'box') return roundedBoxSection(width, rounding, Math.max(1, Math.round(3 * density)));
  // an even number keeps its mirror when it is made finer or coarser
  return roundSection(density === 1 ? sides : Math.max(3, 2 * Math.round((sides * density) / 2)));
}

interface CutParameters {
  radius: AlongValue;
  section: string;
  width: number;
  cuts: number;
  bendStep: number;
  twist: AlongValue;
}

/** Where the rings stand: evenly, closer on bends, and close enough for what twists or varies. */
function cutOptions(input: CurveSet, p: CutParameters, density: number): ResampleOptions {
  const lengths = curveLengths(input);
  let spacing = p.cuts > 0 ? 1 / (p.cuts * density) : Infinity;
  const fastest =
    typeof p.twist === 'number' ? Math.abs(p.twist) : Math.max(...p.twist.knots.map((knot) => Math.abs(knot.value)));
  const flatness = p.section === 'box' ? Math.max(p.width, 1 / p.width) : 1;
  // a strap is thin: its straight steps leave what it lies on before they show as facets
  const maxSag = flatness > 1 ? (FLAT_SAG * greatest(p.radius)) / density ** 2 : undefined;
  const maxRoll = p.section === 'round' ? undefined : TWIST_STEP / (flatness * density);
  if (fastest > 0 && p.section !== 'round') spacing = Math.min(spacing, TWIST_STEP / (2 * Math.PI * fastest * density));
  if (isLane(p.radius) || isLane(p.twist))
    spacing = Math.min(spacing, lengths.reduce((a, b) => Math.max(a, b), 0) / (LANE_STEPS * density));
  return { spacing: Number.isFinite(spacing) ? spacing : undefined, maxTurn: p.bendStep / density, maxRoll, maxSag };
}

/** Radius and turn of the section at every rail point; on a closed curve the twist is rounded to whole turns. */
function fillLanes(
  rails: CurveSet,
  radius: AlongValue,
  roll: AlongValue,
  twist: AlongValue,
  radiusOut: Float32Array,
  rollOut: Float32Array,
): void {
  const along = rails.pointData[POINT.along];
  const share = rails.pointData[POINT.radius];
  const own = rails.pointData[POINT.roll];
  const lengths = curveLengths(rails);
  for (let c = 0; c < curveCount(rails); c++) {
    const [first, end] = [rails.start[c], rails.start[c + 1]];
    const length = lengths[c] || 1;
    let turns = 0;
    for (let p = first; p < end; p++) {
      const t = along[p] / length;
      // trapezoid over each step: exact for straight lanes between rings
      if (p > first)
        turns += ((valueAt(twist, t) + valueAt(twist, along[p - 1] / length)) / 2) * (along[p] - along[p - 1]);
      radiusOut[p] = valueAt(radius, t) * (share?.[p] ?? 1);
      rollOut[p] = valueAt(roll, t) + 2 * Math.PI * turns + (own?.[p] ?? 0);
    }
    if (!rails.closed[c]) continue;
    const all = turns + valueAt(twist, 1) * (length - along[end - 1]);
    const surplus = 2 * Math.PI * (Math.round(all) - all);
    for (let p = first; p < end; p++) rollOut[p] += (surplus * along[p]) / length;
  }
}

const spareMesh = (spare: readonly Part[] | undefined): Mesh | undefined =>
  spare?.[0]?.kind === 'mesh' ? spare[0].mesh : undefined;
