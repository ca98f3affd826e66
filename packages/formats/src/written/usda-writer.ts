import { type BakedMesh, type BakedStrands, linearColour } from '@kelp/core';
import { type BakeWriter, numberText as n, type Sections, TextOut } from './bake-writer.js';

/** Values on one line of a list. */
const ON_A_LINE = 4096;

/**
 * The open USD text format: meshes as Mesh, strands as linear BasisCurves with a width at every point, whatever a mesh of
 * them would be; layer, clump and id one a curve.
 */
export class UsdaWriter implements BakeWriter {
  private readonly text: TextOut;
  private readonly names = new Set<string>();

  constructor(private readonly name: string, sections: Sections) {
    this.text = new TextOut(sections);
  }

  add({ name, mesh, material }: BakedMesh): void {
    const { position, normal, uv, index, attributes } = mesh;
    this.open('Mesh', name);
    this.list('int[] faceVertexCounts', index.length / 3, () => '3');
    this.list('int[] faceVertexIndices', index.length, (i) => String(index[i]));
    this.list('point3f[] points', position.length / 3, tuple(position, 3));
    this.list('normal3f[] normals', normal.length / 3, tuple(normal, 3), 'vertex');
    this.list('texCoord2f[] primvars:st', uv.length / 2, tuple(uv, 2), 'vertex');
    const colour = attributes?.['colour'];
    this.colours(linearColour(material.colour), colour?.data, colour?.size ?? 3);
    this.text.write('        uniform token subdivisionScheme = "none"\n    }\n');
    this.text.flush();
  }

  addStrands({ name, strands, material }: BakedStrands): void {
    const { curves, width } = strands;
    const { start, position, closed, pointData, curveData, id } = curves;
    // a ring comes back to its first point: open and closed ones may stand in one list
    const order: number[] = [];
    for (let c = 0; c < closed.length; c++) {
      for (let p = start[c]; p < start[c + 1]; p++) order.push(p);
      if (closed[c]) order.push(start[c]);
    }
    this.open('BasisCurves', name);
    this.text.write('        uniform token type = "linear"\n        uniform token wrap = "nonperiodic"\n');
    this.list('int[] curveVertexCounts', closed.length, (c) => String(start[c + 1] - start[c] + closed[c]));
    const place = tuple(position, 3);
    this.list('point3f[] points', order.length, (k) => place(order[k]));
    this.list('float[] widths', order.length, (k) => n(width[order[k]]), 'vertex');
    this.list('int[] primvars:strand', closed.length, (c) => String(id[c] | 0), 'uniform');
    for (const kind of ['layer', 'clump']) {
      const data = curveData[kind];
      if (data) this.list(`int[] primvars:${kind}`, closed.length, (c) => String(data[c] | 0), 'uniform');
    }
    const own = pointData['colour'];
    const base = linearColour(material.colour);
    if (own) this.list('color3f[] primvars:displayColor', order.length, (k) => `(${[0, 1, 2].map((i) => n(base[i] * own[3 * order[k] + i])).join(', ')})`, 'vertex');
    else this.colours(base, undefined, 3);
    this.text.write('    }\n');
    this.text.flush();
  }

  private colours(base: readonly number[], own: ArrayLike<number> | undefined, size: number): void {
    if (!own) this.list('color3f[] primvars:displayColor', 1, () => `(${base.map(n).join(', ')})`, 'constant');
    else this.list('color3f[] primvars:displayColor', own.length / size, (v) => `(${[0, 1, 2].map((k) => n(base[k] * own[size * v + k])).join(', ')})`, 'vertex');
  }

  private open(kind: string, name: string): void {
    this.text.write(`    def ${kind} "${this.freeName(name)}"\n    {\n`);
  }

  private list(declared: string, count: number, value: (i: number) => string, interpolation?: string): void {
    this.text.write(`        ${declared} = [`);
    for (let from = 0; from < count; from += ON_A_LINE) {
      const some = Array.from({ length: Math.min(ON_A_LINE, count - from) }, (_, k) => value(from + k));
      this.text.write(`${from > 0 ? ', ' : ''}${some.join(', ')}`);
    }
    this.text.write(interpolation ? `] (\n            interpolation = "${interpolation}"\n        )\n` : ']\n');
  }

  /** Names are letters, digits and lines, begin with none of the digits, and are each there once. */
  private freeName(name: string): string {
    const plain = name.replaceAll(/[^A-Za-z0-9_]+/g, '_').replace(/^(?=\d|$)/, '_');
    let free = plain;
    for (let k = 2; this.names.has(free); k++) free = `${plain}_${k}`;
    this.names.add(free);
    return free;
  }

  head(): Uint8Array {
    this.text.write('}\n');
    this.text.flush();
    return new TextEncoder().encode(
      `#usda 1.0\n(\n    defaultPrim = "Kelp"\n    doc = ${JSON.stringify(this.name)}\n    metersPerUnit = 1\n    upAxis = "Y"\n)\n\ndef Xform "Kelp"\n{\n`,
    );
  }
} // biome-ignore format: its longer lines

const tuple =
  (data: ArrayLike<number>, size: number) =>
  (i: number): string => {
    let out = `(${n(data[size * i])}`;
    for (let k = 1; k < size; k++) out += `, ${n(data[size * i + k])}`;
    return `${out})`;
  };
