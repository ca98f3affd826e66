import { type BakedMesh, type BakedStrands, linearColour, type Material, srgbChannel, strandMeshes } from '@kelp/core';
import type { BakeWriter, Sections } from './bake-writer.js';

/** Bytes of a vertex: place, normal, colour, width. */
const VERTEX = 31;

/**
 * Binary PLY (Turk: The PLY polygon file format, 1994): vertices with normal, colour and width, triangles, and the edges of
 * strands that are to be lines.
 */
export class PlyWriter implements BakeWriter {
  private vertices = 0;
  private faces = 0;
  private edges = 0;
  /** Edges stand behind all faces: of lines there are few enough to be kept until then. */
  private readonly kept: Uint8Array[] = [];

  constructor(
    private readonly name: string,
    private readonly sections: Sections,
  ) {}

  add({ mesh, material }: BakedMesh): void {
    const { position, normal, index, attributes } = mesh;
    this.putVertices(
      position,
      normal,
      colourOf(material, attributes?.['colour']?.data, attributes?.['colour']?.size),
      undefined,
    );
    const body = new DataView(new ArrayBuffer((13 * index.length) / 3));
    for (let f = 0; f < index.length / 3; f++) {
      body.setUint8(13 * f, 3);
      for (let k = 0; k < 3; k++) body.setUint32(13 * f + 1 + 4 * k, index[3 * f + k] + this.vertices, true);
    }
    this.sections(new Uint8Array(body.buffer), 1);
    this.faces += index.length / 3;
    this.vertices += position.length / 3;
  }

  addStrands({ name, strands, material }: BakedStrands): void {
    if (strands.shape !== 'lines') {
      for (const mesh of strandMeshes(strands)) this.add({ name, mesh, material });
      return;
    }
    const { start, position, closed, pointData } = strands.curves;
    this.putVertices(position, undefined, colourOf(material, pointData['colour'], 3), strands.width);
    const ends: number[] = [];
    for (let c = 0; c < closed.length; c++) {
      for (let p = start[c]; p + 1 < start[c + 1]; p++) ends.push(p + this.vertices, p + 1 + this.vertices);
      if (closed[c]) ends.push(start[c + 1] - 1 + this.vertices, start[c] + this.vertices);
    }
    const body = new DataView(new ArrayBuffer(4 * ends.length));
    ends.forEach((end, i) => {
      body.setUint32(4 * i, end, true);
    });
    this.kept.push(new Uint8Array(body.buffer));
    this.edges += ends.length / 2;
    this.vertices += position.length / 3;
  }

  private putVertices(
    position: ArrayLike<number>,
    normal: ArrayLike<number> | undefined,
    colour: (v: number, k: number) => number,
    width: ArrayLike<number> | undefined,
  ): void {
    const count = position.length / 3;
    const body = new DataView(new ArrayBuffer(VERTEX * count));
    for (let v = 0; v < count; v++) {
      const at = VERTEX * v;
      for (let k = 0; k < 3; k++) {
        body.setFloat32(at + 4 * k, position[3 * v + k], true);
        body.setFloat32(at + 12 + 4 * k, normal?.[3 * v + k] ?? 0, true);
        body.setUint8(at + 24 + k, colour(v, k));
      }
      body.setFloat32(at + 27, width?.[v] ?? 0, true);
    }
    this.sections(new Uint8Array(body.buffer), 0);
  }

  head(): Uint8Array {
    for (const bytes of this.kept.splice(0)) this.sections(bytes, 1);
    const lines = [
      'ply',
      'format binary_little_endian 1.0',
      `comment ${this.name.replaceAll(/\s+/g, ' ')}, metres, +Y up`,
      `element vertex ${this.vertices}`,
      ...['x', 'y', 'z', 'nx', 'ny', 'nz'].map((name) => `property float ${name}`),
      ...['red', 'green', 'blue'].map((name) => `property uchar ${name}`),
      'property float width',
      `element face ${this.faces}`,
      'property list uchar uint vertex_indices',
      `element edge ${this.edges}`,
      'property uint vertex1',
      'property uint vertex2',
      'end_header',
    ];
    return new TextEncoder().encode(`${lines.join('\n')}\n`);
  }
}

/** sRGB of a vertex, 0 … 255: the material's colour times its own. */
function colourOf(material: Material, own: ArrayLike<number> | undefined, size = 3): (v: number, k: number) => number {
  const base = linearColour(material.colour);
  return (v, k) => {
    const s = srgbChannel(base[k] * (own?.[size * v + k] ?? 1));
    return Math.min(255, Math.max(0, Math.round(255 * s)));
  };
}
