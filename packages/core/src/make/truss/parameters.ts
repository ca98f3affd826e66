import { greatest } from '../../numeric/lane.js';
import type { ParameterSet, ValuesOf } from '../../unit/parameters.js';
import { OWN, PROFILE_OPTIONS, profileOf, STUFFS } from './profiles.js';

/** How the diagonals of one face run. */
export const WEBS = [
  { value: 'zigzag', label: 'Zigzag' },
  { value: 'one-way', label: 'Parallel' },
  { value: 'crossed', label: 'Crossed' },
  { value: 'k', label: 'K' },
  { value: 'none', label: 'None' },
] as const;
export type Web = (typeof WEBS)[number]['value'];

/** All members in one skin. */
export const WELDED = 'welded';
const SPATIAL = { parameter: 'form', is: ['triangle', 'square', 'more'] } as const;
const AS_SIDES = { value: 'sides', label: 'Same as sides' };
const profile = (label: string, help: string, initial: string) =>
  ({ kind: 'choice', label, help, default: initial, options: PROFILE_OPTIONS, group: 'Members' }) as const;
const own = (label: string, of: string) =>
  ({
    kind: 'profile',
    label,
    help: 'Custom profile from the project; its longer side matches the member’s thickness.',
    default: '',
    when: { parameter: of, is: [OWN] },
    group: 'Members',
  }) as const;
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
    help: 'Two chords in a plane, or three and more in space.',
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
    label: 'Chord count',
    help: 'Number of tubes that run along the truss.',
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
    help: 'Distance from the lowest chord to the highest, centre to centre.',
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
    help: 'Distance from side to side, relative to depth.',
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
    help: 'Set the bay length, adjusted to come out even, or the number of bays.',
    default: 'length',
    options: [
      { value: 'length', label: 'Length' },
      { value: 'count', label: 'Count' },
    ],
  },
  bay: {
    kind: 'ratio',
    of: 'depth',
    label: 'Bay length',
    help: 'Distance from one joint to the next along the line.',
    default: 1,
    min: 0.02,
    max: 100,
    comfortable: [0.4, 3],
    gauge: 'figure',
    when: { parameter: 'by', is: ['length'] },
  },
  bays: {
    kind: 'count',
    label: 'Bay count',
    help: 'Number of bays on each line.',
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
    help: 'Zigzag alternates, Parallel repeats one direction, Crossed fills each bay, K meets at the middle of each frame.',
    default: 'zigzag',
    options: WEBS,
  },
  lineAt: {
    kind: 'choice',
    label: 'Line position',
    help: 'Part of the truss on the line: top hangs below it, bottom is above it.',
    default: 'middle',
    options: [
      { value: 'top', label: 'Top' },
      { value: 'middle', label: 'Middle' },
      { value: 'bottom', label: 'Bottom' },
    ],
  },
  upright: {
    kind: 'choice',
    label: 'Up direction',
    help: 'Stay vertical, or turn with the line as on a surface.',
    default: 'plumb',
    options: [
      { value: 'plumb', label: 'Vertical' },
      { value: 'line', label: 'Follow line' },
    ],
    group: 'Orientation',
  },
  on: {
    kind: 'choice',
    label: 'Resting on',
    help: 'Rest the section on one of its faces, or on an edge.',
    default: 'face',
    options: [
      { value: 'face', label: 'Face' },
      { value: 'edge', label: 'Edge' },
    ],
    group: 'Orientation',
  },
  turn: {
    kind: 'angle',
    label: 'Rotation',
    help: 'Rotates the section around the line.',
    default: 0,
    min: -Math.PI,
    max: Math.PI,
    comfortable: [-Math.PI, Math.PI],
    along: true,
    gauge: 'turn',
    group: 'Orientation',
  },
  curved: {
    kind: 'choice',
    label: 'Chord shape',
    help: 'Run chords straight between joints, or bend them with the line.',
    default: 'straight',
    options: [
      { value: 'straight', label: 'Straight' },
      { value: 'bent', label: 'Curved' },
    ],
    group: 'Lattice',
  },
  topWebs: {
    kind: 'choice',
    label: 'Top diagonals',
    help: 'Diagonals of faces that look up.',
    default: 'sides',
    options: [AS_SIDES, ...WEBS],
    when: SPATIAL,
    group: 'Lattice',
  },
  bottomWebs: {
    kind: 'choice',
    label: 'Bottom diagonals',
    help: 'Diagonals of faces that look down.',
    default: 'sides',
    options: [AS_SIDES, ...WEBS],
    when: SPATIAL,
    group: 'Lattice',
  },
  every: {
    kind: 'count',
    label: 'Frame interval',
    help: 'Number of joints from frame to frame; 0 puts frames at the ends only.',
    default: 1,
    min: 0,
    max: 10_000,
    comfortable: [0, 8],
    gauge: 'figure',
    group: 'Lattice',
  },
  ends: {
    kind: 'choice',
    label: 'End frames',
    help: 'Close each end with a frame, or a braced one if it has more than three corners.',
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
    label: 'Ties',
    help: 'Connect the upper joints to those of the next truss: ties alone, or with crosses, as purlins under a roof.',
    default: 'none',
    options: [
      { value: 'none', label: 'None' },
      { value: 'ties', label: 'Ties' },
      { value: 'braced', label: 'Crossed' },
    ],
    group: 'Parallel trusses',
  },
  tieEvery: {
    kind: 'count',
    label: 'Tie interval',
    help: 'Number of joints from tie to tie.',
    default: 1,
    min: 1,
    max: 10_000,
    comfortable: [1, 8],
    gauge: 'figure',
    when: { parameter: 'ties', is: ['ties', 'braced'] },
    group: 'Parallel trusses',
  },
  tieProfile: {
    ...profile('Tie profile', 'Section of the ties.', 'tube'),
    when: { parameter: 'ties', is: ['ties', 'braced'] },
    group: 'Parallel trusses',
  },
  tieOwn: { ...own('Custom tie profile', 'tieProfile'), group: 'Parallel trusses' },
  tie: {
    ...thick('Tie thickness', 'Thickness of a tie.', 0.08),
    when: { parameter: 'ties', is: ['ties', 'braced'] },
    group: 'Parallel trusses',
  },
  chordProfile: profile('Chord profile', 'Section of the chords.', 'tube'),
  chordOwn: own('Custom chord profile', 'chordProfile'),
  chord: thick('Chord thickness', 'Thickness of a chord.', 0.16),
  webProfile: profile('Diagonal profile', 'Section of the diagonals.', 'tube'),
  webOwn: own('Custom diagonal profile', 'webProfile'),
  web: thick('Diagonal thickness', 'Thickness of a diagonal.', 0.07),
  frameProfile: profile('Frame profile', 'Section of the frames.', 'tube'),
  frameOwn: own('Custom frame profile', 'frameProfile'),
  frame: thick('Frame thickness', 'Thickness of a frame member.', 0.08),
  wall: {
    kind: 'ratio',
    of: 'half the thickness',
    label: 'Wall thickness',
    help: 'Wall of tubes and angles, used for the mass.',
    default: 0.12,
    min: 0.01,
    max: 0.95,
    comfortable: [0.04, 0.4],
    gauge: 'figure',
    group: 'Members',
  },
  stuff: {
    kind: 'choice',
    label: 'Material',
    help: 'Material used for the mass.',
    default: 'steel',
    options: STUFFS.map(({ value, label }) => ({ value, label })),
    group: 'Members',
  },
  closed: {
    kind: 'choice',
    label: 'End closure',
    help: 'Caps on each tube, one plate over all, or spigots and sockets with pins.',
    default: 'caps',
    options: [
      { value: 'caps', label: 'Caps' },
      { value: 'plate', label: 'Plate' },
      { value: 'spigots', label: 'Spigots' },
    ],
    group: 'Joints',
  },
  endCut: {
    kind: 'choice',
    label: 'End cut',
    help: 'Cut ends square, plumb or level like rafters, or chord by chord where they meet a prop.',
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
    label: 'End prop',
    help: 'Prop that chords run up to.',
    default: '',
    when: { parameter: 'endCut', is: ['prop'] },
    group: 'Joints',
  },
  joint: {
    kind: 'choice',
    label: 'Joint type',
    help: 'Run members into the chord, join them with balls or plates, or weld round tubes into one smooth surface, which takes longer.',
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
    of: 'chord thickness',
    label: 'Ball diameter',
    help: 'Diameter of a ball, relative to the chord.',
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
    of: 'thinnest member’s radius',
    label: 'Cell size',
    help: 'Edge length of the welded surface’s faces; half the size takes eight times as long.',
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
    of: 'thinnest member’s radius',
    label: 'Fillet radius',
    help: 'Radius of the weld between members.',
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
    of: 'chord thickness',
    label: 'Plate width',
    help: 'Width of a joint plate, relative to the chord.',
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
    label: 'Bake as',
    help: 'Bake members with joints, or centre lines named by what they are cut from.',
    default: 'members',
    options: [
      { value: 'members', label: 'Members' },
      { value: 'lines', label: 'Centre lines' },
    ],
    group: 'Resolution',
  },
  sides: {
    kind: 'count',
    label: 'Sides',
    help: 'Number of segments around a tube.',
    default: 12,
    min: 4,
    max: 64,
    comfortable: [6, 32],
    gauge: 'corners',
    group: 'Resolution',
  },
} as const satisfies ParameterSet;
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
