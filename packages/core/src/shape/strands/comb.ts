import type { CurveSet } from '../../curve/curve-set.js';
import { STRAND } from '../../curve/strand-data.js';
import type { AlongValue } from '../../numeric/lane.js';
import type { ParameterSet } from '../../unit/parameters.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { CHOSEN, type ChosenChoice, chosenOf } from './chosen.js';
import { bent } from './reshape.js';
import { StrandLane } from './strand-lane.js';
import { Strokes } from './strokes.js';

/** What combing and parting have in common: lines, how far they reach and how much they do. */
const BRUSHED = {
  reach: {
    kind: 'length',
    label: 'Reach',
    help: 'Distance from the lines over which the effect fades out.',
    default: 0.1,
    min: 1e-6,
    max: 1000,
    comfortable: [0.01, 0.5],
    gauge: 'figure',
  },
  amount: {
    kind: 'ratio',
    of: 'maximum',
    label: 'Amount',
    help: 'How far strands turn, root to tip; 0 is none, 1 is all the way.',
    default: 0.8,
    min: 0,
    max: 1,
    comfortable: [0, 1],
    along: true,
    gauge: 'figure',
  },
  lift: {
    kind: 'ratio',
    of: 'the way along',
    label: 'Lift angle',
    help: '0 lays strands along the skin, 1 raises them at 45°.',
    default: 0.15,
    min: -1,
    max: 10,
    comfortable: [0, 1],
    gauge: 'figure',
  },
} as const satisfies ParameterSet;

interface Brushed extends ChosenChoice {
  reach: number;
  amount: AlongValue;
  lift: number;
}

export const comb = defineUnit({
  stage: 'shape',
  id: 'comb',
  label: 'Comb',
  purpose: 'Combs strands along drawn strokes on the skin.',
  synonyms: ['brush', 'direction', 'style', 'flow'],
  ownRegions: true,
  sample: {
    path: ['grown', { prop: 'bar', count: 500, length: 0.06 }],
    make: ['strands', {}],
    bar: true,
    parameters: { strokes: ['over'], reach: 0.2 },
  },
  parameters: {
    strokes: {
      kind: 'curves',
      label: 'Strokes',
      help: 'Lines drawn over the skin in the direction of the hair.',
      default: [],
    },
    ...BRUSHED,
    ...CHOSEN,
  },
  presets: [
    {
      id: 'combed',
      label: 'Combed',
      parameters: {
        amount: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0.3 },
            { at: 0.5, value: 0.9 },
            { at: 1, value: 0.9 },
          ],
        },
      },
    },
    { id: 'brushed-up', label: 'Brushed up', parameters: { lift: 0.8 } },
  ],
  describe: ({ strokes }) => `Combed along ${strokes.length === 1 ? '1 stroke' : `${strokes.length} strokes`}`,
  build(input, p, context) {
    const lines = new Strokes(p.strokes, p.reach, context);
    if (missing(lines, 'comb', 'No strokes to comb along. Draw strokes over the skin, or choose lines.', context))
      return input;
    return brushed(input, lines, p, context, ({ direction }) => direction);
  },
});

export const part = defineUnit({
  stage: 'shape',
  id: 'part',
  label: 'Part',
  purpose: 'Parts strands along a line so that they lie away from it on both sides.',
  synonyms: ['parting', 'split', 'hairline'],
  ownRegions: true,
  sample: {
    path: ['grown', { prop: 'bar', count: 700, length: 0.06 }],
    make: ['strands', {}],
    bar: true,
    parameters: { lines: ['over'], reach: 0.15 },
  },
  parameters: {
    lines: { kind: 'curves', label: 'Part lines', help: 'Lines drawn on the skin where strands part.', default: [] },
    ...BRUSHED,
    ...CHOSEN,
  },
  presets: [
    { id: 'parted', label: 'Parted', parameters: {} },
    { id: 'parted-flat', label: 'Lying flat', parameters: { amount: 1, lift: 0.05 } },
    { id: 'parted-high', label: 'Raised', parameters: { lift: 0.7 } },
  ],
  describe: ({ lines }) => `Parted along ${lines.length === 1 ? '1 line' : `${lines.length} lines`}`,
  build(input, p, context) {
    const lines = new Strokes(p.lines, p.reach, context);
    if (missing(lines, 'part', 'No part line. Draw a line on the skin where strands part, or choose one.', context))
      return input;
    return brushed(input, lines, p, context, ({ offset }) => offset);
  },
});

function missing(lines: Strokes, what: string, say: string, context: BuildContext): boolean {
  if (!lines.isEmpty) return false;
  context.report({ code: `${what}-without-lines`, severity: 'warning', message: say });
  return true;
}

/** Turns the steps of strands towards what the line nearest to their root says, along the skin and a little off it. */
function brushed(
  input: CurveSet,
  lines: Strokes,
  p: Brushed,
  context: BuildContext,
  wanted: (lines: Strokes) => Float64Array,
): CurveSet {
  const amount = new StrandLane(p.amount, input, context);
  const chosen = chosenOf(input, p, context);
  const normals = input.curveData[STRAND.rootNormal];
  const way = new Float64Array(3);
  let current = -1;
  let weight = 0;
  return bent(input, context.step, (direction, t, c) => {
    if (c !== current) {
      current = c;
      amount.begin(c);
      const i = 3 * input.start[c];
      weight = (chosen ? chosen(c) : 1) * lines.at(input.position[i], input.position[i + 1], input.position[i + 2]);
      if (weight > 0) alongSkin(wanted(lines), normals, c, p.lift, way);
    }
    if (weight === 0) return;
    const by = weight * amount.at(t);
    for (let n = 0; n < 3; n++) direction[n] += by * (way[n] - direction[n]);
  });
}

/** A direction laid into the skin at a strand's root and lifted off it, unit; as it is where the skin is not known. */
function alongSkin(
  wanted: Float64Array,
  normals: ArrayLike<number> | undefined,
  c: number,
  lift: number,
  out: Float64Array,
): void {
  const [nx, ny, nz] = normals ? [normals[3 * c], normals[3 * c + 1], normals[3 * c + 2]] : [0, 0, 0];
  const up = wanted[0] * nx + wanted[1] * ny + wanted[2] * nz;
  let [x, y, z] = [wanted[0] - up * nx, wanted[1] - up * ny, wanted[2] - up * nz];
  const size = Math.hypot(x, y, z) || 1;
  [x, y, z] = [x / size + lift * nx, y / size + lift * ny, z / size + lift * nz];
  const whole = Math.hypot(x, y, z) || 1;
  out[0] = x / whole;
  out[1] = y / whole;
  out[2] = z / whole;
}
