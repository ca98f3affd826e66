import { KelpError } from '@kelp/core';
import type { Sections } from '../written/bake-writer.js';
import { COMPRESSION, compressed, type Mode } from './compressed.js';

/** Numbers of the standard (glTF 2.0, section 3.6.2.2). */
const FLOAT = 5126;
const UNSIGNED_SHORT = 5123;
const UNSIGNED_INT = 5125;
const VERTICES = 34_962;
const INDICES = 34_963;
const TYPES = ['SCALAR', 'VEC2', 'VEC3', 'VEC4'] as const;
/** Lengths in a GLB are 32 bits. */
export const MAX_BYTES = 2 ** 32 - 1;

/** The numbers of a glTF: written out as they come, each list a view of the buffer and an accessor that says what it holds. */
export class GltfNumbers {
  readonly accessors: object[] = [];
  readonly views: object[] = [];
  bytes = 0;
  /** Bytes that the compressed views would take. */
  private unpacked = 0;

  /**
   * @param sections takes the bytes in their order
   * @param compress whether those of meshes are compressed; the encoder must be ready then
   */
  constructor(
    private readonly sections: Sections,
    private readonly compress: boolean,
  ) {}

  /** Whether some are compressed, which a reader must know of. */
  get isCompressed(): boolean {
    return this.unpacked > 0;
  }

  buffers(): { byteLength: number }[] {
    const own = { byteLength: this.bytes };
    // no bytes are there of the second: it says where the views of the first would lie without compression
    const bare = { byteLength: this.unpacked, extensions: { [COMPRESSION]: { fallback: true } } };
    return this.isCompressed ? [own, bare] : [own];
  }

  /**
   * @param size numbers that belong together
   * @param ofMesh whether they are a mesh's, which may be compressed
   * @returns their number among the accessors
   * @throws KelpError TOO_LARGE when the file would be longer than the format can say
   */
  accessor(
    data: Float32Array | Uint16Array | Uint32Array,
    size: number,
    limits: object = {},
    ofMesh = true,
    mode: Mode = data instanceof Float32Array ? 'ATTRIBUTES' : 'TRIANGLES',
  ): number {
    const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    const target = data instanceof Float32Array ? VERTICES : INDICES;
    const view =
      ofMesh && this.compress
        ? this.packedView(bytes, size * data.BYTES_PER_ELEMENT, mode, target)
        : this.view(bytes, ofMesh ? { target } : {});
    const componentType =
      data instanceof Float32Array ? FLOAT : data instanceof Uint16Array ? UNSIGNED_SHORT : UNSIGNED_INT;
    const type = TYPES[size - 1];
    return this.accessors.push({ bufferView: view, componentType, count: data.length / size, type, ...limits }) - 1;
  }

  /** A view whose bytes are compressed. */
  private packedView(bytes: Uint8Array, byteStride: number, mode: Mode, target: number): number {
    const count = bytes.length / byteStride;
    const packed = compressed(bytes, count, byteStride, mode);
    const byteOffset = this.write(packed);
    const view = {
      buffer: 1,
      byteOffset: this.unpacked,
      byteLength: bytes.length,
      target,
      extensions: { [COMPRESSION]: { buffer: 0, byteOffset, byteLength: packed.length, byteStride, mode, count } },
    };
    this.unpacked += bytes.length + (-bytes.length & 3);
    return this.views.push(view) - 1;
  }

  /** @returns its number among the views */
  view(bytes: Uint8Array, further: object = {}): number {
    const byteOffset = this.write(bytes);
    return this.views.push({ buffer: 0, byteOffset, byteLength: bytes.length, ...further }) - 1;
  }

  /** @returns where the bytes are in the file's buffer */
  private write(bytes: Uint8Array): number {
    const at = this.bytes;
    // every number of 4 bytes lies at a multiple of 4
    const padding = -bytes.length & 3;
    this.bytes += bytes.length + padding;
    if (this.bytes > MAX_BYTES) throw tooLarge();
    this.sections(bytes, 0);
    if (padding > 0) this.sections(new Uint8Array(padding), 0);
    return at;
  }
}

export const tooLarge = () =>
  new KelpError(
    'TOO_LARGE',
    'The meshes exceed 4 GB, the limit of a GLB. Bake fewer pieces at once, or at a lower density.',
  );
