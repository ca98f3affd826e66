import { emptyDocument, type KelpDocument, type Mesh, newPiece, newShape, singleCurve } from '@kelp/core';
import { encodeProp, encoderReady, writeArchive, writeBaked, writeProjectText } from '@kelp/formats';
import { encode } from 'jpeg-js';

/** A small sound file of each kind that Kelp reads. All are built here. */
export interface Seed {
  kind: string;
  /** Name by whose ending it is read. */
  name: string;
  bytes: Uint8Array;
}

const text = (...lines: string[]): Uint8Array => new TextEncoder().encode(lines.join('\n'));

const TETRAHEDRON: Mesh = {
  position: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1),
  normal: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1),
  uv: new Float32Array(8),
  index: Uint32Array.of(0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3),
  quads: 0,
  groups: [],
};

/** A line with corners, a shape and a cable: something of every part of a project. */
export function smallDocument(): KelpDocument {
  const document = emptyDocument('Seed');
  const points = [0, 0.4, 0.9].map((x, k) => ({
    position: [x, 0.2 * k, 0] as [number, number, number],
    corner: k === 1,
    radius: 1,
  }));
  document.curves.push({ id: 'line', name: 'Line', closed: false, points });
  document.pieces.push({ ...newPiece('piece', 'Piece', ['line'], true), shape: [newShape('sag', { slack: 0.1 })] });
  return document;
}

const MATERIAL = { name: 'a', colour: '#ffffff', roughness: 1, metalness: 0 };
/** A mesh by itself, and in two places; and a line. */
const BAKED = {
  meshes: [{ name: 'a', mesh: TETRAHEDRON, material: MATERIAL }],
  placed: [
    {
      name: 'b',
      mesh: TETRAHEDRON,
      material: MATERIAL,
      places: {
        id: Uint32Array.of(1, 2),
        matrix: Float32Array.from([1, 2].flatMap((x) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, 0, 0, 1])),
        along: new Float32Array(2),
        curve: new Uint32Array(2),
      },
    },
  ],
  strands: [
    {
      name: 'c',
      material: MATERIAL,
      strands: {
        kind: 'strands',
        id: 'c',
        name: 'C',
        slot: 'main',
        curves: singleCurve([0, 0, 0, 1, 0, 0, 1, 1, 0]),
        width: new Float32Array(3).fill(0.1),
        sides: 3,
        shape: 'lines',
      } as const,
    },
  ],
};

export async function seeds(): Promise<Seed[]> {
  await encoderReady();
  const { bytes: glb } = await encodeProp(TETRAHEDRON);
  return [
    { kind: 'project text', name: 'a.kelp.json', bytes: new TextEncoder().encode(writeProjectText(smallDocument())) },
    { kind: 'archive', name: 'a.kelp', bytes: writeArchive({ document: smallDocument(), props: new Map() }) },
    { kind: 'GLB', name: 'a.glb', bytes: glb },
    { kind: 'glTF', name: 'a.gltf', bytes: asGltf(glb) },
    {
      kind: 'OBJ',
      name: 'a.obj',
      bytes: text(
        'o a',
        'v 0 0 0',
        'v 1 0 0',
        'v 0 1 0',
        'v 0 0 1',
        'vn 0 0 1',
        'vt 0 0',
        'f 1/1/1 2/1/1 3/1/1',
        'f 1 2 -1',
        'l 1 2 3',
      ),
    },
    { kind: 'USDA', name: 'a.usda', bytes: writeBaked('usda', BAKED, 'a') },
    { kind: 'GLB packed', name: 'b.glb', bytes: writeBaked('glb', BAKED, 'a', { compress: true }) },
    {
      kind: 'STL text',
      name: 'a.stl',
      bytes: text(
        'solid a',
        'facet normal 0 0 1',
        'outer loop',
        'vertex 0 0 0',
        'vertex 1 0 0',
        'vertex 0 1 0',
        'endloop',
        'endfacet',
        'endsolid a',
      ),
    },
    { kind: 'STL', name: 'b.stl', bytes: binaryStl(2) },
    {
      kind: 'PLY text',
      name: 'a.ply',
      bytes: text(
        'ply',
        'format ascii 1.0',
        'element vertex 3',
        'property float x',
        'property float y',
        'property float z',
        'element face 1',
        'property list uchar int vertex_indices',
        'end_header',
        '0 0 0',
        '1 0 0',
        '0 1 0',
        '3 0 1 2',
        '',
      ),
    },
    { kind: 'PLY', name: 'b.ply', bytes: binaryPly() },
    {
      kind: 'SVG',
      name: 'a.svg',
      bytes: text(
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><g transform="rotate(20) scale(2)"><path d="M0 0 C1 2 3 4 5 6 A 2 3 20 0 1 8 8 Z"/></g><circle r="3"/><polyline points="0,0 1,1 2,0"/></svg>',
      ),
    },
    { kind: 'CSV', name: 'a.csv', bytes: text('x;y;z;curve', '0;0;0;a', '1,5;0;0;a', '2;1;0;a', '0;0;1;b', '1;0;1;b') },
    { kind: 'PNG', name: 'a.png', bytes: PNG },
    { kind: 'JPEG', name: 'a.jpg', bytes: JPEG },
  ];
}

/** Mode of a primitive that is a line (glTF 2.0, 3.7.2.1). */
const LINE_STRIP = 3;

/** The same mesh as text, its bytes inside, and a line through its corners. */
function asGltf(glb: Uint8Array): Uint8Array {
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)));
  const body = Buffer.from(glb.subarray(28 + length)).toString('base64');
  json.buffers[0].uri = `data:application/octet-stream;base64,${body}`;
  const { POSITION } = json.meshes[0].primitives[0].attributes;
  json.meshes[0].primitives.push({ attributes: { POSITION }, mode: LINE_STRIP });
  return new TextEncoder().encode(JSON.stringify(json));
}

function binaryStl(faces: number): Uint8Array {
  const view = new DataView(new ArrayBuffer(84 + 50 * faces));
  view.setUint32(80, faces, true);
  for (let f = 0; f < faces; f++)
    [0, 0, 1, 0, 0, f, 1, 0, f, 0, 1, f].forEach((value, k) => {
      view.setFloat32(84 + 50 * f + 4 * k, value, true);
    });
  return new Uint8Array(view.buffer);
}

function binaryPly(): Uint8Array {
  const head = text(
    'ply',
    'format binary_little_endian 1.0',
    'element vertex 3',
    'property float x',
    'property float y',
    'property float z',
    'element face 1',
    'property list uchar int vertex_indices',
    'end_header',
    '',
  );
  const view = new DataView(new ArrayBuffer(36 + 13));
  [0, 0, 0, 1, 0, 0, 0, 1, 0].forEach((value, k) => {
    view.setFloat32(4 * k, value, true);
  });
  view.setUint8(36, 3);
  for (let k = 0; k < 3; k++) view.setInt32(37 + 4 * k, k, true);
  return Uint8Array.from([...head, ...new Uint8Array(view.buffer)]);
}

/** Four pixels by two. */
const PNG = Uint8Array.from(
  Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAQAAAACCAIAAADwyuo0AAAAEElEQVR4nGM4cWADHDEgcwDnmhHBBZCF0AAAAABJRU5ErkJggg==',
    'base64',
  ),
);

/** Sixteen by sixteen pixels, from dark to light (ITU-T T.81). */
const JPEG = Uint8Array.from(
  encode({ width: 16, height: 16, data: new Uint8Array(1024).map((_, i) => (i % 4 === 3 ? 255 : i >> 2)) }, 60).data,
);
