import type { BakedMesh, BakedMoving, BakedPlaced, BakedShaping, BakedStrands } from '@kelp/core';
import type { BakeWriter, Sections } from '../written/bake-writer.js';
import { GlbWriter } from './glb-writer.js';
import type { PictureFiles } from './textures.js';

/** Bytes that become text at once: a whole number of threes, of which each is four letters. */
const AT_ONCE = 3 * 4096;

/** glTF 2.0 as one text file: what a GLB holds, its numbers as letters (RFC 4648, base 64) within it. */
export class GltfWriter implements BakeWriter {
  private readonly inner: GlbWriter;
  private readonly encoder = new TextEncoder();
  /** Bytes that make no whole three yet. */
  private left = new Uint8Array(0);

  constructor(
    sceneName: string,
    private readonly sections: Sections,
    pictures?: PictureFiles,
    compress?: boolean,
  ) {
    this.inner = new GlbWriter(sceneName, (bytes) => this.take(bytes), pictures, compress);
  }

  add(mesh: BakedMesh): void {
    this.inner.add(mesh);
  }

  addPlaced(placed: BakedPlaced): void {
    this.inner.addPlaced(placed);
  }

  addStrands(strands: BakedStrands): void {
    this.inner.addStrands(strands);
  }

  addMoving(moving: BakedMoving): void {
    this.inner.addMoving(moving);
  }

  addShapes(shaping: BakedShaping): void {
    this.inner.addShapes(shaping);
  }

  head(): Uint8Array {
    const { buffers = [], ...rest } = this.inner.content();
    const [own, ...bare] = buffers;
    if (!own) return this.encoder.encode(JSON.stringify(rest));
    if (this.left.length > 0) this.letters(this.left);
    const after = bare.map((buffer) => `,${JSON.stringify(buffer)}`).join('');
    this.sections(this.encoder.encode(`"}${after}],${JSON.stringify(rest).slice(1)}`), 1);
    return this.encoder.encode(
      `{"buffers":[{"byteLength":${own.byteLength},"uri":"data:application/octet-stream;base64,`,
    );
  }

  private take(bytes: Uint8Array): void {
    const all = new Uint8Array(this.left.length + bytes.length);
    all.set(this.left);
    all.set(bytes, this.left.length);
    const whole = all.length - (all.length % 3);
    for (let at = 0; at < whole; at += AT_ONCE) this.letters(all.subarray(at, Math.min(whole, at + AT_ONCE)));
    this.left = all.slice(whole);
  }

  private letters(bytes: Uint8Array): void {
    this.sections(this.encoder.encode(btoa(String.fromCharCode(...bytes))), 0);
  }
}
