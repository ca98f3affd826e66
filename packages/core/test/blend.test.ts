import fc from 'fast-check';
import Module from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import { evaluatePiece, type Mesh, newUse, Surroundings, signedVolume, topologyOf, World } from '../src/index.js';
import { blendedAt, blendOf } from '../src/section/blend/blend.js';
import { FORMS, type Form, formSection } from '../src/section/forms.js';
import { alongPoints } from './projects.js';

type Place = [number, number, number];
const STRAIGHT: Place[] = [
  [0, 0, 0],
  [0.5, 0, 0],
  [1, 0, 0],
];
const LINES: Record<string, { points: Place[]; closed?: boolean; corners?: boolean }> = {
  straight: { points: STRAIGHT },
  bent: {
    points: [
      [0, 0, 0],
      [0.5, 0.1, 0],
      [1, 0, 0.3],
      [1.4, 0.4, 0],
    ],
  },
  cornered: {
    points: [
      [0, 0, 0],
      [0.5, 0.1, 0],
      [1, 0, 0.3],
      [1.4, 0.4, 0],
    ],
    corners: true,
  },
  closed: {
    points: [
      [0, 0, 0],
      [1, 0, 0.1],
      [1, 0.2, 1],
      [0, 0, 1],
    ],
    closed: true,
  },
};
const forms = FORMS.map(({ value }) => value);
const HOLLOW: readonly Form[] = ['tube', 'box-tube'];
const NUMBERS = { width: 1.4, sides: 20, points: 6, wall: 0.25, depth: 0.3, rounding: 0.3 };
const lane = (...values: number[]) => ({
  knots: values.map((value, k) => ({ at: k / (values.length - 1), value })),
  ease: 'straight',
});

function built(line: keyof typeof LINES, make: object) {
  const { points, closed = false, corners = false } = LINES[line];
  const { document, piece } = alongPoints(points, (one) => {
    one.make = newUse('make', 'sweep');
    Object.assign(one.make.parameters, { radius: 0.02, ...NUMBERS, start: 'flat', end: 'flat' }, make);
  });
  document.curves[0].closed = closed;
  for (const point of document.curves[0].points) point.corner = corners;
  const { parts, findings } = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  if (parts[0]?.kind !== 'mesh') throw new Error('A sweep is a mesh');
  return { mesh: parts[0].mesh, findings };
}

/** y and z over the half height of the places of the ring at x, by where they are. */
const ringAt = ({ position }: Mesh, x: number): [number, number][] =>
  Array.from({ length: position.length / 3 }, (_, v) => position.subarray(3 * v, 3 * v + 3))
    .filter((place) => Math.abs(place[0] - x) < 1e-6)
    .map(([, y, z]) => [y / 0.02, z / 0.02]);

let manifold: Awaited<ReturnType<typeof Module>>;
beforeAll(async () => {
  manifold = await Module();
  manifold.setup();
});

describe('one section that becomes another', () => {
  const any = fc.record({
    form: fc.constantFrom(...forms),
    becomes: fc.constantFrom(...forms),
    thenBecomes: fc.oneof(fc.constant('same' as const), fc.constantFrom(...forms)),
    line: fc.constantFrom(...Object.keys(LINES)),
    ends: fc.constantFrom('flat', 'round', 'pointed', 'chamfered', 'plate'),
    share: fc.oneof(fc.constant(1), fc.constant(lane(0, 1, 0)), fc.constant(lane(0.3, 0.8, 0.3))),
    twist: fc.constantFrom(0, 0.7),
  });

  it('is watertight, its faces outwards, of one piece and finite, whatever becomes what; or it is reported', () => {
    fc.assert(
      fc.property(any, ({ line, ends, ...make }) => {
        const { form, becomes, thenBecomes } = make;
        const { mesh, findings } = built(line, { ...make, start: ends, end: ends });
        const stages = [form, becomes, ...(thenBecomes === 'same' ? [] : [thenBecomes])];
        const unlike = new Set(stages.map((one) => HOLLOW.includes(one))).size > 1;
        expect(findings.some(({ code }) => code === 'profiles-unlike')).toBe(unlike);
        for (const array of [mesh.position, mesh.normal, mesh.uv]) expect(array.every(Number.isFinite)).toBe(true);
        expect(topologyOf(mesh).openEdges).toBe(0);
        const welded = new manifold.Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index });
        welded.merge();
        const body = new manifold.Manifold(welded);
        expect(body.status()).toBe('NoError');
        expect(body.genus()).toBe(line === 'closed' || HOLLOW.includes(form) ? 1 : 0);
        const volume = signedVolume(mesh);
        expect(volume).toBeGreaterThan(0);
        if (findings.some(({ code }) => code === 'blend-crosses')) return body.delete();
        // manifold-3d welds the slivers where a corner opens
        expect(body.volume() / volume).toBeCloseTo(1, 3);
        body.delete();
      }),
      { numRuns: 150 },
    );
  });

  it('is one after the other along its way, corner on corner', () => {
    const corners = (form: Form) => formSection(form, { ...NUMBERS, rounding: 0 });
    const likes = [forms.filter((form) => HOLLOW.includes(form)), forms.filter((form) => !HOLLOW.includes(form))];
    const way = fc
      .constantFrom(...likes)
      .chain((like) => fc.array(fc.constantFrom(...like), { minLength: 2, maxLength: 4 }));
    fc.assert(
      fc.property(way, (stages) => {
        const [form, becomes, thenBecomes = 'same', lastBecomes = 'same'] = stages;
        // this many cuts that rings stand at thirds and halves
        const make = { form, becomes, thenBecomes, lastBecomes, rounding: 0, start: 'open', end: 'open', inAll: 61 };
        const { mesh } = built('straight', make);
        for (const [k, one] of stages.entries()) {
          const x = k / (stages.length - 1);
          const ring = ringAt(mesh, x);
          const { x: up, y: side } = corners(one);
          // at the start of the line its top is up, its second axis +z
          for (let k = 0; k < up.length; k++)
            expect(Math.min(...ring.map(([y, z]) => Math.hypot(y - up[k], z - side[k])))).toBeLessThan(1e-4);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('reports where the outline on its way crosses itself, and not where it does not', () => {
    const codes = (form: Form, becomes: Form) => built('straight', { form, becomes }).findings.map(({ code }) => code);
    expect(codes('crescent', 'beam')).toEqual(['blend-crosses']);
    expect(codes('tube', 'round')).toEqual(['profiles-unlike']);
    expect(codes('tube', 'box-tube')).toEqual([]);
    expect(codes('beam', 'box')).toEqual([]);
  });

  it('from a square to a circle encloses what the prismoidal formula says, L/6·(A₀ + 4A½ + A₁) (any geometry text)', () => {
    // halfway, by its own means: the square's places by length from its first corner, the circle's by angle
    const count = 4000;
    const middle = Array.from({ length: count }, (_, i): [number, number] => {
      const s = (4 * i) / count;
      const [leg, t] = [Math.floor(s), 2 * (s - Math.floor(s)) - 1];
      const square = [
        [1, t],
        [-t, 1],
        [-1, -t],
        [t, -1],
      ][leg];
      const angle = (2 * Math.PI * i) / count - Math.PI / 4;
      return [(square[0] + Math.cos(angle)) / 2, (square[1] + Math.sin(angle)) / 2];
    });
    const area = middle.reduce((sum, [x, y], i) => {
      const [bx, by] = middle[(i + 1) % count];
      return sum + (x * by - bx * y) / 2;
    }, 0);
    const { mesh } = built('straight', { form: 'box', becomes: 'round', rounding: 0, width: 1, sides: 256, cuts: 200 });
    expect(signedVolume(mesh) / ((0.02 ** 2 * (4 + 4 * area + Math.PI)) / 6)).toBeCloseTo(1, 3);
  });

  it('has at every share normals square to its faces, and of length 1', () => {
    const blend = blendOf(
      (['polygon', 'box', 'star'] as const).map((form) => formSection(form, { ...NUMBERS, rounding: 0 })),
    );
    if (!blend) throw new Error('A polygon and a box blend');
    for (const share of [0, 0.2, 0.5, 0.9, 1]) {
      const { x, y, normalX, normalY, face } = blendedAt(blend, share);
      for (const k of face) {
        const [dx, dy] = [x[k + 1] - x[k], y[k + 1] - y[k]];
        const length = Math.hypot(dx, dy);
        if (length < 1e-6) continue;
        expect(Math.abs(dx * normalX[k] + dy * normalY[k]) / length).toBeLessThan(1e-6);
        expect(Math.hypot(normalX[k], normalY[k])).toBeCloseTo(1, 9);
        expect(dy * normalX[k] - dx * normalY[k]).toBeGreaterThan(0);
      }
    }
  });

  it('has the normals of its faces as they become small, on round and on flat sides', () => {
    for (const [form, becomes, thenBecomes = 'same'] of [
      ['box', 'round'],
      ['round', 'half-round'],
      ['polygon', 'box'],
      ['round', 'polygon'],
      ['round', 'half-round', 'round'],
    ]) {
      const make = {
        form,
        becomes,
        thenBecomes,
        radius: [form, becomes].includes('polygon') ? 0.02 : 0.3,
        rounding: 0,
        width: 1,
        sides: 200,
        cuts: 400,
        start: 'open',
        end: 'open',
      };
      const { position, normal, index } = built('straight', make).mesh;
      let worst = 1;
      for (let f = 0; f < index.length; f += 3) {
        const [a, b, c] = [0, 1, 2].map((k) => position.subarray(3 * index[f + k], 3 * index[f + k] + 3));
        const [u, v] = [b, c].map((place) => place.map((value, k) => value - a[k]));
        const cross = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
        const size = Math.hypot(...cross);
        // where a corner opens its first faces are slivers
        if (size < 1e-9) continue;
        const n = normal.subarray(3 * index[f], 3 * index[f] + 3);
        worst = Math.min(worst, (cross[0] * n[0] + cross[1] * n[1] + cross[2] * n[2]) / size);
      }
      expect(worst, `${form} ${becomes}`).toBeGreaterThan(Math.cos(0.06));
    }
  });

  it('turns no further than it must: what is one way goes to what is the same way', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 12 }), fc.integer({ min: 3, max: 12 }), (a, b) => {
        const stages = [a, b].map((points) => formSection('polygon', { ...NUMBERS, width: 1, rounding: 0, points }));
        const blend = blendOf(stages);
        if (!blend) throw new Error('Polygons blend');
        const [from, to] = blend.stages;
        for (let k = 0; k < from.x.length; k++) {
          const turn = from.x[k] * to.y[k] - from.y[k] * to.x[k];
          const same = from.x[k] * to.x[k] + from.y[k] * to.y[k];
          expect(Math.abs(Math.atan2(turn, same))).toBeLessThan(Math.PI / Math.min(a, b) + 1e-6);
        }
        expect(blendedAt(blend, 0.5).domed).toBe(true);
      }),
    );
  });
});
