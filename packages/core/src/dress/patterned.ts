import type { ParameterSet } from '../unit/parameters.js';
import { defineUnit } from '../unit/unit.js';
import { PATTERNS, type PatternKind } from './patterns/heights.js';
import { inSkin, SKIN } from './skin.js';

const PATTERN = 'Pattern';
const SEEN = 'Seen in light and shade.';
/** There is a pattern that these say more about. */
const DRAWN = { parameter: 'pattern', is: PATTERNS };

const PATTERNED = {
  pattern: {
    kind: 'choice',
    label: 'Pattern',
    help: 'Relief pattern on the surface, seen in light and shade.',
    default: 'braid',
    options: [
      { value: 'ribs', label: 'Ribs' },
      { value: 'braid', label: 'Braid' },
      { value: 'weave', label: 'Weave' },
      { value: 'knurl', label: 'Knurl' },
      { value: 'brushed', label: 'Brushed' },
      { value: 'rubber', label: 'Grain' },
      { value: 'none', label: 'None' },
    ],
  },
  ...SKIN,
  repeat: {
    ...SKIN.repeat,
    label: 'Tile length',
    help: 'Length that one tile of the pattern or image covers.',
    default: 0.02,
  },
  around: {
    kind: 'count',
    label: 'Tiles around',
    help: 'Number of tiles once around the section, or across a flat one.',
    unmeasured: 'Counted on the surface.',
    default: 4,
    min: 1,
    max: 1000,
    comfortable: [1, 16],
    group: PATTERN,
  },
  relief: {
    kind: 'ratio',
    of: 'tile length',
    label: 'Relief height',
    help: 'Height of the pattern; 0 is flat.',
    unmeasured: SEEN,
    default: 0.12,
    min: 0,
    max: 2,
    comfortable: [0, 0.4],
    when: DRAWN,
    group: PATTERN,
  },
  tone: {
    kind: 'ratio',
    of: 'full darkness',
    label: 'Dark grooves',
    help: 'Darkness of the grooves; 0 keeps the colour, 1 is black.',
    unmeasured: SEEN,
    default: 0.5,
    min: 0,
    max: 1,
    comfortable: [0, 1],
    when: DRAWN,
    group: PATTERN,
  },
  picture: {
    kind: 'picture',
    label: 'Image',
    help: 'Project image laid over the colour, one per tile.',
    default: '',
    group: PATTERN,
  },
} as const satisfies ParameterSet;

export const patterned = defineUnit({
  stage: 'dress',
  id: 'patterned',
  label: 'Patterned',
  purpose: 'A material with a raised pattern or an image: braided, woven, ribbed, knurled.',
  synonyms: ['texture', 'material', 'fabric', 'leather', 'carbon'],
  parameters: PATTERNED,
  presets: [
    { id: 'braided-sleeve', label: 'Braided sleeve', parameters: { colour: '#2f3936', roughness: 0.7 } },
    {
      id: 'steel-braid',
      label: 'Steel braid',
      parameters: { colour: '#b4b9bb', roughness: 0.35, metalness: 1, repeat: 0.012, around: 8, tone: 0.6 },
    },
    {
      id: 'ribbed-hose',
      label: 'Ribbed hose',
      parameters: { pattern: 'ribs', colour: '#23292b', roughness: 0.6, repeat: 0.008, around: 1, relief: 0.35 },
    },
    {
      id: 'webbing',
      label: 'Webbing',
      parameters: { pattern: 'weave', colour: '#c9702a', roughness: 0.85, repeat: 0.006, around: 6 },
    },
    {
      id: 'knurled-steel',
      label: 'Knurled steel',
      parameters: {
        pattern: 'knurl',
        colour: '#a9b0b2',
        roughness: 0.35,
        metalness: 1,
        repeat: 0.006,
        around: 12,
        relief: 0.3,
      },
    },
    {
      id: 'brushed-steel',
      label: 'Brushed steel',
      parameters: {
        pattern: 'brushed',
        colour: '#b6bcbe',
        roughness: 0.4,
        metalness: 1,
        repeat: 0.15,
        around: 2,
        relief: 0.01,
        tone: 0.15,
      },
    },
    {
      id: 'grained-rubber',
      label: 'Grained rubber',
      parameters: {
        pattern: 'rubber',
        colour: '#2b302e',
        roughness: 0.75,
        repeat: 0.03,
        around: 3,
        relief: 0.05,
        tone: 0.35,
      },
    },
  ],
  describe: ({ pattern, colour }) =>
    `${PATTERNED.pattern.options.find(({ value }) => value === pattern)?.label ?? pattern}, ${colour}`,
  build(parts, p, context) {
    const { parts: worn, material } = inSkin(parts, p, p.around);
    const pattern =
      p.pattern === 'none' || (p.relief === 0 && p.tone === 0)
        ? undefined
        : { kind: p.pattern as PatternKind, relief: p.relief, tone: p.tone };
    const picture = p.picture ? context.picture(p.picture)?.picture.image : undefined;
    if (p.picture && !picture)
      context.report({
        code: 'picture-missing',
        severity: 'warning',
        message: 'The image of this material is missing from the project. Choose another one, or none.',
      });
    return { parts: worn, material: { ...material, ...(pattern ? { pattern } : {}), ...(picture ? { picture } : {}) } };
  },
});
