import fc from 'fast-check';
import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { allocateCurves, CURVE, POINT } from '../src/curve/curve-set.js';
import { LAYERS, STRAND } from '../src/curve/strand-data.js';
import { type CurveSet, createHit, polygonSection, Surface, Surroundings, singleCurve, sweep } from '../src/index.js';
import { pairAt } from '../src/numeric/pair.js';
import { controls } from './helpers.js';
import { build } from './units.js';

type Lane = { ease: 'straight'; knots: { at: number; value: number }[] };
const lane = (from: number, to: number): Lane => ({
  ease: 'straight',
  knots: [
    { at: 0, value: from },
    { at: 1, value: to },
  ],
});

/** This many strands of a length on a square metre of ground, one after the other at random; they are up, a little bent. */
function coat(count: number, points = 10, length = 0.2, lean = 0.3): CurveSet {
  const out = allocateCurves(count, count * points, [POINT.radius]);
  out.pointData[POINT.radius].fill(1);
  out.curveData[STRAND.rootNormal] = Float32Array.from({ length: 3 * count }, (_, i) => (i % 3 === 1 ? 1 : 0));
  for (let c = 0; c < count; c++) {
    const [x, z] = [(c * 0.754877666) % 1, (c * 0.569840291) % 1];
    for (let k = 0; k < points; k++) {
      const t = k / (points - 1);
      out.position.set([x + lean * length * t * t, length * t, z], 3 * (c * points + k));
    }
    out.id[c] = 1000 + c;
    out.start[c + 1] = (c + 1) * points;
  }
  return out;
}
const shape = (id: string, set: Record<string, unknown>, input: CurveSet, more: Parameters<typeof build>[3] = {}) =>
  build('shape', id, set, { input, ...more });
const at = ({ position, start }: CurveSet, c: number, k: number) => {
  const p = k < 0 ? start[c + 1] + k : start[c] + k;
  return new Vector3(position[3 * p], position[3 * p + 1], position[3 * p + 2]);
};
const steps = (curves: CurveSet, c: number) =>
  Array.from({ length: curves.start[c + 1] - curves.start[c] - 1 }, (_, k) =>
    at(curves, c, k + 1).sub(at(curves, c, k)),
  );
const lengthOf = (curves: CurveSet, c: number) => steps(curves, c).reduce((sum, step) => sum + step.length(), 0);
const all = ({ closed }: CurveSet) => Array.from(closed.keys());
const strokes = {
  stroke: controls([
    [-1, 0, 0.5],
    [2, 0, 0.5],
  ]),
};
const curves = new Map(Object.entries(strokes));

describe('every one of them', () => {
  const units: [string, Record<string, unknown>][] = [
    ['layers', {}],
    ['clump', { share: 0.5, twist: 0.5 }],
    ['frizz', { amount: 0.1 }],
    ['curl', {}],
    ['cut', {}],
    ['comb', { strokes: ['stroke'], reach: 1 }],
    ['part', { lines: ['stroke'], reach: 1 }],
    ['droop', {}],
    ['clear', {}],
    ['gather', { strands: 5 }],
  ];

  it.each(units)(
    '%s keeps roots, ids and what strands carry, writes true lengths, and treats each as if it were alone',
    (id, set) => {
      const input = coat(120);
      const block = sweep(singleCurve([0.2, 0.05, 0, 0.2, 0.05, 1]), polygonSection(4), { radius: 0.04 });
      const context = {
        curves,
        surroundings: new Surroundings(new Map([['block', Surface.of(block)]])),
        thickness: 0.001,
      };
      const out = shape(id, set, input, context);
      const first = [...out.id].map((one) => input.id.indexOf(one));
      expect(first.every((c) => c >= 0)).toBe(true);
      for (const c of all(out)) {
        if (id !== 'gather') expect(at(out, c, 0).distanceTo(at(input, first[c], 0))).toBeLessThan(1e-12);
        expect(out.curveData[CURVE.length][c]).toBeCloseTo(lengthOf(out, c), 5);
        expect(out.pointData[POINT.along][out.start[c + 1] - 1]).toBeCloseTo(lengthOf(out, c), 5);
      }
      expect(out.pointData[POINT.radius].length).toBe(out.position.length / 3);
      expect(out.curveData[STRAND.rootNormal].length).toBe(3 * out.closed.length);
      expect(out.position.every(Number.isFinite)).toBe(true);
      // the input is as it was
      expect([...input.position]).toEqual([...coat(120).position]);
      if (id === 'gather') return;
      // with three times as many strands the first are where they were
      const more = shape(id, set, coat(360), context);
      expect([...more.position.subarray(0, out.position.length)]).toEqual(
        [...out.position].map((value) => expect.closeTo(value, 9)),
      );
    },
  );

  it.each([
    ['comb', { strokes: ['stroke'], reach: 1 }],
    ['part', { lines: ['stroke'], reach: 1 }],
    ['droop', { amount: lane(0, 1) }],
  ] as const)('%s leaves every step as long as it was', (id, set) => {
    const input = coat(60);
    const out = shape(id, set, input, { curves });
    for (const c of all(out))
      steps(out, c).forEach((step, k) => {
        expect(step.length()).toBeCloseTo(steps(input, c)[k].length(), 9);
      });
  });

  it.each(units)('%s does nothing to strands of another layer, nor where its picture is dark', (id, set) => {
    if (id === 'layers' || id === 'gather') return;
    const input = shape(
      'layers',
      { others: [{ layer: 'guard', share: 0.4, width: 1, length: 1, frizz: 0, colour: '#ffffff' }] },
      coat(200),
    );
    const context = {
      curves,
      thickness: 0.001,
      surroundings: new Surroundings(
        new Map([
          ['b', Surface.of(sweep(singleCurve([0.5, 0.1, -1, 0.5, 0.1, 2]), polygonSection(4), { radius: 0.5 }))],
        ]),
      ),
    };
    const sameSteps = id === 'curl' ? { pointsATurn: 4, turns: 1 } : {};
    const out = shape(id, { ...set, ...sameSteps, layers: 'guard' }, input, context);
    let changed = 0;
    for (const c of all(out)) {
      const moved = steps(out, c).some((step, k) => step.distanceTo(steps(input, c)[k]) > 1e-9);
      if (input.curveData[STRAND.layer][c] !== LAYERS.indexOf('guard')) expect(moved).toBe(false);
      else if (moved) changed++;
    }
    expect(changed).toBeGreaterThan(30);
    const sheet = { position: [0.25, 0, 0.5], plane: 'top', width: 0.5, aspect: 2 } as never;
    const picture = () => ({
      picture: sheet,
      shades: { width: 1, height: 1, light: Uint8Array.of(255), colour: new Uint8Array(4) },
    });
    const half = shape(id, { ...set, ...sameSteps, mask: 'p' }, coat(200), { ...context, picture });
    for (const c of all(half))
      if (at(half, c, 0).x > 0.501) expect(at(half, c, -1).distanceTo(at(coat(200), c, -1))).toBeLessThan(1e-9);
  });
});

describe('layers', () => {
  it('take their shares, within the bounds of the binomial; a strand stays where it is when there are more', () => {
    const [few, many] = [4000, 8000].map((count) =>
      shape(
        'layers',
        {
          others: [
            { layer: 'white', share: 0.05, width: 1, length: 1, frizz: 0, colour: '#ffffff' },
            { layer: 'guard', share: 0.3, width: 2, length: 1.5, frizz: 1, colour: '#ff0000' },
          ],
        },
        coat(count, 3),
      ),
    );
    const layer = many.curveData[STRAND.layer];
    for (const [name, share] of [
      ['white', 0.05],
      ['guard', 0.3],
      ['main', 0.65],
    ] as const) {
      const count = layer.filter((one) => one === LAYERS.indexOf(name)).length;
      expect(Math.abs(count - 8000 * share)).toBeLessThan(3.3 * Math.sqrt(8000 * share * (1 - share)));
    }
    expect([...layer.subarray(0, 4000)]).toEqual([...few.curveData[STRAND.layer]]);
    const guard = layer.indexOf(LAYERS.indexOf('guard'));
    expect(many.pointData[POINT.radius][3 * guard]).toBe(2);
    expect(lengthOf(many, guard)).toBeCloseTo(1.5 * lengthOf(coat(8000, 3), guard), 9);
    expect(many.curveData[STRAND.frizz][guard]).toBe(1);
    expect([...many.curveData[STRAND.tint].subarray(3 * guard, 3 * guard + 3)]).toEqual([1, 0, 0]);
    const reported: string[] = [];
    shape(
      'layers',
      {
        others: [0.7, 0.6].map((share) => ({ layer: 'own', share, width: 1, length: 1, frizz: 0, colour: '#ffffff' })),
      },
      coat(10),
      { reported },
    );
    expect(reported).toEqual(['shares-over-one']);
  });
});

describe('clumps', () => {
  it('gather every strand to the nearest middle, entirely where they are as tight as can be; middles stay where they are', () => {
    const input = coat(600);
    const out = shape('clump', { by: 'length', size: 0.15, tightness: lane(0, 1) }, input);
    const clump = out.curveData[STRAND.clump];
    const middles = [...new Set(clump)].map((id) => input.id.indexOf(id));
    for (const c of all(out)) {
      const own = input.id.indexOf(clump[c]);
      expect(at(out, c, -1).distanceTo(at(input, own, -1))).toBeLessThan(1e-9);
      const far = (m: number) => at(input, m, 0).distanceTo(at(input, c, 0));
      // of those that come before it
      for (const m of middles) if (m < c) expect(far(own)).toBeLessThan(far(m) + 1e-12);
      if (own === c)
        expect(steps(out, c).map((step) => step.length())).toEqual(steps(input, c).map((step) => step.length()));
    }
    for (const a of middles)
      for (const b of middles)
        if (a !== b) expect(at(input, a, 0).distanceTo(at(input, b, 0))).toBeGreaterThan(0.15 - 1e-12);
    // clumps in clumps, about drawn middles, and none too far off
    const inner = shape('clump', { by: 'length', size: 0.05, tightness: 0.5 }, out);
    expect(new Set(inner.curveData[STRAND.clump]).size).toBeGreaterThan(2 * middles.length);
    const reach = shape('clump', { by: 'length', size: 0.15, reach: 0.5, alone: 'out' }, input);
    expect(reach.id.length).toBeLessThan(450);
    const drawn = shape('clump', { by: 'length', size: 9, centres: ['stroke'], tightness: 1 }, input, {
      curves: new Map([
        [
          'stroke',
          controls([
            [0.5, 0, 0.5],
            [0.5, 0.2, 0.5],
          ]),
        ],
      ]),
    });
    for (const c of all(drawn)) expect(at(drawn, c, -1).distanceTo(new Vector3(0.5, 0.2, 0.5))).toBeLessThan(1e-6);
    const reported: string[] = [];
    shape('clump', { by: 'length', size: 1e-4, centres: ['stroke'], alone: 'out' }, input, { reported, curves });
    expect(reported).toEqual(['no-clumps']);
  });

  it('turn about their middle by what is asked, at the tip', () => {
    const input = coat(50, 10, 0.2, 0);
    const out = shape('clump', { by: 'length', size: 3, tightness: 0, twist: 0.25 }, input);
    for (const c of all(out)) {
      const [before, after] = [input, out].map((set) => at(set, c, -1).sub(at(input, 0, -1)));
      if (c > 0) expect(before.angleTo(after)).toBeCloseTo(Math.PI / 2, 9);
      expect(after.length()).toBeCloseTo(before.length(), 9);
    }
  });
});

it('frizz strays by its share of the length at most, not at the root, and together in clumps where it is asked to', () => {
  const input = coat(300, 20);
  const clumped = shape('clump', { by: 'length', size: 0.2, tightness: 0 }, input);
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 30 }),
      fc.integer({ min: 1, max: 60 }),
      fc.nat(1000),
      (amount, waves, seed) => {
        const out = shape('frizz', { amount: amount / 100, waves: waves / 10, seed }, input);
        for (const c of [0, 7, 299])
          for (let k = 0; k < 20; k++)
            expect(at(out, c, k).distanceTo(at(input, c, k))).toBeLessThanOrEqual(
              (amount / 100) * lengthOf(input, c) * Math.sqrt(3) + 1e-12,
            );
      },
    ),
    { numRuns: 20 },
  );
  const alike = shape('frizz', { amount: 0.2, alike: 1 }, clumped);
  const first = new Map<number, Vector3>();
  for (const c of all(alike)) {
    const by = at(alike, c, -1).sub(at(clumped, c, -1));
    const own = clumped.curveData[STRAND.clump][c];
    if (first.has(own)) expect(by.distanceTo(first.get(own)!)).toBeLessThan(1e-9);
    first.set(own, by);
  }
  // stray layers have more of it
  const far = (set: CurveSet) => all(set).reduce((sum, c) => sum + at(set, c, -1).distanceTo(at(input, c, -1)), 0);
  const more = { ...input, curveData: { ...input.curveData, [STRAND.frizz]: new Float32Array(300).fill(2) } };
  expect(far(shape('frizz', { amount: 0.05 }, more)) / far(shape('frizz', { amount: 0.05 }, input))).toBeCloseTo(3, 6);
});

describe('curl', () => {
  const straight = coat(20, 12, 0.3, 0);
  it('is a helix: as far off its line as asked, as often round, as long as √(length² + (2πrn)²) (any text on curves)', () => {
    const set = { radius: 0.1, turns: 3, begins: 0, weight: 0, drawIn: 0, pointsATurn: 48 };
    const out = shape('curl', set, straight);
    for (const c of all(out)) {
      const count = out.start[c + 1] - out.start[c];
      expect(count).toBe(145);
      // past where it opens
      for (let k = Math.ceil(count / 3); k < count; k++) {
        const off = at(out, c, k)
          .sub(at(straight, c, 0))
          .setY(0);
        expect(off.length()).toBeCloseTo(0.1 * 0.3, 4);
      }
      const [from, to] = [Math.ceil(count / 3), count - 1];
      const part = steps(out, c)
        .slice(from, to)
        .reduce((sum, step) => sum + step.length(), 0);
      const share = (to - from) / (count - 1);
      expect(part).toBeCloseTo(share * Math.hypot(0.3, 2 * Math.PI * 0.03 * 3), 3);
    }
    const [right, left] = ['right', 'left'].map((hand) => shape('curl', { ...set, hand }, straight));
    const turns = (set_: CurveSet) =>
      Math.sign(
        at(set_, 0, 100)
          .sub(at(straight, 0, 0))
          .setY(0)
          .cross(
            at(set_, 0, 102)
              .sub(at(straight, 0, 0))
              .setY(0),
          ).y,
      );
    // seen from the root, up its way, to the right is clockwise
    expect([turns(right), turns(left)]).toEqual([1, -1]);
  });

  it('keeps its true length where it gets shorter, is straight before it begins and near the root where it is heavy', () => {
    const short = shape('curl', { radius: 0.08, turns: 4, begins: 0, weight: 0, drawIn: 1, pointsATurn: 32 }, straight);
    // but for what it takes to open
    for (const c of all(short)) expect(Math.abs(lengthOf(short, c) / lengthOf(straight, c) - 0.96)).toBeLessThan(0.04);
    const late = shape('curl', { begins: 0.5, drawIn: 0 }, straight);
    for (let k = 0; at(late, 0, k).y <= 0.15; k++)
      expect(
        at(late, 0, k)
          .sub(at(straight, 0, 0))
          .setY(0)
          .length(),
      ).toBeLessThan(1e-9);
    const heavy = shape('curl', { weight: 1, begins: 0, drawIn: 0, turns: 8 }, straight);
    const light = shape('curl', { weight: 0, begins: 0, drawIn: 0, turns: 8 }, straight);
    const off = (set: CurveSet) =>
      at(set, 0, 12)
        .sub(at(straight, 0, 0))
        .setY(0)
        .length();
    expect(off(heavy)).toBeLessThan(0.25 * off(light));
    const reported: string[] = [];
    shape('curl', { turns: 1000, pointsATurn: 64 }, coat(3000, 2), { reported });
    expect(reported).toEqual(['too-many-points']);
  });
});

it('cut leaves each its own share, of the same line; ahead are as many as asked; nothing is longer than allowed', () => {
  const input = coat(2000, 12);
  const out = shape('cut', { share: { least: 0.4, most: 0.9 }, seed: 3 }, input);
  for (const c of all(out).slice(0, 50)) {
    const share = pairAt({ least: 0.4, most: 0.9 }, 3, out.id[c], 'length');
    expect(lengthOf(out, c) / lengthOf(input, c)).toBeCloseTo(share, 2);
    // still on the line that it was
    const tip = at(out, c, -1);
    const t = (tip.y - at(input, c, 0).y) / 0.2;
    expect(tip.x - at(input, c, 0).x).toBeCloseTo(0.3 * 0.2 * t * t, 3);
  }
  const ahead = shape('cut', { share: { least: 1, most: 1 }, ahead: 0.2, aheadBy: 1 }, input);
  const longer = all(ahead).filter((c) => lengthOf(ahead, c) > 1.9 * lengthOf(input, c)).length;
  expect(Math.abs(longer - 400)).toBeLessThan(3.3 * Math.sqrt(2000 * 0.2 * 0.8));
  const shorn = shape('cut', { share: { least: 0.8, most: 3 }, way: 'size', longest: 0.12 }, input);
  for (const c of all(shorn).slice(0, 100)) expect(lengthOf(shorn, c)).toBeLessThan(0.1201);
});

it('combed strands run the way of the stroke, parted ones away from their line on both sides, hanging ones down', () => {
  const input = coat(200, 10);
  const combed = shape('comb', { strokes: ['stroke'], reach: 5, lift: 0, amount: 1 }, input, { curves });
  for (const c of all(combed))
    if (Math.abs(at(input, c, 0).z - 0.5) < 0.05) expect(steps(combed, c).at(-1)!.normalize().x).toBeGreaterThan(0.98);
  const parted = shape('part', { lines: ['stroke'], reach: 0.5, amount: 1, lift: 0 }, input, { curves });
  for (const c of all(parted)) {
    const aside = at(input, c, 0).z - 0.5;
    if (Math.abs(aside) > 0.01 && Math.abs(aside) < 0.2)
      expect(Math.sign(at(parted, c, -1).z - at(input, c, 0).z)).toBe(Math.sign(aside));
    if (Math.abs(aside) > 0.4999) expect(at(parted, c, -1).distanceTo(at(input, c, -1))).toBeLessThan(1e-3);
  }
  const hung = shape('droop', { amount: 1 }, input);
  for (const c of all(hung)) for (const step of steps(hung, c)) expect(step.normalize().y).toBeCloseTo(-1, 9);
  for (const [id, code] of [
    ['comb', 'comb-without-lines'],
    ['part', 'part-without-lines'],
  ] as const) {
    const reported: string[] = [];
    expect(shape(id, {}, input, { reported })).toBe(input);
    expect(reported).toEqual([code]);
  }
});

it('kept out of a block and of the ground they are on, strands lie on both, as long as they were', () => {
  const block = sweep(singleCurve([0.3, 0.12, -0.2, 0.3, 0.12, 1.2]), polygonSection(4), { radius: 0.09 });
  const ground = sweep(singleCurve([-0.5, -0.05, 0.5, 1.5, -0.05, 0.5]), polygonSection(4), {
    radius: 0.05 * Math.SQRT2,
  });
  const surroundings = new Surroundings(
    new Map([
      ['block', Surface.of(block)],
      ['ground', Surface.of(ground)],
    ]),
  );
  const inside = (v: Vector3) => [...(surroundings.enclosing(v.x, v.y, v.z) ?? '')].length > 0;
  const input = shape('droop', { amount: lane(0, 1) }, coat(300, 16, 0.4));
  const bad = (set: CurveSet) =>
    all(set).reduce((sum, c) => sum + steps(set, c).filter((_, k) => inside(at(set, c, k + 1))).length, 0);
  expect(bad(input)).toBeGreaterThan(100);
  const out = shape('clear', { lift: 1 }, input, { surroundings, thickness: 0.002 });
  expect(bad(out)).toBe(0);
  for (const c of all(out)) expect(Math.abs(lengthOf(out, c) / lengthOf(input, c) - 1)).toBeLessThan(0.08);
  expect(shape('clear', {}, input)).toBe(input);
  // what knows its own place on a skin asks less, and comes to lie in the same places
  const hit = createHit();
  const faces = Float32Array.from(all(input), (c) => {
    const { x, z } = at(input, c, 0);
    surroundings.closest(x, 1e-4, z, hit, 1, 'ground');
    return hit.triangle;
  });
  const rooted = { ...input, curveData: { ...input.curveData, [STRAND.rootFace]: faces } };
  expect([...shape('clear', { lift: 1 }, rooted, { surroundings, thickness: 0.002 }).position]).toEqual([
    ...out.position,
  ]);
});

it('gathered, one line represents about this many strands, in their middle', () => {
  const input = coat(1000, 10, 0.2, 0);
  const out = shape('gather', { strands: 25, mean: 1 }, input);
  expect(out.id.length).toBe(40);
  const sum = new Vector3();
  const whole = new Vector3();
  for (const c of all(out)) sum.add(at(out, c, 0));
  for (const c of all(input)) whole.add(at(input, c, 0));
  expect(sum.divideScalar(40).distanceTo(whole.divideScalar(1000))).toBeLessThan(0.03);
  expect(shape('gather', { strands: 1 }, input)).toBe(input);
});

describe('a region', () => {
  const region = () =>
    ({
      id: 'r',
      name: 'R',
      form: 'box',
      position: [0, 0, 0.5],
      size: [0.5, 9, 9],
      rotation: [0, 0, 0, 1],
      edge: 0.2,
    }) as never;
  const context = { region, curves, surroundings: new Surroundings(new Map()) };
  const driven = (outside: number, inside: number) => ({
    ease: 'straight',
    region: 'r',
    knots: [
      { at: 0, value: outside },
      { at: 1, value: inside },
    ],
  });

  it.each([
    ['clump', 'tightness', { by: 'length', size: 0.2 }],
    ['frizz', 'amount', {}],
    ['curl', 'radius', { turns: 1, pointsATurn: 9, drawIn: 0 }],
    ['droop', 'amount', {}],
    ['comb', 'amount', { strokes: ['stroke'], reach: 9 }],
    ['part', 'amount', { lines: ['stroke'], reach: 9 }],
  ] as const)(
    'drives what %s does by where each root is, all strands at once; or says which it is for',
    (id, name, set) => {
      const input = coat(400);
      const one = (more: Record<string, unknown>, within: Parameters<typeof build>[3] = context) => {
        const document = { input, ...within };
        return shape(id, { ...set, ...more }, input, document);
      };
      const [inside, outside, mixed, only] = [
        one({ [name]: 0.3 }),
        one({ [name]: 0 }),
        one({ [name]: driven(0, 0.3) }),
        one({ [name]: 0.3, within: 'r' }),
      ];
      for (const c of all(mixed)) {
        const x = at(input, c, 0).x;
        const like = x < 0.499 ? inside : x > 0.701 ? outside : undefined;
        if (!like) continue;
        expect(at(mixed, c, -1).distanceTo(at(like, c, -1))).toBeLessThan(1e-9);
        expect(at(only, c, -1).distanceTo(at(x < 0.5 ? inside : input, c, -1))).toBeLessThan(1e-9);
      }
      // and where it is not there, nothing is inside
      const gone = one({ [name]: driven(0, 0.3) }, { ...context, region: () => undefined });
      for (const c of all(gone).slice(0, 50)) expect(at(gone, c, -1).distanceTo(at(outside, c, -1))).toBeLessThan(1e-9);
    },
  );
});
