import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withChordLengths } from '../src/curve/chord-lengths.js';
import { POINT } from '../src/curve/curve-set.js';
import { polygonSection, Surface, Surroundings, singleCurve, sweep } from '../src/index.js';
import { type FacingChoice, facingOf, reportFacing } from '../src/make/facing.js';
import { foldFixes } from '../src/make/fold-fixes.js';
import { lanesAlong } from '../src/make/lanes-along.js';
import { LIMITED, type Steering, type SweepSpec } from '../src/make/steering.js';
import { type Lane, valueAt } from '../src/numeric/lane.js';
import { hullOf, leastReach } from '../src/section/hull.js';
import type { BuildContext } from '../src/unit/unit.js';

// What is steered along the length, against the formulas by hand: no mesh in between.

const lane = (...values: number[]): Lane => ({
  ease: 'straight',
  knots: values.map((value, k) => ({ at: k / (values.length - 1), value })),
});
const rails = (points: number, closed = false) => {
  const round = (k: number) => (2 * Math.PI * k) / points;
  const places = Array.from({ length: points }, (_, k) =>
    closed ? [Math.cos(round(k)), 0, Math.sin(round(k))] : [(2 * k) / (points - 1), 0, 0],
  );
  return withChordLengths(singleCurve(places.flat(), { closed, smooth: true }));
};
/** A section that reaches 1 down and 2 up, 3 to one side and 4 to the other. */
const section = { ...polygonSection(4), x: Float64Array.of(-1, 2, 2, -1), y: Float64Array.of(-3, -3, 4, 4) };
const steered = (set: Partial<SweepSpec>): SweepSpec => ({
  section,
  size: 0.1,
  flatness: 1,
  isRound: false,
  least: 1,
  ...set,
});
const steering = (set: Partial<Steering> = {}): Steering => ({ roll: 0, twist: 0, ...set }) as Steering;
/** Every number is what is wanted there. */
const all = (values: ArrayLike<number> | undefined, wanted: (p: number) => number, digits: number) => {
  const list = Array.from(values ?? [Number.NaN]);
  expect(list).toEqual(list.map((_, p) => expect.closeTo(wanted(p), digits)));
};
const shares = ({ pointData }: ReturnType<typeof rails>, length: number) =>
  Array.from(pointData[POINT.along], (far) => far / length);

describe('what the section is at each point', () => {
  it('size, breadth and place follow their lanes; a point’s own thickness multiplies, its own turn adds', () => {
    const line = rails(9);
    line.pointData[POINT.radius] = Float32Array.from({ length: 9 }, (_, k) => 1 + k / 8);
    line.pointData[POINT.roll] = Float32Array.from({ length: 9 }, (_, k) => k / 10);
    const [size, broad, rise, aside, roll, twist] = [
      lane(0.1, 0.3),
      lane(1, 2, 1),
      lane(-1, 1),
      lane(1, -1),
      lane(0, 1),
      lane(0, 2),
    ];
    const out = lanesAlong(line, steered({ size, broad, rise, aside }), steering({ roll, twist }));
    shares(line, 2).forEach((t, p) => {
      const radius = valueAt(size, t) * (1 + p / 8);
      const width = radius * valueAt(broad, t);
      expect(out.radius[p]).toBeCloseTo(radius, 6);
      expect(out.width?.[p]).toBeCloseTo(width, 6);
      // at 1 its lower side is where its middle was, at −1 its upper one
      const [up, beside] = [valueAt(rise, t), valueAt(aside, t)];
      expect(out.shift?.x[p]).toBeCloseTo(radius * (up > 0 ? up : 2 * up), 6);
      expect(out.shift?.y[p]).toBeCloseTo(width * (beside > 0 ? 3 * beside : 4 * beside), 6);
      // ∫ twist over the length: 2t of a line of 2 m
      expect(out.roll[p]).toBeCloseTo(t + 2 * Math.PI * 2 * t * t + p / 10, 5);
    });
    expect(out.plain).toBe(false);
    expect(lanesAlong(line, steered({}), steering(), new Float64Array(9).fill(0.5)).roll[8]).toBeCloseTo(0.5, 6);
  });

  it('an even one needs no walk, and says whether it is turned', () => {
    for (const roll of [0, 0.4]) {
      const out = lanesAlong(rails(5), steered({}), steering({ roll }));
      expect([...out.radius, ...out.roll, out.plain]).toEqual([
        ...Array(5).fill(Math.fround(0.1)),
        ...Array(5).fill(Math.fround(roll)),
        roll === 0,
      ]);
      expect([out.width, out.shift, out.share]).toEqual([undefined, undefined, undefined]);
    }
    for (const set of [
      { rise: 1 },
      { aside: 1 },
      { broad: 2 },
      { size: lane(0.1, 0.1) },
      { ripple: { wave: 0.5, depth: 0.2 } },
    ])
      expect(lanesAlong(rails(5), steered(set), steering()).plain, JSON.stringify(set)).toBe(false);
    for (const set of [{ twist: 0.25 }, { roll: lane(0, 1) }]) {
      const out = lanesAlong(rails(5), steered({}), steering(set));
      expect([out.plain, out.roll[4] === 0]).toEqual([false, false]);
    }
  });

  it('on a ring the twist is made whole, the same share of it at each point', () => {
    const ring = rails(40, true);
    const length = 40 * 2 * Math.sin(Math.PI / 40);
    for (const [twist, turns] of [
      [0.5 / length, 1],
      [2.6 / length, 3],
      [-1.2 / length, -1],
      [0.3 / length, 0],
    ])
      Array.from(lanesAlong(ring, steered({}), steering({ twist })).roll).forEach((roll, p) => {
        expect(roll).toBeCloseTo((2 * Math.PI * turns * p) / 40, 5);
      });
  });

  it('rings round it: crests as thick as it is, valleys by their depth less; on a ring whole ones', () => {
    const line = rails(81);
    const { radius } = lanesAlong(line, steered({ ripple: { wave: 0.4, depth: 0.25 } }), steering());
    all(radius, (p) => 0.1 * (1 - 0.25 * Math.abs(Math.sin((Math.PI * p) / 16)) ** 3.2), 6);
    const ring = rails(120, true);
    const round = lanesAlong(ring, steered({ ripple: { wave: 0.61, depth: 0.25 } }), steering()).radius;
    // 6.28 / 0.61 is nearest to 10
    all(round, (p) => 0.1 * (1 - 0.25 * Math.abs(Math.sin((10 * Math.PI * p) / 120)) ** 3.2), 5);
    const one = lanesAlong(ring, steered({ ripple: { wave: 90, depth: 0.25 } }), steering()).radius;
    expect(Math.min(...one)).toBeCloseTo(0.075, 6);
  });

  it('it becomes the next section evenly by its end, on a ring halfway round; a lane says it outright', () => {
    const becomes = (share: number | Lane) => ({ blend: {} as never, share });
    const open = lanesAlong(rails(9), steered({ becomes: becomes(0.8) }), steering()).share;
    all(open, (p) => (0.8 * p) / 8, 6);
    const ring = lanesAlong(rails(40, true), steered({ becomes: becomes(1) }), steering()).share;
    all(ring, (p) => 1 - Math.abs(p / 20 - 1), 5);
    const reported = lanesAlong(rails(9), steered({ becomes: becomes(lane(-1, 2)) }), steering()).share;
    all(reported, (p) => Math.max(0, Math.min(1, -1 + (3 * p) / 8)), 6);
  });
});

describe('where its top looks', () => {
  const line = rails(9);
  const frames = {
    tangent: Float64Array.from({ length: 27 }, (_, i) => (i % 3 === 0 ? 1 : 0)),
    normal: Float64Array.from({ length: 27 }, (_, i) => (i % 3 === 1 ? 1 : 0)),
  };
  const wall = Surface.of(sweep(singleCurve([1, -1, -5, 1, -1, 5]), polygonSection(4), { radius: Math.SQRT2 / 2 }));
  const far = Surface.of(sweep(singleCurve([-9, 0, 7, 9, 0, 7]), polygonSection(4), { radius: Math.SQRT2 }));
  const context = (more: Partial<BuildContext> = {}) =>
    ({
      surroundings: new Surroundings(
        new Map([
          ['below', wall],
          ['beside', far],
        ]),
      ),
      piece: () => undefined,
      report: () => {},
      ...more,
    }) as never;
  const turns = (set: Partial<FacingChoice>, more: Partial<BuildContext> = {}, on = line) =>
    facingOf(
      { facing: 'line', facingProp: '', facingPlace: [0, 0, 0], facingPiece: '', ...set } as FacingChoice,
      context(more),
    )?.(on, frames as never);

  it('up, at a place, off a prop, at another line: the turn from the frame’s own normal to it', () => {
    expect(turns({ facing: 'line' })).toBeUndefined();
    for (const turn of turns({ facing: 'up' })!) expect(turn).toBeCloseTo(0, 9);
    // round x, from y towards z
    const place: [number, number, number] = [1, 2, 3];
    for (const turn of turns({ facing: 'place', facingPlace: place })!)
      expect(Math.abs(turn)).toBeCloseTo(Math.atan2(3, 2), 9);
    // a prop 0.5 below: up, whatever is further; by name the one beside: away from that
    for (const turn of turns({ facing: 'prop' })!) expect(turn).toBeCloseTo(0, 6);
    for (const turn of turns({ facing: 'prop', facingProp: 'beside' })!)
      expect(Math.abs(turn)).toBeCloseTo(Math.PI / 2, 6);
    const beside = turns({ facing: 'prop', facingProp: 'beside' })![4];
    const at = turns({ facing: 'place', facingPlace: [1, 0, 9] })![4];
    expect(Math.sign(beside)).toBe(-Math.sign(at));
    // another line, longer than this one: as far along it by share
    const other = { line: singleCurve([0, 1, 1, 0, 5, 5, 8, 5, 5].slice(0, 3).concat([8, 5, 5])) };
    const there = turns({ facing: 'piece', facingPiece: 'x' }, { piece: () => other as never })!;
    for (const turn of there) expect(Math.abs(turn)).toBeCloseTo(Math.PI / 4, 6);
  });

  it('what cannot be looked at is reported', () => {
    const reported = (set: Partial<FacingChoice>, more: Partial<BuildContext> = {}) => {
      const codes: string[] = [];
      reportFacing(
        { facing: 'line', facingPiece: '', ...set } as FacingChoice,
        context({ report: ({ code }) => codes.push(code), ...more }),
      );
      return codes;
    };
    expect([reported({}), reported({ facing: 'up' }), reported({ facing: 'prop' })]).toEqual([[], [], []]);
    expect(reported({ facing: 'piece' })).toEqual(['facing-nothing']);
    expect(reported({ facing: 'prop' }, { surroundings: new Surroundings(new Map()) })).toEqual(['facing-nothing']);
    expect(turns({ facing: 'piece', facingPiece: 'x' })).toBeUndefined();
  });
});

describe('mending a fold by thickness', () => {
  const finding = {
    code: 'pinch',
    severity: 'error',
    message: '',
    along: 1,
    size: { value: 0.02, limit: 0.04, kind: 'length' },
  } as const;
  const thinner = (set: object, value: number | Lane, length = 2) =>
    foldFixes({ ...finding, ...set } as never, value, LIMITED, length)[0] as unknown as { value: Lane } | undefined;

  it('goes down to three quarters of what the bend allows and back within four of its limits, and stays elsewhere', () => {
    const { knots } = thinner({}, 0.05)!.value;
    const reach = (4 * 0.04) / 2;
    expect(knots.map(({ at }) => at)).toEqual(
      [0, 0.5 - reach, 0.5 - reach / 3, 0.5 + reach / 3, 0.5 + reach, 1].map((at) => expect.closeTo(at, 12)),
    );
    expect(knots.map(({ value }) => value)).toEqual(
      [0.05, 0.05, 0.05 * 0.375, 0.05 * 0.375, 0.05, 0.05].map((value) => expect.closeTo(value, 12)),
    );
    // knots of a lane that lie within give way, those without stay
    const varied = thinner(
      {},
      {
        ease: 'smooth',
        knots: [
          { at: 0.1, value: 0.2 },
          { at: 0.5, value: 0.4 },
          { at: 0.95, value: 0.1 },
        ],
      },
    )!.value.knots;
    expect(varied.map(({ at }) => at)).toEqual(
      [0.1, 0.42, 0.5 - reach / 3, 0.5 + reach / 3, 0.58, 0.95].map((at) => expect.closeTo(at, 12)),
    );
    // at an end there is no way back: it stays thin
    const end = thinner({ along: 0.01 }, 0.05)!.value.knots;
    expect(end[0]).toEqual({ at: 0, value: expect.closeTo(0.05 * 0.375, 12) });
    expect(end.map(({ at }) => at)).toEqual(end.map(({ at }) => at).toSorted((a, b) => a - b));
    expect(end.at(-1)).toEqual({ at: 1, value: 0.05 });
    expect(thinner({ along: 1.99 }, 0.05)!.value.knots.at(-1)).toEqual({
      at: 1,
      value: expect.closeTo(0.05 * 0.375, 12),
    });
  });

  it('is offered where it is known how far along one line; creasing where it does not yet', () => {
    expect(thinner({ along: undefined }, 0.05)).toBeUndefined();
    expect(thinner({ size: undefined }, 0.05)).toBeUndefined();
    expect(thinner({ code: 'cuts-prop' }, 0.05)).toBeUndefined();
    expect(thinner({}, 0.05, 0)).toBeUndefined();
    expect(thinner({}, { ...lane(0.05, 0.05), region: 'r' } as never)).toBeUndefined();
    expect(thinner({ code: 'mitre-short' }, 0.05)).toBeDefined();
    const labels = (code: string, folds: string) =>
      foldFixes({ ...finding, code } as never, 0.05, folds, 2).map(({ label }) => label);
    expect(labels('pinch', 'told')).toEqual(['Make it thinner there', 'Crease the inner side']);
    expect(labels('pinch', LIMITED)).toEqual(['Make it thinner there']);
    expect(labels('mitre-short', 'told')).toEqual(['Make it thinner there']);
  });
});

describe('the convex outline', () => {
  it('holds all places, turns left at each corner and keeps none that it does not need (brute force)', () => {
    const whole = fc.integer({ min: -6, max: 6 });
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(whole, whole), { minLength: 3, maxLength: 24, selector: (at) => at.join() }),
        (places) => {
          const [x, y] = [places.map((at) => at[0]), places.map((at) => at[1])];
          const area2 = (a: number[], b: number[], c: number[]) =>
            (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
          fc.pre(places.some((c) => area2(places[0], places[1], c) !== 0));
          const hull = hullOf(x, y);
          const corners = Array.from(hull.x, (value, i) => [value, hull.y[i]]);
          // a corner is what no triangle of three others holds: each must be one of the places, and each outermost place a corner
          corners.forEach((a, i) => {
            const [b, c] = [corners[(i + 1) % corners.length], corners[(i + 2) % corners.length]];
            expect(area2(a, b, c)).toBeGreaterThan(0);
            for (const place of places) expect(area2(a, b, place)).toBeGreaterThanOrEqual(0);
          });
          expect(corners.every((corner) => places.some((place) => place.join() === corner.join()))).toBe(true);
          // from the middle to the nearest side: the least over all directions of how far it reaches
          const moved = { x: hull.x.map((value) => value + 0.25), y: hull.y.map((value) => value - 0.5) };
          const reach = Array.from({ length: 7200 }, (_, k) => {
            const angle = (k * Math.PI) / 3600;
            return Math.max(
              ...Array.from(moved.x, (value, i) => value * Math.cos(angle) + moved.y[i] * Math.sin(angle)),
            );
          });
          // a middle on or outside it has no reach
          expect(leastReach(moved)).toBeCloseTo(Math.max(0, Math.min(...reach)), 2);
        },
      ),
      { numRuns: 150 },
    );
  });
});
