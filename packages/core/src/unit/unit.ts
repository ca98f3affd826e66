import type { ControlPoints } from '../curve/catmull-rom.js';
import type { CurveSet } from '../curve/curve-set.js';
import type { Mesh } from '../mesh/mesh.js';
import type { AlongValue } from '../numeric/lane.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Finding } from './finding.js';
import type { ParameterSet, ParameterValues, ValuesOf } from './parameters.js';

export const STAGES = ['path', 'shape', 'make', 'dress'] as const;
export type Stage = (typeof STAGES)[number];

/** A named mesh with the material slot it wears. */
export interface Part {
  name: string;
  mesh: Mesh;
  slot: string;
}

/** Metallic-roughness material, as glTF 2.0 defines it. */
export interface Material {
  name: string;
  /** sRGB, `#rrggbb`. */
  colour: string;
  roughness: number;
  metalness: number;
}

/** What a make unit hands to dressing and baking. */
export interface Made {
  parts: Part[];
  /** The curves the parts stand on, as fine as they were swept. */
  rails: CurveSet;
  /** One a point of `rails`, metres: from the curve to the nearest place of the skin. */
  near: Float32Array;
  /** One a point of `rails`, metres: from the curve to the skin on the inside of the bend. */
  inside: Float32Array;
  /** Smallest bend radius wanted, as a multiple of `inside`; below 1 the inner side folds. */
  leastBend: number;
}

export interface Dressed {
  parts: Part[];
  /** One for each slot that a part wears. */
  materials: Record<string, Material>;
}

/** What a unit may ask while it builds. Nothing else reaches it: the same input always gives the same output. */
export interface BuildContext {
  surroundings: Surroundings;
  /** Drawn curves by id, their points in the world. */
  curves: ReadonlyMap<string, ControlPoints>;
  /** The line of another piece after path and shape; undefined where there is none, or where the two need each other. */
  line(piece: string): CurveSet | undefined;
  /** Factor on all divisions, 1 as set, 2 twice as fine; a draft asks for less. */
  density: number;
  /** How far the thing that will run here reaches from its curve, metres along the length, as its make unit says. */
  thickness: AlongValue;
  /** Make units: what they made last time. It is no longer wanted, so their buffers may be written over. */
  spare?: readonly Part[];
  report(finding: Finding): void;
}

interface StageTypes {
  path: { input: undefined; output: CurveSet };
  shape: { input: CurveSet; output: CurveSet };
  make: { input: CurveSet; output: Made };
  dress: { input: Made; output: Dressed };
}

/** One path source, shape operation, make recipe or dressing. `build` is pure; V is what its parameters hold. */
export interface Unit<K extends Stage = Stage, S extends ParameterSet = ParameterSet, V = ParameterValues> {
  stage: K;
  id: string;
  label: string;
  /** One line: what it is for. */
  purpose: string;
  parameters: S;
  /** Named starting points. The first is what a new piece gets. */
  presets: readonly Preset[];
  /** Make units say how far their section reaches from the curve, metres. */
  thickness?(parameters: V): AlongValue;
  /** State in words, for a closed stage: "12 mm round, 8 sides". Lengths go through `length`. */
  describe(parameters: V, length: (metres: number) => string): string;
  build(input: StageTypes[K]['input'], parameters: V, context: BuildContext): StageTypes[K]['output'];
}

export interface Preset {
  id: string;
  label: string;
  parameters: ParameterValues;
}

/** Declares a unit; only here so that the types of its parameters follow from their declaration. */
export const defineUnit = <K extends Stage, S extends ParameterSet>(
  unit: Unit<K, S, ValuesOf<S>>,
): Unit<K, S, ValuesOf<S>> => unit;
