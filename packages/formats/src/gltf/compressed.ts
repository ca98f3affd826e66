import { KelpError } from '@kelp/core';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import { MeshoptEncoder } from 'meshoptimizer/encoder';

// Buffer views that are compressed without loss (Khronos, glTF 2.0 vendor extension EXT_meshopt_compression).

export const COMPRESSION = 'EXT_meshopt_compression';

/** What the bytes of a view are: attributes of vertices, corners of triangles, or other lists of indices. */
export type Mode = 'ATTRIBUTES' | 'TRIANGLES' | 'INDICES';
const MODES: readonly unknown[] = ['ATTRIBUTES', 'TRIANGLES', 'INDICES'] satisfies Mode[];
const FILTERS: readonly unknown[] = [undefined, 'NONE', 'OCTAHEDRAL', 'QUATERNION', 'EXPONENTIAL'];

/** What compresses is compiled once; until then no GLB can be compressed. */
export const encoderReady = (): Promise<void> => MeshoptEncoder.ready;

/** @param stride bytes of an element: of attributes a multiple of 4, of indices 2 or 4 */
export const compressed = (bytes: Uint8Array, count: number, stride: number, mode: Mode): Uint8Array =>
  MeshoptEncoder.encodeGltfBuffer(bytes, count, stride, mode);

/** A byte of a compressed file represents no more than this many: an honest one comes to 1024 at most, where all is alike. */
const MAX_UNPACK_RATIO = 2048;
/** All that is compressed in one file comes to no more bytes than this. */
const MAX_BYTES = 2 ** 31;

// biome-ignore lint/suspicious/noExplicitAny: of any kind until it is checked
type Json = any;

const wrong = (fileName: string, path: string, why: string) =>
  new KelpError('BAD_FILE', `${fileName}: ${path} ${why}. Export it again.`, [{ path, message: why }]);

/**
 * A file's views without compression, all in one buffer; undefined where none is compressed.
 * @param json what the file says; its views and buffers are replaced
 * @param bytesOf what is there of a buffer, by its number
 * @returns the bytes of the one buffer that the views lie in now
 * @throws KelpError BAD_FILE where what is said does not fit what is there
 */
export async function unpacked(
  fileName: string,
  json: Json,
  bytesOf: (buffer: number) => Uint8Array | undefined,
): Promise<Uint8Array | undefined> {
  const views: Json[] = Array.isArray(json?.bufferViews) ? json.bufferViews : [];
  if (!views.some((view) => view?.extensions?.[COMPRESSION])) return undefined;
  await MeshoptDecoder.ready;
  const parts: Uint8Array[] = [];
  let length = 0;
  const placed = views.map((view, i) => {
    const path = `bufferViews[${i}]`;
    const packed = view?.extensions?.[COMPRESSION];
    const { buffer, byteOffset = 0, byteLength } = packed ?? view ?? {};
    const source = bytesOf(buffer);
    if (!source) throw wrong(fileName, path, `refers to buffer ${String(buffer)}, which is missing`);
    if (
      ![byteOffset, byteLength].every((value) => Number.isSafeInteger(value) && value >= 0) ||
      byteOffset + byteLength > source.length
    )
      throw wrong(fileName, path, `is outside its buffer of ${source.length} bytes`);
    const bytes = source.subarray(byteOffset, byteOffset + byteLength);
    const part = packed
      ? decoded(fileName, `${path}.extensions.${COMPRESSION}`, packed, bytes, MAX_BYTES - length)
      : bytes;
    const { extensions, ...bare } = view;
    const { [COMPRESSION]: gone, ...others } = extensions ?? {};
    const at = length;
    parts.push(part, new Uint8Array(-part.length & 3));
    length += part.length + (-part.length & 3);
    return {
      ...bare,
      buffer: 0,
      byteOffset: at,
      byteLength: part.length,
      ...(Object.keys(others).length > 0 ? { extensions: others } : {}),
    };
  });
  const out = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  const left = (names: unknown) => (Array.isArray(names) ? names.filter((name) => name !== COMPRESSION) : undefined);
  Object.assign(json, {
    bufferViews: placed,
    buffers: [{ byteLength: length }],
    extensionsUsed: left(json.extensionsUsed),
    extensionsRequired: left(json.extensionsRequired),
  });
  return out;
}

function decoded(
  fileName: string,
  path: string,
  { count, byteStride, mode, filter }: Json,
  bytes: Uint8Array,
  room: number,
): Uint8Array {
  if (!MODES.includes(mode) || !FILTERS.includes(filter)) throw wrong(fileName, path, 'has an unknown mode or filter');
  const fits =
    mode === 'ATTRIBUTES'
      ? byteStride % 4 === 0 && byteStride >= 4 && byteStride <= 256
      : byteStride === 2 || byteStride === 4;
  if (!Number.isSafeInteger(count) || count < 0 || !fits)
    throw wrong(fileName, path, 'has an impossible count or stride');
  const size = count * byteStride;
  if (size > MAX_UNPACK_RATIO * bytes.length || size > room)
    throw wrong(fileName, path, `claims ${size} bytes out of ${bytes.length}`);
  const out = new Uint8Array(size);
  try {
    MeshoptDecoder.decodeGltfBuffer(out, count, byteStride, bytes, mode, filter);
  } catch {
    throw wrong(fileName, path, 'cannot be unpacked: it is damaged');
  }
  return out;
}
