import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  boundsOf,
  checkMesh,
  flipMesh,
  type KelpError,
  type Mesh,
  mergeMeshes,
  placementMatrix,
  polygonSection,
  roundSection,
  signedVolume,
  singleCurve,
  surfaceArea,
  sweep,
  topologyOf,
  transformMesh,
  withComputedNormals,
} from '../src/index.js';
import { bunnyMesh, circle } from './helpers.js';

/** A straight capped bar, closed, of volume known from its section. */
const bar = (): Mesh => sweep(singleCurve([0, 0, 0, 0, 2, 0]), roundSection(12), { radius: 0.5 });

/** Share of a face's normal that its vertices' normals agree with, at worst. */
function worstAgreement({ position: p, normal, index }: Mesh): number {
  let worst = 1;
  for (let i = 0; i < index.length; i += 3) {
    const [a, b, c] = [3 * index[i], 3 * index[i + 1], 3 * index[i + 2]];
    const u = [0, 1, 2].map((k) => p[b + k] - p[a + k]);
    const v = [0, 1, 2].map((k) => p[c + k] - p[a + k]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(...n);
    if (size < 1e-9) continue;
    for (const at of [a, b, c])
      worst = Math.min(
        worst,
        n.reduce((sum, value, k) => sum + (value / size) * normal[at + k], 0),
      );
  }
  return worst;
}

describe('transforms', () => {
  const entry = fc.integer({ min: -30, max: 30 }).map((value) => value / 10);

  it('any matrix, mirrors included: volume times |det|, fronts stay fronts', () => {
    // flat faces: their normals stay exact under any matrix, by the inverse transpose
    const source = sweep(singleCurve([0, 0, 0, 0, 2, 0]), polygonSection(8), { radius: 0.5 });
    fc.assert(
      fc.property(fc.tuple(entry, entry, entry, entry, entry, entry, entry, entry, entry), (m) => {
        const det =
          m[0] * (m[4] * m[8] - m[5] * m[7]) - m[3] * (m[1] * m[8] - m[2] * m[7]) + m[6] * (m[1] * m[5] - m[2] * m[4]);
        fc.pre(Math.abs(det) > 0.5);
        const moved = transformMesh(source, [
          m[0],
          m[1],
          m[2],
          0,
          m[3],
          m[4],
          m[5],
          0,
          m[6],
          m[7],
          m[8],
          0,
          7,
          -3,
          2,
          1,
        ]);
        expect(signedVolume(moved) / (signedVolume(source) * Math.abs(det))).toBeCloseTo(1, 3);
        expect(worstAgreement(moved)).toBeGreaterThan(0.999);
      }),
      { numRuns: 60 },
    );
  });

  it('a placement turns, scales evenly and moves: lengths by the scale, areas by its square', () => {
    const placed = transformMesh(
      bar(),
      placementMatrix({ position: [1, 2, 3], rotation: [0, 0, Math.SQRT1_2, Math.SQRT1_2], scale: 3 }),
    );
    expect(surfaceArea(placed)).toBeCloseTo(9 * surfaceArea(bar()), 3);
    // a quarter turn about z lays the bar along −x
    const { min, max } = boundsOf(placed.position);
    expect(max[0] - min[0]).toBeCloseTo(6, 5);
    expect(max[0]).toBeCloseTo(1, 5);
  });

  it('turned inside out and back is the same body', () => {
    expect(signedVolume(flipMesh(bar()))).toBeCloseTo(-signedVolume(bar()), 9);
    expect(flipMesh(flipMesh(bar())).index).toEqual(bar().index);
  });
});

describe('topology by Euler’s formula', () => {
  it('bar 2, torus 0, two bars 4 in two shells', () => {
    expect(topologyOf(bar())).toEqual({ openEdges: 0, euler: 2, shells: 1 });
    expect(topologyOf(sweep(circle(1, 40), roundSection(8), { radius: 0.2 }))).toEqual({
      openEdges: 0,
      euler: 0,
      shells: 1,
    });
    const far = transformMesh(bar(), placementMatrix({ position: [9, 0, 0], rotation: [0, 0, 0, 1], scale: 1 }));
    const both = mergeMeshes([bar(), far]);
    expect(topologyOf(both)).toEqual({ openEdges: 0, euler: 4, shells: 2 });
    expect(both.quads).toBe(2 * bar().quads);
    expect(both.groups.reduce((sum, group) => sum + group.count, 0)).toBe(both.index.length);
  });

  it('the open scan: V − E + F counted independently', () => {
    const mesh = bunnyMesh();
    const edges = new Set<string>();
    const used = new Set<number>();
    for (let i = 0; i < mesh.index.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [mesh.index[i + k], mesh.index[i + ((k + 1) % 3)]];
        edges.add(a < b ? `${a} ${b}` : `${b} ${a}`);
        used.add(a);
      }
    expect(topologyOf(mesh).euler).toBe(used.size - edges.size + mesh.index.length / 3);
  });
});

it('computed normals: flat on a bar’s ends, radial on its side, vertices split at the rim', () => {
  const source = bar();
  const { position, normal } = withComputedNormals({ ...source, normal: new Float32Array(source.normal.length) });
  for (let v = 0; v < position.length; v += 3) {
    const [x, y, z] = [normal[v], normal[v + 1], normal[v + 2]];
    expect(Math.hypot(x, y, z)).toBeCloseTo(1, 5);
    if (Math.abs(y) > 0.5) expect(Math.abs(y)).toBeCloseTo(1, 5);
    else expect((x * position[v] + z * position[v + 2]) / Math.hypot(position[v], position[v + 2])).toBeCloseTo(1, 5);
  }
});

it.each<[string, (mesh: Mesh) => void, string, string]>([
  ['no vertices', (mesh) => Object.assign(mesh, { position: new Float32Array(0) }), 'EMPTY_MESH', 'no vertices'],
  ['no faces', (mesh) => Object.assign(mesh, { index: new Uint32Array(0) }), 'EMPTY_MESH', 'no faces'],
  ['a vertex that is not there', (mesh) => mesh.index.fill(9999, 3, 4), 'BAD_SHAPE', 'face 1 refers to vertex 9999'],
  ['NaN', (mesh) => mesh.position.fill(Number.NaN, 7, 8), 'BAD_NUMBER', 'vertex 2 has NaN for y'],
])('a mesh with %s is refused with its place', (_name, spoil, code, words) => {
  const mesh = bar();
  spoil(mesh);
  let error: KelpError | undefined;
  try {
    checkMesh(mesh, 'Post');
  } catch (thrown) {
    error = thrown as KelpError;
  }
  expect(error).toMatchObject({ code, message: expect.stringContaining(`Post`) });
  expect(error?.message).toContain(words);
});

it('where twenty thousand faces meet, each does not look at each: a disc is flat, a cone smooth round and pointed at its tip', () => {
  const faces = 20_000;
  const cone = (height: number) => {
    const position = new Float32Array(3 * (faces + 1));
    position[1] = height;
    for (let k = 1; k <= faces; k++)
      position.set([Math.cos((2 * Math.PI * k) / faces), 0, -Math.sin((2 * Math.PI * k) / faces)], 3 * k);
    const index = Uint32Array.from({ length: 3 * faces }, (_, n) =>
      n % 3 === 0 ? 0 : 1 + ((Math.floor(n / 3) + (n % 3) - 1) % faces),
    );
    return withComputedNormals({
      position,
      normal: new Float32Array(position.length),
      uv: new Float32Array(2 * (faces + 1)),
      index,
      quads: 0,
      groups: [],
    });
  };
  const flat = cone(0).normal;
  for (let i = 0; i < flat.length; i += 3) expect(flat[i + 1]).toBeGreaterThan(0.9999);
  // a slope of 45°: every normal leans by about as much, also those of the tip, each of which is for the faces beside it
  const { normal, index } = cone(1);
  for (let corner = 0; corner < index.length; corner += 3)
    expect(normal[3 * index[corner] + 1]).toBeCloseTo(Math.SQRT1_2, 1);
});
