import { type BakedMesh, type BakedStrands, strandMeshes, vertexCount } from '@kelp/core';
import { type BakeWriter, numberText as n, type Sections, TextOut } from './bake-writer.js';

/** Wavefront OBJ (appendix B1 of its manual): quads where there are, strands that are to be lines as lines. */
export class ObjWriter implements BakeWriter {
  private readonly text: TextOut;
  private vertices = 0;
  /** Places without normal and texture: lines. */
  private uvs = 0;

  constructor(private readonly name: string, sections: Sections) {
    this.text = new TextOut(sections);
  }

  add({ name, mesh }: BakedMesh): void {
    const { position, normal, uv, index, quads } = mesh;
    const { text } = this;
    text.write(`o ${oneWord(name)}\n`);
    for (let i = 0; i < position.length; i += 3) text.write(`v ${n(position[i])} ${n(position[i + 1])} ${n(position[i + 2])}\n`);
    for (let i = 0; i < uv.length; i += 2) text.write(`vt ${n(uv[i])} ${n(uv[i + 1])}\n`);
    for (let i = 0; i < normal.length; i += 3) text.write(`vn ${n(normal[i])} ${n(normal[i + 1])} ${n(normal[i + 2])}\n`);
    const corner = (v: number) => `${v + 1 + this.vertices}/${v + 1 + this.uvs}/${v + 1 + this.uvs}`;
    for (let q = 0; q < quads; q++) {
      const i = 6 * q;
      text.write(`f ${corner(index[i])} ${corner(index[i + 1])} ${corner(index[i + 2])} ${corner(index[i + 5])}\n`);
    }
    for (let i = 6 * quads; i < index.length; i += 3) text.write(`f ${corner(index[i])} ${corner(index[i + 1])} ${corner(index[i + 2])}\n`);
    this.vertices += vertexCount(mesh);
    this.uvs += vertexCount(mesh);
    text.flush();
  }

  addStrands({ name, strands, material }: BakedStrands): void {
    if (strands.shape !== 'lines') {
      let k = 0;
      for (const mesh of strandMeshes(strands)) this.add({ name: k++ === 0 ? name : `${name} ${k}`, mesh, material });
      return;
    }
    const { text } = this;
    const { start, position, closed } = strands.curves;
    text.write(`o ${oneWord(name)}\n`);
    for (let i = 0; i < position.length; i += 3) text.write(`v ${n(position[i])} ${n(position[i + 1])} ${n(position[i + 2])}\n`);
    for (let c = 0; c < closed.length; c++) {
      const places = Array.from({ length: start[c + 1] - start[c] }, (_, k) => start[c] + k + 1 + this.vertices);
      if (closed[c]) places.push(places[0]);
      text.write(`l ${places.join(' ')}\n`);
    }
    this.vertices += position.length / 3;
    text.flush();
  }

  head(): Uint8Array {
    return new TextEncoder().encode(`# ${oneWord(this.name)}, metres, +Y up\n`);
  }
} // biome-ignore format: its lines

/** A name without line ends or blanks, which would end it. */
const oneWord = (name: string): string => name.trim().replaceAll(/\s+/g, '_') || 'unnamed';
