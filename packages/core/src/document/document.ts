import type { Placement } from '../mesh/transform.js';
import type { Anchor } from '../surface/anchor.js';
import type { ParameterValues } from '../unit/parameters.js';

export const DOCUMENT_FORMAT = 'kelp-project';
export const DOCUMENT_VERSION = 2;

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
  pieces: Piece[];
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
  parameters: ParameterValues;
}

export interface ShapeUse extends UnitUse {
  enabled: boolean;
}

/** What a piece is made by. */
export interface PieceStages {
  path: UnitUse;
  shape: ShapeUse[];
  make: UnitUse;
  dress: UnitUse;
  bake: { density: number };
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

export const emptyDocument = (name: string): KelpDocument => ({
  format: DOCUMENT_FORMAT,
  version: DOCUMENT_VERSION,
  name,
  displayUnit: 'mm',
  props: [],
  pictures: [],
  curves: [],
  pieces: [],
});
