import fc from 'fast-check';
import Module from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import { curveLengths } from '../src/curve/arc-length.js';
import { joinCurves } from '../src/curve/carry.js';
import {
  type CurveSet,
  KelpError,
  polygonSection,
  Surface,
  Surroundings,
  signedVolume,
  singleCurve,
  sweep,
  topologyOf,
} from '../src/index.js';
import { limbsOf } from '../src/make/limbs.js';
import { LimbField, type Nearest } from '../src/make/one-skin/field.js';
import { planSkin, skinTriangles } from '../src/make/one-skin/skin.js';
import { loadLevelSets } from '../src/mesh/level-set.js';
import type { Vec3 } from '../src/numeric/vector.js';
import type { Made, MeshPart } from '../src/unit/carriers.js';
import { circle, evenly } from './helpers.js';
import { made } from './units.js';

const SMOOTH = { noise: 0, lumps: 0 };
const BARE = { ...SMOOTH, drips: 0, links: 0 };
/** Lines from x = 0 to x = 1, 0.3 m apart, each with the id of its place. */
const lines = (count: number, first = 0): CurveSet =>
  joinCurves(
    Array.from({ length: count }, (_, k) =>
      singleCurve([0, 1, 0.3 * k, 0.5, 0.96, 0.3 * k, 1, 1, 0.3 * k], { id: first + k + 1, smooth: true }),
    ),
  );
const part = ({ parts }: Made, id: string) => (parts.find((one) => one.id === id) as MeshPart | undefined)?.mesh;
/** Least and greatest distance of vertices from the x axis through (0, 1, z), between two planes. */
function reach({ position }: { position: Float32Array }, from: number, to: number, y = 1) {
  let [least, most] = [Infinity, 0];
  for (let i = 0; i < position.length; i += 3) {
    if (position[i] < from || position[i] > to) continue;
    const far = Math.hypot(position[i + 1] - y, position[i + 2]);
    [least, most] = [Math.min(least, far), Math.max(most, far)];
  }
  return [least, most];
}
const straight = singleCurve([0, 1, 0, 1, 1, 0], { id: 7 });
/** A wall across x at some place, reaching from y to y. */
const wall = (x: number, low: number, high: number) =>
  Surface.of(sweep(singleCurve([x, low, 0, x, high, 0]), polygonSection(4), { radius: 0.05 }));
const among = (...surfaces: Surface[]) => new Surroundings(new Map(surfaces.map((one, k) => [`p${k}`, one])));

it('without what merges skins, each limb keeps its own, and that is reported', () => {
  const reported: string[] = [];
  const kept = made('tendrils', { skin: 'merged' }, { input: lines(2), reported });
  expect(reported).toEqual(['no-merging']);
  expect(kept.parts.map(({ id }) => id)).toEqual(['strands', 'drips', 'links']);
});

describe('a strand', () => {
  it('is as thick as asked at its root and halfway, and thins as a power between', () => {
    const mesh = part(
      made('tendrils', { ...BARE, radius: 0.01, root: 4, thinning: 2, sides: 24 }, { input: straight }),
      'strands',
    )!;
    for (const at of [0, 0.25, 0.5, 0.8, 1]) {
      const wanted = 0.01 * (1 + 3 * (2 * at - 1) ** 2);
      const [least, most] = reach(mesh, at - 1e-4, at + 1e-4);
      if (most > 0) expect([least / wanted, most / wanted]).toEqual([expect.closeTo(1, 1), expect.closeTo(1, 1)]);
    }
    const [least, most] = reach(mesh, 0.48, 0.52);
    expect([least, most]).toEqual([expect.closeTo(0.01, 4), expect.closeTo(0.01, 4)]);
    expect(topologyOf(mesh).openEdges).toBe(0);
  });

  it('goes into what it grows from square to it, by a share of its root, and ends where it is fastened elsewhere', () => {
    // it leaves the wall at 45°
    const slanted = singleCurve([0.05, 0, 0, 0.55, 0.5, 0], { id: 3 });
    const reported = made(
      'tendrils',
      { ...BARE, radius: 0.01, root: 3, sunk: 1 },
      { input: slanted, surroundings: among(wall(0, -1, 1)) },
    );
    const { position } = part(reported, 'strands')!;
    const leftmost = Math.min(...position.filter((_, i) => i % 3 === 0));
    // 0.05 is the wall's corner: a square bar that is on edge, so its nearest face is under 45°
    expect(leftmost).toBeLessThan(0.05 - 0.03);
    expect(reported.bodies[0].curves.position[0]).toBeCloseTo(0.05, 6);
    expect(reported.guide).toBe(reported.bodies[0].curves);
    const free = part(made('tendrils', { ...BARE, radius: 0.01, root: 1, sunk: 0 }, { input: straight }), 'strands')!;
    expect(Math.max(...free.position.filter((_, i) => i % 3 === 0))).toBeLessThan(1.0101);
  });

  it('closed comes back to where it began, in thickness and in its stray', () => {
    const ring = made(
      'tendrils',
      { radius: 0.02, noise: 6, lumps: 0.5, drips: 0, links: 0, wave: 10 },
      { input: circle(0.5, 64) },
    );
    const { curves, section } = ring.bodies[0];
    const last = curves.start[1] - 1;
    const step = Math.hypot(...[0, 1, 2].map((n) => curves.position[n] - curves.position[3 * last + n]));
    expect(step).toBeLessThan((1.8 * curveLengths(curves)[0]) / last);
    expect(Math.abs(section.radius[0] - section.radius[last])).toBeLessThan(0.004);
    expect(topologyOf(part(ring, 'strands')!).openEdges).toBe(0);
  });
});

describe('what grows', () => {
  it('stays where it is on its strand when what that is fastened to moves: everything goes along, by no more than that', () => {
    const grow = (by: number) => {
      const line = singleCurve([0, 1, 0, 0.5, 0.96, 0, 1 + by, 1 + by / 2, 0], { id: 9, smooth: true });
      return made('tendrils', { links: 2, drips: 5, linkReach: 10 }, { input: line });
    };
    const [still, moved] = [grow(0), grow(0.004)];
    for (const id of ['strands', 'drips', 'links']) {
      const [a, b] = [part(still, id)!, part(moved, id)!];
      expect(b.position.length, id).toBe(a.position.length);
      a.position.forEach((value, i) => {
        expect(Math.abs(b.position[i] - value)).toBeLessThan(0.012);
      });
    }
  });
});

describe('drips and links', () => {
  it('more of them, another strand, or fewer strands move none that is there', () => {
    const first = made('tendrils', { drips: 4, links: 3, linkReach: 20 }, { input: lines(3) });
    const more = made('tendrils', { drips: 9, links: 3, linkReach: 20 }, { input: lines(3) });
    const longer = made('tendrils', { drips: 4, links: 3, linkReach: 20 }, { input: lines(4) });
    const places = (one: Made, id: string) => {
      const { position } = part(one, id)!;
      return new Set(
        Array.from({ length: position.length / 3 }, (_, v) => [...position.subarray(3 * v, 3 * v + 3)].join()),
      );
    };
    for (const other of [more, longer])
      for (const id of ['drips', 'links']) expect(isWithin(places(first, id), places(other, id)), id).toBe(true);
    expect(more.measures[0].value).toBeGreaterThan(1.8 * first.measures[0].value);
    const fewer = made('tendrils', { drips: 4, links: 0, leftOut: 0.5, seed: 5 }, { input: lines(3) });
    const all = made('tendrils', { drips: 4, links: 0, seed: 5 }, { input: lines(3) });
    expect(fewer.measures[0].value).toBeLessThan(all.measures[0].value);
    expect(isWithin(places(fewer, 'drips'), places(all, 'drips'))).toBe(true);
  });

  it('shorter strands carry fewer, by their length', () => {
    const set = { ...BARE, drips: 40 };
    const one = (length: number) => singleCurve([0, 1, 0, length, 1, 0], { id: 3 });
    const other = joinCurves([one(1), singleCurve([0, 1, 1, 0.25, 1, 1], { id: 4 })]);
    const count = (input: CurveSet) => made('tendrils', set, { input }).measures[0].value;
    expect(count(one(1))).toBeGreaterThanOrEqual(40);
    expect(count(other) - count(one(1))).toBeGreaterThanOrEqual(10);
    expect(count(other) - count(one(1))).toBeLessThanOrEqual(11);
  });

  it('a share is left out, within binomial bounds', () => {
    const kept = made('tendrils', { ...BARE, leftOut: 0.3 }, { input: lines(2000) }).bodies[0].curves.id.length;
    // four standard deviations: √(2000 · 0.3 · 0.7) = 20.5
    expect(Math.abs(kept - 1400)).toBeLessThan(82);
    const reported: string[] = [];
    expect(made('tendrils', { leftOut: 1 }, { input: lines(2), reported }).parts).toEqual([]);
    expect(reported).toEqual(['all-left-out']);
  });

  it('drips hang plumb, as long as asked, and end in a drop as thick as asked', () => {
    const size = { radius: 0.01, dripLength: { least: 20, most: 20 }, dripWidth: 0.5, bead: 2, root: 1, sides: 24 };
    const { position } = part(made('tendrils', { ...BARE, ...size, drips: 1, sunk: 0 }, { input: straight }), 'drips')!;
    const xs = position.filter((_, i) => i % 3 === 0);
    const ys = position.filter((_, i) => i % 3 === 1);
    // 20 radii below the strand's skin, and half the drop
    expect(Math.min(...ys)).toBeCloseTo(1 - 0.01 - 0.2 - 0.01, 3);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(2 * 0.01, 3);
  });

  it('links hang below both strands, to the neighbour in reach, else between two places of their own', () => {
    const to = (linkReach: number) => {
      const { position } = part(
        made('tendrils', { ...BARE, links: 6, linkReach, radius: 0.01 }, { input: lines(2) }),
        'links',
      )!;
      return Math.max(...position.filter((_, i) => i % 3 === 2));
    };
    expect(to(40)).toBeGreaterThan(0.29);
    const apart = part(
      made('tendrils', { ...BARE, links: 6, linkReach: 10, radius: 0.01, root: 1 }, { input: lines(2) }),
      'links',
    )!;
    const between = apart.position.filter((z, i) => i % 3 === 2 && z > 0.05 && z < 0.25);
    expect(between.length).toBe(0);
    expect(Math.min(...apart.position.filter((_, i) => i % 3 === 1))).toBeLessThan(0.95);
  });

  it('what runs through a prop is left out: strands, drips, links; where nothing is left it is reported, with a fix', () => {
    const reported: string[] = [];
    const floor = Surface.of(sweep(singleCurve([-1, 0.9, 0, 2, 0.9, 0]), polygonSection(4), { radius: 0.08 }));
    const free = made(
      'tendrils',
      { drips: 8, links: 0, radius: 0.005, dripLength: { least: 4, most: 40 } },
      { input: straight },
    );
    const over = made(
      'tendrils',
      { drips: 8, links: 0, radius: 0.005, dripLength: { least: 4, most: 40 } },
      { input: straight, surroundings: among(floor), reported },
    );
    expect(over.measures[0].value).toBeLessThan(free.measures[0].value);
    expect(reported).toEqual([]);
    const through = made('tendrils', {}, { input: straight, surroundings: among(wall(0.5, 0, 2)), reported });
    expect([through.parts.length, reported]).toEqual([0, ['none-clear']]);
    const kept = made(
      'tendrils',
      { through: 'kept' },
      { input: straight, surroundings: among(wall(0.5, 0, 2)), reported },
    );
    expect([kept.parts.length, reported.length]).toEqual([3, 1]);
    // both ends in walls: that is where it grows from
    const rooted = made(
      'tendrils',
      {},
      { input: straight, surroundings: among(wall(0, 0, 2), wall(1, 0, 2)), reported },
    );
    expect([rooted.parts.length > 0, reported.length]).toEqual([true, 1]);
  });

  it('more of them than can be made are reported with their figure', () => {
    const reported: string[] = [];
    made('tendrils', { drips: 500, links: 0, shows: 'links' }, { input: lines(100), reported });
    expect(reported).toEqual(['too-many-hanging']);
  });
});

describe('one skin', () => {
  let manifold: Awaited<ReturnType<typeof Module>>;
  beforeAll(async () => {
    await loadLevelSets();
    manifold = await Module();
    manifold.setup();
  });
  const solidOf = ({ position, index }: Pick<MeshPart['mesh'], 'position' | 'index'>) => {
    const welded = new manifold.Mesh({ numProp: 3, vertProperties: position, triVerts: index });
    welded.merge();
    return new manifold.Manifold(welded);
  };

  it('is one valid closed body by manifold-3d, about as many triangles as was said, its normals its faces’ own', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1000 }),
        evenly(0.5, 1.4),
        evenly(0, 1.5),
        evenly(1, 5),
        (seed, cell, blend, root) => {
          const said: string[] = [];
          const set = {
            skin: 'merged',
            seed,
            cell,
            blend,
            root,
            radius: 0.02,
            linkReach: 20,
            linkSlack: { least: 0.1, most: 0.3 },
          };
          const { parts } = made('tendrils', set, {
            input: lines(2),
            step: (_share, says) => void (says && said.push(says)),
          });
          const mesh = (parts[0] as MeshPart).mesh;
          const solid = solidOf(mesh);
          expect(solid.status()).toBe('NoError');
          expect(solid.volume()).toBeCloseTo(signedVolume(mesh), 6);
          expect(topologyOf(mesh).openEdges).toBe(0);
          const promised = Number(said[0].replaceAll(/\D/g, ''));
          expect(mesh.index.length / 3 / promised).toBeGreaterThan(0.5);
          expect(mesh.index.length / 3 / promised).toBeLessThan(1.5);
          expect(agreement(mesh)).toBeGreaterThan(0.97);
          solid.delete();
        },
      ),
      { numRuns: 8 },
    );
  });

  it('without a fillet is the union of the strands’ own skins: within 3 % of what manifold-3d makes of those', () => {
    const set = {
      ...SMOOTH,
      radius: 0.02,
      root: 2,
      drips: 3,
      links: 2,
      linkReach: 20,
      dripWidth: 0.9,
      linkWidth: 0.9,
      sides: 32,
    };
    const own = made('tendrils', set, { input: lines(2) });
    const union = manifold.Manifold.union(own.parts.map((one) => solidOf((one as MeshPart).mesh)));
    const merged = made('tendrils', { ...set, skin: 'merged', blend: 0, cell: 0.4 }, { input: lines(2) });
    expect(signedVolume((merged.parts[0] as MeshPart).mesh) / union.volume()).toBeGreaterThan(0.97);
    expect(signedVolume((merged.parts[0] as MeshPart).mesh) / union.volume()).toBeLessThan(1.03);
    // a fillet adds, where they meet
    const filleted = made('tendrils', { ...set, skin: 'merged', blend: 1, cell: 0.4 }, { input: lines(2) });
    expect(signedVolume((filleted.parts[0] as MeshPart).mesh)).toBeGreaterThan(1.01 * union.volume());
  });

  it('has its vertices on the field’s own surface, whose slope is that by differences', () => {
    const limbs = limbsOf([
      {
        id: 1,
        points: [
          [0, 0, 0],
          [0.4, 0, 0],
          [0.8, 0.1, 0],
        ],
        radius: [0.05, 0.03, 0.05],
      },
      {
        id: 2,
        points: [
          [0.4, -0.3, 0.02],
          [0.41, 0.2, 0],
        ],
        radius: [0.02, 0.04],
      },
    ]);
    const field = new LimbField(limbs, 0.02, 0.001);
    const way: Vec3 = [0, 0, 0];
    const found: Nearest = { limb: 0, point: 0, next: 0, t: 0 };
    const h = 1e-6;
    fc.assert(
      fc.property(evenly(0.05, 0.75), evenly(-0.06, 0.06), evenly(-0.06, 0.06), (x, y, z) => {
        const value = field.slopeAt(x, y, z, way, found);
        expect(value).toBeCloseTo(field.at(x, y, z), 9);
        const by = [
          field.at(x - h, y, z) - field.at(x + h, y, z),
          field.at(x, y - h, z) - field.at(x, y + h, z),
          field.at(x, y, z - h) - field.at(x, y, z + h),
        ];
        // where two steps are equally near there is a crease
        for (let n = 0; n < 3; n++) if (Math.abs(by[n] / (2 * h) - way[n]) > 0.02) fc.pre(false);
        for (let n = 0; n < 3; n++) expect(by[n] / (2 * h)).toBeCloseTo(way[n], 1);
      }),
      { numRuns: 300 },
    );
    // of one straight limb alone it is the distance to a round cone: whole at an end, halfway between
    const alone = new LimbField(
      limbsOf([
        {
          id: 1,
          points: [
            [0, 0, 0],
            [1, 0, 0],
          ],
          radius: [0.1, 0.2],
        },
      ]),
      0.05,
      0,
    );
    expect(alone.at(0, 0.15, 0)).toBeCloseTo(-0.05, 6);
    expect(alone.at(0.5, 0, 0.1)).toBeCloseTo(0.05, 6);
    expect(alone.at(1.25, 0, 0)).toBeCloseTo(-0.05, 6);
  });

  it('lies as the texture of a sweep: v is the way along in metres, u once round, and no face goes back over a seam', () => {
    const mesh = (
      made('tendrils', { ...BARE, skin: 'merged', radius: 0.03, root: 1, cell: 0.5, sunk: 0 }, { input: straight })
        .parts[0] as MeshPart
    ).mesh;
    const { position, uv, index } = mesh;
    let furthest = 0;
    for (let v = 0; v < uv.length / 2; v++) {
      const x = Math.min(1, Math.max(0, position[3 * v]));
      expect(uv[2 * v + 1]).toBeCloseTo(x, 3);
    }
    for (let i = 0; i < index.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [index[i + k], index[i + ((k + 1) % 3)]];
        // the caps have poles, where u means nothing
        if (position[3 * a] > 0.02 && position[3 * a] < 0.98)
          furthest = Math.max(furthest, Math.abs(uv[2 * a] - uv[2 * b]));
      }
    expect(furthest).toBeLessThan(0.25);
  });

  it('a cell that would take more memory than there is for it is made coarser, and reported; it can be stopped', () => {
    const reported: string[] = [];
    // its first word comes before it is planned
    let words = 0;
    const step = () => {
      if (++words > 1) throw new KelpError('CANCELLED', 'stop');
    };
    const set = { skin: 'merged', cell: 0.05, radius: 0.004 };
    expect(() => made('tendrils', set, { input: lines(4), reported, step })).toThrow('stop');
    expect(reported).toEqual(['cell-fine']);
    const limbs = limbsOf([
      {
        id: 1,
        points: [
          [0, 0, 0],
          [3, 3, 3],
        ],
        radius: [0.01, 0.01],
      },
    ]);
    const { cell, samples } = planSkin(limbs, 0.01, 0.001);
    expect(samples).toBeLessThan(24_000_000);
    expect(cell).toBeGreaterThan(0.005);
    expect(skinTriangles(limbs, 0.01)).toBeGreaterThan(10_000);
    // very thick roots on thin strands do not fill the memory either: they come to an end
    const roots = { skin: 'merged', root: 50, thinning: 20, cell: 12, drips: 40, dripWidth: 0.02, radius: 0.004 };
    expect((made('tendrils', roots, { input: lines(3) }).parts[0] as MeshPart).mesh.index.length).toBeGreaterThan(300);
    // and stopped halfway, what samples can be used again
    let steps = 0;
    const halfway = () => {
      if (++steps > 2) throw new KelpError('CANCELLED', 'stop');
    };
    expect(() => made('tendrils', { skin: 'merged', cell: 0.5 }, { input: lines(3), step: halfway })).toThrow('stop');
    expect(
      (made('tendrils', { skin: 'merged' }, { input: lines(1) }).parts[0] as MeshPart).mesh.index.length,
    ).toBeGreaterThan(1000);
  });
});

const isWithin = (some: Set<string>, all: Set<string>): boolean => [...some].every((one) => all.has(one));

/** Share of the faces on whose side all normals of their corners are. */
function agreement({ position, normal, index }: MeshPart['mesh']): number {
  let right = 0;
  for (let i = 0; i < index.length; i += 3) {
    const [a, b, c] = [index[i], index[i + 1], index[i + 2]].map((v) => [...position.subarray(3 * v, 3 * v + 3)]);
    const u = b.map((value, n) => value - a[n]);
    const w = c.map((value, n) => value - a[n]);
    const face = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
    if ([0, 1, 2].every((k) => face.reduce((sum, value, n) => sum + value * normal[3 * index[i + k] + n], 0) > 0))
      right++;
  }
  return right / (index.length / 3);
}
