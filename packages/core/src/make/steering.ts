import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import { type Frames, rotationMinimizingFrames } from '../curve/frames.js';
import { type ResampleOptions, resample, samplesOf } from '../curve/resample.js';
import type { Mesh } from '../mesh/mesh.js';
import { type AlongValue, greatest, isLane } from '../numeric/lane.js';
import type { Blend } from '../section/blend/blend.js';
import type { Section } from '../section/section.js';
import { capSize, type EndKind } from '../sweep/caps.js';
import { sweep } from '../sweep/sweep.js';
import { type Made, madeOf, type Part } from '../unit/carriers.js';
import type { Finding, Fix } from '../unit/finding.js';
import type { ParameterSet } from '../unit/parameters.js';
import type { BuildContext, Cost } from '../unit/unit.js';
import { lanesAlong } from './lanes-along.js';

// What steers one section along lines: shared by all units that sweep one.

/** Texture u is a length. */
export const TRUE_WIDTH = 'true';
/** Folds are limited. */
export const LIMITED = 'limited';

const ENDS = [
  { value: 'flat', label: 'Flat' },
  { value: 'round', label: 'Round' },
  { value: 'pointed', label: 'Pointed' },
  { value: 'chamfered', label: 'Chamfered' },
  { value: 'plate', label: 'Plate' },
  { value: 'open', label: 'Open' },
] as const;
/**
 * A section that is not round needs a ring at least every this much turn, or its edges look sawn. Where it is the points
 * that roll, what is under it turns them: one this many times as broad as high needs this many times as many, or its broad
 * sides run through what it lies on.
 */
const TWIST_STEP = 0.2;
/** Rings to each rib, and at least: with fewer it would not be the same from one rib to the next. */
const STEPS_A_RIB = 10;
export const MIN_SEGMENTS_PER_RIB = 5;
/** Straight steps of what is flat leave its line by this much of its own height at most. */
const FLAT_SAG = 0.04;
/** A vertex with its share of the faces: position, normal and texture coordinate, and about two triangles. */
const VERTEX_BYTES = 56;
/** Steps over which a thickness that varies is drawn. */
const LANE_STEPS = 64;
/** Rings stand at most this many times as close where a section turns to look somewhere. */
const MAX_REFINEMENT = 16;

/** Where its rings stand, how it turns, how it ends. */
export const STEERING = {
  cuts: {
    kind: 'rate',
    of: 'segments',
    label: 'Segments per metre',
    help: 'Number of segments per metre, including straight parts.',
    default: 12,
    min: 0,
    max: 100_000,
    comfortable: [0, 200],
    gauge: 'spacing',
  },
  bendStep: {
    kind: 'angle',
    label: 'Max angle per segment',
    help: 'Largest turn between two segments; 4.5° gives 20 in a 90° bend.',
    default: Math.PI / 30,
    min: 0.005,
    max: 1,
    comfortable: [0.04, 0.35],
    gauge: 'turn',
  },
  roll: {
    kind: 'angle',
    label: 'Roll',
    help: 'Rotates the section around the line.',
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
    help: 'Turns of the section per metre; below 0 reverses. On a closed curve, whole turns in total.',
    default: 0,
    min: -10_000,
    max: 10_000,
    comfortable: [-4, 4],
    along: true,
    gauge: 'turn',
  },
  folds: {
    kind: 'choice',
    label: 'Tight bends',
    help: 'Crease the inner side of bends tighter than the section, or let it intersect itself.',
    default: LIMITED,
    options: [
      { value: LIMITED, label: 'Crease' },
      { value: 'through', label: 'Leave' },
    ],
  },
  leastBend: {
    kind: 'ratio',
    of: 'inner radius',
    label: 'Min bend radius',
    help: 'Report bends tighter than this; below 1 the inner side folds.',
    default: 1,
    min: 1,
    max: 100,
    comfortable: [1, 12],
    gauge: 'tightest',
    group: 'Checks',
  },
  start: { kind: 'choice', label: 'Start cap', help: 'Shape of the start.', default: 'round', options: ENDS },
  end: { kind: 'choice', label: 'End cap', help: 'Shape of the end.', default: 'round', options: ENDS },
} as const satisfies ParameterSet;

/** What these parameters hold. */
export interface Steering {
  cuts: number;
  bendStep: number;
  /** This many rings on each line, evenly; 0 or absent as close as all else asks. */
  inAll?: number;
  roll: AlongValue;
  twist: AlongValue;
  start: string;
  end: string;
  leastBend: number;
  /** Where a bend is too tight, its inner side is creased. */
  folds?: string;
  /** How its texture lies across it. */
  texture?: string;
}

/** Turns about the line that make the frames' normal look where the section's top is to look, radians, one a point. */
export type Facing = (rails: CurveSet, frames: Frames) => Float64Array;

/** What is steered. */
export interface SweepSpec {
  section: Section;
  /** What the section's unit is, metres. */
  size: AlongValue;
  /** How many times as broad as high it is, or as high as broad. */
  flatness: number;
  /** How many times as broad as its outline says it is, where that varies. */
  broad?: AlongValue;
  /** Distance from the line along its own height and breadth: halves of its height and breadth. */
  rise?: AlongValue;
  aside?: AlongValue;
  /** What it becomes on its way, and how far it has come: the section is then the blend's first stage. */
  becomes?: { blend: Blend; share: AlongValue };
  /** Where its top looks; along with the line when absent. What was drawn of turns then counts for nothing. */
  facing?: Facing;
  /** Rings round it: from one to the next, metres, and how deep it is between them as a share of its size. */
  ripple?: { wave: number; depth: number };
  /** Corners of the line get no hard edge. */
  soft?: boolean;
  /** It looks the same however it is turned. */
  isRound: boolean;
  /** From the curve to the nearest place of the skin, as a share of `size`. */
  least: number;
  /** The outline that the checks hold against other things, convex, where it is not round. */
  outline?: { x: ArrayLike<number>; y: ArrayLike<number> };
}

export const finerBends = ({ code }: Finding): Fix[] =>
  code === 'coarse'
    ? [
        {
          label: 'Use a smaller angle per segment',
          kind: 'set',
          stage: 'make',
          parameter: 'bendStep',
          value: Math.PI / 30,
        },
      ]
    : [];

/** What sweeping it comes to. */
export function costOfSwept(input: CurveSet, steered: SweepSpec, p: Steering, density: number): Cost {
  const { section } = steered;
  const rings = samplesOf(input, cutOptions(input, steered, p, density));
  const closed = input.closed.reduce((sum, one) => sum + one, 0);
  const caps = [p.start, p.end].map((kind) => capSize(section, kind as EndKind).vertices);
  // a closed line has its first ring twice; of many short lines the ends are the greater part
  const vertices = (rings + closed) * section.x.length + (curveCount(input) - closed) * (caps[0] + caps[1]);
  return { vertices, bytes: VERTEX_BYTES * vertices };
}

/** Sweeps it along all lines: one part, one body. */
export function sweptAlong(
  input: CurveSet,
  steered: SweepSpec,
  p: Steering,
  context: BuildContext,
  names: { id: string; name: string },
): Made {
  return sweptOn(railsOf(input, steered, p, context.density), steered, p, context, names);
}

/** Rails with their frames. */
export interface Rails {
  rails: CurveSet;
  frames: Frames;
  turns?: Float64Array;
}

/** The same on rails that are already; they say how long they are, and how far along each of their points is. */
export function sweptOn(
  { rails, frames, turns }: Rails,
  steered: SweepSpec,
  p: Steering,
  { spare }: BuildContext,
  { id, name }: { id: string; name: string },
): Made {
  const { section, least } = steered;
  const { radius, roll, width, shift, share, plain } = lanesAlong(rails, steered, p, turns);
  const turned = !plain && roll.some((value) => value !== 0);
  const varies = !plain && (isLane(steered.size) || radius.some((value) => value !== radius[0]));
  const mesh = sweep(rails, section, {
    frames,
    radius: varies ? radius : (radius[0] ?? greatest(steered.size)),
    width,
    shift,
    becomes: steered.becomes && share && { blend: steered.becomes.blend, share },
    roll: turned ? roll : 0,
    start: p.start as EndKind,
    end: p.end as EndKind,
    limited: p.folds === LIMITED,
    trueWidth: p.texture === TRUE_WIDTH,
    hardAngle: steered.soft ? Math.PI : undefined,
    into: spareMesh(spare),
  });
  const broad = width?.map((value, k) => (radius[k] > 0 ? value / radius[k] : 1));
  // very many lines are swept without their frames: only the checks ask for them
  const outline = steered.outline && {
    ...steered.outline,
    get tangent() {
      return frames.tangent;
    },
    get normal() {
      return frames.normal;
    },
    roll,
    broad,
  };
  return madeOf(rails, {
    parts: mesh.index.length > 0 ? [{ kind: 'mesh', id, name, mesh, slot: 'main' }] : [],
    bodies: [
      {
        id,
        curves: shift ? beside(rails, frames, roll, shift) : rails,
        section: { radius, least, outline },
        leastBend: p.leastBend,
        limited: p.folds === LIMITED,
      },
    ],
  });
}

/** Where the rings stand, with their frames; closer where the section turns to look where it is to look. */
function railsOf(input: CurveSet, steered: SweepSpec, p: Steering, density: number): Rails {
  const options = cutOptions(input, steered, p, density);
  const rails = resample(input, options);
  const frames = rotationMinimizingFrames(rails);
  const turns = steered.facing?.(rails, frames);
  const limit = TWIST_STEP / (steered.flatness * density);
  const most = turns ? greatestStep(rails, turns) : 0;
  if (!turns || most <= limit) return { rails, frames, turns };
  const step = curveLengths(rails).reduce((a, b) => Math.max(a, b), 0) / Math.max(1, mostSteps(rails));
  const times = Math.min(MAX_REFINEMENT, most / limit);
  const closer = resample(input, { ...options, spacing: Math.min(options.spacing ?? Infinity, step) / times });
  const closerFrames = rotationMinimizingFrames(closer);
  return { rails: closer, frames: closerFrames, turns: steered.facing?.(closer, closerFrames) };
}

/** The greatest change of a turn from point to point. */
function greatestStep({ start }: CurveSet, turns: Float64Array): number {
  let most = 0;
  for (let c = 0; c + 1 < start.length; c++)
    for (let q = start[c] + 1; q < start[c + 1]; q++) most = Math.max(most, Math.abs(turns[q] - turns[q - 1]));
  return most;
}

const mostSteps = ({ start }: CurveSet): number =>
  start.reduce((most, end, c) => (c > 0 ? Math.max(most, end - start[c - 1] - 1) : most), 0);

/** The middle line of a section that is beside its own. */
function beside(
  rails: CurveSet,
  { tangent, normal }: Frames,
  roll: Float32Array,
  shift: { x: Float32Array; y: Float32Array },
): CurveSet {
  const position = rails.position.slice();
  for (let q = 0; q < roll.length; q++) {
    const [cos, sin] = [Math.cos(roll[q]), Math.sin(roll[q])];
    const alongNormal = shift.x[q] * cos - shift.y[q] * sin;
    const alongBinormal = shift.x[q] * sin + shift.y[q] * cos;
    for (let n = 0; n < 3; n++) {
      const [a, b] = [3 * q + ((n + 1) % 3), 3 * q + ((n + 2) % 3)];
      const binormal = tangent[a] * normal[b] - tangent[b] * normal[a];
      position[3 * q + n] += alongNormal * normal[3 * q + n] + alongBinormal * binormal;
    }
  }
  return { ...rails, position };
}

/** How far a box of height 2 reaches towards what it lies on, or turned by `aside` from there: half its height, on edge half its width. */
export function boxReach(width: number, roll: AlongValue, twist: AlongValue, aside = 0): number {
  // what turns on its way comes to lie on each of its sides, and on its corners
  if (isLane(roll) || isLane(twist) || twist !== 0) return Math.hypot(1, width);
  return Math.abs(Math.cos(roll + aside)) + width * Math.abs(Math.sin(roll + aside));
}

/** Where the rings stand: evenly, closer on bends, and close enough for what twists or varies. */
function cutOptions(
  input: CurveSet,
  { size, flatness, isRound, broad, rise, aside, becomes, ripple }: SweepSpec,
  p: Steering,
  density: number,
): ResampleOptions {
  // a line of n rings has n − 1 steps
  if (p.inAll) return { steps: Math.max(1, Math.round((p.inAll - 1) * density)) };
  const lengths = curveLengths(input);
  let spacing = p.cuts > 0 ? 1 / (p.cuts * density) : Infinity;
  const fastest =
    typeof p.twist === 'number' ? Math.abs(p.twist) : Math.max(...p.twist.knots.map((knot) => Math.abs(knot.value)));
  // a strap is thin: its straight steps leave what it lies on before they show as facets
  const maxSag = flatness > 1 ? (FLAT_SAG * greatest(size)) / density ** 2 : undefined;
  const maxRoll = isRound ? undefined : TWIST_STEP / (flatness * density);
  if (fastest > 0 && !isRound)
    spacing = Math.min(spacing, TWIST_STEP / (Math.min(1, flatness) * 2 * Math.PI * fastest * density));
  if (ripple) spacing = Math.min(spacing, ripple.wave / Math.max(MIN_SEGMENTS_PER_RIB, STEPS_A_RIB * density));
  if (becomes || [size, p.twist, broad, rise, aside].some(isLane))
    spacing = Math.min(spacing, lengths.reduce((a, b) => Math.max(a, b), 0) / (LANE_STEPS * density));
  return { spacing: Number.isFinite(spacing) ? spacing : undefined, maxTurn: p.bendStep / density, maxRoll, maxSag };
}

const spareMesh = (spare: readonly Part[] | undefined): Mesh | undefined =>
  spare?.[0]?.kind === 'mesh' ? spare[0].mesh : undefined;
