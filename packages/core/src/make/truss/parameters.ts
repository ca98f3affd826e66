import { greatest } from '../../numeric/lane.js';
import type { ParameterSet, ValuesOf } from '../../unit/parameters.js';
import { OWN, PROFILE_OPTIONS, profileOf, STUFFS } from './profiles.js';

/** How the diagonals of one face run. */
export const WEBS = [
  { value: 'zigzag', label: 'Zigzag' },
  { value: 'one-way', label: 'One way' },
  { value: 'crossed', label: 'Crossed' },
  { value: 'k', label: 'K' },
  { value: 'none', label: 'None' },
] as const;
export type Web = (typeof WEBS)[number]['value'];

/** All members in one skin. */
export const WELDED = 'welded';
const SPATIAL = { parameter: 'form', is: ['triangle', 'square', 'more'] } as const;
const AS_SIDES = { value: 'sides', label: 'As the sides' };
const profile = (label: string, help: string, initial: string) =>
  ({ kind: 'choice', label, help, default: initial, options: PROFILE_OPTIONS, group: 'Members' }) as const;
const own = (label: string, of: string) =>
  ({ kind: 'profile', label, help: 'A profile of the project; the longer side of it is as long as the member is thick.', default: '', when: { parameter: of, is: [OWN] }, group: 'Members' }) as const; // biome-ignore format: one line
const thick = (label: string, help: string, initial: number) =>
  ({
    kind: 'ratio',
    of: 'depth',
    label,
    help,
    default: initial,
    min: 0.001,
    max: 1,
    comfortable: [0.02, 0.25],
    gauge: 'figure',
    group: 'Members',
  }) as const;

export const TRUSS = {
  form: {
    kind: 'choice',
    label: 'Section',
    help: 'Two chords in one plane, or three, four or more in space.',
    default: 'triangle',
    options: [
      { value: 'flat', label: 'Flat' },
      { value: 'triangle', label: 'Three' },
      { value: 'square', label: 'Four' },
      { value: 'more', label: 'More' },
    ],
  },
  chords: {
    kind: 'count',
    label: 'Chords',
    help: 'Tubes that run along it.',
    default: 6,
    min: 3,
    max: 24,
    comfortable: [3, 12],
    gauge: 'corners',
    when: { parameter: 'form', is: ['more'] },
  },
  depth: {
    kind: 'length',
    label: 'Depth',
    help: 'From the lowest chord to the highest, middle to middle.',
    default: 0.3,
    min: 1e-4,
    max: 1000,
    comfortable: [0.05, 3],
    along: true,
    share: 'size',
    gauge: 'diameter',
  },
  width: {
    kind: 'ratio',
    of: 'depth',
    label: 'Width',
    help: 'From side to side.',
    default: 1,
    min: 0.01,
    max: 100,
    comfortable: [0.2, 4],
    along: true,
    gauge: 'figure',
    when: SPATIAL,
  },
  by: {
    kind: 'choice',
    label: 'Bays by',
    help: 'So long each, drawn out a little so that they come out even; or so many.',
    default: 'length',
    options: [
      { value: 'length', label: 'Length' },
      { value: 'count', label: 'Number' },
    ],
  },
  bay: {
    kind: 'ratio',
    of: 'depth',
    label: 'Bay',
    help: 'From one joint to the next along the line.',
    default: 1,
    min: 0.02,
    max: 100,
    comfortable: [0.4, 3],
    gauge: 'figure',
    when: { parameter: 'by', is: ['length'] },
  },
  bays: {
    kind: 'count',
    label: 'Bays',
    help: 'So many on each line.',
    default: 12,
    min: 1,
    max: 20_000,
    comfortable: [1, 60],
    gauge: 'samples',
    when: { parameter: 'by', is: ['count'] },
  },
  webs: {
    kind: 'choice',
    label: 'Diagonals',
    help: 'How the diagonals run: from side to side by turns, all the same way, crossed in each bay, or from the middle of each frame.',
    default: 'zigzag',
    options: WEBS,
  },
  lineAt: {
    kind: 'choice',
    label: 'Line at',
    help: 'What of it runs along the line: it hangs below, lies around or stands above.',
    default: 'middle',
    options: [
      { value: 'top', label: 'Top' },
      { value: 'middle', label: 'Middle' },
      { value: 'bottom', label: 'Bottom' },
    ],
  },
  upright: {
    kind: 'choice',
    label: 'Stands',
    help: 'Plumb wherever the line goes, or turned as the line is: as it lies on a surface.',
    default: 'plumb',
    options: [
      { value: 'plumb', label: 'Plumb' },
      { value: 'line', label: 'As the line' },
    ],
    group: 'Stand',
  },
  on: {
    kind: 'choice',
    label: 'On',
    help: 'It stands on one of its faces, or on an edge.',
    default: 'face',
    options: [
      { value: 'face', label: 'A face' },
      { value: 'edge', label: 'An edge' },
    ],
    group: 'Stand',
  },
  turn: {
    kind: 'angle',
    label: 'Turned',
    help: 'About its line.',
    default: 0,
    min: -Math.PI,
    max: Math.PI,
    comfortable: [-Math.PI, Math.PI],
    along: true,
    gauge: 'turn',
    group: 'Stand',
  },
  curved: {
    kind: 'choice',
    label: 'Chords run',
    help: 'Straight from joint to joint, or bent as the line is.',
    default: 'straight',
    options: [
      { value: 'straight', label: 'Straight' },
      { value: 'bent', label: 'Bent' },
    ],
    group: 'Lattice',
  },
  topWebs: { kind: 'choice', label: 'Upper face', help: 'Diagonals of faces that look up.', default: 'sides', options: [AS_SIDES, ...WEBS], when: SPATIAL, group: 'Lattice' },
  bottomWebs: { kind: 'choice', label: 'Lower face', help: 'Diagonals of faces that look down.', default: 'sides', options: [AS_SIDES, ...WEBS], when: SPATIAL, group: 'Lattice' },
  every: {
    kind: 'count',
    label: 'Frame at each',
    help: 'A frame across at every joint for 1, at every second for 2; 0 for none between the ends.',
    default: 1,
    min: 0,
    max: 10_000,
    comfortable: [0, 8],
    gauge: 'figure',
    group: 'Lattice',
  },
  ends: {
    kind: 'choice',
    label: 'Ends',
    help: 'A frame closes each end; braced, it has diagonals where it has more than three corners.',
    default: 'frame',
    options: [
      { value: 'frame', label: 'Frame' },
      { value: 'braced', label: 'Braced' },
      { value: 'open', label: 'Open' },
    ],
    group: 'Lattice',
  },
  ties: {
    kind: 'choice',
    label: 'To the next',
    help: 'Ties run from the upper joints of each truss to those of the next one beside it: purlins under a roof, alone or with crosses between them.',
    default: 'none',
    options: [
      { value: 'none', label: 'None' },
      { value: 'ties', label: 'Ties' },
      { value: 'braced', label: 'Crossed' },
    ],
    group: 'Side by side',
  },
  tieEvery: {
    kind: 'count',
    label: 'Tie at each',
    help: 'At every joint for 1, at every second for 2.',
    default: 1,
    min: 1,
    max: 10_000,
    comfortable: [1, 8],
    gauge: 'figure',
    when: { parameter: 'ties', is: ['ties', 'braced'] },
    group: 'Side by side',
  },
  tieProfile: { ...profile('Ties of', 'What ties are cut from.', 'tube'), when: { parameter: 'ties', is: ['ties', 'braced'] }, group: 'Side by side' },
  tieOwn: { ...own('Tie profile', 'tieProfile'), group: 'Side by side' },
  tie: { ...thick('Tie', 'How thick a tie is.', 0.08), when: { parameter: 'ties', is: ['ties', 'braced'] }, group: 'Side by side' },
  chordProfile: profile('Chords of', 'What chords are cut from.', 'tube'),
  chordOwn: own('Chord profile', 'chordProfile'),
  chord: thick('Chord', 'How thick a chord is.', 0.16),
  webProfile: profile('Diagonals of', 'What diagonals are cut from.', 'tube'),
  webOwn: own('Diagonal profile', 'webProfile'),
  web: thick('Diagonal', 'How thick a diagonal is.', 0.07),
  frameProfile: profile('Frames of', 'What frames are cut from.', 'tube'),
  frameOwn: own('Frame profile', 'frameProfile'),
  frame: thick('Frame', 'How thick a member of a frame is.', 0.08),
  wall: {
    kind: 'ratio',
    of: 'half the thickness',
    label: 'Wall',
    help: 'Of tubes and angles: it counts for the mass.',
    default: 0.12,
    min: 0.01,
    max: 0.95,
    comfortable: [0.04, 0.4],
    gauge: 'figure',
    group: 'Members',
  },
  stuff: {
    kind: 'choice',
    label: 'Made of',
    help: 'By it the mass is told.',
    default: 'steel',
    options: STUFFS.map(({ value, label }) => ({ value, label })),
    group: 'Members',
  },
  closed: {
    kind: 'choice',
    label: 'Closed by',
    help: 'What closes open ends: a cap on each tube, a plate over all, or spigots and sockets with pins that join it to the next.',
    default: 'caps',
    options: [
      { value: 'caps', label: 'Caps' },
      { value: 'plate', label: 'A plate' },
      { value: 'spigots', label: 'Spigots' },
    ],
    group: 'Joints',
  },
  endCut: {
    kind: 'choice',
    label: 'Ends cut',
    help: 'Square to it; plumb or level, as rafters are; or where they meet a prop, each chord by itself.',
    default: 'square',
    options: [
      { value: 'square', label: 'Square' },
      { value: 'plumb', label: 'Plumb' },
      { value: 'level', label: 'Level' },
      { value: 'prop', label: 'At a prop' },
    ],
    group: 'Joints',
  },
  cutBy: {
    kind: 'prop',
    label: 'Prop',
    help: 'The prop that chords run up to.',
    default: '',
    when: { parameter: 'endCut', is: ['prop'] },
    group: 'Joints',
  },
  joint: {
    kind: 'choice',
    label: 'Joints',
    help: 'Members run into the chord, end at a ball, are held by plates, or are welded: one smooth skin of round tubes, which takes longer.',
    default: 'plain',
    options: [
      { value: 'plain', label: 'Plain' },
      { value: 'ball', label: 'Balls' },
      { value: 'plate', label: 'Plates' },
      { value: WELDED, label: 'Welded' },
    ],
    group: 'Joints',
  },
  ball: {
    kind: 'ratio',
    of: 'a chord’s thickness',
    label: 'Ball',
    help: 'How thick a ball is.',
    default: 1.9,
    min: 1.01,
    max: 20,
    comfortable: [1.3, 4],
    gauge: 'figure',
    when: { parameter: 'joint', is: ['ball'] },
    group: 'Joints',
  },
  cell: {
    kind: 'ratio',
    of: 'the thinnest member’s half',
    label: 'Cell',
    help: 'Longest edge of the one skin’s faces, about: half as long are eight times the work.',
    default: 1.2,
    min: 0.1,
    max: 20,
    comfortable: [0.6, 2],
    gauge: 'figure',
    when: { parameter: 'joint', is: [WELDED] },
    group: 'Joints',
  },
  fillet: {
    kind: 'ratio',
    of: 'the thinnest member’s half',
    label: 'Fillet',
    help: 'How widely welded members run into each other.',
    default: 0.4,
    min: 0,
    max: 20,
    comfortable: [0, 3],
    gauge: 'figure',
    when: { parameter: 'joint', is: [WELDED] },
    group: 'Joints',
  },
  plate: {
    kind: 'ratio',
    of: 'a chord’s thickness',
    label: 'Plate',
    help: 'How wide a plate is.',
    default: 3,
    min: 1.01,
    max: 40,
    comfortable: [2, 6],
    gauge: 'figure',
    when: { parameter: 'joint', is: ['plate'] },
    group: 'Joints',
  },
  bakedAs: {
    kind: 'choice',
    label: 'Baked as',
    help: 'Its members with their joints; or lines from joint to joint, each kind named by what it is cut from.',
    default: 'members',
    options: [
      { value: 'members', label: 'Members' },
      { value: 'lines', label: 'Centre lines' },
    ],
    group: 'Divisions',
  },
  sides: {
    kind: 'count',
    label: 'Sides',
    help: 'Faces round a tube.',
    default: 12,
    min: 4,
    max: 64,
    comfortable: [6, 32],
    gauge: 'corners',
    group: 'Divisions',
  },
} as const satisfies ParameterSet; // biome-ignore format: its short ones in one line each
export type TrussChoice = ValuesOf<typeof TRUSS>;

/** How many chords it has. */
export const chordsOf = ({ form, chords }: Pick<TrussChoice, 'form' | 'chords'>): number =>
  form === 'flat' ? 2 : form === 'triangle' ? 3 : form === 'square' ? 4 : chords;

/** How far a member reaches from its own middle, metres: what is square is turned edge on somewhere. */
export const memberReach = (profile: string, thick: number, { depth }: Pick<TrussChoice, 'depth'>): number =>
  (profile === OWN || profileOf(profile).outline === 8 ? Math.SQRT2 : 1) * thick * (greatest(depth) / 2);

/** How a chord is turned from the way out of the truss: an angle's corner outwards, square ones along the faces of four. */
export const chordRoll = (p: Pick<TrussChoice, 'chordProfile' | 'form' | 'chords'>): number =>
  p.chordProfile === 'angle' ? 0.75 * Math.PI : chordsOf(p) === 4 ? Math.PI / 4 : 0;

export const chordReach = (p: TrussChoice): number =>
  memberReach(p.chordProfile, p.chord, p) / (chordsOf(p) === 4 && p.on === 'face' && isSquare(p) ? Math.SQRT2 : 1);

const isSquare = ({ chordProfile }: TrussChoice): boolean => profileOf(chordProfile).outline === 8;
