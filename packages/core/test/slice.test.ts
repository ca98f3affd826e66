import { describe, expect, it } from 'vitest';
import { measure } from '../src/evaluate/measures.js';
import { bendProfiles, evaluatePiece, newUse, type Profile, Surroundings, sliceAt, World } from '../src/index.js';
import { madeOf } from '../src/unit/carriers.js';
import { drawn } from './helpers.js';
import { alongPoints } from './projects.js';

// What is measured of a section and of a body, held against what was put in.

const box = (x: number, y: number, w: number, h: number): Profile['paths'][number] => ({
  closed: true,
  points: [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ].map(([px, py]) => ({ x: px, y: py, corner: true })),
});
const SIZE = { radius: 0.05, width: 1.5 };

/** A bar along +x from outlines, 100 mm high and 150 wide. */
function bar(...paths: Profile['paths']) {
  const { document, piece } = alongPoints(
    [
      [0, 0, 0],
      [0.5, 0, 0],
      [1, 0, 0],
    ],
    (one) => {
      one.make = newUse('make', 'sweep');
      Object.assign(one.make.parameters, { form: 'own', profile: 'own', ...SIZE, start: 'flat', end: 'flat' });
    },
  );
  const own = { id: 'own', name: 'Own', paths };
  return evaluatePiece(new World({ ...document, profiles: [own] }, new Surroundings(new Map())), piece);
}

describe('the slice', () => {
  const frame = box(0, 0, 0.15, 0.1);

  it('of a body with a hole and an island in it: its size, its material, which outlines are holes, the gap round the island', () => {
    const { parts, guide } = bar(frame, box(0.02, 0.02, 0.11, 0.06), box(0.06, 0.04, 0.03, 0.02));
    const slice = sliceAt(parts, guide, 0.4, 0.2);
    expect(slice?.outlines).toHaveLength(3);
    expect(slice?.width).toBeCloseTo(0.15, 6);
    expect(slice?.height).toBeCloseTo(0.1, 6);
    expect(slice?.area).toBeCloseTo(0.15 * 0.1 - 0.11 * 0.06 + 0.03 * 0.02, 7);
    const byArea = slice!.outlines.toSorted((a, b) => b.area - a.area);
    expect(byArea.map(({ hole }) => hole)).toEqual([false, true, false]);
    expect(byArea.map(({ area }) => +area.toFixed(6))).toEqual([0.015, 0.0066, 0.0006]);
    // a hole and what it is in are one; from the island to the hole's rim it is 20 mm
    expect(slice?.gap).toBeCloseTo(0.02, 6);
  });

  it('stands with up up and the side it has in the view: an outline of one corner more is where it was drawn', () => {
    const { parts, guide } = bar(box(0, 0, 0.15, 0.04), box(0.1, 0.05, 0.05, 0.05));
    const { outlines } = sliceAt(parts, guide, 0.5, 0.2)!;
    const middle = ({ points }: (typeof outlines)[number]) =>
      [0, 1].map((axis) => points.filter((_, i) => i % 2 === axis).reduce((a, b) => a + b) / (points.length / 2));
    const [wide, small] = outlines.toSorted((a, b) => b.area - a.area).map(middle);
    expect(wide[0]).toBeCloseTo(0, 6);
    expect(wide[1]).toBeCloseTo(-0.03, 6);
    expect(Math.abs(small[0])).toBeCloseTo(0.05, 6);
    expect(small[1]).toBeCloseTo(0.025, 6);
  });

  it('keeps what begins near its line and what goes round it, and nothing else; just inside both ends', () => {
    const { parts, guide } = bar(box(0, 0, 0.02, 0.1), box(0.06, 0, 0.02, 0.1), box(0.13, 0, 0.02, 0.1));
    // the two outer bars begin 45 and 55 mm from the line in the middle of the three
    expect(sliceAt(parts, guide, 0.5, 0.03)?.outlines).toHaveLength(1);
    expect(sliceAt(parts, guide, 0.5, 0.06)?.outlines).toHaveLength(3);
    expect(sliceAt(bar(frame).parts, guide, 0.5, 0.001)?.outlines).toHaveLength(1);
    for (const share of [-1, 0, 1, 2]) expect(sliceAt(parts, guide, share, 0.2)?.outlines).toHaveLength(3);
  });

  it('of lines beside each other shows each where it is, once; of one far off nothing', () => {
    const lines = (apart: number) => {
      const { document, piece } = alongPoints(
        [
          [0, 0, 0],
          [1, 0, 0],
        ],
        (one) => {
          one.make.parameters['radius'] = 0.02;
          one.path.parameters['curves'] = ['line', 'beside'];
        },
      );
      document.curves.push({
        ...document.curves[0],
        id: 'beside',
        points: document.curves[0].points.map((point) => ({
          ...point,
          position: [point.position[0], 0, apart] as [number, number, number],
        })),
      });
      const build = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
      return sliceAt(build.parts, build.guide, 0.5, 0.03);
    };
    const slice = lines(0.1);
    expect(slice?.outlines).toHaveLength(2);
    expect(slice?.gap).toBeCloseTo(0.06, 3);
    expect(slice?.width).toBeCloseTo(0.14, 3);
    expect(lines(5)?.outlines).toHaveLength(1);
  });
});

describe('measures', () => {
  it('of strands: length times the circle of their width, by the mean of both ends of each step', () => {
    const curves = drawn([
      [0, 0, 0],
      [1, 0, 0],
      [1, 2, 0],
    ]);
    const width = Float32Array.from({ length: curves.position.length / 3 }, () => 0.02);
    const made = madeOf(curves, {
      parts: [{ kind: 'strands', id: 's', name: 'S', slot: 'main', curves, width, sides: 5 }],
    });
    let length = 0;
    for (let i = 3; i < curves.position.length; i += 3)
      length += Math.hypot(...[0, 1, 2].map((k) => curves.position[i + k] - curves.position[i + k - 3]));
    expect(measure(made).volume / (length * Math.PI * 0.01 ** 2)).toBeCloseTo(1, 5);
  });

  it('the tightest bend is the least of the profile of bends, and what is wanted stands beside it', () => {
    const { document, piece } = alongPoints(
      [
        [0, 0, 0],
        [0.5, 0.3, 0],
        [1, 0, 0],
      ],
      (one) => {
        Object.assign(one.make.parameters, { radius: 0.01, leastBend: 3 });
      },
    );
    const { made, measures } = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
    const [profile] = bendProfiles(made);
    expect(Math.min(...profile.radius)).toBeCloseTo(measures.bendRadius, 6);
    expect(measures.bendRadius).toBeLessThan(1);
    expect(profile.least.every((value) => Math.abs(value - 0.03) < 1e-6)).toBe(true);
  });
});
