export type { CurveFile, FileCurve } from './curves/curve-file.js';
export { profileOf } from './curves/profile-of.js';
export { readCurves } from './curves/read-curves.js';
export { encoderReady } from './gltf/compressed.js';
export { bakeSettingsIn, recipeIn } from './gltf/recipe.js';
export { writeGlb } from './gltf/write-glb.js';
export { checkNesting, parseJson, textOf } from './json/parse-json.js';
export {
  type Inspection,
  insideOutFaces,
  inspectModel,
  SOURCE_UNITS,
  type SourceUnit,
  type UpAxis,
} from './model/inspect.js';
export { MAX_FILE_BYTES, type Model, type ModelObject } from './model/model.js';
export { contentHash, decodeProp, encodeProp, type PropChoices, propMesh } from './model/prop-mesh.js';
export { readModel } from './model/read-model.js';
export { looksLikePicture, MAX_PICTURE_BYTES, pictureInfo } from './picture/picture.js';
export { readShades } from './picture/shades.js';
export {
  DOCUMENT_ENTRY,
  filesOf,
  type Project,
  pictureEntry,
  propEntry,
  readArchive,
  readProjectText,
  writeArchive,
  writeProjectText,
} from './project/archive.js';
export { readStored } from './project/stored-files.js';
export { BAKE_FORMATS, type BakeFormat, type BakeWriter, isGltf, type WriterTarget } from './written/bake-writer.js';
export { type BakeContent, lossesOf } from './written/losses.js';
export { bakeWriter, writeBaked } from './written/write-baked.js';
