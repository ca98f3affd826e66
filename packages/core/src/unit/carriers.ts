import type { CurveSet } from '../curve/curve-set.js';
import type { Pattern } from '../dress/patterns/tile.js';
import type { Mesh } from '../mesh/mesh.js';
import type { Track } from '../motion/track.js';

/** Metallic-roughness material, as glTF 2.0 defines it. */
export interface Material {
  name: string;
  /** sRGB, `#rrggbb`. */
  colour: string;
  roughness: number;
  metalness: number;
  /** Light of its own colour that it gives off, as a share; none when absent. */
  glow?: number;
  /** What stands up from it in light and shade; and a picture over its colour, SHA-256 of the stored file. Both by texture. */
  pattern?: Pattern;
  /** Metres of one repeat of its texture; 1 when absent. */
  repeat?: number;
  picture?: string;
  /** How light runs along and through strands, where it is for strands. */
  strand?: StrandLight;
}

/** How a strand throws light back along its length (Marschner et al.: Light scattering from human hair fibers, 2003). */
export interface StrandLight {
  /** Strength of the highlight off its surface, 0 … 1. */
  shine: number;
  /** Width of that highlight along the strand, radians: a standard deviation. */
  spread: number;
  /** By how much its scales shift it towards the root, radians; the second, coloured one lies to the other side. */
  shift: number;
  /** Share of the light from behind that comes through, 0 … 1. */
  through: number;
}

/** Where one mesh stands many times. Everything is one entry a place. */
export interface Placements {
  /** Stable: a change of count or spacing moves nothing that did not have to move. */
  id: Uint32Array;
  /** Column-major 4×4 each. */
  matrix: Float32Array;
  /** Metres along the guide, and which of its curves. */
  along: Float32Array;
  curve: Uint32Array;
  /** Linear rgb each, multiplied into the material. */
  colour?: Float32Array;
}

interface PartBase {
  /** Stable within the piece: a track or a body names the part by it. */
  id: string;
  name: string;
  /** The material slot it wears; a mesh whose groups name slots of their own wears those there. */
  slot: string;
}
/** A mesh as it is. */
export interface MeshPart extends PartBase {
  kind: 'mesh';
  mesh: Mesh;
  /** Single elements that it holds, each in a shape of its own: where they are, and which of them each vertex belongs to. */
  elements?: { places: Placements; of: Uint32Array };
}
/** One mesh many times: drawn as instances, baked as asked. */
export interface PlacedPart extends PartBase {
  kind: 'placed';
  mesh: Mesh;
  places: Placements;
}
/** Many thin lines: drawn as lines, meshed at bake. */
export interface StrandsPart extends PartBase {
  kind: 'strands';
  curves: CurveSet;
  /** Thickness at each point, metres. */
  width: Float32Array;
  /** Sides of the tube that a bake makes of each, 3 or more. */
  sides: number;
  /** What a bake makes of them. Default: round. */
  shape?: 'round' | 'flat' | 'lines';
  /** Meshes of them say at each vertex which strand it is of, its layer and clump, and how far from the root. */
  marked?: boolean;
}
/** What is seen and baked. `part/part.ts` holds the operations that depend on `kind`: use them instead of a branch of your own where one fits. */
export type Part = MeshPart | PlacedPart | StrandsPart;

/** How far a section reaches from its curve, in any direction, at any point. */
export interface SectionReach {
  /** Size of the section at each point, metres: what its unit outline is multiplied by. */
  radius: Float32Array;
  /** From the curve to the nearest place of the skin, as a share of `radius`. */
  least: number;
  /** Where it is not round: the outline at unit radius, the curves' frames, and the turn about the curve. */
  outline?: {
    x: ArrayLike<number>;
    y: ArrayLike<number>;
    tangent: Float64Array;
    normal: Float64Array;
    roll: Float32Array;
    /** How many times as broad (y) as the outline says it is at each point, where that varies. */
    broad?: Float32Array;
  };
}

/** A centre line with its reach: what the checks look at. */
export interface SweptBody {
  id: string;
  curves: CurveSet;
  section: SectionReach;
  /** Smallest bend radius wanted, as a multiple of the reach towards the inside of the bend; below 1 that side folds. */
  leastBend: number;
  /** Where it bends tighter than it reaches, its inner side is creased: no face is inside out. */
  limited?: boolean;
  /** Its lines are strands of one bundle: where two cut each other, it is they that are too thick. */
  ofStrands?: boolean;
  /** Its lines grow out of one another: where they run into each other nothing is cut. */
  growsTogether?: boolean;
}

/** Places along the guide that the strip draws: one row a kind. */
export interface Mark {
  /** Stable word: 'element', 'joint', 'clip', 'lay' and whatever a unit adds. */
  kind: string;
  label: string;
  /** Metres along the guide, rising within one curve; which curve; the element's id. One entry a place. */
  along: Float32Array;
  curve: Uint32Array;
  id: Uint32Array;
}

/** An open end with its frame: what a bridge or the next part fastens to. Unit vectors; metres. */
export interface Rim {
  id: string;
  curve: number;
  end: 'start' | 'end';
  position: [number, number, number];
  /** Away from the body. */
  outward: [number, number, number];
  up: [number, number, number];
  radius: number;
}

/** What a figure or a column holds: decides its unit on the screen. */
export type Quantity = 'length' | 'area' | 'volume' | 'mass' | 'angle' | 'count' | 'share' | 'text';

/** A further figure. Metres, m², m³, kg, radians, pieces. */
export interface Measure {
  id: string;
  label: string;
  quantity: Exclude<Quantity, 'text'>;
  value: number;
}

/** A cut list, members by kind. */
export interface Table {
  id: string;
  label: string;
  columns: { label: string; quantity: Quantity }[];
  rows: (string | number)[][];
}

/** What a make unit hands to dressing, checks, view and bake. */
export interface Made {
  parts: Part[];
  /** One, many, or none for things that are placed. */
  bodies: SweptBody[];
  /** The lines that the strip, the pens and the followers ride on. */
  guide: CurveSet;
  marks: Mark[];
  rims: Rim[];
  measures: Measure[];
  tables: Table[];
  motion: Track[];
}

/** Nothing but a guide: what a make unit adds to. */
export const madeOf = (guide: CurveSet, made: Partial<Omit<Made, 'guide'>> = {}): Made => ({
  parts: [],
  bodies: [],
  marks: [],
  rims: [],
  measures: [],
  tables: [],
  motion: [],
  ...made,
  guide,
});

export interface Dressed {
  parts: Part[];
  /** One for each slot that a part wears. */
  materials: Record<string, Material>;
}
