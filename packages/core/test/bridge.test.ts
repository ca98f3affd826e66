import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  evaluatePiece,
  HOME,
  type Mesh,
  newPiece,
  newUse,
  type Placement,
  realMesh,
  Surface,
  Surroundings,
  topologyOf,
  World,
} from '../src/index.js';
import { placementMatrix } from '../src/mesh/transform.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Place = readonly [number, number, number];
type Bare = Pick<Mesh, 'position' | 'index'>;

/** A tube along y from 0 to 1, open at its top; its foot closed, its top too where it is a column. */
function tube(sides: number, radius: number, column = false): Bare {
  const position: number[] = [];
  for (const y of [0, 1])
    for (let k = 0; k < sides; k++)
      position.push(radius * Math.cos((2 * Math.PI * k) / sides), y, radius * Math.sin((2 * Math.PI * k) / sides));
  const index: number[] = [];
  for (let k = 0; k < sides; k++) {
    const next = (k + 1) % sides;
    index.push(k, sides + k, next, next, sides + k, sides + next);
    if (k > 0 && k < sides - 1) {
      index.push(0, k, k + 1);
      if (column) index.push(sides, sides + k + 1, sides + k);
    }
  }
  return { position: Float32Array.from(position), index: Uint32Array.from(index) };
}

interface Prop {
  mesh: Bare;
  at?: Partial<Placement>;
}

/** What a bridge makes of two props, from one place to the other. */
function bridged(props: readonly Prop[], from: Place, to: Place, change: object = {}) {
  const { document, piece } = alongPoints([from, to], (one) => {
    one.make = newUse('make', 'bridge');
    Object.assign(one.make.parameters, change);
  });
  const surfaces = new Map<string, Surface>();
  const placed = props.map(({ mesh, at }, i) => {
    const placement = { ...HOME, ...at };
    const id = `prop ${i}`;
    document.props.push({ id, name: id, mesh: id, placement, visible: true, colour: '#cccccc' });
    surfaces.set(id, Surface.of(mesh, placement));
    return inWorld(mesh, placement);
  });
  const build = evaluatePiece(new World(document, new Surroundings(surfaces)), piece);
  const [part] = build.parts;
  return { build, mesh: part ? realMesh(part) : undefined, placed, codes: build.findings.map(({ code }) => code) };
}

function inWorld({ position, index }: Bare, placement: Placement): Bare {
  const m = placementMatrix(placement);
  const out = new Float32Array(position.length);
  for (let i = 0; i < out.length; i += 3)
    for (let n = 0; n < 3; n++)
      out[i + n] = m[n] * position[i] + m[4 + n] * position[i + 1] + m[8 + n] * position[i + 2] + m[12 + n];
  return { position: out, index };
}

/** The bridge and what it is on as one mesh. */
function together(...meshes: Bare[]): Bare {
  const position: number[] = [];
  const index: number[] = [];
  for (const mesh of meshes) {
    const first = position.length / 3;
    position.push(...mesh.position);
    index.push(...Array.from(mesh.index, (v) => v + first));
  }
  return { position: Float32Array.from(position), index: Uint32Array.from(index) };
}

const needed = (mesh: Mesh | undefined): Mesh => {
  if (!mesh) throw new Error('Nothing was made');
  return mesh;
};

/** The least cosine between a face's own normal and those of its corners. */
function worstFace({ position, normal, index }: Mesh): number {
  let worst = 1;
  for (let f = 0; f < index.length; f += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => position.subarray(3 * index[f + k], 3 * index[f + k] + 3));
    const [u, v] = [b, c].map((p) => [p[0] - a[0], p[1] - a[1], p[2] - a[2]]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(...n);
    if (size < 1e-10) continue;
    for (let k = 0; k < 3; k++) {
      const w = normal.subarray(3 * index[f + k], 3 * index[f + k] + 3);
      worst = Math.min(worst, (n[0] * w[0] + n[1] * w[1] + n[2] * w[2]) / size);
    }
  }
  return worst;
}

const keysOf = (position: Float32Array, keep: (y: number) => boolean): Set<string> =>
  new Set(
    Array.from({ length: position.length / 3 }, (_, v) => v)
      .filter((v) => keep(position[3 * v + 1]))
      .map((v) => [...position.subarray(3 * v, 3 * v + 3)].join()),
  );

const right: Placement['position'] = [1, 0, 0];

describe('a bridge', () => {
  it.each([
    ['two tubes of as many sides', 16, 16],
    ['rims of different counts', 12, 31],
    ['a triangle and a round', 3, 48],
  ])('joins %s vertex for vertex: with both it is one watertight body without a hole', (_name, n, m) => {
    const props = [{ mesh: tube(n, 0.1) }, { mesh: tube(m, 0.15), at: { position: right } }];
    const { mesh, placed, codes } = bridged(props, [0, 1, 0], [1, 1, 0]);
    expect(codes).toEqual([]);
    const one = needed(mesh);
    expect(topologyOf(one)).toMatchObject({ openEdges: n + m, shells: 1, euler: 0 });
    expect(topologyOf(together(one, ...placed))).toMatchObject({ openEdges: 0, shells: 1, euler: 2 });
    // the rims are the props' own places to the bit
    const own = keysOf(one.position, (y) => y === 1);
    for (const prop of placed) for (const key of keysOf(prop.position, (y) => y === 1)) expect(own.has(key)).toBe(true);
    expect(worstFace(one)).toBeGreaterThan(0.5);
  });

  it('stands on the flat tops of closed columns, and is an arch: its course a half circle to a Bézier’s 1.9 %', () => {
    const props = [{ mesh: tube(24, 0.1, true) }, { mesh: tube(24, 0.1, true), at: { position: right } }];
    const { build, mesh, codes } = bridged(props, [0.05, 1, 0.02], [0.97, 1, 0]);
    expect(codes).toEqual([]);
    expect(topologyOf(needed(mesh))).toMatchObject({ openEdges: 48, shells: 1 });
    for (let i = 0; i < build.guide.position.length; i += 3) {
      const [x, y] = build.guide.position.subarray(i, i + 2);
      expect(Math.abs(Math.hypot(x - 0.5, y - 1) / 0.5 - 1)).toBeLessThan(0.019);
    }
  });

  it('is a true quarter bend between pipe ends at a right angle (a Bézier arc of 90° is off by 0.03 %)', () => {
    const half = Math.SQRT1_2;
    // the second tube lies along −x and opens at x = 0.5
    const lying = { position: [1.5, 1.5, 0], rotation: [0, 0, half, half] } as Partial<Placement>;
    const { build, codes } = bridged(
      [{ mesh: tube(20, 0.1) }, { mesh: tube(20, 0.1), at: lying }],
      [0, 1, 0],
      [0.5, 1.5, 0],
    );
    expect(codes).toEqual([]);
    for (let i = 0; i < build.guide.position.length; i += 3) {
      const [x, y] = build.guide.position.subarray(i, i + 2);
      expect(Math.abs(Math.hypot(x - 0.5, y - 1) - 0.5)).toBeLessThan(0.5 * 0.0004);
    }
  });

  it.each([{ middle: 1 }, { middle: 0.4 }, { middle: 2, fullness: 1.6 }, { turns: 1 }])(
    'leaves both openings square: %o',
    (change) => {
      const props = [{ mesh: tube(32, 0.08) }, { mesh: tube(32, 0.08), at: { position: right } }];
      const { mesh, build } = bridged(props, [0, 1, 0], [1, 1, 0], { rings: 120, ...change });
      const { position, normal } = needed(mesh);
      for (let v = 0; v < position.length; v += 3)
        if (position[v + 1] === 1) expect(Math.abs(normal[v + 1])).toBeLessThan(1e-6);
      // the middle ring is as thick as asked
      const rings = build.guide.position.length / 3;
      const at = Math.floor((rings - 1) / 2);
      const center = build.guide.position.subarray(3 * at, 3 * at + 3);
      const columns = position.length / 3 / rings;
      const radius = Math.hypot(...[0, 1, 2].map((n) => position[3 * at * columns + n] - center[n]));
      expect(radius / 0.08).toBeCloseTo(change.middle ?? 1, 2);
    },
  );

  it('goes on as the walls go, where it is to', () => {
    // a tube that opens out like a funnel
    const funnel = tube(24, 0.1);
    for (let k = 0; k < 24; k++) for (const n of [0, 2]) funnel.position[3 * (24 + k) + n] *= 1.8;
    const ends = [
      { mesh: funnel },
      { mesh: tube(24, 0.18), at: { position: [0, 3, 0], rotation: [1, 0, 0, 0] } as Partial<Placement> },
    ];
    const slope = (leave: string) => {
      const { mesh } = bridged(ends, [0, 1, 0], [0, 2, 0], { leave, rings: 200 });
      const { position, normal } = needed(mesh);
      const v = 3 * [...Array(position.length / 3).keys()].findIndex((at) => position[3 * at + 1] === 1);
      return -normal[v + 1] / Math.hypot(normal[v], normal[v + 2]);
    };
    expect(slope('square')).toBeCloseTo(0, 5);
    // walls that go out by 0.08 in 1: of a funnel of 24 sides, nearly
    expect(slope('walls')).toBeCloseTo(0.08, 2);
  });

  it('twists least, and meets other corners where it is reported', () => {
    const props = [{ mesh: tube(4, 0.1) }, { mesh: tube(4, 0.1), at: { position: right } }];
    const course = (shift: number) => {
      const { mesh, build } = bridged(props, [0, 1, 0], [1, 1, 0], { shift });
      const { position } = needed(mesh);
      const columns = position.length / 3 / (build.guide.position.length / 3);
      // how far a corner of the ring goes round its course on the way
      const last = position.length / 3 - columns;
      return [position.slice(0, 3), position.slice(3 * last, 3 * last + 3)];
    };
    const [from, to] = course(0);
    // an arch over x mirrors what looks outwards
    expect([...to]).toEqual([1 - from[0], 1, from[2]].map((v) => expect.closeTo(v, 5)));
    expect(course(1)[1]).not.toEqual(to);
    expect(course(4)[1]).toEqual(to);
  });

  it('is the same whatever scale and turn its props carry', () => {
    const plain = bridged(
      [{ mesh: tube(16, 0.1) }, { mesh: tube(16, 0.1), at: { position: right } }],
      [0, 1, 0],
      [1, 1, 0],
    );
    const small = { ...tube(16, 0.1), position: tube(16, 0.1).position.map((v) => v / 4) };
    const scaled = bridged(
      [{ mesh: tube(16, 0.1) }, { mesh: small, at: { position: right, scale: 4, rotation: [0, 1, 0, 0] } }],
      [0, 1, 0],
      [1, 1, 0],
    );
    const [a, b] = [plain, scaled].map((one) => realMesh(one.build.parts[0]));
    // turned by half a turn about its axis the rim's places are the same ones
    a.position.forEach((value, i) => {
      expect(b.position[i]).toBeCloseTo(value, 5);
    });
  });

  it('meets the ends of other pieces, where they are named: open ones and flat ones', () => {
    for (const end of ['open', 'flat']) {
      const { document, piece } = alongPoints(
        [
          [0, 1, 0],
          [1, 1, 0],
        ],
        (one) => {
          one.make = newUse('make', 'bridge');
          one.make.parameters['pieces'] = ['cable', 'other'];
        },
      );
      const [line] = document.curves;
      for (const [id, x] of [
        ['cable', 0],
        ['other', 1],
      ] as const) {
        document.curves.push({
          ...line,
          id,
          points: [
            [x, 0, 0],
            [x, 1, 0],
          ].map((position) => ({ ...line.points[0], position: position as [number, number, number] })),
        });
        const cable = newPiece(id, id, [id], false);
        Object.assign(cable.make.parameters, { radius: 0.05, sides: 12, start: 'flat', end });
        document.pieces.push(cable);
      }
      const world = new World(document, new Surroundings(new Map()));
      const build = evaluatePiece(world, piece);
      expect(build.findings.map(({ code }) => code)).not.toContain('no-opening');
      const mesh = realMesh(build.parts[0]);
      expect(topologyOf(mesh)).toMatchObject({ openEdges: 24, shells: 1, euler: 0 });
      const cables = document.pieces.slice(1).map((one) => realMesh(evaluatePiece(world, one).parts[0]));
      // without their caps they close it
      if (end === 'open') expect(topologyOf(together(mesh, ...cables))).toMatchObject({ openEdges: 0, shells: 1 });
    }
  });

  it('without an opening at an end is round there, and says so; between an opening and itself there is none', () => {
    const alone = bridged([{ mesh: tube(16, 0.1) }], [0, 1, 0], [2, 3, 0], { radius: 0.2 });
    expect(alone.codes).toContain('no-opening');
    expect(topologyOf(needed(alone.mesh))).toMatchObject({ openEdges: 16 + 32, shells: 1 });
    const same = bridged([{ mesh: tube(16, 0.1) }], [0.02, 1, 0], [-0.02, 1, 0]);
    expect(same.codes).toContain('same-opening');
    expect(same.mesh).toBeUndefined();
    expect(bridged([], [0, 0, 0], [0, 1, 0]).codes).toContain('no-opening');
  });

  it('between rims of very many places has fewer rings, and reports it', () => {
    const props = [{ mesh: tube(2000, 0.1) }, { mesh: tube(40, 0.1), at: { position: right } }];
    const { mesh, codes } = bridged(props, [0, 1, 0], [1, 1, 0], { rings: 2000 });
    expect(codes).toContain('fewer-rings');
    expect(needed(mesh).position.length / 3).toBeLessThan(1_600_000);
    expect(bridged(props, [0, 1, 0], [1, 1, 0], { rings: 20 }).codes).not.toContain('fewer-rings');
  });

  it('between any two openings is finite, sound and joined to both', () => {
    const part = evenly(-1, 1);
    const turn = fc.tuple(part, part, part, part).filter((q) => Math.hypot(...q) > 0.2);
    const sides = fc.integer({ min: 3, max: 40 });
    const width = fc.double({ min: 0.03, max: 0.2, noNaN: true });
    fc.assert(
      fc.property(sides, sides, width, width, turn, (n, m, r, s, q) => {
        const size = Math.hypot(...q);
        const rotation = q.map((v) => v / size) as Placement['rotation'];
        const at = { position: [1.5, 2, 1] as Placement['position'], rotation };
        const [x, y, z, w] = rotation;
        // where the turned tube's mouth stands
        const mouth: Place = [1.5 + 2 * (x * y - z * w), 2 + 1 - 2 * (x * x + z * z), 1 + 2 * (y * z + x * w)];
        const { mesh, placed } = bridged([{ mesh: tube(n, r) }, { mesh: tube(m, s), at }], [0, 1, 0], mouth);
        const one = needed(mesh);
        for (const array of [one.position, one.normal, one.uv]) expect(array.every(Number.isFinite)).toBe(true);
        expect(topologyOf(one)).toMatchObject({ openEdges: n + m, shells: 1, euler: 0 });
        expect(topologyOf(together(one, ...placed)).openEdges).toBe(0);
      }),
      { numRuns: 100 },
    );
  });
});
