import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  createHit,
  type DrawnCurve,
  evenOut,
  HOME,
  hangingLine,
  joinedCurve,
  leastBow,
  movedPoint,
  newShape,
  reversedCurve,
  Surface,
  Surroundings,
  shiftPoints,
  smoothStretch,
  splitCurve,
  straighten,
  turnRest,
} from '../src/index.js';
import { bunnyMesh, drawn, evenly } from './helpers.js';
import { lyingOnBunny } from './projects.js';
import { build } from './units.js';

const nowhere = new Surroundings(new Map());
const curve = (points: [number, number, number][], closed = false): DrawnCurve => ({
  id: 'a',
  name: 'A',
  closed,
  points: points.map((position) => ({ position, corner: false, radius: 1 })),
});
const placesOf = ({ points }: DrawnCurve) => points.map(({ position }) => position);
const gaps = (line: DrawnCurve) =>
  placesOf(line)
    .slice(1)
    .map((place, i) => Math.hypot(...place.map((value, n) => value - placesOf(line)[i][n])));
const zigzag = () =>
  curve([
    [0, 0, 0],
    [1, 1, 0],
    [1.5, -1, 0],
    [3, 1, 0],
    [4, 0, 0],
  ]);

describe('points of a line', () => {
  it('straighten, even out and smooth keep the ends and what is outside the stretch', () => {
    const straight = straighten(zigzag(), [], nowhere);
    for (const [, y, z] of placesOf(straight)) expect(Math.hypot(y, z)).toBeLessThan(1e-12);
    const part = straighten(zigzag(), [0, 2], nowhere);
    expect(placesOf(part).slice(2)).toEqual(placesOf(zigzag()).slice(2));
    const even = gaps(
      evenOut(
        curve([
          [0, 0, 0],
          [0.1, 0, 0],
          [3, 0, 0],
          [4, 0, 0],
        ]),
        [],
        nowhere,
      ),
    );
    for (const gap of even) expect(gap).toBeCloseTo(4 / 3, 6);
    const height = (line: DrawnCurve) => Math.max(...placesOf(line).map(([, y]) => Math.abs(y)));
    const smooth = smoothStretch(zigzag(), [], nowhere);
    expect(height(smooth)).toBeLessThan(0.6 * height(zigzag()));
    expect([placesOf(smooth)[0], placesOf(smooth)[4]]).toEqual([placesOf(zigzag())[0], placesOf(zigzag())[4]]);
  });

  it('split and join undo each other, whichever way the halves run; a ring opens where it is cut', () => {
    const [a, b] = splitCurve(zigzag(), 2, 'b', 'B');
    const rolled = { ...b, points: b.points.map((point) => ({ ...point, roll: 0.3 })) };
    expect(reversedCurve(rolled).points.map(({ roll }) => roll)).toEqual(rolled.points.map(() => -0.3));
    for (const half of [b, reversedCurve(b)])
      expect(gaps(joinedCurve(a, half, nowhere)).sort()).toEqual(gaps(zigzag()).sort());
    const [ring] = splitCurve({ ...zigzag(), closed: true }, 3, 'b', 'B');
    expect([ring.closed, ring.points.length, ring.points[0].position]).toEqual([false, 6, [3, 1, 0]]);
    expect(splitCurve(zigzag(), 0, 'b', 'B')).toHaveLength(1);
  });

  it('turning what follows keeps every length and the part before', () => {
    fc.assert(
      fc.property(evenly(-6, 6), fc.integer({ min: 0, max: 4 }), (angle, at) => {
        const turned = turnRest(zigzag(), at, 'after', [0, 0, 1], angle, nowhere);
        gaps(turned).forEach((gap, i) => {
          expect(gap).toBeCloseTo(gaps(zigzag())[i], 9);
        });
        expect(placesOf(turned).slice(0, at + 1)).toEqual(placesOf(zigzag()).slice(0, at + 1));
      }),
    );
  });

  it('held points stay on their prop, at their height, wherever it is', () => {
    const placement = { ...HOME, position: [1, 2, 3] as [number, number, number], scale: 2 };
    const props = new Surroundings(new Map([['bunny', Surface.of(bunnyMesh(), placement)]]));
    const [line] = lyingOnBunny().document.curves;
    const moved = shiftPoints(line, [2, 3, 4], [0.01, 0.01, 0], props);
    const hit = createHit();
    moved.points.slice(2, 5).forEach(({ position, anchor }) => {
      expect(anchor?.prop).toBe('bunny');
      expect(props.closest(...position, hit)).toBe('bunny');
      expect(hit.distance).toBeLessThan(1e-6);
    });
    expect(movedPoint({ position: [0, 0, 0], corner: true, radius: 2 }, [1, 2, 3], props)).toEqual({
      position: [1, 2, 3],
      corner: true,
      radius: 2,
    });
  });
});

describe('a thrown line', () => {
  it('has the length its slack says, whichever way it swings, and hangs as Sag does', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 1, noNaN: true }), evenly(-3, 3), (slack, swing) => {
        const line = hangingLine([0, 1, 0], [2, 1.5, 1], slack, swing, 400);
        let length = 0;
        for (let i = 3; i < line.length; i += 3)
          length += Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2], line[i + 2] - line[i - 1]);
        expect(length / (Math.hypot(2, 0.5, 1) * (1 + slack))).toBeCloseTo(1, 3);
      }),
      { numRuns: 30 },
    );
    const input = drawn([
      [0, 1, 0],
      [2, 1, 0],
    ]);
    const { slack: _slack, ...rest } = newShape('sag').parameters;
    const level = build('shape', 'sag', { ...rest, slack: 0.1, swing: Math.PI / 2 }, { input });
    // swung a quarter turn it lies level, to the right seen from its start
    for (let i = 0; i < level.position.length; i += 3) expect(level.position[i + 1]).toBeCloseTo(1, 9);
    expect(Math.max(...level.position.filter((_, i) => i % 3 === 2))).toBeGreaterThan(0.3);
  });

  it('finds the least bow over what is in the way: half a unit less would touch', () => {
    // a post across the straight way, which only a bow to the side or over the top clears
    const isClear = (line: Float64Array) => {
      for (let i = 0; i < line.length; i += 3) if (Math.hypot(line[i] - 1, line[i + 2]) < 0.2) return false;
      return true;
    };
    const bow = leastBow([0, 0, 0], [2, 0, 0], isClear);
    expect(bow && isClear(hangingLine([0, 0, 0], [2, 0, 0], bow.slack, bow.swing))).toBe(true);
    expect(isClear(hangingLine([0, 0, 0], [2, 0, 0], 0.9 * (bow?.slack ?? 0), bow?.swing ?? 0))).toBe(false);
    expect(leastBow([0, 0, 0], [2, 0, 0], () => false)).toBeUndefined();
  });
});
