import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withChordLengths } from '../src/curve/chord-lengths.js';
import { CURVE } from '../src/curve/curve-set.js';
import { singleCurve } from '../src/index.js';
import { bundleFixes } from '../src/make/bundle/fixes.js';
import { spaceNoise } from '../src/make/bundle/life/space-noise.js';
import { stretchOf } from '../src/make/bundle/stretch.js';
import { filledBy } from '../src/make/laid/packing.js';
import { helixDistance, pairsOf, touching } from '../src/make/laid/touch.js';
import { childId } from '../src/numeric/random.js';
import { CONTACT } from '../src/unit/finding.js';

// What bundles are put together from, each against its formula by hand or by brute force.

it('noise in space lies between the values at the eight corners by Perlin’s fade, the integral of 30 t²(1 − t)²', () => {
  const noise = spaceNoise(5, 9);
  // by Simpson's rule, which is exact to its third power: fine steps do the rest
  const fade = (t: number) => {
    const steps = 200;
    const f = (s: number) => 30 * s * s * (1 - s) * (1 - s);
    let sum = f(0) + f(t);
    for (let k = 1; k < steps; k++) sum += (k % 2 ? 4 : 2) * f((t * k) / steps);
    return (sum * t) / (3 * steps);
  };
  const cell = fc.integer({ min: -50, max: 50 });
  const share = fc.double({ min: 0, max: 0.999, noNaN: true });
  fc.assert(
    fc.property(cell, cell, cell, share, share, share, (i, j, k, u, v, w) => {
      const corners: number[] = [];
      let sum = 0;
      for (const [a, b, c] of [
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
        [1, 1, 0],
        [0, 0, 1],
        [1, 0, 1],
        [0, 1, 1],
        [1, 1, 1],
      ]) {
        const value = noise(i + a, j + b, k + c);
        corners.push(value);
        sum += value * (a ? fade(u) : 1 - fade(u)) * (b ? fade(v) : 1 - fade(v)) * (c ? fade(w) : 1 - fade(w));
      }
      expect(noise(i + u, j + v, k + w)).toBeCloseTo(sum, 7);
      expect(Math.max(...corners.map(Math.abs))).toBeLessThanOrEqual(1);
      expect(new Set(corners).size).toBe(8);
    }),
  );
  const values = Array.from({ length: 4000 }, (_, n) => noise(n, 3 * n, -n));
  expect(Math.abs(values.reduce((sum, value) => sum + value, 0) / 4000)).toBeLessThan(3 * Math.sqrt(1 / 3 / 4000));
  expect(spaceNoise(6, 9)(1, 2, 3)).not.toBe(noise(1, 2, 3));
});

it('a stretch of a line has even points from one place to the other, forth or back, as thick as the bundle is there', () => {
  const line = withChordLengths(singleCurve([9, 9, 9, 0, 0, 0, 1, 0, 0, 1, 0, 3, 1, 2, 3]));
  // a second line of the set: the first point is another one's
  const rails = {
    ...line,
    start: Uint32Array.of(0, 1, 5),
    id: Uint32Array.of(7, 8),
    closed: new Uint8Array(2),
    pointData: { along: Float32Array.of(0, 0, 1, 4, 6) },
    curveData: {},
  };
  const radius = Float32Array.of(5, 0.1, 0.2, 0.5, 0.3);
  const course = { rails, radius } as never;
  const at = (far: number) => (far <= 1 ? [far, 0, 0] : far <= 4 ? [1, 0, far - 1] : [1, far - 4, 3]);
  const thick = (far: number) =>
    far <= 1 ? 0.1 + 0.1 * far : far <= 4 ? 0.2 + 0.1 * (far - 1) : 0.5 - 0.1 * (far - 4);
  for (const [from, to] of [
    [0, 6],
    [0.5, 5.5],
    [5.5, 0.5],
    [6, 0],
    [2, 2.5],
    [4, 1],
  ]) {
    const { rails: out, radius: wide } = stretchOf(course, 1, from, to, 11, 3);
    expect([...out.id]).toEqual([childId(8, 3)]);
    for (let k = 0; k <= 10; k++) {
      const far = from + ((to - from) * k) / 10;
      expect([...out.position.subarray(3 * k, 3 * k + 3)]).toEqual(at(far).map((value) => expect.closeTo(value, 6)));
      expect(wide[k]).toBeCloseTo(thick(far), 6);
    }
    const chords = Array.from({ length: 10 }, (_, k) =>
      Math.hypot(...[0, 1, 2].map((n) => out.position[3 * k + 3 + n] - out.position[3 * k + n])),
    );
    // as long as its chords at least, and little longer where its points stand about a corner
    expect(out.curveData[CURVE.length][0]).toBeGreaterThan(chords.reduce((sum, one) => sum + one, 0) - 1e-5);
    expect(out.curveData[CURVE.length][0]).toBeLessThan(1.02 * Math.abs(to - from));
  }
});

it('strands that cut are mended by less wandering first, then by less thickness; a bend that is coarse by finer steps', () => {
  const cut = (value: number, limit: number) =>
    ({ code: 'strands-cut', severity: 'warning', message: '', size: { value, limit, kind: 'length' } }) as const;
  const p = { scale: 0.9, wander: 0.4, wanderLength: 0.06 };
  const reported = (finding: object, set: Partial<typeof p> = {}) =>
    bundleFixes(finding as never, { ...p, ...set }).map((fix) =>
      'parameter' in fix ? [fix.parameter, 'value' in fix ? fix.value : 0] : [],
    );
  // what may touch is limit / CONTACT thick: as much thinner as is missing, and 3 % more
  const thinner = 0.9 * 0.97 * (1 - 0.001 / (0.0008 / CONTACT));
  expect(reported(cut(0.001, 0.0008))).toEqual([
    ['wander', 0.2],
    ['wanderLength', 0.03],
    ['scale', expect.closeTo(thinner, 12)],
  ]);
  expect(reported(cut(0.001, 0.0008), { wander: 0 })).toEqual([
    ['wanderLength', 0.03],
    ['scale', expect.closeTo(thinner, 12)],
  ]);
  expect(reported(cut(0.001, 0.0008), { wanderLength: 0 })).toEqual([
    ['wander', 0.2],
    ['scale', expect.closeTo(thinner, 12)],
  ]);
  expect(reported(cut(0.02, 0.0008), { wander: 0, wanderLength: 0 })).toEqual([]);
  expect(reported({ code: 'strands-cut', size: undefined })).toEqual([]);
  expect(reported({ code: 'coarse' })).toHaveLength(1);
  expect(reported({ code: 'pinch' })).toEqual([]);
});

describe('strands that touch', () => {
  it('two helices of one pitch are as far apart as brute force finds', () => {
    const size = fc.double({ min: 0.05, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        size,
        size,
        fc.double({ min: -Math.PI, max: Math.PI, noNaN: true }),
        fc.double({ min: 0.3, max: 30, noNaN: true }),
        fc.boolean(),
        (a, b, apart, pitch, own) => {
          const rise = pitch / (2 * Math.PI);
          const [other, turn] = own ? [a, 0] : [b, apart];
          let least = Infinity;
          // a helix and itself: from half a turn on it may be its next turn
          for (let k = own ? 4000 : -24_000; k <= 24_000; k++) {
            const t = (k * Math.PI) / 8000;
            least = Math.min(least, a * a + other * other - 2 * a * other * Math.cos(t + turn) + (rise * t) ** 2);
          }
          expect(helixDistance(a, other, turn, pitch, own)).toBeCloseTo(Math.sqrt(Math.max(0, least)), 4);
        },
      ),
      { numRuns: 120 },
    );
  });

  it('seven of them: straight ones a third thick each, twisted ones thinner; the least fit cuts none, the most touches all', () => {
    const packing = filledBy(7);
    const pairs = pairsOf(packing);
    expect(pairs.a.length).toBe((7 * 8) / 2);
    const straight = touching(packing, pairs, Infinity, 'least');
    for (const radius of straight.radius) expect(radius).toBeCloseTo(1 / 3, 6);
    const [least, mean, most, own] = (['least', 'mean', 'most', 'own'] as const).map((fit) =>
      touching(packing, pairs, 4, fit),
    );
    expect(least.radius[0]).toBeLessThan(1 / 3);
    expect(mean.radius[0]).toBeCloseTo(least.gap.reduce((sum, gap) => sum + gap, 0) / 7, 9);
    expect(most.radius[0]).toBeCloseTo(Math.max(...least.gap), 9);
    expect(least.radius[0]).toBeCloseTo(Math.min(...least.gap), 5);
    // each as thick as it may be: none cuts another, and each touches one at least
    const ring = Array.from(packing.x, (x, i) => Math.hypot(x, packing.y[i]) * own.spread);
    const turn = Array.from(packing.x, (x, i) => Math.atan2(packing.y[i], x));
    for (let i = 0; i < 7; i++) {
      const rooms = Array.from({ length: 7 }, (_, j) =>
        i === j ? Infinity : helixDistance(ring[i], ring[j], turn[j] - turn[i], 4) - own.radius[i] - own.radius[j],
      );
      expect(Math.min(...rooms)).toBeGreaterThan(-1e-6);
      expect(Math.min(...rooms)).toBeLessThan(1e-3);
      expect(own.radius[i]).toBeGreaterThanOrEqual(least.radius[i] - 1e-9);
    }
    // the outermost end at 1
    expect(Math.max(...ring) + least.radius[0]).toBeCloseTo(1, 6);
  });
});
