import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, pointCount } from '../../curve/curve-set.js';
import { formSection } from '../../section/forms.js';
import type { Mark, Part } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { type BendSize, reportBends } from '../corners.js';
import { STEERING, type SweepSpec, sweptOn } from '../steering.js';
import { bracketsAt } from './brackets.js';
import { cutList } from './cut-list.js';
import { FITTINGS, type Fitting, fittingMesh } from './fittings.js';
import { alongPipe, placesAt, type Stand, standsOf } from './places.js';
import { type PipeRun, pipeRun } from './run.js';
import { PIPE_SIZES, pipeSize } from './sizes.js';
import { alongLegs, atBends, atEnds, brackets, type Station } from './stations.js';

const NONE = { value: 'none', label: 'None' };
const JOINTS = [NONE, ...Object.entries(FITTINGS).map(([value, { label }]) => ({ value, label }))];
/** Joints along the legs of one piece at most, and brackets: asked for closer, they are further apart. */
const MAX_STATIONS = 5000;
/** A bracket stands this many radii off a joint at least. */
const CLEAR = 3;
/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;

export const pipe = defineUnit({
  stage: 'make',
  id: 'pipe',
  label: 'Pipe',
  purpose: 'Straight lengths and true bends with flanges, sleeves and brackets, and a cut list.',
  synonyms: ['tube', 'tubing', 'duct', 'conduit', 'plumbing', 'elbow', 'flange'],
  parameters: {
    size: {
      kind: 'choice',
      label: 'Size',
      help: 'Nominal size with outside diameter, wall and elbow from the published tables, or a custom size.',
      default: 'free',
      options: [{ value: 'free', label: 'Custom' }, ...PIPE_SIZES.map(({ value, label }) => ({ value, label }))],
    },
    radius: {
      kind: 'length',
      label: 'Radius',
      help: 'Distance from the middle to the outside.',
      default: 0.024,
      min: 1e-4,
      max: 100,
      comfortable: [0.005, 0.3],
      share: 'size',
      gauge: 'diameter',
      when: { parameter: 'size', is: ['free'] },
    },
    wall: {
      kind: 'ratio',
      of: 'radius',
      label: 'Wall thickness',
      help: 'Thickness of the pipe wall.',
      default: 0.14,
      min: 0.01,
      max: 0.95,
      comfortable: [0.05, 0.4],
      gauge: 'figure',
      when: { parameter: 'size', is: ['free'] },
    },
    bends: {
      kind: 'choice',
      label: 'Bend type',
      help: 'Use the table’s long-radius elbows where the size has one, or a set radius.',
      default: 'radius',
      options: [
        { value: 'elbow', label: 'Elbows' },
        { value: 'radius', label: 'Radius' },
      ],
    },
    bendRadius: {
      kind: 'ratio',
      of: 'diameter',
      label: 'Bend radius',
      help: 'Radius of the centre line, relative to the outside diameter.',
      default: 1.5,
      min: 0.5,
      max: 1000,
      comfortable: [1, 10],
      gauge: { kind: 'across', size: 'radius' },
      when: { parameter: 'bends', is: ['radius'] },
    },
    legs: {
      kind: 'choice',
      label: 'Leg type',
      help: 'Straight from point to point, or as drawn with bends only at corners.',
      default: 'points',
      options: [
        { value: 'points', label: 'Straight' },
        { value: 'line', label: 'As drawn' },
      ],
    },
    atEnds: {
      kind: 'choice',
      label: 'End fittings',
      help: 'Fitting at open ends.',
      default: 'none',
      options: JOINTS,
      group: 'Joints',
    },
    atBends: {
      kind: 'choice',
      label: 'Bend fittings',
      help: 'Fitting between bends and straight lengths.',
      default: 'none',
      options: JOINTS,
      group: 'Joints',
    },
    stock: {
      kind: 'length',
      label: 'Stock length',
      help: 'Longest straight length available; longer legs are joined. 0 is unlimited.',
      default: 0,
      min: 0,
      max: 1000,
      comfortable: [0, 6],
      gauge: 'spacing',
      group: 'Joints',
    },
    between: {
      kind: 'choice',
      label: 'Length fittings',
      help: 'Fitting between straight lengths.',
      default: 'sleeve',
      options: JOINTS,
      group: 'Joints',
    },
    brackets: {
      kind: 'length',
      label: 'Bracket spacing',
      help: 'Largest distance between brackets on a straight leg; 0 is none.',
      default: 0,
      min: 0,
      max: 1000,
      comfortable: [0, 4],
      gauge: 'spacing',
      group: 'Brackets',
    },
    reach: {
      kind: 'ratio',
      of: 'radius',
      label: 'Bracket reach',
      help: 'Distance from the pipe’s middle within which a bracket finds a prop.',
      default: 8,
      min: 1,
      max: 1000,
      comfortable: [2, 20],
      gauge: 'figure',
      group: 'Brackets',
    },
    sides: {
      kind: 'count',
      label: 'Sides',
      help: 'Number of segments around the pipe.',
      default: 32,
      min: 6,
      max: 256,
      comfortable: [16, 64],
      gauge: 'corners',
      group: 'Resolution',
    },
    bendStep: { ...STEERING.bendStep, default: Math.PI / 40, group: 'Resolution' },
  },
  presets: [
    { id: 'plain-pipe', label: 'Plain pipe', parameters: {} },
    {
      id: 'flanged-pipe',
      label: 'Flanged pipe',
      parameters: {
        size: 'dn50',
        bends: 'elbow',
        atEnds: 'flange',
        atBends: 'bead',
        stock: 3,
        between: 'flange',
        brackets: 1.2,
      },
    },
    {
      id: 'sleeved-pipe',
      label: 'Sleeved pipe',
      parameters: { radius: 0.016, wall: 0.18, bendRadius: 1.2, atEnds: 'sleeve', atBends: 'sleeve', brackets: 0.8 },
    },
    {
      id: 'bent-tube',
      label: 'Bent tube',
      synonyms: ['brake line', 'exhaust'],
      parameters: { radius: 0.008, wall: 0.15, bendRadius: 2.5, brackets: 0.6 },
    },
  ],
  shelf: 'swept',
  outfits: [
    {
      id: 'works',
      label: 'Works steel',
      wears: {
        main: { unit: 'patterned', preset: 'brushed-steel' },
        brackets: { unit: 'plain', preset: 'green-paint' },
      },
    },
    {
      id: 'sea-water',
      label: 'Sea water',
      wears: {
        main: { unit: 'plain', preset: 'green-paint' },
        fittings: { unit: 'plain', preset: 'brass' },
        brackets: { unit: 'plain', preset: 'steel' },
      },
    },
    {
      id: 'hose',
      label: 'Hose',
      wears: {
        main: { unit: 'patterned', preset: 'ribbed-hose' },
        fittings: { unit: 'patterned', preset: 'knurled-steel' },
      },
    },
  ],
  slots: [
    { id: 'fittings', label: 'Fittings', wears: { unit: 'plain', preset: 'steel' } },
    { id: 'brackets', label: 'Brackets', wears: { unit: 'plain', preset: 'steel' } },
  ],
  sample: { lines: ['zigzag'] },
  thickness: (p) => sizesOf(p).radius,
  cost(input, p, { density }) {
    const run = runOf(input, p, density);
    const all = stationsOf(run, p);
    const ring = sidesOf(p.sides, density) * 2 + 4;
    const vertices = ring * pointCount(run.rails) + 24 * ring * (all.joints.length + all.ends.length + all.held.length);
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  describe(p, length) {
    const named = pipeSize(p.size)?.label;
    return `${named ? `${named}, ` : ''}⌀ ${length(2 * sizesOf(p).radius)}`;
  },
  build(input, p, context) {
    const { radius, wall } = sizesOf(p);
    const run = runOf(input, p, context.density);
    reportBends(run.bends, bendOf(p), context);
    const sides = sidesOf(p.sides, context.density);
    const { ends, bends, between, held, joints, stock, wider } = stationsOf(run, p);
    reportWider(wider, context);
    const parts: Part[] = [];
    const joined = [
      { kind: p.atEnds, stations: ends },
      { kind: p.atBends, stations: bends },
      { kind: p.between, stations: between },
    ];
    for (const [kind, { label }] of Object.entries(FITTINGS)) {
      const stands = standsOf(
        run,
        joined.filter((one) => one.kind === kind).flatMap((one) => one.stations),
      );
      const places = placesAt(
        run,
        stands.flatMap((stand) => fitted(kind as Fitting, stand, radius)),
      );
      if (places.id.length > 0)
        parts.push({
          kind: 'placed',
          id: kind,
          name: label,
          slot: 'fittings',
          mesh: fittingMesh(kind as Fitting, 2 * radius, sides),
          places,
        });
    }
    const { parts: brackets, free } = bracketsAt(run.rails, held, context.surroundings, {
      radius,
      within: p.reach * radius,
      sides,
      slot: 'brackets',
    });
    parts.push(...brackets);
    reportFree(free, p.reach * radius, context);
    const made = sweptOn(run, tubeOf(radius, wall, sides), { ...PLAIN, bendStep: p.bendStep }, context, {
      id: 'pipe',
      name: 'Pipe',
    });
    return {
      ...made,
      parts: [...made.parts, ...parts],
      marks: [markOf(run, 'joint', 'Joints', [...ends, ...joints]), markOf(run, 'clip', 'Brackets', held)].filter(
        ({ along }) => along.length > 0,
      ),
      ...cutList(run, stock, joints.length),
    };
  },
});

interface PipeChoice {
  size: string;
  radius: number;
  wall: number;
  bends: string;
  bendRadius: number;
  legs: string;
  atEnds: string;
  atBends: string;
  stock: number;
  between: string;
  brackets: number;
  bendStep: number;
}

/** What steers a pipe along its rails: nothing but its flat ends. */
const PLAIN = { cuts: 0, roll: 0, twist: 0, start: 'flat', end: 'flat', leastBend: 1 };

/** Outside radius and wall, metres. */
function sizesOf({ size, radius, wall }: Pick<PipeChoice, 'size' | 'radius' | 'wall'>): {
  radius: number;
  wall: number;
} {
  const named = pipeSize(size);
  return named ? { radius: named.outside / 2, wall: named.wall } : { radius, wall: wall * radius };
}

/** Bend radius and outside diameter, metres. */
function bendOf(p: PipeChoice): BendSize {
  const diameter = 2 * sizesOf(p).radius;
  const elbow = p.bends === 'elbow' ? pipeSize(p.size)?.elbow : undefined;
  return { radius: elbow ?? p.bendRadius * diameter, diameter, given: elbow !== undefined };
}

const sidesOf = (sides: number, density: number): number =>
  density === 1 ? sides : Math.max(6, 2 * Math.round((sides * density) / 2));

const runOf = (input: CurveSet, p: PipeChoice, density: number): PipeRun =>
  pipeRun(input, p.legs === 'points', bendOf(p).radius, p.bendStep / density);

/** Everything that is on a run. */
function stationsOf(run: PipeRun, p: PipeChoice) {
  const { radius } = sizesOf(p);
  const lengths = curveLengths(run.rails);
  // a leg over the seam of a closed line goes on past its end
  const some = (kind: string, stations: () => Station[]) =>
    kind === 'none'
      ? []
      : stations().map((one) => ({ ...one, at: one.at > lengths[one.curve] ? one.at - lengths[one.curve] : one.at }));
  const ends = some(p.atEnds, () => atEnds(run, lengths));
  const bends = some(p.atBends, () => atBends(run));
  const least = lengths.reduce((sum, length) => sum + length, 0) / MAX_STATIONS;
  const apart = (asked: number) => (asked > 0 ? Math.max(asked, least) : 0);
  const stock = apart(p.stock);
  const between = some(p.between, () => alongLegs(run, stock));
  const joints = [...bends, ...between];
  const held = some(p.brackets > 0 ? 'bracket' : 'none', () =>
    brackets(run, apart(p.brackets), [...ends, ...joints], CLEAR * radius),
  );
  const closest = Math.min(...[p.stock, p.brackets].filter((asked) => asked > 0));
  return { ends, bends, between, joints, held, stock, wider: closest < least ? least : undefined };
}

function reportWider(wider: number | undefined, { report }: BuildContext): void {
  if (wider === undefined) return;
  report({
    code: 'too-many-joints',
    severity: 'warning',
    message: `Too many joints or brackets: they are ${(1000 * wider).toFixed(1)} mm apart. Increase their spacing.`,
    size: { value: wider, limit: wider, kind: 'length' },
  });
}

/** A flange shows its face: two of them meet at a joint, one ends an end. Others are the same both ways. */
function fitted(kind: Fitting, stand: Stand, radius: number) {
  if (kind !== 'flange') return [alongPipe(stand, radius)];
  const ways = stand.station.way === 0 ? ([1, -1] as const) : [stand.station.way];
  return ways.map((way) => alongPipe(stand, radius, way));
}

const tubeOf = (radius: number, wall: number, sides: number): SweepSpec => ({
  section: formSection('tube', {
    width: 1,
    sides,
    points: 3,
    wall: Math.min(0.99, wall / radius),
    depth: 0,
    rounding: 0,
  }),
  size: radius,
  flatness: 1,
  isRound: true,
  least: 1,
});

function markOf({ rails }: PipeRun, kind: string, label: string, stations: readonly Station[]): Mark {
  const sorted = stations.toSorted((a, b) => a.curve - b.curve || a.at - b.at);
  return {
    kind,
    label,
    along: Float32Array.from(sorted, ({ at }) => at),
    curve: Uint32Array.from(sorted, ({ curve }) => curve),
    id: Uint32Array.from(sorted, ({ curve }, i) => rails.id[curve] + i),
  };
}

function reportFree(free: readonly Stand[], within: number, { report }: BuildContext): void {
  if (free.length === 0) return;
  report({
    code: 'bracket-free',
    severity: 'note',
    message: `${free.length === 1 ? 'A bracket finds' : `${free.length} brackets find`} no prop within ${Math.round(1000 * within)} mm of the pipe’s middle: only clamps are made. Increase the bracket reach, or move the pipe closer.`,
    place: free[0].at,
    along: free[0].station.at,
  });
}
