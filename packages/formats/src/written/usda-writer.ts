import {
  type BakedMesh,
  type BakedPlaced,
  type BakedStrands,
  linearColour,
  type Material,
  PER_METRE,
  transformMesh,
} from '@kelp/core';
import { placesOf } from '../gltf/places.js';
import { type BakeWriter, numberText as n, type Sections, TextOut, type WriterTarget } from './bake-writer.js';

/** Values on one line of a list. */
const ON_A_LINE = 4096;

/**
 * The open USD text format: meshes as Mesh, strands as linear BasisCurves with a width at every point, whatever a mesh of
 * them would be; layer, clump and id one a curve.
 */
export class UsdaWriter implements BakeWriter {
  private readonly text: TextOut;
  private readonly names = new Set<string>();

  private readonly materials = new Map<string, string>();

  constructor(
    private readonly name: string,
    sections: Sections,
    private readonly target: WriterTarget = {},
  ) {
    this.text = new TextOut(sections);
  }

  add({ name, mesh, material, at }: BakedMesh): void {
    const worn = this.material(material, mesh.attributes?.['colour'] !== undefined);
    this.open('Mesh', name, worn);
    this.place(at);
    this.mesh(mesh, material);
    this.text.write('    }\n');
    this.text.flush();
  }

  /** One mesh in many places as a PointInstancer; as meshes where a place leans, which it cannot say. */
  addPlaced({ name, mesh, material, places, at }: BakedPlaced): void {
    const ways = placesOf(places.matrix);
    if (!ways) {
      const real = (k: number) => transformMesh(mesh, places.matrix.subarray(16 * k, 16 * k + 16));
      for (let k = 0; k < places.id.length; k++) this.add({ name: `${name} ${k + 1}`, mesh: real(k), material, at });
      return;
    }
    const worn = this.material(material, mesh.attributes?.['colour'] !== undefined);
    const { translation, rotation, scale } = ways;
    const free = this.open('PointInstancer', name);
    this.place(at);
    this.text.write(`        rel prototypes = </Kelp/${free}/Mesh>\n`);
    this.list('int[] protoIndices', places.id.length, () => '0');
    this.list('int64[] ids', places.id.length, (k) => String(places.id[k]));
    this.list('point3f[] positions', places.id.length, tuple(translation, 3));
    // the real part of a quaternion comes first
    this.list(
      'quath[] orientations',
      places.id.length,
      (k) => `(${[3, 0, 1, 2].map((c) => n(rotation[4 * k + c])).join(', ')})`,
    );
    this.list('float3[] scales', places.id.length, tuple(scale, 3));
    if (places.colour) this.colours(linearColour(material.colour), places.colour, 3);
    this.text.write(`        def Mesh "Mesh"${BOUND}\n        {\n`);
    this.bind(worn);
    this.mesh(mesh, material);
    this.text.write('        }\n    }\n');
    this.text.flush();
  }

  private mesh({ position, normal, uv, index, attributes }: BakedMesh['mesh'], material: Material): void {
    this.list('int[] faceVertexCounts', index.length / 3, () => '3');
    this.list('int[] faceVertexIndices', index.length, (i) => String(index[i]));
    this.list('point3f[] points', position.length / 3, tuple(position, 3));
    this.list('normal3f[] normals', normal.length / 3, tuple(normal, 3), 'vertex');
    this.list('texCoord2f[] primvars:st', uv.length / 2, tuple(uv, 2), 'vertex');
    const colour = attributes?.['colour'];
    this.colours(linearColour(material.colour), colour?.data, colour?.size ?? 3);
    this.text.write('        uniform token subdivisionScheme = "none"\n');
  }

  /** A material as UsdPreviewSurface, once each; one with colours at vertices reads these. @returns its path */
  private material(material: Material, coloured: boolean): string {
    const { name, ...looks } = material;
    const key = JSON.stringify([looks, coloured]);
    const known = this.materials.get(key);
    if (known) return known;
    const free = this.freeName(`${name} material`);
    const path = `/Kelp/${free}`;
    const rgb = linearColour(material.colour);
    const tuple = (values: readonly number[]) => `(${values.map(n).join(', ')})`;
    const diffuse = coloured
      ? `color3f inputs:diffuseColor.connect = <${path}/Colours.outputs:result>`
      : `color3f inputs:diffuseColor = ${tuple(rgb)}`;
    const light = material.glow
      ? `            color3f inputs:emissiveColor = ${tuple(rgb.map((value) => value * (material.glow ?? 0)))}\n`
      : '';
    this.text.write(
      `    def Material "${free}"\n    {\n        token outputs:surface.connect = <${path}/Surface.outputs:surface>\n        def Shader "Surface"\n        {\n            uniform token info:id = "UsdPreviewSurface"\n            ${diffuse}\n            float inputs:roughness = ${n(material.roughness)}\n            float inputs:metallic = ${n(material.metalness)}\n${light}            token outputs:surface\n        }\n`,
    );
    if (coloured)
      this.text.write(
        `        def Shader "Colours"\n        {\n            uniform token info:id = "UsdPrimvarReader_float3"\n            string inputs:varname = "displayColor"\n            float3 outputs:result\n        }\n`,
      );
    this.text.write('    }\n');
    this.materials.set(key, path);
    return path;
  }

  /** The origin that a prim is measured from. */
  private place(at: BakedMesh['at']): void {
    if (at)
      this.text.write(
        `        double3 xformOp:translate = (${at.map(n).join(', ')})\n        uniform token[] xformOpOrder = ["xformOp:translate"]\n`,
      );
  }

  private bind(path: string): void {
    this.text.write(`        rel material:binding = <${path}>\n`);
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
    if (own)
      this.list(
        'color3f[] primvars:displayColor',
        order.length,
        (k) => `(${[0, 1, 2].map((i) => n(base[i] * own[3 * order[k] + i])).join(', ')})`,
        'vertex',
      );
    else this.colours(base, undefined, 3);
    this.text.write('    }\n');
    this.text.flush();
  }

  private colours(base: readonly number[], own: ArrayLike<number> | undefined, size: number): void {
    if (!own) this.list('color3f[] primvars:displayColor', 1, () => `(${base.map(n).join(', ')})`, 'constant');
    else
      this.list(
        'color3f[] primvars:displayColor',
        own.length / size,
        (v) => `(${[0, 1, 2].map((k) => n(base[k] * own[size * v + k])).join(', ')})`,
        'vertex',
      );
  }

  /** @param worn the path of its material @returns the name it has */
  private open(kind: string, name: string, worn?: string): string {
    const free = this.freeName(name);
    this.text.write(`    def ${kind} "${free}"${worn ? BOUND : ''}\n    {\n`);
    if (worn) this.bind(worn);
    return free;
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
      `#usda 1.0\n(\n    defaultPrim = "Kelp"\n    doc = ${JSON.stringify(this.name)}\n    metersPerUnit = ${n(1 / PER_METRE[this.target.unit ?? 'm'])}\n    upAxis = "${(this.target.up ?? 'y').toUpperCase()}"\n)\n\ndef Xform "Kelp"\n{\n`,
    );
  }
}

const BOUND = ' (\n        prepend apiSchemas = ["MaterialBindingAPI"]\n    )';

const tuple =
  (data: ArrayLike<number>, size: number) =>
  (i: number): string => {
    let out = `(${n(data[size * i])}`;
    for (let k = 1; k < size; k++) out += `, ${n(data[size * i + k])}`;
    return `${out})`;
  };
