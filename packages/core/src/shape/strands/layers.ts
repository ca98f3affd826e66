import { withChordLengths } from '../../curve/chord-lengths.js';
import { CURVE, type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { LAYER_OPTIONS, LAYERS, type LayerKind, STRAND } from '../../curve/strand-data.js';
import { linearColour } from '../../numeric/colour.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import { defineUnit } from '../../unit/unit.js';

interface Layer {
  layer: LayerKind;
  share: number;
  width: number;
  length: number;
  frizz: number;
  colour: string;
}

const MAIN = { width: 1, length: 1, frizz: 0 };

export const layers = defineUnit({
  stage: 'shape',
  id: 'layers',
  label: 'Layers',
  purpose: 'Sorts strands into layers, each with its share, width, length and frizz.',
  synonyms: ['undercoat', 'outer coat', 'guard hair', 'stray', 'groups', 'mix'],
  sample: { path: ['grown', { prop: 'bar', count: 700, length: 0.05 }], make: ['strands', {}], bar: true },
  parameters: {
    others: {
      kind: 'levels',
      label: 'Layers',
      help: 'Layers besides the main one; membership stays when the number of strands changes.',
      least: 1,
      most: 8,
      fields: {
        layer: {
          kind: 'choice',
          label: 'Layer',
          help: 'Name that other operations use for it.',
          default: 'guard',
          options: LAYER_OPTIONS.slice(1),
        },
        share: {
          kind: 'ratio',
          of: 'all strands',
          label: 'Share',
          help: 'Share of all strands in this layer.',
          default: 0.1,
          min: 0,
          max: 1,
          comfortable: [0, 0.5],
          unmeasured: 'Counted, not measured.',
        },
        width: {
          kind: 'ratio',
          of: 'width',
          label: 'Width factor',
          help: 'Width relative to the main layer.',
          default: 2,
          min: 0.01,
          max: 100,
          comfortable: [0.5, 3],
          unmeasured: 'Shown by the strands.',
        },
        length: {
          kind: 'ratio',
          of: 'length',
          label: 'Length factor',
          help: 'Length relative to the main layer.',
          default: 1.4,
          min: 0.01,
          max: 100,
          comfortable: [0.5, 2],
          unmeasured: 'Shown by the strands.',
        },
        frizz: {
          kind: 'ratio',
          of: 'frizz',
          label: 'Frizz factor',
          help: 'Frizz relative to the main layer.',
          default: 0,
          min: 0,
          max: 100,
          comfortable: [0, 4],
          unmeasured: 'Shown by the strands.',
        },
        colour: {
          kind: 'colour',
          label: 'Tint',
          help: 'Tints the colour of the dress; white changes nothing.',
          default: '#ffffff',
        },
      },
      default: [
        { layer: 'guard', share: 0.12, width: 2, length: 1.45, frizz: 0, colour: '#ffffff' },
        { layer: 'stray', share: 0.04, width: 0.8, length: 1.2, frizz: 2, colour: '#ffffff' },
      ],
    },
    seed: {
      kind: 'seed',
      label: 'Random seed',
      help: 'Change for a different choice of strands.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
      unmeasured: 'A seed has no size.',
    },
  },
  presets: [
    { id: 'guard-and-stray', label: 'Guard and stray', parameters: {} },
    {
      id: 'greying',
      label: 'Greying',
      parameters: { others: [{ layer: 'white', share: 0.15, width: 1.1, length: 1, frizz: 0.5, colour: '#ffffff' }] },
    },
  ],
  describe: ({ others }) =>
    others.map(({ layer, share }) => `${Math.round(100 * Number(share))} % ${layer}`).join(', '),
  build(input, { others, seed }, context): CurveSet {
    const count = curveCount(input);
    const draw = randomsOf(seed, hashText('layer'));
    const layer = new Uint32Array(count);
    const frizz = new Float32Array(count);
    const tint = new Float32Array(3 * count).fill(1);
    const radius = input.pointData[POINT.radius]?.slice() ?? new Float32Array(pointCount(input)).fill(1);
    const position = input.position.slice();
    const all = others as unknown as readonly Layer[];
    const colours = all.map(({ colour }) => linearColour(colour));
    const sum = all.reduce((total, { share }) => total + share, 0);
    if (sum > 1)
      context.report({
        code: 'shares-over-one',
        severity: 'warning',
        message: `The layers add up to ${Math.round(100 * sum)} %: the last ones get less, and the main layer gets none. Lower their shares.`,
      });
    for (let c = 0; c < count; c++) {
      if (c % 8192 === 0) context.step(c / count);
      let left = draw(input.id[c]);
      const which = all.findIndex(({ share }) => {
        left -= share;
        return left < 0;
      });
      const one = which < 0 ? MAIN : all[which];
      if (which >= 0) {
        layer[c] = LAYERS.indexOf(all[which].layer);
        tint.set(colours[which], 3 * c);
      }
      frizz[c] = one.frizz;
      const [first, end] = [input.start[c], input.start[c + 1]];
      if (one.width !== 1) for (let p = first; p < end; p++) radius[p] *= one.width;
      if (one.length !== 1)
        for (let i = 3 * end - 1; i >= 3 * first; i--)
          position[i] = position[3 * first + (i % 3)] + one.length * (position[i] - position[3 * first + (i % 3)]);
    }
    const { [POINT.along]: _along, ...pointData } = input.pointData;
    const { [CURVE.length]: _length, ...curveData } = input.curveData;
    return withChordLengths({
      ...input,
      position,
      pointData: { ...pointData, [POINT.radius]: radius },
      curveData: { ...curveData, [STRAND.layer]: layer, [STRAND.frizz]: frizz, [STRAND.tint]: tint },
    });
  },
});
