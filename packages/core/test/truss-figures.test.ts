import fc from 'fast-check';
import { Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { joinCurves } from '../src/curve/carry.js';
import { nearestOnSegments } from '../src/curve/segment-grid.js';
import {
  type CurveSet,
  newUse,
  type Profile,
  resample,
  Surroundings,
  signedVolume,
  singleCurve,
} from '../src/index.js';
import { neighbours } from '../src/make/truss/between.js';
import { meetingBoxes } from '../src/make/truss/boxes.js';
import { clashes } from '../src/make/truss/clashes.js';
import { layoutOf } from '../src/make/truss/layout.js';
import { ownProfile } from '../src/make/truss/profiles.js';
import { topologyOf } from '../src/mesh/weld.js';
import { realMesh } from '../src/part/part.js';
import type { Made, PlacedPart, StrandsPart } from '../src/unit/carriers.js';
import type { Finding } from '../src/unit/finding.js';
import { evenly } from './helpers.js';
import { arc, figure, many, members, part, ring, straight, truss } from './trusses.js';
import { made } from './units.js';

describe('figures', () => {
  it('the cut list sums to the measures; a metre of round tube weighs what EN 10220 says', () => {
    const made = truss({ form: 'square', webs: 'crossed', bays: 9 }, arc(8, 0.7));
    const [{ rows }] = made.tables;
    const sum = (column: number) => rows.reduce((all, row) => all + Number(row[column]), 0);
    expect(sum(3)).toBe(figure(made, 'members'));
    expect(sum(5)).toBeCloseTo(figure(made, 'mass'), 0);
    for (const [label, id] of [
      ['Chords', 'chord'],
      ['Diagonals', 'web'],
      ['Frames', 'frame'],
    ]) {
      const own = rows.filter(([kind]) => kind === label);
      expect(own.reduce((all, row) => all + Number(row[3]), 0)).toBe(figure(made, `${id}-count`));
      // each length is rounded to a millimetre
      expect(Math.abs(own.reduce((all, row) => all + Number(row[4]), 0) - figure(made, `${id}-length`))).toBeLessThan(
        0.0005 * figure(made, `${id}-count`),
      );
    }
    const skin = [
      ['chord', 0.16],
      ['web', 0.07],
      ['frame', 0.08],
    ] as const;
    expect(figure(made, 'paint')).toBeCloseTo(
      skin.reduce((all, [id, thick]) => all + Math.PI * thick * 0.5 * figure(made, `${id}-length`), 0),
      6,
    );
    // EN 10220, 48.3 × 3.2: 3.56 kg/m; 60.3 × 4: 5.55 kg/m; 114.3 × 5: 13.5 kg/m (from memory)
    for (const [outside, wall, mass] of [
      [0.0483, 0.0032, 3.56],
      [0.0603, 0.004, 5.55],
      [0.1143, 0.005, 13.5],
    ]) {
      const one = truss(
        {
          form: 'flat',
          webs: 'none',
          ends: 'open',
          every: 0,
          bays: 1,
          depth: 1,
          chord: outside,
          wall: (2 * wall) / outside,
        },
        straight(10),
      );
      expect(figure(one, 'mass') / 20).toBeCloseTo(mass, 1);
    }
    // the same in aluminium, by the densities of EN 1993 and EN 1999
    const light = truss({ form: 'square', webs: 'crossed', bays: 9, stuff: 'aluminium' }, arc(8, 0.7));
    expect(figure(light, 'mass') / figure(made, 'mass')).toBeCloseTo(2700 / 7850, 6);
  });

  it('members of a profile of the project: areas, outlines and radii of gyration in closed form, each in its box; round where there is none', () => {
    const box = (width: number, height: number) => ({
      closed: true,
      points: [
        [0, 0],
        [width, 0],
        [width, height],
        [0, height],
      ].map(([x, y]) => ({ x, y, corner: true })),
    });
    const own = (...paths: object[]): Profile => ({ id: 'own', name: 'Own', paths }) as unknown as Profile;
    const bar = ownProfile(own(box(0.06, 0.03)))!;
    expect(bar.area(0)).toBeCloseTo(2, 6);
    expect(bar.outline).toBeCloseTo(6, 6);
    // half of h / √12 at a breadth of 2
    expect(bar.gyration(0)).toBeCloseTo(1 / Math.sqrt(12), 6);
    const hollow = ownProfile(
      own(box(0.04, 0.04), {
        ...box(0.02, 0.02),
        points: box(0.02, 0.02).points.map(({ x, y, corner }) => ({ x: x + 0.01, y: y + 0.01, corner })),
      }),
    )!;
    expect(hollow.area(0)).toBeCloseTo(3, 6);
    expect(hollow.outline).toBeCloseTo(8, 6);
    expect(hollow.gyration(0)).toBeCloseTo(Math.sqrt((2 ** 4 - 1) / 12 / 3), 6);
    // a drawn angle has its least radius askew: leg / √24 of thin ones (the same as the ready-made one)
    const leg = own({
      closed: true,
      points: [
        [0, 0],
        [1, 0],
        [1, 0.01],
        [0.01, 0.01],
        [0.01, 1],
        [0, 1],
      ].map(([x, y]) => ({ x, y, corner: true })),
    });
    expect(ownProfile(leg)!.gyration(0)).toBeCloseTo(2 / Math.sqrt(24), 2);
    const profile = () => own(box(0.06, 0.03));
    const set = {
      form: 'square',
      chordProfile: 'own',
      chordOwn: 'own',
      webProfile: 'own',
      webOwn: 'own',
      chord: 0.2,
      web: 0.14,
    };
    const reported: string[] = [];
    const made_ = made(
      'truss',
      { by: 'count', bays: 4, depth: 0.5, ...set },
      { input: straight(4), profile, reported },
    );
    expect(reported).toEqual([]);
    expect(made_.tables[0].rows.find(([kind]) => kind === 'Chords')![1]).toBe('Own 100');
    for (const { x, y } of members(part(made_, 'webs')))
      expect([x.length(), y.length()]).toEqual([expect.closeTo(0.035, 6), expect.closeTo(0.035, 6)]);
    expect(topologyOf(realMesh(part(made_, 'webs')))).toMatchObject({ openEdges: 0 });
    expect(signedVolume(part(made_, 'webs').mesh)).toBeCloseTo(2, 6);
    // 100 × 200 mm of steel
    const chords = made(
      'truss',
      {
        by: 'count',
        bays: 1,
        depth: 0.5,
        form: 'flat',
        webs: 'none',
        ends: 'open',
        every: 0,
        chordProfile: 'own',
        chordOwn: 'own',
        chord: 0.4,
      },
      { input: straight(1), profile },
    );
    expect(figure(chords, 'mass')).toBeCloseTo(2 * 7850 * 0.1 * 0.2, 6);
    for (const [paths, code] of [
      [undefined, 'profile-missing'],
      [[], 'profile-empty'],
      [[{ ...box(1, 1), closed: false }], 'profile-line'],
    ] as const) {
      const codes: string[] = [];
      const other = made(
        'truss',
        { by: 'count', bays: 4, depth: 0.5, webProfile: 'own', webOwn: 'own' },
        { input: straight(4), reported: codes, profile: () => paths && own(...paths) },
      );
      expect(codes).toEqual([code]);
      expect(part(other, 'webs').mesh.position.length).toBe(part(truss({ bays: 4 }), 'webs').mesh.position.length);
    }
  });

  it('as centre lines each kind runs from joint to joint, named by what it is cut from, as long as the measures say', () => {
    const lines = truss({ form: 'square', webs: 'crossed', bakedAs: 'lines', joint: 'ball' }, arc(8, 0.7));
    expect(lines.parts.map(({ name }) => name)).toEqual([
      'Chords, ⌀ 80 × 4.8',
      'Diagonals, ⌀ 35 × 2.1',
      'Frames, ⌀ 40 × 2.4',
    ]);
    const whole = truss({ form: 'square', webs: 'crossed', joint: 'ball' }, arc(8, 0.7));
    for (const part of lines.parts as StrandsPart[]) {
      expect(part.shape).toBe('lines');
      expect(part.curves.id.length).toBe(figure(lines, `${part.id}-count`));
      // the ends of each are places where members of the other one meet
      const placed = members(
        whole.parts.find(({ id }) => id === { chord: 'chords', web: 'webs', frame: 'frames' }[part.id]) as PlacedPart,
      );
      placed.forEach(({ from, to }, n) => {
        const [a, b] = [0, 3].map((k) => new Vector3().fromArray(part.curves.position, 6 * n + k));
        // less what the balls take
        expect(a.distanceTo(from)).toBeCloseTo(b.distanceTo(to), 5);
        expect(from.clone().sub(a).normalize().dot(b.clone().sub(a).normalize())).toBeCloseTo(1, 5);
      });
    }
    expect(lines.measures).toEqual(whole.measures);
  });

  it('more bays move no id of what was there; none is reported twice', () => {
    const ids = (made: Made) => made.parts.flatMap((one) => (one.kind === 'placed' ? [...one.places.id] : []));
    const few = ids(truss({ form: 'square', webs: 'crossed', joint: 'plate', bays: 5 }));
    const many = new Set(ids(truss({ form: 'square', webs: 'crossed', joint: 'plate', bays: 9 })));
    expect(new Set(few).size).toBe(few.length);
    expect(few.every((id) => many.has(id))).toBe(true);
  });
});

describe('what is asked in vain is reported, and made as well as can be', () => {
  const reported = (set: Record<string, unknown>, input = straight(4)) => {
    const codes: string[] = [];
    const { parts } = truss(set, input, codes);
    for (const one of parts)
      for (const value of realMesh(one).position) if (!Number.isFinite(value)) throw new Error('not finite');
    return codes;
  };

  it('each says where and how much, and its fix mends it', () => {
    const found = (set: Record<string, unknown>, input: CurveSet) => {
      const out: Finding[] = [];
      made('truss', { by: 'count', bays: 8, depth: 0.5, ...set }, { input, report: (one: Finding) => out.push(one) });
      return out;
    };
    const cases: [string, Record<string, unknown>, CurveSet][] = [
      ['member-thick', { frame: 1, form: 'square', width: 0.5 }, straight(4)],
      ['member-slender', { web: 0.005 }, straight(4)],
      ['bays-loose', { form: 'square', joint: 'ball', webs: 'none' }, straight(4)],
      ['bays-loose', { form: 'square', joint: 'ball', webs: 'zigzag' }, straight(4)],
      ['bay-longer', { by: 'length', bay: 20 }, singleCurve([1, 2, 3, 5, 2, 3])],
      ['too-many-bays', { bays: 20_000, form: 'flat', webs: 'none' }, { ...straight(9), ...many(4) }],
      ['ends-uncut', { endCut: 'level' }, straight(4)],
    ];
    for (const [code, set, input] of cases) {
      const one = found(set, input).find((finding) => finding.code === code)!;
      const { lattice, lengths } = layoutOf(
        input,
        { ...newUse('make', 'truss').parameters, by: 'count', bays: 8, depth: 0.5, ...set } as never,
        { density: 1, surroundings: new Surroundings(new Map()) },
      );
      if (code.startsWith('member')) {
        // the shortest frame, the longest diagonal
        const kind = code === 'member-thick' ? 2 : 1;
        const own = [...lengths.subarray(0, lattice.members)].filter((_, m) => lattice.kind[m] === kind);
        const wanted = code === 'member-thick' ? Math.min(...own) : Math.max(...own);
        const ends = [...lengths.keys()]
          .filter((m) => m < lattice.members && lattice.kind[m] === kind && Math.abs(lengths[m] - wanted) < 1e-9)
          .map((m) => [...lattice.joint.subarray(3 * lattice.from[m], 3 * lattice.from[m] + 3)]);
        expect(ends).toContainEqual(one.place);
        if (code === 'member-thick') expect(one.size).toEqual({ value: 0.5, limit: wanted, kind: 'length' });
      }
      if (code === 'bay-longer') expect(one.place).toEqual([1, 2, 3]);
      if (code === 'ends-uncut') expect(one.size!.value).toBe(6);
      const fix = one.fix as { parameter: string; value: unknown };
      const left = found({ ...set, [fix.parameter]: fix.value }, input).filter((finding) => finding.code === code);
      // too few bars may take more than one step
      if (code !== 'bays-loose')
        expect(
          left.map((finding) => finding.message),
          code,
        ).toEqual([]);
      else expect(left.every(({ size }) => size!.value < one.size!.value)).toBe(true);
    }
  });
  it('nothing of a plain one', () => expect(reported({})).toEqual([]));
  it('bays longer than the line', () => {
    expect(reported({ by: 'length', bay: 20 })).toContain('bay-longer');
    expect(reported({ by: 'length', bay: 7 })).not.toContain('bay-longer');
  });
  it('members thicker than they are long', () =>
    expect(reported({ frame: 1, form: 'square', width: 0.5 })).toContain('member-thick'));
  it('slender ones', () => {
    expect(reported({ web: 0.005 })).toEqual(['member-slender']);
    expect(reported({ chord: 0.01, bays: 2 })).toContain('member-slender');
    // a solid round of radius r has r / 2 of gyration: 2 m of 20 mm is 200
    const bare = { form: 'flat', webs: 'none', every: 0, ends: 'open', bays: 2, chordProfile: 'rod' };
    expect([reported({ ...bare, chord: 0.082 }), reported({ ...bare, chord: 0.078 })]).toEqual([
      [],
      ['member-slender'],
    ]);
  });
  it('joints that turn with too few bars', () => {
    expect(reported({ form: 'square', joint: 'ball' })).toEqual(['bays-loose']);
    expect(reported({ form: 'square', joint: 'ball', ends: 'braced' })).toEqual([]);
    expect(reported({ form: 'square' })).toEqual([]);
  });
  it('members that run through each other: of a line that crosses itself, and of two lines; not of what runs beside or over', () => {
    const eight = (rise: number) =>
      singleCurve(
        Array.from({ length: 221 }, (_, k) => Math.PI / 2 + (Math.PI * (k + 10)) / 120).flatMap((a) => [
          4 * Math.sin(a),
          rise * (1 + Math.cos(a)),
          2 * Math.sin(2 * a),
        ]),
        { smooth: true },
      );
    const long = { bays: 30, depth: 0.5 };
    expect(reported(long, eight(0))).toContain('members-cut');
    expect(reported(long, eight(0.5))).not.toContain('members-cut');
    const pair = (at: readonly number[]): CurveSet => ({
      ...straight(4),
      start: Uint32Array.of(0, 2, 4),
      position: Float64Array.of(0, 0, 0, 4, 0, 0, ...at),
      closed: new Uint8Array(2),
      id: Uint32Array.of(1, 2),
      pointData: {},
      curveData: {},
    });
    expect(reported({}, pair([2, 0, -2, 2, 0, 2]))).toEqual(['members-cut']);
    expect(reported({}, pair([0, 0, 0.45, 4, 0, 0.45]))).toEqual(['members-cut']);
    for (const beside of [
      [0, 0, 0.7, 4, 0, 0.7],
      [2, 0.7, -2, 2, 0.7, 2],
    ])
      expect(reported({}, pair(beside))).toEqual([]);
    expect(reported({ ties: 'braced' }, pair([0, 0, 0.9, 4, 0, 0.9]))).toEqual([]);
    for (const bays of [3, 4, 5, 40]) expect(reported({ bays, depth: 0.2 }, ring(2))).not.toContain('members-cut');
  });
  it('very many', () =>
    expect(reported({ bays: 20_000, form: 'flat', webs: 'none' }, { ...straight(9), ...many(4) })).toContain(
      'too-many-bays',
    ));
  it('lines of one place', () => expect(reported({}, singleCurve([1, 1, 1, 1, 1, 1]))).toEqual([]));
});

it('of boxes those that touch another are found, as by looking at every pair; of very many in one place all', () => {
  const step = fc.integer({ min: 0, max: 12 });
  const one = fc.tuple(
    step,
    step,
    step,
    fc.tuple(step, step, step).map((size) => size.map((n) => n / 4)),
  );
  const flat = (all: [number, number, number, number[]][]) =>
    Float64Array.from(all.flatMap(([x, y, z, [u, v, w]]) => [x, y, z, x + u, y + v, z + w]));
  fc.assert(
    fc.property(fc.array(one, { maxLength: 20 }), fc.nat(2), (all, turned) => {
      // the way that is swept is any of the three
      const boxes = flat(
        all.map(
          ([x, y, z, size]) =>
            [...Array.from({ length: 3 }, (_, n) => [9 * x, y, z][(n + turned) % 3]), size] as [
              number,
              number,
              number,
              number[],
            ],
        ),
      );
      const touch = (a: number, b: number) =>
        [0, 1, 2].every((n) => boxes[6 * a + n] <= boxes[6 * b + 3 + n] && boxes[6 * b + n] <= boxes[6 * a + 3 + n]);
      const expected = all.map((_, a) => (all.some((_other, b) => b !== a && touch(a, b)) ? 1 : 0));
      expect([...meetingBoxes(boxes, all.length)]).toEqual(expected);
    }),
  );
  const row = Array.from({ length: 60 }, (_, k): [number, number, number, number[]] => [2 * k, 0, 0, [1, 1, 1]]);
  expect([...meetingBoxes(flat(row), 60)]).toEqual(new Array(60).fill(0));
  const heap = row.map((): [number, number, number, number[]] => [0, 0, 0, [1, 1, 1]]);
  expect([...meetingBoxes(flat([...heap, [0.5, 2, 2, [1, 1, 1]], [3, 0, 0, [1, 1, 1]]]), 62)]).toEqual([
    ...new Array(61).fill(1),
    0,
  ]);
});

it('stations are tied to those beside them, whichever way the next line runs and however many it has; a ring to none', () => {
  const count = fc.integer({ min: 2, max: 12 });
  fc.assert(
    fc.property(count, count, fc.boolean(), (few, many, back) => {
      const x = (k: number, of: number) => k / (of - 1);
      const one = Array.from({ length: few }, (_, k) => [x(k, few), 0, 0]);
      const two = Array.from({ length: many }, (_, k) => [back ? 1 - x(k, many) : x(k, many), 0, 0.3]);
      const at = [...one, ...two].flat();
      const run = (first: number, count: number, closed = false) => ({ first, count, closed, line: 0 });
      const [pairing, ...more] = neighbours([run(0, few), run(few, many), run(0, few, true)], at);
      expect([pairing.a, pairing.b, more.length, pairing.stations.length]).toEqual([0, 1, 0, few]);
      // no station of the other line is nearer than half a bay of it
      for (const [s, t] of pairing.stations)
        expect(Math.abs(at[3 * s] - at[3 * t])).toBeLessThanOrEqual(0.5 / (many - 1) + 1e-9);
    }),
  );
});

it('members that run through each other are found, as by looking at every pair of bays that are not beside each other', () => {
  const place = fc.tuple(evenly(-2, 2), evenly(-0.3, 0.3), evenly(-2, 2));
  const line = fc.record({ points: fc.array(place, { minLength: 2, maxLength: 5 }), closed: fc.boolean() });
  const sizes = [0.05, 0.02, 0.03, 0.02];
  const near = { s: 0, t: 0, distance: 0 };
  fc.assert(
    fc.property(fc.array(line, { minLength: 1, maxLength: 4 }), evenly(0.8, 3), (drawn, bay) => {
      const lines = drawn.map(({ points, closed }, k) =>
        singleCurve(points.flat(), { id: k + 1, closed: closed && points.length > 2 }),
      );
      const p = { ...newUse('make', 'truss').parameters, form: 'square', depth: 0.2, bay };
      const { lattice, stations, runs } = layoutOf(resample(joinCurves(lines), { spacing: 0.1 }), p as never, {
        density: 1,
        surroundings: new Surroundings(new Map()),
      });
      const { joint, from, to, kind, station, members } = lattice;
      const runOf = Array.from(
        stations.id,
        (_, n) => runs.find(({ first, count }) => n >= first && n < first + count)!,
      );
      let worst = 0;
      const cut = new Set<number>();
      for (let a = 0; a < members; a++)
        for (let b = 0; b < members; b++) {
          const s = station[a];
          const apart = s - station[b];
          if (apart <= 0) continue;
          const one = runOf[s];
          if (one === runOf[station[b]] && (apart < 2 || (one.closed && one.count - apart < 2))) continue;
          nearestOnSegments(joint, 3 * from[a], 3 * to[a], 3 * from[b], 3 * to[b], near);
          const depth = sizes[kind[a]] + sizes[kind[b]] - near.distance;
          // what laps by a twentieth of the thinner one touches
          if (depth <= 0.05 * Math.min(sizes[kind[a]], sizes[kind[b]])) continue;
          worst = Math.max(worst, depth);
          cut.add(s);
        }
      const [reported] = clashes(lattice, stations, runs, sizes);
      expect(reported?.size?.value ?? 0).toBe(worst);
      expect(Number(reported?.message.match(/in ([\d,]+) bays/)?.[1] ?? Math.min(1, cut.size))).toBe(cut.size);
    }),
    { numRuns: 25 },
  );
});
