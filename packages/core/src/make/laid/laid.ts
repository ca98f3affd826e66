import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { resample } from '../../curve/resample.js';
import { type AlongValue, greatest, isLane, mapAlong, valueAt } from '../../numeric/lane.js';
import { madeOf } from '../../unit/carriers.js';
import type { LevelValue, ParameterValues } from '../../unit/parameters.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { BUNDLE_SLOTS, finishedBundle, measuresOf, sidesOf } from '../bundle/bundle.js';
import { BUNDLE_RADIUS, courseOf, GUIDE_TURN, sharesAlong } from '../bundle/course.js';
import { bundleFixes } from '../bundle/fixes.js';
import { COLUMNS, hullOf, type Outline, outlineOf, roundOutline } from '../bundle/hull.js';
import { lineOnly } from '../bundle/line-only.js';
import { BUNDLE } from '../bundle/parameters.js';
import { bundleCost, reportPlaces } from '../bundle/places.js';
import type { Strands } from '../bundle/strands.js';
import { STEERING } from '../steering.js';
import { cutOptions } from './cuts.js';
import { anglesAlong } from './lay.js';
import {
  type Laid,
  type Level,
  layLevel,
  level,
  levelOf,
  type Solved,
  solveLevel,
  strandsIn,
  strandsOf,
  turnsOf,
} from './levels.js';
import { LAID_PRESETS } from './presets.js';
import type { Fit } from './touch.js';

/** Places of a strand for each turn of the level that turns fastest. */
const PLACES = 18;
/** Strands that can be less than so much as thick as they were straight are laid more steeply than can be laid. */
const STEEP = 0.6;
/** Of more strands, filled or in a ring, no single one shows in their hull; nor more places a turn than these. */
const MANY_FILLED = 150;
const MANY_ROUND = 40;
const HULL_PLACES = 18;
/** This many strands are made at most. */
const MAX_STRANDS = 50_000;
/** With fewer places a turn, strands cut across their own bundle. */
const MIN_PLACES = 8;

export const laid = defineUnit({
  stage: 'make',
  id: 'laid',
  version: 2,
  upgrades: [{ from: 1, upgrade: layByThickness }],
  label: 'Laid rope',
  purpose: 'Strands twisted around each other, level by level: ropes, thread, yarn, wire rope.',
  synonyms: ['rope', 'string', 'twine', 'yarn', 'thread', 'wire rope', 'hawser', 'cord', 'twisted', 'steel cable'],
  parameters: {
    radius: BUNDLE_RADIUS,
    levels: {
      kind: 'levels',
      label: 'Levels',
      help: 'Levels from the outside in: the number of strands, and what each of them consists of.',
      least: 1,
      most: 4,
      default: [level(3, 'hollow', 'z', 3.5), level(12, 'filled', 's', 4)],
      fields: {
        count: {
          kind: 'count',
          label: 'Strands',
          help: 'Number of strands around one centre.',
          default: 3,
          min: 1,
          max: 2000,
          comfortable: [2, 40],
        },
        filling: {
          kind: 'choice',
          label: 'Filling',
          help: 'Pack strands tightly, in a ring, or in a ring around a core that fills the hole.',
          default: 'filled',
          options: [
            { value: 'filled', label: 'Filled' },
            { value: 'hollow', label: 'Ring' },
            { value: 'cored', label: 'Ring and core' },
          ],
        },
        hand: {
          kind: 'choice',
          label: 'Handedness',
          help: 'Z turns like a standard screw, S the other way.',
          default: 'z',
          options: [
            { value: 'z', label: 'Z' },
            { value: 's', label: 'S' },
          ],
        },
        lay: {
          kind: 'ratio',
          of: 'thickness',
          label: 'Lay length',
          help: 'Length of one turn relative to thickness (fibre rope 3–4, wire rope 6–8), or the number of turns.',
          default: 3.5,
          min: 0.3,
          max: 10_000,
          comfortable: [2, 12],
        },
        by: {
          kind: 'choice',
          label: 'Lay units',
          help: 'Length of one turn relative to thickness, or turns in total.',
          default: 'thickness',
          options: [
            { value: 'thickness', label: 'Relative' },
            { value: 'turns', label: 'Total turns' },
          ],
        },
      },
    },
    fit: {
      kind: 'choice',
      label: 'Thickness mode',
      help: 'Size strands to touch by the smallest, average or largest gap, or each by its own; From line uses the thickness of the line’s points.',
      default: 'least',
      options: [
        { value: 'least', label: 'Smallest gap' },
        { value: 'mean', label: 'Average gap' },
        { value: 'most', label: 'Largest gap' },
        { value: 'own', label: 'Per strand' },
        { value: 'drawn', label: 'From line' },
      ],
    },
    scale: {
      kind: 'ratio',
      of: 'touching size',
      label: 'Strand scale',
      help: 'Strand thickness relative to touching; below 1 is loose, above 1 intersects.',
      default: 1,
      min: 0.01,
      max: 4,
      comfortable: [0.5, 1.1],
      gauge: 'figure',
    },
    twist: {
      ...STEERING.twist,
      help: 'Additional turns of the whole; below 0 opens the lay.',
    },
    twistBy: {
      kind: 'choice',
      label: 'Twist units',
      help: 'Turns per metre, or turns in total per line.',
      default: 'metre',
      options: [
        { value: 'metre', label: 'Per metre' },
        { value: 'whole', label: 'Total' },
      ],
    },
    roll: { ...STEERING.roll, help: 'Rotates the whole around the line.' },
    ...BUNDLE,
    places: {
      kind: 'count',
      label: 'Segments per turn',
      help: 'Number of segments per turn of the fastest level.',
      default: PLACES,
      min: 4,
      max: 200,
      comfortable: [8, 40],
      gauge: 'figure',
      group: 'Resolution',
    },
  },
  presets: LAID_PRESETS,
  shelf: 'strands',
  outfits: [
    {
      id: 'linen-rope',
      label: 'Linen, whipped',
      wears: { main: { unit: 'plain', preset: 'linen' }, whipping: { unit: 'plain', preset: 'orange-jacket' } },
    },
    {
      id: 'wire-rope',
      label: 'Wire rope',
      wears: { main: { unit: 'plain', preset: 'steel' }, whipping: { unit: 'plain', preset: 'brass' } },
    },
    {
      id: 'work-line',
      label: 'Work line',
      wears: { main: { unit: 'plain', preset: 'orange-jacket' }, whipping: { unit: 'plain', preset: 'rubber' } },
    },
  ],
  slots: BUNDLE_SLOTS,
  sample: { parameters: { radius: 0.025 } },
  thickness: ({ radius, swell }) => mapAlong(radius, (r) => r * (1 + swell)),
  fixes: bundleFixes,
  describe({ levels, radius }, length) {
    const counts = levels.map((one) => levelOf(one).count).join(' × ');
    return `${counts}, ⌀ ${isLane(radius) ? 'up to ' : ''}${length(2 * greatest(radius))}`;
  },
  cost(input, p, { density }) {
    const shown = shownOf(p, curveCount(input));
    const levels = shown === 'hull' ? p.levels.slice(0, 1) : p.levels;
    const { options } = cutOptions(input, { ...p, levels, places: placesOf(p.places, shown) }, density);
    const sides = shown === 'hull' ? COLUMNS : sidesOf(p.sides, density);
    return bundleCost(input, options, { shown, strands: strandsIn(p.levels), sides, ends: [p.start, p.end] });
  },
  build(input, p, context) {
    const shown = shownOf(p, curveCount(input));
    if (shown !== p.shown) reportMany(strandsIn(p.levels) * curveCount(input), context);
    const levels = shown === 'strands' ? p.levels : p.levels.slice(0, 1);
    const { options, longer } = cutOptions(input, { ...p, levels, places: placesOf(p.places, shown) }, context.density);
    reportPlaces({ longer, places: p.places, fewest: MIN_PLACES, from: 'turn' }, context);
    const rails = resample(input, options);
    const course = courseOf(rails, p.radius, p.fit !== 'drawn', p);
    const guide = resample(input, { maxTurn: GUIDE_TURN, keepKnots: true });
    if (shown === 'line') return madeOf(guide, lineOnly(course, p.leastBend));
    const { turns, roll } = turningAlong(rails, course.radius, p);
    if (shown === 'hull') {
      const angle = anglesAlong(rails, turns);
      // the scale is that of the innermost strands
      const scaled = p.levels.length === 1 ? p.scale : 1;
      const outline = outlineOfLevel({ lines: rails, ...course }, levelOf(p.levels[0]), fitOf(p.fit), turns, scaled);
      const { part, body } = hullOf(
        course,
        outline,
        Float32Array.from(angle, (a, q) => a + roll(q)),
        {
          depth: p.levels.length,
          leastBend: p.leastBend,
          tinting: p,
        },
      );
      return madeOf(guide, { parts: [part], bodies: [body] });
    }
    const solved: Solved[] = [];
    let laid: Laid = { lines: rails, ...course };
    for (const [n, one] of levels.entries()) {
      const inner = n === 0 ? turns : turnsAlong(laid, one);
      const made = layLevel(laid, levelOf(one), fitOf(p.fit), inner, n === 0 ? roll : () => 0);
      const last = n + 1 === levels.length;
      // what is laid last is framed when all that moves it has moved it
      laid = { ...made.laid, frames: last ? laid.frames : rotationMinimizingFrames(made.laid.lines) };
      solved.push(made.solved);
      context.step((n + 1) / (levels.length + 1));
    }
    reportSteep(solved, p.levels, context);
    const each = strandsIn(p.levels);
    const strands: Strands = {
      lines: laid.lines,
      radius: p.fit === 'drawn' ? drawnThickness(rails, laid, each) : laid.radius,
      each,
      inOuter: each / strandsOf(levelOf(p.levels[0])),
    };
    const made = finishedBundle(course, strands, p, p.scale, context);
    const ring = 1 - solved[0].radius;
    return madeOf(guide, {
      ...made,
      measures: [
        ...measuresOf(course, strands, { scale: p.scale, density: p.density, area: Math.PI }),
        {
          id: 'lay-angle',
          label: 'Lay angle',
          quantity: 'angle',
          value: Math.atan2(2 * Math.PI * ring, solved[0].pitch),
        },
      ],
    });
  },
});

/** Until version 2 a lay was always a length. */
function layByThickness(parameters: ParameterValues): ParameterValues {
  const levels = parameters['levels'] as readonly LevelValue[];
  return { ...parameters, levels: levels.map((one) => ({ by: 'thickness', ...one })) };
}

const placesOf = (places: number, shown: string): number => (shown === 'hull' ? Math.min(places, HULL_PLACES) : places);

/** What is shown: of more strands than can be made, the hull. */
const shownOf = ({ shown, levels }: { shown: string; levels: readonly LevelValue[] }, lines: number): string =>
  shown === 'strands' && strandsIn(levels) * lines > MAX_STRANDS ? 'hull' : shown;

function reportMany(strands: number, { report }: BuildContext): void {
  report({
    code: 'too-many-strands',
    severity: 'warning',
    message: `Lay angle`,
    size: { value: strands, limit: MAX_STRANDS, kind: 'count' },
  });
}

/** What is seen of a level from outside. */
function outlineOfLevel(laid: Laid, level: Level, fit: Fit, turns: (q: number) => number, scale: number): Outline {
  if (level.count > (level.filling === 'filled' ? MANY_FILLED : MANY_ROUND)) return roundOutline(level.count);
  const { x, y, size, solved } = solveLevel(laid, level, fit, turns);
  const slant = x.map((value, k) => Math.hypot(1, (2 * Math.PI * Math.hypot(value, y[k])) / solved.pitch));
  return outlineOf({ x, y, size: size.map((one) => one * scale), slant });
}

/** What is drawn says how thick strands are, not what they touch: they are then as near as the least gap allows. */
const fitOf = (fit: string): Fit => (fit === 'drawn' ? 'least' : (fit as Fit));

/** How the outermost level turns: its lay, and the twist and roll of the whole beside it. */
function turningAlong(
  rails: CurveSet,
  radius: Float32Array,
  p: { levels: readonly LevelValue[]; twist: AlongValue; twistBy: string; roll: AlongValue },
) {
  const lengths = curveLengths(rails);
  const { share, curve } = sharesAlong(rails);
  const level = levelOf(p.levels[0]);
  const per = (q: number) => (p.twistBy === 'whole' ? lengths[curve[q]] || 1 : 1);
  return {
    turns: (q: number) => turnsOf(level, radius[q], lengths[curve[q]]) + valueAt(p.twist, share[q]) / per(q),
    roll: (q: number) => valueAt(p.roll, share[q]),
  };
}

/** How an inner level turns. */
function turnsAlong({ lines, radius }: Laid, one: LevelValue): (q: number) => number {
  const level = levelOf(one);
  if (level.by !== 'turns') return (q) => turnsOf(level, radius[q], 0);
  const lengths = curveLengths(lines);
  const { curve } = sharesAlong(lines);
  return (q) => turnsOf(level, radius[q], lengths[curve[q]]);
}

/** Strands as thick as the line's points were drawn. */
function drawnThickness(rails: CurveSet, { lines, radius }: Laid, each: number): Float32Array {
  const share = rails.pointData[POINT.radius];
  if (!share) return radius;
  const out = radius.slice();
  for (let c = 0; c < curveCount(lines); c++) {
    const first = rails.start[Math.floor(c / each)];
    for (let q = lines.start[c]; q < lines.start[c + 1]; q++) out[q] *= share[first + q - lines.start[c]];
  }
  return out;
}

function reportSteep(solved: readonly Solved[], levels: readonly LevelValue[], { report }: BuildContext): void {
  solved.forEach(({ radius, straight, pitch }, n) => {
    if (radius >= STEEP * straight) return;
    report({
      code: 'lay-steep',
      severity: 'warning',
      message: `Level ${n + 1} is twisted too steeply: its strands are only ${Math.round((100 * radius) / straight)} % of their straight thickness. Increase the lay length, or reduce the twist.`,
      size: { value: pitch / 2, limit: levelOf(levels[n]).lay, kind: 'count' },
    });
  });
}
