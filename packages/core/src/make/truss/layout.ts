import type { CurveSet } from '../../curve/curve-set.js';
import { greatest } from '../../numeric/lane.js';
import type { Surface } from '../../surface/surface.js';
import type { BuildContext } from '../../unit/unit.js';
import { type FramedLines, framedLines } from '../elements/framed-lines.js';
import { type Spread, type Stations, stationsAlong } from '../elements/stations.js';
import { CHORD, type Run } from './bracing.js';
import { cutJoints, type EndCutter, endCutter } from './end-cuts.js';
import type { Stock } from './figures.js';
import { type Lattice, latticeOver } from './lattice.js';
import { lengthsOf } from './members.js';
import { chordsOf, memberReach, type TrussChoice } from './parameters.js';
import { type MemberProfile, OWN, ownProfile, profileOf } from './profiles.js';

// How large members are, and where joints stand along the lines.

/** Members of one piece at most, about: five to ten of a chord and bay. */
const MAX_MEMBERS = 600_000;
/** A line that runs as steeply, by the sine of it, has no way up of its own. */
const PLUMB = 0.9999;

/** Joints along the lines of one piece at most, those of one section as one. */
export const mostStations = (p: TrussChoice): number => Math.floor(MAX_MEMBERS / (5 * chordsOf(p)));

/** Half thickness of chords, diagonals, frames and ties, metres. */
export function sizesOf(p: TrussChoice): [number, number, number, number] {
  const half = greatest(p.depth) / 2;
  return [p.chord * half, p.web * half, p.frame * half, p.tie * half];
}

/** What chords, diagonals, frames and ties are cut from; round tube where a profile of the project is not there. */
export const profilesOf = (p: TrussChoice, context: Pick<BuildContext, 'profile'>): MemberProfile[] =>
  [
    [p.chordProfile, p.chordOwn],
    [p.webProfile, p.webOwn],
    [p.frameProfile, p.frameOwn],
    [p.tieProfile, p.tieOwn],
  ].map(([value, own]) => (value === OWN && ownProfile(context.profile(own))) || profileOf(value));

export const stocksOf = (p: TrussChoice, context: BuildContext): Stock[] =>
  profilesOf(p, context).map((profile, kind) => ({ profile, radius: sizesOf(p)[kind], wall: p.wall }));

export const ballRadius = (p: TrussChoice): number => p.ball * sizesOf(p)[CHORD];

/** Lines with the ways that they run and up, and the stations on them, as they were asked for last. */
interface Along {
  framed: { key: string; lines: FramedLines };
  spread: { key: string; stations: Stations & { asked: number }; runs: Run[] };
}
const along = new WeakMap<CurveSet, Partial<Along>>();

/** Lines and stations, kept for what moves neither. */
function stationsFor(
  input: CurveSet,
  p: TrussChoice,
  density: number,
): { framed: FramedLines } & Pick<Along['spread'], 'stations' | 'runs'> {
  const kept = along.get(input) ?? {};
  along.set(input, kept);
  const framedKey = `${p.upright} ${density}`;
  if (kept.framed?.key !== framedKey) {
    kept.framed = { key: framedKey, lines: framedFor(input, p, density) };
    kept.spread = undefined;
  }
  const framed = kept.framed.lines;
  const spreadKey = JSON.stringify([
    p.by,
    p.bays,
    p.bay,
    greatest(p.depth),
    insetOf(p, framed.lengths),
    mostStations(p),
  ]);
  if (kept.spread?.key !== spreadKey) {
    const stations = stationsAlong(framed, spreadOf(p, framed.lengths), mostStations(p));
    kept.spread = { key: spreadKey, stations, runs: runsOf(stations, framed.lines) };
  }
  const { stations, runs } = kept.spread;
  return { framed, stations, runs };
}

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
export function insetOf(p: TrussChoice, lengths: ArrayLike<number>): number {
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
  return Math.max(closed ? 3 : 1, Math.min(mostStations(p), Math.round(wanted)));
}

/** Where everything of a truss is. */
export interface Layout {
  framed: FramedLines;
  stations: Stations & { asked: number };
  runs: Run[];
  lattice: Lattice;
  /** Of each member from joint to joint, metres. */
  lengths: Float64Array;
  /** What cuts the ends of chords, and how many it does not reach. */
  cutter?: EndCutter;
  uncut: number;
}

/** What is worked out for some lines, and by which numbers. */
const known = new WeakMap<CurveSet, { key: string; cutBy: Surface | undefined; layout: Layout }>();

/** How members look moves no joint: with others of these the layout stays as it was. */
const LOOKS: ReadonlySet<string> = new Set<keyof TrussChoice>([
  'webProfile',
  'webOwn',
  'web',
  'tieProfile',
  'tieOwn',
  'tie',
  'chordOwn',
  'frameOwn',
  'wall',
  'stuff',
  'plate',
  'fillet',
  'cell',
  'sides',
  'curved',
  'bakedAs',
]);

/** Lays a truss out along each line; kept for the lines until other numbers, or the prop that cuts it, move a joint. */
export function layoutOf(
  input: CurveSet,
  p: TrussChoice,
  { density, surroundings }: Pick<BuildContext, 'density' | 'surroundings'>,
): Layout {
  const key = JSON.stringify([density, p], (name, value) => (LOOKS.has(name) ? undefined : value));
  const cutBy = p.endCut === 'prop' ? surroundings.surface(p.cutBy) : undefined;
  const old = known.get(input);
  if (old?.key === key && old.cutBy === cutBy) return old.layout;
  const { framed, stations, runs } = stationsFor(input, p, density);
  const cutter = endCutter(p, framed, surroundings);
  let uncut = 0;
  const lattice = latticeOver(stations, runs, p, (joint) => {
    if (cutter) uncut = cutJoints(cutter, runs, chordsOf(p), insetOf(p, framed.lengths), joint);
  });
  const layout = { framed, stations, runs, lattice, lengths: lengthsOf(lattice), cutter, uncut };
  known.set(input, { key, cutBy, layout });
  return layout;
}

/** The stations of each line, which are together. */
function runsOf({ curve }: Stations, lines: CurveSet): Run[] {
  const runs: Run[] = [];
  for (let s = 0; s < curve.length; s++) {
    const last = runs[runs.length - 1];
    if (last?.line === curve[s]) last.count++;
    else runs.push({ first: s, count: 1, closed: lines.closed[curve[s]] === 1, line: curve[s] });
  }
  return runs;
}

/** From each station to a neighbour of its own line: 1 on, −1 back. */
export function waysOf(runs: readonly Run[], { id }: Stations): Int32Array {
  const out = new Int32Array(id.length).fill(1);
  for (const { first, count } of runs) out[first + count - 1] = -1;
  return out;
}
