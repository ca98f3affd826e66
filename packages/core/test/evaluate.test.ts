import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyFix,
  type BuildCache,
  bake,
  createCache,
  evaluatePiece,
  isNumberParameter,
  type KelpDocument,
  newShape,
  newUse,
  type ParameterValue,
  parameterSchema,
  parseDocument,
  presetParameters,
  realMesh,
  Surface,
  SurfaceStore,
  Surroundings,
  topologyOf,
  unitOf,
  units,
  unitsOf,
  World,
  withParameter,
  withPiece,
} from '../src/index.js';
import { bunnyMesh, lineFor } from './helpers.js';
import { alongPoints, lyingOnBunny } from './projects.js';

const nowhere = new Surroundings(new Map());
const BEND = [
  [0, 0, 0],
  [0.5, 0.1, 0],
  [1, 0, 0.2],
  [1.4, 0.3, 0],
] as const;

describe('every unit', () => {
  const makes = unitsOf('make').flatMap((unit) =>
    unit.presets.map((preset) => ({ unit: unit.id, parameters: presetParameters(unit, preset.id) })),
  );
  /** Each number at both ends of its comfortable range. */
  const limits = unitsOf('make').flatMap((unit) =>
    Object.entries(unit.parameters).flatMap(([name, parameter]) =>
      isNumberParameter(parameter)
        ? parameter.comfortable.map((value) => ({
            unit: unit.id,
            parameters: { ...presetParameters(unit), [name]: value as ParameterValue },
          }))
        : [],
    ),
  );

  it.each([...makes, ...limits])('makes a sound, repeatable body: %o', ({ unit, parameters }) => {
    // of what consists of many a line a few times as long as it is thick has all there is to see
    const size = unitOf('make', unit).shelf === 'strands' ? 10 * (parameters['radius'] as number) : lineFor(unit);
    const bend = BEND.map((place) => place.map((value) => size * value) as [number, number, number]);
    const { document, piece } = alongPoints(bend, (made) => {
      made.make = { unit, parameters: { ...parameters, start: 'round', end: 'flat' } };
    });
    const build = evaluatePiece(new World(document, nowhere), piece);
    for (const mesh of build.parts.map(realMesh)) {
      if (!unitOf('make', unit).sheet) expect(topologyOf(mesh).openEdges).toBe(0);
      expect(mesh.index.length).toBeGreaterThan(0);
      for (const array of [mesh.position, mesh.normal, mesh.uv]) expect(array.every(Number.isFinite)).toBe(true);
    }
    // only what leaves all out makes nothing, and says so
    const empty = build.findings.some(({ code }) => code === 'all-left-out');
    if (!empty && !unitOf('make', unit).sheet) expect(build.measures.volume).toBeGreaterThan(0);
    // byte by byte: to compare number by number takes longer than to make them
    const bytes = (parts: typeof build.parts) =>
      parts
        .map(realMesh)
        .flatMap(({ position, normal, uv, index }) =>
          [position, normal, uv, index].map(({ buffer }) => Buffer.from(buffer as ArrayBuffer)),
        );
    const twice = [build, evaluatePiece(new World(document, nowhere), piece)];
    const words = twice.map(({ parts }) => parts.map(({ kind, id, name, slot }) => ({ kind, id, name, slot })));
    expect(words[1]).toEqual(words[0]);
    const [once, again] = twice.map(({ parts }) => bytes(parts));
    expect(again.map((one, i) => one.equals(once[i]))).toEqual(once.map(() => true));
  });

  it('declares parameters whose own defaults and presets pass their own check', () => {
    for (const unit of units)
      for (const preset of unit.presets)
        for (const [name, value] of Object.entries(presetParameters(unit, preset.id)))
          expect(parameterSchema(unit.parameters[name]).isValidSync(value), `${unit.id}.${name}`).toBe(true);
  });

  it('shape units never give NaN, whatever the line', () => {
    const coordinate = fc.integer({ min: -20, max: 20 }).map((value) => value / 20);
    const surroundings = new Surroundings(new Map([['bunny', Surface.of(bunnyMesh())]]));
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate, coordinate), { maxLength: 6 }),
        fc.constantFrom(...unitsOf('shape').map((unit) => unit.id)),
        (points, unit) => {
          const { document, piece } = alongPoints(points, (made) => {
            made.shape = [newShape(unit)];
          });
          const build = evaluatePiece(new World(document, surroundings), piece);
          expect(build.guide.position.every(Number.isFinite)).toBe(true);
          for (const part of build.parts) expect(realMesh(part).position.every(Number.isFinite)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('only what changed is computed again', () => {
  it('a changed twist does not lay the line on its prop again; a moved prop does', () => {
    const { document } = lyingOnBunny();
    const store = new SurfaceStore();
    store.add('bunny', bunnyMesh());
    const made: string[] = [];
    const inner = createCache();
    const cache: BuildCache = {
      ...inner,
      keep: (piece, place, key, answers, make) =>
        inner.keep(piece, place, key, answers, (old) => {
          made.push(place);
          return make(old);
        }),
    };
    const compute = (now: KelpDocument) => {
      made.length = 0;
      const surroundings = store.surroundings(now);
      evaluatePiece(new World(now, surroundings, cache), now.pieces[0]);
      return [...made];
    };
    expect(compute(document)).toEqual(['path', 'shape 0', 'make 1', 'dress 1', 'check 1', 'measure 1']);
    expect(compute(document)).toEqual([]);
    expect(
      compute(withPiece(document, 'piece', (piece) => withParameter(piece, { stage: 'make' }, 'twist', 3))),
    ).toEqual(['make 1', 'dress 1', 'check 1', 'measure 1']);
    const moved = {
      ...document,
      props: document.props.map((prop) => ({ ...prop, placement: { ...prop.placement, scale: 1.1 } })),
    };
    expect(compute(moved)).toContain('shape 0');
  });
});

describe('findings and their fixes', () => {
  const findings = (document: KelpDocument, surroundings = nowhere) =>
    evaluatePiece(new World(document, surroundings), document.pieces[0]).findings;

  it('marked corners are mitred: none is reported where the mitres fit the legs, and one where a leg is too short for them', () => {
    const zigzag = (leg: number) => {
      const { document } = alongPoints(
        [
          [0, 0, 0],
          [1, 0, 0],
          [1, leg, 0],
          [2, leg, 0],
        ],
        (piece) => {
          piece.make.parameters['radius'] = 0.05;
        },
      );
      for (const point of document.curves[0].points.slice(1, 3)) point.corner = true;
      return document;
    };
    // each of two right angles takes r·tan 45° = 50 mm of the leg between them
    expect(findings(zigzag(0.11))).toEqual([]);
    const document = zigzag(0.09);
    const reported = findings(document);
    expect(reported).toHaveLength(1);
    expect(reported[0]).toMatchObject({
      code: 'mitre-short',
      severity: 'error',
      fix: { kind: 'smooth-point', curve: 'line', point: 1 },
    });
    expect(reported[0].place).toEqual([1, 0, 0]);
    expect(reported[0].size?.value).toBeCloseTo(0.09, 5);
    expect(reported[0].size?.limit).toBeCloseTo(0.1, 5);
    expect(applyFix(document, 'piece', reported[0].fix!).curves[0].points[1].corner).toBe(false);
  });

  it('offered fixes lead to a line without findings, on a faceted scan too', () => {
    let { document } = lyingOnBunny();
    document = withPiece(document, 'piece', (piece) => withParameter(piece, { stage: 'make' }, 'leastBend', 7));
    const store = new SurfaceStore();
    store.add('bunny', bunnyMesh());
    let open = findings(document, store.surroundings(document));
    expect(open.length).toBeGreaterThan(0);
    for (let i = 0; i < 15 && open.length > 0; i++) {
      const fix = open.find((finding) => finding.fix)?.fix;
      expect(fix).toBeDefined();
      document = applyFix(document, 'piece', fix!);
      open = findings(document, store.surroundings(document));
    }
    expect(open).toEqual([]);
  });

  it.each([
    [
      'points-close',
      [
        [0, 0, 0],
        [0.5, 0, 0],
        [0.503, 0, 0],
        [1, 0, 0],
      ],
    ],
    [
      'curve-short',
      [
        [0, 0, 0],
        [0.005, 0, 0],
      ],
    ],
    [
      'curve-short',
      [
        [0, 0, 0],
        [0, 0, 0],
      ],
    ],
  ] as const)('%s is reported', (code, points) => {
    expect(findings(alongPoints(points).document).map((finding) => finding.code)).toContain(code);
  });

  it('a kind of finding that is meant to be so is reported no more, the others are', () => {
    const { document, piece } = alongPoints([
      [0, 0, 0],
      [0.2, 0, 0],
      [0.2, 0.04, 0],
    ]);
    document.curves[0].points[1].corner = true;
    piece.make.parameters['radius'] = 0.05;
    const nowhere = new Surroundings(new Map());
    const codes = () => evaluatePiece(new World(document, nowhere), piece).findings.map(({ code }) => code);
    expect(codes()).toContain('mitre-short');
    const others = codes().filter((code) => code !== 'mitre-short');
    piece.ignored = [{ code: 'mitre-short', reason: 'A square joint' }];
    expect(codes()).toEqual(others);
    expect(parseDocument(JSON.parse(JSON.stringify({ ...document, pieces: [piece] }))).pieces[0].ignored).toEqual(
      piece.ignored,
    );
  });

  it('a coarse bend is reported and mended', () => {
    const { document } = alongPoints(
      [
        [0, 0, 0],
        [0.3, 0.3, 0],
        [0.6, 0, 0],
      ],
      (piece) => {
        Object.assign(piece.make.parameters, { bendStep: 1, cuts: 0 });
      },
    );
    const coarse = findings(document).find((finding) => finding.code === 'coarse');
    expect(coarse?.fix).toBeDefined();
    expect(findings(applyFix(document, 'piece', coarse!.fix!))).toEqual([]);
  });

  it('a curve that was deleted is reported, the piece is empty, nothing throws', () => {
    const { document } = alongPoints(BEND);
    document.curves = [];
    const build = evaluatePiece(new World(document, nowhere), document.pieces[0]);
    expect(build.findings[0]).toMatchObject({ code: 'curve-missing', severity: 'error' });
    expect(build.parts).toEqual([]);
  });
});

describe('bake', () => {
  it('gives the same meshes twice, finer ones at a higher density, and reports length and counts', () => {
    const { document } = alongPoints(BEND);
    const store = new SurfaceStore();
    const once = bake(document, store);
    expect(bake(document, store).meshes).toEqual(once.meshes);
    expect(bake(document, store, { density: 2 }).pieces[0].triangles).toBeGreaterThan(3 * once.pieces[0].triangles);
    expect(once.pieces[0].triangles).toBe(once.meshes[0].mesh.index.length / 3);
    // what the view shows of a piece is no matter of the bake
    const shown = { ...document, pieces: document.pieces.map((piece) => ({ ...piece, detail: 'path' as const })) };
    expect(bake(shown, store).meshes).toEqual(once.meshes);
  });

  it('keeps within the memory there is: a piece that needs more is made coarser and reports it', () => {
    const { document, piece } = alongPoints(BEND);
    document.pieces = [piece, { ...piece, id: 'other', name: 'Other', bake: { density: 3 } }];
    const free = bake(document, new SurfaceStore()).pieces.map(({ vertices }) => vertices);
    // 280 bytes a vertex from its making to the file
    const memory = 280 * 0.5 * free[1];
    const { pieces } = bake(document, new SurfaceStore(), { memory });
    expect(pieces[0].vertices).toBe(free[0]);
    expect(pieces[1].vertices).toBeLessThan(memory / 280);
    expect(pieces[1].vertices).toBeGreaterThan(0.2 * free[1]);
    expect(pieces[1].findings.find(({ code }) => code === 'too-heavy')?.size?.value).toBe(free[1]);
    expect(pieces[0].findings.some(({ code }) => code === 'too-heavy')).toBe(false);
  });

  it('hands each mesh on as it is made and keeps none', () => {
    const { document, piece } = alongPoints(BEND);
    document.pieces = [piece, { ...piece, id: 'other', name: 'Other' }];
    const events: unknown[] = [];
    const { meshes } = bake(document, new SurfaceStore(), {
      onMesh: (mesh) => events.push(mesh),
      onProgress: (done) => events.push(done) > 0,
    });
    expect(meshes).toEqual([]);
    const at = (event: unknown) => events.indexOf(event);
    const made = bake(document, new SurfaceStore()).meshes;
    expect(events.filter((event) => typeof event === 'object')).toEqual(made);
    // the first is out before the second is begun
    expect(events.findIndex((event) => typeof event === 'object')).toBeLessThan(at(1));
  });

  it('reports how far long work on one piece is, and stops in the middle of it', () => {
    const { document, piece } = alongPoints(BEND);
    piece.shape = [newShape('repeat', { count: 5, step: [0, 0, 0.001] }), newShape('keep-apart', {})];
    const reported: number[] = [];
    bake(document, new SurfaceStore(), { onProgress: (done) => reported.push(done) > 0 });
    expect(reported.length).toBeGreaterThan(20);
    expect(reported).toEqual(reported.toSorted((a, b) => a - b));
    expect([reported[0], reported.at(-1)]).toEqual([0, 1]);
    expect(() => bake(document, new SurfaceStore(), { onProgress: (done) => done < 0.5 })).toThrow('cancelled');
  });

  it('names what is not there, and stops when reported to', () => {
    const { document } = alongPoints(BEND);
    const store = new SurfaceStore();
    expect(() => bake(document, store, { pieces: ['Rope'] })).toThrow('No piece is called "Rope"; available: "Piece"');
    expect(() => bake(lyingOnBunny().document, store)).toThrow('The mesh of prop "Bunny" is not there');
    expect(() => bake(document, store, { onProgress: () => false })).toThrow('cancelled');
  });
});

it('sag hangs between its points with the length that its slack says', () => {
  const { document, piece } = alongPoints(
    [
      [0, 1, 0],
      [2, 1, 0],
    ],
    (made) => {
      made.shape = [{ ...newUse('shape', 'sag'), enabled: true }];
      made.shape[0].parameters['slack'] = 0.1;
    },
  );
  const { measures, guide } = evaluatePiece(new World(document, nowhere), piece);
  expect(measures.length).toBeCloseTo(2.2, 3);
  expect(Math.min(...guide.position.filter((_, i) => i % 3 === 1))).toBeLessThan(1 - 0.3);
});
