import { chordsOf, curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { smoothCurves } from '../curve/smooth.js';
import { type AlongValue, greatest, valueAt } from '../numeric/lane.js';
import { easeFolds, reachInBends } from '../surface/ease-folds.js';
import { calmEnds, keepOutside, layOn, mostShort, pushOut, waysUp } from '../surface/lay-on.js';
import {
  bridgeAlong,
  evenWays,
  FLAT,
  type Rolled,
  raiseSection,
  restAcross,
  rollTowards,
  sectionUp,
  waysFromAbove,
  waysOff,
} from '../surface/lie-flat.js';
import { defineUnit } from '../unit/unit.js';

/** Steps along the line, as a share of the thickness: closer than this the section bridges whatever is under it. */
const STEP = 0.5;
/** No closer than such a share of the breadth: what its line is the lower side of has no thickness below it. */
const MIN_STEP = 0.02;
/** Keeping off, the line feels surfaces from this many thicknesses inside them. */
const FEEL = 4;
/** The roll eases over this many thicknesses at least. */
const MIN_EASE = 2;
/** How often a line that was torn apart over an edge is looked at anew. */
const MAX_ROUNDS = 3;
/** Its ends are laid as the stretch before them, over this many times the width of its easing. */
const ENDS = 2;
/** This often what sinks in as it is rolled is raised. */
const MAX_RAISE_PASSES = 4;
/** Passes in which folds are eased, each time over this many times the length. */
const MAX_EASE_PASSES = 13;
const WIDER = 1.2;
/** A step this many times as long as it was asked for has been torn. */
const TORN = 2;
/** Eased, it sinks in by no more than such a share of its thickness more than before. */
const SINKS = 0.02;
/** Most samples for all curves of a piece. */
const MAX_SAMPLES = 400_000;

export const cling = defineUnit({
  stage: 'shape',
  id: 'cling',
  label: 'Cling',
  version: 2,
  // lines that lay on something before kept the roll they had
  upgrades: [{ from: 1, upgrade: (parameters) => ({ ...parameters, roll: 'line' }) }],
  purpose: 'Lays the line on a prop at an even distance from the surface.',
  synonyms: ['project', 'snap', 'drape', 'shrink', 'lie on', 'stick'],
  sample: { lines: ['over'], bar: true },
  parameters: {
    mode: {
      kind: 'choice',
      label: 'Mode',
      help: 'Lie on keeps every point at one distance; Keep off only moves points that are too close.',
      default: 'on',
      options: [
        { value: 'on', label: 'Lie on' },
        { value: 'off', label: 'Keep off' },
      ],
    },
    target: { kind: 'prop', label: 'Target prop', help: 'Prop to lie on; empty uses the nearest.', default: '' },
    gap: {
      kind: 'length',
      label: 'Gap',
      help: 'Distance from the surface to the outside of the thing; below 0 presses it in.',
      default: 0,
      min: -10,
      max: 100,
      comfortable: [0, 0.05],
      gauge: 'distance',
    },
    reach: {
      gauge: 'figure',
      kind: 'length',
      label: 'Max distance',
      help: 'Points further than this from the surface stay where they are.',
      default: 100,
      min: 0,
      max: 10_000,
      comfortable: [0, 2],
      when: { parameter: 'mode', is: ['on'] },
    },
    ease: {
      gauge: 'spacing',
      kind: 'ratio',
      of: 'thickness',
      label: 'Smoothing length',
      help: 'Length over which the line smooths edges and facets; longer where it would fold.',
      default: 1.5,
      min: 0,
      max: 100,
      comfortable: [0, 8],
    },
    roll: {
      kind: 'choice',
      label: 'Roll',
      help: 'Surface turns flat things to lie on it; Line keeps the roll of the line.',
      default: 'surface',
      options: [
        { value: 'surface', label: 'Surface' },
        { value: 'line', label: 'Line' },
      ],
      when: { parameter: 'mode', is: ['on'] },
    },
  },
  presets: [
    { id: 'lying', label: 'Lie on', parameters: {} },
    { id: 'clear', label: 'Keep off', parameters: { mode: 'off' } },
  ],
  describe: ({ mode, gap }, length) =>
    `${mode === 'on' ? 'Cling' : 'Keep off'}${gap === 0 ? '' : `, gap ${length(gap)}`}`,
  build(input, { mode, target, gap, reach, ease, roll }, context) {
    const only = target || undefined;
    if (context.surroundings.isEmpty || (only && !context.surroundings.surface(only))) {
      context.report({
        code: 'nothing-to-cling-to',
        severity: 'warning',
        message: only
          ? 'The target prop is missing or hidden. Choose another one.'
          : 'There is no prop to cling to. Import one, or remove Cling.',
      });
      return input;
    }
    const thick = greatest(context.thickness);
    const lengths = curveLengths(input);
    const total = lengths.reduce((sum, length) => sum + length, 0);
    const spacing = Math.max(thick * STEP, greatest(context.breadth) * MIN_STEP, total / MAX_SAMPLES, 1e-6);
    const fine = resample(input, { spacing, maxTurn: 0.3, keepKnots: true });
    const distance = distances(fine, context.thickness, gap);
    const feel = FEEL * thick;
    const within = mode === 'on' ? reach : thick + Math.abs(gap) + feel;
    const above = waysUp(fine, context.surroundings, within, only);
    const { up } = above;
    const held =
      mode === 'on'
        ? layOn(fine, context.surroundings, distance, reach, above, only)
        : pushOut(fine, context.surroundings, distance, up, feel, only);
    const broad = distances(fine, context.breadth, 0);
    const isFlat = mode === 'on' && roll !== 'line' && broad.some((one, p) => one > FLAT * distance[p]);
    const bridged = isFlat
      ? bridgeAlong(held, waysFromAbove(held, context.surroundings, up, broad, only), broad, distance)
      : held;
    const over = ease * thick;
    const eased = (outside: CurveSet, ways: Float64Array) =>
      ease > 0 ? keepOutside(outside, smoothCurves(outside, { over, hold: 'corners' }), ways, over) : outside;
    let lying = pushOut(
      eased(ease > 0 && mode === 'on' ? calmEnds(fine, bridged, ENDS * over) : bridged, up),
      context.surroundings,
      distance,
      up,
      0,
      only,
    );
    // over the edge of a blade neighbours are pushed out to its two sides: the step between them is laid anew
    for (let round = 0; round < MAX_ROUNDS && chordsOf(lying).longest > TORN * spacing; round++) {
      const finer = resample(lying, { spacing: spacing / 2, keepKnots: true });
      const apart = distances(finer, context.thickness, gap);
      const { up: off } = waysUp(finer, context.surroundings, within, only);
      const outside = pushOut(finer, context.surroundings, apart, off, 0, only);
      lying = pushOut(eased(outside, off), context.surroundings, apart, off, 0, only);
    }
    const inBends = (curves: CurveSet, off: Float64Array) =>
      reachInBends(curves, off, distances(curves, context.thickness, 0), distances(curves, context.breadth, 0));
    // what is narrower than the thing bends it into itself: there, and where it has just left it, it is eased wider and wider
    const about = 2 * (within + feel);
    const sinks = (curves: CurveSet) =>
      mostShort(curves, context.surroundings, distances(curves, context.thickness, gap), about, only);
    let best = { lying, folds: Infinity };
    let sunk = Number.NaN;
    const rounds = ease > 0 && mode === 'on' ? MAX_EASE_PASSES : 0;
    for (let round = 0, wider = over; round < rounds; round++, wider *= WIDER) {
      const { up: off } = waysUp(lying, context.surroundings, about, only);
      const calmer = easeFolds(lying, inBends(lying, off), wider);
      if (round === 0 && calmer.folds > 0) sunk = sinks(lying);
      // torn apart, it has been eased to both sides of something thin; or into it
      const isWhole = () => chordsOf(lying).longest < TORN * spacing && sinks(lying) < sunk + SINKS * thick;
      if (round === 0 || (calmer.folds < best.folds && isWhole())) best = { lying, folds: calmer.folds };
      if (calmer.folds === 0) break;
      const outside = keepOutside(lying, calmer.curves, off, wider);
      lying = pushOut(outside, context.surroundings, distances(outside, context.thickness, gap), off, 0, only);
    }
    lying = best.lying;
    if (mode === 'off' || roll === 'line') return lying;
    const apart = distances(lying, context.thickness, gap);
    const near = apart.map((one) => one + thick);
    let ways = waysOff(lying, context.surroundings, near, only);
    const turn = Math.max(ease, MIN_EASE) * thick;
    const breadth = distances(lying, context.breadth, 0);
    if (!breadth.some((one, p) => one > FLAT * apart[p])) return rollTowards(lying, ways, turn);
    ways = waysFromAbove(lying, context.surroundings, ways, breadth, only);
    // raised along the way up of the section itself, which turns smoothly: over an edge the ground's own way jumps
    const smooth = evenWays(lying, sectionUp(rollTowards(lying, ways, turn)), turn);
    ways = smooth.slice();
    lying = keepOutside(restAcross(lying, context.surroundings, ways, breadth, apart, only), lying, smooth, turn);
    let before: Rolled | undefined;
    for (let round = 0; ; round++) {
      const rolled = rollTowards(lying, ways, turn);
      const now = { curves: rolled, up: sectionUp(rolled) };
      if (round === MAX_RAISE_PASSES) return rolled;
      const calm = evenWays(lying, now.up, turn);
      const raised = raiseSection(now, context.surroundings, breadth, apart, calm, before, only);
      if (!raised) return rolled;
      before = now;
      lying = keepOutside(raised, { ...lying, position: lying.position.slice() }, calm, turn);
      lying = keepOutside(lying, easeFolds(lying, inBends(lying, now.up), turn).curves, calm, turn);
    }
  },
});

/** Wanted distance of the curve from the surface at each point: the section's own reach there, and the gap. */
function distances(curves: CurveSet, thickness: AlongValue, gap: number): Float64Array {
  const along = curves.pointData[POINT.along];
  const share = curves.pointData[POINT.radius];
  const lengths = curveLengths(curves);
  const out = new Float64Array(along.length);
  for (let c = 0; c < curveCount(curves); c++)
    for (let p = curves.start[c]; p < curves.start[c + 1]; p++)
      out[p] = valueAt(thickness, along[p] / (lengths[c] || 1)) * (share?.[p] ?? 1) + gap;
  return out;
}
