import { type BakeSettings, isBakeSettings, KelpError } from '@kelp/core';
import { parseJson, textOf } from '../json/parse-json.js';

/** Name among the extras of a scene: the number of the buffer view that holds the project as a `.kelp` archive. */
export const RECIPE = 'kelpProject';
/** And that of the settings of the bake. */
export const SETTINGS = 'kelpBake';

const MAGIC = 0x46546c67;
const HEAD = 20;
/** The head of a chunk. */
const CHUNK = 8;

/**
 * The project that a GLB of Kelp holds, as the bytes of an archive; undefined where it holds none.
 * @throws KelpError BAD_FILE where it says that it holds one and that is not there
 */
export function recipeIn(fileName: string, bytes: Uint8Array): Uint8Array | undefined {
  const head = headOf(fileName, bytes);
  const number = head?.extras[RECIPE];
  if (!head || typeof number !== 'number') return undefined;
  const { byteOffset, byteLength } = head.json.bufferViews?.[number] ?? {};
  const { start } = head;
  if (
    typeof byteOffset !== 'number' ||
    typeof byteLength !== 'number' ||
    !(byteOffset >= 0 && byteLength > 0 && start + byteOffset + byteLength <= bytes.length)
  )
    throw new KelpError(
      'BAD_FILE',
      `${fileName} states that it includes its project, but the project is missing: the file was cut off or changed.`,
    );
  return bytes.subarray(start + byteOffset, start + byteOffset + byteLength);
}

/** How a GLB that holds its project was baked; nothing where it does not say so. @throws KelpError BAD_FILE where that cannot be */
export function bakeSettingsIn(fileName: string, bytes: Uint8Array): Partial<BakeSettings> {
  const settings = headOf(fileName, bytes)?.extras[SETTINGS] ?? {};
  if (!isBakeSettings(settings))
    throw new KelpError('BAD_FILE', `${fileName} has bake settings that are not valid: the file was changed.`);
  return settings;
}

interface Json {
  scenes?: { extras?: Record<string, unknown> }[];
  bufferViews?: { byteOffset?: unknown; byteLength?: unknown }[];
}

/** What a GLB says that holds a project, and where its numbers begin; undefined for any other file. */
function headOf(
  fileName: string,
  bytes: Uint8Array,
): { json: Json; extras: Record<string, unknown>; start: number } | undefined {
  if (bytes.length < HEAD) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.getUint32(0, true) !== MAGIC) return undefined;
  const length = view.getUint32(12, true);
  // a long text is not read for nothing: the name stands in it, or there is none
  const text = textOf(fileName, bytes.subarray(HEAD, HEAD + length));
  if (!text.includes(`"${RECIPE}"`)) return undefined;
  const json = parseJson(fileName, text) as Json;
  const extras = Array.isArray(json.scenes) ? json.scenes[0]?.extras : undefined;
  return extras ? { json, extras, start: HEAD + length + CHUNK } : undefined;
}
