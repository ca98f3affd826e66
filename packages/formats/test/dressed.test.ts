import { inflateSync } from 'node:zlib';
import { bake, emptyDocument, newPiece, newUse, patternTile, SurfaceStore } from '@kelp/core';
import validator from 'gltf-validator';
import { expect, it } from 'vitest';
import { writeBaked } from '../src/index.js';
import { writePng } from '../src/picture/write-png.js';

/** Pixels of a PNG whose rows are as they are, by Node's own zlib. */
function pixelsOf(png: Uint8Array): Uint8Array {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const width = view.getUint32(16);
  const length = view.getUint32(33);
  const rows = inflateSync(png.subarray(41, 41 + length));
  return Uint8Array.from(rows).filter((_, k) => k % (3 * width + 1) > 0);
}

it('materials with patterns and pictures go out whole: by the public validator; the picture is the file that was brought in', async () => {
  const document = emptyDocument('Dressed');
  const points = [0, 1, 2].map((x) => ({ position: [x, 0, 0] as [number, number, number], corner: false, radius: 1 }));
  const picture = writePng(2, 2, Uint8Array.from([255, 0, 0, 0, 255, 0, 0, 0, 255, 9, 9, 9]));
  document.curves = [{ id: 'c', name: 'C', closed: false, points }];
  document.pictures = [
    {
      id: 'p',
      name: 'P',
      image: 'a'.repeat(64),
      plane: 'front',
      position: [0, 0, 0],
      width: 1,
      aspect: 1,
      opacity: 1,
      visible: false,
      locked: false,
    },
  ];
  document.materials = [
    {
      id: 'm',
      name: 'M',
      dress: {
        ...newUse('dress', 'patterned'),
        parameters: { ...newUse('dress', 'patterned').parameters, picture: 'p' },
      },
    },
  ];
  document.pieces = ['a', 'b', 'c'].map((id) => newPiece(id, id, ['c'], false));
  document.pieces[0].dress = { main: newUse('dress', 'patterned', 'knurled-steel') };
  document.pieces[1].dress = { main: newUse('dress', 'patterned', 'knurled-steel') };
  document.pieces[2].dress = { main: { material: 'm' } };
  const { meshes, pieces } = bake(document, new SurfaceStore(), {});
  expect(
    pieces.flatMap(({ findings }) => findings.map(({ code }) => code)).filter((code) => code.includes('picture')),
  ).toEqual([]);
  const bytes = writeBaked('glb', { meshes }, 'Dressed', {
    pictures: (hash) => (hash === 'a'.repeat(64) ? picture : undefined),
  });
  const { issues } = await validator.validateBytes(bytes);
  expect({ errors: issues.numErrors, warnings: issues.numWarnings }).toEqual({ errors: 0, warnings: 0 });
  const view = new DataView(bytes.buffer);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true))));
  const binary = bytes.subarray(28 + view.getUint32(12, true));
  const file = (image: number): Uint8Array => {
    const { byteOffset, byteLength } = json.bufferViews[json.images[image].bufferView];
    return binary.slice(byteOffset, byteOffset + byteLength);
  };
  // tone and normals of the one pattern are there once; of the other its picture and its normals
  expect(json.images.map(({ name }: { name: string }) => name)).toEqual([
    'knurl tone',
    'knurl normal',
    'Picture',
    'braid normal',
  ]);
  expect(file(2)).toEqual(picture);
  const { normal, tone } = patternTile({ kind: 'knurl', relief: 0.3, tone: 0.5 });
  expect(pixelsOf(file(0))).toEqual(new Uint8Array(tone ?? []));
  expect(pixelsOf(file(1))).toEqual(new Uint8Array(normal));
  const [first, second, third] = json.materials;
  expect(first.normalTexture).toEqual(second.normalTexture);
  expect(third.pbrMetallicRoughness.baseColorTexture.index).toBe(2);
  // without its file it is left out, and the rest stands
  expect((await validator.validateBytes(writeBaked('glb', { meshes }, 'Dressed'))).issues.numErrors).toBe(0);
});
