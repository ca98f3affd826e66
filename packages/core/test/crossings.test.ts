import fc from 'fast-check';
import { expect, it } from 'vitest';
import { bake, type KelpDocument, SurfaceStore } from '../src/index.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Place = [number, number, number];

/** Round cables of given radii along straight corners, as pieces of one document. */
function cables(lines: readonly { points: readonly Place[]; radius: number }[]): KelpDocument {
  const each = lines.map(({ points, radius }, i) => {
    const { document, piece } = alongPoints(points, ({ make }) => {
      make.parameters['radius'] = radius;
    });
    for (const point of document.curves[0].points) point.corner = true;
    const line = `line ${i}`;
    return {
      curve: { ...document.curves[0], id: line },
      piece: {
        ...piece,
        id: `piece ${i}`,
        name: `Cable ${i}`,
        path: withLine(piece.path, document.curves[0].id, line),
      },
      document,
    };
  });
  return { ...each[0].document, curves: each.map(({ curve }) => curve), pieces: each.map(({ piece }) => piece) };
}

const withLine = <T>(path: T, from: string, to: string): T => JSON.parse(JSON.stringify(path).replaceAll(from, to));

const met = (document: KelpDocument) =>
  bake(document, new SurfaceStore()).pieces.map(({ findings }) => findings.filter(({ code }) => code === 'cuts-piece'));

const across = {
  points: [
    [0, 0, -1],
    [0, 0, 1],
  ] as Place[],
  radius: 0.02,
};

it('two cables through each other are reported at the later one: once, with the name of the other, place and depth', () => {
  const [first, second] = met(
    cables([
      {
        points: [
          [-1, 0.01, 0.3],
          [1, 0.01, 0.3],
        ],
        radius: 0.01,
      },
      across,
    ]),
  );
  expect(first).toEqual([]);
  expect(second).toHaveLength(1);
  expect(second[0].message).toBe('Intersects Cable 0 by 20 mm (limit 2.4 mm). Move one of the two lines.');
  // 10 mm apart where 30 are needed
  expect(second[0].size?.value).toBeCloseTo(0.02, 4);
  expect(second[0].along).toBeCloseTo(1.3, 1);
  expect(second[0].place?.[2]).toBeCloseTo(0.3, 3);
});

it('touching is no cut; beside each other they are one stretch, and one more after they have parted', () => {
  const beside = (gap: number) => ({
    points: [
      [gap, 0, -1],
      [gap, 0, 1],
    ] as Place[],
    radius: 0.02,
  });
  expect(met(cables([across, beside(0.04)])).flat()).toEqual([]);
  expect(met(cables([across, beside(0.034)])).flat()).toHaveLength(1);
  const weave: Place[] = [
    [0.2, 0, -0.8],
    [-0.2, 0, -0.4],
    [-0.2, 0, 0.4],
    [0.2, 0, 0.8],
  ];
  expect(met(cables([across, { points: weave, radius: 0.005 }])).flat()).toHaveLength(2);
});

it('an end in another cable is joined to it; a piece that names another may touch it; what is meant is not reported', () => {
  expect(
    met(
      cables([
        across,
        {
          points: [
            [0, 0, 0],
            [1, 0, 0],
          ],
          radius: 0.01,
        },
      ]),
    ).flat(),
  ).toEqual([]);
  const through = cables([
    across,
    {
      points: [
        [-1, 0, 0],
        [1, 0, 0],
      ],
      radius: 0.01,
    },
  ]);
  expect(met(through).flat()).toHaveLength(1);
  through.pieces[1] = { ...through.pieces[1], ignored: [{ code: 'cuts-piece', reason: 'spliced' }] };
  expect(met(through).flat()).toEqual([]);
});

const place = fc.tuple(...[0, 1, 2].map(() => evenly(-0.5, 0.5))) as fc.Arbitrary<Place>;
const straight = fc.record({ from: place, to: place, radius: fc.double({ min: 0.004, max: 0.04, noNaN: true }) });

it('finds the deepest place of any two straight cables, by the formula for the distance of two lines', () => {
  fc.assert(
    fc.property(straight, straight, (a, b) => {
      // long enough that no end counts, so the nearest places of the endless lines are on them
      const [u, v] = [a, b].map(({ from, to }) => unit(minus(to, from)));
      const n = cross(u, v);
      fc.pre(Math.hypot(...n) > 0.4 && [a, b].every(({ from, to }) => Math.hypot(...minus(to, from)) > 0.05));
      const far = (p: Place, w: Place): Place[] => [-9, 9].map((t) => p.map((x, k) => x + t * w[k]) as Place);
      const reported = met(
        cables([
          { points: far(a.from, u), radius: a.radius },
          { points: far(b.from, v), radius: b.radius },
        ]),
      ).flat();
      // Kreyszig, Advanced Engineering Mathematics: distance of skew lines is |(p - q) · (u × v)| / |u × v|
      const distance = Math.abs(dot(minus(a.from, b.from), n)) / Math.hypot(...n);
      const wanted = a.radius + b.radius;
      if (distance > 0.93 * wanted) expect(reported).toEqual([]);
      if (distance < 0.91 * wanted) {
        expect(reported).toHaveLength(1);
        expect(reported[0].size?.value).toBeCloseTo(wanted - distance, 4);
      }
    }),
    { numRuns: 60 },
  );
});

const minus = (a: Place, b: Place): Place => a.map((x, k) => x - b[k]) as Place;
const dot = (a: Place, b: Place): number => a.reduce((sum, x, k) => sum + x * b[k], 0);
const unit = (a: Place): Place => a.map((x) => x / Math.hypot(...a)) as Place;
const cross = (a: Place, b: Place): Place =>
  [0, 1, 2].map((k) => a[(k + 1) % 3] * b[(k + 2) % 3] - a[(k + 2) % 3] * b[(k + 1) % 3]) as Place;
