import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  isVariant,
  type KelpDocument,
  keepVariant,
  newShape,
  parseDocument,
  takeVariant,
  withCurve,
  withParameter,
  withPiece,
} from '../src/index.js';
import { alongPoints } from './projects.js';

const start = () =>
  alongPoints([
    [0, 0, 0],
    [1, 0, 0],
    [2, 1, 0],
  ]).document;

/** Whatever can happen to a piece between keeping a state and putting it back. */
const change = fc.oneof(
  fc
    .double({ min: 0.001, max: 0.1, noNaN: true })
    .map(
      (radius) => (document: KelpDocument) =>
        withPiece(document, 'piece', (piece) => withParameter(piece, { stage: 'make' }, 'radius', radius)),
    ),
  fc
    .constantFrom('smooth', 'wobble', 'resample')
    .map(
      (unit) => (document: KelpDocument) =>
        withPiece(document, 'piece', (piece) => ({ ...piece, shape: [...piece.shape, newShape(unit)] })),
    ),
  fc
    .integer({ min: 0, max: 2 })
    .map(
      (gone) => (document: KelpDocument) =>
        withCurve(document, 'line', (curve) => ({ ...curve, points: curve.points.toSpliced(gone, 1) })),
    ),
  fc.constant((document: KelpDocument) => ({
    ...withPiece(document, 'piece', (piece) => withParameter(piece, { stage: 'path' }, 'curves', ['other'])),
    curves: [{ id: 'other', name: 'Other', closed: false, points: document.curves[0]?.points ?? [] }],
  })),
  fc.constant((document: KelpDocument) => keepVariant(document, 'piece', 'second', 'Second')),
);

describe('kept states of a piece', () => {
  it('come back whole, lines and all, whatever was done since, and the project stays valid', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 6 }), (changes) => {
        const kept = keepVariant(start(), 'piece', 'first', 'First');
        const variant = kept.pieces[0].variants![0];
        const later = changes.reduce((document, step) => step(document), kept);
        const back = takeVariant(later, 'piece', 'first');
        expect(isVariant(back, back.pieces[0], variant)).toBe(true);
        expect(back.curves).toEqual(start().curves);
        // what was kept since is not lost by going back
        expect(back.pieces[0].variants?.length).toBe(later.pieces[0].variants?.length);
        expect(takeVariant(back, 'piece', 'first')).toEqual(back);
        const unique = new Set(back.pieces[0].variants?.map(({ id }) => id));
        if (unique.size === back.pieces[0].variants?.length)
          expect(parseDocument(JSON.parse(JSON.stringify(back)))).toEqual(back);
      }),
      { numRuns: 200 },
    );
  });

  it('a line that another piece runs along as well is put back for both, never taken away', () => {
    const first = keepVariant(start(), 'piece', 'first', 'First');
    const shared: KelpDocument = { ...first, pieces: [...first.pieces, { ...first.pieces[0], id: 'twin' }] };
    const moved = withPiece(shared, 'piece', (piece) => withParameter(piece, { stage: 'path' }, 'curves', []));
    expect(takeVariant(moved, 'piece', 'first').curves).toEqual(start().curves);
    expect(takeVariant(moved, 'piece', 'gone')).toBe(moved);
  });
});
