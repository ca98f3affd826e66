import { curveLengths } from '../../curve/arc-length.js';
import { joinCurves } from '../../curve/carry.js';
import { type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { framesWhenAsked } from '../../curve/frames.js';
import { resample, samplesOf } from '../../curve/resample.js';
import { type AlongValue, greatest, isLane, mapAlong } from '../../numeric/lane.js';
import { childId, hashText, randomsOf } from '../../numeric/random.js';
import { defineUnit } from '../../unit/unit.js';
import { FACING, facingOf, reportFacing } from '../facing.js';
import { STEERING, type SweepSpec, sweptOn } from '../steering.js';
import { TAPER, type TaperChoice, taperAt } from '../taper.js';
import { RIBBON_PRESETS } from './presets.js';
import { stripSection } from './strip-section.js';
import { layTexture } from './texture.js';

/** What a ribbon without thickness counts as where it is held against other things, in half widths. */
const THIN = 0.02;
/** A vertex with its share of the faces. */
const VERTEX_BYTES = 44;
const LEAN = hashText('lean');

export const ribbon = defineUnit({
  stage: 'make',
  id: 'ribbon',
  label: 'Ribbon',
  purpose: 'Flat strips along many lines at once: grass, paper, tape, feathers, hair cards.',
  synonyms: ['strip', 'tape', 'lace', 'grass', 'leaf', 'feather', 'hair card', 'webbing', 'paper', 'fringe'],
  parameters: {
    radius: {
      kind: 'length',
      label: 'Half width',
      help: 'Distance from the line to the edge.',
      default: 0.012,
      min: 1e-5,
      max: 100,
      comfortable: [0.001, 0.1],
      along: true,
      share: 'size',
      gauge: 'diameter',
    },
    ...TAPER,
    crown: {
      kind: 'ratio',
      of: 'half width',
      label: 'Crown height',
      help: 'Bulge across the width; below 0 bends down.',
      default: 0,
      min: -4,
      max: 4,
      comfortable: [-0.6, 0.6],
      gauge: 'figure',
    },
    roll: STEERING.roll,
    twist: STEERING.twist,
    lean: {
      kind: 'angle',
      label: 'Roll variation',
      help: 'Largest random roll of a ribbon, to either side.',
      default: 0,
      min: 0,
      max: Math.PI,
      comfortable: [0, Math.PI],
      gauge: 'turn',
    },
    blades: {
      kind: 'count',
      label: 'Blades per line',
      help: 'Number of ribbons on each line, evenly turned around it; two make a cross.',
      default: 1,
      min: 1,
      max: 8,
      comfortable: [1, 3],
      gauge: 'figure',
    },
    sides: {
      kind: 'choice',
      label: 'Sidedness',
      help: 'Make faces on both sides, back to back, or on the top only.',
      default: 'both',
      options: [
        { value: 'both', label: 'Both sides' },
        { value: 'top', label: 'Top only' },
      ],
    },
    ...FACING,
    textureAlong: {
      kind: 'choice',
      label: 'Texture length',
      help: 'Length along the line that the texture covers.',
      default: 'metre',
      options: [
        { value: 'metre', label: 'One metre' },
        { value: 'own', label: 'Per ribbon' },
        { value: 'longest', label: 'Longest' },
        { value: 'shortest', label: 'Shortest' },
      ],
      group: 'Texture',
    },
    pinned: {
      kind: 'choice',
      label: 'Pin texture at',
      help: 'End at which the texture stays fixed.',
      default: 'root',
      options: [
        { value: 'root', label: 'Root' },
        { value: 'tip', label: 'Tip' },
      ],
      group: 'Texture',
    },
    strips: {
      kind: 'count',
      label: 'Atlas columns',
      help: 'Number of columns side by side in the texture.',
      default: 1,
      min: 1,
      max: 256,
      comfortable: [1, 16],
      unmeasured: 'A texture setting has no size.',
      group: 'Texture',
    },
    strip: {
      kind: 'count',
      label: 'Column',
      help: 'Column to use, from 1; 0 picks one at random per ribbon.',
      default: 0,
      min: 0,
      max: 256,
      comfortable: [0, 16],
      unmeasured: 'A texture setting has no size.',
      group: 'Texture',
    },
    slide: {
      kind: 'ratio',
      of: 'texture length',
      label: 'Texture offset',
      help: 'Largest random offset along the texture; 0 is none.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      unmeasured: 'A texture setting has no size.',
      group: 'Texture',
    },
    seed: {
      kind: 'seed',
      label: 'Random seed',
      help: 'Change for different rolls, columns and offsets.',
      default: 1,
      min: 0,
      max: 1e9,
      comfortable: [0, 100],
      unmeasured: 'A seed has no size.',
      group: 'Texture',
    },
    cuts: {
      ...STEERING.cuts,
      help: 'Number of faces per metre of length.',
      default: 60,
      min: 0.01,
      comfortable: [4, 200],
      group: 'Resolution',
    },
    across: {
      kind: 'count',
      label: 'Segments across',
      help: 'Number of faces across the width; crowned ribbons need more.',
      default: 2,
      min: 1,
      max: 64,
      comfortable: [1, 8],
      gauge: 'figure',
      group: 'Resolution',
    },
    leastBend: STEERING.leastBend,
  },
  presets: RIBBON_PRESETS,
  shelf: 'swept',
  outfits: [
    { id: 'strap', label: 'Strap', wears: { main: { unit: 'patterned', preset: 'webbing' } } },
    { id: 'tape', label: 'Tape', wears: { main: { unit: 'plain', preset: 'linen' } } },
    { id: 'rubber', label: 'Rubber', wears: { main: { unit: 'patterned', preset: 'grained-rubber' } } },
  ],
  sheet: true,
  thickness: ({ radius, crown }) => mapAlong(radius, (r) => r * Math.max(THIN, Math.abs(crown))),
  breadth: ({ radius }) => radius,
  describe: ({ radius }, length) => `${isLane(radius) ? 'Up to ' : ''}${length(2 * greatest(radius))} wide`,
  cost(input, p, { density }) {
    const section = sectionOf(p, density);
    const vertices = p.blades * samplesOf(input, { spacing: spacingOf(p, density) }) * section.x.length;
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  build(input, p, context) {
    reportFacing(p, context);
    const section = sectionOf(p, context.density);
    const rails = tapered(resample(bladesOf(input, p.blades), { spacing: spacingOf(p, context.density) }), p);
    const frames = framesWhenAsked(rails);
    const turns = turned(rails, facingOf(p, context)?.(rails, frames), p);
    const high = Math.max(THIN, Math.abs(p.crown));
    const steered: SweepSpec = {
      section,
      size: p.radius,
      flatness: 1 / high,
      isRound: false,
      soft: true,
      least: THIN,
      outline: { x: [high, high, -high, -high], y: [-1, 1, 1, -1] },
    };
    const made = sweptOn({ rails, frames, turns }, steered, { ...OPEN, ...p }, context, {
      id: 'ribbon',
      name: 'Ribbon',
    });
    for (const part of made.parts)
      if (part.kind === 'mesh') layTexture(part.mesh, rails, section.x.length, { ...p, along: p.textureAlong });
    return made;
  },
});

/** A ribbon has no ends, and rings where its length asks for them. */
const OPEN = { bendStep: Math.PI, start: 'open', end: 'open' };

interface RibbonChoice extends TaperChoice {
  radius: AlongValue;
  crown: number;
  lean: number;
  blades: number;
  sides: string;
  seed: number;
  cuts: number;
  across: number;
}

const sectionOf = ({ across, crown, sides }: RibbonChoice, density: number) =>
  stripSection(Math.max(crown === 0 ? 1 : 2, Math.round(across * density)), crown, sides === 'both');

const spacingOf = ({ cuts }: RibbonChoice, density: number): number => 1 / (cuts * density);

/** The rails with their width towards both ends. */
function tapered(rails: CurveSet, p: RibbonChoice): CurveSet {
  if (p.root === 1 && p.tip === 1) return rails;
  const along = rails.pointData[POINT.along];
  const share = rails.pointData[POINT.radius];
  const radius = new Float32Array(along.length);
  const lengths = curveLengths(rails);
  for (let c = 0; c < curveCount(rails); c++) {
    const length = lengths[c] || 1;
    for (let q = rails.start[c]; q < rails.start[c + 1]; q++) {
      const t = along[q] / length;
      radius[q] = (share?.[q] ?? 1) * (rails.closed[c] ? 1 : taperAt(p, t));
    }
  }
  return { ...rails, pointData: { ...rails.pointData, [POINT.radius]: radius } };
}

/** Which blade on its line each one is, from 0. */
const BLADE = 'blade';

/** Every line as many times as it has blades; the first keeps its id. */
function bladesOf(input: CurveSet, blades: number): CurveSet {
  if (blades <= 1) return input;
  return joinCurves(
    Array.from({ length: blades }, (_, k) => ({
      ...input,
      id: k === 0 ? input.id : input.id.map((id) => childId(id, k)),
      curveData: { ...input.curveData, [BLADE]: new Uint32Array(curveCount(input)).fill(k) },
    })),
  );
}

/** Turns of the points: what they look at, or what they were rolled, and each line's own draw on top. */
function turned(
  rails: CurveSet,
  facing: Float64Array | undefined,
  { lean, seed, blades }: RibbonChoice,
): Float64Array | undefined {
  if (lean === 0 && blades <= 1) return facing;
  const rolled = rails.pointData[POINT.roll];
  const drawn = randomsOf(seed, LEAN);
  const turns = facing ?? Float64Array.from({ length: rails.position.length / 3 }, (_, q) => rolled?.[q] ?? 0);
  for (let c = 0; c < curveCount(rails); c++) {
    const by = lean * (2 * drawn(rails.id[c]) - 1) + (Math.PI * (rails.curveData[BLADE]?.[c] ?? 0)) / blades;
    for (let q = rails.start[c]; q < rails.start[c + 1]; q++) turns[q] += by;
  }
  return turns;
}
