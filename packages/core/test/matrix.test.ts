import fc from 'fast-check';
import Module from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import { curveLengths, evaluatePiece, type Mesh, newUse, Surroundings, topologyOf, World } from '../src/index.js';
import { FORMS, type Form, formSection } from '../src/section/forms.js';
import { evenly, polygonShare } from './helpers.js';
import { alongPoints } from './projects.js';

// Every section × end × line × lane of what is swept: measured on the mesh, not on what it was made from.

type Place = [number, number, number];
type Lane = { knots: { at: number; value: number }[]; ease: 'straight' };

const lane = (from: number, to: number): Lane => ({
  knots: [
    { at: 0, value: from },
    { at: 1, value: to },
  ],
  ease: 'straight',
});
const number = (min: number, max: number) => evenly(min, max);
const along = (arbitrary: fc.Arbitrary<number>) =>
  fc.oneof(
    arbitrary.map((value) => [value, value]),
    fc.tuple(arbitrary, arbitrary),
  );

interface Drawn {
  points: readonly Place[];
  closed?: boolean;
  corners?: boolean;
  /** Thickness share and roll of the first and the last drawn point. */
  shares?: readonly [number, number];
  rolls?: readonly [number, number];
}

/** The mesh of a cable along a drawn line; of a sweep where a form is named. */
const swept = (drawn: Drawn, make: object): Mesh => builtOf(drawn, make).mesh;

/** The same with the line it runs on, metres. */
function builtOf(
  { points, closed = false, corners = false, shares = [1, 1], rolls = [0, 0] }: Drawn,
  make: object,
): { mesh: Mesh; length: number } {
  const { document, piece } = alongPoints(points, (one) => {
    if ('form' in make) one.make = newUse('make', 'sweep');
    Object.assign(one.make.parameters, make);
  });
  const [curve] = document.curves;
  curve.closed = closed;
  curve.points.forEach((point, i) => {
    const t = i / (points.length - 1);
    point.corner = corners;
    point.radius = shares[0] + t * (shares[1] - shares[0]);
    if (rolls[0] !== 0 || rolls[1] !== 0) point.roll = rolls[0] + t * (rolls[1] - rolls[0]);
  });
  const { parts, guide } = evaluatePiece(new World(document, new Surroundings(new Map())), piece);
  if (parts[0]?.kind !== 'mesh') throw new Error('A cable is a mesh');
  return { mesh: parts[0].mesh, length: curveLengths(guide)[0] };
}

/** Vertices of a mesh along the x axis by where they are on it: y and z of each. */
function ringsAlongX({ position }: Mesh): Map<number, [number, number][]> {
  const rings = new Map<number, [number, number][]>();
  for (let v = 0; v < position.length; v += 3) {
    const x = Math.round(position[v] * 1e5) / 1e5;
    rings.set(x, [...(rings.get(x) ?? []), [position[v + 1], position[v + 2]]]);
  }
  return rings;
}

/** The volume a mesh encloses, and the least cosine between a face's own normal and that of one of its vertices. */
function facesOf({ position, normal, index }: Mesh): { volume: number; worst: number } {
  let volume = 0;
  let worst = 1;
  for (let f = 0; f < index.length; f += 3) {
    const [a, b, c] = [3 * index[f], 3 * index[f + 1], 3 * index[f + 2]];
    const [ux, uy, uz] = [0, 1, 2].map((k) => position[b + k] - position[a + k]);
    const [vx, vy, vz] = [0, 1, 2].map((k) => position[c + k] - position[a + k]);
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    volume += (position[a] * x + position[a + 1] * y + position[a + 2] * z) / 6;
    const size = Math.hypot(x, y, z);
    if (size < 1e-9) continue;
    for (const v of [a, b, c]) worst = Math.min(worst, (normal[v] * x + normal[v + 1] * y + normal[v + 2] * z) / size);
  }
  return { volume, worst };
}

const STRAIGHT: Place[] = [
  [0, 0, 0],
  [0.25, 0, 0],
  [0.5, 0, 0],
  [0.75, 0, 0],
  [1, 0, 0],
];

describe('along a straight metre', () => {
  const drawn = fc.tuple(number(0.5, 2), number(0.5, 2), number(-2, 2), number(-2, 2));
  const lanes = fc.tuple(along(number(0.005, 0.05)), along(number(-3, 3)), along(number(-2, 2)));

  it('each ring is as thick as its lane times what was drawn, and turned by roll, twist and what was drawn', () => {
    fc.assert(
      fc.property(lanes, drawn, ([radius, roll, twist], [shareA, shareB, rollA, rollB]) => {
        const mesh = swept(
          { points: STRAIGHT, shares: [shareA, shareB], rolls: [rollA, rollB] },
          {
            section: 'box',
            width: 4,
            rounding: 0,
            start: 'open',
            end: 'open',
            radius: lane(radius[0], radius[1]),
            roll: lane(roll[0], roll[1]),
            twist: lane(twist[0], twist[1]),
          },
        );
        const rings = ringsAlongX(mesh);
        expect(rings.size).toBeGreaterThan(10);
        for (const [t, places] of rings) {
          const half = (radius[0] + t * (radius[1] - radius[0])) * (shareA + t * (shareB - shareA));
          // half the diagonal of a box four times as wide as high
          const reach = Math.max(...places.map(([y, z]) => Math.hypot(y, z)));
          expect(reach / half).toBeCloseTo(Math.hypot(1, 4), 3);
          const turns = twist[0] * t + ((twist[1] - twist[0]) * t * t) / 2;
          const turn = roll[0] + t * (roll[1] - roll[0]) + rollA + t * (rollB - rollA) + 2 * Math.PI * turns;
          // its flat sides lie half a height to both sides of the line, square to the turned normal (up at 0, then towards
          // the binormal: along +x that is +z)
          for (const [y, z] of places)
            expect(Math.abs(y * Math.cos(turn) + z * Math.sin(turn)) / half).toBeCloseTo(1, 2);
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe('the normals of a straight metre', () => {
  it('are those of the surface, by finite differences in double precision (S_x × S_t, any text on surfaces)', () => {
    const size = fc.tuple(number(0.01, 0.05), number(0.01, 0.05));
    const turns = fc.tuple(number(-2, 2), number(-2, 2), number(-1, 1));
    const broad = fc.tuple(number(0.4, 4), number(0.4, 4));
    const stands = fc.tuple(number(-1, 1), number(-1, 1), number(-1, 1), number(-1, 1));
    fc.assert(
      fc.property(size, turns, broad, stands, ([r0, r1], [roll0, roll1, twist], [w0, w1], [up0, up1, side0, side1]) => {
        const make = {
          form: 'box',
          rounding: 0,
          start: 'open',
          end: 'open',
          cuts: 200,
          twist,
          radius: lane(r0, r1),
          roll: lane(roll0, roll1),
          width: lane(w0, w1),
          rise: lane(up0, up1),
          aside: lane(side0, side1),
        };
        const mesh = swept({ points: STRAIGHT }, make);
        /** What the section is at x: half its height and width, where its middle stands, and how it is turned. */
        const at = (x: number) => {
          const [r, w] = [r0 + x * (r1 - r0), w0 + x * (w1 - w0)];
          const [up, side] = [r * (up0 + x * (up1 - up0)), r * w * (side0 + x * (side1 - side0))];
          const turn = roll0 + x * (roll1 - roll0) + 2 * Math.PI * twist * x;
          return { r, wide: r * w, up, side, cos: Math.cos(turn), sin: Math.sin(turn) };
        };
        /** A place of the section at x: along its normal (up at 0) and its binormal (+z). */
        const placeAt = (x: number, a: number, b: number) => {
          const { r, wide, up, side, cos, sin } = at(x);
          const [p, q] = [r * a + up, wide * b + side];
          return [x, p * cos - q * sin, p * sin + q * cos];
        };
        let [worst, off] = [1, 0];
        for (let v = 0; v < mesh.position.length; v += 3) {
          const [x, y, z] = mesh.position.subarray(v, v + 3);
          // differences of rings stand on both sides of one: at the ends they are on one side
          if (x < 0.01 || x > 0.99) continue;
          const { r, wide, up, side, cos, sin } = at(x);
          const a = (y * cos + z * sin - up) / r;
          const b = (z * cos - y * sin - side) / wide;
          const step = 1e-6;
          const [before, after] = [placeAt(x - step, a, b), placeAt(x + step, a, b)];
          const along = after.map((value, k) => (value - before[k]) / (2 * step));
          // a corner belongs to two sides: one of them is this vertex's
          const sides = [
            [Math.sign(a), 0],
            [0, Math.sign(b)],
          ].map(([na, nb]) => {
            const [p, q] = [placeAt(x, a - nb, b + na), placeAt(x, a + nb, b - na)];
            const t = p.map((value, k) => value - q[k]);
            const cross = [
              t[1] * along[2] - t[2] * along[1],
              t[2] * along[0] - t[0] * along[2],
              t[0] * along[1] - t[1] * along[0],
            ];
            const n = mesh.normal.subarray(v, v + 3);
            return (cross[0] * n[0] + cross[1] * n[1] + cross[2] * n[2]) / Math.hypot(...cross);
          });
          worst = Math.min(worst, Math.max(...sides));
          off = Math.max(off, Math.abs(Math.abs(a) - 1), Math.abs(Math.abs(b) - 1));
        }
        expect(off).toBeLessThan(0.0005);
        expect(worst).toBeGreaterThan(Math.cos(0.01));
      }),
      { numRuns: 25 },
    );
  });
});

const RING: Place[] = [
  [0, 0, 0],
  [1, 0, 0.1],
  [1, 0.2, 1],
  [0, 0, 1],
];

describe('round a closed line', () => {
  it('the twist is whole turns: a corner of the section goes round in even steps, over the seam too', () => {
    fc.assert(
      fc.property(number(-3, 3), (twist) => {
        const { position, uv } = swept(
          { points: RING, closed: true },
          { section: 'box', rounding: 0, radius: 0.05, twist },
        );
        const corner = [...uv.keys()].filter((n) => n % 2 === 0 && uv[n] === uv[0]).map((n) => n / 2);
        corner.sort((a, b) => uv[2 * a + 1] - uv[2 * b + 1]);
        const steps = corner.slice(1).map((v, i) => {
          const w = corner[i];
          return Math.hypot(...[0, 1, 2].map((k) => position[3 * v + k] - position[3 * w + k]));
        });
        const sorted = steps.toSorted((a, b) => a - b);
        expect(sorted.length).toBeGreaterThan(20);
        expect(sorted[sorted.length - 1]).toBeLessThan(3 * sorted[sorted.length >> 1]);
      }),
      { numRuns: 40 },
    );
  });
});

describe('every section, end and line', () => {
  let manifold: Awaited<ReturnType<typeof Module>>;
  beforeAll(async () => {
    manifold = await Module();
    manifold.setup();
  });
  type Swept = { section: string; sides?: number; width?: number; rounding?: number; form?: Form };
  const sections: Swept[] = [
    { section: 'round', sides: 12 },
    { section: 'polygon', sides: 3 },
    { section: 'box', width: 3, rounding: 0.4 },
    { section: 'box', width: 0.3, rounding: 0 },
  ];
  const forms: Swept[] = FORMS.map(({ value }) => ({ section: value, form: value, width: 1.4, sides: 16 }));
  const bend: Place[] = [
    [0, 0, 0],
    [0.5, 0.1, 0],
    [1, 0, 0.3],
    [1.4, 0.4, 0],
  ];
  const lines: Record<string, Drawn> = {
    open: { points: bend },
    closed: { points: RING, closed: true },
    cornered: { points: bend, corners: true },
    'closed and cornered': { points: RING, closed: true, corners: true },
  };
  // on a closed line a lane comes back to where it began
  const there = (from: number, to: number) => ({
    knots: [...lane(from, to).knots.map(({ at, value }) => ({ at: at / 2, value })), { at: 1, value: from }],
    ease: 'straight',
  });
  const lanes: Record<string, object> = {
    even: {},
    tapered: { radius: there(0.01, 0.03) },
    rolled: { roll: there(0, 2) },
    twisted: { twist: 1.3 },
    'all at once': { radius: there(0.03, 0.01), roll: there(-1, 1), twist: there(0, 2) },
  };
  /** What only the sweep knows. */
  const beside = { beside: { width: there(1.4, 0.6), rise: there(-1, 1), aside: there(0.5, 0) } };
  const ends = (line: string, name: string, section: Swept) =>
    lines[line].closed
      ? ['flat']
      : [
          ...['flat', 'round', 'open'],
          ...(section.form && ['even', 'beside'].includes(name) ? ['pointed', 'chamfered', 'plate'] : []),
        ];
  const all = [...sections, ...forms].flatMap((section) =>
    Object.keys(lines).flatMap((line) =>
      Object.keys(section.form ? { ...lanes, ...beside } : lanes).flatMap((name) =>
        ends(line, name, section).map((end) => ({ section, line, lane: name, ends: end })),
      ),
    ),
  );

  // not those that twist: their quads are two flat triangles each, which cut the same corner all along
  it.each(
    all.filter(
      ({ ends, lane: name, section }) =>
        !section.form && ends === 'flat' && ['even', 'tapered', 'rolled'].includes(name),
    ),
  )(
    'encloses area · length (Pappus-Guldinus): $section.section $section.sides $line $lane',
    ({ section, line, lane: name }) => {
      const fine = { radius: 0.02, ...section, ...lanes[name], start: 'flat', end: 'flat', bendStep: 0.02, cuts: 100 };
      const { mesh, length } = builtOf(lines[line], fine);
      const rounded = section.rounding ?? 0;
      const shape =
        section.sides === undefined
          ? 4 * section.width! - (4 - Math.PI) * (rounded * Math.min(1, section.width!)) ** 2
          : Math.PI * polygonShare(section.sides);
      // a lane that goes from 10 to 30 mm and back: the mean of its square
      const square = name === 'tapered' ? (0.03 ** 3 - 0.01 ** 3) / (3 * 0.02) : 0.02 ** 2;
      expect(facesOf(mesh).volume / (shape * square * length)).toBeCloseTo(1, 2);
    },
  );

  it.each(all)('is sound: $section.section $line $lane $ends', ({ section, line, lane: name, ends }) => {
    const mesh = swept(lines[line], {
      radius: 0.02,
      ...section,
      ...{ ...lanes, ...beside }[name],
      start: ends,
      end: ends,
    });
    const { openEdges, shells } = topologyOf(mesh);
    // of a tube the hole of a ring, and of one without ends, is a skin of its own
    const hollow = section.form?.includes('tube') ?? false;
    expect(shells).toBe(hollow && (lines[line].closed || ends === 'open') ? 2 : 1);
    // an open end is the one place where faces have no neighbour
    expect(openEdges > 0).toBe(ends === 'open' && !lines[line].closed);
    for (const array of [mesh.position, mesh.normal, mesh.uv]) expect(array.every(Number.isFinite)).toBe(true);
    // the faces look outwards, and every vertex with those round it
    const { volume, worst } = facesOf(mesh);
    // 75°: half the turn of a three-sided section is 60°; where one is twisted at a mitred corner its quads are far from flat
    // (a star's and a gear's are steeper still there)
    expect(worst).toBeGreaterThan(!section.form ? 0.25 : line.includes('cornered') ? 0 : 0.5);
    if (openEdges > 0) return;
    expect(volume).toBeGreaterThan(0);
    const welded = new manifold.Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index });
    welded.merge();
    const body = new manifold.Manifold(welded);
    expect(body.status()).toBe('NoError');
    expect(body.genus()).toBe(lines[line].closed || hollow ? 1 : 0);
    expect(body.volume() / volume).toBeCloseTo(1, 4);
    body.delete();
  });

  it.each(FORMS.map(({ value }) => value))(
    'a straight %s encloses area · length, its area by the shoelace formula',
    (form) => {
      const numbers = { width: 1.4, sides: 64, points: 7, wall: 0.2, depth: 0.3, rounding: 0.4 };
      for (const name of ['even', 'tapered']) {
        const make = { form, radius: 0.02, ...numbers, ...lanes[name], start: 'flat', end: 'flat', cuts: 400 };
        const { mesh } = builtOf({ points: STRAIGHT }, make);
        const square = name === 'tapered' ? (0.03 ** 3 - 0.01 ** 3) / (3 * 0.02) : 0.02 ** 2;
        expect(facesOf(mesh).volume / (formSection(form, numbers).area * square)).toBeCloseTo(1, 3);
      }
    },
  );
});
