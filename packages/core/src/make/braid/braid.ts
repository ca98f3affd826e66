import { curveLengths } from '../../curve/arc-length.js';
import type { CurveSet } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { type AlongValue, greatest, isLane, leastOf, mapAlong, valueAt } from '../../numeric/lane.js';
import { madeOf } from '../../unit/carriers.js';
import { defineUnit } from '../../unit/unit.js';
import { BUNDLE_SLOTS, finishedBundle, measuresOf, sidesOf } from '../bundle/bundle.js';
import { BUNDLE_RADIUS, courseOf, GUIDE_TURN, sharesAlong } from '../bundle/course.js';
import { bundleFixes } from '../bundle/fixes.js';
import { COLUMNS } from '../bundle/hull.js';
import { lineOnly } from '../bundle/line-only.js';
import { BUNDLE } from '../bundle/parameters.js';
import { bundleCost, reportPlaces } from '../bundle/places.js';
import { anglesAlong } from '../laid/lay.js';
import { tightestPitch } from '../laid/levels.js';
import { STEERING } from '../steering.js';
import { braidHull } from './hull.js';
import { braidedAbout } from './lay.js';
import { type BraidSize, solveBraid } from './solve.js';
import { flatWeave, tubeWeave, type Weave } from './weave.js';

/** Places of a strand from one crossing to the next, in a draft at least; and at most on all strands. */
const MIN_PLACES = 3;
const MAX_PLACES = 1_000_000;
const AT_EDGES = 1.8;
/** A braid that tapers to nothing is woven as if it had this part of its size. */
const MIN_SIZE = 0.1;
/** Columns of the hull of a band. */
const BAND_COLUMNS = 20;
/** Strands that lean reach a little farther out than what is measured square to the line. */
const LEANING = 1.006;

export const braid = defineUnit({
  stage: 'make',
  id: 'braid',
  label: 'Braid',
  purpose: 'Strands woven over and under each other: braided line, cord, sleeves, flat braids.',
  synonyms: ['rope', 'plait', 'plaited', 'cord', 'paracord', 'sleeve', 'sleeving', 'shoelace', 'lace', 'whip', 'tress'],
  parameters: {
    radius: {
      ...BUNDLE_RADIUS,
      default: 0.012,
      help: 'Distance from the line to the outside; half the width of a flat braid.',
    },
    form: {
      kind: 'choice',
      label: 'Braid type',
      help: 'Tube runs strands around in both directions; Flat runs them back and forth in a band.',
      default: 'tube',
      options: [
        { value: 'tube', label: 'Tube' },
        { value: 'flat', label: 'Flat' },
      ],
    },
    carriers: {
      kind: 'count',
      label: 'Strands',
      help: 'Number of strands, even; half run in each direction.',
      default: 12,
      min: 4,
      max: 48,
      comfortable: [4, 32],
      gauge: 'figure',
      when: { parameter: 'form', is: ['tube'] },
    },
    over: {
      kind: 'choice',
      label: 'Weave pattern',
      help: 'Over one and under one, or over two and under two, which needs a multiple of four strands.',
      default: 'two',
      options: [
        { value: 'one', label: 'Over one' },
        { value: 'two', label: 'Over two' },
      ],
      when: { parameter: 'form', is: ['tube'] },
    },
    core: {
      kind: 'choice',
      label: 'Core',
      help: 'Leave the inside of the tube empty, or fill it with a strand.',
      default: 'core',
      options: [
        { value: 'hollow', label: 'Hollow' },
        { value: 'core', label: 'Filled' },
      ],
      when: { parameter: 'form', is: ['tube'] },
    },
    across: {
      kind: 'count',
      label: 'Strands',
      help: 'Number of strands in the band.',
      default: 3,
      min: 3,
      max: 9,
      comfortable: [3, 9],
      gauge: 'figure',
      when: { parameter: 'form', is: ['flat'] },
    },
    lay: {
      kind: 'ratio',
      of: 'thickness',
      label: 'Lay length',
      help: 'Length of one full turn, or one pass back and forth, relative to the braid’s thickness.',
      default: 3,
      min: 0.5,
      max: 10_000,
      comfortable: [1.5, 8],
      gauge: 'figure',
    },
    scale: {
      kind: 'ratio',
      of: 'fitted size',
      label: 'Strand scale',
      help: 'Strand thickness relative to the thickest that fits; below 1 strands still touch at crossings, above 1 they intersect.',
      default: 1,
      min: 0.05,
      max: 1.5,
      comfortable: [0.5, 1],
      gauge: 'figure',
    },
    twist: { ...STEERING.twist, help: 'Turns of the whole per metre; on a closed curve, whole turns in total.' },
    roll: { ...STEERING.roll, help: 'Rotates the whole around the line.' },
    ...BUNDLE,
    places: {
      kind: 'count',
      label: 'Segments per crossing',
      help: 'Number of segments from one crossing to the next.',
      default: 7,
      min: 2,
      max: 60,
      comfortable: [4, 12],
      gauge: 'figure',
      group: 'Resolution',
    },
  },
  presets: [
    { id: 'braided-line', label: 'Braided line', synonyms: ['sailing rope'], parameters: {} },
    {
      id: 'sash-cord',
      label: 'Sash cord',
      synonyms: ['cord'],
      parameters: { radius: 0.004, carriers: 8, over: 'one', lay: 2.6 },
    },
    {
      id: 'sleeve',
      label: 'Open sleeve',
      synonyms: ['cable sleeve', 'shielding'],
      parameters: { radius: 0.01, carriers: 24, core: 'hollow', scale: 0.6, lay: 3, sides: 5 },
    },
    {
      id: 'square-plait',
      label: 'Square plait',
      synonyms: ['leather'],
      parameters: { radius: 0.014, carriers: 8, over: 'two', core: 'hollow', lay: 3 },
    },
    {
      id: 'flat-three',
      label: 'Flat, 3 strands',
      synonyms: ['hair', 'pigtail'],
      parameters: { form: 'flat', across: 3, radius: 0.012, lay: 2.8 },
    },
    {
      id: 'flat-five',
      label: 'Flat, 5 strands',
      synonyms: ['lace'],
      parameters: { form: 'flat', across: 5, radius: 0.018, lay: 3.2 },
    },
    {
      id: 'flat-nine',
      label: 'Flat, 9 strands',
      synonyms: ['strap', 'lace'],
      parameters: { form: 'flat', across: 9, radius: 0.025, lay: 3.4 },
    },
  ],
  shelf: 'strands',
  outfits: [
    {
      id: 'linen-braid',
      label: 'Linen, whipped',
      wears: { main: { unit: 'plain', preset: 'linen' }, whipping: { unit: 'plain', preset: 'orange-jacket' } },
    },
    {
      id: 'metal-braid',
      label: 'Metal braid',
      wears: { main: { unit: 'plain', preset: 'steel' }, whipping: { unit: 'plain', preset: 'brass' } },
    },
    {
      id: 'black-braid',
      label: 'Black',
      wears: { main: { unit: 'plain', preset: 'rubber' }, whipping: { unit: 'plain', preset: 'white-jacket' } },
    },
  ],
  slots: BUNDLE_SLOTS,
  sample: { parameters: { radius: 0.027 } },
  thickness: (p) => mapAlong(p.radius, (r) => LEANING * r * (1 + p.swell) * heightOf(p)),
  breadth: ({ radius, swell }) => mapAlong(radius, (r) => LEANING * r * (1 + swell)),
  fixes: bundleFixes,
  describe(p, length) {
    const { count, flat } = weaveOf(p);
    const wide = length(2 * greatest(p.radius));
    return `${flat ? `Flat braid of ${count}` : `Braid of ${count}`}, ${flat ? '' : '⌀ '}${isLane(p.radius) ? 'up to ' : ''}${wide}`;
  },
  cost(input, p, { density }) {
    const hull = p.form === 'flat' ? BAND_COLUMNS : COLUMNS;
    return bundleCost(input, placesOf(input, p, density).options, {
      shown: p.shown,
      strands: strandsOf(p),
      sides: p.shown === 'hull' ? hull : sidesOf(p.sides, density),
      ends: [p.start, p.end],
    });
  },
  build(input, p, context) {
    const { options, longer } = placesOf(input, p, context.density);
    reportPlaces({ longer, places: p.places, fewest: MIN_PLACES, from: 'crossing' }, context);
    const rails = resample(input, options);
    const course = courseOf(rails, p.radius, true, p);
    const guide = resample(input, { maxTurn: GUIDE_TURN, keepKnots: true });
    if (p.shown === 'line') return madeOf(guide, lineOnly(course, p.leastBend));
    const weave = weaveOf(p);
    const lay = (q: number) => (course.radius[q] > 0 ? 1 / (2 * p.lay * course.radius[q]) : 0);
    const pitch = tightestPitch(rails, course.frames, course.radius, lay);
    const size = solved(weave, p, Number.isFinite(pitch) ? pitch : 2 * p.lay);
    const turns = anglesAlong(rails, lay).map((angle) => angle / (2 * Math.PI));
    const twisted = twistAlong(rails, p);
    const core = p.form === 'tube' && p.core === 'core' ? Math.max(0, size.middle - size.waves[0] - size.radius) : 0;
    const lying = { weave, size, turns, roll: (q: number) => twisted[q], core };
    context.step(0.3);
    if (p.shown === 'hull') {
      const { part, body } = braidHull(course, lying, p.leastBend, p);
      return madeOf(guide, { parts: [part], bodies: [body] });
    }
    const strands = braidedAbout(course, lying);
    context.step(0.6);
    const made = finishedBundle(course, strands, p, 1, context);
    return madeOf(guide, {
      ...made,
      measures: [
        ...measuresOf(course, strands, { scale: 1, density: p.density, area: weave.flat ? 4 * heightOf(p) : Math.PI }),
        {
          id: 'lay-angle',
          label: 'Braid angle',
          quantity: 'angle',
          value: Math.atan2(2 * Math.PI * size.middle, 2 * p.lay),
        },
      ],
    });
  },
});

interface Braided {
  form: string;
  carriers: number;
  over: string;
  across: number;
  core: string;
  lay: number;
  scale: number;
}

/** How it is woven; of strands that go round, half go each way. */
function weaveOf({ form, carriers, over, across }: Braided): Weave {
  return form === 'flat' ? flatWeave(across) : tubeWeave(2 * Math.round(carriers / 2), over === 'two');
}

const strandsOf = (p: Braided): number => weaveOf(p).count + (p.form === 'tube' && p.core === 'core' ? 1 : 0);

/** Solutions are looked for once: most changes of a braid leave them as they are. */
const KEPT = new Map<string, BraidSize>();
const MAX_CACHED = 200;

function solved(weave: Weave, p: Braided, pitch: number): BraidSize {
  const key = [weave.flat, weave.count, p.over, pitch, p.scale].join(' ');
  const kept = KEPT.get(key);
  if (kept) return kept;
  if (KEPT.size >= MAX_CACHED) KEPT.clear();
  const size = solveBraid(weave, pitch, p.scale);
  KEPT.set(key, size);
  return size;
}

/** How high a braid is for its breadth. */
function heightOf(p: Braided): number {
  if (p.form !== 'flat') return 1;
  const size = solved(weaveOf(p), p, 2 * p.lay);
  return size.radius + size.waves.reduce((a, b) => Math.max(a, b), 0);
}

/** Radians by which the whole is turned at each point: round a closed line whole turns. */
function twistAlong(rails: CurveSet, { twist, roll }: { twist: AlongValue; roll: AlongValue }): Float64Array {
  const { share } = sharesAlong(rails);
  const turned = anglesAlong(rails, (q) => valueAt(twist, share[q]));
  return turned.map((angle, q) => angle + valueAt(roll, share[q]));
}

/** How far apart the places stand along the line; and how many times that where there would be too many. */
function placesOf(
  input: CurveSet,
  p: Braided & { radius: AlongValue; twist: AlongValue; places: number; bendStep: number },
  density: number,
) {
  const size = Math.max(MIN_SIZE * greatest(p.radius), leastOf(p.radius));
  const turning = 1 / (2 * p.lay * size) + greatest(mapAlong(p.twist, Math.abs));
  // at the edges of a band strands turn back
  const each = Math.max(Math.min(p.places, MIN_PLACES), p.places * density) * (p.form === 'flat' ? AT_EDGES : 1);
  const spacing = 1 / (each * weaveOf(p).crossings * turning);
  const all = curveLengths(input).reduce((sum, length) => sum + length, 0);
  const longer = Math.max(1, (strandsOf(p) * all) / spacing / MAX_PLACES);
  return { options: { spacing: spacing * longer, maxTurn: p.bendStep / density }, longer };
}
