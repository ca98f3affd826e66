import fc from 'fast-check';
import Module from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import { curveLengths } from '../src/curve/arc-length.js';
import type { CurveSet } from '../src/curve/curve-set.js';
import {
  evaluatePiece,
  newUse,
  type Piece,
  type PlacedPart,
  realMesh,
  Surface,
  Surroundings,
  signedVolume,
  singleCurve,
  topologyOf,
  World,
} from '../src/index.js';
import { crowdedLinks } from '../src/make/chain/hooks.js';
import { CHAIN_KINDS, chainKind } from '../src/make/chain/kinds.js';
import { linkLine, linkMesh } from '../src/make/chain/link.js';
import { rollerLinks } from '../src/make/chain/rollers.js';
import { chordLine, jointsAlong, jointsToEnd } from '../src/make/elements/chords.js';
import { framedLines } from '../src/make/elements/framed-lines.js';
import { laidAlong } from '../src/make/elements/prop-element.js';
import { type Stations, stationsAlong } from '../src/make/elements/stations.js';
import { chosenParts } from '../src/make/place/chosen-parts.js';
import { builtInMesh } from '../src/make/place/parts.js';
import { MAX_PLACED, type PlaceChoice, placingOf } from '../src/make/place/placing.js';
import { weldPositions } from '../src/mesh/weld.js';
import { bunnyMesh, circle, evenly, helix } from './helpers.js';
import { alongPoints } from './projects.js';
import { build } from './units.js';

type Place = readonly [number, number, number];
const nowhere = new Surroundings(new Map());
const BALL = [{ part: 'ball', times: 1, size: 1 }];
const STRAIGHT: Place[] = [
  [0, 0, 0],
  [0.5, 0, 0],
  [1, 0, 0],
];

/** A piece of a unit along points. */
function made(
  unit: string,
  set: Record<string, unknown>,
  points: readonly Place[] = STRAIGHT,
  change: (piece: Piece) => void = () => {},
  props = nowhere,
  closed = false,
) {
  const { document, piece } = alongPoints(points, (one) => {
    one.make = newUse('make', unit);
    const plain = unit === 'place' ? { facing: 'z', upright: true, held: 'foot', parts: BALL } : {};
    Object.assign(one.make.parameters, plain, set);
    change(one);
  });
  document.curves[0].closed = closed;
  for (const id of ['board', 'bunny'])
    if (props.surface(id))
      document.props.push({
        id,
        name: id,
        mesh: id,
        placement: { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 },
        visible: true,
        colour: '#cccccc',
      });
  return evaluatePiece(new World(document, props), piece);
}

const placed = ({ parts }: { parts: readonly { kind: string }[] }, n = 0) =>
  parts.filter(({ kind }) => kind === 'placed')[n] as PlacedPart;
const middles = ({ places: { matrix, id } }: PlacedPart): number[][] =>
  Array.from(id, (_, i) => [...matrix.subarray(16 * i + 12, 16 * i + 15)]);
const codes = ({ findings }: { findings: readonly { code: string }[] }) => findings.map(({ code }) => code);
const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((value, k) => value - b[k]));

describe('stations', () => {
  it('by spacing divide the line exactly, where they are drawn out to its end and on closed lines; a lane changes how far apart they are', () => {
    fc.assert(
      fc.property(evenly(0.02, 0.4), evenly(0, 0.2), evenly(0, 0.2), (spacing, first, last) => {
        const line = framedLines(singleCurve([0, 0, 0, 1, 0, 0]), true);
        const { along } = stationsAlong(line, { spacing, first, last, even: true }, 1e6);
        expect(along[0]).toBeCloseTo(first, 6);
        const steps = along.length - 1;
        if (steps > 0) expect(along[steps]).toBeCloseTo(1 - last, 5);
        expect(steps).toBe(Math.round((1 - first - last) / spacing));
        for (let k = 1; k <= steps; k++) expect(along[k] - along[k - 1]).toBeCloseTo((1 - first - last) / steps, 5);
        const asIs = stationsAlong(line, { spacing, first, last, even: false }, 1e6).along;
        for (let k = 1; k < asIs.length; k++) expect(asIs[k] - asIs[k - 1]).toBeCloseTo(spacing, 5);
        const ring = framedLines(circle(0.3, 200), true);
        const round = stationsAlong(ring, { spacing, first, last, even: false }, 1e6).along;
        for (let k = 1; k < round.length; k++)
          expect(round[k] - round[k - 1]).toBeCloseTo(ring.lengths[0] / round.length, 5);
      }),
      { numRuns: 60 },
    );
    // spacing s(t) = 0.1 + 0.1 t: the integral of dt / s is 10 ln 2 up to the end
    const lane = {
      knots: [
        { at: 0, value: 0.1 },
        { at: 1, value: 0.2 },
      ],
      ease: 'straight' as const,
    };
    const { along } = stationsAlong(
      framedLines(singleCurve([0, 0, 0, 1, 0, 0]), true),
      { spacing: lane, first: 0, last: 0, even: false },
      100,
    );
    expect(along.length).toBe(Math.floor(10 * Math.log(2)) + 1);
    for (const [k, s] of along.entries()) expect(10 * Math.log(1 + s)).toBeCloseTo(k, 3);
  });

  it('keep their ids whatever the spacing, the first and the number; what is on them is turned with the line', () => {
    const id = (set: object) => [...placed(made('place', { size: 0.01, spacing: 0.1, ...set })).places.id];
    const all = id({});
    expect(new Set(all).size).toBe(11);
    expect(id({ spacing: 0.2 })).toEqual(all.slice(0, 6));
    expect(id({ first: 0.3 })).toEqual(all.slice(0, 8));
    expect(id({ by: 'count', count: 4 })).toEqual(all.slice(0, 4));
    // each axis of each element is that of the line's own frame
    const up = helix(0.2, 0.1, 1, 400);
    const spun = made(
      'place',
      { size: 0.01, spacing: 0.05, facing: 'z', upright: true, held: 'middle' },
      [...Array(40).keys()].map(
        (k): Place => [0, 1, 2].map((n) => up.curve.position[3 * 10 * k + n]) as unknown as Place,
      ),
    );
    const { matrix } = placed(spun).places;
    for (let m = 0; m < matrix.length; m += 16) {
      const [x, y, z] = [0, 4, 8].map((k) => [...matrix.subarray(m + k, m + k + 3)].map((value) => value / 0.01));
      expect(z[1]).toBeCloseTo(up.c / up.speed, 1);
      expect(x[0] * y[0] + x[1] * y[1] + x[2] * y[2]).toBeCloseTo(0, 4);
      // right-handed, its way up as far up as the line lets it
      expect(x[1] * y[2] - x[2] * y[1]).toBeCloseTo(z[0], 4);
      expect(y[1]).toBeCloseTo(Math.hypot(z[0], z[2]), 3);
    }
  });

  it('with gaps leave as much between the end of one and the beginning of the next as was asked, whatever their sizes', () => {
    const parts = [
      { part: 'ball', times: 2, size: 1 },
      { part: 'ball', times: 1, size: 2.5 },
    ];
    const build = made('place', { parts, size: 0.02, by: 'gap', gap: 0.013, even: false, held: 'middle' });
    const all = build.parts
      .flatMap((part, k) => middles(part as PlacedPart).map(([x]) => ({ x, r: k === 0 ? 0.02 : 0.05 })))
      .sort((a, b) => a.x - b.x);
    expect(all.map(({ r }) => r).slice(0, 6)).toEqual([0.02, 0.02, 0.05, 0.02, 0.02, 0.05]);
    expect(all[0].x - all[0].r).toBeCloseTo(0, 6);
    for (let k = 1; k < all.length; k++)
      expect(all[k].x - all[k].r - all[k - 1].x - all[k - 1].r).toBeCloseTo(0.013, 5);
    expect(codes(build)).toEqual([]);
  });
});

describe('what is placed', () => {
  it('at random is taken as often as its weight says (chi-square, 5 %), and another seed leaves ids and places', () => {
    const parts = [
      { part: 'ball', times: 3, size: 1 },
      { part: 'stud', times: 1, size: 1 },
    ];
    const set = { parts, order: 'chance', size: 0.0001, spacing: 0.001, held: 'middle' };
    const [a, b] = made('place', set).parts.map((part) => (part as PlacedPart).places.id.length);
    const all = a + b;
    expect(all).toBe(1001);
    const chi = (a - 0.75 * all) ** 2 / (0.75 * all) + (b - 0.25 * all) ** 2 / (0.25 * all);
    expect(chi).toBeLessThan(3.841);
    const turned = (seed: number) => made('place', { size: 0.01, spacing: 0.1, turns: { least: -1, most: 1 }, seed });
    expect(placed(turned(1)).places.id).toEqual(placed(turned(2)).places.id);
    expect(middles(placed(turned(1)))).toEqual(middles(placed(turned(2))));
    expect(placed(turned(1)).places.matrix).not.toEqual(placed(turned(2)).places.matrix);
    const missing = placed(made('place', { size: 0.0001, spacing: 0.001, missing: 0.3 })).places.id;
    expect(Math.abs(missing.length / 1001 - 0.7)).toBeLessThan(0.045);
    const whole = new Set(placed(made('place', { size: 0.0001, spacing: 0.001 })).places.id);
    expect([...missing].every((id) => whole.has(id))).toBe(true);
  });

  it('is held at its foot, middle or top, looks along the line with the side that is asked for, and leans forward', () => {
    const one = (set: object) =>
      realMesh(
        placed(
          made('place', { parts: [{ part: 'peg', times: 1, size: 1 }], size: 0.01, by: 'count', count: 1, ...set }),
        ),
      );
    const range = (mesh: { position: Float32Array }, axis: number) => {
      const all = [...mesh.position].filter((_, i) => i % 3 === axis);
      return [Math.min(...all), Math.max(...all)];
    };
    const tall = 0.0502;
    expect(range(one({}), 1)).toEqual([expect.closeTo(0, 6), expect.closeTo(tall, 5)]);
    expect(range(one({ held: 'top' }), 1)).toEqual([expect.closeTo(-tall, 5), expect.closeTo(0, 6)]);
    expect(range(one({ held: 'middle', rise: 1 }), 1)[0]).toBeCloseTo(0.01 - tall / 2, 5);
    expect(range(one({ facing: 'y', upright: false }), 0)).toEqual([expect.closeTo(0, 6), expect.closeTo(tall, 5)]);
    expect(range(one({ facing: '-y', upright: false }), 0)).toEqual([expect.closeTo(-tall, 5), expect.closeTo(0, 6)]);
    // leant by 90 degrees it lies along the line, ahead
    expect(range(one({ lean: Math.PI / 2 }), 0)[1]).toBeCloseTo(tall, 5);
  });

  it('bent along a ring keeps its volume and stays sound: Pappus-Guldinus, for its middle is on the line', () => {
    const ring = [...Array(24).keys()].map(
      (k): Place => [0.2 * Math.cos((2 * Math.PI * k) / 24), 0, 0.2 * Math.sin((2 * Math.PI * k) / 24)],
    );
    const set = {
      parts: [{ part: 'ball', times: 1, size: 1 }],
      size: 0.05,
      by: 'count',
      count: 3,
      held: 'middle',
      sides: 64,
    };
    const volume = (bent: string) => {
      const mesh = realMesh(made('place', { ...set, bent }, ring, undefined, nowhere, true).parts[0]);
      expect(topologyOf(mesh).openEdges).toBe(0);
      return signedVolume(mesh);
    };
    expect(volume('bent') / volume('rigid')).toBeCloseTo(1, 2);
  });

  it('reports what is asked for in vain: no spacing, no room, a prop that is not there, elements that lap, too many', () => {
    expect(codes(made('place', { spacing: 0 }))).toEqual(['no-elements']);
    expect(codes(made('place', { first: 2 }))).toEqual(['no-elements']);
    expect(codes(made('place', { parts: [{ part: 'prop-1', times: 1, size: 1 }] }))).toEqual(['part-missing']);
    const lapping = made('place', { size: 0.1, spacing: 0.15, parts: [{ part: 'ball', times: 1, size: 1 }] });
    expect(lapping.findings[0]).toMatchObject({ code: 'elements-lap', fix: { parameter: 'spacing' } });
    expect(lapping.findings[0].size?.limit).toBeCloseTo(0.2, 6);
    expect(codes(made('place', { size: 0.07, spacing: 0.15, parts: [{ part: 'ball', times: 1, size: 1 }] }))).toEqual(
      [],
    );
    const p = { ...newUse('make', 'place').parameters, spacing: 1e-6, even: false } as unknown as PlaceChoice;
    const many = placingOf(singleCurve([0, 0, 0, 1, 0, 0]), p, chosenParts(p, undefined, 1));
    expect([many.asked, many.stations.id.length]).toEqual([1_000_001, MAX_PLACED]);
    // packed ones are counted no further than they may go
    const packed = placingOf(
      singleCurve([0, 0, 0, 1, 0, 0]),
      { ...p, by: 'gap', gap: 0, size: 1e-7 },
      chosenParts(p, undefined, 1),
    );
    expect([packed.asked, packed.stations.id.length]).toEqual([MAX_PLACED + 1, MAX_PLACED]);
  });
});

describe('chains', () => {
  let manifold: Awaited<ReturnType<typeof Module>>;
  beforeAll(async () => {
    manifold = await Module();
    manifold.setup();
  });

  it('have links of the sizes in the tables: DIN 766 short link, ISO 606 roller chain (digits from memory)', () => {
    for (const [kind, d, pitch, width] of [
      ['din766-6', 6, 18.5, 20.4],
      ['din766-8', 8, 24, 27.2],
      ['din766-10', 10, 28, 34],
    ] as const) {
      const build = made('chain', { kind, sides: 48 });
      const { mesh } = placed(build);
      const extent = (axis: number) => Math.max(...[...mesh.position].filter((_, i) => i % 3 === axis)) * d;
      expect(extent(0)).toBeCloseTo(width, 1);
      expect(extent(2)).toBeCloseTo(pitch + 2 * d, 1);
      const at = middles(placed(build));
      for (let k = 1; k < at.length; k++) expect(1000 * apart(at[k], at[k - 1])).toBeCloseTo(pitch, 3);
      // n links measure n pitches and the two ends' wire over all (geometry)
      const links = build.measures.further.find(({ id }) => id === 'links')!.value;
      expect(links).toBe(Math.floor(1000 / pitch));
      expect(build.measures.further.find(({ id }) => id === 'chain-length')!.value).toBeCloseTo(
        (links * pitch + 2 * d) / 1000,
        6,
      );
    }
    const { pitch, radius } = chainKind('roller-08b');
    expect([2000 * radius! * pitch, 2000 * radius!]).toEqual([expect.closeTo(12.7, 6), expect.closeTo(8.51, 6)]);
  });

  it('have sound links, which touch from one to the next and cut none, on bends too: by brute force on their meshes', () => {
    for (const kind of CHAIN_KINDS) {
      const meshes =
        kind.form === 'roller'
          ? Object.values(rollerLinks(kind, 16))
          : kind.form === 'link' || kind.form === 'stud' || kind.form === 'curb'
            ? [linkMesh(kind, 16)]
            : [];
      for (const mesh of meshes) expect(topologyOf(mesh).openEdges, kind.value).toBe(0);
    }
    /** Volume that two links share, against that of one: by manifold-3d. */
    const shared = (build: ReturnType<typeof made>, a: number, b: number, pulled = 0): number => {
      const part = placed(build);
      const origin = [...part.places.matrix.subarray(16 * a + 12, 16 * a + 15)];
      const solid = (n: number) => {
        const matrix = part.places.matrix.slice(16 * n, 16 * n + 16);
        origin.forEach((value, k) => {
          matrix[12 + k] += (n === b ? pulled * matrix[8 + k] : 0) - value;
        });
        const { position, index } = realMesh({
          ...part,
          places: { ...part.places, id: part.places.id.slice(n, n + 1), matrix },
        });
        const { remap, count } = weldPositions(position);
        const places = new Float32Array(3 * count);
        remap.forEach((to, v) => {
          for (let k = 0; k < 3; k++) places[3 * to + k] = 1000 * position[3 * v + k];
        });
        return new manifold.Manifold(
          new manifold.Mesh({ numProp: 3, vertProperties: places, triVerts: index.map((v) => remap[v]) }),
        );
      };
      const [p, q] = [solid(a), solid(b)];
      return manifold.Manifold.intersection(p, q).volume() / p.volume();
    };
    const bend = (radius: number) =>
      [...Array(9).keys()].map(
        (k): Place => [radius * Math.sin((k * Math.PI) / 10), radius * (1 - Math.cos((k * Math.PI) / 10)), 0],
      );
    for (const kind of ['short', 'stud', 'curb'])
      for (const points of [STRAIGHT.map(([x]): Place => [0.2 * x, 0, 0]), bend(0.07)]) {
        const set = { kind, radius: 0.002, roll: kind === 'curb' ? 0.9 : 0.6, sides: 20 };
        const build = made('chain', set, points);
        const count = placed(build).places.id.length;
        expect(count).toBeGreaterThan(5);
        // flats of the round wire stand a hair inside of it: what is shared at most is what rounding leaves
        for (let k = 0; k + 1 < Math.min(count, 6); k++)
          expect(shared(build, k, k + 1), `${kind} ${k}`).toBeLessThan(1e-3);
        // pulled apart by a tenth of the wire they would cut: they did touch
        expect(shared(build, 1, 2, 0.1), kind).toBeGreaterThan(1e-5);
        expect(codes(build)).toEqual([]);
      }
  });

  it('lie on their line with chords of one length; closed and fitted ones meet the end', () => {
    fc.assert(
      fc.property(evenly(0.01, 0.05), evenly(0.15, 1), (pitch, radius) => {
        const lines = circle(radius, 300);
        const framed = framedLines(lines, false);
        const at = framed.lines.pointData['along'];
        const line = chordLine(framed.lines, 0, framed.lengths[0], at);
        const joints = jointsAlong({ ...line, closed: false }, () => pitch, 1e6);
        for (let k = 1; 3 * k < joints.at.length; k++)
          expect(
            apart([...joints.at.subarray(3 * k - 3, 3 * k)], [...joints.at.subarray(3 * k, 3 * k + 3)]),
          ).toBeCloseTo(pitch, 9);
        const count = Math.max(4, Math.round(framed.lengths[0] / pitch));
        const ring = jointsToEnd(line, () => pitch, count);
        expect(apart([...ring.at.subarray(0, 3)], [...ring.at.subarray(-3)])).toBeLessThan(1e-6);
        // a regular polygon in a circle: its side is 2 r sin(π / n)
        expect(ring.scale * pitch).toBeCloseTo(2 * radius * Math.sin(Math.PI / count), 4);
      }),
      { numRuns: 40 },
    );
    const fitted = made('chain', { fit: 'end', radius: 0.003 });
    const at = middles(placed(fitted));
    const step = apart(at[0], at[1]);
    expect(at[at.length - 1][0] + step / 2).toBeCloseTo(1, 4);
    expect(linkLine(chainKind('short'), 8).length % 3).toBe(0);
  });

  it('reports lines that are too short, bends that are too tight, and mends them by smaller links', () => {
    expect(codes(made('chain', { radius: 0.3 }))).toContain('chain-short');
    const tight: Place[] = [
      [0, 0, 0],
      [0.05, 0, 0],
      [0.06, 0.012, 0],
      [0.05, 0.024, 0],
      [0, 0.024, 0],
    ];
    const cut = made('chain', { kind: 'long', radius: 0.004 }, tight);
    expect(codes(cut)).toContain('links-cut');
    expect(cut.findings.find(({ code }) => code === 'links-cut')?.fix).toMatchObject({ parameter: 'radius' });
    expect(codes(made('chain', { kind: 'long', radius: 0.0004 }, tight))).not.toContain('links-cut');
  });
});

describe('scattered places', () => {
  const flat = (size: number) =>
    new Surroundings(
      new Map([
        [
          'board',
          Surface.of({
            position: Float32Array.of(0, 0, 0, size, 0, 0, size, 0, size, 0, 0, size),
            index: Uint32Array.of(0, 2, 1, 0, 3, 2),
          }),
        ],
      ]),
    );
  const scatter = (set: object, surroundings = flat(1), reported?: string[], context = {}): CurveSet =>
    build('path', 'scattered', { prop: 'board', ...set }, { surroundings, reported, ...context });
  /** Mean distance to the nearest neighbour, as a share of what Poisson's would be: 1 / (2 √density). */
  const evenness = ({ position }: CurveSet): number => {
    const feet = Array.from({ length: position.length / 6 }, (_, k) => [...position.subarray(6 * k, 6 * k + 3)]);
    const near = feet.map((a, i) => Math.min(...feet.map((b, j) => (i === j ? Infinity : apart(a, b)))));
    return near.reduce((sum, value) => sum + value, 0) / near.length / (0.5 / Math.sqrt(feet.length));
  };

  it('at random are a Poisson process, relaxed ones stand further apart (Clark and Evans 1954: nearest neighbours)', () => {
    // standard error of the ratio is 0.5227 / √n
    expect(Math.abs(evenness(scatter({ count: 1500, evenness: 0 })) - 1)).toBeLessThan((3 * 0.5227) / Math.sqrt(1500));
    expect(evenness(scatter({ count: 1500, evenness: 1 }))).toBeGreaterThan(1.45);
    // even shares of sixteen fields: chi-square with 15 degrees of freedom, 1 %
    const fields = new Float64Array(16);
    const { position } = scatter({ count: 3200, evenness: 0 });
    for (let i = 0; i < position.length; i += 6)
      fields[4 * Math.floor(4 * position[i]) + Math.floor(4 * position[i + 2])]++;
    expect(fields.reduce((sum, n) => sum + (n - 200) ** 2 / 200, 0)).toBeLessThan(30.58);
  });

  it('go by area on an open scanned mesh; more of them move none; each stands on the surface, square to it', () => {
    const surface = Surface.of(bunnyMesh());
    const surroundings = new Surroundings(new Map([['board', surface]]));
    const [some, more] = [
      scatter({ count: 300, height: 0.002 }, surroundings),
      scatter({ count: 600, height: 0.002 }, surroundings),
    ];
    expect([...more.id.subarray(0, 300)]).toEqual([...some.id]);
    expect([...more.position.subarray(0, 1800)]).toEqual([...some.position]);
    const hit = {
      triangle: 0,
      barycentric: [0, 0, 0] as [number, number, number],
      point: new Float64Array(3),
      normal: new Float64Array(3),
      distance: 0,
    };
    for (let k = 0; k < 300; k++) {
      const [x, y, z, ...tip] = some.position.subarray(6 * k, 6 * k + 6);
      surface.closest(x, y, z, hit);
      expect(hit.distance).toBeLessThan(1e-7);
      expect(apart(tip, [x, y, z])).toBeCloseTo(0.002, 8);
    }
    expect(curveLengths(some)[7]).toBeCloseTo(0.002, 6);
  });

  it('go by a picture that they see through onto the prop: as many as it is light there, or dark; none beside it', () => {
    // light grows evenly from left to right over a sheet that covers half of the board
    const shades = {
      width: 256,
      height: 1,
      light: Uint8Array.from({ length: 256 }, (_, k) => k),
      colour: new Uint8Array(1024),
    };
    const sheet = {
      id: 's',
      name: 'plan',
      image: '',
      plane: 'top',
      position: [0.5, 3, 0.5],
      width: 1,
      aspect: 0.5,
      opacity: 1,
      visible: true,
      locked: false,
    } as const;
    const by = (set: object, picture: object | null = { picture: sheet, shades }, reported?: string[]) =>
      scatter({ count: 3000, evenness: 0, picture: 's', ...set }, flat(1), reported, {
        picture: () => picture ?? undefined,
      }).position;
    for (const dark of ['light', 'dark']) {
      const position = by({ dark });
      const quarters = [0, 0, 0, 0];
      for (let i = 0; i < position.length; i += 6) {
        expect(Math.abs(position[i + 2] - 0.5)).toBeLessThan(0.2501);
        quarters[Math.floor(4 * position[i])]++;
      }
      // shares of a ramp: 1, 3, 5, 7 of 16; chi-square with three degrees of freedom, 0.1 %
      const wanted = [1, 3, 5, 7].map((part) => (3000 * part) / 16);
      if (dark === 'dark') wanted.reverse();
      expect(quarters.reduce((sum, n, k) => sum + (n - wanted[k]) ** 2 / wanted[k], 0)).toBeLessThan(16.27);
    }
    // the same sheet to the front: its right is the board's right
    const front = by({}, { picture: { ...sheet, plane: 'front', position: [0.25, 0, 9], width: 0.5 }, shades });
    for (let i = 0; i < front.length; i += 6) expect(front[i]).toBeLessThan(0.5001);
    const reported: string[] = [];
    expect(by({}, { picture: sheet, shades: undefined }, reported).length + by({}, null, reported).length).toBe(0);
    expect(by({}, { picture: { ...sheet, position: [9, 3, 9] }, shades }, reported).length).toBe(0);
    expect(reported).toEqual(['picture-unread', 'picture-unread', 'no-area']);
  });

  it('keep off edges, face between two angles, stay in a region, and say what leaves nothing', () => {
    const rim = scatter({ count: 200, edges: 0.2 });
    expect(rim.closed.length).toBe(200);
    for (let i = 0; i < rim.position.length; i += 6)
      for (const k of [0, 2]) expect(Math.abs(rim.position[i + k] - 0.5)).toBeLessThan(0.3001);
    const reported: string[] = [];
    expect(scatter({ count: 10, from: 0.5 }, flat(1), reported).closed.length).toBe(0);
    expect(scatter({ count: 10, edges: 0.6 }, flat(1), reported).closed.length).toBe(0);
    expect(reported).toEqual(['no-area', 'no-places']);
    const region = {
      id: 'r',
      name: 'r',
      form: 'ball',
      position: [0.3, 0, 0.3],
      size: [0.1, 0.1, 0.1],
      rotation: [0, 0, 0, 1],
      edge: 0.05,
    } as const;
    const within = scatter({ count: 100, region: 'r' }, flat(1), reported, { region: () => region });
    for (let i = 0; i < within.position.length; i += 6)
      expect(Math.hypot(within.position[i] - 0.3, within.position[i + 2] - 0.3)).toBeLessThan(0.15);
    // by density: this many a square metre of the whole, fewer where they may not stand
    expect(scatter({ by: 'density', density: 800 }).closed.length).toBe(800);
    expect(Math.abs(scatter({ by: 'density', density: 800, edges: 0.2 }).closed.length - 288)).toBeLessThan(45);
    scatter({ by: 'density', density: 1e9, evenness: 0 }, flat(1), reported);
    expect(reported[2]).toBe('too-many-places');
    const empty = new Surroundings(
      new Map([['board', Surface.of({ position: new Float32Array(0), index: new Uint32Array(0) })]]),
    );
    scatter({ count: 10 }, empty, reported);
    expect(reported[3]).toBe('no-area');
  });
});

it('single elements turn about their own way up; a prop in their place is as large and on the same foot', () => {
  const parts = [{ part: 'peg', times: 1, size: 1 }];
  const before = placed(made('place', { parts, size: 0.01, spacing: 0.25 }));
  const board = new Surroundings(new Map([['board', Surface.of(bunnyMesh())]]));
  const after = made(
    'place',
    { parts, size: 0.01, spacing: 0.25 },
    STRAIGHT,
    (piece) => {
      piece.elements = [
        { id: before.places.id[1], turn: Math.PI / 2 },
        { id: before.places.id[2], prop: 'board', move: [0, 0.1, 0] },
        { id: before.places.id[3], dropped: true },
      ];
    },
    board,
  );
  expect([...placed(after).places.id]).toEqual([0, 1, 4].map((k) => before.places.id[k]));
  // its face now looks where its side did
  const [was, is] = [before.places.matrix.subarray(16, 32), placed(after).places.matrix.subarray(16, 32)];
  for (let k = 0; k < 3; k++) {
    expect(is[8 + k]).toBeCloseTo(was[k], 6);
    expect(is[4 + k]).toBeCloseTo(was[4 + k], 6);
  }
  const rabbit = realMesh(placed(after, 1));
  const heights = [...rabbit.position].filter((_, i) => i % 3 === 1);
  expect(Math.min(...heights)).toBeCloseTo(0.1, 4);
  expect(
    Math.max(
      ...[0, 1, 2].map((axis) => {
        const all = [...rabbit.position].filter((_, i) => i % 3 === axis);
        return Math.max(...all) - Math.min(...all);
      }),
    ),
  ).toBeCloseTo(0.0502, 3);
});

it('a part with very many faces is reported with its figure, and placed all the same', () => {
  const side = 225;
  const index = Uint32Array.from({ length: 6 * side * side }, (_, i) => {
    const [cell, corner] = [Math.floor(i / 6), [0, 1, side + 2, 0, side + 2, side + 1][i % 6]];
    return Math.floor(cell / side) * (side + 1) + (cell % side) + corner;
  });
  const position = Float32Array.from({ length: 3 * (side + 1) ** 2 }, (_, i) => {
    const v = Math.floor(i / 3);
    return [(v % (side + 1)) / side, 0, Math.floor(v / (side + 1)) / side][i % 3];
  });
  const props = new Surroundings(new Map([['board', Surface.of({ position, index })]]));
  const build = made(
    'place',
    { parts: [{ part: 'prop-1', times: 1, size: 1 }], props: ['board'], by: 'count', count: 2, even: false, last: 0 },
    [
      [0, 0, 0],
      [3, 0, 0],
    ],
    undefined,
    props,
  );
  expect(build.findings[0]).toMatchObject({ code: 'part-heavy', size: { value: 2 * side * side } });
  expect(placed(build).places.id.length).toBe(2);
  // each that is bent is a mesh of its own: as many as come to a million vertices
  const bent = made(
    'place',
    { parts: [{ part: 'prop-1', times: 1, size: 0.01 }], props: ['board'], by: 'count', count: 25, bent: 'bent' },
    [
      [0, 0, 0],
      [3, 0, 0],
    ],
    undefined,
    props,
  );
  expect(codes(bent)).toEqual(['part-heavy', 'too-many-elements']);
  expect(bent.parts[0].kind === 'mesh' && bent.parts[0].mesh.position.length / 3).toBe(19 * (side + 1) ** 2);
});

it('a prop that is missing on a belt is reported once, though what it comes to is reckoned before it is built', () => {
  const ring = [...Array(24).keys()].map(
    (k): Place => [0.5 * Math.cos((2 * Math.PI * k) / 24), 0, 0.5 * Math.sin((2 * Math.PI * k) / 24)],
  );
  const belt = made(
    'belt',
    { riders: 'some', parts: [{ part: 'prop-1', times: 1, size: 1 }], props: ['gone'] },
    ring,
    undefined,
    nowhere,
    true,
  );
  expect(codes(belt).filter((code) => code === 'part-missing')).toEqual(['part-missing']);
});

it('links are as near as the middle lines of their wires, looked at very closely', () => {
  const place = fc.tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1));
  // as a wire has them, no two places on end are one
  const wires = fc
    .array(place, { minLength: 3, maxLength: 6 })
    .filter((wire) => wire.every((one, k) => apart(one, wire[(k + 1) % wire.length]) > 0.05));
  fc.assert(
    fc.property(wires, place, evenly(-3, 3), (wire, aside, turn) => {
      const [cos, sin] = [0.5 * Math.cos(turn), 0.5 * Math.sin(turn)];
      const axes = [
        [0.5, 0, 0, 0, 0.5, 0, 0, 0, 0.5, 0, 0, 0],
        [cos, sin, 0, -sin, cos, 0, 0, 0, 0.5, ...aside],
      ].map((one) => Float64Array.from(one));
      const stations = { curve: [0, 0], tangent: new Float64Array(6), id: [1, 2] } as unknown as Stations;
      const { gap } = crowdedLinks(stations, (link) => axes[link], Float64Array.from(wire.flat()))!;
      // many places on each edge of both
      const [here, there] = axes.map((m) =>
        wire.flatMap((from, k) =>
          Array.from({ length: 60 }, (_, i) => {
            const to = wire[(k + 1) % wire.length];
            const at = from.map((value, n) => value + (i / 60) * (to[n] - value));
            return [0, 1, 2].map((n) => m[9 + n] + at[0] * m[n] + at[1] * m[3 + n] + at[2] * m[6 + n]);
          }),
        ),
      );
      const least = here.reduce((all, a) => there.reduce((far, b) => Math.min(far, apart(a, b)), all), Infinity);
      // the size of a link is its first axis, its wire as thick as twice that
      const size = Math.hypot(...axes[0].subarray(0, 3));
      expect(2 * size * gap).toBeLessThanOrEqual(least + 1e-6);
      expect(2 * size * gap).toBeGreaterThan(least - 0.06);
    }),
    { numRuns: 25 },
  );
});

it('a prop laid along a line is not mirrored, whichever of its sides is its longest', () => {
  const peg = builtInMesh('peg', 12);
  for (const order of [
    [0, 1, 2],
    [1, 2, 0],
    [2, 0, 1],
    [0, 2, 1],
    [2, 1, 0],
    [1, 0, 2],
  ]) {
    const position = peg.position.map((_, i) => peg.position[i - (i % 3) + order[i % 3]] * [1, 1, 1.7][order[i % 3]]);
    const index = [
      [0, 2, 1],
      [2, 1, 0],
      [1, 0, 2],
    ].some((odd) => odd.join() === order.join())
      ? peg.index.map((_, i) => peg.index[i - (i % 3) + [0, 2, 1][i % 3]])
      : peg.index;
    const laid = laidAlong({ ...peg, position, index });
    expect(signedVolume(laid)).toBeGreaterThan(0);
    const size = [0, 1, 2].map((axis) => {
      const all = [...laid.position].filter((_, i) => i % 3 === axis);
      return Math.max(...all) - Math.min(...all);
    });
    expect(size[0]).toBeCloseTo(2, 5);
    expect(size[2]).toBeGreaterThan(size[0]);
    expect(size[0]).toBeGreaterThan(size[1]);
  }
});
