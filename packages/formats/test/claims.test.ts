import { KelpError } from '@kelp/core';
import validator from 'gltf-validator';
import { describe, expect, it, vi } from 'vitest';
import { encodeProp, parseJson, readCurves, readModel } from '../src/index.js';

// Files that say more than they hold. Each is built here, small, and refused before room is made for what it says.

/** A tetrahedron as a GLB, its JSON changed; `tail` bytes of the binary chunk are cut off. */
// biome-ignore lint/suspicious/noExplicitAny: the point is to break what it says
async function spoilt(spoil: (json: any) => void): Promise<Uint8Array> {
  const position = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1);
  const normal = Float32Array.from(position, (_, i) => (i % 3 === 2 ? 1 : 0));
  const mesh = {
    position,
    normal,
    uv: new Float32Array(8),
    index: Uint32Array.of(0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3),
    quads: 0,
    groups: [],
  };
  const { bytes } = await encodeProp(mesh);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
  spoil(json);
  const text = new TextEncoder().encode(JSON.stringify(json));
  const padded = new Uint8Array(4 * Math.ceil(text.length / 4)).fill(0x20);
  padded.set(text);
  const out = new Uint8Array(bytes.byteLength - length + padded.length);
  out.set(bytes.subarray(0, 20));
  out.set(padded, 20);
  out.set(bytes.subarray(20 + length), 20 + padded.length);
  const head = new DataView(out.buffer);
  head.setUint32(8, out.length, true);
  head.setUint32(12, padded.length, true);
  return out;
}

const refusal = async (reading: Promise<unknown>): Promise<KelpError> => {
  try {
    await reading;
  } catch (error) {
    expect(error).toBeInstanceOf(KelpError);
    return error as KelpError;
  }
  throw new Error('It was taken in');
};

describe('a glTF whose claims its bytes do not hold', () => {
  // what the public validator calls an error, Kelp refuses; `null` where the standard has no rule and Kelp has a limit
  // biome-ignore lint/suspicious/noExplicitAny: the point is to break what it says
  it.each<[string, (json: any) => void, string, string | null]>([
    [
      'elements without data',
      (j) => {
        j.accessors[0] = { componentType: 5126, type: 'VEC3', count: 2e8 };
      },
      'accessors[0]',
      null,
    ],
    [
      'more elements than bytes',
      (j) => {
        j.accessors[0].count = 4_000;
      },
      'accessors[0]',
      'ACCESSOR_TOO_LONG',
    ],
    [
      'half an element',
      (j) => {
        j.accessors[0].count = 3.5;
      },
      'accessors[0]',
      'TYPE_MISMATCH',
    ],
    [
      'a negative offset',
      (j) => {
        j.accessors[0].byteOffset = -12;
      },
      'accessors[0]',
      'VALUE_NOT_IN_RANGE',
    ],
    [
      'a view beyond its buffer',
      (j) => {
        j.bufferViews[0].byteLength = 1e9;
      },
      'bufferViews[0]',
      'BUFFER_VIEW_TOO_LONG',
    ],
    [
      'a view of no buffer',
      (j) => {
        j.bufferViews[0].buffer = 7;
      },
      'bufferViews[0]',
      'UNRESOLVED_REFERENCE',
    ],
    [
      'indices with fractions',
      (j) => {
        j.accessors[j.meshes[0].primitives[0].indices].componentType = 5126;
        j.accessors[j.meshes[0].primitives[0].indices].count = 6;
      },
      'meshes[0].primitives[0].indices',
      'MESH_PRIMITIVE_INDICES_ACCESSOR_INVALID_FORMAT',
    ],
    [
      'places of two numbers',
      (j) => {
        j.accessors[j.meshes[0].primitives[0].attributes.POSITION].type = 'VEC2';
      },
      'meshes[0].primitives[0].attributes.POSITION',
      'MESH_PRIMITIVE_ATTRIBUTES_ACCESSOR_INVALID_FORMAT',
    ],
    [
      'an accessor that is not there',
      (j) => {
        j.meshes[0].primitives[0].attributes.NORMAL = 99;
      },
      'meshes[0].primitives[0].attributes.NORMAL',
      'UNRESOLVED_REFERENCE',
    ],
    [
      'more sparse elements than there are',
      (j) => {
        j.accessors[0].sparse = {
          count: 1e9,
          indices: { bufferView: 0, componentType: 5125 },
          values: { bufferView: 0 },
        };
      },
      'accessors[0].sparse',
      'ACCESSOR_SPARSE_COUNT_OUT_OF_RANGE',
    ],
    [
      'nodes in a ring',
      (j) => {
        j.nodes = [{ children: [1] }, { children: [2] }, { children: [0] }];
        j.scenes[0].nodes = [0];
      },
      'nodes[0]',
      'NODE_LOOP',
    ],
    [
      'a node below two others',
      (j) => {
        j.nodes.push({ children: [0] }, { children: [0] });
        j.scenes[0].nodes = [1, 2];
      },
      'nodes[0]',
      'NODE_PARENT_OVERRIDE',
    ],
    [
      'a chain of 20,000 nodes',
      (j) => {
        j.nodes = Array.from({ length: 20_000 }, (_, i) => (i < 19_999 ? { children: [i + 1] } : { mesh: 0 }));
        j.scenes[0].nodes = [0];
      },
      'nodes[256]',
      null,
    ],
    [
      'a scale of nothing',
      (j) => {
        j.nodes[0].scale = [1, 0, 1];
      },
      'nodes[0].scale',
      null,
    ],
    [
      'a scale of 10³⁰',
      (j) => {
        j.nodes[0].scale = [1e30, 1, 1];
      },
      'nodes[0].scale',
      null,
    ],
  ])('%s', async (_what, spoil, place, verdict) => {
    const bytes = await spoilt(spoil);
    if (verdict !== null) {
      const { issues } = await validator.validateBytes(bytes);
      expect(issues.messages.map(({ code }) => code)).toContain(verdict);
    }
    for (const read of [readModel, readCurves]) {
      const { code, issues } = await refusal(read('a.glb', bytes));
      expect(code).toBe('BAD_FILE');
      expect(issues[0]?.path).toBe(place);
    }
  });

  it('normals that are not numbers are computed anew, and reported', async () => {
    const bytes = await spoilt(() => {});
    const sound = await readModel('a.glb', bytes);
    const view = new DataView(bytes.buffer);
    const { bufferViews, accessors, meshes } = JSON.parse(
      new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true))),
    );
    const accessor = accessors[meshes[0].primitives[0].attributes.NORMAL];
    const at =
      20 +
      view.getUint32(12, true) +
      8 +
      (bufferViews[accessor.bufferView].byteOffset ?? 0) +
      (accessor.byteOffset ?? 0);
    view.setFloat32(at, Number.NaN, true);
    const { objects, notes } = await readModel('a.glb', bytes);
    expect(notes.join()).toContain('recomputed');
    expect(objects[0].mesh.normal.every(Number.isFinite)).toBe(true);
    expect(objects[0].mesh.index.length).toBe(sound.objects[0].mesh.index.length);
  });
});

describe('text that costs more than its length', () => {
  it.each([
    ['lists in lists', '['.repeat(100_000), 'deep at character 64'],
    ['objects in objects', '{"a":'.repeat(100_000), 'deep at character'],
  ])('%s', (_what, text, words) => {
    expect(() => parseJson('The file', text)).toThrow(words);
  });

  it('brackets and quotes in words count for nothing', () => {
    const text = JSON.stringify({ name: `${'['.repeat(500)}\\"{`, list: [1, [2, { a: '\\' }]] });
    expect(parseJson('The file', text)).toEqual(JSON.parse(text));
  });
});

it('an STL whose face lacks a corner is refused', async () => {
  const text =
    'solid a\nfacet normal 0 0 1\nouter loop\nvertexY 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid a';
  vi.spyOn(console, 'error').mockImplementation(() => {});
  const { code, message } = await refusal(readModel('a.stl', new TextEncoder().encode(text)));
  expect(code).toBe('BAD_FILE');
  expect(message).toContain('three corners');
});
