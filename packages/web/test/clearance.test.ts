import {
  emptyDocument,
  evaluatePiece,
  hangingLine,
  newPiece,
  newShape,
  Surface,
  Surroundings,
  World,
} from '@kelp/core';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { clearanceOf } from '../src/pens/clearance.js';

type Place = [number, number, number];
const RADIUS = 0.012;

/** A closed box, its middle at a place. */
function box([x, y, z]: Place, [a, b, c]: Place): Surface {
  const position = Float32Array.from(
    [-1, 1].flatMap((k) =>
      [-1, 1].flatMap((j) => [-1, 1].flatMap((i) => [x + (i * a) / 2, y + (j * b) / 2, z + (k * c) / 2])),
    ),
  );
  const index = Uint32Array.of(
    0,
    2,
    1,
    1,
    2,
    3,
    4,
    5,
    6,
    5,
    7,
    6,
    0,
    1,
    4,
    1,
    5,
    4,
    2,
    6,
    3,
    3,
    6,
    7,
    0,
    4,
    2,
    2,
    4,
    6,
    1,
    3,
    5,
    3,
    7,
    5,
  );
  return Surface.of({ position, index });
}

it('what is clear at the pointer is clear once it is kept, and what goes in is reported: ends on a box, hanging past another', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  const seen = { clear: 0, cuts: 0 };
  fc.assert(
    fc.property(number(-0.4, 0.4), number(1, 3), number(0, 0.2), number(-3, 3), (across, far, slack, swing) => {
      // from the top of a crate to the top of another, with a third between
      const all = [
        box([0, 1, 0], [0.6, 0.4, 0.6]),
        box([far + 0.6, 1, 0], [0.6, 0.4, 0.6]),
        box([0.5 + far / 2, 0.9, 0.2], [0.3, 0.3, 0.3]),
      ];
      const surroundings = new Surroundings(new Map(all.map((surface, k) => [`box-${k}`, surface])));
      const [from, to]: [Place, Place] = [
        [0.28, 1.2, across / 2],
        [far + 0.32, 1.2, across / 2],
      ];
      const clear = clearanceOf(hangingLine(from, to, slack, swing), { near: RADIUS, far: RADIUS }, surroundings, []);
      const document = emptyDocument('Test');
      const points = [from, to].map((position) => ({ position, corner: false, radius: 1 }));
      document.curves.push({ id: 'line', name: 'Line', closed: false, points });
      const piece = newPiece('piece', 'Piece', ['line'], false);
      piece.shape = [newShape('sag', { slack, swing })];
      piece.make.parameters['radius'] = RADIUS;
      document.pieces.push(piece);
      const cuts = evaluatePiece(new World(document, surroundings), piece).findings.some(
        ({ code }) => code === 'cuts-prop',
      );
      // chords of 48 samples are off by a little; and the checks let a twelfth of the thickness touch
      if (clear > 0.003) expect(cuts).toBe(false);
      if (clear < -0.006) expect(cuts).toBe(true);
      if (cuts) seen.cuts++;
      else seen.clear++;
    }),
    { numRuns: 200 },
  );
  expect(Math.min(seen.clear, seen.cuts)).toBeGreaterThan(5);
});
