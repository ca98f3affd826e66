import type { Mesh } from '@kelp/core';

/** One named body of a file, with the file's own coordinates; transforms of its nodes are applied. */
export interface ModelObject {
  name: string;
  mesh: Mesh;
}

/** What was read from a mesh file, before units and up axis are decided. */
export interface Model {
  format: 'glTF' | 'OBJ' | 'STL' | 'PLY' | 'USDA';
  objects: ModelObject[];
  /** What was noticed and mended while reading, as sentences. */
  notes: string[];
}

/** Files above this are refused before they are read, bytes. */
export const MAX_FILE_BYTES = 256 * 1024 * 1024;
/** Most triangles of one prop: a closest-point tree of more does not fit a browser tab. */
export const MAX_TRIANGLES = 4_000_000;
