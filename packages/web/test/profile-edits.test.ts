import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  begun,
  bowed,
  boxOf,
  closedPath,
  FIRST,
  inserted,
  mirrored,
  moved,
  type Paths,
  sharpened,
  sized,
  snapped,
  spaced,
  stretchFrom,
  without,
} from '../src/profile/profile-edits.js';

const ring = (...places: [number, number][]): Paths => [
  { closed: true, points: places.map(([x, y]) => ({ x, y, corner: true })) },
];
const area = ({ points }: Paths[number]) =>
  points.reduce((sum, a, i) => {
    const b = points[(i + 1) % points.length];
    return sum + (a.x * b.y - b.x * a.y) / 2;
  }, 0);

describe('a drawn profile', () => {
  it('is begun, gone on with, closed, changed and taken apart point by point; old paths stay what they were', () => {
    const one = begun([], [0, 0], true);
    const three = inserted(inserted(one, { path: 0, point: 0 }, [1, 0], true), { path: 0, point: 1 }, [0, 1], false);
    expect(three[0].points.map(({ x, y }) => [x, y])).toEqual([
      [0, 0],
      [1, 0],
      [0, 1],
    ]);
    expect(closedPath(one, 0, true)[0].closed).toBe(false);
    const closed = closedPath(three, 0, true);
    expect(closed[0].closed).toBe(true);
    expect(moved(closed, { path: 0, point: 2 }, [2, 3])[0].points[2]).toEqual({ x: 2, y: 3, corner: false });
    expect(sharpened(closed, { path: 0, point: 2 }, true)[0].points[2].corner).toBe(true);
    const two = without(closed, { path: 0, point: 0 });
    expect(two[0]).toMatchObject({ closed: false, points: [{ x: 1 }, { x: 0 }] });
    expect(without(without(two, { path: 0, point: 0 }), { path: 0, point: 0 })).toEqual([]);
    expect(one[0].points).toHaveLength(1);
  });

  it('takes the size it is reported, about its middle', () => {
    const box = boxOf(sized(FIRST, 0.1, 0.05));
    expect([box && box.right - box.left, box && box.top - box.bottom]).toEqual([
      expect.closeTo(0.1, 9),
      expect.closeTo(0.05, 9),
    ]);
    expect(box && box.left + box.right).toBeCloseTo(0, 9);
  });

  it('has stretches as long as they are typed, and arcs as high; one that is cut in two bows half as far round, and mirrors', () => {
    const box = ring([-0.02, -0.01], [0.02, -0.01], [0.02, 0.01], [-0.02, 0.01]);
    const side = { path: 0, point: 1 };
    const longer = spaced(box, side, 0.03);
    expect(longer[0].points[2]).toMatchObject({ x: expect.closeTo(0.02, 12), y: expect.closeTo(0.02, 12) });
    const round = bowed(box, side, 0.01);
    expect(round[0].points[1].bulge).toBe(1);
    expect(stretchFrom(round, side)).toEqual({ length: expect.closeTo(0.02, 12), bow: expect.closeTo(0.01, 12) });
    expect(boxOf(round)?.right).toBeCloseTo(0.03, 5);
    expect(bowed(round, side, 0)).toEqual(box);
    const wide = boxOf(sized(round, 0.1, 0.02));
    expect(wide && wide.right - wide.left).toBeCloseTo(0.1, 4);
    // a half circle cut at its top is two quarters, of tan(π/8) each
    const halves = inserted(round, side, [0.03, 0], false)[0].points;
    expect([halves[1].bulge, halves[2].bulge]).toEqual([
      expect.closeTo(Math.tan(Math.PI / 8)),
      expect.closeTo(Math.tan(Math.PI / 8)),
    ]);
    const left = bowed(box, { path: 0, point: 3 }, 0.01);
    const even = mirrored(left);
    const both = boxOf(even);
    expect([both?.left, both?.right]).toEqual([expect.closeTo(-0.03, 5), expect.closeTo(0.03, 5)]);
  });

  it('snaps to a point that is near, else to the grid, else stays', () => {
    const paths = ring([0.5, 0.5], [1, 0], [0, 1]);
    expect(snapped([0.52, 0.49], paths, 0.1, 0.05)).toEqual([0.5, 0.5]);
    expect(snapped([0.52, 0.49], paths, 0.1, 0.05, { path: 0, point: 0 })).toEqual([0.5, 0.5]);
    expect(snapped([0.32, 0.17], paths, 0.1, 0.05)).toEqual([0.3, 0.2]);
    expect(snapped([0.32, 0.17], paths, 0, 0.05)).toEqual([0.32, 0.17]);
  });

  it('mirrored from the left is even about the upright axis, and twice as large as its left half', () => {
    const number = fc.double({ min: 0.1, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.array(number, { minLength: 4, maxLength: 12 }), fc.boolean(), (reaches, onAxis) => {
        // star-shaped about the middle: it crosses the axis once above and once below
        const turn = onAxis ? 0 : 0.3;
        const paths = ring(
          ...reaches.map((reach, k): [number, number] => {
            const angle = turn + (2 * Math.PI * (k + 0.25)) / reaches.length;
            return [reach * Math.cos(angle), reach * Math.sin(angle)];
          }),
        );
        const [even] = mirrored(paths);
        const places = even.points.map(({ x, y }) => `${x.toFixed(9)} ${y.toFixed(9)}`);
        for (const { x, y } of even.points) expect(places).toContain(`${(-x || 0).toFixed(9)} ${y.toFixed(9)}`);
        expect(mirrored([even])[0].points).toHaveLength(even.points.length);
        const left = { closed: true, points: even.points.filter(({ x }) => x <= 0) };
        expect(area(even)).toBeCloseTo(2 * area(left), 9);
      }),
      { numRuns: 200 },
    );
    // what is on its left alone gets a twin, what is on its right goes
    const apart = [...ring([-2, 0], [-1, 0], [-1, 1]), ...ring([1, 0], [2, 0], [2, 1])];
    expect(mirrored(apart)).toHaveLength(2);
    expect(boxOf(mirrored(apart))).toEqual({ left: -2, right: 2, bottom: 0, top: 1 });
  });
});
