import { type BakedMesh, type BakedStrands, strandMeshes } from '@kelp/core';
import type { BakeWriter, Sections } from './bake-writer.js';

/** Bytes before the triangles, and of each of them. */
const HEAD = 84;
const TRIANGLE = 50;

/**
 * Binary STL: 80 bytes of words, how many triangles there are, then of each its normal, its three places and two bytes more
 * (as it is commonly read; metres, +Y up). It holds no names, colours or lines: all bodies stand one after the other.
 */
export class StlWriter implements BakeWriter {
  readonly room = HEAD;
  private triangles = 0;

  constructor(
    private readonly name: string,
    private readonly sections: Sections,
  ) {}

  add({ mesh: { position, index } }: BakedMesh): void {
    const body = new DataView(new ArrayBuffer((TRIANGLE * index.length) / 3));
    for (let f = 0; f < index.length / 3; f++) {
      const [a, b, c] = [3 * index[3 * f], 3 * index[3 * f + 1], 3 * index[3 * f + 2]];
      const u = [0, 1, 2].map((n) => position[b + n] - position[a + n]);
      const v = [0, 1, 2].map((n) => position[c + n] - position[a + n]);
      const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      // a triangle without area has no normal: zero, as readers expect it then
      const size = Math.hypot(...normal) || 1;
      for (let n = 0; n < 3; n++) {
        body.setFloat32(TRIANGLE * f + 4 * n, normal[n] / size, true);
        [a, b, c].forEach((corner, k) => {
          body.setFloat32(TRIANGLE * f + 12 * (k + 1) + 4 * n, position[corner + n], true);
        });
      }
    }
    this.sections(new Uint8Array(body.buffer), 0);
    this.triangles += index.length / 3;
  }

  /** Strands as tubes or strips; what is to be lines has no place in it. */
  addStrands({ name, strands, material }: BakedStrands): void {
    if (strands.shape === 'lines') return;
    for (const mesh of strandMeshes(strands)) this.add({ name, mesh, material });
  }

  head(): Uint8Array {
    const out = new Uint8Array(HEAD);
    // a file that begins with "solid" is taken for the other kind
    const words = `Kelp: ${this.name}, metres, +Y up`.replaceAll(/[^ -~]/g, '?').slice(0, 80);
    out.set(new TextEncoder().encode(words));
    new DataView(out.buffer).setUint32(80, this.triangles, true);
    return out;
  }
}
