import { KelpError } from '@kelp/core';
import { MAX_FILE_BYTES } from '../model/model.js';
import { readUsdaCurves } from '../usda/read-usda.js';
import type { CurveFile } from './curve-file.js';
import { readCsv } from './read-csv.js';
import { readGltfLines, readObjLines } from './read-lines.js';
import { readSvg } from './read-svg.js';

/**
 * Reads a file of curves.
 * @throws KelpError BAD_FILE, TOO_LARGE, EMPTY_CURVES, each with a sentence that says where and what to do
 */
export async function readCurves(fileName: string, bytes: Uint8Array): Promise<CurveFile> {
  if (bytes.byteLength === 0) throw new KelpError('BAD_FILE', `${fileName} is empty`);
  if (bytes.byteLength > MAX_FILE_BYTES) throw new KelpError('TOO_LARGE', `${fileName} is larger than Kelp reads`);
  const text = () => new TextDecoder().decode(bytes);
  if (/\.svg$/i.test(fileName)) return readSvg(fileName, text());
  if (/\.(csv|tsv|txt)$/i.test(fileName)) return readCsv(fileName, text());
  if (/\.obj$/i.test(fileName)) return readObjLines(fileName, text());
  if (/\.gl(b|tf)$/i.test(fileName)) return readGltfLines(fileName, bytes);
  if (/\.usda$/i.test(fileName)) return readUsdaCurves(fileName, text());
  throw new KelpError('BAD_FILE', `${fileName}: Kelp reads curves from .svg, .csv, .obj, .glb, .gltf and .usda files`);
}
