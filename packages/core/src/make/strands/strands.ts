import { chordsOf } from '../../curve/arc-length.js';
import { pickCurves } from '../../curve/carry.js';
import { type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { LAYERS, STRAND } from '../../curve/strand-data.js';
import { type AlongValue, greatest, isLane, mapAlong } from '../../numeric/lane.js';
import { strandCounts } from '../../part/strand-meshes.js';
import { StrandLane } from '../../shape/strands/strand-lane.js';
import { type Measure, madeOf, type StrandsPart } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { TAPER, type TaperChoice, taperAt } from '../taper.js';
import { STRANDS_PRESETS } from './presets.js';

/** Lines that the strip and the pens ride on, of very many: the first of them. */
const MAX_GUIDES = 400;

export const strands = defineUnit({
  stage: 'make',
  id: 'strands',
  label: 'Strands',
  purpose: 'Very many thin strands: hair, fur, bristle, grass; lines in the view, tubes, strips or lines when baked.',
  synonyms: [
    'hair',
    'fur',
    'bristle',
    'grass',
    'fringe',
    'brush',
    'eyelash',
    'whisker',
    'beard',
    'tassel',
    'pelt',
    'fuzz',
  ],
  shelf: 'frames',
  outfits: [
    { id: 'pelt', label: 'Pelt', wears: { main: { unit: 'hair', preset: 'seal-grey' } } },
    { id: 'matting', label: 'Matting', wears: { main: { unit: 'hair', preset: 'coconut' } } },
    { id: 'meadow', label: 'Meadow', wears: { main: { unit: 'hair', preset: 'sea-grass' } } },
  ],
  ownRegions: true,
  parameters: {
    radius: {
      kind: 'length',
      label: 'Half width',
      help: 'Half the width of a strand at its widest; hair is 0.025–0.05 mm.',
      default: 0.0004,
      min: 1e-7,
      max: 10,
      comfortable: [0.00002, 0.005],
      along: true,
      share: 'size',
      gauge: 'diameter',
    },
    ...TAPER,
    tip: { ...TAPER.tip, default: 0.15 },
    taper: { ...TAPER.taper, default: 0.7 },
    bakedAs: {
      kind: 'choice',
      label: 'Bake as',
      help: 'Round tubes, flat strips, or lines with a width for programs that render hair.',
      default: 'round',
      options: [
        { value: 'round', label: 'Tubes' },
        { value: 'flat', label: 'Strips' },
        { value: 'lines', label: 'Lines' },
      ],
    },
    sides: {
      kind: 'count',
      label: 'Sides',
      help: 'Number of segments around a baked tube.',
      default: 3,
      min: 3,
      max: 32,
      comfortable: [3, 8],
      gauge: 'corners',
      when: { parameter: 'bakedAs', is: ['round'] },
    },
  },
  presets: STRANDS_PRESETS,
  // flat ones are none
  sheet: true,
  thickness: ({ radius }) => radius,
  describe: ({ radius }, length) => `${isLane(radius) ? 'Up to ' : ''}${length(2 * greatest(radius))} wide`,
  cost(input, p, { density }) {
    const { vertices, bytes } = strandCounts({
      curves: input,
      shape: p.bakedAs as StrandsPart['shape'],
      sides: sidesAt(p.sides, density),
    });
    // meshed a part at a time: the strands themselves are what is held
    return { vertices, bytes: Math.max(bytes, 32 * vertices), held: pointCount(input), strands: curveCount(input) };
  },
  build(input, p, context) {
    const part: StrandsPart = {
      kind: 'strands',
      id: 'strands',
      name: 'Strands',
      slot: 'main',
      curves: input,
      width: widthsOf(input, p, context),
      sides: sidesAt(p.sides, context.density),
      shape: p.bakedAs as StrandsPart['shape'],
      marked: true,
    };
    const count = curveCount(input);
    const guide = count > MAX_GUIDES ? pickCurves(input, [...Array(MAX_GUIDES).keys()]) : input;
    return madeOf(guide, { parts: [part], measures: measuresOf(input) });
  },
});

const sidesAt = (sides: number, density: number): number => Math.max(3, Math.round(sides * density));

/** Width of each point: what is set, by the share of its strand's length, times what the point carries. */
function widthsOf(
  curves: CurveSet,
  p: TaperChoice & { radius: AlongValue },
  context: Pick<BuildContext, 'region'>,
): Float32Array {
  const { start, closed, pointData } = curves;
  const along = pointData[POINT.along];
  const share = pointData[POINT.radius];
  const wide = new StrandLane(
    mapAlong(p.radius, (value) => 2 * value),
    curves,
    context,
  );
  const out = new Float32Array(along.length);
  for (let c = 0; c + 1 < start.length; c++) {
    wide.begin(c);
    const length = along[start[c + 1] - 1] || 1;
    for (let q = start[c]; q < start[c + 1]; q++) {
      const t = along[q] / length;
      out[q] = wide.at(t) * (closed[c] ? 1 : taperAt(p, t)) * (share ? share[q] : 1);
    }
  }
  return out;
}

/** How many there are, in all and of each layer, and how long they are together. */
function measuresOf(curves: CurveSet): Measure[] {
  const count = curveCount(curves);
  const layer = curves.curveData[STRAND.layer];
  const each = new Uint32Array(LAYERS.length);
  if (layer) for (const one of layer) each[one]++;
  return [
    { id: 'all-lines', label: 'Strands', quantity: 'count', value: count },
    { id: 'all-length', label: 'Strand length', quantity: 'length', value: chordsOf(curves).sum },
    ...LAYERS.flatMap((name, k): Measure[] =>
      layer && each[k] > 0 ? [{ id: `layer-${name}`, label: `Layer, ${name}`, quantity: 'count', value: each[k] }] : [],
    ),
  ];
}
