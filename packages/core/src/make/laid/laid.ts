import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { resample, samplesOf } from '../../curve/resample.js';
import { type AlongValue, greatest, isLane, valueAt } from '../../numeric/lane.js';
import { roundSection } from '../../section/section.js';
import { capSize, type EndKind } from '../../sweep/caps.js';
import { type Made, madeOf } from '../../unit/carriers.js';
import type { LevelValue } from '../../unit/parameters.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { finerBends, type Rails, STEERING, type Steered, sweptOn } from '../steering.js';
import { markStrands, type Tinted } from './attributes.js';
import { cutOptions } from './cuts.js';
import { type Laid, layLevel, levelOf, type Solved, strandsIn, strandsOf } from './levels.js';
import type { Fit } from './touch.js';

/** Places of a strand for each turn of the level that turns fastest. */
const PLACES = 18;
/** Strands that can be less than so much as thick as they were straight are laid more steeply than can be laid. */
const STEEP = 0.6;
/** Greatest turn of the line that the strip and the view show, from place to place. */
const GUIDE_TURN = Math.PI / 30;
const VERTEX_BYTES = 56;

const level = (count: number, filling: string, hand: string, lay: number): LevelValue => ({
  count,
  filling,
  hand,
  lay,
});

export const laid = defineUnit({
  stage: 'make',
  id: 'laid',
  label: 'Laid',
  purpose: 'Strands laid about each other, level by level: ropes, thread, yarn, wire rope.',
  parameters: {
    radius: {
      kind: 'length',
      label: 'Radius',
      help: 'From the line to the outside of the bundle.',
      default: 0.02,
      min: 1e-6,
      max: 100,
      comfortable: [0.001, 0.1],
      along: true,
      share: 'size',
      gauge: 'diameter',
    },
    levels: {
      kind: 'levels',
      label: 'Levels',
      help: 'From the whole inwards: so many strands, and what each of those consists of.',
      least: 1,
      most: 4,
      default: [level(3, 'hollow', 'z', 3.5), level(12, 'filled', 's', 4)],
      fields: {
        count: {
          kind: 'count',
          label: 'Strands',
          help: 'How many lie about one middle.',
          default: 3,
          min: 1,
          max: 2000,
          comfortable: [2, 40],
        },
        filling: {
          kind: 'choice',
          label: 'Filling',
          help: 'As close together as they go, in a ring, or in a ring about a core that fills its hole.',
          default: 'filled',
          options: [
            { value: 'filled', label: 'Filled' },
            { value: 'hollow', label: 'Ring' },
            { value: 'cored', label: 'Core' },
          ],
        },
        hand: {
          kind: 'choice',
          label: 'Hand',
          help: 'Z turns as a usual screw does, S the other way.',
          default: 'z',
          options: [
            { value: 'z', label: 'Z' },
            { value: 's', label: 'S' },
          ],
        },
        lay: {
          kind: 'ratio',
          of: 'thickness',
          label: 'Lay',
          help: 'Length of one turn. Fibre rope 3 to 4, wire rope 6 to 8.',
          default: 3.5,
          min: 0.3,
          max: 10_000,
          comfortable: [2, 12],
        },
      },
    },
    fit: {
      kind: 'choice',
      label: 'Thickness',
      help: 'Strands just touch where they are tightest: all as the least gap allows, as the mean or the widest, or each fills its own.',
      default: 'least',
      options: [
        { value: 'least', label: 'Least gap' },
        { value: 'mean', label: 'Mean gap' },
        { value: 'most', label: 'Widest gap' },
        { value: 'own', label: 'Each its own' },
      ],
    },
    scale: {
      kind: 'ratio',
      of: 'what touches',
      label: 'Strands',
      help: 'How thick they are against that: below 1 they are loose, above 1 they cut each other.',
      default: 1,
      min: 0.01,
      max: 4,
      comfortable: [0.5, 1.1],
      gauge: 'figure',
    },
    twist: {
      ...STEERING.twist,
      help: 'Turns of the whole for each metre beside its lay; below 0 they open it. On a closed curve, whole turns in all.',
    },
    roll: { ...STEERING.roll, along: undefined, help: 'Turns the whole about the line.' },
    tinted: {
      kind: 'choice',
      label: 'Tint',
      help: 'Whether strands are a little darker than each other: each by itself, or those of one outer strand alike.',
      default: 'strand',
      options: [
        { value: 'even', label: 'None' },
        { value: 'strand', label: 'Strand' },
        { value: 'level', label: 'Outer' },
      ],
      group: 'Look',
    },
    variation: {
      kind: 'ratio',
      of: 'its colour',
      label: 'Darker by',
      help: 'How much darker than the dress a strand may be.',
      default: 0.16,
      min: 0,
      max: 1,
      comfortable: [0, 0.5],
      unmeasured: 'It is about colour, not the place.',
      when: { parameter: 'tinted', is: ['strand', 'level'] },
      group: 'Look',
    },
    seed: {
      kind: 'seed',
      label: 'Seed',
      help: 'Another draw of tints.',
      default: 1,
      min: 0,
      max: 1e9,
      comfortable: [0, 100],
      unmeasured: 'It is a draw, not a measure.',
      when: { parameter: 'tinted', is: ['strand', 'level'] },
      group: 'Look',
    },
    density: {
      kind: 'ratio',
      of: 'water',
      label: 'Density',
      help: 'Of the stuff of its strands, for its mass: polyamide 1.14, polyester 1.38, hemp 1.48, steel 7.85.',
      default: 1.14,
      min: 0.01,
      max: 25,
      comfortable: [0.9, 8],
      unmeasured: 'It is about the stuff, not the place.',
      group: 'Look',
    },
    sides: {
      kind: 'count',
      label: 'Sides',
      help: 'Faces round each strand.',
      default: 7,
      min: 3,
      max: 64,
      comfortable: [5, 16],
      gauge: 'corners',
      group: 'Divisions',
    },
    places: {
      kind: 'count',
      label: 'Places',
      help: 'Cross-cuts for each turn of the level that turns fastest.',
      default: PLACES,
      min: 4,
      max: 200,
      comfortable: [8, 40],
      gauge: 'figure',
      group: 'Divisions',
    },
    bendStep: { ...STEERING.bendStep, group: 'Divisions' },
    start: { ...STEERING.start, default: 'flat' },
    end: { ...STEERING.end, default: 'flat' },
    leastBend: {
      ...STEERING.leastBend,
      of: 'radius',
      help: 'Bends of a strand tighter than so many times its radius are reported.',
    },
  },
  presets: [
    { id: 'three-strand', label: 'Three-strand', parameters: {} },
    { id: 'four-strand', label: 'Four-strand', parameters: { levels: [level(4, 'cored', 'z', 3.5), level(9, 'filled', 's', 4)] } },
    { id: 'cable-laid', label: 'Cable-laid', parameters: { radius: 0.04, levels: [level(3, 'hollow', 's', 4), level(3, 'hollow', 'z', 3.5), level(7, 'filled', 's', 4)], sides: 6 } },
    { id: 'two-ply', label: 'Two-ply', parameters: { radius: 0.002, levels: [level(2, 'hollow', 'z', 3), level(19, 'filled', 's', 5)], sides: 6 } },
    { id: 'yarn', label: 'Yarn', parameters: { radius: 0.003, levels: [level(37, 'filled', 'z', 5)], sides: 6 } },
    { id: 'hank', label: 'Loose hank', parameters: { radius: 0.02, levels: [level(24, 'filled', 'z', 14)], scale: 0.8, start: 'round', end: 'round' } },
    { id: 'wire-1x7', label: 'Wire 1 × 7', parameters: { density: 7.85, radius: 0.004, levels: [level(7, 'filled', 'z', 8)], sides: 10 } },
    { id: 'wire-1x19', label: 'Wire 1 × 19', parameters: { density: 7.85, radius: 0.006, levels: [level(19, 'filled', 'z', 8)], sides: 8 } },
    { id: 'wire-7x7', label: 'Wire 7 × 7', parameters: { density: 7.85, radius: 0.008, levels: [level(7, 'filled', 'z', 7), level(7, 'filled', 's', 7)] } },
    { id: 'wire-6x19', label: 'Wire 6 × 19', parameters: { density: 7.85, radius: 0.01, levels: [level(6, 'cored', 'z', 7), level(19, 'filled', 's', 7)], sides: 6 } },
  ], // biome-ignore format: a line each
  shelf: 'strands',
  sample: { parameters: { radius: 0.012 } },
  thickness: ({ radius }) => radius,
  fixes: finerBends,
  describe({ levels, radius }, length) {
    const counts = levels.map((one) => levelOf(one).count).join(' × ');
    return `${counts}, ⌀ ${isLane(radius) ? 'up to ' : ''}${length(2 * greatest(radius))}`;
  },
  cost(input, p, { density }) {
    const strands = strandsIn(p.levels);
    const section = roundSection(sidesOf(p.sides, density));
    const points = samplesOf(input, cutOptions(input, p, density).options);
    const open = curveCount(input) - input.closed.reduce((sum, one) => sum + one, 0);
    const [start, end] = [p.start, p.end].map((kind) => capSize(section, kind as EndKind).vertices);
    const vertices = strands * (points * section.x.length + open * (start + end));
    return { vertices, bytes: VERTEX_BYTES * vertices, strands: strands * curveCount(input) };
  },
  build(input, p, context) {
    const { options, longer } = cutOptions(input, p, context.density);
    reportCoarse(longer, context);
    const rails = resample(input, options);
    const sized = radiusAlong(rails, p.radius);
    const lengths = curveLengths(rails);
    const along = rails.pointData[POINT.along];
    const curveOf = curveOfPoints(rails);
    const twist = (q: number) => valueAt(p.twist, lengths[curveOf[q]] > 0 ? along[q] / lengths[curveOf[q]] : 0);
    const frames = rotationMinimizingFrames(rails);
    let laid: Laid = { lines: rails, frames, radius: sized };
    const solved: Solved[] = [];
    for (const [n, one] of p.levels.entries()) {
      const made = layLevel(laid, levelOf(one), p.fit as Fit, n === 0 ? p.roll : 0, n === 0 ? twist : () => 0);
      laid = made.laid;
      solved.push(made.solved);
      context.step((n + 1) / (p.levels.length + 1));
    }
    reportSteep(solved, p.levels, context);
    const made = sweptStrands(laid, p, context);
    markParts(made, laid.lines, { rails, frames }, p, context);
    return madeOf(resample(input, { maxTurn: GUIDE_TURN, keepKnots: true }), {
      ...made,
      measures: measuresOf(laid, solved[0], p),
    });
  },
});

interface LaidChoice {
  radius: AlongValue;
  levels: readonly LevelValue[];
  scale: number;
  sides: number;
  places: number;
  bendStep: number;
  twist: AlongValue;
  start: string;
  end: string;
  leastBend: number;
  tinted: string;
  variation: number;
  seed: number;
  density: number;
}

const sidesOf = (sides: number, density: number): number => Math.max(Math.min(sides, 4), Math.round(sides * density));

/** Radius of the bundle at each point, metres, drawn thickness counted in. */
function radiusAlong(rails: CurveSet, radius: AlongValue): Float32Array {
  const along = rails.pointData[POINT.along];
  const share = rails.pointData[POINT.radius];
  const lengths = curveLengths(rails);
  const out = new Float32Array(pointCount(rails));
  for (let c = 0; c < curveCount(rails); c++)
    for (let p = rails.start[c]; p < rails.start[c + 1]; p++)
      out[p] = valueAt(radius, lengths[c] > 0 ? along[p] / lengths[c] : 0) * (share?.[p] ?? 1);
  return out;
}

function curveOfPoints({ start }: CurveSet): Uint32Array {
  const out = new Uint32Array(start[start.length - 1]);
  for (let c = 0; c + 1 < start.length; c++) out.fill(c, start[c], start[c + 1]);
  return out;
}

/** The skin of every strand. */
function sweptStrands({ lines, frames, radius }: Laid, p: LaidChoice, context: BuildContext): Made {
  const size = radius.reduce((a, b) => Math.max(a, b), 0) || 1;
  const share = radius.map((value) => value / size);
  const rails: CurveSet = { ...lines, pointData: { ...lines.pointData, [POINT.radius]: share } };
  const steered: Steered = {
    section: roundSection(sidesOf(p.sides, context.density)),
    size: size * p.scale,
    flatness: 1,
    isRound: true,
    least: 1,
    soft: true,
  };
  const steering = {
    cuts: 0,
    bendStep: p.bendStep,
    roll: 0,
    twist: 0,
    start: p.start,
    end: p.end,
    leastBend: p.leastBend,
  };
  return sweptOn({ rails, frames }, steered, steering, context, {
    id: 'strands',
    name: 'Strands',
  });
}

/** Who each vertex belongs to. */
function markParts({ parts }: Made, lines: CurveSet, along: Rails, p: LaidChoice, context: BuildContext): void {
  const strands = strandsIn(p.levels);
  for (const part of parts)
    if (part.kind === 'mesh')
      markStrands(part.mesh, lines, {
        ...along,
        section: roundSection(sidesOf(p.sides, context.density)),
        start: p.start as EndKind,
        end: p.end as EndKind,
        strands,
        inOuter: strands / strandsOf(levelOf(p.levels[0])),
        tinted: p.tinted as Tinted,
        variation: p.variation,
        seed: p.seed,
      });
}

/** Kilogrammes of a cubic metre of water. */
const WATER = 1000;

function measuresOf({ lines, radius }: Laid, outer: Solved, { scale, density }: LaidChoice): Made['measures'] {
  const lengths = curveLengths(lines);
  const along = lines.pointData[POINT.along];
  let volume = 0;
  for (let c = 0; c < curveCount(lines); c++)
    for (let q = lines.start[c]; q < lines.start[c + 1]; q++) {
      const next = q + 1 < lines.start[c + 1] ? along[q + 1] : lines.closed[c] ? lengths[c] : along[q];
      volume += Math.PI * (scale * radius[q]) ** 2 * (next - along[q]);
    }
  const ring = 1 - outer.radius;
  return [
    { id: 'strands', label: 'Strands', quantity: 'count', value: curveCount(lines) },
    { id: 'strand-length', label: 'Length of strands', quantity: 'length', value: lengths.reduce((a, b) => a + b, 0) },
    { id: 'mass', label: 'Mass', quantity: 'mass', value: volume * density * WATER },
    { id: 'lay-angle', label: 'Lay angle', quantity: 'angle', value: Math.atan2(2 * Math.PI * ring, outer.pitch) },
  ];
}

function reportCoarse(longer: number, { report }: BuildContext): void {
  if (longer <= 1) return;
  report({
    code: 'too-many-turns',
    severity: 'warning',
    message: `So fine a lay on so long a line has more places than can be made: they stand ${longer.toFixed(1)} times as far apart. Lay it longer, take fewer strands, or make the line shorter.`,
    size: { value: longer, limit: 1, kind: 'count' },
  });
}

function reportSteep(solved: readonly Solved[], levels: readonly LevelValue[], { report }: BuildContext): void {
  solved.forEach(({ radius, straight, pitch }, n) => {
    if (radius >= STEEP * straight) return;
    report({
      code: 'lay-steep',
      severity: 'warning',
      message: `Level ${n + 1} is laid more steeply than can be laid: at its tightest its strands are ${Math.round((100 * radius) / straight)} % as thick as side by side. Lay it longer than ${levelOf(levels[n]).lay}, or twist it less.`,
      size: { value: pitch / 2, limit: levelOf(levels[n]).lay, kind: 'count' },
    });
  });
}
