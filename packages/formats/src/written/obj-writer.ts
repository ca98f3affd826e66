import {
  type BakedMesh,
  type BakedStrands,
  linearColour,
  type Material,
  srgbChannel,
  strandMeshes,
  vertexCount,
} from '@kelp/core';
import { type BakeWriter, numberText as n, type Sections, TextOut } from './bake-writer.js';

/**
 * Wavefront OBJ (appendix B1 of its manual): quads where there are, a group a piece, materials by name out of the library
 * beside it, strands that are to be lines as lines.
 */
export class ObjWriter implements BakeWriter {
  private readonly text: TextOut;
  private vertices = 0;
  /** Places without normal and texture: lines. */
  private uvs = 0;

  private readonly worn = new Map<string, Material>();

  constructor(
    private readonly name: string,
    sections: Sections,
    private readonly library?: string,
  ) {
    this.text = new TextOut(sections);
  }

  add({ name, mesh, material, piece = name }: BakedMesh): void {
    const { position, normal, uv, index, quads } = mesh;
    const { text } = this;
    text.write(`o ${oneWord(name)}\ng ${oneWord(piece)}\n`);
    if (this.library) text.write(`usemtl ${this.wear(material)}\n`);
    for (let i = 0; i < position.length; i += 3)
      text.write(`v ${n(position[i])} ${n(position[i + 1])} ${n(position[i + 2])}\n`);
    for (let i = 0; i < uv.length; i += 2) text.write(`vt ${n(uv[i])} ${n(uv[i + 1])}\n`);
    for (let i = 0; i < normal.length; i += 3)
      text.write(`vn ${n(normal[i])} ${n(normal[i + 1])} ${n(normal[i + 2])}\n`);
    const corner = (v: number) => `${v + 1 + this.vertices}/${v + 1 + this.uvs}/${v + 1 + this.uvs}`;
    for (let q = 0; q < quads; q++) {
      const i = 6 * q;
      text.write(`f ${corner(index[i])} ${corner(index[i + 1])} ${corner(index[i + 2])} ${corner(index[i + 5])}\n`);
    }
    for (let i = 6 * quads; i < index.length; i += 3)
      text.write(`f ${corner(index[i])} ${corner(index[i + 1])} ${corner(index[i + 2])}\n`);
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
    for (let i = 0; i < position.length; i += 3)
      text.write(`v ${n(position[i])} ${n(position[i + 1])} ${n(position[i + 2])}\n`);
    for (let c = 0; c < closed.length; c++) {
      const places = Array.from({ length: start[c + 1] - start[c] }, (_, k) => start[c] + k + 1 + this.vertices);
      if (closed[c]) places.push(places[0]);
      text.write(`l ${places.join(' ')}\n`);
    }
    this.vertices += position.length / 3;
    text.flush();
  }

  /** The name of a material in the library: each look once. */
  private wear(material: Material): string {
    const plain = oneWord(material.name);
    let name = plain;
    for (let k = 2; this.worn.has(name) && JSON.stringify(this.worn.get(name)) !== JSON.stringify(material); k++)
      name = `${plain}_${k}`;
    this.worn.set(name, material);
    return name;
  }

  head(): Uint8Array {
    const library = this.library ? `mtllib ${this.library}\n` : '';
    return new TextEncoder().encode(`# ${oneWord(this.name)}\n${library}`);
  }

  beside(): { ending: string; bytes: Uint8Array } {
    return {
      ending: 'mtl',
      bytes: new TextEncoder().encode(
        [...this.worn].map(([name, material]) => materialText(name, material)).join('\n'),
      ),
    };
  }
}

/**
 * A material of the library (Wavefront MTL, and its widely read words for roughness, Pr, and metalness, Pm). Its shine as an
 * exponent is that of a Blinn-Phong lobe as wide: 2/α² − 2, α = roughness² (Walter et al. 2007, Karis 2013, from memory).
 */
function materialText(name: string, { colour, roughness, metalness, glow = 0 }: Material): string {
  const rgb = linearColour(colour);
  const shown = (by: number) => rgb.map((value) => n(srgbChannel(value) * by)).join(' ');
  const shine = Math.min(1000, Math.max(0, 2 / Math.max(1e-3, roughness ** 4) - 2));
  return `newmtl ${name}\nKd ${shown(1)}\nKs ${metalness > 0.5 ? shown(1) : '0.04 0.04 0.04'}\nNs ${n(shine)}\nKe ${shown(glow)}\nPr ${n(roughness)}\nPm ${n(metalness)}\nillum 2\n`;
}

/** A name without line ends or blanks, which would end it. */
const oneWord = (name: string): string => name.trim().replaceAll(/\s+/g, '_') || 'unnamed';
