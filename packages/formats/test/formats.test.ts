import { Document, WebIO } from '@gltf-transform/core';
import {
  bake,
  boundsOf,
  KelpError,
  type Mesh,
  parseDocument,
  SurfaceStore,
  signedVolume,
  topologyOf,
  unitOf,
} from '@kelp/core';
import { demoProject } from '@kelp/demo';
import { unzipSync, zipSync } from 'fflate';
import validator from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import {
  decodeProp,
  encodeProp,
  inspectModel,
  propMesh,
  readArchive,
  readModel,
  readProjectText,
  writeArchive,
  writeGlb,
  writeProjectText,
} from '../src/index.js';

const text = (content: string): Uint8Array => new TextEncoder().encode(content);
const CUBE_POINTS = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\n';
const CUBE_FACES = 'f 1 4 3 2\nf 5 6 7 8\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n';
const read = async (name: string, content: string | Uint8Array) =>
  readModel(name, typeof content === 'string' ? text(content) : content);
const refusal = async (work: Promise<unknown>): Promise<KelpError> => {
  const error = await work.then(
    () => undefined,
    (thrown: unknown) => thrown,
  );
  expect(error).toBeInstanceOf(KelpError);
  return error as KelpError;
};

describe('GLB out', () => {
  it('the demo passes the public glTF validator without an error and without a warning, and reads back the same', async () => {
    const { document, props } = await demoProject();
    const store = new SurfaceStore();
    for (const [hash, bytes] of props) store.add(hash, await decodeProp(bytes));
    // half as fine: the validator reads each number
    const { meshes } = bake(document, store, { density: 0.5 });
    const bytes = writeGlb(meshes, document.name);
    const { issues } = await validator.validateBytes(bytes);
    expect({ errors: issues.numErrors, warnings: issues.numWarnings }).toEqual({ errors: 0, warnings: 0 });
    expect(writeGlb(meshes, document.name)).toEqual(bytes);
    const model = await readModel('demo.glb', bytes);
    // in the order of the pieces; one of several materials is one mesh for each
    const whose = model.objects.map(({ name }) => document.pieces.findIndex((one) => name.startsWith(one.name)));
    expect(whose).toEqual(whose.toSorted((a, b) => a - b));
    expect(new Set(whose)).toEqual(new Set(document.pieces.keys()));
    model.objects.forEach(({ mesh }, i) => {
      expect(mesh.index).toEqual(meshes[i].mesh.index);
      expect(mesh.position).toEqual(meshes[i].mesh.position);
      const { make, path } = document.pieces[whose[i]];
      const { unit } = make;
      if (!unitOf('make', unit).sheet) expect(topologyOf(mesh).openEdges, model.objects[i].name).toBe(0);
      // one cable is one body; of several strands each is
      if (unit === 'cable') expect(topologyOf(mesh).shells).toBe(path.unit === 'strung' ? 6 : 1);
    });
    expect(model.notes).toEqual([]);
  });

  it('with tangents asked for, every mesh of the demo has them as the standard wants them, by the public validator', async () => {
    const { document, props } = await demoProject();
    const store = new SurfaceStore();
    for (const [hash, bytes] of props) store.add(hash, await decodeProp(bytes));
    const asked = document.pieces.map((piece) => ({ ...piece, bake: { ...piece.bake, tangents: true } }));
    const { meshes } = bake(parseDocument({ ...document, pieces: asked }), store, { density: 0.5 });
    const bytes = writeGlb(meshes, document.name);
    const { issues } = await validator.validateBytes(bytes);
    expect({ errors: issues.numErrors, warnings: issues.numWarnings }).toEqual({ errors: 0, warnings: 0 });
    const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
    const reported = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
    for (const { primitives } of reported.meshes) expect(primitives[0].attributes).toHaveProperty('TANGENT');
  });

  it('colour, a second set of texture coordinates and numbers of a unit go out as the standard says and come back', async () => {
    const { mesh } = (await read('cube.obj', CUBE_POINTS + CUBE_FACES)).objects[0];
    const material = { name: 'Paint', colour: '#2f6f5e', roughness: 0.5, metalness: 0 };
    const count = mesh.position.length / 3;
    const filled = (size: number) => Float32Array.from({ length: count * size }, (_, i) => (i % 7) / 8);
    const attributes = {
      colour: { size: 4, data: filled(4) },
      uv2: { size: 2, data: filled(2) },
      strand: { size: 1, data: Uint32Array.from({ length: count }, (_, i) => i) },
    };
    const bytes = writeGlb([{ name: 'Line', mesh: { ...mesh, attributes }, material }], 'Scene');
    const { issues } = await validator.validateBytes(bytes);
    expect({ errors: issues.numErrors, warnings: issues.numWarnings }).toEqual({ errors: 0, warnings: 0 });
    const back = (await readModel('line.glb', bytes)).objects[0].mesh.attributes;
    expect(back).toEqual({
      ...attributes,
      strand: { size: 1, data: Float32Array.from(attributes.strand.data) },
    });
  });

  it('the demo has cables that differ and nothing wrong with any of them', async () => {
    const { document, props } = await demoProject();
    const store = new SurfaceStore();
    let faces = 0;
    for (const [hash, bytes] of props) {
      const mesh = await decodeProp(bytes);
      faces += mesh.index.length / 3;
      store.add(hash, mesh);
    }
    const { pieces } = bake(document, store);
    expect(pieces.length).toBeGreaterThanOrEqual(5);
    expect(pieces.flatMap(({ name, findings }) => findings.map((finding) => `${name}: ${finding.message}`))).toEqual(
      [],
    );
    expect(faces + pieces.reduce((sum, piece) => sum + piece.triangles, 0)).toBeLessThan(150_000);
  });
});

describe('OBJ in (Wavefront, appendix B1)', () => {
  it('quads, negative numbers, texture and normal numbers, continued lines, hollow faces', async () => {
    const cube = await read('cube.obj', `# a cube\no Box\n${CUBE_POINTS}${CUBE_FACES}`);
    expect(cube.objects[0].name).toBe('Box');
    expect(signedVolume(cube.objects[0].mesh)).toBeCloseTo(1, 6);
    expect(topologyOf(cube.objects[0].mesh)).toEqual({ openEdges: 0, euler: 2, shells: 1 });
    const last = await read('last.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvn 0 0 1\nf -3/1/1 \\\n -2/1/1 -1/1/1\n');
    expect([...last.objects[0].mesh.normal]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
    // an L of area 3: its inner corner must not be bridged
    const hollow = await read('l.obj', 'v 0 0 0\nv 2 0 0\nv 2 1 0\nv 1 1 0\nv 1 2 0\nv 0 2 0\nf 1 2 3 4 5 6\n');
    const { position: p, index } = hollow.objects[0].mesh;
    let area = 0;
    for (let i = 0; i < index.length; i += 3) {
      const [a, b, c] = [3 * index[i], 3 * index[i + 1], 3 * index[i + 2]];
      area += ((p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (p[b + 1] - p[a + 1])) / 2;
    }
    expect(area).toBeCloseTo(3, 6);
  });

  it.each([
    ['empty', '', 'is empty'],
    ['no faces', 'v 0 0 0\nv 1 0 0\nl 1 2\n', 'no faces'],
    ['NaN', 'v 0 0 0\nv 1 nan 0\n', 'line 2: "v" needs 3 finite numbers, number 2 is "nan"'],
    ['missing number', 'v 0 0\n', 'line 1: "v" needs 3 finite numbers, number 3 is missing'],
    [
      'vertex that is not there',
      'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n',
      'line 4: "9" refers to vertex 9, but there are 3',
    ],
    ['two corners', 'v 0 0 0\nv 1 0 0\nf 1 2\n', 'line 3: a face needs 3 corners'],
  ])('%s: a clear error that names the place', async (_name, content, message) => {
    expect((await refusal(read('bad.obj', content))).message).toContain(message);
  });
});

describe('glTF in', () => {
  /** A cube of 1 whose node is scaled; mirrored when the scale is negative. */
  async function cubeGlb(scale: [number, number, number]): Promise<Uint8Array> {
    const { mesh } = (await read('cube.obj', CUBE_POINTS + CUBE_FACES)).objects[0];
    const document = new Document();
    const buffer = document.createBuffer();
    const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
      document
        .createAccessor()
        .setType(type)
        .setArray(array as Float32Array<ArrayBuffer>)
        .setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', mesh.position))
      .setIndices(accessor('SCALAR', mesh.index));
    document
      .createScene()
      .addChild(document.createNode('Cube').setScale(scale).setMesh(document.createMesh().addPrimitive(primitive)));
    return new WebIO().writeBinary(document);
  }

  it('applies a scale and a mirror that were left in the transform, says so, and keeps fronts outwards', async () => {
    const scaled = await read('cube.glb', await cubeGlb([2, 2, 2]));
    expect(signedVolume(scaled.objects[0].mesh)).toBeCloseTo(8, 5);
    expect(scaled.notes.join()).toContain('scale of 2');
    const mirrored = await read('cube.glb', await cubeGlb([-1, 1, 3]));
    expect(signedVolume(mirrored.objects[0].mesh)).toBeCloseTo(3, 5);
    expect(mirrored.notes.join()).toContain('mirrored');
    expect(mirrored.notes.join()).toContain('uneven scale');
  });

  it('a file beyond the limit is refused before it is read', async () => {
    const huge = { byteLength: 300 * 2 ** 20 } as Uint8Array;
    expect(await refusal(readModel('huge.glb', huge))).toMatchObject({
      code: 'TOO_LARGE',
      message: expect.stringContaining('300 MB'),
    });
  });

  it('truncated, compressed, scattered over files, and no glTF at all', async () => {
    const glb = await cubeGlb([1, 1, 1]);
    expect((await refusal(read('cut.glb', glb.subarray(0, glb.length - 40)))).message).toContain('cut off');
    expect((await refusal(read('cut.glb', glb.subarray(0, 15)))).code).toBe('BAD_FILE');
    expect(
      (await refusal(read('x.gltf', '{"asset":{"version":"2.0"},"buffers":[{"uri":"far.bin","byteLength":4}]}')))
        .message,
    ).toContain('.glb, which includes everything');
    expect(
      (await refusal(read('x.gltf', '{"asset":{"version":"2.0"},"extensionsRequired":["KHR_draco_mesh_compression"]}')))
        .message,
    ).toContain('without compression');
    expect((await refusal(read('x.gltf', 'no json'))).code).toBe('BAD_FILE');
    expect((await refusal(read('x.gltf', '{"asset":{"version":"2.0"}}'))).code).toBe('EMPTY_MESH');
    expect((await refusal(read('x.stp', 'ISO-10303'))).message).toContain('.glb, .gltf, .obj, .stl, .ply and .usda');
  });
});

describe('a prop in Kelp’s own terms', () => {
  it('guesses unit and up axis from size and stance, mends inside-out bodies', async () => {
    const tall = CUBE_POINTS.replaceAll(
      /v (\S+) (\S+) (\S+)/g,
      (_line, x, y, z) => `v ${(x - 0.5) * 60} ${(y - 0.5) * 60} ${z * 180}`,
    );
    const wrong = await read('case.obj', tall + CUBE_FACES.replaceAll(/f (\d) (\d) (\d) (\d)/g, 'f $4 $3 $2 $1'));
    const inspection = inspectModel(wrong);
    expect(inspection).toMatchObject({ unit: 'cm', up: 'z', openEdges: 0 });
    expect(inspection.insideOut).toHaveLength(1);
    const mesh = propMesh(wrong.objects, { unit: inspection.unit, up: inspection.up });
    expect(signedVolume(mesh)).toBeCloseTo(0.6 * 0.6 * 1.8, 4);
    const { min, max } = boundsOf(mesh.position);
    expect(max[1] - min[1]).toBeCloseTo(1.8, 5);
    expect(facesOutwards(mesh)).toBe(true);
  });

  it('is stored under the hash of its bytes and comes back vertex for vertex', async () => {
    const mesh = propMesh((await read('cube.obj', CUBE_POINTS + CUBE_FACES)).objects, { unit: 'in', up: 'y' });
    const { bytes, hash } = await encodeProp(mesh);
    const back = await decodeProp(bytes);
    expect(back.position).toEqual(mesh.position);
    expect(back.index).toEqual(mesh.index);
    expect(hash).toMatch(/^[0-9a-f]{64}$/);
    // an inch is 25.4 mm exactly
    expect(signedVolume(back)).toBeCloseTo(0.0254 ** 3, 9);
  });
});

const facesOutwards = ({ position, normal }: Mesh): boolean => {
  const { min, max } = boundsOf(position);
  for (let v = 0; v < position.length; v += 3) {
    let out = 0;
    for (let k = 0; k < 3; k++) out += (position[v + k] - (min[k] + max[k]) / 2) * normal[v + k];
    if (out <= 0) return false;
  }
  return true;
};

describe('project files', () => {
  it('archive and text come back as they were, and the archive is the same bytes every time', async () => {
    const project = await demoProject();
    const bytes = writeArchive(project);
    expect(writeArchive(await demoProject())).toEqual(bytes);
    const back = readArchive('demo.kelp', bytes);
    expect(back.document).toEqual(project.document);
    expect(back.props).toEqual(project.props);
    expect(readProjectText('demo.kelp.json', writeProjectText(project.document)).document).toEqual(project.document);
  });

  it('damage is reported with its place', async () => {
    const project = await demoProject();
    const bytes = writeArchive(project);
    const spoilt = (change: (entries: Record<string, Uint8Array>) => void) => {
      const entries = unzipSync(bytes);
      change(entries);
      return zipSync(entries);
    };
    const open = (archive: Uint8Array) => refusal(Promise.resolve().then(() => readArchive('a.kelp', archive)));
    const mesh = `props/${project.document.props[0].mesh}.glb`;
    expect((await open(bytes.subarray(0, 2000))).message).toContain('cut off');
    expect((await open(text('plain text'))).code).toBe('BAD_FILE');
    expect((await open(spoilt((entries) => delete entries['project.kelp.json']))).message).toContain(
      'no project.kelp.json',
    );
    expect(await open(spoilt((entries) => delete entries[mesh]))).toMatchObject({
      code: 'MISSING_PROP',
      message: expect.stringContaining('"Pier"'),
    });
    expect((await open(spoilt((entries) => (entries[mesh] = text('x'))))).message).toContain('damaged');
    expect((await open(spoilt((entries) => (entries['project.kelp.json'] = text('{'))))).message).toContain(
      'not valid JSON',
    );
  });
});
