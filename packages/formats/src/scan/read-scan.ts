import { checkMesh, KelpError, withComputedNormals } from '@kelp/core';
import type { BufferGeometry } from 'three';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { mergeVertices } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import { MAX_TRIANGLES, type Model } from '../model/model.js';

/** Header of a binary STL: 80 bytes of text and the number of its faces, 50 bytes each. */
const STL_HEADER = 84;
const STL_FACE = 50;

/**
 * Reads STL, binary or text (as common programs write it: the format has no standard), and PLY (Turk, 1994).
 * @throws KelpError BAD_FILE, EMPTY_MESH, TOO_LARGE
 */
export function readScan(fileName: string, bytes: Uint8Array, format: 'STL' | 'PLY'): Model {
  const buffer = bytes.slice().buffer;
  let geometry: BufferGeometry;
  try {
    if (format === 'STL') checkStlLength(bytes);
    geometry = format === 'STL' ? new STLLoader().parse(buffer) : new PLYLoader().parse(buffer);
  } catch (error) {
    throw new KelpError('BAD_FILE', `${fileName} is not a readable ${format}: ${(error as Error).message}`);
  }
  const position = geometry.getAttribute('position');
  if (!position || position.count === 0 || (format === 'PLY' && !geometry.index))
    throw new KelpError(
      'EMPTY_MESH',
      `${fileName} has no faces: ${position?.count ? 'point clouds cannot be drawn on' : 'it is empty'}`,
    );
  // each face brings its own corners: put together what is in one place
  for (const name of Object.keys(geometry.attributes)) if (name !== 'position') geometry.deleteAttribute(name);
  const merged = mergeVertices(geometry, 0);
  const index = Uint32Array.from(merged.index?.array ?? []);
  if (index.length / 3 > MAX_TRIANGLES)
    throw new KelpError('TOO_LARGE', `${fileName} has more than ${MAX_TRIANGLES.toLocaleString('en')} triangles`);
  const vertices = merged.getAttribute('position').count;
  if (index.length % 3 !== 0)
    throw new KelpError('BAD_FILE', `${fileName} is not a readable ${format}: a face does not have three corners`);
  const bare = {
    position: Float32Array.from(merged.getAttribute('position').array),
    normal: new Float32Array(3 * vertices),
    uv: new Float32Array(2 * vertices),
    index,
    quads: 0,
    groups: [],
  };
  const name = fileName.replace(/\.\w+$/, '');
  checkMesh(bare, `${fileName}: "${name}"`);
  return { format, objects: [{ name, mesh: withComputedNormals(bare) }], notes: [] };
}

/** The loader reads on past the end of a file that was cut off. */
function checkStlLength(bytes: Uint8Array): void {
  const isText = new TextDecoder().decode(bytes.subarray(0, 512)).trimStart().startsWith('solid');
  if (isText && new TextDecoder().decode(bytes.subarray(0, 1024)).includes('facet')) return;
  if (bytes.byteLength < STL_HEADER) throw new Error(`it has ${bytes.byteLength} bytes, fewer than its header`);
  const faces = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
  const wanted = STL_HEADER + STL_FACE * faces;
  if (wanted > bytes.byteLength)
    throw new Error(
      `it states ${faces} faces, but was cut off after ${Math.floor((bytes.byteLength - STL_HEADER) / STL_FACE)}`,
    );
}
