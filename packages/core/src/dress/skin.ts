import type { Material, Part } from '../unit/carriers.js';
import type { ParameterSet, ValuesOf } from '../unit/parameters.js';
import { colouredBy } from './colour-by.js';
import { type Fit, fitted } from './texture-fit.js';

const SHINE = 'A share of the material: watch the highlights.';
const COLOURS = 'Colours';
const TEXTURE = 'Texture';

/** What every material of skins has. */
export const SKIN = {
  colour: { kind: 'colour', label: 'Colour', help: 'Base colour of the surface.', default: '#3d4a46' },
  roughness: {
    unmeasured: SHINE,
    kind: 'ratio',
    of: 'maximum',
    label: 'Roughness',
    help: '0 is a mirror, 1 is chalk.',
    default: 0.55,
    min: 0,
    max: 1,
    comfortable: [0, 1],
  },
  metalness: {
    unmeasured: SHINE,
    kind: 'ratio',
    of: 'maximum',
    label: 'Metalness',
    help: '0 for rubber, cloth or paint, 1 for bare metal.',
    default: 0,
    min: 0,
    max: 1,
    comfortable: [0, 1],
  },
  glow: {
    unmeasured: 'A share of the material: watch the light.',
    kind: 'ratio',
    of: 'colour',
    label: 'Glow',
    help: 'Light emitted in its own colour; 0 is none.',
    default: 0,
    min: 0,
    max: 1,
    comfortable: [0, 1],
  },
  repeat: {
    kind: 'length',
    label: 'Texture length',
    help: 'Length that one repeat of the texture covers, independent of divisions.',
    default: 1,
    min: 1e-4,
    max: 10_000,
    comfortable: [0.01, 2],
    gauge: 'spacing',
  },
  fit: {
    kind: 'choice',
    label: 'Texture fit',
    help: 'True length keeps repeats at their length; Whole repeats adjusts them to fit without a break; Once stretches one repeat over all.',
    default: 'true',
    options: [
      { value: 'true', label: 'True length' },
      { value: 'whole', label: 'Whole repeats' },
      { value: 'once', label: 'Once' },
    ],
    group: TEXTURE,
  },
  colourBy: {
    kind: 'choice',
    label: 'Colour by',
    help: 'Use one colour, a random one per element, or a gradient along the length.',
    default: 'one',
    options: [
      { value: 'one', label: 'One colour' },
      { value: 'each', label: 'Per element' },
      { value: 'length', label: 'Along the length' },
    ],
    group: COLOURS,
  },
  second: {
    kind: 'colour',
    label: 'Second colour',
    help: 'Colour at the far end, or the other end of the random range.',
    default: '#d9a441',
    when: { parameter: 'colourBy', is: ['each', 'length'] },
    group: COLOURS,
  },
  shades: {
    unmeasured: 'Shown by the colours.',
    kind: 'count',
    label: 'Colour steps',
    help: 'Number of colours between the first and the second.',
    default: 2,
    min: 2,
    max: 64,
    comfortable: [2, 8],
    when: { parameter: 'colourBy', is: ['each'] },
    group: COLOURS,
  },
  colourSeed: {
    kind: 'seed',
    label: 'Colour seed',
    help: 'Change for a different distribution of colours.',
    unmeasured: 'Shown by the colours.',
    default: 1,
    min: 0,
    max: 1_000_000,
    comfortable: [0, 99],
    when: { parameter: 'colourBy', is: ['each'] },
    group: COLOURS,
  },
} as const satisfies ParameterSet;

export type SkinChoice = ValuesOf<typeof SKIN>;

/** Parts in a skin: their texture by true length, with this many repeats around, and their colours. */
export function inSkin(parts: readonly Part[], p: SkinChoice, around = 1): { parts: Part[]; material: Material } {
  const { roughness, metalness, glow, repeat } = p;
  const { parts: coloured, base } = colouredBy(parts, p);
  const stretched = coloured.map((part) => fitted(part, p.fit as Fit, around, repeat));
  return {
    parts: stretched,
    material: {
      name: 'Main',
      colour: base,
      roughness,
      metalness,
      ...(glow > 0 ? { glow } : {}),
      ...(repeat === 1 ? {} : { repeat }),
    },
  };
}
