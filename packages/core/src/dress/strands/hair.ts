import { LAYERS, STRAND } from '../../curve/strand-data.js';
import { colourAt, shadeAt } from '../../document/picture-shade.js';
import { linearColour } from '../../numeric/colour.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import { StrandLane } from '../../shape/strands/strand-lane.js';
import type { Part, StrandsPart } from '../../unit/carriers.js';
import type { ValuesOf } from '../../unit/parameters.js';
import { isRead } from '../../unit/read-picture.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { HAIR } from './parameters.js';

/** From the root's colour to the tip's. */
const TO_TIP = {
  ease: 'smooth' as const,
  knots: [
    { at: 0, value: 0 },
    { at: 1, value: 1 },
  ],
};
const WHITE = LAYERS.indexOf('white');
const STRAY = LAYERS.indexOf('stray');
/** Beside the picture. */
const NOT_THERE = [0, 0, 0, 0];

export const hair = defineUnit({
  stage: 'dress',
  id: 'hair',
  label: 'Hair',
  purpose: 'Strand colours from root to tip with random variation, and highlights that run along the strands.',
  synonyms: ['material', 'hair colour', 'melanin', 'highlights'],
  sample: { path: ['grown', { prop: 'bar', count: 2500, length: 0.06 }], make: ['strands', {}], bar: true },
  forStrands: true,
  parameters: HAIR,
  presets: [
    {
      id: 'pup-white',
      label: 'Pup white',
      parameters: { towardsTip: TO_TIP, root: '#b9a98c', tip: '#f6f1e4', second: '#d8cbb0', secondShare: 0.2 },
    },
    {
      id: 'seal-grey',
      label: 'Seal grey',
      parameters: { towardsTip: TO_TIP, root: '#3d3f3f', tip: '#9aa09f', second: '#6d6a62', secondShare: 0.3 },
    },
    {
      id: 'chestnut',
      label: 'Chestnut',
      parameters: {
        towardsTip: TO_TIP,
        root: '#2a160c',
        tip: '#7d4a28',
        second: '#8f5a31',
        secondShare: 0.15,
        shine: 0.8,
      },
    },
    {
      id: 'straw-blond',
      label: 'Straw',
      parameters: { towardsTip: TO_TIP, root: '#a07d45', tip: '#dcc38a', second: '#c9a763', secondShare: 0.25 },
    },
    {
      id: 'coconut',
      label: 'Coconut',
      parameters: { towardsTip: TO_TIP, root: '#5b3a20', tip: '#8a5c33', shine: 0.15, through: 0.1, variation: 0.35 },
    },
    {
      id: 'sea-grass',
      label: 'Sea grass',
      parameters: {
        towardsTip: TO_TIP,
        root: '#24401f',
        tip: '#86a24a',
        second: '#a8a24e',
        secondShare: 0.18,
        shine: 0.35,
        through: 0.8,
      },
    },
  ],
  describe: ({ root, tip }) => `${root} to ${tip}`,
  build(parts, p, context) {
    return {
      parts: parts.map((part) => (part.kind === 'strands' ? coloured(part, p, context) : part)),
      material: {
        name: 'Hair',
        // the strands bring their own colours; where one colour has to do, it is the one halfway
        colour: parts.some(({ kind }) => kind === 'strands') ? '#ffffff' : p.tip,
        roughness: 0.6,
        metalness: 0,
        strand: { shine: p.shine, spread: p.spread, shift: p.shift, through: p.through },
      },
    };
  },
});

type HairChoice = ValuesOf<typeof HAIR>;

/** The strands with a colour at each point, linear rgb. */
function coloured(part: StrandsPart, p: HairChoice, context: BuildContext): Part {
  const { start, position, id, curveData, pointData } = part.curves;
  const colour = new Float32Array(position.length);
  const [root, tip, second, third, white, stray, marked] = [
    p.root,
    p.tip,
    p.second,
    p.third,
    p.white,
    p.stray,
    p.pictureColour,
  ].map(linearColour);
  const mix = new StrandLane(p.towardsTip, part.curves, context);
  const lot = randomsOf(p.seed, hashText('colour'));
  const light = randomsOf(p.seed, hashText('lightness'));
  const sheet = p.picture && isRead(p.picture, context) ? context.picture(p.picture) : undefined;
  const layer = curveData[STRAND.layer];
  const tint = curveData[STRAND.tint];
  const along = pointData['along'];
  const [a, b] = [new Float64Array(3), new Float64Array(3)];
  for (let c = 0; c + 1 < start.length; c++) {
    const [first, end] = [start[c], start[c + 1]];
    const drawn = lot(id[c]);
    const own = drawn < p.secondShare ? second : drawn < p.secondShare + p.thirdShare ? third : undefined;
    const by = 1 - p.variation * light(id[c]);
    const i = 3 * first;
    let shade = 0;
    let mark: ArrayLike<number> = marked;
    if (sheet?.shades) {
      const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
      if (p.pictureUse === 'colours') {
        mark = colourAt(sheet.picture, sheet.shades, x, y, z) ?? NOT_THERE;
        shade = mark[3];
      } else shade = shadeAt(sheet.picture, sheet.shades, x, y, z) ?? 0;
    }
    for (let n = 0; n < 3; n++) {
      const times = by * (tint ? tint[3 * c + n] : 1) * (layer?.[c] === STRAY ? stray[n] : 1);
      const from = layer?.[c] === WHITE ? white[n] : own ? own[n] * 0.6 : root[n];
      const to = layer?.[c] === WHITE ? white[n] : own ? own[n] : tip[n];
      a[n] = times * (from + shade * (mark[n] - from));
      b[n] = times * (to + shade * (mark[n] - to));
    }
    mix.begin(c);
    const length = along[end - 1] || 1;
    for (let q = first; q < end; q++) {
      const t = mix.at(along[q] / length);
      for (let n = 0; n < 3; n++) colour[3 * q + n] = a[n] + t * (b[n] - a[n]);
    }
  }
  return { ...part, curves: { ...part.curves, pointData: { ...pointData, colour } } };
}
