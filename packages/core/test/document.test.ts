import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type * as yup from 'yup';
import { isElement, isOutlinePoint, isPoint } from '../src/document/quick.js';
import { elementSchema, outlinePointSchema, pointSchema } from '../src/document/schema.js';
import { upgradeDocument } from '../src/document/upgrade.js';
import { type KelpDocument, KelpError, newShape, parseDocument } from '../src/index.js';
import { lyingOnBunny } from './projects.js';

const HASH = 'ab'.repeat(32);
const valid = (): KelpDocument => {
  const { document } = lyingOnBunny();
  document.props[0].mesh = HASH;
  return document;
};
const refusal = (raw: unknown): KelpError => {
  try {
    parseDocument(raw);
  } catch (error) {
    return error as KelpError;
  }
  throw new Error('It was accepted');
};

it('a valid document comes back as it was, from JSON too', () => {
  expect(parseDocument(valid())).toEqual(valid());
  expect(parseDocument(JSON.parse(JSON.stringify(valid())))).toEqual(valid());
});

describe('a wrong document is refused with the place that is wrong', () => {
  // biome-ignore lint/suspicious/noExplicitAny: the point is to break the type
  it.each<[string, (document: any) => void, string]>([
    ['NaN coordinate', (d) => (d.curves[0].points[1].position[2] = Number.NaN), 'curves[0].points[1].position[2]'],
    [
      'infinite coordinate',
      (d) => (d.curves[0].points[0].position[0] = Number.POSITIVE_INFINITY),
      'curves[0].points[0].position[0]',
    ],
    ['unit of another stage', (d) => (d.pieces[0].dress.main.unit = 'cable'), 'pieces[0].dress.main.unit'],
    ['parameter out of range', (d) => (d.pieces[0].make.parameters.sides = 2), 'pieces[0].make.parameters.sides'],
    ['a detail that is none', (d) => (d.pieces[0].detail = 'blurry'), 'pieces[0].detail'],
    ['half a side', (d) => (d.pieces[0].make.parameters.sides = 7.5), 'pieces[0].make.parameters.sides'],
    ['a dress without its main slot', (d) => delete d.pieces[0].dress.main, 'pieces[0].dress.main'],
    [
      'lane that falls',
      (d) =>
        (d.pieces[0].make.parameters.radius = {
          ease: 'smooth',
          knots: [
            { at: 0.5, value: 0.01 },
            { at: 0.2, value: 0.01 },
          ],
        }),
      'pieces[0].make.parameters.radius.knots',
    ],
    ['a name of 10,000 characters', (d) => (d.pieces[0].name = 'x'.repeat(10_000)), 'pieces[0].name'],
    ['an empty name', (d) => (d.name = '   '), 'name'],
    ['two pieces of one id', (d) => d.pieces.push(d.pieces[0]), 'pieces'],
    ['an id with a slash', (d) => (d.props[0].id = '../../etc'), 'props[0].id'],
    ['points that are no list', (d) => (d.curves[0].points = { length: 3 }), 'curves[0].points'],
    ['a hash that is none', (d) => (d.props[0].mesh = 'beef'), 'props[0].mesh'],
  ])('%s', (_name, spoil, path) => {
    const document = valid();
    spoil(document);
    const { code, issues } = refusal(document);
    expect(code).toBe('INVALID_DOCUMENT');
    expect(issues.map((issue) => issue.path)).toContain(path);
  });

  it.each([
    [null],
    [[]],
    ['text'],
    [42],
    [{}],
    [{ format: 'other', version: 1 }],
    [{ format: 'kelp-project', version: 'one' }],
  ])('%j is no project', (raw) => {
    expect(refusal(raw).code).toBe('INVALID_DOCUMENT');
  });

  it('anything else is refused, never thrown over', () => {
    fc.assert(
      fc.property(fc.anything(), (raw) => {
        fc.pre(!Array.isArray(raw) || raw.length > 0);
        expect(refusal(raw)).toBeInstanceOf(KelpError);
        expect(refusal({ ...valid(), pieces: raw })).toBeInstanceOf(KelpError);
      }),
      { numRuns: 100, examples: [[[undefined]], [[null]]] },
    );
  });
});

describe('long lists', () => {
  /** A value of the right kind, or about so: what the plain comparisons and the schema must judge alike. */
  const some = <T>(right: fc.Arbitrary<T>) =>
    fc.oneof(
      { weight: 12, arbitrary: right as fc.Arbitrary<unknown> },
      fc.constantFrom<unknown>(
        undefined,
        null,
        Number.NaN,
        Infinity,
        -1,
        1e12,
        '1',
        true,
        [],
        {},
        [0, 0],
        [0, 0, 0, 0],
      ),
    );
  const number = some(fc.double({ min: -1e5, max: 1e5 }));
  const place = some(fc.tuple(number, number, number));
  const size = some(fc.double({ min: 0, max: 2e4 }));
  const anchor = fc.record(
    {
      prop: some(fc.constantFrom('a-1', 'a/b', '')),
      triangle: some(fc.nat(9)),
      barycentric: place,
      height: number,
      rise: number,
    },
    { noNull: true, requiredKeys: ['prop', 'triangle', 'barycentric'] } as never,
  );
  const flag = some(fc.boolean());

  it.each<[string, (value: unknown) => boolean, yup.Schema, fc.Arbitrary<unknown>]>([
    [
      'points',
      isPoint,
      pointSchema,
      fc.record(
        { position: place, corner: flag, radius: size, roll: number, anchor: some(anchor), extra: flag },
        { requiredKeys: ['position', 'corner', 'radius'] },
      ),
    ],
    [
      'points of an outline',
      isOutlinePoint,
      outlinePointSchema,
      fc.record({ x: number, y: number, corner: flag, bulge: number }, { requiredKeys: ['x', 'y', 'corner'] }),
    ],
    [
      'elements',
      isElement,
      elementSchema,
      fc.record(
        { id: some(fc.nat()), dropped: flag, move: place, size, prop: some(fc.string()), extra: flag },
        { requiredKeys: ['id'] },
      ),
    ],
  ])('%s: plain comparisons pass what the schema passes, and nothing else', (_what, quick, schema, values) => {
    fc.assert(
      fc.property(values, (value) => {
        const judged = schema.isValidSync(value, { strict: true });
        // what is slow is asked again: only what is quick must be right by itself
        if (quick(value)) expect(judged).toBe(true);
        else if (judged) expect(JSON.stringify(value)).toMatch(/undefined|null|\[\]/);
      }),
      { numRuns: 2000 },
    );
  });

  it('are looked at no further than the first wrong fields, and not at all when too long', () => {
    const asked = new Set<number>();
    const broken = Array.from({ length: 20_000 }, (_, i) => ({
      get closed() {
        return void asked.add(i);
      },
    }));
    expect(refusal({ ...valid(), curves: broken }).issues).toHaveLength(20);
    expect(asked.size).toBeLessThan(20);
    const tooMany = refusal({ ...valid(), curves: new Array(500_000).fill(0) });
    expect(tooMany.issues).toEqual([
      { path: 'curves', message: 'curves must have less than or equal to 20000 items, not 500000' },
    ]);
  });

  it('deep inside are reported with their place', () => {
    const document = valid();
    const [piece] = document.pieces;
    piece.elements = [{ id: 1 }, { id: 2, size: -1 }];
    piece.variants = [{ id: 'v', name: 'V', stages: { ...valid().pieces[0] } as never, curves: [document.curves[0]] }];
    const spoilt = JSON.parse(JSON.stringify(document));
    spoilt.pieces[0].variants[0].stages = {
      path: piece.path,
      shape: piece.shape,
      make: piece.make,
      dress: piece.dress,
      bake: piece.bake,
      elements: [{ id: 'x' }],
    };
    spoilt.pieces[0].variants[0].curves[0].points[1].radius = 'thick';
    spoilt.profiles = [{ id: 'p', name: 'P', paths: [{ closed: true, points: [{ x: 0, y: 0 }] }] }];
    expect(refusal(spoilt).issues.map(({ path }) => path)).toEqual([
      'profiles[0].paths[0].points[0].corner',
      'pieces[0].elements[1].size',
      'pieces[0].variants[0].stages.elements[0].id',
      'pieces[0].variants[0].curves[0].points[1].radius',
    ]);
  });
});

describe('versions', () => {
  it('a newer document says that Kelp must be updated', () => {
    const { code, message } = refusal({ ...valid(), version: 7 });
    expect(code).toBe('NEWER_DOCUMENT');
    expect(message).toContain('version 7');
  });

  it('a project of version 1 opens: its hanging lines do not swing', () => {
    const old = JSON.parse(JSON.stringify(valid()));
    old.version = 1;
    delete old.pictures;
    old.pieces[0].dress = old.pieces[0].dress.main;
    old.pieces[0].shape.push(newShape('sag'));
    delete old.pieces[0].shape.at(-1).parameters.swing;
    const lifted = parseDocument(old);
    expect(lifted.pieces[0].shape.at(-1)).toEqual(newShape('sag'));
    expect(lifted.pictures).toEqual([]);
  });

  it('older ones are lifted step by step', () => {
    const steps = [
      { from: 1, upgrade: (d: Record<string, unknown>) => ({ ...d, trace: ['one'] }) },
      { from: 2, upgrade: (d: Record<string, unknown>) => ({ ...d, trace: [...(d['trace'] as string[]), 'two'] }) },
    ];
    expect(upgradeDocument({ format: 'kelp-project', version: 1 }, steps, 3)).toEqual({
      format: 'kelp-project',
      version: 3,
      trace: ['one', 'two'],
    });
    expect(upgradeDocument({ format: 'kelp-project', version: 3 }, steps, 3)).toEqual({
      format: 'kelp-project',
      version: 3,
    });
  });
});
