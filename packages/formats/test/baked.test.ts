import {
  type BakedLines,
  type BakedPlaced,
  bake,
  emptyDocument,
  newPiece,
  newUse,
  PLAIN_SETTINGS,
  repeatMesh,
  SurfaceStore,
  singleCurve,
  textureDensity,
} from '@kelp/core';
import validator from 'gltf-validator';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import { type InstancedMesh, Matrix4, type MeshPhongMaterial, Vector3 } from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { MTLLoader } from 'three/addons/loaders/MTLLoader.js';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  bakeSettingsIn,
  bakeWriter,
  encoderReady,
  lossesOf,
  readArchive,
  readCurves,
  readModel,
  recipeIn,
  writeArchive,
  writeBaked,
} from '../src/index.js';
import { readUsda } from './usda-reader.js';

const document = emptyDocument('Yard');
const points = [0, 1, 2].map((x) => ({ position: [x, 0, 0] as [number, number, number], corner: false, radius: 1 }));
document.curves = [{ id: 'c', name: 'C', closed: false, points }];
document.pieces = ['Chain', 'Lead'].map((name) => newPiece(name.toLowerCase(), name, ['c'], false));
document.pieces[0].make = newUse('make', 'chain');
document.pieces[0].dress = { main: newUse('dress', 'plain', 'steel') };
document.pieces[1].make = newUse('make', 'cable', 'power-lead');
const placed: BakedPlaced[] = [];
const { meshes } = bake(document, new SurfaceStore(), {
  density: 0.4,
  instances: true,
  onPlaced: (one) => placed.push(one),
});
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
/** Triangles, each from its least corner on: a codec may begin them at another one. */
const corners = (index: Uint32Array) =>
  Array.from({ length: index.length / 3 }, (_, f) => {
    const [a, b, c] = index.subarray(3 * f, 3 * f + 3);
    return a < b && a < c ? [a, b, c] : b < c ? [b, c, a] : [c, a, b];
  });
const buffer = (bytes: Uint8Array) => bytes.slice().buffer as ArrayBuffer;

describe('what is many times', () => {
  it('is one mesh with its places in a GLB: three puts each where it is; meshes of one piece hang below one node', async () => {
    const bytes = writeBaked('glb', { meshes, placed }, 'Yard');
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const { scene } = await new GLTFLoader().parseAsync(buffer(bytes), '');
    scene.updateMatrixWorld(true);
    const nodes: InstancedMesh[] = [];
    scene.traverse((node) => {
      if ((node as InstancedMesh).isInstancedMesh) nodes.push(node as InstancedMesh);
    });
    expect(nodes).toHaveLength(placed.length);
    let count = 0;
    // the lead's meshes came first, and with them its node
    const inOrder = placed.toSorted((a, b) => Number(b.piece === 'Lead') - Number(a.piece === 'Lead'));
    inOrder.forEach(({ places }, n) => {
      const matrix = new Matrix4();
      for (let k = 0; k < places.id.length; k++) {
        nodes[n].getMatrixAt(k, matrix);
        for (let i = 0; i < 16; i++) expect(matrix.elements[i]).toBeCloseTo(places.matrix[16 * k + i], 5);
        count++;
      }
    });
    expect(count).toBeGreaterThan(5);
    // and so does Kelp itself
    const { objects } = await readModel('yard.glb', bytes);
    for (const { name, mesh, places } of placed) {
      const real = repeatMesh(mesh, places.matrix);
      const own = objects.find((one) => one.name === name && one.mesh.index.length === real.index.length);
      own?.mesh.position.forEach((value, i) => {
        expect(value).toBeCloseTo(real.position[i], 4);
      });
      expect(own?.mesh.index).toEqual(real.index);
    }
    const lead = meshes.filter(({ piece }) => piece === 'Lead');
    expect(scene.getObjectByName('Lead')?.children).toHaveLength(
      lead.length + placed.filter(({ piece }) => piece === 'Lead').length,
    );
  });

  it('of two pieces of one name each keeps the origin that it is reported from', async () => {
    const [one] = meshes;
    const twice = [
      { ...one, at: [1, 0, 0] as const },
      { ...one, at: [0, 2, 0] as const },
      { ...one, name: 'more', at: [0, 2, 0] as const },
    ];
    const { scene } = await new GLTFLoader().parseAsync(buffer(writeBaked('glb', { meshes: twice }, 'Yard')), '');
    scene.updateMatrixWorld(true);
    const places: number[][] = [];
    scene.traverse((node) => {
      if ((node as InstancedMesh).isMesh) places.push(new Vector3().setFromMatrixPosition(node.matrixWorld).toArray());
    });
    expect(places).toEqual([
      [1, 0, 0],
      [0, 2, 0],
      [0, 2, 0],
    ]);
  });

  it('is a PointInstancer in USDA, read by its grammar', () => {
    const { prims } = readUsda(text(writeBaked('usda', { meshes: [], placed }, 'Yard', { unit: 'cm', up: 'z' })));
    const instancers = prims[0].children.filter(({ kind }) => kind === 'PointInstancer');
    expect(instancers).toHaveLength(placed.length);
    instancers.forEach(({ properties, children, name }, n) => {
      const { places, mesh } = placed[n];
      const positions = properties.get('positions')?.value as number[][];
      const turns = properties.get('orientations')?.value as number[][];
      expect([
        positions.length,
        turns.length,
        (properties.get('protoIndices')?.value as number[] | undefined)?.length,
      ]).toEqual([places.id.length, places.id.length, places.id.length]);
      positions.forEach((place, k) => {
        for (let i = 0; i < 3; i++) expect(place[i]).toBeCloseTo(places.matrix[16 * k + 12 + i], 5);
      });
      for (const turn of turns) expect(Math.hypot(...turn)).toBeCloseTo(1, 5);
      expect(properties.get('prototypes')?.value).toBe(`</Kelp/${name}/Mesh>`);
      expect((children[0].properties.get('points')?.value as number[] | undefined)?.length).toBe(
        mesh.position.length / 3,
      );
    });
  });
});

it('an OBJ names its materials, which three reads from the library beside it', () => {
  const { writer, obj } = objOf();
  const library = new MTLLoader().parse(text(writer), '');
  library.preload();
  const group = new OBJLoader().setMaterials(library).parse(obj);
  expect(group.children).toHaveLength(meshes.length);
  group.children.forEach((child, k) => {
    const { color, shininess } = (child as unknown as { material: MeshPhongMaterial }).material;
    expect(`#${color.getHexString()}`).toBe(meshes[k].material.colour);
    expect(shininess).toBeGreaterThanOrEqual(0);
  });
  expect(obj.match(/^g Lead$/gm)).toHaveLength(meshes.filter(({ piece }) => piece === 'Lead').length);
});

function objOf(): { writer: Uint8Array; obj: string } {
  const parts: Uint8Array[] = [];
  const writer = bakeWriter('obj', 'Yard', (bytes) => parts.push(bytes.slice()), { library: 'yard.mtl' });
  for (const mesh of meshes) writer.add(mesh);
  const head = writer.head();
  return { writer: writer.beside?.().bytes ?? new Uint8Array(), obj: [head, ...parts].map(text).join('') };
}

it('flat views of lines in SVG are read back by a general library, from three sides, in millimetres; a table has their points', async () => {
  const lines: BakedLines[] = [];
  bake(document, new SurfaceStore(), { onMesh: () => {}, onLines: (one) => lines.push(one) });
  expect(lines.map(({ name }) => name)).toEqual(['Chain', 'Lead']);
  const bent = { ...lines[0], name: 'A <b> & "c"', curves: singleCurve([0, 0, 0, 0, 2, 0, 1, 2, 3]) };
  const svg = text(writeBaked('svg', { meshes: [], lines: [bent] }, 'Flat'));
  const { curves, unit } = await readCurves('flat.svg', new TextEncoder().encode(svg));
  expect(unit).toBe('mm');
  const spans = curves.map(({ points: all }) =>
    [0, 1].map(
      (k) => Math.max(...all.map(({ position }) => position[k])) - Math.min(...all.map(({ position }) => position[k])),
    ),
  );
  // x by z, x by y, z by y
  for (const [k, span] of [
    [1000, 3000],
    [1000, 2000],
    [3000, 2000],
  ].entries())
    expect(spans[k]).toEqual(span.map((value) => expect.closeTo(value, 2)));
  expect(svg).toContain('<title>A &lt;b&gt; &amp; &quot;c&quot;</title>');
  expect(
    (await readCurves('none.svg', writeBaked('svg', { meshes: [], lines: [bent, bent] }, 'x'))).curves,
  ).toHaveLength(6);
  const table = text(writeBaked('csv', { meshes: [], lines: [bent] }, 'Flat'))
    .trim()
    .split('\r\n');
  expect(table.slice(1).map((row) => row.split(',').slice(2, 6).join())).toEqual(['0,0,0,0', '1,0,2,0', '2,1,2,3']);
});

describe('a GLB that holds its project', () => {
  const archive = writeArchive({ document, props: new Map() });
  const bytes = writeBaked('glb', { meshes, recipe: archive }, 'Yard');

  it('is valid, and gives it back to the byte', async () => {
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    expect(recipeIn('x.glb', bytes)).toEqual(archive);
    expect(readArchive('x', recipeIn('x.glb', bytes) ?? new Uint8Array()).document).toEqual(document);
  });

  it('one without has none; one that was cut off or changed is reported, and never read beyond its end', () => {
    expect(recipeIn('x.glb', writeBaked('glb', { meshes }, 'Yard'))).toBeUndefined();
    expect(bakeSettingsIn('x.glb', bytes)).toEqual({});
    const reported = (settings: object) => {
      const parts: Uint8Array[] = [];
      const writer = bakeWriter('glb', 'x', (part) => parts.push(part));
      writer.addRecipe?.(archive, settings);
      return bakeSettingsIn('x.glb', Buffer.concat([writer.head(), ...parts]));
    };
    expect(reported({ density: 2, merge: 'all' })).toEqual({ density: 2, merge: 'all' });
    for (const wrong of [{ density: 1e9 }, { other: 1 }, { merge: 7 }])
      expect(() => reported(wrong)).toThrow('was changed');
    expect(recipeIn('x.obj', new TextEncoder().encode('v 0 0 0\n'.repeat(9)))).toBeUndefined();
    expect(() => recipeIn('x.glb', bytes.subarray(0, bytes.length - 9))).toThrow('cut off');
    const length = new DataView(bytes.buffer).getUint32(12, true);
    const head = text(bytes.subarray(20, 20 + length));
    for (const [from, to] of [
      ['"byteOffset":', '"byteOffset":-'],
      ['"byteLength":', '"byteLenght":'],
    ]) {
      const at = head.lastIndexOf(from, head.indexOf('"buffers"'));
      const broken = bytes.slice();
      broken.set(
        new TextEncoder().encode((head.slice(0, at) + to + head.slice(at + from.length)).slice(0, length)),
        20,
      );
      expect(() => recipeIn('x.glb', broken)).toThrow();
    }
  });
});

it.each([
  [65_535, 5123],
  [65_536, 5125],
])(
  '%i vertices are distinguished by numbers of the type %i: 65,535 is no vertex in 16 bits (glTF 2.0, section 3.7.2.1)',
  async (vertices, type) => {
    const position = Float32Array.from({ length: 3 * vertices }, (_, i) => Math.sin(i));
    const mesh = {
      position,
      normal: new Float32Array(3 * vertices).map((_, i) => (i % 3 === 1 ? 1 : 0)),
      uv: new Float32Array(2 * vertices),
      index: Uint32Array.of(0, 1, vertices - 1),
      quads: 0,
      groups: [],
    };
    const bytes = writeBaked('glb', { meshes: [{ name: 'many', mesh, material: meshes[0].material }] }, 'Many');
    const head = JSON.parse(text(bytes.subarray(20, 20 + new DataView(bytes.buffer).getUint32(12, true))));
    expect(head.accessors.at(-1).componentType).toBe(type);
    expect((await readModel('many.glb', bytes)).objects[0].mesh.index).toEqual(mesh.index);
  },
);

describe('a compressed GLB', () => {
  beforeAll(encoderReady);
  const strand = singleCurve([0, 0, 0, 1, 0, 0, 1, 1, 0], { id: 3 });
  const lines = {
    name: 'Line',
    material: meshes[0].material,
    strands: {
      kind: 'strands',
      id: 'l',
      name: 'L',
      slot: 'main',
      curves: strand,
      width: new Float32Array(3).fill(0.01),
      sides: 3,
      shape: 'lines',
    },
  } as const;
  const written = (compress: boolean, all = meshes) =>
    writeBaked('glb', { meshes: all, placed, strands: [lines] }, 'Yard', { compress });

  it('is shorter and, to the bit, the same mesh: for Kelp, and for three with the decoder of those who made the codec', async () => {
    const [plain, packed] = [written(false), written(true)];
    expect(packed.length).toBeLessThan(0.7 * plain.length);
    const { issues } = await validator.validateBytes(packed);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const [own, same] = await Promise.all([plain, packed].map((bytes) => readModel('y.glb', bytes)));
    // what is many times is read too, each where it is
    expect(own.objects.at(-2)?.mesh.index.length).toBeGreaterThan(0);
    const facesOf = ({ objects }: typeof own) =>
      objects.map(({ name, mesh }) => [name, mesh.position, mesh.normal, mesh.uv, corners(mesh.index)]);
    expect(facesOf(same)).toEqual(facesOf(own));
    const { scene } = await new GLTFLoader().setMeshoptDecoder(MeshoptDecoder).parseAsync(buffer(packed), '');
    const places: Float32Array[] = [];
    scene.traverse((node) => {
      if ((node as InstancedMesh).isMesh)
        places.push((node as InstancedMesh).geometry.attributes['position'].array as Float32Array);
    });
    expect(places.slice(0, meshes.length)).toEqual(meshes.map(({ mesh }) => mesh.position));
  });

  it.each([false, true])('as one text file holds what it holds as bytes (compressed: %s)', async (compress) => {
    const bytes = writeBaked('gltf', { meshes, placed, strands: [lines] }, 'Yard', { compress });
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const [own, same] = [await readModel('y.glb', written(compress)), await readModel('y.gltf', bytes)];
    expect(same.objects).toEqual(own.objects);
  });

  it('that is damaged or says too much is refused with a reason', async () => {
    const packed = written(true);
    const length = new DataView(packed.buffer).getUint32(12, true);
    const head = JSON.parse(text(packed.subarray(20, 20 + length)));
    const first = head.bufferViews.findIndex((view: { extensions?: object }) => view.extensions);
    const { byteOffset } = head.bufferViews[first].extensions.EXT_meshopt_compression;
    const broken = packed.slice();
    broken.fill(0xff, 28 + length + byteOffset, 28 + length + byteOffset + 40);
    await expect(readModel('y.glb', broken)).rejects.toThrow(/cannot be unpacked/);
    const claims: [object, RegExp][] = [
      [{ count: 1e9 }, /claims/],
      [{ byteLength: 1e9 }, /is outside/],
      [{ buffer: 7 }, /missing/],
      [{ byteStride: 3 }, /stride/],
      [{ mode: 'OTHER' }, /mode/],
    ];
    for (const [claim, words] of claims) {
      const views = head.bufferViews.map((view: { extensions?: Record<string, object> }, i: number) =>
        i === first
          ? {
              ...view,
              extensions: { EXT_meshopt_compression: { ...view.extensions?.['EXT_meshopt_compression'], ...claim } },
            }
          : view,
      );
      const body = packed.subarray(28 + length);
      const json = new TextEncoder().encode(
        JSON.stringify({
          ...head,
          bufferViews: views,
          buffers: [
            { byteLength: body.length, uri: `data:;base64,${Buffer.from(body).toString('base64')}` },
            head.buffers[1],
          ],
        }),
      );
      await expect(readModel('y.gltf', json)).rejects.toThrow(words);
    }
  });
});

it('what is lost is reported before: by format, by content and by settings', () => {
  const nothing = {
    moves: false,
    strands: false,
    lines: false,
    patterns: false,
    colours: false,
    placed: false,
    meshes: true,
  };
  const plain = PLAIN_SETTINGS;
  expect(lossesOf('glb', { ...nothing, moves: true, patterns: true, colours: true }, plain)).toEqual([]);
  expect(lossesOf('gltf', { ...nothing, placed: true }, { ...plain, instances: true, compress: true })).toEqual([]);
  expect(lossesOf('gltf', nothing, { ...plain, recipe: true })).toEqual([expect.stringContaining('only a GLB')]);
  expect(lossesOf('glb', nothing, { ...plain, up: 'z' })).toEqual([expect.stringContaining('+Y up')]);
  expect(lossesOf('obj', { ...nothing, moves: true, patterns: true, colours: true }, plain)).toHaveLength(3);
  expect(lossesOf('obj', { ...nothing, moves: true }, { ...plain, frames: { first: 0, last: 1, rate: 24 } })).toEqual(
    [],
  );
  expect(lossesOf('glb', { ...nothing, moves: true }, { ...plain, merge: 'all' })).toHaveLength(2);
  expect(lossesOf('csv', nothing, plain)).toEqual([expect.stringContaining('Meshes')]);
  expect(lossesOf('ply', { ...nothing, placed: true }, { ...plain, instances: true, recipe: true })).toHaveLength(3);
});

it('texture density is the root of the areas, by definition: a sheet of 2 m by 3 m under one and under six repeats', () => {
  const sheet = (u: number, v: number) => ({
    position: Float32Array.of(0, 0, 0, 2, 0, 0, 2, 3, 0, 0, 3, 0),
    uv: Float32Array.of(0, 0, u, 0, u, v, 0, v),
    index: Uint32Array.of(0, 1, 2, 0, 2, 3),
  });
  expect(textureDensity([sheet(1, 1)])?.least).toBeCloseTo(1 / Math.sqrt(6), 6);
  expect(textureDensity([sheet(2, 3)])).toEqual({ least: expect.closeTo(1, 6), most: expect.closeTo(1, 6) });
  expect(textureDensity([{ ...sheet(1, 1), uv: new Float32Array(8) }])).toBeUndefined();
});
