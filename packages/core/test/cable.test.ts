import { describe, expect, it } from 'vitest';
import {
  curveCount,
  evaluatePiece,
  newUse,
  type Piece,
  partCounts,
  presetParameters,
  Surroundings,
  unitOf,
  valueAt,
  World,
} from '../src/index.js';
import { alongPoints } from './projects.js';

const cable = unitOf('make', 'cable');
const with_ = (change: object) => ({ ...presetParameters(cable), ...change }) as never;
const mm = (metres: number) => `${Math.round(metres * 1000)} mm`;
const lane = (...values: number[]) => ({
  ease: 'straight',
  knots: values.map((value, k) => ({ at: k / (values.length - 1), value })),
});

/** What is made along a gentle bend, and what the unit said beforehand of its cost. */
function made(change: object, closed = false) {
  const line = [
    [0, 0, 0],
    [1, 0.2, 0],
    [2, 0, 0.5],
    [1, 0, 1.5],
  ] as const;
  const { document, piece } = alongPoints(line, ({ make }: Piece) => Object.assign(make.parameters, change));
  document.curves[0].closed = closed;
  const build = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  const path = build.stages.at(-1)!;
  const cost = cable.cost!(path, piece.make.parameters as never, { density: 1 } as never);
  return { build, cost, rails: build.made.bodies[0].curves, section: build.made.bodies[0].section, curves: path };
}

describe('cable', () => {
  it('says what it is in the words of its section', () => {
    expect(cable.describe(with_({ radius: 0.01 }), mm)).toBe('⌀ 20 mm, round');
    expect(cable.describe(with_({ radius: lane(0.01, 0.03, 0.02) }), mm)).toBe('⌀ up to 60 mm, round');
    expect(cable.describe(with_({ radius: 0.01, section: 'polygon', sides: 7 }), mm)).toBe('⌀ 20 mm, 7 sides');
    expect(cable.describe(with_({ radius: 0.002, section: 'box', width: 6 }), mm)).toBe('Box 24 mm × 4 mm');
  });

  it.each([
    ['open, round ends', {}, false],
    ['open, flat and open ends', { start: 'flat', end: 'open' }, false],
    ['closed', {}, true],
    ['box, twisted', { section: 'box', twist: 2, start: 'flat' }, false],
    ['tapered', { radius: lane(0.01, 0.02) }, false],
  ])('costs what it was said to: %s', (_name, change, closed) => {
    const { build, cost, curves } = made(change, closed);
    expect(curveCount(curves)).toBe(1);
    expect(cost).toEqual({ vertices: partCounts(build.parts[0]).vertices, bytes: 56 * cost!.vertices });
  });

  it('reaches as far towards what it lies on as its section does when it is turned', () => {
    const reach = (change: object) => {
      const value = cable.thickness!(with_({ section: 'box', width: 5, radius: 0.01, ...change }));
      return [0, 1].map((t) => valueAt(value, t));
    };
    expect(reach({ section: 'round' })).toEqual([0.01, 0.01]);
    expect(reach({})).toEqual([0.01, 0.01]);
    expect(reach({ roll: Math.PI / 2 })[0]).toBeCloseTo(0.05, 12);
    expect(reach({ roll: -Math.PI / 4 })[0]).toBeCloseTo(0.06 * Math.SQRT1_2, 12);
    for (const turning of [{ twist: 0.5 }, { twist: lane(0, 1) }, { roll: lane(0, 1) }])
      expect(reach(turning)[0]).toBeCloseTo(0.01 * Math.hypot(1, 5), 12);
    expect(reach({ radius: lane(0.01, 0.02) })).toEqual([0.01, 0.02]);
  });

  it('hands the checks the outline of what is not round, and how near its skin comes to the line', () => {
    const shape = (change: object) => made(change).section;
    expect(shape({}).outline).toBeUndefined();
    expect(shape({}).least).toBe(1);
    expect(shape({ section: 'polygon', sides: 5 }).least).toBeCloseTo(Math.cos(Math.PI / 5), 12);
    expect(shape({ section: 'box', width: 0.4 }).least).toBe(0.4);
    expect(shape({ section: 'box', width: 3 }).least).toBe(1);
    expect(shape({ section: 'box', width: 3, rounding: 0 }).outline?.x.length).toBeGreaterThan(3);
  });

  it('stands its rings as close as cuts, bends, lanes and twist ask, and a round one is not cut for its twist', () => {
    const rings = (change: object) => made({ bendStep: 1, cuts: 0, ...change }).rails.position.length / 3;
    const length = made({}).build.measures.length;
    expect(rings({ cuts: 50 })).toBe(Math.ceil(50 * length) + 1);
    expect(rings({ twist: 3 })).toBe(rings({}));
    // a lane has 64 steps at least, however few the bends ask for
    expect(rings({ radius: lane(0.01, 0.02) })).toBeGreaterThan(2 * rings({}));
    const twisted = rings({ twist: 3, section: 'box' });
    expect(twisted).toBeGreaterThan(rings({}));
    expect((rings({ twist: lane(0, -6), section: 'box' }) - 1) / (twisted - 1)).toBeCloseTo(2, 1);
  });

  it('offers a finer bend step for coarse bends, and nothing for what its numbers cannot mend', () => {
    const fix = (code: string) => cable.fixes!({ code } as never, newUse('make', 'cable').parameters as never, 1);
    expect(fix('coarse')).toMatchObject([{ kind: 'set', parameter: 'bendStep', value: (6 * Math.PI) / 180 }]);
    expect(fix('cuts-prop')).toEqual([]);
  });
});
