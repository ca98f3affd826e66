import type { Placement } from '../mesh/transform.js';
import type { Anchor } from '../surface/anchor.js';
import type { ParameterValues } from '../unit/parameters.js';

export const DOCUMENT_FORMAT = 'kelp-project';
export const DOCUMENT_VERSION = 3;

export const DISPLAY_UNITS = ['mm', 'cm', 'm', 'in', 'ft'] as const;
export type DisplayUnit = (typeof DISPLAY_UNITS)[number];

/** The whole of a project but its prop meshes, which are named by content hash. Plain JSON; metres and radians. */
export interface KelpDocument {
  format: typeof DOCUMENT_FORMAT;
  version: typeof DOCUMENT_VERSION;
  name: string;
  displayUnit: DisplayUnit;
  props: Prop[];
  /** Pictures to draw from, standing in the scene. */
  pictures: Picture[];
  curves: DrawnCurve[];
  /** Outlines that any unit may sweep. */
  profiles: Profile[];
  /** Materials that any slot may wear. */
  materials: LibraryMaterial[];
  /** Places in space that drive numbers. */
  regions: Region[];
  clock: Clock;
  pieces: Piece[];
}

/** A flat outline: closed paths are filled (holes by even-odd), open ones sweep to sheets. Metres, +y up. */
export interface Profile {
  id: string;
  name: string;
  paths: { closed: boolean; points: ProfilePoint[] }[];
}

/** An arc of a profile goes at most seven eighths of the way round: bounds of `bulge` to both sides. */
export const MAX_BULGE = 5;

export interface ProfilePoint {
  x: number;
  y: number;
  corner: boolean;
  /**
   * The stretch to the next point is an arc: the tangent of a quarter of its angle, which is its height over half its chord;
   * above 0 it goes round counter-clockwise, out of an outline that does. Straight or smooth when absent.
   */
  bulge?: number;
}

/** A dressing that slots name instead of having one of their own. */
export interface LibraryMaterial {
  id: string;
  name: string;
  dress: UnitUse;
}

/** A ball or a box with a soft edge: 1 inside, falling to 0 over `edge`. */
export interface Region {
  id: string;
  name: string;
  form: 'ball' | 'box';
  position: [number, number, number];
  /** Half extents, metres; a ball has the first one as its radius. */
  size: [number, number, number];
  /** Unit quaternion xyzw. */
  rotation: [number, number, number, number];
  edge: number;
}

/** One time for everything that moves. */
export interface Clock {
  /** Length of the loop, seconds. */
  seconds: number;
  loop: boolean;
}

/** A mesh to draw on and hang things from. */
export interface Prop {
  id: string;
  name: string;
  /** SHA-256 of the stored GLB, hex. */
  mesh: string;
  placement: Placement;
  visible: boolean;
  colour: string;
}

export const PICTURE_PLANES = ['front', 'side', 'top'] as const;

/** A reference picture on one of three planes. */
export interface Picture {
  id: string;
  name: string;
  /** SHA-256 of the stored PNG or JPEG, hex. */
  image: string;
  plane: (typeof PICTURE_PLANES)[number];
  /** Its middle, world metres. */
  position: [number, number, number];
  /** Metres; the height follows from `aspect`. */
  width: number;
  /** Height over width. */
  aspect: number;
  /** 0 unseen … 1. */
  opacity: number;
  visible: boolean;
  /** A locked one never catches a click. */
  locked: boolean;
}

export interface DrawnPoint {
  /** World metres; where the point was last, should its anchor be gone. */
  position: [number, number, number];
  /** Held on a prop, if it was drawn on one. */
  anchor?: Anchor;
  corner: boolean;
  /** Thickness share, 1 = as set. */
  radius: number;
  /** Turn of the section, radians; absent means none. */
  roll?: number;
}

export interface DrawnCurve {
  id: string;
  name: string;
  closed: boolean;
  points: DrawnPoint[];
}

/** One unit in a piece's chain, with all its parameters. */
export interface UnitUse {
  unit: string;
  /** Of the unit, when this was written; absent: 1. */
  version?: number;
  parameters: ParameterValues;
}

/** What a slot wears: a dressing of its own, or a material of the project. */
export type SlotDress = UnitUse | { material: string };

export const isOwnDress = (dress: SlotDress | undefined): dress is UnitUse => dress !== undefined && 'unit' in dress;

/** One element of a make unit that was changed by hand. */
export interface ElementEdit {
  id: number;
  dropped?: boolean;
  /** Metres, world. */
  move?: [number, number, number];
  /** About its own way up, radians. */
  turn?: number;
  /** Factor. */
  size?: number;
  /** The prop that is there instead. */
  prop?: string;
}

export interface ShapeUse extends UnitUse {
  enabled: boolean;
}

/** How a piece is baked. */
export interface BakeChoice {
  /** Factor on all divisions. */
  density: number;
  /** Its meshes carry tangents, for normal maps. */
  tangents?: boolean;
}

/** A number that the clock leads from one value to another. */
export interface KeyedNumber {
  stage: 'path' | 'shape' | 'make';
  /** Which of the shape's operations. */
  index?: number;
  unit: string;
  parameter: string;
  /** Which knot, of a number that varies along the length. */
  knot?: number;
  from: number;
  to: number;
  /** There and back in a loop, or once through it. */
  way: 'back' | 'once';
}

/** What a piece is made by. */
export interface PieceStages {
  path: UnitUse;
  shape: ShapeUse[];
  make: UnitUse;
  /** By material slot; 'main' is always there. */
  dress: Record<string, SlotDress>;
  elements?: ElementEdit[];
  keyed?: KeyedNumber[];
  bake: BakeChoice;
}

/** A state of a piece that was kept under a name, with the drawn lines it ran along. */
export interface Variant {
  id: string;
  name: string;
  stages: PieceStages;
  curves: DrawnCurve[];
}

/** A piece that is heavy to draw is shown as its line, or coarser than it is. */
export type Detail = 'path' | 'draft';

/** One chain: path → shape → make → dress → bake. */
export interface Piece extends PieceStages {
  id: string;
  name: string;
  visible: boolean;
  /** How much of it the view shows; absent: all. A bake always makes all of it. */
  detail?: Detail;
  /** Passed over by clicks in the view and by edits of many pieces. */
  locked?: boolean;
  variants?: Variant[];
  /** Kinds of findings that are meant to be so, each with the reason. */
  ignored?: { code: string; reason: string }[];
}

export const FIRST_CLOCK: Clock = { seconds: 4, loop: true };

export const emptyDocument = (name: string): KelpDocument => ({
  format: DOCUMENT_FORMAT,
  version: DOCUMENT_VERSION,
  name,
  displayUnit: 'mm',
  props: [],
  pictures: [],
  curves: [],
  profiles: [],
  materials: [],
  regions: [],
  clock: { ...FIRST_CLOCK },
  pieces: [],
});
