import type { Material, Part } from '../unit/carriers.js';
import type { ParameterSet, ValuesOf } from '../unit/parameters.js';
import { colouredBy } from './colour-by.js';
import { type Fit, fitted } from './texture-fit.js';

const SHINE = 'A share of the material: watch the shine.';
const COLOURS = 'Colours';
const TEXTURE = 'Texture';

/** What every material of skins has. */
export const SKIN = {
  colour: { kind: 'colour', label: 'Colour', help: 'Colour of the skin.', default: '#3d4a46' },
  roughness: {
    unmeasured: SHINE,
    kind: 'ratio',
    of: 'fully rough',
    label: 'Roughness',
    help: '0 a mirror, 1 chalk.',
    default: 0.55,
    min: 0,
    max: 1,
    comfortable: [0, 1],
  },
  metalness: {
    unmeasured: SHINE,
    kind: 'ratio',
    of: 'bare metal',
    label: 'Metalness',
    help: '0 rubber, cloth or paint, 1 bare metal.',
    default: 0,
    min: 0,
    max: 1,
    comfortable: [0, 1],
  },
  glow: {
    unmeasured: 'A share of the material: watch the light.',
    kind: 'ratio',
    of: 'its colour',
    label: 'Glow',
    help: 'How much light of its own colour it gives off.',
    default: 0,
    min: 0,
    max: 1,
    comfortable: [0, 1],
  },
  repeat: {
    kind: 'length',
    label: 'Texture length',
    help: 'Length that one repeat of a texture covers; stays put when divisions change.',
    default: 1,
    min: 1e-4,
    max: 10_000,
    comfortable: [0.01, 2],
    gauge: 'spacing',
  },
  fit: {
    kind: 'choice',
    label: 'Along the length',
    help: 'Repeats keep their length; are evened so that whole ones fill it, and a ring has no break; or one covers all.',
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
    help: 'Whether all of it has the colour, or some of it the second one.',
    default: 'one',
    options: [
      { value: 'one', label: 'One colour' },
      { value: 'each', label: 'Each its own' },
      { value: 'length', label: 'Along the length' },
    ],
    group: COLOURS,
  },
  second: {
    kind: 'colour',
    label: 'Second colour',
    help: 'What the colour changes to: at the far end, or from one strand or element to the next.',
    default: '#d9a441',
    when: { parameter: 'colourBy', is: ['each', 'length'] },
    group: COLOURS,
  },
  shades: {
    unmeasured: 'It is seen by the colours.',
    kind: 'count',
    label: 'Shades',
    help: 'So many colours from the one to the other, of which each strand or element has one.',
    default: 2,
    min: 2,
    max: 64,
    comfortable: [2, 8],
    when: { parameter: 'colourBy', is: ['each'] },
    group: COLOURS,
  },
  colourSeed: {
    kind: 'seed',
    label: 'Colours drawn',
    help: 'Another number deals the colours out another way.',
    unmeasured: 'It is seen by the colours.',
    default: 1,
    min: 0,
    max: 1_000_000,
    comfortable: [0, 99],
    when: { parameter: 'colourBy', is: ['each'] },
    group: COLOURS,
  },
} as const satisfies ParameterSet;

export type SkinChoice = ValuesOf<typeof SKIN>;

/** Parts in a skin: their texture by true length, with so many repeats around, and their colours. */
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
