import { KelpError } from '@kelp/core';
import { demoProject } from '@kelp/demo';
import fc from 'fast-check';
import { BoxGeometry, Mesh } from 'three';
import { STLExporter } from 'three/examples/jsm/exporters/STLExporter.js';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  encodeProp,
  encoderReady,
  readArchive,
  readCurves,
  readModel,
  readProjectText,
  writeArchive,
  writeBaked,
  writeProjectText,
} from '../src/index.js';

const bytes = (text: string) => new TextEncoder().encode(text);
const TETRAHEDRON = '0 0 0\n1 0 0\n0 1 0\n0 0 1\n';
const PLY = `ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face 4\nproperty list uchar int vertex_indices\nend_header\n${TETRAHEDRON}3 0 2 1\n3 0 1 3\n3 0 3 2\n3 1 2 3\n`;
const OBJ = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\nl 1 2 3\n';
const SVG =
  '<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="30mm" viewBox="0 0 90 30"><path d="M5 5 C 20 0 40 30 60 15 A 8 5 20 0 1 80 20 Z"/><g transform="rotate(20)"><circle cx="20" cy="5" r="4"/></g></svg>';
const CSV = 'curve,x,y,z\n1,0,0,0\n1,1,0,0\n1,2,1,0\n2,0,0,1\n2,0,1,1\n';

/** A whole file of each kind, and what reads it. */
let files: Record<string, { whole: Uint8Array; read(content: Uint8Array): Promise<unknown> | unknown }>;
beforeAll(async () => {
  const { document, props } = await demoProject();
  const model = (name: string) => (content: Uint8Array) => readModel(name, content);
  const stl = new STLExporter().parse(new Mesh(new BoxGeometry(1, 2, 3)), { binary: true });
  const cube = await readModel('a.ply', bytes(PLY));
  await encoderReady();
  const { mesh } = cube.objects[0];
  const material = { name: 'a', colour: '#ffffff', roughness: 1, metalness: 0 };
  const places = {
    id: Uint32Array.of(1, 2),
    matrix: Float32Array.from([1, 2].flatMap((x) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, 0, 0, 1])),
    along: new Float32Array(2),
    curve: new Uint32Array(2),
  };
  const baked = { meshes: [{ name: 'a', mesh, material }], placed: [{ name: 'b', mesh, material, places }] };
  files = {
    'a .kelp archive': { whole: writeArchive({ document, props }), read: (content) => readArchive('a.kelp', content) },
    'a .kelp.json': {
      whole: bytes(writeProjectText({ ...document, pieces: document.pieces.slice(0, 2) })),
      read: (content) => readProjectText('a.kelp.json', new TextDecoder().decode(content)),
    },
    'a GLB': { whole: (await encodeProp(cube.objects[0].mesh)).bytes, read: model('a.glb') },
    'an OBJ': { whole: bytes(OBJ), read: model('a.obj') },
    'an STL': { whole: new Uint8Array(stl.buffer, stl.byteOffset, stl.byteLength), read: model('a.stl') },
    'a PLY': { whole: bytes(PLY), read: model('a.ply') },
    'a USDA': { whole: writeBaked('usda', baked, 'a'), read: model('a.usda') },
    'a packed GLB': { whole: writeBaked('glb', baked, 'a', { compress: true }), read: model('b.glb') },
    'an SVG': { whole: bytes(SVG), read: (content) => readCurves('a.svg', content) },
    'a CSV': { whole: bytes(CSV), read: (content) => readCurves('a.csv', content) },
  };
});

const KINDS = [
  'a .kelp archive',
  'a .kelp.json',
  'a GLB',
  'an OBJ',
  'an STL',
  'a PLY',
  'a USDA',
  'a packed GLB',
  'an SVG',
  'a CSV',
];

describe.each(KINDS)('%s', (kind) => {
  it('comes in whole', async () => {
    await expect(Promise.resolve(files[kind].read(files[kind].whole))).resolves.toBeDefined();
  });

  it('cut off, overwritten, doubled or holed anywhere it comes in or is refused in words, never with a crash', async () => {
    const { whole, read } = files[kind];
    const damage = fc.record({
      kind: fc.constantFrom('cut', 'overwrite', 'double', 'hole'),
      at: fc.double({ min: 0, max: 1, noNaN: true }),
      length: fc.integer({ min: 1, max: 40 }),
      byte: fc.integer({ min: 0, max: 255 }),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(damage, { minLength: 1, maxLength: 3 }), async (blows) => {
        let content = whole;
        for (const { kind: how, at, length, byte } of blows) {
          const from = Math.floor(at * content.length);
          const [before, struck, after] = [
            content.subarray(0, from),
            content.subarray(from, from + length),
            content.subarray(from + length),
          ];
          const parts = {
            cut: [before],
            overwrite: [before, struck.map(() => byte), after],
            double: [before, struck, struck, after],
            hole: [before, after],
          }[how];
          content = Uint8Array.from(parts.flatMap((part) => [...part]));
        }
        try {
          await read(content);
        } catch (error) {
          expect(error).toBeInstanceOf(KelpError);
          expect((error as Error).message).toMatch(/\w+ \w+/);
        }
      }),
      { numRuns: kind === 'a .kelp archive' ? 30 : 120 },
    );
  });
});
