import fc from 'fast-check';
import { expect, it } from 'vitest';
import { alongGuide, arc, spotAt, stretch } from '../src/lines/spot.js';

const coordinate = fc.double({ min: -5, max: 5, noNaN: true });
const line = fc
  .array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 2, maxLength: 12 })
  .filter((points) => points.every((at, i) => i === 0 || Math.hypot(...at.map((v, k) => v - points[i - 1][k])) > 0.01))
  .map((points) => ({
    position: Float64Array.from(points.flat()),
    start: Uint32Array.of(0, points.length),
    closed: Uint8Array.of(0),
    id: Uint32Array.of(1),
  }));
const share = fc.double({ min: 0, max: 1, noNaN: true });
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, value, k) => sum + value * b[k], 0);

it('a spot has three directions at right angles, the first along the line, the second level', () => {
  fc.assert(
    fc.property(line, share, (guide, at) => {
      const { tangent, side, up } = spotAt(guide, at);
      for (const direction of [tangent, side, up]) expect(Math.hypot(...direction)).toBeCloseTo(1, 9);
      for (const [a, b] of [
        [tangent, side],
        [side, up],
        [up, tangent],
      ])
        expect(dot(a, b)).toBeCloseTo(0, 9);
      if (Math.abs(tangent[1]) < 0.97) expect(side[1]).toBeCloseTo(0, 12);
    }),
  );
});

it('spots stand as far along as their shares say: two of them are never further apart than the line between them', () => {
  fc.assert(
    fc.property(line, share, share, (guide, a, b) => {
      const { length } = alongGuide(guide, 0);
      const apart = Math.hypot(...spotAt(guide, a).place.map((v, k) => v - spotAt(guide, b).place[k]));
      expect(apart).toBeLessThanOrEqual(Math.abs(a - b) * length + 1e-9);
      const way = stretch(guide, 0, length);
      const walked = way.reduce((sum, at, i) => (i ? sum + Math.hypot(...at.map((v, k) => v - way[i - 1][k])) : 0), 0);
      // chords between 25 places cut corners, and never lengthen
      expect(walked).toBeLessThanOrEqual(length + 1e-9);
      for (let k = 0; k < 3; k++) {
        expect(way[0][k]).toBeCloseTo(guide.position[k], 9);
        expect(way.at(-1)![k]).toBeCloseTo(guide.position.at(k - 3)!, 9);
      }
    }),
  );
});

it('an arc keeps its radius and has the length of its angle: r·φ, chords of which fall short by φ²/24n² at most', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.01, max: 3, noNaN: true }),
      fc.double({ min: -6, max: 6, noNaN: true }),
      (radius, angle) => {
        const places = arc([1, 2, 3], [1, 0, 0], [0, 0, 1], radius, angle);
        for (const [x, y, z] of places) {
          expect(Math.hypot(x - 1, z - 3)).toBeCloseTo(radius, 9);
          expect(y).toBe(2);
        }
        const walked = places.reduce(
          (sum, at, i) => (i ? sum + Math.hypot(...at.map((v, k) => v - places[i - 1][k])) : 0),
          0,
        );
        const exact = radius * Math.abs(angle);
        expect(walked).toBeLessThanOrEqual(exact + 1e-9);
        expect(walked).toBeGreaterThan(exact * (1 - angle ** 2 / (24 * (places.length - 1) ** 2)) - 1e-9);
      },
    ),
  );
});
