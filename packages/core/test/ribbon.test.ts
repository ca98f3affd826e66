import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evaluatePiece, newUse, realMesh, Surroundings, World } from '../src/index.js';
import { alongPoints } from './projects.js';

type Place = readonly [number, number, number];
const blade = (x: number, high: number): Place[] => [
  [x, 0, 0],
  [x + 0.1, high / 2, 0],
  [x, high, 0.1],
];

/** Ribbons along lines of their own, one after the other in the mesh. */
function ribbons(lines: readonly (readonly Place[])[], change: object) {
  const { document, piece } = alongPoints(lines[0], (one) => {
    one.make = newUse('make', 'ribbon');
    Object.assign(one.make.parameters, { sides: 'top', across: 1 }, change);
    one.path.parameters['curves'] = lines.map((_, i) => (i === 0 ? 'line' : `line ${i}`));
  });
  lines.slice(1).forEach((points, i) => {
    const like = document.curves[0].points[0];
    document.curves.push({
      ...document.curves[0],
      id: `line ${i + 1}`,
      points: points.map(([x, y, z]) => ({ ...like, position: [x, y, z] })),
    });
  });
  const build = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  const mesh = realMesh(build.parts[0]);
  const { start } = build.made.guide;
  const columns = mesh.position.length / 3 / start[start.length - 1];
  /** u and v of one ribbon's rings, and its two edges. */
  const of = (c: number) => {
    const [first, end] = [start[c] * columns, start[c + 1] * columns];
    return { uv: [...mesh.uv.slice(2 * first, 2 * end)], position: mesh.position.slice(3 * first, 3 * end) };
  };
  return { build, mesh, columns, of, ids: build.made.guide.id };
}

const even = (list: number[]) => list.filter((_, i) => i % 2 === 0);
const odd = (list: number[]) => list.filter((_, i) => i % 2 === 1);

describe('ribbons', () => {
  it('have faces of one length on all of them: a coefficient of variation under 0.1', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.8, max: 4, noNaN: true }), { minLength: 3, maxLength: 20 }), (highs) => {
        const { build, of } = ribbons(
          highs.map((high, i) => blade(i, high)),
          { cuts: 24 },
        );
        const faces = highs.flatMap((_, c) => {
          const along = odd(of(c).uv).filter((_v, i) => i % 2 === 0);
          return along.slice(1).map((v, i) => v - along[i]);
        });
        const mean = faces.reduce((a, b) => a + b, 0) / faces.length;
        const spread = Math.sqrt(faces.reduce((a, b) => a + (b - mean) ** 2, 0) / faces.length);
        expect(spread / mean).toBeLessThan(0.1);
        expect(build.findings).toEqual([]);
      }),
      { numRuns: 20 },
    );
  });

  it.each([
    ['metre', 'root', 0, 1.2],
    ['own', 'root', 0, 1],
    ['longest', 'root', 0, 0.6],
    ['shortest', 'root', 0, 1],
    ['longest', 'tip', 0.4, 1],
  ])(
    'wear their picture once along %s, pinned at the %s; more divisions move none of it',
    (textureAlong, pinned, root, tip) => {
      const straight = (x: number, high: number): Place[] => [
        [x, 0, 0],
        [x, high, 0],
      ];
      for (const cuts of [3, 24, 100]) {
        const { of } = ribbons([straight(0, 1.2), straight(1, 2)], { textureAlong, pinned, cuts });
        const v = odd(of(0).uv);
        expect(v[0]).toBeCloseTo(root, 6);
        expect(v[v.length - 1]).toBeCloseTo(tip, 6);
        // and in between by length
        of(0).uv.forEach((value, i) => {
          if (i % 2 === 1)
            expect(value).toBeCloseTo(root + ((tip - root) * of(0).position[(3 * (i - 1)) / 2 + 1]) / 1.2, 5);
        });
      }
    },
  );

  it('wear a strip each by their own id, which another ribbon does not change', () => {
    const lines = Array.from({ length: 12 }, (_, i) => blade(i, 1));
    const settings = { strips: 4, slide: 0.5, seed: 3 };
    const [some, more] = [lines.slice(0, 8), lines].map((all) => ribbons(all, settings));
    const strips = lines.slice(0, 8).map((_, c) => {
      expect(more.of(c).uv).toEqual(some.of(c).uv);
      const u = even(some.of(c).uv);
      const strip = Math.floor(4 * Math.min(...u) + 1e-6);
      expect(Math.min(...u)).toBeCloseTo(strip / 4, 6);
      expect(Math.max(...u)).toBeCloseTo((strip + 1) / 4, 6);
      return strip;
    });
    expect(new Set(strips).size).toBeGreaterThan(1);
    const third = ribbons(lines, { ...settings, strip: 3 });
    expect(Math.min(...even(third.of(5).uv))).toBeCloseTo(0.5, 6);
  });

  it('are as wide as they are set at root, middle and tip, bow by their crown, and show both sides where they are to', () => {
    const { of, mesh } = ribbons(
      [
        [
          [0, 0, 0],
          [1, 0, 0],
        ],
      ],
      { radius: 0.1, root: 0.5, tip: 0, taper: 0.3, cuts: 20 },
    );
    const wide = (i: number) => Math.abs(of(0).position[6 * i + 2] - of(0).position[6 * i + 5]);
    expect(wide(0)).toBeCloseTo(0.1, 6);
    expect(wide(10)).toBeCloseTo(0.2, 6);
    expect(wide(20)).toBeCloseTo(0, 6);
    expect(mesh.normal.every(Number.isFinite)).toBe(true);
    const crowned = ribbons(
      [
        [
          [0, 0, 0],
          [1, 0, 0],
        ],
      ],
      { radius: 0.1, crown: 0.3, across: 8, sides: 'both' },
    );
    const heights = crowned.mesh.position.filter((_, i) => i % 3 === 1);
    expect(Math.max(...heights)).toBeCloseTo(0.03, 6);
    expect(Math.min(...heights)).toBeCloseTo(0, 6);
    const ups = crowned.mesh.normal.filter((_, i) => i % 3 === 1);
    expect([Math.max(...ups), Math.min(...ups)]).toEqual([1, -1].map((value) => expect.closeTo(value, 6)));
    // its faces look where its normals do
    const { position, normal, index } = crowned.mesh;
    for (let f = 0; f < index.length; f += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => position.subarray(3 * index[f + k], 3 * index[f + k] + 3));
      const [u, v] = [b, c].map((p) => [p[0] - a[0], p[1] - a[1], p[2] - a[2]]);
      const n = normal.subarray(3 * index[f], 3 * index[f] + 3);
      const face = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      expect(face[0] * n[0] + face[1] * n[1] + face[2] * n[2]).toBeGreaterThan(0);
    }
  });

  it('turn apart within what is asked, each by its own id, also where they look somewhere', () => {
    const flat = Array.from({ length: 10 }, (_, i): Place[] => [
      [0, 0, i],
      [1, 0, i],
    ]);
    for (const facing of ['line', 'up']) {
      const turn = (lines: typeof flat) => {
        const one = ribbons(lines, { lean: 0.6, facing, radius: 0.1 });
        return lines.map((_, c) => {
          const [, ay, az, , by, bz] = one.of(c).position;
          return Math.atan2(by - ay, Math.abs(bz - az));
        });
      };
      const turns = turn(flat);
      expect(turn(flat.slice(0, 6))).toEqual(turns.slice(0, 6).map((value) => expect.closeTo(value, 5)));
      for (const value of turns) expect(Math.abs(value)).toBeLessThan(0.6);
      expect(Math.max(...turns) - Math.min(...turns)).toBeGreaterThan(0.3);
    }
  });
});
