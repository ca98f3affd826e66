import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { vertexCount } from '../../mesh/mesh.js';
import { greatest, isLane } from '../../numeric/lane.js';
import { roundSection } from '../../section/section.js';
import { HARD_ANGLE, planRings } from '../../sweep/rings.js';
import { sweep } from '../../sweep/sweep.js';
import { type Mark, madeOf, type Part, type PlacedPart, type SweptBody } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import type { Stations } from '../elements/stations.js';
import type { Limbs } from '../limbs.js';
import { canMerge, mergedPart } from '../one-skin/merged.js';
import { joinLimbs, skinTriangles } from '../one-skin/skin.js';
import { CHORD, KINDS, type Run } from './bracing.js';
import { bentChords, type ChordLines, straightChords } from './chords.js';
import { clashes } from './clashes.js';
import { slideEnds } from './end-cuts.js';
import { endPlates, spigots } from './ends.js';
import { figuresOf, LABELS, nameOf } from './figures.js';
import { reportBays, reportLoose, reportMembers, reportProfiles, reportUncut } from './findings.js';
import { ballMesh, ballPlaces, plateMesh, platePlaces } from './joints.js';
import type { Lattice } from './lattice.js';
import { ballRadius, insetOf, type Layout, layoutOf, profilesOf, sizesOf, stocksOf, waysOf } from './layout.js';
import { memberLines, memberMesh, memberPlaces, outwardFrames } from './members.js';
import { chordReach, chordRoll, chordsOf, TRUSS, type TrussChoice, WELDED } from './parameters.js';
import { TRUSS_PRESETS } from './presets.js';
import { STUFFS } from './profiles.js';

/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;
/** A point of a line: its place, how far along, how thick. */
const LINE_POINT_BYTES = 32;
/** A ball is entered by this much of its radius, so that no edge of a member shows. */
const INTO_BALL = 0.9;
/** A chord is entered up to this much of its half thickness before its middle, where ends would meet. */
const INTO_CHORD = 0.3;
export const truss = defineUnit({
  stage: 'make',
  id: 'truss',
  label: 'Truss',
  purpose: 'Chords joined by diagonals and frames: girders, ladders, towers, rails.',
  synonyms: ['lattice', 'girder', 'scaffold', 'ladder', 'tower', 'frame', 'rafter', 'space frame', 'railing', 'gantry'],
  shelf: 'frames',
  outfits: [
    { id: 'galvanised-truss', label: 'Galvanised', wears: { main: { unit: 'plain', preset: 'steel' } } },
    {
      id: 'painted-truss',
      label: 'Painted',
      wears: {
        main: { unit: 'plain', preset: 'green-paint' },
        webs: { unit: 'plain', preset: 'green-paint' },
        frames: { unit: 'plain', preset: 'green-paint' },
      },
    },
    {
      id: 'brushed-truss',
      label: 'Brushed',
      wears: {
        main: { unit: 'patterned', preset: 'brushed-steel' },
        webs: { unit: 'patterned', preset: 'brushed-steel' },
        frames: { unit: 'patterned', preset: 'brushed-steel' },
        joints: { unit: 'patterned', preset: 'knurled-steel' },
      },
    },
    {
      id: 'timber-truss',
      label: 'Timber',
      wears: {
        main: { unit: 'plain', preset: 'timber' },
        webs: { unit: 'plain', preset: 'timber' },
        frames: { unit: 'plain', preset: 'timber' },
      },
    },
  ],
  parameters: TRUSS,
  presets: TRUSS_PRESETS,
  sample: { parameters: { depth: 0.07 } },
  slots: [
    { id: 'webs', label: 'Diagonals', wears: { unit: 'plain', preset: 'steel' } },
    { id: 'frames', label: 'Frames and ties', wears: { unit: 'plain', preset: 'steel' } },
    { id: 'joints', label: 'Joints', wears: { unit: 'plain', preset: 'steel' } },
  ],
  needsLevelSets: ({ joint }) => joint === WELDED,
  thickness: (p) => reachOf(p).up,
  breadth: (p) => Math.max(reachOf(p).up, reachOf(p).side),
  describe(p, length) {
    const depth = `${isLane(p.depth) ? 'up to ' : ''}${length(greatest(p.depth))}`;
    return `${chordsOf(p)} chords, ${depth} deep`;
  },
  cost(input, p, context) {
    const { density } = context;
    const layout = layoutOf(input, p, context);
    const { lattice } = layout;
    if (p.bakedAs === 'lines') return { vertices: 2 * lattice.members, bytes: 2 * LINE_POINT_BYTES * lattice.members };
    if (p.joint === WELDED) {
      const sizes = sizesOf(p);
      const limbs = limbsIn(bodiesOf(layout, chordLines(layout, p), sizes));
      const vertices = skinTriangles(limbs, (p.cell * thinnest(lattice, sizes)) / density) / 2;
      return { vertices, bytes: VERTEX_BYTES * vertices };
    }
    const meshes = memberMeshes(p, context).map(vertexCount);
    let vertices = 0;
    for (let m = 0; m < lattice.members; m++) if (lattice.kind[m] !== CHORD) vertices += meshes[lattice.kind[m]];
    if (drawnOut(p)) vertices += meshes[CHORD] * countOf(lattice, CHORD);
    else {
      const ring = profilesOf(p, context)[CHORD].section(sidesOf(p, density), p.wall).x.length;
      const { curves } = chordLines(layout, p);
      vertices += ring * planRings(curves, rotationMinimizingFrames(curves), HARD_ANGLE).total;
      // open ones are closed by caps
      for (const closed of curves.closed) if (!closed) vertices += meshes[CHORD] - 2 * ring;
    }
    if (p.closed === 'spigots')
      vertices += 4 * chordsOf(p) * curveCount(input) * vertexCount(memberMesh(roundSection(sidesOf(p, density))));
    if (p.joint === 'ball') vertices += lattice.stationOf.length * vertexCount(ballMesh(sidesOf(p, density)));
    if (p.joint === 'plate') vertices += lattice.met.reduce((sum, one) => sum + one, 0) * vertexCount(plateMesh());
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  build(input, p, context) {
    const layout = layoutOf(input, p, context);
    const { framed, stations, runs, lattice, lengths } = layout;
    reportBays(stations, framed, p, context);
    const sizes = sizesOf(p);
    const straight = drawnOut(p);
    const chords = chordLines(layout, p);
    const cuts = sizes.map((radius, kind) => cutOf(p, radius, kind === CHORD && !straight));
    reportMembers(lattice, lengths, p, context);
    reportProfiles(p, context);
    reportUncut(layout, p, context);
    for (const found of clashes(lattice, stations, runs, sizes)) context.report(found);
    const figures = figuresOf(
      lattice,
      straight ? lengths : toTheEnds(lattice, lengths, runs, insetOf(p, framed.lengths)),
      stocksOf(p, context),
      lessOf(p, sizes, cuts, straight),
      stuffOf(p).density,
      runs.length,
    );
    reportLoose(figures.measures, lattice, p, context);
    const bodies = bodiesOf(layout, chords, sizes);
    return madeOf(framed.lines, {
      parts: partsOf(layout, chords, bodies, cuts, p, context),
      bodies,
      marks: marksOf(stations),
      ...figures,
    });
  },
});

/** What is seen and baked of it: lines, one skin, or each member by itself. */
function partsOf(
  layout: Layout,
  chords: ChordLines,
  bodies: readonly SweptBody[],
  cuts: readonly number[],
  p: TrussChoice,
  context: BuildContext,
): Part[] {
  if (p.bakedAs === 'lines') return centreLines(layout, p, context);
  if (p.joint !== WELDED || !canMerge(context)) return ownParts(layout, chords, cuts, p, context);
  const skin = { cell: p.cell, blend: p.fillet, unit: thinnest(layout.lattice, sizesOf(p)) };
  return [...mergedPart(limbsIn(bodies), skin, context), ...closings(chords, p, context)];
}

/** What chords, diagonals, frames and ties wear; and their parts. */
const SLOT_OF = ['main', 'webs', 'frames', 'frames'];
const PARTS = [
  ['chords', 'Chords'],
  ['webs', 'Diagonals'],
  ['frames', 'Frames'],
  ['ties', 'Ties'],
] as const;

/** Its members as lines from joint to joint, as thick as they are: each kind for itself, called by what it is cut from. */
function centreLines({ lattice, lengths }: Layout, p: TrussChoice, context: BuildContext): Part[] {
  return stocksOf(p, context).flatMap((stock, kind): Part[] => {
    const { curves, radius } = memberLines(
      lattice,
      lengths,
      sizesOf(p),
      KINDS.map((_name, one) => one === kind),
    );
    if (curveCount(curves) === 0) return [];
    const width = radius.map((half) => 2 * half);
    return [
      {
        kind: 'strands',
        id: KINDS[kind],
        name: `${LABELS[kind]}, ${nameOf(stock)}`,
        slot: SLOT_OF[kind],
        curves,
        width,
        sides: 3,
        shape: 'lines',
      },
    ];
  });
}

/**
 * Its members and joints, each an instanced mesh; chords that run through are swept.
 * @param cuts how much is cut off at either end of members of each kind, metres
 */
function ownParts(
  { lattice, lengths, stations, runs }: Layout,
  chords: ChordLines,
  cuts: readonly number[],
  p: TrussChoice,
  context: BuildContext,
): Part[] {
  const sizes = sizesOf(p);
  const sections = memberMeshes(p, context);
  const parts: Part[] = [];
  const drawn = drawnOut(p);
  const looks = sizes.map((radius, kind) =>
    kind === CHORD && !drawn ? undefined : { radius, cut: cuts[kind], roll: kind === CHORD ? chordRoll(p) : 0 },
  );
  const spare = (id: string) =>
    context.spare?.find((part): part is PlacedPart => part.kind === 'placed' && part.id === id)?.places;
  const places = memberPlaces(
    lattice,
    lengths,
    looks,
    PARTS.map(([id]) => spare(id)),
  );
  if (!drawn && curveCount(chords.curves) > 0) parts.push(sweptChords(chords, p, context));
  PARTS.forEach(([id, name], kind) => {
    parts.push({ kind: 'placed', id, name, slot: SLOT_OF[kind], mesh: sections[kind], places: places[kind] });
  });
  if (p.joint === 'ball')
    parts.push({
      kind: 'placed',
      id: 'joints',
      name: 'Balls',
      slot: 'joints',
      mesh: ballMesh(sidesOf(p, context.density)),
      places: ballPlaces(lattice, stations, ballRadius(p), spare('joints')),
    });
  if (p.joint === 'plate')
    parts.push({
      kind: 'placed',
      id: 'joints',
      name: 'Plates',
      slot: 'joints',
      mesh: plateMesh(),
      places: platePlaces(lattice, waysOf(runs, stations), stations, 2 * p.plate * sizes[CHORD]),
    });
  parts.push(...closings(chords, p, context));
  return parts.filter((part) => part.kind !== 'placed' || part.places.id.length > 0);
}

/** What closes its open ends. */
function closings(chords: ChordLines, p: TrussChoice, context: BuildContext): Part[] {
  const radius = sizesOf(p)[CHORD];
  if (p.closed === 'plate') return endPlates(chords, chordsOf(p), radius);
  return p.closed === 'spigots' ? spigots(chords, chordsOf(p), radius, sidesOf(p, context.density)) : [];
}

const sidesOf = (p: TrussChoice, density: number): number =>
  Math.max(Math.min(4, p.sides), Math.round(p.sides * density));

/** How much is cut off at either end of a member, from the joint on: its end is hidden in the chord, or in the ball. */
function cutOf(p: TrussChoice, radius: number, whole: boolean): number {
  if (whole) return 0;
  if (p.joint !== 'ball') return INTO_CHORD * sizesOf(p)[CHORD];
  const ball = INTO_BALL * ballRadius(p);
  return Math.sqrt(Math.max(0, ball * ball - radius * radius));
}

const memberMeshes = (p: TrussChoice, context: BuildContext) =>
  profilesOf(p, context).map((profile) => memberMesh(profile.section(sidesOf(p, context.density), p.wall)));

/** How far it reaches from its line: up or down, and to the sides. */
function reachOf(p: TrussChoice): { up: number; side: number } {
  const depth = greatest(p.depth);
  const sizes = sizesOf(p);
  // an exponential union of six that meet stands out by ln 6 of its width
  const weld = p.joint === WELDED ? Math.log(6) * p.fillet * Math.min(...sizes) : 0;
  const chord = Math.max(chordReach(p), ...sizes) + weld;
  const up = p.lineAt === 'middle' ? depth / 2 + chord : depth + 2 * chord;
  return { up, side: (p.form === 'flat' ? 0 : (depth * greatest(p.width)) / 2) + chord };
}

const chordLines = ({ lattice, runs, framed, cutter }: Layout, p: TrussChoice): ChordLines =>
  p.curved === 'bent'
    ? bentChords(framed, p, cutter)
    : straightChords(lattice, runs, framed.lines.id, insetOf(p, framed.lengths), cutter);

/** Chords that end at each ball are members as others are. */
const drawnOut = (p: TrussChoice): boolean => p.joint === 'ball' && p.curved === 'straight';

const countOf = ({ kind, members }: Lattice, of: number): number => {
  let count = 0;
  for (let m = 0; m < members; m++) if (kind[m] === of) count++;
  return count;
};

/** Lengths of members where chords go on to the ends of their lines. */
function toTheEnds(
  { kind, station, members }: Lattice,
  lengths: Float64Array,
  runs: readonly Run[],
  inset: number,
): Float64Array {
  const out = lengths.slice();
  const ends = new Map(
    runs
      .filter(({ closed }) => !closed)
      .flatMap(
        ({ first, count }) =>
          [
            [first, 1],
            [first + count - 2, count > 2 ? 1 : 2],
          ] as const,
      ),
  );
  for (let m = 0; m < members; m++) if (kind[m] === CHORD) out[m] += inset * (ends.get(station[m]) ?? 0);
  return out;
}

/** What the checks look at, as limbs that grow together. */
const limbsIn = (bodies: readonly SweptBody[]): Limbs =>
  joinLimbs(bodies.map(({ curves, section }) => ({ curves, radius: section.radius })));

/** Half the thickness of the thinnest kind of members there is. */
const thinnest = (lattice: Lattice, sizes: readonly number[]): number =>
  Math.min(...sizes.filter((_size, kind) => kind === CHORD || countOf(lattice, kind) > 0));

const stuffOf = (p: TrussChoice) => STUFFS.find(({ value }) => value === p.stuff) ?? STUFFS[0];

/** How much shorter than from joint to joint a member of each kind is cut: to a chord's skin, or to a ball. */
const lessOf = (p: TrussChoice, sizes: readonly number[], cuts: readonly number[], straight: boolean): number[] =>
  sizes.map((_radius, kind) =>
    kind === CHORD && !straight ? 0 : p.joint === 'ball' ? 2 * cuts[kind] : 2 * sizes[CHORD],
  );

function sweptChords({ curves, outward, cuts }: ChordLines, p: TrussChoice, context: BuildContext): Part {
  const section = profilesOf(p, context)[CHORD].section(sidesOf(p, context.density), p.wall);
  const mesh = sweep(curves, section, {
    radius: sizesOf(p)[CHORD],
    roll: chordRoll(p),
    frames: outwardFrames(curves, outward),
    limited: true,
  });
  if (cuts.length > 0) slideEnds(mesh, cuts, section.reach * sizesOf(p)[CHORD]);
  return { kind: 'mesh', id: 'chords', name: 'Chords', slot: 'main', mesh };
}

/** Chords, and what is between them, as the checks see them: they meet in joints, which is no cut. */
function bodiesOf({ lattice, lengths }: Layout, chords: ChordLines, sizes: readonly number[]): SweptBody[] {
  const { curves, radius: thick } = memberLines(
    lattice,
    lengths,
    sizes,
    KINDS.map((_name, kind) => kind !== CHORD),
  );
  const body = (id: string, lines: CurveSet, radius: Float32Array): SweptBody => ({
    id,
    curves: lines,
    section: { radius, least: 1 },
    leastBend: 1,
    limited: true,
    growsTogether: true,
  });
  return [
    body('chords', chords.curves, new Float32Array(chords.curves.position.length / 3).fill(sizes[CHORD])),
    body('members', curves, thick),
  ].filter(({ curves: { closed } }) => closed.length > 0);
}

const marksOf = ({ along, curve, id }: Stations): Mark[] =>
  id.length > 0 ? [{ kind: 'joint', label: 'Joints', along, curve, id }] : [];
