import type { Placement } from '../mesh/transform.js';
import type { Anchor } from '../surface/anchor.js';
import type { ParameterValues } from '../unit/parameters.js';

export const DOCUMENT_FORMAT = 'kelp-project';
export const DOCUMENT_VERSION = 1;

export const DISPLAY_UNITS = ['mm', 'cm', 'm', 'in', 'ft'] as const;
export type DisplayUnit = (typeof DISPLAY_UNITS)[number];

/** The whole of a project but its prop meshes, which are named by content hash. Plain JSON; metres and radians. */
export interface KelpDocument {
  format: typeof DOCUMENT_FORMAT;
  version: typeof DOCUMENT_VERSION;
  name: string;
  displayUnit: DisplayUnit;
  props: Prop[];
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

export interface DrawnPoint {
  /** World metres; where the point was last, should its anchor be gone. */
  position: [number, number, number];
  /** Held on a prop, if it was drawn on one. */
  anchor?: Anchor;
  corner: boolean;
  /** Thickness share, 1 = as set. */
  radius: number;
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

/** One chain: path → shape → make → dress → bake. */
export interface Piece {
  id: string;
  name: string;
  visible: boolean;
  path: UnitUse;
  shape: ShapeUse[];
  make: UnitUse;
  dress: UnitUse;
  bake: { density: number };
}

export const emptyDocument = (name: string): KelpDocument => ({
  format: DOCUMENT_FORMAT,
  version: DOCUMENT_VERSION,
  name,
  displayUnit: 'mm',
  props: [],
  curves: [],
  pieces: [],
});
