import fc from 'fast-check';
import Module from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import { evaluatePiece, newUse, realMesh, Surroundings, signedVolume, topologyOf, World } from '../src/index.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Place = readonly [number, number, number];

const circle = (radius: number, count: number, at: Place = [0, 0, 0], way = 1): Place[] =>
  Array.from({ length: count }, (_, k) => {
    const angle = (way * 2 * Math.PI * k) / count;
    return [at[0] + radius * Math.cos(angle), at[1], at[2] + radius * Math.sin(angle)];
  });
const square = (half: number): Place[] => [
  [-half, 0, -half],
  [half, 0, -half],
  [half, 0, half],
  [-half, 0, half],
];

function filled(
  lines: readonly (readonly Place[])[],
  change: object,
  drawn: { corner?: boolean; open?: boolean } = {},
) {
  const { document, piece } = alongPoints(lines[0], (one) => {
    one.make = newUse('make', 'fill');
    Object.assign(one.make.parameters, { radius: 0.02, rounding: 0, across: 12 }, change);
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
  for (const curve of document.curves) {
    curve.closed = !drawn.open;
    for (const point of curve.points) point.corner = drawn.corner ?? false;
  }
  const build = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  const [part] = build.parts;
  return { build, codes: build.findings.map(({ code }) => code), mesh: part ? realMesh(part) : undefined };
}

const needed = ({ mesh }: ReturnType<typeof filled>) => {
  if (!mesh) throw new Error('Nothing was filled');
  return mesh;
};

describe('a slab', () => {
  it('has the volume of its area times its thickness, square at the rim', () => {
    const plate = needed(filled([square(0.5)], {}, { corner: true }));
    expect(signedVolume(plate)).toBeCloseTo(1 * 0.04, 6);
    expect(topologyOf(plate)).toMatchObject({ openEdges: 0, shells: 1, euler: 2 });
  });

  it('with a round rim is a disk and half a torus (Pappus-Guldinus)', () => {
    const [R, r] = [0.5, 0.02];
    const disk = needed(filled([circle(R, 48)], { rounding: 1, rimSteps: 16 }));
    // the middle disk, and a half circle of area πr²/2 whose middle is 4r/3π further out
    const rim = ((Math.PI * r * r) / 2) * 2 * Math.PI * (R - r + (4 * r) / (3 * Math.PI));
    expect(signedVolume(disk) / (Math.PI * (R - r) ** 2 * 2 * r + rim)).toBeCloseTo(1, 2);
    const far = disk.position.reduce(
      (most, _, i) => (i % 3 === 0 ? Math.max(most, Math.hypot(disk.position[i], disk.position[i + 2])) : most),
      0,
    );
    // it reaches as far as its line does
    expect(far).toBeCloseTo(R, 3);
    for (let v = 0; v < disk.normal.length; v += 3)
      expect(Math.hypot(...disk.normal.subarray(v, v + 3))).toBeCloseTo(1, 5);
  });

  it('has holes where lines lie inside, and slabs again inside those', () => {
    const lines = [square(1), circle(0.6, 24), circle(0.3, 24)];
    const { codes } = filled(lines, {});
    expect(codes).toEqual([]);
    const mesh = needed(filled(lines, { rounding: 0.5 }));
    // a frame with one hole, and a disk
    expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: 2, euler: 0 + 2 });
    const apart = needed(filled([circle(0.3, 24), circle(0.3, 24, [2, 0, 0])], {}));
    expect(topologyOf(apart)).toMatchObject({ openEdges: 0, shells: 2, euler: 4 });
  });

  it('bows by its crown, up or down, and stands where its rise puts it', () => {
    const high = (mesh: ReturnType<typeof needed>) => {
      const ys = mesh.position.filter((_, i) => i % 3 === 1);
      return [Math.min(...ys), Math.max(...ys)];
    };
    // of a disk half the width is its radius
    expect(high(needed(filled([circle(0.5, 48)], { crown: 0.4, across: 40 })))[1]).toBeCloseTo(0.2 + 0.02, 2);
    expect(high(needed(filled([circle(0.5, 48)], { crown: -0.4, across: 40 })))[0]).toBeCloseTo(-0.2 - 0.02, 2);
    expect(high(needed(filled([circle(0.5, 24)], { rise: 1 })))).toEqual([0, 0.04].map((v) => expect.closeTo(v, 5)));
    // a skin under even pressure: (R² − r²)/4 of its height, whatever its divisions
    const skin = needed(filled([circle(0.5, 48)], { crown: 0.4, across: 40, radius: 1e-5 }));
    for (let i = 0; i < skin.position.length; i += 3) {
      const [x, y, z] = skin.position.subarray(i, i + 3);
      expect(Math.abs(y - 0.2 * (1 - (x * x + z * z) / 0.25))).toBeLessThan(0.002);
    }
  });

  it('over a line that is not flat is the surface of least area: a rim on a helicoid gives the helicoid (Meusnier 1776)', () => {
    // x = s cos t, z = s sin t, y = t/4 over s from 0.2 to 1, t from −0.8 to 0.8
    const at = (s: number, t: number): Place => [s * Math.cos(t), t / 4, s * Math.sin(t)];
    const steps = (from: number, to: number) => Array.from({ length: 24 }, (_, k) => from + ((to - from) * k) / 24);
    const rim = [
      ...steps(0.2, 1).map((s) => at(s, -0.8)),
      ...steps(-0.8, 0.8).map((t) => at(1, t)),
      ...steps(1, 0.2).map((s) => at(s, 0.8)),
      ...steps(0.8, -0.8).map((t) => at(0.2, t)),
    ];
    const mesh = needed(filled([rim], { radius: 1e-5, across: 30 }));
    let worst = 0;
    for (let i = 0; i < mesh.position.length; i += 3) {
      const [x, y, z] = mesh.position.subarray(i, i + 3);
      worst = Math.max(worst, Math.abs(y - Math.atan2(z, x) / 4));
    }
    expect(worst).toBeLessThan(0.004);
  });

  it('of lines that enclose nothing, are open or cross reports it, and fills what it can', () => {
    expect(
      filled(
        [
          [
            [0, 0, 0],
            [1, 0, 0],
            [2, 0, 0],
          ],
        ],
        {},
      ).codes,
    ).toContain('fill-nothing');
    const open = filled([circle(0.5, 24).slice(0, 20)], {}, { open: true });
    expect(open.codes).toContain('fill-open');
    expect(topologyOf(needed(open))).toMatchObject({ openEdges: 0, shells: 1 });
    const eight: Place[] = [
      [0, 0, 0],
      [1, 0, 1],
      [1, 0, 0],
      [0, 0, 1.2],
    ];
    const crossed = filled([eight], {}, { corner: true });
    expect(crossed.codes).toContain('fill-crosses');
    expect(topologyOf(needed(crossed))).toMatchObject({ openEdges: 0, shells: 1 });
    const hole = filled([square(1), circle(0.5, 24, [0.8, 0, 0])], {});
    expect(hole.codes).toContain('fill-crosses');
    expect(topologyOf(needed(hole)).openEdges).toBe(0);
  });
});

describe('any slab', () => {
  let manifold: Awaited<ReturnType<typeof Module>>;
  beforeAll(async () => {
    manifold = await Module();
    manifold.setup();
  });
  it('is watertight and finite, its faces outwards: star-shaped rims, smooth and cornered, up to far out of plane', () => {
    const far = fc.array(fc.double({ min: 0.35, max: 1, noNaN: true }), { minLength: 3, maxLength: 12 });
    const share = evenly(0, 1);
    fc.assert(
      fc.property(far, share, evenly(-1, 1), share, fc.boolean(), (reaches, rounding, crown, bent, corner) => {
        const rim = reaches.map((reach, k): Place => {
          const angle = (2 * Math.PI * k) / reaches.length;
          return [reach * Math.cos(angle), bent * 0.4 * Math.cos(2 * angle), reach * Math.sin(angle)];
        });
        const one = filled([rim], { rounding, crown, radius: 0.01 }, { corner });
        const mesh = needed(one);
        for (const array of [mesh.position, mesh.normal, mesh.uv]) expect(array.every(Number.isFinite)).toBe(true);
        expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: 1, euler: 2 });
        expect(signedVolume(mesh)).toBeGreaterThan(0);
        const welded = new manifold.Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index });
        welded.merge();
        const body = new manifold.Manifold(welded);
        expect(body.status()).toBe('NoError');
        body.delete();
      }),
      { numRuns: 60 },
    );
  });
});
