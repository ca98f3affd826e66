import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { vertexCount } from '../../mesh/mesh.js';
import { greatest, isLane } from '../../numeric/lane.js';
import { HARD_ANGLE, planRings } from '../../sweep/rings.js';
import { sweep } from '../../sweep/sweep.js';
import { type Mark, type Measure, madeOf, type Part, type SweptBody } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { type FramedLines, framedLines } from '../elements/framed-lines.js';
import { type Spread, type Stations, stationsAlong } from '../elements/stations.js';
import type { Limbs } from '../limbs.js';
import { canMerge, mergedPart } from '../one-skin/merged.js';
import { joinLimbs, skinTriangles } from '../one-skin/skin.js';
import { bentChords, type ChordLines, straightChords } from './chords.js';
import { figuresOf, longestOf, type Stock } from './figures.js';
import { ballMesh, ballPlaces, plateMesh, platePlaces } from './joints.js';
import { CHORD, FRAME, KINDS, type Lattice, latticeOver, type Run, TIE, WEB } from './lattice.js';
import { lengthsOf, memberLines, memberMesh, memberPlaces, outwardFrames } from './members.js';
import { chordReach, chordRoll, chordsOf, memberReach, TRUSS, type TrussChoice, WELDED } from './parameters.js';
import { profileOf, STUFFS } from './profiles.js';

/** Joints along the lines of one piece at most, those of one section as one. */
const MOST_STATIONS = 50_000;
/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;
/** A ball is entered by so much of its radius, so that no edge of a member shows. */
const INTO_BALL = 0.9;
/** A line that runs as steeply, by the sine of it, has no way up of its own. */
const PLUMB = 0.9999;
/** A chord is entered up to so much of its half thickness before its middle, where ends would meet. */
const INTO_CHORD = 0.3;
/** A member is slender when it is longer than so many radii of gyration (AISC 360, E2, user note: 200 in compression; from memory). */
const SLENDER = 200;

export const truss = defineUnit({
  stage: 'make',
  id: 'truss',
  label: 'Truss',
  purpose: 'Chords side by side along the line, held together by diagonals and frames: girders, ladders, towers, rails.',
  shelf: 'frames',
  parameters: TRUSS,
  presets: [
    { id: 'triangle-truss', label: 'Three chords', parameters: {} },
    { id: 'box-truss', label: 'Four chords', parameters: { form: 'square', ends: 'braced', chord: 0.17, web: 0.06, frame: 0.07, stuff: 'aluminium' } },
    { id: 'flat-truss', label: 'Flat girder', parameters: { form: 'flat', webs: 'one-way', lineAt: 'top', chordProfile: 'square', webProfile: 'square', frameProfile: 'square', chord: 0.11, web: 0.07, frame: 0.07, bay: 0.9, joint: 'plate', plate: 2.6 } },
    { id: 'ball-lattice', label: 'Ball lattice', parameters: { form: 'square', ends: 'braced', on: 'edge', webs: 'zigzag', joint: 'ball', chord: 0.08, web: 0.055, frame: 0.055, bay: 0.8 } },
    { id: 'tower', label: 'Tower', parameters: { form: 'square', webs: 'crossed', chordProfile: 'angle', webProfile: 'angle', frameProfile: 'angle', chord: 0.08, web: 0.05, frame: 0.05, bay: 1.1, depth: { ease: 'straight', knots: [{ at: 0, value: 0.42 }, { at: 1, value: 0.18 }] } }, sample: { parameters: { depth: { ease: 'straight', knots: [{ at: 0, value: 0.13 }, { at: 1, value: 0.05 }] } } } },
    { id: 'ladder', label: 'Ladder', parameters: { form: 'flat', turn: Math.PI / 2, webs: 'none', ends: 'open', bay: 0.7, chord: 0.1, frame: 0.075 } },
    { id: 'gangway', label: 'Gangway', parameters: { form: 'square', lineAt: 'bottom', width: 0.9, webs: 'one-way', topWebs: 'none', bottomWebs: 'crossed', chordProfile: 'square', webProfile: 'square', frameProfile: 'square', chord: 0.07, web: 0.04, frame: 0.045, bay: 0.9, stuff: 'aluminium' } },
    { id: 'welded-truss', label: 'Welded', parameters: { joint: WELDED, chord: 0.15, web: 0.09, frame: 0.09 } },
    { id: 'hand-rail', label: 'Hand rail', parameters: { form: 'flat', lineAt: 'bottom', webs: 'none', chord: 0.06, frame: 0.05, bay: 1.4 } },
  ], // biome-ignore format: a line each
  sample: { parameters: { depth: 0.07 } },
  slots: [
    { id: 'webs', label: 'Diagonals, frames', wears: { unit: 'plain', preset: 'steel' } },
    { id: 'joints', label: 'Joints', wears: { unit: 'plain', preset: 'steel' } },
  ],
  needsLevelSets: ({ joint }) => joint === WELDED,
  thickness: (p) => reachOf(p).up,
  breadth: (p) => Math.max(reachOf(p).up, reachOf(p).side),
  describe(p, length) {
    const depth = `${isLane(p.depth) ? 'up to ' : ''}${length(greatest(p.depth))}`;
    return `${chordsOf(p)} chords, ${depth} deep`;
  },
  cost(input, p, { density }) {
    const framed = framedFor(input, p, density);
    const stations = stationsAlong(framed, spreadOf(p, framed.lengths), MOST_STATIONS);
    const lattice = latticeOver(stations, runsOf(stations, framed.lines), p);
    if (p.joint === WELDED) {
      const sizes = sizesOf(p);
      const limbs = limbsIn(bodiesOf(lattice, lengthsOf(lattice), chordLines(lattice, stations, framed, p), sizes));
      const vertices = skinTriangles(limbs, (p.cell * thinnest(lattice, sizes)) / density) / 2;
      return { vertices, bytes: VERTEX_BYTES * vertices };
    }
    const meshes = memberMeshes(p, density).map(vertexCount);
    let vertices = 0;
    for (let m = 0; m < lattice.members; m++) if (lattice.kind[m] !== CHORD) vertices += meshes[lattice.kind[m]];
    if (drawnOut(p)) vertices += meshes[CHORD] * countOf(lattice, CHORD);
    else {
      const ring = profileOf(p.chordProfile).section(sidesOf(p, density), p.wall).x.length;
      const { curves } = chordLines(lattice, stations, framed, p);
      vertices += ring * planRings(curves, rotationMinimizingFrames(curves), HARD_ANGLE).total;
      // open ones are closed by caps
      for (const closed of curves.closed) if (!closed) vertices += meshes[CHORD] - 2 * ring;
    }
    if (p.joint === 'ball') vertices += lattice.stationOf.length * vertexCount(ballMesh(sidesOf(p, density)));
    if (p.joint === 'plate') vertices += lattice.met.reduce((sum, one) => sum + one, 0) * vertexCount(plateMesh());
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  build(input, p, context) {
    const framed = framedFor(input, p, context.density);
    const stations = stationsOf(framed, p, context);
    const runs = runsOf(stations, framed.lines);
    const lattice = latticeOver(stations, runs, p);
    const lengths = lengthsOf(lattice);
    const sizes = sizesOf(p);
    const sections = memberMeshes(p, context.density);
    const straight = drawnOut(p);
    const chords = chordLines(lattice, stations, framed, p);
    const parts: Part[] = [];
    const placed = (id: string, name: string, slot: string, kind: number, cut: number) => {
      const places = memberPlaces(lattice, kind, lengths, stations, sizes[kind], cut, kind === CHORD ? chordRoll(p) : 0);
      if (places.id.length > 0) parts.push({ kind: 'placed', id, name, slot, mesh: sections[kind], places });
    };
    const cuts = sizes.map((radius, kind) => cutOf(p, radius, kind === CHORD && !straight));
    if (straight) placed('chords', 'Chords', 'main', CHORD, cuts[CHORD]);
    else if (curveCount(chords.curves) > 0) parts.push(sweptChords(chords, p, context));
    placed('webs', 'Diagonals', 'webs', WEB, cuts[WEB]);
    placed('frames', 'Frames', 'webs', FRAME, cuts[FRAME]);
    placed('ties', 'Ties', 'webs', TIE, cuts[TIE]);
    if (p.joint === 'ball') parts.push({ kind: 'placed', id: 'joints', name: 'Balls', slot: 'joints', mesh: ballMesh(sidesOf(p, context.density)), places: ballPlaces(lattice, stations, ballRadius(p)) });
    if (p.joint === 'plate') parts.push({ kind: 'placed', id: 'joints', name: 'Plates', slot: 'joints', mesh: plateMesh(), places: platePlaces(lattice, waysOf(runs, stations), stations, 2 * p.plate * sizes[CHORD]) });
    reportMembers(lattice, lengths, p, context);
    const figures = figuresOf(lattice, straight ? lengths : toTheEnds(lattice, lengths, runs, insetOf(p, framed.lengths)), stocksOf(p), lessOf(p, sizes, cuts, straight), stuffOf(p).density, runs.length);
    reportLoose(figures.measures, lattice, p, context);
    const bodies = bodiesOf(lattice, lengths, chords, sizes);
    return madeOf(framed.lines, {
      parts: p.joint === WELDED && canMerge(context) ? mergedPart(limbsIn(bodies), { cell: p.cell, blend: p.fillet, unit: thinnest(lattice, sizes) }, context) : parts.filter((part) => part.kind !== 'placed' || part.places.id.length > 0),
      bodies,
      marks: marksOf(stations),
      ...figures,
    });
  },
}); // biome-ignore format: its longer calls in one line each

const sidesOf = (p: TrussChoice, density: number): number =>
  Math.max(Math.min(4, p.sides), Math.round(p.sides * density));

/** Half thickness of chords, diagonals, frames and ties, metres. */
function sizesOf(p: TrussChoice): [number, number, number, number] {
  const half = greatest(p.depth) / 2;
  return [p.chord * half, p.web * half, p.frame * half, p.tie * half];
}

const stocksOf = (p: TrussChoice): Stock[] =>
  [p.chordProfile, p.webProfile, p.frameProfile, p.tieProfile].map((profile, kind) => ({
    profile: profileOf(profile),
    radius: sizesOf(p)[kind],
    wall: p.wall,
  }));

const ballRadius = (p: TrussChoice): number => p.ball * sizesOf(p)[CHORD];

/** How much is cut off at either end of a member, from the joint on: its end is hidden in the chord, or in the ball. */
function cutOf(p: TrussChoice, radius: number, whole: boolean): number {
  if (whole) return 0;
  if (p.joint !== 'ball') return INTO_CHORD * sizesOf(p)[CHORD];
  const ball = INTO_BALL * ballRadius(p);
  return Math.sqrt(Math.max(0, ball * ball - radius * radius));
}

const memberMeshes = (p: TrussChoice, density: number) =>
  [p.chordProfile, p.webProfile, p.frameProfile, p.tieProfile].map((profile) =>
    memberMesh(profileOf(profile).section(sidesOf(p, density), p.wall)),
  );

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

const chordLines = (lattice: Lattice, stations: Stations, framed: FramedLines, p: TrussChoice): ChordLines =>
  p.curved === 'bent'
    ? bentChords(framed, p)
    : straightChords(lattice, runsOf(stations, framed.lines), framed.lines.id, insetOf(p, framed.lengths));

/** Chords that end at each ball are members as others are. */
const drawnOut = (p: TrussChoice): boolean => p.joint === 'ball' && p.curved === 'straight';

const countOf = ({ kind, members }: Lattice, of: number): number => {
  let count = 0;
  for (let m = 0; m < members; m++) if (kind[m] === of) count++;
  return count;
};

/** Lines with the way up; a plumb one has none: its front looks along z. */
function framedFor(input: CurveSet, p: TrussChoice, density: number): FramedLines {
  const framed = framedLines(input, p.upright === 'plumb', density);
  if (p.upright === 'plumb')
    for (let i = 0; i < framed.up.length; i += 3)
      if (Math.abs(framed.tangent[i + 1]) > PLUMB) framed.up.set([0, 0, 1], i);
  return framed;
}

/**
 * How far from open ends the first and the last joint stand, metres: a frame or a ball there reaches just as far as the
 * line does.
 */
function insetOf(p: TrussChoice, lengths: ArrayLike<number>): number {
  const frame = p.ends !== 'open' ? memberReach(p.frameProfile, p.frame, p) : 0;
  const wanted = p.joint === 'ball' ? Math.max(frame, ballRadius(p)) : frame;
  let most = Infinity;
  for (let c = 0; c < lengths.length; c++) if (lengths[c] > 0) most = Math.min(most, lengths[c] / 4);
  return Math.min(wanted, most);
}

function spreadOf(p: TrussChoice, lengths: ArrayLike<number>): Spread {
  const inset = insetOf(p, lengths);
  return {
    count: (length, closed) => baysOn(length, closed, p) + (closed ? 0 : 1),
    spacing: p.bay * greatest(p.depth),
    first: inset,
    last: inset,
    even: true,
  };
}

function baysOn(length: number, closed: boolean, p: TrussChoice): number {
  const wanted = p.by === 'count' ? p.bays : length / (p.bay * greatest(p.depth));
  return Math.max(closed ? 3 : 1, Math.min(MOST_STATIONS, Math.round(wanted)));
}

function stationsOf(framed: FramedLines, p: TrussChoice, context: BuildContext): Stations {
  const bay = p.bay * greatest(p.depth);
  const stations = stationsAlong(framed, spreadOf(p, framed.lengths), MOST_STATIONS);
  if (stations.asked > stations.id.length)
    context.report({
      code: 'too-many-bays',
      severity: 'warning',
      message: `It would have ${stations.asked.toLocaleString('en')} joints along its lines: it ends after ${MOST_STATIONS.toLocaleString('en')}. Make the bays longer.`,
      size: { value: stations.asked, limit: MOST_STATIONS, kind: 'count' },
      fix: { label: 'Longer bays', kind: 'set', stage: 'make', parameter: p.by === 'count' ? 'bays' : 'bay', value: p.by === 'count' ? Math.max(1, Math.floor((p.bays * MOST_STATIONS) / stations.asked) - 1) : Math.min(100, (p.bay * stations.asked) / MOST_STATIONS) },
    });
  const short = Array.from(framed.lengths).findIndex((length) => length > 0 && p.by === 'length' && length < 0.5 * bay);
  if (short >= 0) {
    const first = 3 * framed.lines.start[short];
    const [x, y, z] = framed.lines.position.subarray(first, first + 3);
    context.report({
      code: 'bay-longer',
      severity: 'warning',
      message: 'A line is shorter than half a bay: it gets a single one. Make bays shorter, or the line longer.',
      place: [x, y, z],
      size: { value: framed.lengths[short], limit: bay, kind: 'length' },
      fix: { label: 'Shorter bays', kind: 'set', stage: 'make', parameter: 'bay', value: Math.max(0.02, framed.lengths[short] / greatest(p.depth) / 2) },
    });
  }
  return stations;
} // biome-ignore format: findings in one line each

/** The stations of each line, which stand together. */
function runsOf({ curve }: Stations, lines: CurveSet): Run[] {
  const runs: Run[] = [];
  for (let s = 0; s < curve.length; s++) {
    const last = runs[runs.length - 1];
    if (last?.line === curve[s]) last.count++;
    else runs.push({ first: s, count: 1, closed: lines.closed[curve[s]] === 1, line: curve[s] });
  }
  return runs;
}

/** Lengths of members where chords go on to the ends of their lines. */
function toTheEnds({ kind, station, members }: Lattice, lengths: Float64Array, runs: readonly Run[], inset: number): Float64Array {
  const out = lengths.slice();
  const ends = new Map(runs.filter(({ closed }) => !closed).flatMap(({ first, count }) => [[first, 1], [first + count - 2, count > 2 ? 1 : 2]] as const));
  for (let m = 0; m < members; m++) if (kind[m] === CHORD) out[m] += inset * (ends.get(station[m]) ?? 0);
  return out;
} // biome-ignore format: one line each

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

/** Tells where joints that turn freely have fewer bars than hold them (Maxwell 1864). */
function reportLoose(measures: readonly Measure[], { joint }: Lattice, p: TrussChoice, context: BuildContext): void {
  const spare = measures.find(({ id }) => id === 'spare')?.value ?? 0;
  if (p.joint !== 'ball' || spare >= 0) return;
  context.report({
    code: 'bays-loose',
    severity: 'note',
    message: `With joints that turn it has ${-spare} bars too few to be stiff (Maxwell’s count). Give it diagonals, or braced ends.`,
    place: [joint[0], joint[1], joint[2]],
    size: { value: -spare, limit: 0, kind: 'count' },
    fix: p.webs === 'none' ? { label: 'Diagonals', kind: 'set', stage: 'make', parameter: 'webs', value: 'one-way' } : { label: 'Braced ends', kind: 'set', stage: 'make', parameter: 'ends', value: 'braced' },
  });
} // biome-ignore format: its fixes in one line

/** From each station to a neighbour of its own line: 1 on, −1 back. */
function waysOf(runs: readonly Run[], { id }: Stations): Int32Array {
  const out = new Int32Array(id.length).fill(1);
  for (const { first, count } of runs) out[first + count - 1] = -1;
  return out;
}

function sweptChords({ curves, outward }: ChordLines, p: TrussChoice, context: BuildContext): Part {
  const section = profileOf(p.chordProfile).section(sidesOf(p, context.density), p.wall);
  const mesh = sweep(curves, section, { radius: sizesOf(p)[CHORD], roll: chordRoll(p), frames: outwardFrames(curves, outward), limited: true });
  return { kind: 'mesh', id: 'chords', name: 'Chords', slot: 'main', mesh };
} // biome-ignore format: one line each

/** Chords, and what is between them, as the checks see them: they meet in joints, which is no cut. */
function bodiesOf(
  lattice: Lattice,
  lengths: Float64Array,
  chords: ChordLines,
  sizes: readonly number[],
): SweptBody[] {
  const { curves, radius: thick } = memberLines(lattice, lengths, sizes);
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
} // biome-ignore format: its longer ones in one line each

const marksOf = ({ along, curve, id }: Stations): Mark[] =>
  id.length > 0 ? [{ kind: 'joint', label: 'Joints', along, curve, id }] : [];

/** Members in words. */
const WORDS = [{ one: 'chord', all: 'Chords' }, { one: 'diagonal', all: 'Diagonals' }, { one: 'frame', all: 'Frames' }, { one: 'tie', all: 'Ties' }]; // biome-ignore format: one line

/** Tells of members that are too thick for their bay, and of those that are too slender. */
function reportMembers(lattice: Lattice, lengths: Float64Array, p: TrussChoice, context: BuildContext): void {
  const stocks = stocksOf(p);
  const thick = ['chord', 'web', 'frame', 'tie'] as const;
  const placeOf = (joint: number): [number, number, number] => [
    lattice.joint[3 * joint],
    lattice.joint[3 * joint + 1],
    lattice.joint[3 * joint + 2],
  ];
  for (const kind of KINDS.keys()) {
    const longest = longestOf(lattice, lengths, kind);
    if (!longest) continue;
    const { profile, radius, wall } = stocks[kind];
    const least = leastLength(lattice, lengths, kind);
    if (kind !== CHORD && 2 * radius > least.length)
      context.report({
        code: 'member-thick',
        severity: 'warning',
        message: `A ${WORDS[kind].one} is thicker than it is long. Make it thinner, or bays and depth larger.`,
        place: placeOf(least.joint),
        size: { value: 2 * radius, limit: least.length, kind: 'length' },
        fix: { label: 'Thinner', kind: 'set', stage: 'make', parameter: thick[kind], value: Math.max(0.001, (p[thick[kind]] * least.length) / (4 * radius)) },
      });
    const slender = longest.length / (profile.gyration(wall) * radius);
    if (slender > SLENDER && (kind !== CHORD || p.curved === 'straight'))
      context.report({
        code: 'member-slender',
        severity: 'note',
        message: `${WORDS[kind].all} are ${Math.round(slender)} times as long as their radius of gyration: they would buckle. Make them thicker, or bays shorter.`,
        place: placeOf(longest.joint),
        size: { value: Math.round(slender), limit: SLENDER, kind: 'count' },
        fix: { label: 'Thicker', kind: 'set', stage: 'make', parameter: thick[kind], value: Math.min(1, (p[thick[kind]] * slender) / SLENDER) },
      });
  }
} // biome-ignore format: findings in one line each

function leastLength({ kind, from, members }: Lattice, lengths: Float64Array, of: number) {
  let best = -1;
  for (let m = 0; m < members; m++) if (kind[m] === of && (best < 0 || lengths[m] < lengths[best])) best = m;
  return { length: best < 0 ? Infinity : lengths[best], joint: best < 0 ? 0 : from[best] };
}
