// What the other packages may use. Within the core, import the file, never this list.
export {
  type Baked,
  type BakedLines,
  type BakedMesh,
  type BakedMoving,
  type BakedPlaced,
  type BakedShaping,
  type BakedStrands,
  type BakeOptions,
  bake,
  type PieceReport,
} from './bake/bake.js';
export { KeptPieces } from './bake/kept-pieces.js';
export {
  BAKE_FIELDS,
  type BakeSettings,
  isBakeSettings,
  MAX_FRAMES,
  MERGES,
  type Merge,
  PER_METRE,
  PIVOTS,
  PLAIN_SETTINGS,
  phaseAt,
  TARGET_UNITS,
  type TargetUnit,
} from './bake/settings.js';
export { simplified, simplifierReady } from './bake/simplify.js';
export { testCube } from './bake/test-cube.js';
export { curveLengths } from './curve/arc-length.js';
export { bendRadii } from './curve/bend.js';
export { joinCurves } from './curve/carry.js';
export { type ControlPoints, catmullRom } from './curve/catmull-rom.js';
export { cornersOf } from './curve/corners.js';
export { type CurveSet, curveCount, POINT, pointCount, singleCurve } from './curve/curve-set.js';
export { type Frames, rotationMinimizingFrames } from './curve/frames.js';
export { resample } from './curve/resample.js';
export { simplify } from './curve/simplify.js';
export { Walk, type Walkable } from './curve/walk.js';
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
  type BakeChoice,
  type Clock,
  type Detail,
  DISPLAY_UNITS,
  type DisplayUnit,
  type DrawnCurve,
  type DrawnPoint,
  type ElementEdit,
  emptyDocument,
  isOwnDress,
  type KelpDocument,
  type KeyedNumber,
  type LibraryMaterial,
  MAX_BULGE,
  PICTURE_PLANES,
  type Picture,
  type Piece,
  type PieceStages,
  type Profile,
  type ProfilePoint,
  type Prop,
  type Region,
  type ShapeUse,
  type SlotDress,
  type UnitUse,
  type Variant,
} from './document/document.js';
export {
  applyFix,
  curveIdsOf,
  MAIN_SLOT,
  newPiece,
  newShape,
  newUse,
  type StagePlace,
  unitAt,
  usesOf,
  withCurve,
  withoutPiece,
  withParameter,
  withPiece,
  withUse,
} from './document/edit.js';
export { mergedDocument } from './document/joined.js';
export { documentAt, keyedNumber, pieceAt } from './document/keyed.js';
export { type Difference, differences, type Fate, merged, type Side } from './document/merge.js';
export { freeName, tidyName } from './document/name.js';
export { type OpenedDocument, openDocument, parseDocument } from './document/open.js';
export type { Shades } from './document/picture-shade.js';
export { pieceSource } from './document/piece-source.js';
export { picturesRead, referencesOf } from './document/references.js';
export { LIMITS, nameSchema } from './document/schema.js';
export { takenOver } from './document/take-over.js';
export { isVariant, keepVariant, takeVariant } from './document/variant.js';
export { type Pattern, type PatternTile, patternTile } from './dress/patterns/tile.js';
export { lobesOf, strengths as strandStrengths } from './dress/strands/scatter.js';
export { inOutfit } from './dress/wear.js';
export { type Issue, KelpError, type KelpErrorCode } from './errors.js';
export { type BuildCache, createCache } from './evaluate/cache.js';
export { crossings, type Outlined } from './evaluate/crossings.js';
export { type Build, evaluatePiece } from './evaluate/evaluate.js';
export { notIgnored } from './evaluate/gather.js';
export { breadthOf, thicknessOf } from './evaluate/line.js';
export { type BendProfile, bendProfiles, type Measures } from './evaluate/measures.js';
export { readyFor } from './evaluate/ready.js';
export { controlPoints, SurfaceStore } from './evaluate/resolve.js';
export { endReach, type Skeleton, skeletonOf } from './evaluate/skeleton.js';
export { type Slice, type SliceOutline, sliceAt } from './evaluate/slice.js';
export { World } from './evaluate/world.js';
export { PROP_WHEEL } from './make/belt/wheels.js';
export { edgesOf, edgeTurns } from './mesh/edges.js';
export { type Bounds, boundsOf, boundsSize, signedVolume, surfaceArea } from './mesh/measure.js';
export {
  checkMesh,
  copyMesh,
  emptyMesh,
  type Mesh,
  type MeshAttribute,
  type MeshGroup,
  mergeMeshes,
  meshBuffers,
  meshBytes,
  triangleCount,
  vertexCount,
} from './mesh/mesh.js';
export { withComputedNormals } from './mesh/normals.js';
export { repeatMesh } from './mesh/repeat.js';
export { textureDensity } from './mesh/texel-density.js';
export { flipMesh, HOME, type Placement, placementMatrix, transformMesh } from './mesh/transform.js';
export { topologyOf, weldPositions } from './mesh/weld.js';
export { movedPart } from './motion/moved.js';
export { type Rail, railFrame } from './motion/rail.js';
export {
  type RideTrack,
  riddenTo,
  type SlideTrack,
  slidRepeats,
  type Track,
  type TurnTrack,
  turnedBy,
} from './motion/track.js';
export { axisFrame } from './numeric/axis.js';
export { linearColour, srgbChannel } from './numeric/colour.js';
export { type AlongValue, greatest, isLane, type Lane, type LaneEase, mapAlong, valueAt } from './numeric/lane.js';
export { isPair, type Pair, pairAt } from './numeric/pair.js';
export { hashText } from './numeric/random.js';
export {
  add,
  addScaled,
  cross,
  distance,
  dot,
  length,
  mix,
  normalize,
  pointOf,
  scale,
  subtract,
  turn,
  upAcross,
  type Vec3,
  vec3,
} from './numeric/vector.js';
export { placesOf } from './part/elements.js';
export { copyPart, lighter, type PartCounts, partBounds, partBuffers, partCounts, realMesh } from './part/part.js';
export { strandMeshes } from './part/strand-meshes.js';
export { attachmentsOf, keyOfPick, topOfShell } from './path/strung/attachments.js';
export { connectionId } from './path/strung/connections.js';
export { LINK } from './path/strung/link.js';
export { type WheelHandles, wheelHandles, wheelMoved } from './path/wheels/handles.js';
export { drawnPath, type ProfilePath } from './section/drawn-paths.js';
export { formPaths } from './section/form-paths.js';
export { FORMS, type Form } from './section/forms.js';
export { profilePicture } from './section/own-section.js';
export { polygonSection, roundedBoxSection, roundSection, type Section } from './section/section.js';
export { hangingLine, leastBow } from './shape/hang.js';
export { type Anchor, anchorFor, anchorOf } from './surface/anchor.js';
export { layInSight, type Sight } from './surface/in-sight.js';
export { createHit, Surface, type SurfaceHit } from './surface/surface.js';
export { Surroundings } from './surface/surroundings.js';
export type { EndKind } from './sweep/caps.js';
export { type SweepOptions, sweep } from './sweep/sweep.js';
export type {
  Made,
  Mark,
  Material,
  Measure,
  MeshPart,
  Part,
  PlacedPart,
  Placements,
  Quantity,
  Rim,
  StrandLight,
  StrandsPart,
  SweptBody,
  Table,
} from './unit/carriers.js';
export { madeOf } from './unit/carriers.js';
export {
  type Finding,
  type FindingWords,
  type Fix,
  findingText,
  findingTitle,
  type Severity,
} from './unit/finding.js';
export { MAX_COORDINATE, parameterSchema, unitOfMeasure, whyUnmeasured } from './unit/kinds.js';
export {
  type AnchorPick,
  GAUGES,
  type Gauge,
  type GaugeUse,
  gaugeOf,
  isApplicable,
  isNumberParameter,
  isWhole,
  type LevelValue,
  type LinkChange,
  type NumberParameter,
  type PairParameter,
  type Parameter,
  type ParameterValue,
  type ParameterValues,
  type WheelPick,
  type WheelsParameter,
} from './unit/parameters.js';
export {
  curvesParameter,
  findUnit,
  knownUnit,
  presetParameters,
  sizeParameter,
  unitOf,
  units,
  unitsOf,
} from './unit/registry.js';
export { matchesSearch, searchText } from './unit/search.js';
export {
  type BuildContext,
  defineUnit,
  type Preset,
  type Sample,
  type SampleLine,
  SHELVES,
  type Shelf,
  type Slot,
  STAGES,
  type Stage,
  type Unit,
} from './unit/unit.js';
