import { curveCount } from '../../curve/curve-set.js';
import { vertexCount } from '../../mesh/mesh.js';
import { greatest, leastOf } from '../../numeric/lane.js';
import { pointOf } from '../../numeric/vector.js';
import { partCounts } from '../../part/part.js';
import { madeOf, type Part } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { elementMarks } from '../elements/placements.js';
import type { Stations } from '../elements/stations.js';
import { chosenParts } from './chosen-parts.js';
import { lapsOf } from './laps.js';
import { PLACE } from './parameters.js';
import { bentParts, placedParts } from './placed.js';
import { axisAlong, MAX_PLACED, type PlaceChoice, type Placing, placingOf } from './placing.js';
import { PLACE_PRESETS } from './presets.js';

/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;

export const place = defineUnit({
  stage: 'make',
  id: 'place',
  label: 'Placed parts',
  purpose: 'Parts along the line or over a surface: built-in ones or any prop.',
  synonyms: [
    'scatter',
    'array',
    'instances',
    'studs',
    'rivets',
    'bolts',
    'posts',
    'floats',
    'pearls',
    'clone',
    'elements',
  ],
  shelf: 'elements',
  outfits: [
    {
      id: 'metal',
      label: 'Metal',
      wears: { main: { unit: 'patterned', preset: 'brushed-steel' }, second: { unit: 'plain', preset: 'brass' } },
    },
    {
      id: 'painted-pieces',
      label: 'Painted',
      wears: {
        main: { unit: 'plain', preset: 'green-paint' },
        second: { unit: 'plain', preset: 'steel' },
        third: { unit: 'plain', preset: 'orange-jacket' },
      },
    },
    {
      id: 'wooden',
      label: 'Wooden',
      wears: { main: { unit: 'plain', preset: 'timber' }, second: { unit: 'plain', preset: 'steel' } },
    },
  ],
  parameters: PLACE,
  presets: PLACE_PRESETS,
  slots: [
    { id: 'second', label: 'Second part' },
    { id: 'third', label: 'Third part' },
    { id: 'fourth', label: 'Fourth part' },
  ],
  thickness: (p) => reachOf(p)[0],
  breadth: (p) => reachOf(p)[1],
  cost(input, p, context) {
    const parts = chosenParts(p, context.surroundings, context.density);
    const { shown, which } = placingOf(input, p, parts);
    let vertices = 0;
    for (const n of shown) vertices += vertexCount(parts[which[n]].mesh);
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  describe(p, length) {
    const [part] = chosenParts(p, undefined, 1);
    return `${p.parts.length === 1 ? part.name : `${p.parts.length} parts`}, ⌀ ${length(2 * greatest(p.size))}`;
  },
  build(input, p, context) {
    const parts = chosenParts(p, context.surroundings, context.density, context.report);
    const placing = placingOf(input, p, parts);
    reportCount(placing, p, context);
    const { framed, stations, shown } = placing;
    const laps = p.bent === 'rigid' ? lapsOf(placing, p) : undefined;
    if (laps) context.report(laps);
    const made = p.bent === 'bent' ? bentParts(placing, p) : placedParts(placing, p, context.spare);
    if (p.bent === 'bent') reportBent(placing, made, context);
    return madeOf(framed.lines, {
      parts: made,
      marks: elementMarks('Parts', shown.length === stations.id.length ? stations : shownOnly(stations, shown)),
      measures: [{ id: 'elements', label: 'Parts', quantity: 'count', value: shown.length }],
    });
  },
});

const shownOnly = ({ id, along, curve }: Stations, shown: Uint32Array) => ({
  id: shown.map((n) => id[n]),
  along: Float32Array.from(shown, (n) => along[n]),
  curve: shown.map((n) => curve[n]),
});

/** How far below the line, and to its sides, the largest part reaches. */
function reachOf(p: PlaceChoice): [number, number] {
  const axis = axisAlong(p);
  const size = greatest(p.size) * p.sizes.most;
  let [below, aside] = [0, 0];
  for (const { reach, scale } of chosenParts(p, undefined, 1)) {
    // across the line are its side and the upward direction there
    const [side, up] = axis === 0 ? [2, 1] : axis === 1 ? [0, 2] : [0, 1];
    const under = up === 1 ? { foot: 0, middle: reach[1], top: 2 * reach[1] }[p.held] : reach[up];
    below = Math.max(below, size * (scale * (under ?? 0) - leastOf(p.rise)));
    aside = Math.max(aside, size * scale * reach[side]);
  }
  return [below, aside];
}

/** Bent elements that were left out. */
function reportBent({ shown, parts, which }: Placing, made: readonly Part[], { report }: BuildContext): void {
  const wanted = shown.reduce((sum, n) => sum + vertexCount(parts[which[n]].mesh), 0);
  const there = made.reduce((sum, part) => sum + partCounts(part).vertices, 0);
  if (there >= wanted) return;
  report({
    code: 'too-many-elements',
    severity: 'warning',
    message: `Bending along the line needs ${wanted.toLocaleString('en')} vertices: only the first ${there.toLocaleString('en')} are made. Keep parts rigid, or increase the spacing.`,
    size: { value: wanted, limit: there, kind: 'count' },
  });
}

/** More than there may be, or lines on which nothing stands. */
function reportCount({ framed: { lines }, stations, asked }: Placing, p: PlaceChoice, { report }: BuildContext): void {
  if (asked > MAX_PLACED) {
    report({
      code: 'too-many-elements',
      severity: 'warning',
      message: `Needs ${asked.toLocaleString('en')} parts (limit ${MAX_PLACED.toLocaleString('en')}): only the first are placed. Increase the spacing.`,
      size: { value: asked, limit: MAX_PLACED, kind: 'count' },
    });
    return;
  }
  const on = new Uint8Array(curveCount(lines));
  for (const c of stations.curve) on[c] = 1;
  const empty = on.indexOf(0);
  if (empty < 0) return;
  report({
    code: 'no-elements',
    severity: 'warning',
    message:
      p.by === 'spacing' && !(leastOf(p.spacing) > 0)
        ? 'A spacing of 0 places nothing. Increase it, or set a count.'
        : 'A line is shorter than its start and end offsets, or than one part, and stays empty. Draw a longer line, or lower "Start offset" and "End offset".',
    place: pointOf(lines.position, lines.start[empty]),
    fix:
      p.by === 'count'
        ? undefined
        : { label: 'Place one', kind: 'set', stage: 'make', parameter: 'by', value: 'count' },
  });
}
