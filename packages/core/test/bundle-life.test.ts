import { describe, expect, it } from 'vitest';
import { withChordLengths } from '../src/curve/chord-lengths.js';
import { rotationMinimizingFrames } from '../src/curve/frames.js';
import { type CurveSet, singleCurve } from '../src/index.js';
import { type Fuzz, fuzzOf } from '../src/make/bundle/life/fuzz.js';
import { spaceNoise } from '../src/make/bundle/life/space-noise.js';
import { swellCourse, wanderStrands } from '../src/make/bundle/life/wander.js';
import { LineNoise } from '../src/numeric/noise.js';
import { hashText } from '../src/numeric/random.js';

// What makes bundles live, each against its formula or by what is measured on what comes out.

const POINTS = 201;
const LONG = 2;
const BUNDLE = 0.01;
const STRAND = 0.002;
/** A bundle along x; its strands lie above it, this far out each. */
function bundle(offs: readonly number[], points = POINTS) {
  const line = (off: number) => Array.from({ length: points }, (_, k) => [(LONG * k) / (points - 1), off, 0]).flat();
  const rails = withChordLengths(singleCurve(line(0), { id: 5 }));
  const lines: CurveSet = {
    ...rails,
    start: Uint32Array.from({ length: offs.length + 1 }, (_, c) => points * c),
    position: Float64Array.from(offs.flatMap(line)),
    closed: new Uint8Array(offs.length),
    id: Uint32Array.from(offs, (_, c) => 100 + c),
    pointData: {},
    curveData: {},
  };
  const course = {
    rails,
    frames: rotationMinimizingFrames(rails, { startDirection: [0, 1, 0] }),
    radius: new Float32Array(points).fill(BUNDLE),
  };
  return {
    course,
    strands: { lines, radius: new Float32Array(points * offs.length).fill(STRAND), each: offs.length, inOuter: 1 },
  };
}

const LIFE = { swell: 0.3, lifeBy: 'share', wander: 0.5, wanderLength: 0.004, wave: 3, held: 'line', seed: 4 };

describe('what wanders', () => {
  it('swells by the noise along its line, or in space; a ring in whole waves', () => {
    const size = 2 * BUNDLE * LIFE.wave;
    const { course } = bundle([0]);
    swellCourse(course, LIFE, BUNDLE);
    const noise = new LineNoise(4, hashText('swell'));
    noise.onLine(5, 0);
    for (let p = 0; p < POINTS; p++)
      expect(course.radius[p] / BUNDLE).toBeCloseTo(1 + 0.3 * noise.at((LONG * p) / (POINTS - 1) / size), 5);
    const held = bundle([0]).course;
    swellCourse(held, { ...LIFE, held: 'space' }, BUNDLE);
    const inSpace = spaceNoise(4, hashText('swell'));
    for (let p = 0; p < POINTS; p++)
      expect(held.radius[p] / BUNDLE).toBeCloseTo(1 + 0.3 * inSpace((LONG * p) / (POINTS - 1) / size, 0, 0), 5);
    const turn = (k: number) => (2 * Math.PI * k) / 400;
    const ring = withChordLengths(
      singleCurve(Array.from({ length: 400 }, (_, k) => [Math.cos(turn(k)), 0, Math.sin(turn(k))]).flat(), {
        closed: true,
        id: 5,
      }),
    );
    const round = { rails: ring, frames: rotationMinimizingFrames(ring), radius: new Float32Array(400).fill(BUNDLE) };
    swellCourse(round, LIFE, BUNDLE);
    const steps = Array.from({ length: 400 }, (_, p) => Math.abs(round.radius[(p + 1) % 400] - round.radius[p]));
    // no jump where it closes
    expect(steps[399]).toBeLessThan(1.01 * Math.max(...steps.slice(0, 399)));
    const still = bundle([0]).course;
    swellCourse(still, { ...LIFE, swell: 0 }, BUNDLE);
    expect(new Set(still.radius).size).toBe(1);
  });

  it('moves strands square to their line, by a share of their thickness or by a length', () => {
    for (const [change, amount] of [
      [{}, 0.5 * 2 * STRAND],
      [{ lifeBy: 'length' }, 0.004],
    ] as const) {
      const { course, strands } = bundle([0.004, 0.008]);
      const before = strands.lines.position.slice();
      wanderStrands(course, strands, { ...LIFE, ...change }, BUNDLE);
      for (const [strand, id] of [
        [0, 100],
        [1, 101],
      ]) {
        const [up, aside] = ['wander up', 'wander aside'].map((name) => new LineNoise(4, hashText(name)));
        for (const noise of [up, aside]) noise.onLine(id, 0);
        for (let k = 0; k < POINTS; k++) {
          const i = 3 * (POINTS * strand + k);
          const at = (LONG * k) / (POINTS - 1) / (2 * BUNDLE * LIFE.wave);
          const moved = [0, 1, 2].map((n) => strands.lines.position[i + n] - before[i + n]);
          const { tangent, normal } = course.frames;
          const [t, y] = [tangent, normal].map((of) => [0, 1, 2].map((n) => of[3 * k + n]));
          const z = [t[1] * y[2] - t[2] * y[1], t[2] * y[0] - t[0] * y[2], t[0] * y[1] - t[1] * y[0]];
          for (const n of [0, 1, 2]) expect(moved[n]).toBeCloseTo(amount * (up.at(at) * y[n] + aside.at(at) * z[n]), 7);
        }
      }
    }
    const { course, strands } = bundle([0.004]);
    const before = strands.lines.position.slice();
    wanderStrands(course, strands, { ...LIFE, wander: 0 }, BUNDLE);
    expect([...strands.lines.position]).toEqual([...before]);
  });
});

describe('stray fibres', () => {
  const FUZZ: Fuzz = {
    fuzz: 12,
    fuzzOn: 'all',
    lifeBy: 'share',
    fuzzReach: 1.5,
    fuzzLength: 0.02,
    flyaways: 0.25,
    loops: 0.4,
    seed: 3,
  };
  const whole = 1.5 * 2 * BUNDLE;
  /** Each as its root, its points from there, its size and how it is. */
  const fibres = (change: Partial<Fuzz> = {}, offs: readonly number[] = [0.008], points?: number) => {
    const { course, strands } = bundle(offs, points);
    const part = fuzzOf(course, strands, { ...FUZZ, ...change }, { step: () => {} });
    if (!part) return [];
    const { position, id } = part.curves;
    return Array.from(id, (_id, n) => {
      const at = Array.from(position.subarray(24 * n, 24 * n + 3));
      const far = Array.from({ length: 8 }, (_, k) => [0, 1, 2].map((i) => position[24 * n + 3 * k + i] - at[i]));
      // across the strand it leaves from: out of it, and aside
      const out = [at[1] - offs[0], at[2]].map((value) => value / (0.9 * STRAND));
      const across = far.map(([, y, z]) => [y * out[0] + z * out[1], z * out[0] - y * out[1]]);
      const isLoop = Math.hypot(...across[7]) < 1e-7;
      return {
        at,
        far,
        out,
        across,
        isLoop,
        width: Array.from(part.width.subarray(8 * n, 8 * n + 8)),
        size: isLoop ? Math.abs(far[7][0]) / 0.56 : across[7][0] / 0.55,
      };
    });
  };

  it('stand as thickly as asked, evenly along the strand and to both sides, on its skin and away from the middle', () => {
    for (const points of [201, 11, 2]) {
      const all = fibres({}, [0.008], points);
      // binomial: 40 places on one thickness, 12 of them taken
      const places = (40 * LONG) / (2 * BUNDLE);
      expect(Math.abs(all.length - 0.3 * places)).toBeLessThan(4 * Math.sqrt(places * 0.3 * 0.7));
      const quarters = [0, 0, 0, 0];
      for (const { at, out } of all) {
        quarters[Math.min(3, Math.floor((4 * at[0]) / LONG))]++;
        expect(Math.hypot(...out)).toBeCloseTo(1, 5);
        expect(out[0]).toBeGreaterThan(-1e-9);
        expect(at[0]).toBeGreaterThanOrEqual(0);
        expect(at[0]).toBeLessThanOrEqual(LONG);
      }
      for (const one of quarters)
        expect(Math.abs(one - all.length / 4)).toBeLessThan(4 * Math.sqrt((all.length * 3) / 16));
      expect(Math.abs(all.filter(({ out }) => out[1] > 0).length - all.length / 2)).toBeLessThan(
        4 * Math.sqrt(all.length / 4),
      );
    }
    // about the middle of the bundle there is no way out: all round
    expect(fibres({}, [0]).filter(({ out }) => out[0] < 0).length).toBeGreaterThan(300);
    expect(fibres({ fuzz: 0 })).toEqual([]);
  });

  it('bend over along it, forth or back; loops come back to it; flyaways are three times as long', () => {
    const all = fibres();
    const count = (of: (one: (typeof all)[number]) => boolean) => all.filter(of).length;
    const within = (number: number, share: number, from: number) =>
      expect(Math.abs(number - share * from)).toBeLessThan(4 * Math.sqrt(from * share * (1 - share)));
    for (const { far, across, isLoop, size, width } of all) {
      const forth = Math.sign(far[7][0]);
      for (let k = 0; k < 8; k++) {
        const t = k / 7;
        expect(far[k][0] * forth).toBeCloseTo(size * (isLoop ? 0.28 * (1 - Math.cos(Math.PI * t)) : 0.75 * t * t), 6);
        expect(across[k][0]).toBeCloseTo(size * (isLoop ? 0.45 * Math.sin(Math.PI * t) : t * (1 - 0.45 * t)), 6);
        expect(Math.abs(across[k][1])).toBeLessThan(
          size * (isLoop ? 0.2 * Math.sin(Math.PI * t) ** 2 : 0.5 * t * t) + 1e-7,
        );
        // 12 % of the strand, no more than 2 % of the bundle; tips thin out
        expect(width[k]).toBeCloseTo(
          2 * Math.min(0.12 * STRAND, 0.02 * 2 * BUNDLE) * (isLoop ? 1 : 1 - 0.8 * t * t),
          8,
        );
      }
      expect(size).toBeGreaterThan(0.35 * whole * 0.999);
      expect(size).toBeLessThan(3 * whole);
    }
    within(
      count(({ far }) => far[7][0] > 0),
      0.5,
      all.length,
    );
    within(
      count(({ isLoop }) => isLoop),
      0.75 * 0.4,
      all.length,
    );
    // of flyaways those at more than a third of their way: 1.05 to 3 times the others' longest
    within(
      count(({ size }) => size > whole),
      0.25,
      all.length,
    );
    expect(fibres({ flyaways: 0 }).some(({ size }) => size > whole * 1.001)).toBe(false);
    expect(fibres({ flyaways: 1 }).some(({ isLoop }) => isLoop)).toBe(false);
    const asides = all.filter(({ isLoop }) => !isLoop).map(({ across, size }) => across[7][1] / size);
    expect(Math.abs(asides.reduce((sum, one) => sum + one, 0) / asides.length)).toBeLessThan(
      (4 * (0.5 / Math.sqrt(3))) / Math.sqrt(asides.length),
    );
    const long = fibres({ lifeBy: 'length', flyaways: 0, loops: 0 });
    for (const { size } of long) expect(size).toBeLessThan(0.02001);
    expect(Math.max(...long.map(({ size }) => size))).toBeGreaterThan(0.019);
  });

  it('on outer strands alone where that is asked: those that reach four fifths out', () => {
    expect(fibres({ fuzzOn: 'outer' }, [0.0061]).length).toBe(fibres({}, [0.0061]).length);
    expect(fibres({ fuzzOn: 'outer' }, [0.0059])).toEqual([]);
  });
});
