// What the other packages may use. Within the core, import the file, never this list.
export { type Baked, type BakedMesh, type BakeOptions, bake, type PieceReport } from './bake/bake.js';
export { curveLengths } from './curve/arc-length.js';
export { bendRadii } from './curve/bend.js';
export { type ControlPoints, catmullRom } from './curve/catmull-rom.js';
export { type CurveSet, curveCount, POINT, pointCount, singleCurve } from './curve/curve-set.js';
export { type Frames, rotationMinimizingFrames } from './curve/frames.js';
export { resample } from './curve/resample.js';
export { simplify } from './curve/simplify.js';
export {
  evenOut,
  joinedCurve,
  movedPoint,
  reversedCurve,
  setPoints,
  shiftPoints,
  smoothStretch,
  splitCurve,
  straighten,
  turnRest,
} from './document/curve-edit.js';
export {
  type Detail,
  DISPLAY_UNITS,
  type DisplayUnit,
  type DrawnCurve,
  type DrawnPoint,
  emptyDocument,
  type KelpDocument,
  PICTURE_PLANES,
  type Picture,
  type Piece,
  type PieceStages,
  type Prop,
  type ShapeUse,
  type UnitUse,
  type Variant,
} from './document/document.js';
export {
  applyFix,
  curveIdsOf,
  newPiece,
  newShape,
  newUse,
  type StagePlace,
  withCurve,
  withoutPiece,
  withParameter,
  withPiece,
  withUse,
} from './document/edit.js';
export { type Difference, differences, type Fate, merged, type Side } from './document/merge.js';
export { freeName, tidyName } from './document/name.js';
export { LIMITS, nameSchema, parseDocument } from './document/schema.js';
export { isVariant, keepVariant, takeVariant } from './document/variant.js';
export { type Issue, KelpError, type KelpErrorCode } from './errors.js';
export { type BuildCache, createCache } from './evaluate/cache.js';
export { type Build, evaluatePiece } from './evaluate/evaluate.js';
export { thicknessOf } from './evaluate/line.js';
export type { BendProfile, Measures } from './evaluate/measures.js';
export { controlPoints, SurfaceStore } from './evaluate/resolve.js';
export { type Slice, sliceAt } from './evaluate/slice.js';
export { edgesOf, edgeTurns } from './mesh/edges.js';
export { type Bounds, boundsOf, boundsSize, signedVolume, surfaceArea } from './mesh/measure.js';
export {
  checkMesh,
  copyMesh,
  emptyMesh,
  type Mesh,
  type MeshGroup,
  mergeMeshes,
  meshBuffers,
  meshBytes,
  triangleCount,
  vertexCount,
} from './mesh/mesh.js';
export { withComputedNormals } from './mesh/normals.js';
export { flipMesh, HOME, type Placement, placementMatrix, transformMesh } from './mesh/transform.js';
export { topologyOf, weldPlaces } from './mesh/weld.js';
export { axisFrame } from './numeric/axis.js';
export { type AlongValue, greatest, isLane, type Lane, type LaneEase, mapAlong, valueAt } from './numeric/lane.js';
export { isPair, type Pair, pairAt } from './numeric/pair.js';
export { hashText } from './numeric/random.js';
export { polygonSection, roundedBoxSection, roundSection, type Section } from './section/section.js';
export { hangingLine, leastBow } from './shape/hang.js';
export { type Anchor, anchorOf } from './surface/anchor.js';
export { createHit, Surface, type SurfaceHit } from './surface/surface.js';
export { Surroundings } from './surface/surroundings.js';
export type { EndKind } from './sweep/caps.js';
export { type SweepOptions, sweep } from './sweep/sweep.js';
export type { Finding, Fix, Severity } from './unit/finding.js';
export {
  GAUGES,
  type Gauge,
  isNumberParameter,
  isWhole,
  type NumberParameter,
  type PairParameter,
  type Parameter,
  type ParameterValue,
  type ParameterValues,
  unitOfMeasure,
  whyUnmeasured,
} from './unit/parameters.js';
export { findUnit, presetParameters, unitOf, units, unitsOf } from './unit/registry.js';
export { parameterSchema } from './unit/schema.js';
export { type Made, type Material, type Part, type Preset, STAGES, type Stage, type Unit } from './unit/unit.js';
