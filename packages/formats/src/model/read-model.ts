import { KelpError } from '@kelp/core';
import { readGltf } from '../gltf/read-gltf.js';
import { readObj } from '../obj/read-obj.js';
import { readScan } from '../scan/read-scan.js';
import { readUsda } from '../usda/read-usda.js';
import { MAX_FILE_BYTES, type Model } from './model.js';

/**
 * Reads a mesh file by its content, not by its name's ending alone.
 * @throws KelpError BAD_FILE (with the place where it is broken), TOO_LARGE, EMPTY_MESH
 */
export async function readModel(fileName: string, bytes: Uint8Array): Promise<Model> {
  if (bytes.byteLength === 0) throw new KelpError('BAD_FILE', `${fileName} is empty`);
  if (bytes.byteLength > MAX_FILE_BYTES)
    throw new KelpError(
      'TOO_LARGE',
      `${fileName} has ${Math.round(bytes.byteLength / 2 ** 20)} MB; Kelp reads up to ${MAX_FILE_BYTES / 2 ** 20} MB`,
    );
  const isBinaryGltf = bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;
  if (isBinaryGltf || /\.gl(b|tf)$/i.test(fileName)) return readGltf(fileName, bytes);
  if (/\.obj$/i.test(fileName)) return readObj(fileName, new TextDecoder().decode(bytes));
  if (/\.usda$/i.test(fileName)) return readUsda(fileName, new TextDecoder().decode(bytes));
  const scan = /\.(stl|ply)$/i.exec(fileName);
  if (scan) return readScan(fileName, bytes, scan[1].toUpperCase() as 'STL' | 'PLY');
  throw new KelpError('BAD_FILE', `${fileName}: Kelp reads .glb, .gltf, .obj, .stl, .ply and .usda files`);
}
