import { createRequire } from 'node:module';
import type { BakedMesh, BakedStrands } from '@kelp/core';
import { polygonSection, singleCurve, strandMeshes, sweep } from '@kelp/core';
import Papa from 'papaparse';
import { type Mesh as Body, type BufferAttribute, type LineSegments, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { describe, expect, it } from 'vitest';
import { writeBaked } from '../src/index.js';
import { type Prim, readUsda } from './usda-reader.js';

const material = { name: 'Fur', colour: '#ffffff', roughness: 0.6, metalness: 0 };
const COUNT = 40;
/** Strands of 3 to 6 points, with all that strands carry. */
function strands(shape: 'round' | 'flat' | 'lines'): BakedStrands {
  const start = new Uint32Array(COUNT + 1);
  for (let c = 0; c < COUNT; c++) start[c + 1] = start[c] + 3 + (c % 4);
  const points = start[COUNT];
  const position = Float64Array.from(
    { length: 3 * points },
    (_, i) => Math.sin(i) * 0.1 + (i % 3 === 1 ? i * 1e-3 : 0),
  );
  const id = Uint32Array.from({ length: COUNT }, (_, c) => 4_000_000_000 + c);
  const along = new Float32Array(points);
  for (let c = 0; c < COUNT; c++)
    for (let p = start[c] + 1; p < start[c + 1]; p++)
      along[p] = along[p - 1] + Math.hypot(...[0, 1, 2].map((n) => position[3 * p + n] - position[3 * p - 3 + n]));
  const curves = {
    start,
    position,
    closed: new Uint8Array(COUNT),
    id,
    pointData: { along, colour: new Float32Array(3 * points).fill(0.5) },
    curveData: { layer: id.map((_, c) => c % 3), clump: id.map((one) => one), length: new Float32Array(COUNT).fill(1) },
  };
  curves.closed[5] = 1;
  const width = Float32Array.from({ length: points }, (_, p) => 0.001 + p * 1e-6);
  return {
    name: 'Pup "soft", fur',
    material,
    strands: { kind: 'strands', id: 's', name: 'S', slot: 'main', sides: 3, shape, marked: true, curves, width },
  };
}
const box: BakedMesh = {
  name: '1 post',
  material,
  mesh: sweep(singleCurve([0, 0, 0, 0, 1, 0]), polygonSection(4), { radius: 0.1 }),
};
const SEGMENTS = ({ strands: { curves } }: BakedStrands) => curves.start[COUNT] - COUNT + 1;
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const buffer = (bytes: Uint8Array) =>
  bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer;

describe('strands', () => {
  it('are BasisCurves with widths in USDA, whatever a mesh of them would be, beside meshes; read by its grammar', () => {
    const given = strands('round');
    const { header, prims } = readUsda(text(writeBaked('usda', { meshes: [box, box], strands: [given] }, 'A "pup"')));
    expect(Object.fromEntries(header)).toEqual({ defaultPrim: 'Kelp', doc: 'A "pup"', metersPerUnit: 1, upAxis: 'Y' });
    const [worn, post, again, fur] = prims[0].children;
    expect([worn.kind, worn.children[0].properties.get('inputs:roughness')?.value]).toEqual([
      'Material',
      material.roughness,
    ]);
    for (const one of [post, again]) expect(one.properties.get('material:binding')?.value).toBe(`</Kelp/${worn.name}>`);
    expect([prims.length, prims[0].kind, post.name, again.name, fur.kind, fur.name]).toEqual([
      1,
      'Xform',
      '_1_post',
      '_1_post_2',
      'BasisCurves',
      'Pup_soft_fur',
    ]);
    const of = (prim: Prim, name: string) => prim.properties.get(name)!;
    const { start, position, id } = given.strands.curves;
    const counts = of(fur, 'curveVertexCounts').value as number[];
    // the ring comes back to its first point
    expect(counts).toEqual(Array.from({ length: COUNT }, (_, c) => start[c + 1] - start[c] + (c === 5 ? 1 : 0)));
    const total = counts.reduce((a, b) => a + b, 0);
    const points = of(fur, 'points').value as number[][];
    expect([points.length, (of(fur, 'widths').value as number[]).length]).toEqual([total, total]);
    expect(points[7][1]).toBeCloseTo(position[22], 7);
    expect([
      of(fur, 'widths').interpolation,
      of(fur, 'primvars:displayColor').interpolation,
      of(fur, 'primvars:layer').interpolation,
    ]).toEqual(['vertex', 'vertex', 'uniform']);
    expect(of(fur, 'primvars:strand').value).toEqual([...id].map((one) => one | 0));
    expect([of(fur, 'type').value, of(fur, 'wrap').value]).toEqual(['linear', 'nonperiodic']);
    const faces = of(post, 'faceVertexIndices').value as number[];
    expect(faces).toEqual([...box.mesh.index]);
    expect((of(post, 'points').value as number[][]).length).toBe(box.mesh.position.length / 3);
    for (const name of ['normals', 'primvars:st'])
      expect((of(post, name).value as unknown[]).length).toBe(box.mesh.position.length / 3);
  });

  it('are lines with widths in GLB without error or warning of the validator, or meshes with their masks; three reads both back', async () => {
    const validator = createRequire(import.meta.url)('gltf-validator');
    for (const shape of ['lines', 'flat', 'round'] as const) {
      const given = strands(shape);
      const bytes = writeBaked('glb', { meshes: [box], strands: [given] }, 'Fur');
      const { issues } = await validator.validateBytes(bytes);
      expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
      const { scene } = await new GLTFLoader().parseAsync(buffer(bytes), '');
      const fur = scene.children[1] as LineSegments | Body;
      const { attributes, index } = fur.geometry;
      if (shape === 'lines') {
        expect([(fur as LineSegments).isLineSegments, index!.count]).toEqual([true, 2 * SEGMENTS(given)]);
        expect([...(attributes['_width'] ?? attributes['_WIDTH']).array]).toEqual([...given.strands.width]);
        expect([...attributes['position'].array]).toEqual([...Float32Array.from(given.strands.curves.position)]);
      } else {
        const [mesh] = strandMeshes(given.strands);
        expect([index!.count, attributes['position'].count]).toEqual([mesh.index.length, mesh.position.length / 3]);
        expect(Object.keys(attributes).sort()).toEqual([
          '_clump',
          '_layer',
          '_roottotip',
          '_strand',
          'color',
          'normal',
          'position',
          'uv',
        ]);
      }
    }
  });

  it('are lines in OBJ and edges in PLY, or meshes there; rows of a table in CSV', () => {
    const lines = strands('lines');
    const obj = new OBJLoader().parse(text(writeBaked('obj', { meshes: [box], strands: [lines] }, 'Fur')));
    const [post, fur] = obj.children as (Body & LineSegments)[];
    expect([post.isMesh, fur.isLineSegments]).toEqual([true, true]);
    expect(fur.geometry.attributes['position'].count).toBe(2 * SEGMENTS(lines));
    // quads are two triangles each when they are read
    expect(post.geometry.attributes['position'].count).toBe(box.mesh.index.length);
    const solid = strands('round');
    const [tubes] = new OBJLoader().parse(text(writeBaked('obj', { meshes: [], strands: [solid] }, 'Fur')))
      .children as Body[];
    const [mesh] = strandMeshes(solid.strands);
    expect(tubes.geometry.attributes['position'].count).toBe(mesh.index.length);
    // behind another mesh, its places, normals and texture are still its own
    const [, behind] = new OBJLoader().parse(text(writeBaked('obj', { meshes: [box], strands: [solid] }, 'Fur')))
      .children as Body[];
    for (const name of ['position', 'normal', 'uv'])
      expect([...behind.geometry.attributes[name].array]).toEqual([...tubes.geometry.attributes[name].array]);

    const ply = writeBaked('ply', { meshes: [box], strands: [lines, solid] }, 'Fur');
    const read = new PLYLoader().parse(buffer(ply));
    const vertices = box.mesh.position.length / 3 + lines.strands.width.length + mesh.position.length / 3;
    expect([read.attributes['position'].count, read.index!.count]).toEqual([
      vertices,
      box.mesh.index.length + mesh.index.length,
    ]);
    expect(text(ply.subarray(0, 700))).toContain(`element edge ${SEGMENTS(lines)}\n`);
    // nothing behind the edges
    const head = text(ply).indexOf('end_header\n') + 11;
    expect(ply.length - head).toBe(
      31 * vertices + (13 * (box.mesh.index.length + mesh.index.length)) / 3 + 8 * SEGMENTS(lines),
    );

    // an edge joins two neighbours of one strand: the ring's first and last too
    const first = box.mesh.position.length / 3;
    const view = new DataView(buffer(ply), ply.length - 8 * SEGMENTS(lines));
    const { start } = lines.strands.curves;
    for (let e = 0; e < SEGMENTS(lines); e++) {
      const [a, b] = [0, 4].map((at) => view.getUint32(8 * e + at, true) - first);
      expect(b - a === 1 || (a === start[6] - 1 && b === start[5])).toBe(true);
    }

    // of triangles alone: as many as all bodies have, each with its own normal; lines have no place in it
    const stl = writeBaked('stl', { meshes: [box], strands: [lines, solid] }, 'solid “Fur”');
    const triangles = (box.mesh.index.length + mesh.index.length) / 3;
    expect(stl.length).toBe(84 + 50 * triangles);
    const flat = new STLLoader().parse(buffer(stl)).attributes;
    expect(flat['position'].count).toBe(3 * triangles);
    const corner = (v: number) => new Vector3().fromBufferAttribute(flat['position'] as BufferAttribute, v);
    for (let v = 0; v < 3 * triangles; v += 33) {
      const f = 3 * Math.floor(v / 3);
      const normal = corner(f + 1)
        .sub(corner(f))
        .cross(corner(f + 2).sub(corner(f)))
        .normalize();
      if (normal.length() > 0.5)
        expect(new Vector3().fromBufferAttribute(flat['normal'] as BufferAttribute, f).dot(normal)).toBeCloseTo(1, 4);
    }
    expect([0, 1, 2].map((n) => flat['position'].array[n])).toEqual(
      [0, 1, 2].map((n) => box.mesh.position[3 * box.mesh.index[0] + n]),
    );

    const { data, errors } = Papa.parse<Record<string, string>>(
      text(writeBaked('csv', { meshes: [box], strands: [lines] }, 'Fur')),
      { header: true, skipEmptyLines: true },
    );
    expect([errors.length, data.length]).toEqual([0, lines.strands.width.length]);
    expect(data[0]).toMatchObject({ piece: 'Pup "soft", fur', strand: '4000000000', point: '0', layer: '0' });
    expect(Number(data[9]['width'])).toBeCloseTo(lines.strands.width[9], 8);
  });
});
