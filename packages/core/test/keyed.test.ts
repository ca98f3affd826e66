import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type BakedShaping,
  bake,
  documentAt,
  type KeyedNumber,
  type Lane,
  parseDocument,
  pieceAt,
  SurfaceStore,
} from '../src/index.js';
import { alongPoints } from './projects.js';

const key = (set: Partial<KeyedNumber> & Pick<KeyedNumber, 'unit' | 'parameter'>): KeyedNumber => ({
  stage: 'make',
  from: 0.01,
  to: 0.05,
  way: 'back',
  ...set,
});
const LINE: [number, number, number][] = [
  [0, 0, 0],
  [1, 0, 0],
];
const piece = (keyed: KeyedNumber[]) => alongPoints(LINE, (one) => Object.assign(one, { keyed })).piece;

describe('numbers led by the clock', () => {
  it('there and back they close, once through they go evenly; never beyond what the number allows', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (phase) => {
        const at = (keyed: KeyedNumber, share = phase) =>
          pieceAt(piece([keyed]), share).make.parameters[keyed.parameter] as number;
        const back = key({ unit: 'cable', parameter: 'radius' });
        expect(at(back)).toBeCloseTo(at(back, 1 - phase), 12);
        expect(at(back, 1)).toBe(at(back, 0));
        expect(at({ ...back, way: 'once' })).toBeCloseTo(0.01 + 0.04 * phase, 12);
        // below 0 nothing has a radius; whole numbers stay whole
        expect(at({ ...back, from: -5, to: -1 })).toBeGreaterThan(0);
        expect(at(key({ unit: 'cable', parameter: 'sides', from: 5, to: 12 })) % 1).toBe(0);
      }),
    );
  });

  it('one knot of a lane is led, the others stay; what is not there is left alone', () => {
    const lane: Lane = {
      ease: 'straight',
      knots: [
        { at: 0, value: 0.01 },
        { at: 1, value: 0.02 },
      ],
    };
    const one = piece([key({ unit: 'cable', parameter: 'radius', knot: 1, from: 0.02, to: 0.06 })]);
    one.make.parameters['radius'] = lane;
    expect(pieceAt(one, 0.5).make.parameters['radius']).toEqual({
      ...lane,
      knots: [lane.knots[0], { at: 1, value: 0.06 }],
    });
    for (const gone of [
      { knot: 7 },
      { parameter: 'nothing' },
      { unit: 'chain' },
      { stage: 'shape' as const, index: 3 },
    ]) {
      const other = piece([{ ...key({ unit: 'cable', parameter: 'radius' }), ...gone }]);
      const { keyed: _keyed, ...rest } = other;
      expect(pieceAt(other, 0.3)).toEqual(rest);
    }
  });

  it('is kept in the document, checked, and baked where the clock stands', () => {
    const { document } = alongPoints(LINE, (one) =>
      Object.assign(one, { keyed: [key({ unit: 'cable', parameter: 'radius' })] }),
    );
    const read = parseDocument(JSON.parse(JSON.stringify(document)));
    expect(read).toEqual(document);
    expect(documentAt({ ...document, pieces: [{ ...document.pieces[0], keyed: undefined }] }, 0.2).pieces[0].make).toBe(
      document.pieces[0].make,
    );
    const volume = (phase: number) => bake(read, new SurfaceStore(), { phase }).pieces[0].volume;
    // five times as thick, its rounded ends apart
    expect(volume(0.5) / volume(0)).toBeGreaterThan(24);
    expect(volume(1)).toBeCloseTo(volume(0), 12);
    // of the same vertices all through it goes from shape to shape; of others it is reported
    const shaped = (keyed: KeyedNumber) => {
      const shapes: BakedShaping[] = [];
      const one = alongPoints(LINE, (given) => Object.assign(given, { keyed: [keyed] })).document;
      const { pieces } = bake(one, new SurfaceStore(), { onShapes: (given) => shapes.push(given) });
      return [shapes.length, ...pieces[0].findings.map(({ code }) => code)];
    };
    expect(shaped(key({ unit: 'cable', parameter: 'radius' }))).toEqual([1]);
    expect(shaped(key({ unit: 'cable', parameter: 'sides', from: 6, to: 12 }))).toEqual([0, 'shapes-differ']);
    // tangents that are asked for go along
    const fine = alongPoints(LINE, (given) =>
      Object.assign(given, {
        keyed: [key({ unit: 'cable', parameter: 'radius' })],
        bake: { density: 1, tangents: true },
      }),
    ).document;
    bake(fine, new SurfaceStore(), {
      onShapes: ({ mesh }) => expect(mesh.attributes?.['tangent']?.data.length).toBe((4 * mesh.position.length) / 3),
    });
    for (const keyed of [
      [{ stage: 'bake' }],
      [{ ...key({ unit: 'cable', parameter: 'radius' }), from: Number.NaN }],
      Array.from({ length: 65 }, () => key({ unit: 'cable', parameter: 'radius' })),
    ])
      expect(() =>
        parseDocument(JSON.parse(JSON.stringify({ ...document, pieces: [{ ...document.pieces[0], keyed }] }))),
      ).toThrow(/keyed/);
  });
});
