import {
  bake,
  boundsOf,
  emptyDocument,
  newPiece,
  newUse,
  type StrandsPart,
  SurfaceStore,
  signedVolume,
  singleCurve,
} from '@kelp/core';
import { describe, expect, it } from 'vitest';
import { readCurves, readModel, writeBaked } from '../src/index.js';

const read = (text: string) => readModel('x.usda', new TextEncoder().encode(text));
const HEAD = '#usda 1.0\n(\n metersPerUnit = 1\n upAxis = "Y"\n)\n';
/** A cube of 2 with its middle at the origin, as the text format is written by hand (openusd.org, UsdGeomMesh). */
const CUBE = `
  int[] faceVertexCounts = [4, 4, 4, 4, 4, 4]
  int[] faceVertexIndices = [0, 1, 3, 2, 2, 3, 5, 4, 4, 5, 7, 6, 6, 7, 1, 0, 1, 7, 5, 3, 6, 0, 2, 4]
  point3f[] points = [(-1, -1, 1), (1, -1, 1), (-1, 1, 1), (1, 1, 1), (-1, 1, -1), (1, 1, -1), (-1, -1, -1), (1, -1, -1)]
`;
const boxOf = async (text: string) => {
  const [{ mesh }] = (await read(text)).objects;
  const { min, max } = boundsOf(mesh.position);
  return [...min, ...max].map((value) => +value.toFixed(5));
};

describe('USD text files', () => {
  it('hold meshes where their transforms put them: the first named outermost, in the unit and the way up that are said', async () => {
    const { objects, notes } = await read(`${HEAD}def Xform "Top" { def Mesh "Cube" {${CUBE}} }`);
    expect([objects.length, objects[0].name, objects[0].mesh.index.length / 3, notes]).toEqual([1, 'Cube', 12, []]);
    expect(signedVolume(objects[0].mesh)).toBeCloseTo(8, 6);
    // what is left-handed is turned round
    expect(
      signedVolume(
        (await read(`${HEAD}def Mesh "L" { uniform token orientation = "leftHanded"${CUBE}}`)).objects[0].mesh,
      ),
    ).toBeCloseTo(-8, 6);
    const moved = `def Xform "A" {
      double3 xformOp:translate = (10, 0, 0)  # ten along x
      float3 xformOp:scale = (1, 2, 3)
      float xformOp:rotateZ = 90
      uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateZ", "xformOp:scale"]
      def Mesh "Cube" (kind = "component") {${CUBE}}
    }`;
    // scaled first, turned then: y is along −x
    expect(await boxOf(HEAD + moved)).toEqual([8, -1, -3, 12, 1, 3]);
    expect(await boxOf(`#usda 1.0\n(upAxis = "Z")\n${moved}`)).toEqual([0.08, -0.03, -0.01, 0.12, 0.03, 0.01]);
    const turned = (op: string, value: string, order = `["${op}"]`) =>
      `${HEAD}def Xform "A" { ${value} token[] xformOpOrder = ${order} def Mesh "M" { double3 xformOp:translate = (5, 0, 0) token[] xformOpOrder = ["xformOp:translate"] ${CUBE} } }`;
    // about x, then y, then z: x goes to −z, and stays there
    expect(await boxOf(turned('xformOp:rotateXYZ', 'float3 xformOp:rotateXYZ = (90, 90, 0)'))).toEqual([
      -1, -1, -6, 1, 1, -4,
    ]);
    expect(await boxOf(turned('xformOp:orient', 'quatf xformOp:orient = (0.7071068, 0, 0, 0.7071068)'))).toEqual([
      -1, 4, -1, 1, 6, 1,
    ]);
    // rows of a matrix: the last one moves
    expect(
      await boxOf(
        turned('xformOp:transform', 'matrix4d xformOp:transform = ((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,7,0,1))'),
      ),
    ).toEqual([4, 6, -1, 6, 8, 1]);
    // of what varies with time the first value
    expect(
      await boxOf(
        turned('xformOp:translate', 'double3 xformOp:translate.timeSamples = { 0: (0, 3, 0), 10: (9, 9, 9), }'),
      ),
    ).toEqual([4, 2, -1, 6, 4, 1]);
  });

  it('leave out what is not to be seen, is only a pattern for others, or stands in another file, which is reported', async () => {
    const { objects, notes } = await read(`${HEAD}
      class "Pattern" { def Mesh "No" {${CUBE}} }
      def Mesh "Hidden" { token visibility = "invisible"${CUBE}}
      def Mesh "Guide" { uniform token purpose = "guide"${CUBE}}
      def Xform "Variants" (prepend references = @other.usda@</Part>) { variantSet "size" = { "big" { def Mesh "Big" {${CUBE}} } } }
      def Mesh "Seen" { rel material:binding = </Looks/Steel> ${CUBE} }`);
    expect(objects.map(({ name }) => name)).toEqual(['Seen']);
    expect(notes).toEqual([expect.stringContaining('other files')]);
  });

  it('that Kelp wrote come back: meshes, instances, and lines with the places that they were given', async () => {
    const document = emptyDocument('Yard');
    const points = [0, 1, 2].map((x) => ({
      position: [x, 0, 0] as [number, number, number],
      corner: false,
      radius: 1,
    }));
    document.curves = [{ id: 'c', name: 'C', closed: false, points }];
    document.pieces = [{ ...newPiece('p', 'Chain', ['c'], false), make: newUse('make', 'chain') }];
    const placed: Parameters<typeof writeBaked>[1]['placed'] = [];
    const { meshes } = bake(document, new SurfaceStore(), {
      density: 0.4,
      instances: true,
      onPlaced: (one) => (placed as object[]).push(one),
    });
    const real = bake(document, new SurfaceStore(), { density: 0.4 });
    const { objects } = await readModel('y.usda', writeBaked('usda', { meshes, placed }, 'Yard'));
    const volume = (all: readonly { mesh: Parameters<typeof signedVolume>[0] }[]) =>
      all.reduce((sum, { mesh }) => sum + signedVolume(mesh), 0);
    const count = (all: readonly { mesh: { index: Uint32Array } }[]) =>
      all.reduce((sum, { mesh }) => sum + mesh.index.length, 0);
    expect(count(objects)).toBe(count(real.meshes));
    expect(volume(objects) / volume(real.meshes)).toBeCloseTo(1, 2);

    const curve = singleCurve([0, 0, 0, 1, 0.5, 0, 2, 0, 3]);
    const strands: StrandsPart = {
      kind: 'strands',
      id: 's',
      name: 'S',
      slot: 'main',
      sides: 3,
      curves: curve,
      width: new Float32Array(3).fill(0.01),
    };
    const file = await readCurves(
      'l.usda',
      writeBaked(
        'usda',
        {
          meshes: [],
          strands: [{ name: 'Line', strands, material: { name: 'x', colour: '#ffffff', roughness: 1, metalness: 0 } }],
        },
        'Lines',
      ),
    );
    expect(
      file.curves.map(({ points: own, closed }) => [
        closed,
        own.map(({ position }) => position.map((value) => +value.toFixed(5))),
      ]),
    ).toEqual([
      [
        false,
        [
          [0, 0, 0],
          [1, 0.5, 0],
          [2, 0, 3],
        ],
      ],
    ]);
  });

  it.each<[string, string, RegExp]>([
    ['no head', 'def Mesh "A" {}', /does not start/],
    ['a brace that does not close', `${HEAD}def Mesh "A" { int x = 1`, /line 7|does not start a property|missing/],
    ['a list that does not end', `${HEAD}def Mesh "A" { int[] x = [1, 2`, /does not end/],
    ['a stray sign', `${HEAD}def Mesh "A" { %`, /line 6: unexpected "%"/],
    ['lists without end in each other', `${HEAD}def Mesh "A" { int x = ${'['.repeat(5000)}`, /deep/],
    ['prims without end in each other', HEAD + 'def Xform "A" {'.repeat(5000), /deep/],
    [
      'corners that are not there',
      `${HEAD}def Mesh "A" { int[] faceVertexCounts = [3] int[] faceVertexIndices = [0, 1, 9] point3f[] points = [(0,0,0),(1,0,0),(0,1,0)] }`,
      /refers to point 9 of 3/,
    ],
    [
      'half a point',
      `${HEAD}def Mesh "A" { int[] faceVertexCounts = [3] int[] faceVertexIndices = [0, 1, 2] point3f[] points = [(0,0,0),(1,0)] }`,
      /three numbers/,
    ],
    [
      'faces of more than there is',
      `${HEAD}def Mesh "A" { int[] faceVertexCounts = [1e9] int[] faceVertexIndices = [0, 1, 2] point3f[] points = [(0,0,0),(1,0,0),(0,1,0)] }`,
      /more corners/,
    ],
    [
      'a scale of nothing',
      `${HEAD}def Xform "A" { float3 xformOp:scale = (1, 0, 1) token[] xformOpOrder = ["xformOp:scale"] def Mesh "M" {${CUBE}} }`,
      /scales its content/,
    ],
    ['a unit of nothing', `#usda 1.0\n(metersPerUnit = 0)\ndef Mesh "M" {${CUBE}}`, /metersPerUnit/],
    ['nothing in it', `${HEAD}def Xform "A" {}`, /no faces/],
  ])('with %s are refused with a reason', async (_name, text, words) => {
    await expect(read(text)).rejects.toThrow(words);
  });
});
