import fc from 'fast-check';
import { BoxGeometry } from 'three';
import { expect, it } from 'vitest';
import { createHit, layInSight, Surface, Surroundings } from '../src/index.js';
import { pressedBeam } from '../src/numeric/pressed-beam.js';
import { evenly } from './helpers.js';

type Place = readonly [number, number, number];

const boxes = (...all: { at: Place; size: Place }[]): Surroundings =>
  new Surroundings(
    new Map(
      all.map(({ at, size }, i) => {
        const geometry = new BoxGeometry(...size).translate(...at);
        const position = Float32Array.from(geometry.toNonIndexed().getAttribute('position').array);
        return [
          `box ${i}`,
          Surface.of({ position, index: Uint32Array.from({ length: position.length / 3 }, (_, v) => v) }),
        ];
      }),
    ),
  );

/** A straight stroke from one place to another as it is seen from an eye, laid on what is there. */
function laid(eye: Place, from: Place, to: Place, around: Surroundings, clear: number, bend: number): Place[] {
  const count = 400;
  const directions = new Float64Array(3 * count);
  const depths = new Float64Array(count);
  const hit = createHit();
  for (let i = 0; i < count; i++) {
    const way = [0, 1, 2].map((k) => from[k] + ((to[k] - from[k]) * i) / (count - 1) - eye[k]);
    const size = Math.hypot(...way);
    const unit = way.map((value) => value / size) as unknown as [number, number, number];
    directions.set(unit, 3 * i);
    const prop = around.cast([...eye], unit, hit);
    depths[i] = prop ? Math.hypot(...[0, 1, 2].map((k) => hit.point[k] - eye[k])) : Number.POSITIVE_INFINITY;
  }
  const flat = layInSight({ eye, directions, depths }, around, clear, bend);
  return Array.from({ length: count }, (_, i) => [flat[3 * i], flat[3 * i + 1], flat[3 * i + 2]]);
}

it('a beam pressed evenly between two ends sags by 5qL⁴/384EI', () => {
  // Young, Budynas: Roark’s Formulas for Stress and Strain, beams on two supports under an even load
  const count = 61;
  const directions = Float64Array.from({ length: 3 * count }, (_, n) => (n % 3 === 2 ? 1 : 0));
  const stops = new Float64Array(count).fill(1000);
  stops[0] = stops[count - 1] = 0;
  const stiffness = 200;
  const sag = pressedBeam(directions, stops, stiffness)[(count - 1) / 2];
  // one unit of load a point and a stiffness of 2 · stiffness, in steps of 1
  expect(sag / ((5 * (count - 1) ** 4) / (384 * 2 * stiffness))).toBeCloseTo(1, 3);
});

it('a beam never passes its stops; where it is free it is in balance, where it is held it is pressed on', () => {
  const stop = fc.double({ min: 1, max: 3, noNaN: true });
  fc.assert(
    fc.property(
      fc.array(stop, { minLength: 3, maxLength: 60 }),
      fc.double({ min: 0.01, max: 10, noNaN: true }),
      (all, stiffness) => {
        const stops = Float64Array.from(all);
        const directions = Float64Array.from({ length: 3 * stops.length }, (_, n) => (n % 3 === 2 ? 1 : 0));
        const t = pressedBeam(directions, stops, stiffness);
        const bend = (i: number) => (i > 0 && i < t.length - 1 ? t[i - 1] - 2 * t[i] + t[i + 1] : 0);
        for (let i = 1; i < t.length - 1; i++) {
          expect(t[i]).toBeLessThanOrEqual(stops[i]);
          // the derivative of what it makes least
          const slope = 2 * stiffness * (bend(i - 1) - 2 * bend(i) + bend(i + 1)) - 1;
          if (t[i] < stops[i] - 1e-6) expect(slope).toBeCloseTo(0, 5);
          else expect(slope).toBeLessThan(1e-5);
        }
      },
    ),
  );
});

it('a line over boxes keeps its room from all of them, seen from anywhere', () => {
  const number = (min: number, max: number) => evenly(min, max);
  const box = fc.record({
    at: fc.tuple(number(-1, 1), number(0, 0.3), number(-0.5, 0.5)),
    size: fc.tuple(number(0.1, 0.6), number(0.05, 0.6), number(0.1, 0.6)),
  });
  fc.assert(
    fc.property(fc.array(box, { maxLength: 5 }), fc.tuple(number(-2, 2), number(1.5, 4), number(2, 4)), (all, eye) => {
      const ground = { at: [0, -0.5, 0] as const, size: [20, 1, 20] as const };
      const around = boxes(ground, ...all);
      const hit = createHit();
      for (const [x, y, z] of laid(eye, [-1.5, 0, 0.2], [1.5, 0, -0.2], around, 0.012, 0.03)) {
        expect(around.closest(x, y, z, hit, 0.5) === undefined || hit.distance > 0.0119).toBe(true);
        expect(all.some(({ at, size }) => [x, y, z].every((v, k) => Math.abs(v - at[k]) < size[k] / 2))).toBe(false);
      }
    }),
    { numRuns: 40 },
  );
});

it('lies on a plank, bridges a gap narrower than its bend, and goes over a step in no bend tighter than asked for', () => {
  const plank = (x: number, top: number) => ({ at: [x, top - 0.5, 0] as const, size: [1, 1, 2] as const });
  const eye: Place = [0, 3, 0.5];
  const flat = laid(eye, [-0.9, 0, 0], [0.9, 0, 0], boxes(plank(-0.51, 0), plank(0.51, 0)), 0.012, 0.05);
  for (const [, y] of flat) {
    expect(y).toBeLessThan(0.0135);
    // over the 20 mm between them it hardly dips
    expect(y).toBeGreaterThan(0.011);
  }
  const step = laid(eye, [-0.9, 0, 0], [0.9, 0, 0], boxes(plank(-0.5, 0), plank(0.5, 0.05)), 0.012, 0.05);
  expect(step[20][1]).toBeLessThan(0.0135);
  expect(step[380][1]).toBeLessThan(0.0635);
  for (let i = 1; i < step.length - 1; i++) expect(radius(step[i - 1], step[i], step[i + 1])).toBeGreaterThan(0.045);
});

/** Of the circle through three places. */
function radius(a: Place, b: Place, c: Place): number {
  const [u, v, w] = [minus(b, a), minus(c, b), minus(c, a)];
  const area = Math.hypot(u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]);
  return (Math.hypot(...u) * Math.hypot(...v) * Math.hypot(...w)) / (2 * area);
}

const minus = (a: Place, b: Place) => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
