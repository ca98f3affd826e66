import type { ControlPoints } from '../curve/catmull-rom.js';
import type { CurveSet } from '../curve/curve-set.js';
import type { ElementEdit, Picture, Profile, Region } from '../document/document.js';
import type { Shades } from '../document/picture-shade.js';
import type { AlongValue } from '../numeric/lane.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Made, Material, Part } from './carriers.js';
import type { Finding, Fix } from './finding.js';
import type { ParameterSet, ParameterValues, ValuesOf } from './parameters.js';

export const STAGES = ['path', 'shape', 'make', 'dress'] as const;
export type Stage = (typeof STAGES)[number];

/** What a unit may ask while it builds. Nothing else reaches it: the same input always gives the same output. */
export interface BuildContext {
  surroundings: Surroundings;
  /** Drawn curves that the unit's parameters name, by id, their points in the world. */
  curves: ReadonlyMap<string, ControlPoints>;
  /** Another piece that the parameters name; undefined where there is none, or where the two need each other. */
  piece(id: string): OtherPiece | undefined;
  /** Profiles, regions and pictures that the parameters name. */
  profile(id: string): Profile | undefined;
  region(id: string): Region | undefined;
  /** Its shades are missing where its file is, or cannot be read. */
  picture(id: string): { picture: Picture; shades: Shades | undefined } | undefined;
  /** Factor on all divisions, 1 as set, 2 twice as fine; a draft asks for less. */
  density: number;
  /** It is for the view alone: of very many strands only the share that is to be shown there need be made. */
  forView: boolean;
  /** How far the thing that will run here reaches from its curve, metres along the length, as its make unit says. */
  thickness: AlongValue;
  /** And how far to its sides, where it lies on something: more than its thickness for what is flat. */
  breadth: AlongValue;
  /** Single elements that were moved, dropped or replaced by hand, by id. */
  edits: ReadonlyMap<number, ElementEdit>;
  /** Make units: what they made last time. It is no longer wanted, so their buffers may be written over. */
  spare?: readonly Part[];
  /** Called with how far long work is, 0…1, and what it comes to in words. @throws KelpError CANCELLED when the answer is not wanted any more */
  step(share: number, says?: string): void;
  report(finding: Finding): void;
}

/** What a piece may know of another one. */
export interface OtherPiece {
  /** Its line after path and shape. */
  line: CurveSet;
  /** What runs there, as fine as it is set. */
  made(): Made;
}

interface StageTypes {
  path: { input: undefined; output: CurveSet };
  shape: { input: CurveSet; output: CurveSet };
  make: { input: CurveSet; output: Made };
  /** The parts that wear one slot; they come back with what the dressing changed of them. */
  dress: { input: readonly Part[]; output: { parts: Part[]; material: Material } };
}

/** Shelves of the locker, in their order: what is on each, in words. */
export const SHELVES = {
  swept: { label: 'Swept', words: 'one section along the line' },
  strands: { label: 'Strands', words: 'bundles of touching strands' },
  elements: { label: 'Elements', words: 'parts along the line' },
  frames: { label: 'Frames and fur', words: 'lattices, hair, bristle' },
} as const;
export type Shelf = keyof typeof SHELVES;

/** What a recipe comes to, reported before it is built. */
export interface Cost {
  vertices: number;
  bytes: number;
  /** Of these, what is in memory at once, where it is baked a part at a time. */
  held?: number;
  strands?: number;
}

/** A material slot of a make unit, and what it wears until something else is chosen. */
export interface Slot {
  id: string;
  label: string;
  /** A dress unit and the preset of it; what the main slot wears when absent. */
  wears?: { unit: string; preset: string };
}

/** What all slots of a make unit wear together; a slot that is not named wears what it wears as it is made. */
export interface Outfit {
  id: string;
  label: string;
  /** By slot, 'main' included: a dress unit and the preset of it. */
  wears: Readonly<Record<string, { unit: string; preset: string }>>;
}

/** Lines that samples are shown on: one with a bend or two, corners, one that crosses it, three points to hang from, one over a bar, a closed one, one from column to column. */
export type SampleLine = 'bent' | 'zigzag' | 'crossing' | 'posts' | 'over' | 'leaf' | 'columns';

/** What a unit is shown on in small pictures, where one bent line does not show its work. */
export interface Sample {
  lines?: readonly SampleLine[];
  /** Units that come before the one that is shown. */
  before?: readonly (readonly [string, ParameterValues])[];
  /** Where it runs, when not along a drawn line; and what runs there, when not a cable. */
  path?: readonly [string, ParameterValues];
  make?: readonly [string, ParameterValues];
  parameters?: ParameterValues;
  /** A bar to lie on, to be sliced, to have edges, or a flat board, or a curved shell; two columns to be joined. */
  bar?: boolean | 'board' | 'shell';
  columns?: boolean;
}

/** One path source, shape operation, make recipe or dressing. `build` is pure; V is what its parameters hold. */
export interface Unit<K extends Stage = Stage, S extends ParameterSet = ParameterSet, V = ParameterValues> {
  stage: K;
  id: string;
  /** Raised when the meaning of a parameter changes. Default 1. */
  version?: number;
  /** In rising order: lifts the parameters of version `from` to the next one. */
  upgrades?: readonly { from: number; upgrade(parameters: ParameterValues): ParameterValues }[];
  label: string;
  /** One line: what it is for. */
  purpose: string;
  /** Other words by which it is searched. */
  synonyms?: readonly string[];
  /** Path units: their lines are the drawn curves as they are, which pens add to and change. */
  byHand?: boolean;
  /** Path units: what runs along a new piece of it, and its dress, where that is no cable. */
  begins?: { make: string; dress: string };
  /** Dress units: they are for strands alone. */
  forStrands?: boolean;
  /** Make units: the shelf of the locker it is on. Default: swept. */
  shelf?: Shelf;
  parameters: S;
  /** Named starting points. The first is what a new piece gets. */
  presets: readonly Preset[];
  /** Whether it needs what makes level sets, which is loaded before it is built. */
  needsLevelSets?(parameters: V): boolean;
  /** Its lines are one thing: they are never built one by one. */
  together?: boolean;
  /** It takes numbers that a region drives as they are, and asks the region itself: of very many lines, all at once. */
  ownRegions?: boolean;
  /** Make units: what they make is no closed body but a sheet, or ends in openings. */
  sheet?: boolean;
  /** Make units: material slots beside 'main'. */
  slots?: readonly Slot[];
  /** Make units: whole outfits to choose from. */
  outfits?: readonly Outfit[];
  sample?: Sample;
  /** Make units say how far their section reaches from the curve, metres. */
  thickness?(parameters: V): AlongValue;
  /** And how far to its sides, where that is more. */
  breadth?(parameters: V): AlongValue;
  /** What a profile that is chosen brings along: its own size. */
  sizedBy?(profile: Profile): ParameterValues;
  /** What a build would come to. */
  cost?(input: StageTypes[K]['input'], parameters: V, context: BuildContext): Cost;
  /** Faults of its own, beside those that are looked for in everything. */
  check?(output: StageTypes[K]['output'], parameters: V, surroundings: Surroundings): Finding[];
  /**
   * Changes of its own parameters that mend a finding, as far as it knows some; the best first.
   * @param length of the line, metres; 0 where there are several
   */
  fixes?(finding: Finding, parameters: V, length: number): readonly Fix[];
  /** State in words, for a closed stage: "12 mm round, 8 sides". Lengths go through `length`. */
  describe(parameters: V, length: (metres: number) => string): string;
  build(input: StageTypes[K]['input'], parameters: V, context: BuildContext): StageTypes[K]['output'];
}

export interface Preset {
  id: string;
  label: string;
  /** Other words by which it is searched, beside those of its unit. */
  synonyms?: readonly string[];
  parameters: ParameterValues;
  /** What it is shown on, where that is not what its unit is shown on. */
  sample?: Sample;
}

/** Declares a unit; only here so that the types of its parameters follow from their declaration. */
export const defineUnit = <K extends Stage, S extends ParameterSet>(
  unit: Unit<K, S, ValuesOf<S>>,
): Unit<K, S, ValuesOf<S>> => unit;
