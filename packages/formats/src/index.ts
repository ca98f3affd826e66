export { writeGlb } from './gltf/write-glb.js';
export { type Inspection, inspectModel, insideOutFaces, SOURCE_UNITS, type SourceUnit, type UpAxis } from './model/inspect.js';
export { type Model, type ModelObject, MOST_FILE_BYTES } from './model/model.js';
export { contentHash, decodeProp, encodeProp, propMesh, type PropChoices } from './model/prop-mesh.js';
export { readModel } from './model/read-model.js';
export { DOCUMENT_ENTRY, type Project, propEntry, readArchive, readProjectText, writeArchive, writeProjectText } from './project/archive.js';
