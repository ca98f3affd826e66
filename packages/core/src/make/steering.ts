import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { rotationMinimizingFrames } from '../curve/frames.js';
import { type ResampleOptions, resample, samplesOf } from '../curve/resample.js';
import type { Mesh } from '../mesh/mesh.js';
import { type AlongValue, greatest, isLane, valueAt } from '../numeric/lane.js';
import type { Section } from '../section/section.js';
import { capSize, type EndKind } from '../sweep/caps.js';
import { sweep } from '../sweep/sweep.js';
import { type Made, madeOf, type Part } from '../unit/carriers.js';
import type { Finding, Fix } from '../unit/finding.js';
import type { ParameterSet } from '../unit/parameters.js';
import type { BuildContext, Cost } from '../unit/unit.js';

// What steers one section along lines: shared by all units that sweep one.

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

/** Where its rings stand, how it turns, how it ends. */
export const STEERING = {
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
} as const satisfies ParameterSet;

/** What these parameters hold. */
interface Steering {
  cuts: number;
  bendStep: number;
  roll: AlongValue;
  twist: AlongValue;
  start: string;
  end: string;
  leastBend: number;
}

/** What is steered. */
export interface Steered {
  section: Section;
  /** What the section's unit is, metres. */
  size: AlongValue;
  /** How many times as broad as high it is, or as high as broad. */
  flatness: number;
  /** It looks the same however it is turned. */
  isRound: boolean;
  /** From the curve to the nearest place of the skin, as a share of `size`. */
  least: number;
  /** The outline that the checks hold against other things, convex, where it is not round. */
  outline?: { x: ArrayLike<number>; y: ArrayLike<number> };
}

export const finerBends = ({ code }: Finding): Fix | undefined =>
  code === 'coarse'
    ? { label: 'Set a finer bend step', kind: 'set', stage: 'make', parameter: 'bendStep', value: Math.PI / 30 }
    : undefined;

/** What sweeping it comes to. */
export function costOfSwept(input: CurveSet, steered: Steered, p: Steering, density: number): Cost {
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
  steered: Steered,
  p: Steering,
  { density, spare }: BuildContext,
  { id, name }: { id: string; name: string },
): Made {
  const { section, size, least } = steered;
  const rails = resample(input, cutOptions(input, steered, p, density));
  const radius = new Float32Array(rails.position.length / 3);
  const roll = new Float32Array(radius.length);
  fillLanes(rails, size, p.roll, p.twist, radius, roll);
  const turned = roll.some((value) => value !== 0);
  const varies = isLane(size) || radius.some((value) => value !== radius[0]);
  const frames = rotationMinimizingFrames(rails);
  const mesh = sweep(rails, section, {
    frames,
    radius: varies ? radius : (radius[0] ?? greatest(size)),
    roll: turned ? roll : 0,
    start: p.start as EndKind,
    end: p.end as EndKind,
    into: spareMesh(spare),
  });
  const outline = steered.outline && { ...steered.outline, ...frames, roll };
  return madeOf(rails, {
    parts: mesh.index.length > 0 ? [{ kind: 'mesh', id, name, mesh, slot: 'main' }] : [],
    bodies: [{ id, curves: rails, section: { radius, least, outline }, leastBend: p.leastBend }],
  });
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
  { size, flatness, isRound }: Steered,
  p: Steering,
  density: number,
): ResampleOptions {
  const lengths = curveLengths(input);
  let spacing = p.cuts > 0 ? 1 / (p.cuts * density) : Infinity;
  const fastest =
    typeof p.twist === 'number' ? Math.abs(p.twist) : Math.max(...p.twist.knots.map((knot) => Math.abs(knot.value)));
  // a strap is thin: its straight steps leave what it lies on before they show as facets
  const maxSag = flatness > 1 ? (FLAT_SAG * greatest(size)) / density ** 2 : undefined;
  const maxRoll = isRound ? undefined : TWIST_STEP / (flatness * density);
  if (fastest > 0 && !isRound) spacing = Math.min(spacing, TWIST_STEP / (2 * Math.PI * fastest * density));
  if (isLane(size) || isLane(p.twist))
    spacing = Math.min(spacing, lengths.reduce((a, b) => Math.max(a, b), 0) / (LANE_STEPS * density));
  return { spacing: Number.isFinite(spacing) ? spacing : undefined, maxTurn: p.bendStep / density, maxRoll, maxSag };
}

/** Radius and turn of the section at every rail point; on a closed curve the twist is rounded to whole turns. */
function fillLanes(
  rails: CurveSet,
  size: AlongValue,
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
      radiusOut[p] = valueAt(size, t) * (share?.[p] ?? 1);
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
