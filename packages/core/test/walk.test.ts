import fc from 'fast-check';
import { CatmullRomCurve3, CurvePath, LineCurve3, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { chordsOf } from '../src/curve/arc-length.js';
import { inBlocks } from '../src/curve/blocks.js';
import { joinCurves, pickCurves } from '../src/curve/carry.js';
import { Walk } from '../src/curve/walk.js';
import { type CurveSet, curveCount, curveLengths, pointCount, resample, singleCurve } from '../src/index.js';
import { shortKey } from '../src/numeric/key.js';
import { circle, drawn, evenly } from './helpers.js';
import { build } from './units.js';

const coordinate = evenly(-5, 5);
const points = fc.uniqueArray(fc.tuple(coordinate, coordinate, coordinate), { minLength: 2, maxLength: 12 });

/** The same corners as straight lines of the graphics library. */
function straight(places: readonly (readonly number[])[], closed: boolean): CurvePath<Vector3> {
  const path = new CurvePath<Vector3>();
  const ring = closed ? [...places, places[0]] : places;
  for (let k = 1; k < ring.length; k++) path.add(new LineCurve3(new Vector3(...ring[k - 1]), new Vector3(...ring[k])));
  return path;
}

describe('the walk along a line', () => {
  it('is as long, and comes to the same places, as the path of straight lines of a graphics library (three)', () => {
    fc.assert(
      fc.property(points, fc.boolean(), evenly(0, 1), (places, closed, share) => {
        const walk = new Walk(singleCurve(Float64Array.from(places.flat()), { closed }));
        const path = straight(places, closed);
        expect(walk.length).toBeCloseTo(path.getLength(), 9);
        const at = walk.pointAt(share * walk.length, [0, 0, 0]);
        // by length, segment by segment; its `getPointAt` looks places up in a table of samples
        const theirs = path.getPoint(share);
        expect(theirs.distanceTo(new Vector3(...at))).toBeLessThan(1e-9);
      }),
    );
  });

  it('holds at open ends, goes round closed ones both ways, and does not mind in which order it is asked', () => {
    fc.assert(
      fc.property(
        points,
        fc.boolean(),
        fc.array(evenly(-3, 3), { minLength: 1, maxLength: 12 }),
        (places, closed, turns) => {
          const curve = singleCurve(Float64Array.from(places.flat()), { closed });
          const walked = new Walk(curve);
          for (const turn of turns) {
            const got = [...walked.pointAt(turn * walked.length, [0, 0, 0])];
            const inside = closed ? turn - Math.floor(turn) : Math.min(1, Math.max(0, turn));
            const fresh = new Walk(curve).pointAt(inside * walked.length, [0, 0, 0]);
            got.forEach((value, n) => {
              expect(value).toBeCloseTo(fresh[n], 6);
            });
          }
        },
      ),
    );
  });

  it('sees a bend as long as it is: the chords of what was drawn come to the length of the arc from below', () => {
    const ring = circle(1, 12);
    const { sum, longest } = chordsOf(ring);
    expect(sum).toBeCloseTo(24 * Math.sin(Math.PI / 12), 12);
    expect(longest).toBeCloseTo(2 * Math.sin(Math.PI / 12), 12);
    expect(curveLengths(ring)[0]).toBeCloseTo(2 * Math.PI, 4);
    const places = [
      [0, 0, 0],
      [1, 0.5, 0],
      [2, -0.3, 0.8],
      [3, 0, 0],
    ] as const;
    const theirs = new CatmullRomCurve3(places.map((place) => new Vector3(...place)));
    theirs.arcLengthDivisions = 5_000;
    const ours = resample(drawn(places), { maxTurn: 0.02 });
    // inside, both are the centripetal curve; how the first and last span begin is each one's own
    expect(curveLengths(ours)[0]).toBeGreaterThan(chordsOf(ours).sum);
    expect(curveLengths(ours)[0] / theirs.getLength()).toBeCloseTo(1, 2);
  });
});

describe('many lines', () => {
  const many = (): CurveSet => {
    const lines = Array.from({ length: 900 }, (_, c) => {
      const line =
        c % 7 === 0
          ? circle(0.1 + c / 900, 20 + (c % 5))
          : drawn([
              [c, 0, 0],
              [c, 1, 0.2],
              [c + 0.3, 2, c % 3],
            ]);
      line.id[0] = c * 31 + 5;
      line.curveData = { root: Uint32Array.of(0x0100_0001 + c) };
      return line;
    });
    return joinCurves(lines);
  };

  it('are worked on block by block as each is alone, in their order, with all they carry', () => {
    const all = many();
    expect(pointCount(all)).toBeGreaterThan(12_000);
    const work = (lines: CurveSet) => resample(lines, { spacing: 0.07, keepKnots: true });
    const blocks = inBlocks(all, work);
    const whole = work(all);
    expect(blocks).toEqual(whole);
    const swayed = build('shape', 'wobble', { strength: 2 }, { input: all });
    expect(curveCount(swayed)).toBe(900);
    for (const c of [0, 7, 123, 450, 898, 899]) {
      const alone = build('shape', 'wobble', { strength: 2 }, { input: pickCurves(all, [c]) });
      expect(pickCurves(swayed, [c])).toEqual(alone);
    }
  });
});

it('short keys: one letter changed, moved or added gives another; a hundred thousand near ones do not meet', () => {
  const keys = new Set<string>();
  for (let i = 0; i < 100_000; i++) keys.add(shortKey(`{"piece":"line-${i % 1000}","at":${Math.floor(i / 1000)}}`));
  expect(keys.size).toBe(100_000);
  fc.assert(
    fc.property(fc.string({ minLength: 1, unit: 'binary' }), fc.nat(), (text, at) => {
      const key = shortKey(text);
      expect(key).toMatch(/^[\u0800-\u0fff]{12}$/);
      expect(shortKey(text)).toBe(key);
      const place = at % text.length;
      expect(shortKey(`${text.slice(0, place)}x${text.slice(place)}`)).not.toBe(key);
    }),
  );
});
