import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, pointCount } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { greatest, isLane, mapAlong } from '../../numeric/lane.js';
import type { Vec3 } from '../../numeric/vector.js';
import { roundSection, type Section } from '../../section/section.js';
import { capSize, type EndKind } from '../../sweep/caps.js';
import { HARD_ANGLE, planRings } from '../../sweep/rings.js';
import { sweep } from '../../sweep/sweep.js';
import type { Made, Mark, MeshPart, Part } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { foldFixes } from '../fold-fixes.js';
import type { Limbs } from '../limbs.js';
import { bracketsAt } from '../pipe/brackets.js';
import { boxReach, costOfSwept, finerBends, sweptAlong } from '../steering.js';
import { baredEnds } from './bared.js';
import { type Cable, type Held, heldPlaces, hungBetween, ledStraight, MAX_FASTENERS, WALL_REACH } from './course.js';
import { clipsOf, MAX_TIES, markOf, tiesOf } from './holders.js';
import { jacketOf, reportRibs } from './jacket.js';
import { colourFrom } from './palette.js';
import { CABLE } from './parameters.js';
import { type PlugKind, plugVertices } from './plug-shapes.js';
import { plugLengths, plugsOn } from './plugs.js';
import { CABLE_PRESETS } from './presets.js';
import { type Row, rowOf, strandSpacing, strandsIn } from './strands.js';

/** Rings in a straight lead, at least. */
const RINGS_A_LEAD = 3;
/** Faces round a core, and round a plug. */
const CORE_SIDES = 10;
const PLUG_SIDES = 28;

export const cable = defineUnit({
  stage: 'make',
  id: 'cable',
  label: 'Cable',
  purpose: 'Cables, hoses, straps and bundles, with jackets, cores, plugs, ties and clips.',
  synonyms: ['wire', 'hose', 'tube', 'lead', 'cord', 'strap', 'harness', 'loom', 'flex', 'plug', 'electric'],
  parameters: CABLE,
  slots: [
    { id: 'cores', label: 'Cores', wears: { unit: 'plain', preset: 'orange-jacket' } },
    { id: 'metal', label: 'Metal', wears: { unit: 'plain', preset: 'brass' } },
    { id: 'plugs', label: 'Plugs', wears: { unit: 'plain', preset: 'rubber' } },
    { id: 'lamps', label: 'Lamps', wears: { unit: 'plain', preset: 'lamp' } },
    { id: 'ties', label: 'Ties', wears: { unit: 'plain', preset: 'linen' } },
    { id: 'holders', label: 'Clips', wears: { unit: 'plain', preset: 'steel' } },
    { id: 'coloured', label: 'Coloured', wears: { unit: 'plain', preset: 'white-jacket' } },
  ],
  presets: CABLE_PRESETS,
  shelf: 'swept',
  outfits: [
    {
      id: 'deck-lead',
      label: 'Deck lead',
      wears: {
        main: { unit: 'plain', preset: 'orange-jacket' },
        plugs: { unit: 'plain', preset: 'rubber' },
        ties: { unit: 'plain', preset: 'linen' },
      },
    },
    {
      id: 'sleeved',
      label: 'Sleeved',
      wears: {
        main: { unit: 'patterned', preset: 'braided-sleeve' },
        plugs: { unit: 'patterned', preset: 'grained-rubber' },
        holders: { unit: 'patterned', preset: 'brushed-steel' },
      },
    },
    {
      id: 'armoured',
      label: 'Armoured',
      wears: {
        main: { unit: 'patterned', preset: 'steel-braid' },
        cores: { unit: 'plain', preset: 'rubber' },
        plugs: { unit: 'patterned', preset: 'knurled-steel' },
      },
    },
    {
      id: 'festive',
      label: 'Festive',
      wears: {
        main: { unit: 'plain', preset: 'green-paint' },
        lamps: { unit: 'plain', preset: 'lamp' },
        plugs: { unit: 'plain', preset: 'white-jacket' },
      },
    },
  ],
  cost(input, p, context) {
    const { density } = context;
    const { steered, steering } = jacketOf(p, density);
    const cuts = cutsOf(p, input, greatest(p.radius), context);
    const one = costOfSwept(input, steered, { ...steering, ...endsOf(p), cuts }, density);
    const count = rowOf(p.lay, p.count).x.length;
    const vertices = one.vertices * count + furniture(input, p, count, context);
    return { vertices, bytes: (one.bytes / Math.max(1, one.vertices)) * vertices };
  },
  fixes: (finding, { radius, folds }, length) => [...finerBends(finding), ...foldFixes(finding, radius, folds, length)],
  thickness: (p) => mapAlong(p.radius, (r) => r * reachIn(p, 0)),
  breadth: (p) => mapAlong(p.radius, (r) => r * reachIn(p, Math.PI / 2)),
  describe({ radius, section, sides, width, lay, count }, length) {
    const size = isLane(radius) ? `up to ${length(2 * greatest(radius))}` : length(2 * radius);
    const many = lay !== 'one' && count > 1 ? `${count} × ` : '';
    if (section === 'box') return `${many}Box ${length(2 * greatest(radius) * width)} × ${size}`;
    return section === 'polygon' ? `${many}⌀ ${size}, ${sides} sides` : `${many}⌀ ${size}, round`;
  },
  build(input, p, context) {
    reportRibs(p, context);
    const { steered, steering } = jacketOf(p, context.density);
    const name = { id: 'cable', name: 'Cable' };
    return isPlain(p) ? sweptAlong(input, steered, steering, context, name) : furnished(input, p, context);
  },
});

/** Vertices of a tie, of a clip or bracket, and of a core with its tip, about. */
const TIE = 600;
const HOLDER = 330;
const CORE = 330;

/** Vertices of all that is not a cable's own skin. */
function furniture(
  input: CurveSet,
  p: Cable,
  count: number,
  { surroundings }: Pick<BuildContext, 'surroundings'>,
): number {
  const size = greatest(p.radius);
  const length = curveLengths(input).reduce((sum, one) => sum + one, 0);
  const open = (curveCount(input) - input.closed.reduce((sum, one) => sum + one, 0)) * count;
  const plugs = [p.startPlug, p.endPlug].reduce((sum, kind) => sum + plugVertices(kind as PlugKind, PLUG_SIDES), 0);
  const ties = count > 1 && p.ties > 0 ? Math.min(MAX_TIES, length / (p.ties * size * rowOf(p.lay, p.count).high)) : 0;
  // without a prop there is no wall
  const held = p.fixing === 'none' || surroundings.isEmpty ? 0 : Math.min(MAX_FASTENERS, length / (p.fixEvery * size));
  const bared = p.bared === 'none' ? 0 : p.bared === 'both' ? 2 : 1;
  return open * (plugs + bared * p.cores * CORE) + TIE * ties + HOLDER * held;
}

/** How far cables reach to one side: of several, with those beside it. */
function reachIn({ section, width, roll, twist, lay, count }: Cable, aside: number): number {
  const own = section === 'box' ? boxReach(width, roll, twist, aside) : 1;
  const { high, wide } = rowOf(lay, count);
  if (high === 1 && wide === 1) return own;
  const both = boxReach(wide / high, roll, twist, aside) * high;
  return own + both - 1;
}

/** Whether it is nothing but its section: as most are, and made as quickly. */
const isPlain = (p: Cable): boolean =>
  (p.lay === 'one' || p.count === 1) &&
  p.bared === 'none' &&
  p.startPlug === 'none' &&
  p.endPlug === 'none' &&
  p.fixing === 'none' &&
  p.palette === 'none';

/** Cables of one piece at most, cores at their ends, and places of all of them together. */
const MAX_CABLES = 40_000;
const MAX_PLACES = 8_000_000;

/** How many cables run along each line: as many as asked, or as can be made. */
function mostCables(input: CurveSet, p: Cable, { report }: BuildContext): number {
  if (p.lay === 'one') return 1;
  const cores = p.bared === 'none' ? 1 : p.cores;
  const most = Math.floor(
    Math.min(MAX_CABLES / (curveCount(input) * cores), MAX_PLACES / Math.max(1, pointCount(input))),
  );
  if (p.count <= Math.max(1, most)) return p.count;
  report({
    code: 'too-many-cables',
    severity: 'warning',
    message: `${p.count.toLocaleString('en')} cables on ${curveCount(input).toLocaleString('en')} lines are too many: ${Math.max(1, most)} per line are made. Reduce the cable count, or use fewer lines.`,
    size: { value: p.count, limit: Math.max(1, most), kind: 'count' },
  });
  return Math.max(1, most);
}

function furnished(input: CurveSet, p: Cable, context: BuildContext): Made {
  const size = greatest(p.radius);
  const { surroundings, density } = context;
  const row = rowOf(p.lay, mostCables(input, p, context));
  const thick = size * Math.max(row.high, row.wide);
  const leads = leadsOf(p, size, context);
  const places = p.fixing === 'none' ? [] : heldPlaces(input, p.fixEvery * size, size * row.high, leads, surroundings);
  const { course, held } = hungBetween(input, places, p, size);
  const tieEvery = row.x.length > 1 ? p.ties * size * row.high : 0;
  const strands = strandsIn(course, row, p, p.radius, tieEvery, size);
  const led = ledStraight(strands.lines, ...leads);
  const bared = p.bared === 'none' ? undefined : baredEnds(led, p, size);
  const { steered, steering } = jacketOf(p, density);
  const ends = endsOf(p);
  const cuts = cutsOf(p, input, size, context);
  const made = sweptAlong(bared?.jackets ?? led, steered, { ...steering, ...ends, cuts }, context, {
    id: 'cable',
    name: 'Cable',
  });
  const parts: Part[] = made.parts.map((part) =>
    coloured(part as MeshPart, made.bodies[0].curves, steered.section, ends, p),
  );
  if (bared) parts.push(...coreParts(bared, p));
  const ties = tieEvery > 0 ? tiesOf(strands.rails, row, p, tieEvery, size) : undefined;
  if (ties) parts.push(ties);
  const holders = holdersOf(course, held, row, p, size, thick, context);
  parts.push(...holders.parts, ...plugsOn(led, p, size, PLUG_SIDES, context));
  const marks: Mark[] = [...holders.marks, ...(ties ? [markOf('tie', 'Ties', ties.places)] : [])];
  return {
    ...made,
    guide: strands.rails,
    parts,
    bodies: made.bodies.map((body) => (row.x.length > 1 ? { ...body, ofStrands: true } : body)),
    marks,
    measures: row.x.length > 1 ? [{ id: 'cables', label: 'Cables', quantity: 'count', value: curveCount(led) }] : [],
  };
}

/** Cross-cuts a metre at least: beside a bend a long straight step would bow over it. */
function cutsOf(p: Cable, input: CurveSet, size: number, context: Pick<BuildContext, 'surroundings'>): number {
  const spacing = strandSpacing(p, rowOf(p.lay, p.count), size);
  const leads = input.closed.includes(0) ? leadsOf(p, size, context) : [0, 0];
  return Math.max(p.cuts, spacing ? 1 / spacing : 0, ...leads.map((lead) => (lead > 0 ? RINGS_A_LEAD / lead : 0)));
}

/** How far a cable runs straight at both its ends, what is in a plug included, metres. */
const leadsOf = (p: Cable, size: number, context: Pick<BuildContext, 'surroundings'>): [number, number] =>
  plugLengths(p, size, context).map((long) => (long > 0 ? long + p.lead * size : 0)) as [number, number];

/** An end that goes into a plug, or is cut off, is flat. */
function endsOf({ start, end, startPlug, endPlug, bared }: Cable): { start: string; end: string } {
  const flat = (side: string, plug: string) => plug !== 'none' || bared === side || bared === 'both';
  return { start: flat('start', startPlug) ? 'flat' : start, end: flat('end', endPlug) ? 'flat' : end };
}

/** Each cable in a colour of the palette. */
function coloured(
  part: MeshPart,
  lines: CurveSet,
  section: Section,
  { start, end }: { start: string; end: string },
  { palette, seed }: Cable,
): MeshPart {
  if (palette === 'none') return part;
  return {
    ...part,
    slot: 'coloured',
    mesh: tinted(part.mesh, lines, section, [start as EndKind, end as EndKind], palette, seed),
  };
}

/** The skins of lines as `sweep` lays them out, the rings of one after those of the other, then all their ends. */
function tinted(
  mesh: MeshPart['mesh'],
  lines: CurveSet,
  section: Section,
  ends: readonly EndKind[],
  palette: string,
  seed: number,
): MeshPart['mesh'] {
  const data = new Float32Array(mesh.position.length).fill(1);
  const { start, total } = planRings(lines, rotationMinimizingFrames(lines), HARD_ANGLE);
  const columns = section.x.length;
  const caps = ends.reduce((sum, kind) => sum + capSize(section, kind).vertices, 0);
  let cap = total * columns;
  for (let c = 0; c < curveCount(lines); c++) {
    const colour = colourFrom(palette, seed, lines.id[c]) ?? [1, 1, 1];
    const paint = (from: number, to: number) => {
      for (let v = from; v < to; v++) data.set(colour, 3 * v);
    };
    paint(start[c] * columns, start[c + 1] * columns);
    if (lines.closed[c]) continue;
    paint(cap, cap + caps);
    cap += caps;
  }
  return { ...mesh, attributes: { ...mesh.attributes, colour: { size: 3, data } } };
}

function coreParts({ cores, tips }: { cores: Limbs; tips: Limbs }, { palette, seed }: Cable): MeshPart[] {
  const section = roundSection(CORE_SIDES);
  const skin = ({ curves, radius }: Limbs) => sweep(curves, section, { radius, start: 'flat', end: 'flat' });
  const parts: MeshPart[] = [];
  if (curveCount(cores.curves) > 0) {
    const mesh = skin(cores);
    parts.push(
      palette === 'none'
        ? { kind: 'mesh', id: 'cores', name: 'Cores', slot: 'cores', mesh }
        : {
            kind: 'mesh',
            id: 'cores',
            name: 'Cores',
            slot: 'coloured',
            mesh: tinted(mesh, cores.curves, section, ['flat', 'flat'], palette, seed),
          },
    );
  }
  if (curveCount(tips.curves) > 0)
    parts.push({ kind: 'mesh', id: 'tips', name: 'Bare tips', slot: 'metal', mesh: skin(tips) });
  return parts;
}

/** What holds it, and what of it has nothing to be fastened to. */
function holdersOf(
  course: CurveSet,
  held: readonly Held[],
  row: Row,
  p: Cable,
  size: number,
  thick: number,
  { surroundings, report }: BuildContext,
): { parts: Part[]; marks: Mark[] } {
  if (held.length === 0) return { parts: [], marks: [] };
  const within = WALL_REACH * size * row.high;
  let free: readonly Vec3[];
  let parts: Part[];
  if (p.fixing === 'clip') {
    const clips = clipsOf(held, row, size);
    [parts, free] = [clips.part ? [clips.part] : [], clips.free];
  } else {
    const stations = held.map(({ curve, at }) => ({ curve, at, way: 0 as const }));
    const brackets = bracketsAt(course, stations, surroundings, {
      radius: thick,
      within,
      sides: CORE_SIDES * 2,
      slot: 'holders',
    });
    [parts, free] = [brackets.parts, brackets.free.map(({ at }) => at)];
  }
  if (free.length > 0)
    report({
      code: 'holder-free',
      severity: 'note',
      message: `${free.length === 1 ? 'A clip or bracket is' : `${free.length} clips or brackets are`} too far from a wall. Move the cable closer to a prop, or remove the fasteners.`,
      place: free[0],
      fix: { label: 'Lay it on the surface', kind: 'add-shape', unit: 'cling', parameters: {} },
    });
  const placed = parts[0]?.kind === 'placed' ? [markOf('clip', 'Clips', parts[0].places)] : [];
  return { parts, marks: placed };
}
