import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { signedVolume, topologyOf } from '../src/index.js';
import { FITTINGS, type Fitting, fittingMesh, footMesh, rodMesh } from '../src/make/pipe/fittings.js';
import type { PipeRun } from '../src/make/pipe/run.js';
import { alongLegs, brackets, piecesOf, type Station } from '../src/make/pipe/stations.js';
import { evenly } from './helpers.js';

/** What an outline (radius, z) turned once round z holds: 2π times its area times its middle's radius (Pappus). */
function turned(outline: readonly (readonly [number, number])[]): number {
  let moment = 0;
  outline.forEach(([r, z], i) => {
    const [s, y] = outline[(i + 1) % outline.length];
    moment += ((r + s) * (r * y - s * z)) / 6;
  });
  return Math.abs(2 * Math.PI * moment);
}
const box = (inner: number, outer: number, low: number, high: number) =>
  [
    [inner, low],
    [outer, low],
    [outer, high],
    [inner, high],
  ] as const;
/** An N-gon is this much of its circle. */
const prism = (radius: number, height: number, sides: number) =>
  (sides / 2) * Math.sin((2 * Math.PI) / sides) * radius ** 2 * height;

describe('what is on a pipe of radius 1', () => {
  it.each([
    ['bead', 0.75],
    ['sleeve', 0.97],
  ] as [Fitting, number][])(
    'a %s is a closed ring that reaches as far as it says, its edges rounded',
    (kind, share) => {
      const { reach, half } = FITTINGS[kind];
      const mesh = fittingMesh(kind, 0.1, 96);
      expect(topologyOf(mesh)).toEqual({ openEdges: 0, euler: 0, shells: 1 });
      const far = Array.from({ length: mesh.position.length / 3 }, (_, v) =>
        Math.hypot(mesh.position[3 * v], mesh.position[3 * v + 1]),
      );
      const up = mesh.position.filter((_, i) => i % 3 === 2);
      expect(Math.max(...far)).toBeCloseTo(reach, 4);
      expect(Math.min(...far)).toBeCloseTo(0.96, 4);
      expect([Math.min(...up), Math.max(...up)].map((z) => Math.abs(z))).toEqual([
        expect.closeTo(half, 4),
        expect.closeTo(half, 4),
      ]);
      const whole = turned(box(0.96, reach, -half, half));
      expect(signedVolume(mesh)).toBeLessThan(whole);
      expect(signedVolume(mesh)).toBeGreaterThan(share * whole);
    },
  );

  it.each([
    [0.06, 4],
    [0.09, 4],
    [0.0901, 8],
    [0.25, 8],
    [0.4, 12],
  ])(
    'a flange of a pipe %s m across has %i bolts that straddle its middle (class 150 of ASME B16.5, from memory)',
    (outside, bolts) => {
      const mesh = fittingMesh('flange', outside, 96);
      // a plate, a neck, and of each bolt a head and a shank
      expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: 2 + 2 * bolts });
      const { reach, half } = FITTINGS.flange;
      const plate = turned(box(0.96, reach, -half, -0.015));
      const neck = turned([
        [0.96, -0.9],
        [1.04, -0.9],
        [1.32, -half],
        [1.32, -half / 2],
        [0.96, -half / 2],
      ]);
      const bolt = prism(0.17, 0.18, 6) + prism(0.09, 0.3, 12);
      expect(signedVolume(mesh) / (plate + neck + bolts * bolt)).toBeCloseTo(1, 1.7);
      const at = (v: number) => [0, 1, 2].map((n) => mesh.position[3 * v + n]);
      const all = Array.from({ length: mesh.position.length / 3 }, (_, v) => at(v));
      expect(Math.max(...all.map(([, , z]) => z))).toBeCloseTo(-0.015, 5);
      expect(Math.min(...all.map(([, , z]) => z))).toBeCloseTo(-0.9, 5);
      // the lowest places outside of the neck are the shanks' ends
      const shanks = all.filter(([x, y, z]) => Math.abs(z + half + 0.3) < 1e-4 && Math.hypot(x, y) > 1.4);
      const angles = shanks.map(([x, y]) => ((Math.atan2(y, x) / (2 * Math.PI)) * bolts + bolts) % 1);
      expect(shanks.length).toBeGreaterThan(bolts * 11);
      for (const [x, y] of shanks) expect(Math.abs(Math.hypot(x, y) - (1.32 + reach) / 2)).toBeLessThan(0.0901);
      for (const angle of angles) expect(Math.abs(angle - 0.5)).toBeLessThan(0.15);
      // heads lie on the plate's back
      expect(
        all.filter(([x, y, z]) => Math.abs(z + half + 0.16) < 1e-4 && Math.hypot(x, y) > 1.4).length,
      ).toBeGreaterThan(bolts * 5);
    },
  );

  it('a rod runs one along x, a foot ends at 0 and is closed', () => {
    const x = (mesh: { position: Float32Array }) => mesh.position.filter((_, i) => i % 3 === 0);
    expect([Math.min(...x(rodMesh())), Math.max(...x(rodMesh()))]).toEqual([
      expect.closeTo(0, 5),
      expect.closeTo(1, 5),
    ]);
    expect(Math.max(...x(footMesh()))).toBeCloseTo(0, 5);
    expect(topologyOf(footMesh())).toMatchObject({ openEdges: 0, shells: 1 });
    expect(signedVolume(rodMesh())).toBeCloseTo(prism(0.22, 1, 12), 4);
  });
});

describe('places on legs', () => {
  const leg = fc.tuple(evenly(0, 20), evenly(0.05, 10)).map(([from, size]) => ({ curve: 0, from, to: from + size }));
  const run = (legs: readonly { curve: number; from: number; to: number }[]) => ({ legs }) as unknown as PipeRun;

  it('no piece of a leg is longer than the stock, and only the last is shorter', () => {
    fc.assert(
      fc.property(leg, evenly(0.2, 4), (one, stock) => {
        const joints = alongLegs(run([one]), stock).map(({ at }) => at);
        const cuts = [one.from, ...joints, one.to];
        expect(cuts.length - 1).toBe(piecesOf(one.to - one.from, stock));
        for (let k = 1; k < cuts.length; k++) {
          expect(cuts[k] - cuts[k - 1]).toBeLessThanOrEqual(stock * 1.000002);
          if (k < cuts.length - 1) expect(cuts[k] - cuts[k - 1]).toBeCloseTo(stock, 9);
        }
      }),
    );
    expect(piecesOf(5, 0)).toBe(1);
  });

  it('brackets stand evenly, no further apart than asked, and clear of the joints beside them', () => {
    const joint = fc.record({ at: evenly(0, 30), curve: fc.constantFrom(0, 1) });
    fc.assert(
      fc.property(
        leg,
        fc.array(joint, { maxLength: 12 }),
        evenly(0.3, 3),
        evenly(0.01, 0.2),
        (one, all, every, clear) => {
          const joints = all.map(({ at, curve }): Station => ({ at, curve, way: 0 }));
          const held = brackets(run([one]), every, joints, clear);
          const length = one.to - one.from;
          const count = length < 2 * clear ? 0 : Math.max(1, Math.ceil(length / every - 1e-6));
          expect(held.length).toBe(count);
          held.forEach(({ at, curve }, k) => {
            expect(curve).toBe(0);
            const even = one.from + ((k + 0.5) * length) / count;
            // the nearest joint of this leg, by looking at every one
            const own = joints.filter((each) => each.curve === 0).map((each) => each.at);
            const near = own.reduce(
              (best, each) => (Math.abs(each - even) < Math.abs(best - even) ? each : best),
              Infinity,
            );
            const disturbed = near >= one.from && near <= one.to && Math.abs(near - even) < clear;
            expect(at).toBeCloseTo(disturbed ? near + (near > even ? -clear : clear) : even, 9);
          });
        },
      ),
      { numRuns: 300 },
    );
  });
});
