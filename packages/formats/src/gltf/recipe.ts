import { KelpError } from '@kelp/core';
import { parseJson, textOf } from '../json/parse-json.js';

/** Name among the extras of a scene: the number of the buffer view that holds the project as a `.kelp` archive. */
export const RECIPE = 'kelpProject';

const MAGIC = 0x46546c67;
const HEAD = 20;
/** The head of a chunk. */
const CHUNK = 8;

/**
 * The project that a GLB of Kelp holds, as the bytes of an archive; undefined where it holds none.
 * @throws KelpError BAD_FILE where it says that it holds one and that is not there
 */
export function recipeIn(fileName: string, bytes: Uint8Array): Uint8Array | undefined {
  if (bytes.length < HEAD) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== MAGIC) return undefined;
  const length = view.getUint32(12, true);
  // a long text is not read for nothing: the name stands in it, or there is none
  const head = bytes.subarray(HEAD, HEAD + length);
  const text = textOf(fileName, head);
  if (!text.includes(`"${RECIPE}"`)) return undefined;
  const json = parseJson(fileName, text) as { scenes?: { extras?: Record<string, unknown> }[]; bufferViews?: { byteOffset?: unknown; byteLength?: unknown }[] };
  const number = Array.isArray(json.scenes) ? json.scenes[0]?.extras?.[RECIPE] : undefined;
  if (typeof number !== 'number') return undefined;
  const { byteOffset, byteLength } = json.bufferViews?.[number] ?? {};
  const start = HEAD + length + CHUNK;
  if (typeof byteOffset !== 'number' || typeof byteLength !== 'number' || !(byteOffset >= 0 && byteLength > 0 && start + byteOffset + byteLength <= bytes.length))
    throw new KelpError('BAD_FILE', `${fileName} says that it holds its project, but that is not in it: it was cut off or changed.`);
  return bytes.subarray(start + byteOffset, start + byteOffset + byteLength);
} // biome-ignore format: its longer lines
