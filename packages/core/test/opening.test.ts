import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  createCache,
  createHit,
  emptyDocument,
  evaluatePiece,
  type KelpDocument,
  newPiece,
  newShape,
  newUse,
  openDocument,
  type Piece,
  parseDocument,
  presetParameters,
  Surface,
  SurfaceStore,
  Surroundings,
  units,
  World,
} from '../src/index.js';
import { bunnyMesh } from './helpers.js';
import { alongPoints, lyingOnBunny } from './projects.js';

const nowhere = new Surroundings(new Map());
const findings = (document: KelpDocument, piece = document.pieces[0]) =>
  evaluatePiece(new World(document, nowhere), piece).findings.map(({ code }) => code);

/** A project with every unit of Kelp in it, as version 2 wrote it. */
function everyUnit(): { now: KelpDocument; old: Record<string, unknown> } {
  const { document, piece } = lyingOnBunny();
  document.props[0].mesh = 'ab'.repeat(32);
  const refer = (parameters: Piece['make']['parameters'], unit: (typeof units)[number]) =>
    Object.fromEntries(
      Object.entries(parameters).map(([name, value]) => {
        const { kind } = unit.parameters[name];
        // one strand of a hundred
        if (kind === 'count' && Number(value) >= 1000) return [name, Number(value) / 100];
        return [name, kind === 'piece' ? 'piece' : kind === 'prop' ? 'bunny' : kind === 'curves' ? ['line'] : value];
      }),
    );
  const pieces = units.flatMap((unit) =>
    unit.presets.map((preset, i): Piece => {
      const version = unit.version ? { version: unit.version } : {};
      const use = { unit: unit.id, ...version, parameters: refer(presetParameters(unit, preset.id), unit) };
      const made = structuredClone({ ...piece, id: `${unit.id}-${i}`, name: `${unit.label} ${preset.label}` });
      if (unit.stage === 'shape') return { ...made, shape: [{ ...use, enabled: true }] };
      return unit.stage === 'dress' ? { ...made, dress: { main: use } } : { ...made, [unit.stage]: use };
    }),
  );
  const kept: Piece = { ...piece, variants: [{ id: 'first', name: 'First', stages: { ...piece }, curves: [] }] };
  const { path, shape, make, dress, bake } = piece;
  kept.variants![0].stages = { path, shape, make, dress, bake };
  const now = { ...document, pieces: [kept, ...pieces] };
  // lines that lay on something before it had a choice of roll keep that of the line
  for (const one of now.pieces)
    for (const use of [one, ...(one.variants ?? []).map(({ stages }) => stages)].flatMap(({ shape }) => shape))
      if (use.unit === 'cling') use.parameters = { ...use.parameters, roll: 'line' };
  const old = JSON.parse(JSON.stringify({ ...now, version: 2 }), (_key, value) => {
    if (value?.unit !== 'cling') return value;
    const { roll: _later, ...parameters } = value.parameters;
    return { unit: value.unit, parameters, enabled: value.enabled };
  });
  for (const name of ['profiles', 'materials', 'regions', 'clock']) delete old[name];
  for (const one of old.pieces) {
    one.dress = one.dress.main;
    for (const { stages } of one.variants ?? []) stages.dress = stages.dress.main;
  }
  return { now, old };
}

it('a project of version 2 with every unit in it opens as it was, and every piece is made', () => {
  const { now, old } = everyUnit();
  const { document, notes } = openDocument(old);
  expect(notes).toEqual([]);
  expect(document).toEqual(now);
  const store = new SurfaceStore();
  store.add('ab'.repeat(32), bunnyMesh());
  const world = new World(document, store.surroundings(document));
  for (const piece of document.pieces) {
    const { findings: found, parts } = evaluatePiece(world, piece);
    expect(
      found.filter(({ code }) => /^unit-/.test(code)),
      piece.name,
    ).toEqual([]);
    // the scan has no rim to run along: then that is said
    expect(parts.length > 0 || found.length > 0, piece.name).toBe(true);
  }
});

describe('what a file of another Kelp holds', () => {
  const stored = (change: (piece: Record<string, never>) => void) => {
    const { document } = alongPoints([
      [0, 0, 0],
      [1, 0, 0],
    ]);
    const raw = JSON.parse(JSON.stringify(document));
    change(raw.pieces[0]);
    return raw;
  };

  it('a parameter that is missing gets its default, one that is gone is dropped, and both are reported', () => {
    const { document, notes } = openDocument(
      stored((piece: Record<string, never>) => {
        const { parameters } = piece['make'] as { parameters: Record<string, unknown> };
        delete parameters['bendStep'];
        parameters['wobbliness'] = 7;
      }),
    );
    expect(document.pieces[0].make.parameters).toEqual(newUse('make', 'cable').parameters);
    expect(notes).toEqual([expect.stringContaining('bendStep'), expect.stringContaining('wobbliness')]);
    // opened again there is nothing left to do
    expect(openDocument(JSON.parse(JSON.stringify(document)))).toEqual({ document, notes: [] });
  });

  it.each(['path', 'make', 'shape', 'dress'] as const)(
    'a %s unit that is not known is kept, reported, and stops nobody',
    (stage) => {
      const strange = { unit: 'from-tomorrow', parameters: { depth: [1, { deep: true }] } };
      const raw = stored((piece: Record<string, unknown>) => {
        if (stage === 'shape') piece['shape'] = [{ ...strange, enabled: true }];
        else piece[stage] = stage === 'dress' ? { main: strange } : strange;
      });
      raw.pieces.push({ ...newPiece('other', 'Other', ['line'], false) });
      const document = parseDocument(raw);
      expect(JSON.parse(JSON.stringify(document))).toEqual(raw);
      expect(findings(document)).toContain('unit-unknown');
      expect(findings(document, document.pieces[1])).toEqual([]);
      const line = evaluatePiece(new World(document, nowhere), document.pieces[0]);
      expect(line.parts.length).toBe(stage === 'path' || stage === 'make' ? 0 : 1);
    },
  );
});

/** Pieces that each run along the one before; the first along a drawn line, or along the last. */
function chain(length: number, round: boolean): KelpDocument {
  const { document, piece } = alongPoints([
    [0, 0, 0],
    [0.5, 0.1, 0],
    [1, 0, 0],
  ]);
  const along = (id: string) => ({ unit: 'carried', parameters: { piece: id, reversed: false } });
  document.pieces = Array.from({ length }, (_, i) => ({
    ...piece,
    id: `p${i}`,
    path: i > 0 ? along(`p${i - 1}`) : round ? along(`p${length - 1}`) : piece.path,
  }));
  return document;
}

it('references in circles of any length are reported by all that are in them, and by nobody else', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 40 }), fc.nat(3), (length, followers) => {
      const document = chain(length, true);
      const along = { unit: 'carried', parameters: { piece: 'p0', reversed: false } };
      for (let i = 0; i < followers; i++)
        document.pieces.push({ ...document.pieces[0], id: `follower${i}`, path: along });
      const free = newPiece('free', 'Free', ['line'], false);
      document.pieces.push(
        { ...free, shape: [newShape('slide', { along: 'free' })] },
        { ...free, id: 'far', shape: [] },
      );
      const world = new World(document, nowhere);
      for (const piece of document.pieces)
        expect(
          evaluatePiece(world, piece).findings.some(({ code }) => code === 'carrier-missing'),
          piece.id,
        ).toBe(piece.id !== 'far');
    }),
    { numRuns: 30 },
  );
  expect(findings(chain(3000, true))).toContain('carrier-missing');
});

it('a chain of a thousand pieces is computed one by one, and its end follows its beginning', () => {
  const document = chain(1000, false);
  const cache = createCache();
  const last = document.pieces[999];
  const before = evaluatePiece(new World(document, nowhere, cache), last);
  expect(before.findings).toEqual([]);
  const moved = {
    ...document,
    curves: document.curves.map((curve) => ({
      ...curve,
      points: curve.points.map((point) => ({
        ...point,
        position: [point.position[0], 1, 0] as [number, number, number],
      })),
    })),
  };
  const after = evaluatePiece(new World(moved, nowhere, cache), last);
  expect(after.guide.position[1]).toBe(1);
  expect(evaluatePiece(new World(document, nowhere, cache), last).guide.position).toEqual(before.guide.position);
}, 60_000);

it('five thousand pieces of which each is empty open, and say so', () => {
  const document = {
    ...emptyDocument('Empty'),
    pieces: Array.from({ length: 5000 }, (_, i) => newPiece(`p${i}`, `Piece ${i}`, [], true)),
  };
  const opened = parseDocument(JSON.parse(JSON.stringify(document)));
  const world = new World(opened, nowhere);
  const reported = opened.pieces.map((piece) => evaluatePiece(world, piece));
  expect(reported.every(({ parts, findings: found }) => parts.length === 0 && found.length > 0)).toBe(true);
});

it('a prop of a million triangles is asked as any other', () => {
  const side = 708;
  const position = new Float32Array(3 * side * side);
  for (let i = 0; i < side * side; i++) {
    const [x, z] = [(i % side) / side, Math.floor(i / side) / side];
    position.set([x, 0.02 * Math.sin(40 * x) * Math.cos(30 * z), z], 3 * i);
  }
  const index = new Uint32Array(6 * (side - 1) ** 2);
  let to = 0;
  for (let r = 0; r + 1 < side; r++)
    for (let c = 0; c + 1 < side; c++) {
      const a = r * side + c;
      index.set([a, a + side, a + 1, a + 1, a + side, a + side + 1], to);
      to += 6;
    }
  expect(index.length / 3).toBeGreaterThan(999_000);
  const surface = Surface.of({ position, index });
  const hit = createHit();
  for (let k = 0; k < 200; k++) {
    const x = 0.1 + 0.004 * k;
    expect(surface.closest(x, 1, 0.5, hit)).toBe(true);
    // from so high above, the highest place near is the closest: never further than straight down
    expect(hit.distance).toBeLessThanOrEqual(1 - 0.02 * Math.sin(40 * x) * Math.cos(15) + 1e-3);
    expect(surface.cast([x, 1, 0.5], [0, -1, 0], hit)).toBe(true);
    expect(hit.point[1]).toBeCloseTo(0.02 * Math.sin(40 * x) * Math.cos(15), 3);
  }
});
