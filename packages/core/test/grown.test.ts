import { Quaternion, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { type CurveSet, newUse, type Picture, Surface, Surroundings, unitOf } from '../src/index.js';
import { hashText, randomsOf } from '../src/numeric/random.js';
import { AreaPicker } from '../src/path/roots/area-picker.js';
import { spreadRoots } from '../src/path/roots/spread-roots.js';
import { bunnyMesh, controls, sheet } from './helpers.js';
import { build } from './units.js';

type Place = [number, number, number];

const field = (columns: number, rows = columns) => sheet(columns, rows, (s, t) => [s, 0, t]);
const world = (skin: Surface) => new Surroundings(new Map([['skin', skin]]));
const grow = (skin: Surface, set: Record<string, unknown>, more: Parameters<typeof build>[3] = {}) =>
  build('path', 'grown', set, { surroundings: world(skin), thickness: 1e-4, ...more });
const lines = (all: Record<string, Place[]>) =>
  new Map(Object.entries(all).map(([id, points]) => [id, controls(points)]));
const rootOf = ({ position, start }: CurveSet, c: number) => position.subarray(3 * start[c], 3 * start[c] + 3);
/** A strand from its root on. */
const shapeOf = ({ position, start }: CurveSet, c: number) =>
  Array.from(position.subarray(3 * start[c], 3 * start[c + 1]), (value, i) => value - position[3 * start[c] + (i % 3)]);

describe('roots', () => {
  // upper limits of chi-square at 99.9 %, 49 degrees of freedom: between 45.31 (20) and 86.66 (50), any table
  const LIMIT = 86.66;
  const spread = (skin: Surface, evenness: number) => {
    const out = grow(skin, { count: 5000, evenness, points: 2, length: 0.01 });
    const cells = new Float64Array(50);
    for (let c = 0; c < 5000; c++)
      cells[10 * Math.min(4, Math.floor(5 * rootOf(out, c)[0])) + Math.min(9, Math.floor(10 * rootOf(out, c)[2]))]++;
    return cells.reduce((sum, count) => sum + (count - 100) ** 2 / 100, 0);
  };

  it('lie evenly by area, however the faces are: at random within the limits of chi-square, at full evenness far below', () => {
    const uneven = sheet(12, 3, (s, t) => [s * s, 0, t]);
    for (const skin of [field(1), field(23), uneven]) {
      expect(spread(skin, 0)).toBeLessThan(LIMIT);
      expect(spread(skin, 1)).toBeLessThan(0.4 * 49);
    }
  });

  it('are the places that their numbers represent, one after the other', () => {
    const { mesh } = field(7);
    const picker = new AreaPicker(
      mesh,
      Array.from({ length: 98 }, (_, k) => k),
    );
    const roots = spreadRoots(picker, 400, 5, 0, undefined, true, () => {});
    const [a, b, c] = ['triangle', 's', 't'].map((name) => randomsOf(5, hashText(name)));
    roots.number.forEach((number, i) => {
      expect(number).toBe(i);
      picker.pick(a(32 * number), b(32 * number), c(32 * number));
      expect([roots.triangle[i], roots.shares[2 * i], roots.shares[2 * i + 1]]).toEqual([
        picker.triangle,
        ...picker.shares.slice(1),
      ]);
    });
  });

  it('keep apart at full evenness by more than half of what a square grid does, over a fold too', () => {
    const out = grow(
      sheet(20, 20, (s, t) => [s, 0.4 * Math.abs(s - 0.5), t]),
      { count: 2000, evenness: 1, points: 2 },
    );
    const nearest = Array.from({ length: 2000 }, (_, a) => {
      let least = Infinity;
      for (let b = 0; b < 2000; b++)
        if (b !== a)
          least = Math.min(least, Math.hypot(...[0, 1, 2].map((n) => rootOf(out, a)[n] - rootOf(out, b)[n])));
      return least;
    }).sort((a, b) => a - b);
    // all but one in a hundred
    expect(nearest[20]).toBeGreaterThan(0.5 * Math.sqrt(1.28 / 2000));
  });

  it('stay where they are when more are asked for, by number, by density, and in the view', () => {
    const [few, many] = [1000, 2000].map((count) => grow(field(9), { count }));
    expect([...many.id.subarray(0, 1000)]).toEqual([...few.id]);
    expect([...many.position.subarray(0, few.position.length)]).toEqual([...few.position]);
    const dense = grow(field(9), { by: 'density', density: 0.2 });
    expect(dense.id.length).toBe(2000);
    const seen = grow(field(9), { count: 1000, shown: 0.25 }, { forView: true });
    expect([...seen.position]).toEqual([...few.position.subarray(0, seen.position.length)]);
    expect(seen.id.length).toBe(250);
    expect(grow(field(9), { count: 1000, shown: 0.25 }).id.length).toBe(1000);
  });

  it('stand only where their picture, their region and their edges let them', () => {
    const light = Uint8Array.from({ length: 64 }, (_, i) => (i % 8 < 4 ? 0 : 255));
    const sheetAt: Picture = {
      id: 'p',
      name: 'Map',
      image: 'x',
      position: [0.5, 0, 0.5],
      plane: 'top',
      width: 1,
      aspect: 1,
      opacity: 1,
      visible: true,
      locked: false,
    } as never;
    const picture = () => ({ picture: sheetAt, shades: { width: 8, height: 8, light, colour: new Uint8Array(256) } });
    const out = grow(field(6), { count: 800, picture: 'p' }, { picture });
    expect(out.id.length).toBe(800);
    const right = Array.from({ length: 800 }, (_, c) => rootOf(out, c)[0]).filter((x) => x > 0.5).length;
    expect(right).toBeGreaterThan(700);
    // where it is so full that no draw keeps off the others too
    const inner = grow(field(6), { count: 3000, edges: 0.2, evenness: 1 });
    for (let c = 0; c < 3000; c++)
      for (const n of [0, 2]) expect(Math.abs(rootOf(inner, c)[n] - 0.5)).toBeLessThan(0.3001);
    // by density, what is left out is made up for nowhere: 36 % of the area within 3.3 standard deviations
    const fewer = grow(field(6), { by: 'density', density: 0.2, edges: 0.2 }).id.length;
    expect(Math.abs(fewer - 720)).toBeLessThan(3.3 * Math.sqrt(2000 * 0.36 * 0.64));
    const reported: string[] = [];
    expect(grow(field(6), { picture: 'p' }, { picture: () => undefined, reported }).id.length).toBe(0);
    expect(reported).toEqual(['picture-unread']);
  });
});

describe('guides', () => {
  const left: Place[] = [
    [0.1, 0, 0.5],
    [0.1, 0.1, 0.52],
    [0.05, 0.2, 0.6],
  ];
  const right: Place[] = [
    [0.9, 0, 0.5],
    [1, 0.02, 0.5],
    [1.2, 0.05, 0.4],
  ];
  const guided = (set: Record<string, unknown>, all: Record<string, Place[]>, skin = field(16)) =>
    grow(
      skin,
      { count: 200, points: 9, guides: Object.keys(all).filter((id) => id !== 'parting'), ...set },
      { curves: lines(all) },
    );

  it('share what is theirs: shares sum to 1, none is negative, four have a say at most, at its own root one alone; 3 guides or 24', () => {
    const bunny = Surface.of(bunnyMesh());
    const bare = grow(bunny, { count: 120, points: 2, length: 0.01 });
    for (const count of [3, 24]) {
      // each begins at the root of a strand; how long a strand is reports what a longer guide has to do with it
      const rooted = (longer: number) =>
        lines(
          Object.fromEntries(
            Array.from({ length: count }, (_, g) => {
              const [x, y, z] = rootOf(bare, g);
              const shape = shapeOf(bare, g)
                .slice(3)
                .map((value) => value * (g === longer ? 2 : 1));
              return [
                `g${g}`,
                [
                  [x, y, z],
                  [x + shape[0], y + shape[1], z + shape[2]],
                ],
              ];
            }),
          ),
        );
      const lengths = (longer: number) =>
        grow(bunny, { count: 120, points: 2, guides: [...rooted(longer).keys()] }, { curves: rooted(longer) })
          .curveData['length'];
      const even = lengths(-1);
      const shares = Array.from({ length: count }, (_, g) => lengths(g).map((value, c) => value / even[c] - 1));
      for (let c = 0; c < 120; c++) {
        const all = shares.map((of) => of[c]);
        expect(all.reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 4);
        for (const one of all) expect(one).toBeGreaterThan(-1e-5);
        expect(all.filter((one) => one > 1e-5).length).toBeLessThanOrEqual(4);
        if (c < count) expect(all[c]).toBeCloseTo(1, 5);
      }
    }
  });

  it('lead: one alone is what all strands are, turned with the skin; two are mixed, as long as both are by their shares', () => {
    const one = guided({}, { left });
    for (let c = 1; c < 200; c++)
      shapeOf(one, c).forEach((value, i) => {
        expect(value).toBeCloseTo(shapeOf(one, 0)[i], 9);
      });
    const { length } = guided({ withGuides: true }, { left, right }).curveData;
    for (const value of length.subarray(2)) {
      expect(value).toBeGreaterThan(Math.min(length[0], length[1]) - 1e-5);
      expect(value).toBeLessThan(Math.max(length[0], length[1]) + 1e-5);
    }
    // on a wall the same guide leans out as far as it stood up
    const bend = sheet(24, 4, (s, t) => [Math.min(s, 0.5) * 2, -Math.max(0, s - 0.5) * 2, t]);
    const folded = guided({ count: 400 }, { left }, bend);
    const on = Array.from({ length: 400 }, (_, c) => c).filter((c) => rootOf(folded, c)[1] < -0.2);
    for (const c of on) expect(shapeOf(folded, c).at(-3)).toBeCloseTo(0.2, 2);
    // drawn from tip to root it is the same guide
    expect([...guided({}, { left: left.toReversed() }).position]).toEqual(
      [...one.position].map((value) => expect.closeTo(value, 9)),
    );
  });

  it('lead the same however skin and guides are turned together', () => {
    const { position, index } = bunnyMesh();
    const turn = new Quaternion().setFromAxisAngle(new Vector3(0.48, 0.6, 0.64), 1.9);
    const turned = ([x, y, z]: ArrayLike<number> & Iterable<number>): Place =>
      new Vector3(x, y, z).applyQuaternion(turn).toArray();
    const bent: Place[][] = [0, 900, 1700].map((v) =>
      [0, 1, 2].map((k) => [
        position[3 * v] + 0.1 * k,
        position[3 * v + 1] + 0.3 * k,
        position[3 * v + 2] + 0.05 * k * k,
      ]),
    );
    const strands = (by: (place: Place) => Place) => {
      const skin = Surface.of({
        index,
        position: Float32Array.from(
          position,
          (_, i) => by([...position.subarray(i - (i % 3), i - (i % 3) + 3)] as unknown as Place)[i % 3],
        ),
      });
      return guided(
        { evenness: 0, count: 60 },
        Object.fromEntries(bent.map((line, g) => [`g${g}`, line.map(by)])),
        skin,
      );
    };
    const [one, other] = [strands((place) => place), strands(turned)];
    for (let i = 0; i < one.position.length; i += 3)
      turned(one.position.subarray(i, i + 3)).forEach((value, n) => {
        expect(other.position[i + n]).toBeCloseTo(value, 4);
      });
  });

  it('are not mixed across a parting, nor through the air between two sides of one skin', () => {
    const parting: Place[] = [
      [0.5, 0, -0.1],
      [0.48, 0, 0.5],
      [0.5, 0, 1.1],
    ];
    const parted = guided({ partings: ['parting'] }, { left, right, parting });
    const own = { left: guided({}, { left }), right: guided({}, { right }) };
    for (let c = 0; c < 200; c++) {
      const side = rootOf(parted, c)[0] < 0.48 ? 'left' : rootOf(parted, c)[0] > 0.5 ? 'right' : undefined;
      if (side)
        shapeOf(parted, c).forEach((value, i) => {
          expect(value).toBeCloseTo(shapeOf(own[side], 0)[i], 9);
        });
    }
    // a sheet folded over itself: the two halves are 2 cm apart, and a metre from each other over the fold
    const fold = sheet(60, 12, (s, t) =>
      s < 0.49 ? [1 - 2 * s, 0.02, t] : s > 0.51 ? [2 * s - 1, 0, t] : [0.02, 0.02 - (s - 0.49), t],
    );
    const upper: Place[] = [
      [0.9, 0.02, 0.5],
      [0.9, 0.3, 0.5],
    ];
    const under: Place[] = [
      [0.88, 0, 0.45],
      [1.2, -0.1, 0.45],
    ];
    const both = guided({ count: 400 }, { upper, under }, fold);
    for (let c = 0; c < 400; c++) {
      const [x, y] = rootOf(both, c);
      if (x < 0.6) continue;
      expect(shapeOf(both, c).at(-2)! > 0.2).toBe(y > 0.01);
    }
  });

  it('have no say beyond their reach: strands there stand alone, or are left out', () => {
    const alone = guided({ reach: 0.3, length: 0.07 }, { left });
    const kept = guided({ reach: 0.3, beyond: 'none' }, { left });
    expect(alone.id.length).toBe(200);
    const led = Array.from({ length: 200 }, (_, c) => c).filter(
      (c) => Math.hypot(rootOf(alone, c)[0] - 0.1, rootOf(alone, c)[2] - 0.5) < 0.299,
    );
    expect([...kept.id]).toEqual(led.map((c) => alone.id[c]));
    for (let c = 0; c < 200; c++) if (!led.includes(c)) expect(alone.curveData['length'][c]).toBeCloseTo(0.07, 6);
  });
});

it('reports what it cannot do, and does what it can', () => {
  const said = (set: Record<string, unknown>, more: Parameters<typeof build>[3] = {}, skin = field(4)) => {
    const reported: string[] = [];
    const out = grow(skin, set, { reported, ...more });
    return [reported, out.id.length] as const;
  };
  const none = Surface.of({ position: new Float32Array(0), index: new Uint32Array(0) });
  const flat = Surface.of({ position: Float32Array.of(0, 0, 0, 1, 0, 0, 2, 0, 0), index: Uint32Array.of(0, 1, 2) });
  for (const skin of [none, flat]) expect(said({}, {}, skin)).toEqual([['no-area'], 0]);
  expect(said({ prop: 'gone' })).toEqual([['prop-missing'], 0]);
  expect(
    said(
      { count: 50, guides: ['g'] },
      {
        curves: lines({
          g: [
            [0.5, 3, 0.5],
            [0.5, 3.1, 0.5],
          ],
        }),
      },
    ),
  ).toEqual([['guide-off'], 50]);
  expect(
    said(
      { count: 50, guides: ['g'] },
      {
        curves: lines({
          g: [
            [0.5, 0, 0.5],
            [0.5, 0.1, 0.5],
          ],
        }),
      },
    ),
  ).toEqual([[], 50]);
  expect(
    said(
      { count: 50, guides: ['g'], reach: 1e-5, beyond: 'none' },
      {
        curves: lines({
          g: [
            [0.5, 0, 0.5],
            [0.5, 0.1, 0.5],
          ],
        }),
      },
    ),
  ).toEqual([['guides-reach-none'], 0]);
  const ring = new Map([
    [
      'g',
      {
        ...controls([
          [0.5, 0, 0.5],
          [0.6, 0.2, 0.5],
          [0.4, 0.2, 0.6],
        ]),
        closed: true,
      },
    ],
  ]);
  expect(said({ count: 50, guides: ['g'], withGuides: true }, { curves: ring })).toEqual([[], 51]);
  expect(grow(field(4), { count: 50, guides: ['g'] }, { curves: ring }).position.every(Number.isFinite)).toBe(true);
  expect(said({ count: 50, guidePiece: 'nobody' })).toEqual([['piece-missing'], 50]);
  expect(
    said(
      { count: 40, region: 'r' },
      {
        region: () =>
          ({
            id: 'r',
            name: 'R',
            form: 'ball',
            position: [9, 9, 9],
            size: [1, 1, 1],
            rotation: [0, 0, 0, 1],
            edge: 0.1,
          }) as never,
      },
    ),
  ).toEqual([['no-area'], 0]);
  // the figure is said before anything is made
  const messages: string[] = [];
  const heavy = { by: 'density', density: 1e6, points: 200, shown: 0.0001 };
  const out = grow(field(4), heavy, { forView: true, report: ({ message }) => messages.push(message) });
  expect(messages.join()).toMatch(
    /10,000,000,000 strands with 2,000,000,000,000 points \(53,405,762 MB\): 80,000 are made/,
  );
  expect(out.id.length).toBe(8);
});

it('has room for a scalp: 124 to 200 hairs a cm², 0.05 to 0.1 mm thick (Robbins: Chemical and Physical Behavior of Human Hair; from memory)', () => {
  const { density } = unitOf('path', 'grown').parameters as unknown as { density: { comfortable: [number, number] } };
  expect(density.comfortable[1]).toBeGreaterThanOrEqual(200);
  const width = 2000 * (newUse('make', 'strands', 'hair').parameters['radius'] as number);
  expect(width).toBeGreaterThanOrEqual(0.05);
  expect(width).toBeLessThanOrEqual(0.1);
});

it('shows no more than the view can turn, and says so; a bake makes all', () => {
  const reported: string[] = [];
  const set = { count: 40_000, points: 100 };
  expect(grow(field(4), set, { forView: true, reported }).id.length).toBe(30_000);
  expect(reported).toEqual(['shown-in-part']);
  expect(grow(field(4), set).id.length).toBe(40_000);
});
