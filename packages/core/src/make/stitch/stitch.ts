import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, pointCount } from '../../curve/curve-set.js';
import { resample, samplesOf } from '../../curve/resample.js';
import { vertexCount } from '../../mesh/mesh.js';
import { partCounts } from '../../part/part.js';
import { roundSection } from '../../section/section.js';
import { Surroundings } from '../../surface/surroundings.js';
import { capSize } from '../../sweep/caps.js';
import { eachVertex } from '../../sweep/each-vertex.js';
import { sweep } from '../../sweep/sweep.js';
import { madeOf, type Part } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { calmLines } from '../elements/calm-lines.js';
import { Cloth } from '../elements/cloth.js';
import type { FramedLines } from '../elements/framed-lines.js';
import { elementMarks } from '../elements/placements.js';
import { stitchKind } from './kinds.js';
import { type Leg, legsOf } from './legs.js';
import { STITCH } from './parameters.js';
import { laidThreads } from './plies.js';
import { STITCH_PRESETS } from './presets.js';
import { creaseMesh, holeMesh, holePlaces, seamMesh } from './relief.js';
import { halfOf, pitchOf, rowsOf, type Sewn, type StitchChoice, sew, stitchesOf } from './threads.js';

/** Stitches of one piece at most. */
const MAX_STITCHES = 40_000;
/** Places of the plies of laid threads, about. */
const MAX_PLACES = 1_000_000;
/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;
/** Its line is calmed over this many radii of the thread. */
const CALM = 3;
/** Places of a laid thread for each time its plies go round. */
const LAID_STEPS = 10;

export const stitch = defineUnit({
  stage: 'make',
  id: 'stitch',
  label: 'Stitch',
  purpose: 'Thread sewn through the surface under the line, from hole to hole.',
  synonyms: ['sew', 'sewing', 'seam', 'thread', 'embroidery', 'leather', 'topstitch'],
  shelf: 'elements',
  outfits: [
    {
      id: 'sail',
      label: 'Sail',
      wears: { main: { unit: 'plain', preset: 'linen' }, cloth: { unit: 'plain', preset: 'white-jacket' } },
    },
    {
      id: 'harness',
      label: 'Harness',
      wears: {
        main: { unit: 'plain', preset: 'orange-jacket' },
        holes: { unit: 'plain', preset: 'rubber' },
        cloth: { unit: 'patterned', preset: 'webbing' },
      },
    },
    {
      id: 'plain-seam',
      label: 'Plain seam',
      wears: { main: { unit: 'plain', preset: 'rubber' }, cloth: { unit: 'plain', preset: 'linen' } },
    },
  ],
  parameters: STITCH,
  presets: STITCH_PRESETS,
  slots: [
    { id: 'holes', label: 'Holes' },
    { id: 'cloth', label: 'Seam and creases', wears: { unit: 'plain', preset: 'linen' } },
  ],
  sample: { lines: ['over'], bar: 'board', before: [['cling', { reach: 1 }]], parameters: { radius: 0.004 } },
  // as far as a thread goes down; over an edge it comes back on the other side
  thickness: ({ kind, radius, lift, arch }) => radius * (kind === 'whip' ? 2.2 + Math.max(0, lift) + arch : 2),
  breadth: (p) =>
    halfOf(p) * (p.kind === 'whip' ? 2 : 1) +
    p.radius * (1.1 + (p.rowGap * (p.rows - 1)) / 2 + p.messSide) +
    p.radius * (['chain', 'blanket'].includes(p.kind) ? 2 : 0),
  describe: (p, length) => `${stitchKind(p.kind).label}, thread ⌀ ${length(2 * p.radius)}`,
  // sewn in the air: what it lies on changes next to nothing of what it comes to
  cost(input, p, { density }) {
    const framed = calmLines(input, CALM * p.radius);
    const { legs } = legsOf(framed, pitchOf(p), stitchKind(p.kind).alternates, Math.ceil(MAX_STITCHES / p.rows));
    const cloth = new Cloth(framed, NO_PROPS, 0);
    const sewn = sew([...stitchesOf(legs, framed.lines.id, framed.lengths, framed.lines.closed, p)], cloth, p);
    const vertices =
      threadVertices(sewn, p, sidesOf(p, density)) +
      clothParts(sewn, { framed, legs, cloth }, p, sidesOf(p, density)).reduce(
        (sum, part) => sum + partCounts(part).vertices,
        0,
      );
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  build(input, p, context) {
    const framed = calmLines(input, CALM * p.radius);
    const { legs, asked } = legsOf(framed, pitchOf(p), stitchKind(p.kind).alternates, Math.ceil(MAX_STITCHES / p.rows));
    reportAsked(asked * p.rows, context);
    const cloth = new Cloth(framed, context.surroundings, p.radius * p.reach);
    const all = [...stitchesOf(legs, framed.lines.id, framed.lengths, framed.lines.closed, p)];
    const sewn = sew(all, cloth, p);
    reportFree(sewn, p, context);
    const sides = sidesOf(p, context.density);
    return madeOf(framed.lines, {
      parts: [...threadParts(sewn, p, sides), ...clothParts(sewn, { framed, legs, cloth }, p, sides)],
      marks: elementMarks('Stitches', sewn.marks),
      measures: [
        { id: 'stitches', label: 'Stitches', quantity: 'count', value: all.length },
        {
          id: 'stitch-length',
          label: 'Stitch length',
          quantity: 'length',
          value: legs.length > 0 ? (legs[0].to - legs[0].from) / legs[0].count : 0,
        },
        {
          id: 'thread',
          label: 'Thread on the face',
          quantity: 'length',
          value: curveLengths(sewn.lines).reduce((a, b) => a + b, 0),
        },
      ],
    });
  },
});

const sidesOf = ({ sides }: { sides: number }, density: number): number => Math.max(3, Math.round(sides * density));

interface Laid {
  plies: string;
  lay: number;
}

const NO_PROPS = new Surroundings(new Map());

/** What the threads come to, before they are swept. */
function threadVertices({ lines }: Sewn, p: StitchChoice & Laid, sides: number): number {
  const section = roundSection(sides);
  const points = p.plies === '1' ? pointCount(lines) : samplesOf({ ...lines, pointData: {} }, plySteps(p, lines));
  return Number(p.plies) * (points * section.x.length + 2 * curveCount(lines) * capSize(section, 'flat').vertices);
}

interface ClothChoice extends StitchChoice {
  hole: number;
  rim: number;
  seam: number;
  depth: number;
  creases: number;
}

/** Holes, pressed seam and creases. */
function clothParts(
  sewn: Sewn,
  { framed, legs, cloth }: { framed: FramedLines; legs: Leg[]; cloth: Cloth },
  p: ClothChoice,
  sides: number,
): Part[] {
  const parts: Part[] = [];
  if (p.hole > 0 && sewn.holes.length > 0)
    parts.push({
      kind: 'placed',
      id: 'holes',
      name: 'Holes',
      slot: 'holes',
      mesh: holeMesh(p.rim, Math.max(5, sides)),
      places: holePlaces(sewn.holes, p.hole * p.radius),
    });
  const seam = p.seam > 0 ? seamMesh(framed, legs, cloth, rowsOf(p), p.seam * p.radius, p.depth * p.radius) : undefined;
  if (seam) parts.push({ kind: 'mesh', id: 'seam', name: 'Seam', slot: 'cloth', mesh: seam });
  const creases =
    p.creases > 0 ? creaseMesh(sewn.holes, cloth, p.creases * p.radius, 1.6 * p.radius, p.seed) : undefined;
  if (creases) parts.push({ kind: 'mesh', id: 'creases', name: 'Creases', slot: 'cloth', mesh: creases });
  return parts;
}

const plySteps = ({ lay, radius }: StitchChoice & Laid, lines: CurveSet) => ({
  spacing: Math.max((lay * radius) / LAID_STEPS, curveLengths(lines).reduce((a, b) => a + b, 0) / MAX_PLACES),
  maxTurn: 0.3,
});

function threadParts({ lines, of, places }: Sewn, p: StitchChoice & Laid, sides: number): Part[] {
  if (lines.closed.length === 0) return [];
  const plies = Number(p.plies);
  const fine = plies > 1 ? resample({ ...lines, pointData: {} }, plySteps(p, lines)) : lines;
  const laid = laidThreads(fine, plies, p.radius, p.lay * p.radius);
  const section = roundSection(sides);
  const mesh = sweep(laid.lines, section, { radius: laid.radius, hardAngle: Math.PI });
  const whose = new Uint32Array(vertexCount(mesh));
  eachVertex(laid.lines, { section, start: 'flat', end: 'flat' }, (v, c) => {
    whose[v] = of[c % of.length];
  });
  return [{ kind: 'mesh', id: 'thread', name: 'Thread', slot: 'main', mesh, elements: { places, of: whose } }];
}

function reportAsked(asked: number, { report }: BuildContext): void {
  if (asked > MAX_STITCHES)
    report({
      code: 'too-many-elements',
      severity: 'warning',
      message: `Needs ${asked.toLocaleString('en')} stitches (limit ${MAX_STITCHES.toLocaleString('en')}): fewer are made. Increase the stitch length.`,
      size: { value: asked, limit: MAX_STITCHES, kind: 'count' },
    });
}

/** Stitches with nothing to sew through. */
function reportFree({ free, holes }: Sewn, p: StitchChoice & { reach: number }, { report }: BuildContext): void {
  if (free.count === 0) return;
  const reach = (1000 * p.reach * p.radius).toFixed(1);
  report({
    code: 'stitch-free',
    severity: free.count === holes.length ? 'note' : 'warning',
    message:
      free.count === holes.length
        ? `No prop within ${reach} mm of the line: the stitches float. Draw the line on a prop, or increase the cloth reach.`
        : `${free.count.toLocaleString('en')} holes have no prop within ${reach} mm: the thread floats there. Move the line onto the prop, or increase the cloth reach.`,
    place: free.at,
    along: free.along,
  });
}
