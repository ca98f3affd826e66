import fc from 'fast-check';
import { Line3, Vector3 } from 'three';
import { expect, it } from 'vitest';
import { type Approach, nearestOnSegments, SegmentGrid } from '../src/curve/segment-grid.js';
import { weldPositions } from '../src/mesh/weld.js';
import { evenly } from './helpers.js';

/** Lines that slant by less than a millionth are taken as parallel: over these lengths that is this much, at most. */
const SLANT = 1e-5;
/** Coordinates on a coarse lattice: segments of no length, parallel and crossing ones come up often. */
const lattice = fc.integer({ min: -6, max: 6 }).map((n) => n / 2);
const coordinate = fc.oneof(lattice, evenly(-3, 3));

it('two segments are as near as three’s Line3 says, at the places that are given', () => {
  fc.assert(
    fc.property(fc.array(coordinate, { minLength: 12, maxLength: 12 }), (numbers) => {
      const x = Float64Array.from(numbers);
      const found: Approach = { s: -1, t: -1, distance: -1 };
      nearestOnSegments(x, 0, 3, 6, 9, found);
      for (const share of [found.s, found.t]) {
        expect(share).toBeGreaterThanOrEqual(0);
        expect(share).toBeLessThanOrEqual(1);
      }
      const corner = (k: number) => new Vector3().fromArray(x, 3 * k);
      const [one, other] = [new Line3(corner(0), corner(1)), new Line3(corner(2), corner(3))];
      const at = (line: Line3, share: number) => line.at(share, new Vector3());
      expect(found.distance).toBeCloseTo(at(one, found.s).distanceTo(at(other, found.t)), 9);
      expect(found.distance).toBeLessThanOrEqual(Math.sqrt(one.distanceSqToLine3(other)) + SLANT);
      // and by looking: no two of many places on both are nearer
      for (let i = 0; i <= 20; i++)
        for (let k = 0; k <= 20; k++)
          expect(at(one, i / 20).distanceTo(at(other, k / 20))).toBeGreaterThanOrEqual(found.distance - SLANT);
    }),
    { numRuns: 60 },
  );
});

it('the grid of segments finds each pair within reach once, and no other (every pair looked at)', () => {
  fc.assert(
    fc.property(
      fc.array(coordinate, { maxLength: 120 }),
      fc.double({ min: 0.05, max: 2, noNaN: true }),
      (all, size) => {
        const middle = Float64Array.from(all.slice(0, 3 * Math.floor(all.length / 3)));
        const count = middle.length / 3;
        const grid = new SegmentGrid(middle, size);
        const found: string[] = [];
        const wanted: string[] = [];
        for (let s = 0; s < count; s++) {
          const [x, y, z] = [0, 1, 2].map((k) => middle[3 * s + k]);
          grid.near(s, x, y, z, (other) => s < other && found.push(`${s} ${other}`));
          for (let o = s + 1; o < count; o++) {
            const [dx, dy, dz] = [0, 1, 2].map((k) => middle[3 * o + k] - middle[3 * s + k]);
            if (dx * dx + dy * dy + dz * dz < size * size) wanted.push(`${s} ${o}`);
          }
        }
        expect(found.toSorted()).toEqual(wanted.toSorted());
      },
    ),
  );
});

it('vertices are welded where they are in one place, bit for bit, and nowhere else', () => {
  const value = fc.oneof(fc.constantFrom(0, -0, 1, 1 + 2 ** -23, -1, 1e-38, 3e38), fc.float({ noNaN: true }));
  fc.assert(
    fc.property(fc.array(fc.tuple(value, value, value), { maxLength: 60 }), (places) => {
      const { remap, count } = weldPositions(Float32Array.from(places.flat()));
      const numbers = new Map<string, number>();
      for (const [v, place] of places.entries()) {
        // −0 and 0 are one place
        const name = place.map((n) => String(Math.fround(n) + 0)).join(' ');
        const known = numbers.get(name);
        if (known === undefined) numbers.set(name, remap[v]);
        else expect(remap[v]).toBe(known);
      }
      expect(new Set(remap).size).toBe(numbers.size);
      expect(count).toBe(numbers.size);
    }),
  );
});
