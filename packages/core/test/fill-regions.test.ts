import { Quaternion, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { joinCurves } from '../src/curve/carry.js';
import { type CurveSet, singleCurve } from '../src/index.js';
import { type Outline, regionsOf } from '../src/make/fill/outline.js';
import { areaOf } from '../src/section/plane.js';

// Which closed lines are slabs, and which are holes in them.

const TURNS = [
  [0, 1, 0, 0],
  [1, 0, 0, 1.1],
  [0.6, 0, 0.8, 2.3],
  [0, 0, 1, Math.PI / 2],
  [1, 0, 0, Math.PI / 2],
] as const;
const turn = ([x, y, z, angle]: (typeof TURNS)[number]) =>
  new Quaternion().setFromAxisAngle(new Vector3(x, y, z), angle);
/** A ring of 24 places in the plane y = 0, moved by (x, y, z) and turned about the origin; backwards where `back`. */
const ring = (radius: number, [x, y, z]: readonly number[], by: Quaternion, back = false): CurveSet =>
  singleCurve(
    Array.from({ length: 24 }, (_, k) => ((back ? -1 : 1) * 2 * Math.PI * k) / 24).flatMap((a) =>
      new Vector3(x + radius * Math.cos(a), y, z + radius * Math.sin(a)).applyQuaternion(by).toArray(),
    ),
    { closed: true },
  );
const found = (rings: readonly CurveSet[]) => regionsOf(joinCurves([...rings]), undefined);
const reported = (rings: readonly CurveSet[]) =>
  found(rings).regions.map(({ rim, holes }) => [rim.curve, holes.map(({ curve }) => curve).sort()]);

describe('closed lines', () => {
  it.each(TURNS)(
    'inside another one are holes, inside a hole slabs again, whichever way they run and their plane looks: about (%d, %d, %d) by %d',
    (...by) => {
      const q = turn(by as never);
      for (const back of [false, true]) {
        const [big, hole, island, beside] = [
          ring(2, [0, 0, 0], q),
          ring(1, [0.3, 0, 0], q, back),
          ring(0.4, [0.3, 0, 0.1], q),
          ring(1, [4, 0, 0], q, back),
        ];
        expect(reported([big, hole, island, beside])).toEqual([
          [0, [1]],
          [2, []],
          [3, []],
        ]);
        // in any order
        expect(reported([island, beside, hole, big])).toEqual([
          [0, []],
          [1, []],
          [3, [2]],
        ]);
      }
      // two holes beside each other; one as large as the other, on each other, is one in the other
      expect(reported([ring(2, [0, 0, 0], q), ring(0.5, [1, 0, 0], q), ring(0.5, [-1, 0, 0], q)])).toEqual([
        [0, [1, 2]],
      ]);
      expect(reported([ring(1, [0, 0, 0], q), ring(1, [0, 0, 0], q)]).length).toBe(1);
      // over it by less than half its width, √π of its radius, it is a hole still; further up a slab of its own
      expect(reported([ring(2, [0, 0, 0], q), ring(1, [0, 1.7, 0], q)])).toEqual([[0, [1]]]);
      expect(reported([ring(2, [0, 0, 0], q), ring(1, [0, 1.85, 0], q)])).toEqual([
        [0, []],
        [1, []],
      ]);
      // tilted through it: half of it is inside
      const half = reported([ring(2, [0, 0, 0], q), ring(0.5, [2, 0, 0], q)]);
      expect(half).toEqual([[0, [1]]]);
    },
  );

  it.each(TURNS)(
    'lie in a plane that looks up, or ahead, with axes square to each other; rims run round it one way, holes the other: about (%d, %d, %d) by %d',
    (...by) => {
      const q = turn(by as never);
      for (const back of [false, true]) {
        const rings = [ring(2, [5, 1, 3], q, back), ring(1, [5.2, 1.3, 3], q, back)];
        const {
          regions: [
            {
              plane,
              rim,
              holes: [hole],
            },
          ],
        } = found(rings);
        const [x, y, normal] = [plane.x, plane.y, plane.normal].map((axis) => new Vector3(...axis));
        for (const axis of [x, y, normal]) expect(axis.length()).toBeCloseTo(1, 12);
        expect(x.clone().cross(y).distanceTo(normal)).toBeLessThan(1e-12);
        const own = new Vector3(0, 1, 0).applyQuaternion(q);
        expect(Math.abs(normal.dot(own))).toBeCloseTo(1, 9);
        expect(normal.y).toBeGreaterThan(-1e-9);
        expect(areaOf(rim.flat)).toBeGreaterThan(0);
        expect(areaOf(hole.flat)).toBeLessThan(0);
        const placed = ({ flat, height }: Outline) =>
          flat.map(([a, b], k) =>
            new Vector3(...plane.center).addScaledVector(x, a).addScaledVector(y, b).addScaledVector(normal, height[k]),
          );
        for (const [outline, curve] of [
          [rim, rings[0]],
          [hole, rings[1]],
        ] as const)
          for (const at of placed(outline)) {
            const far = Array.from({ length: 24 }, (_, k) =>
              at.distanceTo(new Vector3().fromArray(curve.position, 3 * k)),
            );
            expect(Math.min(...far)).toBeLessThan(1e-9);
          }
        expect(
          new Set(
            placed(rim).map((at) =>
              at
                .toArray()
                .map((value) => value.toFixed(6))
                .join(),
            ),
          ).size,
        ).toBe(24);
      }
    },
  );

  it('that enclose nothing are reported; many side by side are each a slab', () => {
    const q = turn(TURNS[0]);
    const line = singleCurve([0, 0, 0, 1, 0, 0, 2, 0, 0, 1, 0, 0], { closed: true });
    expect(found([ring(1, [9, 0, 0], q), line])).toMatchObject({ flat: [1], regions: [{ rim: { curve: 0 } }] });
    const many = Array.from({ length: 300 }, (_, k) => ring(0.4 + 0.02 * (k % 4), [k % 20, 0, Math.floor(k / 20)], q));
    expect(reported(many)).toEqual(many.map((_, k) => [k, []]));
  });
});
