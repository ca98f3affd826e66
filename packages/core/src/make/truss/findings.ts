import { greatest } from '../../numeric/lane.js';
import { profileSize } from '../../section/own-section.js';
import type { Measure } from '../../unit/carriers.js';
import type { BuildContext } from '../../unit/unit.js';
import type { FramedLines } from '../elements/framed-lines.js';
import type { Stations } from '../elements/stations.js';
import { reportProfile } from '../sweep/section.js';
import { CHORD } from './bracing.js';
import { extremesOf } from './figures.js';
import type { Lattice } from './lattice.js';
import { type Layout, mostStations, stocksOf } from './layout.js';
import type { TrussChoice } from './parameters.js';
import { OWN, ownProfile } from './profiles.js';

/** A member is slender when it is longer than this many radii of gyration (AISC 360, E2, user note: 200 in compression; from memory). */
const SLENDER = 200;
/** A fix goes so far beyond a limit that it is not met again by a rounding. */
const CLEAR_OF_IT = 1.01;

/** Reports more bays than can be made, and of lines that have not room for one. */
export function reportBays(
  stations: Stations & { asked: number },
  framed: FramedLines,
  p: TrussChoice,
  context: BuildContext,
): void {
  const bay = p.bay * greatest(p.depth);
  const most = mostStations(p);
  if (stations.asked > stations.id.length)
    context.report({
      code: 'too-many-bays',
      severity: 'warning',
      message: `Needs ${stations.asked.toLocaleString('en')} joints (limit ${most.toLocaleString('en')}): the rest of the line stays empty. Increase the bay length.`,
      size: { value: stations.asked, limit: most, kind: 'count' },
      fix: {
        label: 'Use longer bays',
        kind: 'set',
        stage: 'make',
        parameter: p.by === 'count' ? 'bays' : 'bay',
        value:
          p.by === 'count'
            ? Math.max(1, Math.floor((p.bays * most) / stations.asked) - 1)
            : Math.min(100, (p.bay * stations.asked) / most),
      },
    });
  const short = Array.from(framed.lengths).findIndex((length) => length > 0 && p.by === 'length' && length < 0.5 * bay);
  if (short >= 0) {
    const first = 3 * framed.lines.start[short];
    const [x, y, z] = framed.lines.position.subarray(first, first + 3);
    context.report({
      code: 'bay-longer',
      severity: 'warning',
      message: 'A line is shorter than half a bay: it gets a single bay. Reduce the bay length, or draw a longer line.',
      place: [x, y, z],
      size: { value: framed.lengths[short], limit: bay, kind: 'length' },
      fix: {
        label: 'Use shorter bays',
        kind: 'set',
        stage: 'make',
        parameter: 'bay',
        value: Math.max(0.02, framed.lengths[short] / greatest(p.depth) / 2),
      },
    });
  }
}

/** Reports where joints that turn freely have fewer bars than hold them (Maxwell 1864). */
export function reportLoose(
  measures: readonly Measure[],
  { joint }: Lattice,
  p: TrussChoice,
  context: BuildContext,
): void {
  const spare = measures.find(({ id }) => id === 'spare')?.value ?? 0;
  if (p.joint !== 'ball' || spare >= 0) return;
  context.report({
    code: 'bays-loose',
    severity: 'note',
    message: `${-spare} members too few to be rigid with hinged joints (Maxwell’s count). Add diagonals, or brace the ends.`,
    place: [joint[0], joint[1], joint[2]],
    size: { value: -spare, limit: 0, kind: 'count' },
    fix:
      p.webs === 'none'
        ? { label: 'Add diagonals', kind: 'set', stage: 'make', parameter: 'webs', value: 'one-way' }
        : { label: 'Brace the ends', kind: 'set', stage: 'make', parameter: 'ends', value: 'braced' },
  });
}

/** Reports ends that stay square because the cut that is asked for does not meet them. */
export function reportUncut({ uncut, framed }: Layout, p: TrussChoice, context: BuildContext): void {
  if (uncut === 0) return;
  const [x, y, z] = framed.lines.position;
  context.report({
    code: 'ends-uncut',
    severity: 'warning',
    message: `${uncut === 1 ? 'An end of a chord stays' : `${uncut} ends of chords stay`} square: ${p.endCut === 'prop' ? 'the prop is not within a few bays of the end, or would cut the last bay away. Choose another prop, or extend the line to it' : 'the cut runs along the chord, or would cut the last bay away. Choose another end cut, or draw a longer line'}.`,
    place: [x, y, z],
    size: { value: uncut, limit: 0, kind: 'count' },
    fix: { label: 'Cut the ends square', kind: 'set', stage: 'make', parameter: 'endCut', value: 'square' },
  });
}

/** Reports profiles of the project that members cannot be cut from. */
export function reportProfiles(p: TrussChoice, context: BuildContext): void {
  const asked = [
    [p.chordProfile, p.chordOwn],
    [p.webProfile, p.webOwn],
    [p.frameProfile, p.frameOwn],
    ...(p.ties === 'none' ? [] : [[p.tieProfile, p.tieOwn]]),
  ];
  for (const id of new Set(asked.filter(([value]) => value === OWN).map(([, own]) => own))) {
    const profile = context.profile(id);
    reportProfile(OWN, id, 1, context);
    if (profile && profileSize(profile) && !ownProfile(profile))
      context.report({
        code: 'profile-line',
        severity: 'warning',
        message: `"${profile.name}" encloses no area: round members are used. Close its outline, or choose another profile.`,
      });
  }
}

/** Members in words. */
const WORDS = [
  { one: 'chord', all: 'Chords' },
  { one: 'diagonal', all: 'Diagonals' },
  { one: 'frame', all: 'Frames' },
  { one: 'tie', all: 'Ties' },
];

/** Reports members that are too thick for their bay, and of those that are too slender. */
export function reportMembers(lattice: Lattice, lengths: Float64Array, p: TrussChoice, context: BuildContext): void {
  const stocks = stocksOf(p, context);
  const thick = ['chord', 'web', 'frame', 'tie'] as const;
  const placeOf = (joint: number): [number, number, number] => [
    lattice.joint[3 * joint],
    lattice.joint[3 * joint + 1],
    lattice.joint[3 * joint + 2],
  ];
  for (const [kind, ends] of extremesOf(lattice, lengths).entries()) {
    if (!ends) continue;
    const { longest, least } = ends;
    const { profile, radius, wall } = stocks[kind];
    if (kind !== CHORD && 2 * radius > least.length)
      context.report({
        code: 'member-thick',
        severity: 'warning',
        message: `A ${WORDS[kind].one} is {value} thick (limit {limit}), more than its length. Reduce its thickness, or increase bays and depth.`,
        place: placeOf(least.joint),
        size: { value: 2 * radius, limit: least.length, kind: 'length' },
        fix: {
          label: 'Make members thinner',
          kind: 'set',
          stage: 'make',
          parameter: thick[kind],
          value: Math.max(0.001, (p[thick[kind]] * least.length) / (4 * radius)),
        },
      });
    const slender = longest.length / (profile.gyration(wall) * radius);
    if (slender > SLENDER && (kind !== CHORD || p.curved === 'straight'))
      context.report({
        code: 'member-slender',
        severity: 'note',
        message: `${WORDS[kind].all} are ${Math.round(slender)} times as long as their radius of gyration and would buckle. Make them thicker, or shorten the bays.`,
        place: placeOf(longest.joint),
        size: { value: Math.round(slender), limit: SLENDER, kind: 'count' },
        fix: {
          label: 'Make members thicker',
          kind: 'set',
          stage: 'make',
          parameter: thick[kind],
          value: Math.min(1, (CLEAR_OF_IT * p[thick[kind]] * slender) / SLENDER),
        },
      });
  }
}
