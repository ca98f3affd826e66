import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type CurveSet, curveLengths, type Finding, findUnit, Surface, Surroundings, unitsOf } from '../src/index.js';
import { beltLength, beltLine, type PlaneWheel } from '../src/path/wheels/belt-line.js';
import { wheelHandles, wheelMoved } from '../src/path/wheels/handles.js';
import { takenUp } from '../src/path/wheels/tension.js';
import { build } from './units.js';

const wheel = (x: number, y: number, radius: number, sense: 1 | -1 = 1): PlaneWheel => ({ x, y, radius, sense });
const lengthOf = (wheels: readonly PlaneWheel[]): number => beltLength(wheels, beltLine(wheels));

describe('a belt round wheels', () => {
  it('open and crossed, it is as long as the machine designer’s formulas say (Shigley: Mechanical Engineering Design, flexible elements)', () => {
    expect(lengthOf([wheel(0, 0, 0.15), wheel(0.5, 0, 0.1)])).toBeCloseTo(1.790402, 6);
    expect(lengthOf([wheel(0, 0, 0.15), wheel(0.5, 0, 0.1, -1)])).toBeCloseTo(1.913223, 6);
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        fc.double({ min: 0.01, max: 3, noNaN: true }),
        fc.double({ min: -4, max: 4, noNaN: true }),
        (r, R, gap, way) => {
          const far = r + R + gap;
          const other = [far * Math.cos(way), far * Math.sin(way)] as const;
          const open =
            2 * Math.sqrt(far ** 2 - (R - r) ** 2) + Math.PI * (R + r) + 2 * (R - r) * Math.asin((R - r) / far);
          const crossed = 2 * Math.sqrt(far ** 2 - (R + r) ** 2) + (R + r) * (Math.PI + 2 * Math.asin((R + r) / far));
          expect(lengthOf([wheel(0, 0, R), wheel(...other, r)])).toBeCloseTo(open, 9);
          expect(lengthOf([wheel(0, 0, R), wheel(...other, r, -1)])).toBeCloseTo(crossed, 9);
        },
      ),
    );
  });

  it('round wheels in a ring it is the hull of the circles: as long as the hull of their points, and no wheel sticks out', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            far: fc.double({ min: 0.4, max: 1.4, noNaN: true }),
            radius: fc.double({ min: 0.02, max: 0.15, noNaN: true }),
          }),
          { minLength: 3, maxLength: 9 },
        ),
        (some) => {
          const wheels = some.map(({ far, radius }, k) => {
            const angle = (2 * Math.PI * k) / some.length;
            return wheel(far * Math.cos(angle), far * Math.sin(angle), radius);
          });
          const line = beltLine(wheels);
          const points = wheels.flatMap(({ x, y, radius }) =>
            Array.from({ length: 720 }, (_, k): [number, number] => [
              x + radius * Math.cos((Math.PI * k) / 360),
              y + radius * Math.sin((Math.PI * k) / 360),
            ]),
          );
          const hull = hullOf(points);
          const around = hull.reduce(
            (sum, [x, y], i) =>
              sum + Math.hypot(hull[(i + 1) % hull.length][0] - x, hull[(i + 1) % hull.length][1] - y),
            0,
          );
          expect(beltLength(wheels, line) / around).toBeCloseTo(1, 4);
          // all the way round once; what is not on the hull is reported
          expect(line.wraps.reduce((sum, { turn }) => sum + turn, 0)).toBeCloseTo(2 * Math.PI, 9);
          const on = new Set(hull.map((place) => Math.floor(points.indexOf(place) / 720)));
          for (const k of line.untouched) expect(on.has(k)).toBe(false);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('any wheel that slides gives the length that is asked for, or none', () => {
    const wheels = [wheel(0, 0, 0.1), wheel(1, 0, 0.1), wheel(0.5, 0.5, 0.05, -1), wheel(1, 1, 0.1), wheel(0, 1, 0.1)];
    const now = lengthOf(wheels);
    for (const by of wheels.keys())
      for (const more of [0.12, -0.05]) {
        const moved = takenUp(wheels, by, now + more);
        // the one that presses from outside cannot give what it does not take
        if (!moved) continue;
        expect(lengthOf(moved)).toBeCloseTo(now + more, 9);
        for (const k of wheels.keys()) if (k !== by) expect(moved[k]).toEqual(wheels[k]);
      }
    expect(takenUp(wheels, 1, now + 0.12)).toBeDefined();
    expect(takenUp([wheel(0, 0, 0.1), wheel(1, 0, 0.1)], 1, 0.5)).toBeUndefined();
  });
});

/** Hull of points, counter-clockwise (Andrew: Another efficient algorithm for convex hulls in two dimensions, 1979). */
function hullOf(points: [number, number][]): [number, number][] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (all: [number, number][]) => {
    const out: [number, number][] = [];
    for (const p of all) {
      const turns = () => {
        const [a, b] = [out[out.length - 2], out[out.length - 1]];
        return (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
      };
      while (out.length > 1 && turns() <= 0) out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.toReversed())];
}

const at = (id: string, x: number, y: number, more: object = {}) => ({ id, position: [x, y, 0], ...more });
const FOUR = [
  at('a', 0, 0),
  at('b', 1, 0, { radius: 0.2 }),
  at('c', 0.5, 0.35, { outside: true, radius: 0.08 }),
  at('d', 0.5, 1),
];
const led = (set: Record<string, unknown>, reported: Finding[] = [], more: object = {}) =>
  build(
    'path',
    'wheels',
    { radius: 0.1, wheels: FOUR, ...set },
    { thickness: 0.01, report: (one: Finding) => reported.push(one), ...more },
  );

/** From a place to the line, metres. */
const closest = (line: CurveSet, [x, y, z]: readonly number[]): number => {
  let best = Infinity;
  const count = line.position.length / 3;
  for (let p = 0; p < count; p++) {
    const [a, b] = [3 * p, 3 * ((p + 1) % count)];
    const way = [0, 1, 2].map((n) => line.position[b + n] - line.position[a + n]);
    const from = [x, y, z].map((value, n) => value - line.position[a + n]);
    const t = Math.min(
      1,
      Math.max(
        0,
        way.reduce((sum, value, n) => sum + value * from[n], 0) / way.reduce((sum, value) => sum + value * value, 0),
      ),
    );
    best = Math.min(best, Math.hypot(...from.map((value, n) => value - t * way[n])));
  }
  return best;
};

describe('the path of wheels', () => {
  it('keeps half the belt off each wheel, knows its own length, and tilts as a whole', () => {
    for (const tilt of [0, 0.7]) {
      const reported: Finding[] = [];
      const line = led({ tilt }, reported);
      expect(reported).toEqual([]);
      const { handles, plane } = wheelHandles(FOUR as never, 0.1, [0, 0, 1], tilt, new Surroundings(new Map()));
      for (const { at: middle, radius } of handles) expect(closest(line, middle)).toBeCloseTo(radius + 0.01, 3);
      expect(line.curveData['length'][0] / curveLengths({ ...line, pointData: {}, curveData: {} })[0]).toBeCloseTo(
        1,
        4,
      );
      for (let i = 0; i < line.position.length; i += 3)
        expect(
          [0, 1, 2].reduce((sum, n) => sum + plane.axis[n] * (line.position[i + n] - plane.origin[n]), 0),
        ).toBeCloseTo(0, 9);
      // back from the tilted plane to where it was picked
      const moved = wheelMoved(FOUR[3] as never, handles[3].at, { plane, tilt }, new Surroundings(new Map()));
      moved.position.forEach((value, n) => {
        expect(value).toBeCloseTo(Number(FOUR[3].position[n]), 9);
      });
    }
  });

  it('sizes and length go to whole teeth; setting the size of all leaves one of its own alone', () => {
    const pitch = 0.02;
    const line = led({ pitch });
    const length = line.curveData['length'][0] / pitch;
    expect(Math.abs(length - Math.round(length))).toBeLessThan(1e-4);
    expect(Math.round(length) % 2).toBe(0);
    for (const radius of line.pointData['wheel-round'])
      if (radius !== 0)
        expect((2 * Math.PI * Math.abs(radius)) / pitch).toBeCloseTo(
          Math.round((2 * Math.PI * Math.abs(radius)) / pitch),
          4,
        );
    const sizes = (set: Record<string, unknown>) =>
      new Map(
        Array.from(
          led(set).pointData['wheel'],
          (mark, p, all = led(set).pointData['wheel-round']) => [mark, Math.abs(all[p])] as const,
        ),
      );
    const [one, twice] = [sizes({ radius: 0.1 }), sizes({ radius: 0.15 })];
    expect(twice.get(2)).toBe(one.get(2));
    expect(twice.get(1)! - one.get(1)!).toBeCloseTo(0.05, 6);
  });

  it('turned over between sides, its ends meet and two that cross keep clear of each other', () => {
    const line = led({ wheels: [at('a', 0, 0), at('b', 1, 0, { outside: true })], over: true });
    const { roll } = line.pointData;
    expect(Math.max(...roll) - Math.min(...roll)).toBeCloseTo(Math.PI, 2);
    expect(Math.abs(roll[roll.length - 1] - roll[0])).toBeLessThan(0.05);
    // at the middle both stretches are there, a thickness apart along the axle
    const middle = Array.from({ length: line.position.length / 3 }, (_, p) => p).filter(
      (p) => Math.abs(line.position[3 * p] - 0.5) < 0.02,
    );
    const high = middle.map((p) => line.position[3 * p + 2]);
    expect(Math.max(...high) - Math.min(...high)).toBeGreaterThanOrEqual(0.02);
  });

  it('hundreds of wheels in one place are reported a few times, at once', () => {
    const reported: Finding[] = [];
    led({ wheels: Array.from({ length: 500 }, (_, k) => at(`w${k}`, 0.001 * (k % 7), 0)) }, reported);
    expect(reported.length).toBeGreaterThan(0);
    expect(reported.length).toBeLessThanOrEqual(25);
  });

  it('what runs along a new path, and its dress, are units there are', () => {
    for (const { begins } of unitsOf('path'))
      if (begins) expect([findUnit(begins.make)?.stage, findUnit(begins.dress)?.stage]).toEqual(['make', 'dress']);
  });

  const cases: [code: string, set: Record<string, unknown>][] = [
    ['wheels-few', { wheels: [at('a', 0, 0)] }],
    ['wheel-gone', { wheels: [...FOUR, at('e', 2, 2, { prop: 'nothing' })] }],
    ['wheels-overlap', { wheels: [at('a', 0, 0), at('b', 0.15, 0)] }],
    ['belt-stuck', { wheels: [at('a', 0, 0, { radius: 0.5 }), at('b', 0.1, 0)] }],
    ['belt-stuck', { wheels: [at('a', 0, 0), at('b', 0.15, 0, { outside: true })] }],
    ['wheel-untouched', { wheels: [at('a', 0, 0), at('b', 1, 0), at('c', 0.5, 0.3), at('d', 1, 1), at('e', 0, 1)] }],
    ['belt-length', { by: 'given', length: 1 }],
  ];
  it.each(cases)('%s is reported, the rest still shows, and the fix mends it', (code, set) => {
    const reported: Finding[] = [];
    const line = led(set, reported);
    const found = reported.find((one) => one.code === code);
    expect(found).toBeDefined();
    if (code !== 'wheels-few' && (set['wheels'] as object[] | undefined)?.length !== 2)
      expect(line.position.length).toBeGreaterThan(0);
    if (found?.fix?.kind !== 'set') return;
    const after: Finding[] = [];
    led({ ...set, [found.fix.parameter]: found.fix.value }, after);
    expect(after.map((one) => one.code)).not.toContain(code);
  });

  it('a wheel that is a prop has its middle and its size, and goes with it', () => {
    const disc = (x: number) => {
      const position = Float32Array.from(
        Array.from({ length: 32 }, (_, k) => [
          x + 0.3 * Math.cos((Math.PI * k) / 16),
          0.3 * Math.sin((Math.PI * k) / 16),
          0,
        ]).flat(),
      );
      const index = Uint32Array.from(Array.from({ length: 30 }, (_, k) => [0, k + 1, k + 2]).flat());
      return Surface.of({ position, index });
    };
    const wheels = [at('a', 0, 0), at('p', 9, 9, { prop: 'disc' })];
    const line = led({ wheels }, [], { surroundings: new Surroundings(new Map([['disc', disc(2)]])) });
    expect(Math.min(...line.pointData['wheel'])).toBe(-2);
    expect(Math.max(...Array.from(line.position).filter((_value, i) => i % 3 === 0))).toBeCloseTo(2.31, 3);
  });
});
