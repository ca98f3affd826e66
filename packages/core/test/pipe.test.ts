import fc from 'fast-check';
import Module from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  curveLengths,
  evaluatePiece,
  HOME,
  type Mesh,
  newUse,
  type Part,
  realMesh,
  Surface,
  Surroundings,
  signedVolume,
  topologyOf,
  World,
} from '../src/index.js';
import { PIPE_SIZES, pipeSize } from '../src/make/pipe/sizes.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Place = readonly [number, number, number];
const LEGS: Place[] = [
  [0, 0, 0],
  [0, 0, 2],
  [1, 0, 2],
  [1, 3, 2],
];

/** A floor of 8 m, 0.1 m under the line. */
const FLOOR = {
  position: Float32Array.of(-4, -0.1, -4, -4, -0.1, 4, 4, -0.1, 4, 4, -0.1, -4),
  index: Uint32Array.of(0, 1, 2, 0, 2, 3),
};

function piped(change: object, points: readonly Place[] = LEGS, closed = false) {
  const { document, piece } = alongPoints(points, (one) => {
    one.make = newUse('make', 'pipe');
    Object.assign(one.make.parameters, { sides: 16 }, change);
  });
  document.curves[0].closed = closed;
  const floor = { id: 'floor', name: 'Floor', mesh: 'floor', placement: HOME, visible: true, colour: '#cccccc' };
  document.props.push(floor);
  const surroundings = new Surroundings(new Map([['floor', Surface.of(FLOOR)]]));
  const build = evaluatePiece(new World(document, surroundings), piece);
  const part = (id: string): Part | undefined => build.made.parts.find((one) => one.id === id);
  const placed = (id: string) => {
    const one = part(id);
    return one?.kind === 'placed' ? one.places : undefined;
  };
  return { build, part, placed, mesh: realMesh(build.parts[0]), codes: build.findings.map(({ code }) => code) };
}

const rows = ({ build }: ReturnType<typeof piped>, id: string) => build.tables.find((table) => table.id === id)?.rows;

describe('nominal sizes', () => {
  // ASME B36.10M prints 5.44 and 16.07 kg/m for schedule 40 (steel of 7,850 kg/m³)
  it.each([
    ['dn50', 5.44],
    ['dn100', 16.07],
  ])('a metre of %s weighs %s kg, by the volume of its mesh', (size, mass) => {
    const { mesh } = piped({ size, sides: 256 }, [
      [0, 0, 0],
      [1, 0, 0],
    ]);
    expect(7850 * signedVolume(mesh)).toBeCloseTo(mass, 1);
  });

  it('have elbows of 1.5 nominal diameters (ASME B16.9, from 1 in), and 45° ones that end where its table says (from 4 in)', () => {
    const inches = {
      dn25: 1,
      dn32: 1.25,
      dn40: 1.5,
      dn50: 2,
      dn65: 2.5,
      dn80: 3,
      dn100: 4,
      dn125: 5,
      dn150: 6,
      dn200: 8,
      dn250: 10,
      dn300: 12,
    };
    for (const [size, inch] of Object.entries(inches))
      expect(Math.abs((pipeSize(size)?.elbow ?? 0) - 1.5 * inch * 0.0254)).toBeLessThan(0.0006);
    const half = { dn100: 64, dn125: 79, dn150: 95, dn200: 127, dn250: 159, dn300: 190 };
    for (const [size, end] of Object.entries(half)) {
      const { build } = piped({ size, bends: 'elbow' }, [
        [0, 0, 0],
        [4, 0, 0],
        [7, 0, 3],
      ]);
      // what the bend takes of its first leg
      const [longest] = build.tables[0].rows.map(([value]) => Number(value));
      const taken = Math.hypot(3, 3) - longest;
      expect(Math.abs(1000 * taken - end)).toBeLessThan(1.5);
    }
    expect(PIPE_SIZES).toHaveLength(14);
  });
});

describe('a run of pipe', () => {
  it('is straight legs of two rings and true arcs, and is as long as both', () => {
    const { build, mesh } = piped({ radius: 0.02, wall: 0.2, bendRadius: 2, bendStep: Math.PI / 20 });
    const r = 0.08;
    expect(curveLengths(build.guide)[0]).toBeCloseTo(6 - 4 * r + Math.PI * r, 5);
    // two ends, and for each quarter bend ten steps
    expect(build.guide.position.length / 3).toBe(2 + 2 * 11);
    const volume = Math.PI * 0.02 ** 2 * (1 - 0.8 ** 2) * curveLengths(build.guide)[0];
    expect(signedVolume(mesh) / volume).toBeCloseTo((16 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 16), 2);
    expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: 1 });
  });

  it('lies on its legs and true arcs at every place, its rings square to them', () => {
    const { build } = piped({ radius: 0.02, wall: 0.2, bendRadius: 2, bendStep: Math.PI / 20 });
    const { curves, section } = build.made.bodies[0];
    const r = 0.08;
    const inner = (p: number) => curves.position[3 * p] > r - 1e-9 && curves.position[3 * p] < 1 - r + 1e-9;
    for (let p = 0; p < curves.position.length / 3; p++) {
      const [x, y, z] = curves.position.subarray(3 * p, 3 * p + 3);
      const tangent = section.outline?.tangent.subarray(3 * p, 3 * p + 3);
      // on the first arc, about (r, 0, 2 − r), square to the way out from its middle
      if (y === 0 && x < r && z > 2 - r) {
        expect(Math.hypot(x - r, z - 2 + r)).toBeCloseTo(r, 7);
        if (tangent) expect(tangent[0] * (x - r) + tangent[2] * (z - 2 + r)).toBeCloseTo(0, 6);
      } else if (y === 0 && !inner(p) && x < 0.5) expect(Math.hypot(x, y)).toBeCloseTo(0, 7);
    }
  });

  it('closed, of a square is four legs and four bends; its joints rise along each line, each with an id of its own', () => {
    const square: Place[] = [
      [0, 0, 0],
      [1, 0, 0],
      [1, 0, 1],
      [0, 0, 1],
    ];
    const middle: Place[] = [
      [0.5, 0, 0],
      [1, 0, 0],
      [1, 0, 1],
      [0, 0, 1],
      [0, 0, 0],
    ];
    for (const points of [square, middle]) {
      const closed = piped(
        { radius: 0.02, bendRadius: 2.5, stock: 0.3, atBends: 'bead', between: 'sleeve' },
        points,
        true,
      );
      expect(rows(closed, 'bends')).toEqual([[expect.closeTo(Math.PI / 2, 6), expect.closeTo(0.1, 6), 4]]);
      // 0.8 m of each side are two whole lengths and a rest
      expect(rows(closed, 'straight')).toEqual([
        [expect.closeTo(0.3, 6), 8],
        [expect.closeTo(0.2, 6), 4],
      ]);
      const marks = closed.build.marks.find(({ kind }) => kind === 'joint');
      expect(marks?.along).toHaveLength(8 + 8);
      expect([...(marks?.along ?? [])]).toEqual([...(marks?.along ?? [])].sort((a, b) => a - b));
      expect(new Set(marks?.id).size).toBe(16);
      expect(closed.build.marks.map(({ kind }) => kind)).toEqual(['joint']);
    }
  });

  it('lists what is to be cut and bent, alike ones together, legs longer than there is pipe in several', () => {
    const one = piped({ radius: 0.02, bendRadius: 2.5, stock: 1.2, between: 'sleeve' });
    const r = 0.1;
    const cut = [3 - r, 2 - r, 1 - 2 * r].flatMap((leg) => [...Array(Math.floor(leg / 1.2)).fill(1.2), leg % 1.2]);
    const listed = rows(one, 'straight')?.flatMap(([length, pieces]) => Array(Number(pieces)).fill(Number(length)));
    expect(listed).toHaveLength(cut.length);
    expect(listed).toEqual(cut.sort((a, b) => b - a).map((length) => expect.closeTo(length, 3)));
    expect(rows(one, 'bends')).toEqual([[expect.closeTo(Math.PI / 2, 6), expect.closeTo(r, 6), 2]]);
    expect(one.placed('sleeve')?.id).toHaveLength(3);
    const total = one.build.measures.further.find(({ id }) => id === 'pipe')?.value;
    expect(total).toBeCloseTo(curveLengths(one.build.guide)[0], 5);
  });

  it('has flanges that face each other at joints and outwards at ends', () => {
    const { placed, part, build } = piped({ radius: 0.02, atEnds: 'flange', atBends: 'flange' });
    const places = placed('flange');
    // two ends, and two at each of four joints
    expect(places?.id).toHaveLength(2 + 2 * 4);
    expect(new Set(places?.id).size).toBe(10);
    const outward = (i: number) => [...(places?.matrix.subarray(16 * i + 8, 16 * i + 11) ?? [])].map((v) => v / 0.02);
    expect(outward(0)).toEqual([0, 0, -1].map((v) => expect.closeTo(v, 5)));
    expect(outward(1)).toEqual([0, 1, 0].map((v) => expect.closeTo(v, 5)));
    const mesh = (part('flange') as { mesh: Mesh }).mesh;
    expect(topologyOf(mesh).openEdges).toBe(0);
    expect(signedVolume(mesh)).toBeGreaterThan(0);
    // two that meet do not lie in each other: all in one mesh they are as many bodies
    const all = part('flange');
    expect(topologyOf(all ? realMesh(all) : mesh)).toMatchObject({
      openEdges: 0,
      shells: 10 * topologyOf(mesh).shells,
    });
    expect(build.marks.find(({ kind }) => kind === 'joint')?.along).toHaveLength(6);
  });

  it('has brackets that are on what is near, and reports those that have nothing to stand on', () => {
    const flat: Place[] = [
      [-2, 0, 0],
      [2, 0, 0],
    ];
    const held = piped({ radius: 0.02, brackets: 1, reach: 8 }, flat);
    expect(held.placed('clamps')?.id).toHaveLength(4);
    const rods = held.placed('rods');
    expect(rods?.id).toHaveLength(4);
    // straight down, 100 mm from the middle
    expect([...(rods?.matrix.subarray(0, 3) ?? [])]).toEqual([0, -0.1, 0].map((v) => expect.closeTo(v, 6)));
    expect(held.placed('feet')?.matrix[13]).toBeCloseTo(-0.1, 6);
    expect(held.codes).not.toContain('bracket-free');
    const free = piped({ radius: 0.02, brackets: 1, reach: 4 }, flat);
    expect(free.codes).toContain('bracket-free');
    expect(free.placed('clamps')?.id).toHaveLength(4);
    expect(free.placed('feet')).toBeUndefined();
  });

  it('with more joints than can be made sets them further apart, and reports it', () => {
    const many = piped({ radius: 0.02, stock: 1e-5, brackets: 1e-5 });
    expect(many.codes).toContain('too-many-joints');
    expect(many.placed('sleeve')?.id.length).toBeLessThan(6000);
    const listed = rows(many, 'straight')?.reduce((sum, [, pieces]) => sum + Number(pieces), 0);
    expect(listed).toBeLessThan(6000);
    expect(piped({ radius: 0.02, stock: 0.1 }).codes).not.toContain('too-many-joints');
  });

  it('keeps its joints and brackets by id when one more leg is added', () => {
    const settings = { radius: 0.02, atBends: 'bead', brackets: 0.5, reach: 100 };
    const [short, long] = [LEGS.slice(0, 3), LEGS].map((points) => piped(settings, points));
    for (const kind of ['bead', 'clamps']) {
      const [a, b] = [short, long].map((one) => one.placed(kind)?.id ?? []);
      expect([...b].slice(0, a.length - 1)).toEqual([...a].slice(0, -1));
    }
  });
});

describe('any run', () => {
  let manifold: Awaited<ReturnType<typeof Module>>;
  beforeAll(async () => {
    manifold = await Module();
    manifold.setup();
  });
  const coordinate = evenly(-1, 1);
  const points = fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 2, maxLength: 8 });

  it('is watertight and finite, its faces outwards, open and closed, as straight and as drawn', () => {
    fc.assert(
      fc.property(points, fc.boolean(), fc.constantFrom('points', 'line'), fc.boolean(), (drawn, closed, legs, fit) => {
        const spread = drawn.map(
          ([x, y, z], i): Place =>
            closed ? [2 * Math.cos(i) * (1 + 0.2 * x), y, 2 * Math.sin(i) * (1 + 0.2 * z)] : [x + 1.5 * i, y, z],
        );
        const settings = {
          radius: 0.02,
          legs,
          ...(fit ? { atEnds: 'flange', atBends: 'bead', stock: 1, brackets: 0.7 } : {}),
        };
        const ring = closed && spread.length > 2;
        const { build } = piped(settings, spread, ring);
        for (const part of build.parts) {
          const mesh = realMesh(part);
          for (const array of [mesh.position, mesh.normal, mesh.uv]) expect(array.every(Number.isFinite)).toBe(true);
          expect(topologyOf(mesh).openEdges).toBe(0);
          expect(signedVolume(mesh)).toBeGreaterThan(0);
        }
        const mesh = realMesh(build.parts[0]);
        const welded = new manifold.Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index });
        welded.merge();
        const body = new manifold.Manifold(welded);
        expect(body.status()).toBe('NoError');
        body.delete();
      }),
      { numRuns: 60 },
    );
  });
});
