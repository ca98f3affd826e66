import fc from 'fast-check';
import { BoxGeometry } from 'three';
import { expect, it } from 'vitest';
import { createHit, evaluatePiece, newShape, Surface, Surroundings, World } from '../src/index.js';
import { evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Place = [number, number, number];

/** Boxes as one prop. */
function surfaceOf(boxes: readonly BoxGeometry[]): Surface {
  const position = Float32Array.from(boxes.flatMap((box) => [...box.toNonIndexed().getAttribute('position').array]));
  return Surface.of({ position, index: Uint32Array.from({ length: position.length / 3 }, (_, v) => v) });
}

/** A block two metres wide; lines are drawn at its faces. */
const block = surfaceOf([new BoxGeometry(2, 2, 2)]);
const around = new Surroundings(new Map([['block', block]]));

/** A strap 48 mm wide and 8 mm thick on the block, and how far each of its vertices is off it (below 0: in it). */
function strap(
  points: readonly Place[],
  make: Record<string, number | string>,
  cling: Record<string, number | string>,
  on = around,
) {
  const { document, piece } = alongPoints(points, (one) => {
    Object.assign(one.make.parameters, {
      radius: 0.004,
      section: 'box',
      width: 6,
      start: 'flat',
      end: 'flat',
      ...make,
    });
    one.shape = [newShape('cling', cling)];
  });
  const { parts, findings } = evaluatePiece(new World(document, on), piece);
  const [part] = parts;
  if (part.kind !== 'mesh') throw new Error('A strap is a mesh');
  const hit = createHit();
  const { position } = part.mesh;
  const off = Array.from({ length: position.length / 3 }, (_, v) =>
    on.signedDistance(position[3 * v], position[3 * v + 1], position[3 * v + 2], hit, 1),
  );
  const top = Math.max(...position.filter((_, n) => n % 3 === 1));
  return { findings, least: Math.min(...off), most: Math.max(...off), top };
}

it('a strap lies flat on whatever face it is drawn on, whichever way it runs', () => {
  const share = evenly(-0.7, 0.7);
  fc.assert(
    fc.property(
      fc.constantFrom(0, 1, 2),
      fc.constantFrom(-1, 1),
      fc.array(fc.tuple(share, share), { minLength: 2, maxLength: 2 }),
      (axis, side, ends) => {
        fc.pre(Math.hypot(ends[0][0] - ends[1][0], ends[0][1] - ends[1][1]) > 0.3);
        const points = ends.map(([u, v]): Place => {
          const place: Place = [0, 0, 0];
          place[axis] = side * 1.01;
          place[(axis + 1) % 3] = u;
          place[(axis + 2) % 3] = v;
          return place;
        });
        const { findings, least, most } = strap(points, {}, {});
        expect(findings).toEqual([]);
        expect(least).toBeGreaterThan(-0.0004);
        // eight millimetres thick, not forty-eight high
        expect(most).toBeLessThan(0.0095);
      },
    ),
  );
});

/** A deck of planks 90 mm wide with gaps between, its top at 1, and a kerb of 40 mm along one side. */
const deck = (gap: number) => {
  const boxes = Array.from({ length: 16 }, (_, k) =>
    new BoxGeometry(2, 0.03, 0.09).translate(0, 0.985, (k - 8) * (0.09 + gap)),
  );
  boxes.push(new BoxGeometry(2, 0.07, 0.05).translate(0, 1.005, 0.6));
  return new Surroundings(new Map([['deck', surfaceOf(boxes)]]));
};

it('a strap lies flat over planks with gaps half as wide again as it is thick, whichever way it runs', () => {
  const along = evenly(-0.5, 0.4);
  fc.assert(
    fc.property(fc.tuple(along, along), fc.tuple(along, along), fc.constantFrom(0.004, 0.008, 0.012), (a, b, gap) => {
      fc.pre(Math.hypot(a[0] - b[0], a[1] - b[1]) > 0.3);
      const points = [a, b].map(([x, z]): Place => [x, 1.004, z]);
      const { findings, least, most } = strap(points, {}, {}, deck(gap));
      expect(findings).toEqual([]);
      // by brute force on its vertices: in no plank deeper than touching, off none by more than twice its thickness
      expect(least).toBeGreaterThan(-0.0008);
      expect(most).toBeLessThan(0.016);
    }),
    { numRuns: 60 },
  );
});

it('a strap that ends over a gap, beside the edge of a plank, ends as straight as it comes', () => {
  const lines = [
    [
      [-0.5, 0.2552],
      [-0.5, -0.5],
    ],
    [
      [-0.334, -0.102],
      [0.337, -0.1545],
    ],
    [
      [-0.4569, 0.1546],
      [0.0084, -0.0671],
    ],
  ];
  for (const ends of lines)
    expect(
      strap(
        ends.map(([x, z]): Place => [x, 1.004, z]),
        {},
        {},
        deck(0.012),
      ).findings,
    ).toEqual([]);
});

it('a strap beside an edge is clear of it; one that leans into a plank is reported, by how deep its corner is', () => {
  const along: Place[] = [
    [-0.6, 1.0041, 0.003],
    [0.6, 1.0041, 0.003],
  ];
  const free = { mode: 'off', gap: -5, roll: 'line' };
  expect(strap(along, {}, free, deck(0.012)).findings).toEqual([]);
  const leaning = strap(along, { roll: 0.1 }, free, deck(0.012));
  expect(leaning.findings.map(({ code }) => code)).toContain('cuts-prop');
  // 24 mm out to its side, turned by 0.1, and half its height below
  expect(leaning.least).toBeLessThan(-0.0015);
  expect(leaning.findings[0].size?.value).toBeCloseTo(-leaning.least, 3);
});

it('a strap led over an edge and down the wall lies flat on both', () => {
  const { findings, most } = strap(
    [
      [-0.3, 1.01, 0],
      [0.7, 1.01, 0],
      [1.02, 1.02, 0],
      [1.01, 0.7, 0],
      [1.01, -0.6, 0],
    ],
    {},
    { ease: 4 },
  );
  expect(findings.filter(({ severity }) => severity === 'error')).toEqual([]);
  // where it bends over the edge it is off both faces a little
  expect(most).toBeLessThan(0.035);
});

it('a strap on edge stands on its edge; one that keeps the roll of its line and sinks in is reported, with how deep', () => {
  const level: Place[] = [
    [-0.6, 1.01, 0],
    [0.6, 1.01, 0],
  ];
  const onEdge = strap(level, { roll: Math.PI / 2 }, {});
  expect(onEdge.findings).toEqual([]);
  expect(onEdge.least).toBeGreaterThan(-0.0004);
  expect(onEdge.most).toBeCloseTo(0.048, 3);
  const wall: Place[] = [
    [-0.6, 0, 1.01],
    [0.6, 0, 1.01],
  ];
  const kept = strap(wall, {}, { roll: 'line' });
  expect(kept.findings.map(({ code }) => code)).toEqual(['cuts-prop']);
  expect(kept.findings[0].size?.value).toBeCloseTo(0.02, 3);
  expect(kept.least).toBeCloseTo(-0.02, 3);
});

const cable = { radius: 0.012, section: 'round', start: 'round', end: 'round', leastBend: 2 };

it('a cable that eases over an edge keeps outside of it and bends no tighter than it may', () => {
  const over: Place[] = [
    [-0.3, 1.01, 0],
    [0.7, 1.01, 0.1],
    [1.02, 1.02, 0.15],
    [1.01, 0.7, 0.2],
    [1.01, -0.4, 0.2],
  ];
  for (const ease of [3, 6, 12]) expect(strap(over, cable, { ease }).findings).toEqual([]);
});

it('a line that keeps off moves away from what is too near, by what is missing, and nowhere else', () => {
  const over: Place[] = [
    [-2, 1.3, 0],
    [-0.5, 1.003, 0],
    [0.5, 1.003, 0],
    [2, 1.3, 0],
  ];
  const { findings, least } = strap(over, cable, { mode: 'off' });
  expect(findings.filter(({ code }) => code === 'cuts-prop')).toEqual([]);
  expect(least).toBeGreaterThan(-0.0005);
  const clear: Place[] = [
    [-1, 1.2, 0],
    [0, 1.2, 0.1],
    [1, 1.2, 0],
  ];
  const none = { mode: 'off', gap: -5 };
  expect(strap(clear, cable, { mode: 'off' }).least).toBeCloseTo(strap(clear, cable, none).least, 6);
});

it('a three-sided bar that is clear of a prop is not reported to cut it', () => {
  const bar = { radius: 0.1, section: 'polygon', sides: 3 };
  const over = (gap: number): Place[] => [
    [-0.6, 1 + gap, 0],
    [0.6, 1 + gap, 0],
  ];
  const none = { mode: 'off', gap: -5 };
  // one corner up, a flat side half the radius below the line
  expect(strap(over(0.06), bar, none).findings).toEqual([]);
  expect(strap(over(0.03), bar, none).findings.map(({ code }) => code)).toEqual(['cuts-prop']);
});

it('a strap that is led over one prop lies on it as if no other were there', () => {
  const batten = surfaceOf([new BoxGeometry(2, 0.1, 0.05).translate(0, 1.02, 0.02)]);
  const both = new Surroundings(
    new Map([
      ['block', block],
      ['batten', batten],
    ]),
  );
  const level: Place[] = [
    [-0.6, 1.01, 0],
    [0.6, 1.01, 0],
  ];
  const alone = strap(level, {}, {});
  expect(strap(level, {}, { target: 'block' }, both).top).toBeCloseTo(alone.top, 6);
  expect(strap(level, {}, {}, both).top).toBeGreaterThan(alone.top + 0.02);
});

it('what would fold over something narrower than itself is eased there and nowhere else; a bend in the air stays as it was drawn', () => {
  const hose = { ...cable, radius: 0.03, leastBend: 1 };
  const rod = new BoxGeometry(0.004, 0.06, 2).translate(0, 0.03, 0);
  const floor = surfaceOf([new BoxGeometry(4, 0.1, 2).translate(0, -0.05, 0), rod]);
  const on = new Surroundings(new Map([['floor', floor]]));
  const over: Place[] = [
    [-1, 0.03, 0],
    [-0.06, 0.03, 0],
    [0, 0.09, 0],
    [0.06, 0.03, 0],
    [1, 0.03, 0],
  ];
  const { findings, least, top } = strap(over, hose, { reach: 0.1, ease: 0.2 }, on);
  expect(findings.filter(({ severity }) => severity === 'error')).toEqual([]);
  expect(least).toBeGreaterThan(-0.0003);
  expect(top).toBeLessThan(0.16);
  // tighter than the hose, and out of reach of what it clings to
  const inTheAir: Place[] = [
    [-1, 0.03, 0],
    [-0.8, 0.6, 0],
    [-0.79, 0.62, 0],
    [-0.78, 0.6, 0],
    [-0.6, 0.03, 0],
    [1, 0.03, 0],
  ];
  expect(strap(inTheAir, hose, { reach: 0.1 }, on).findings.map(({ code }) => code)).toContain('pinch');
});
