import { expect, it, vi } from 'vitest';

vi.mock('../src/unit/further.js', async () => ({ FURTHER: (await import('./test-units.js')).TEST_UNITS }));

const core = await import('../src/index.js');
const { alongPoints } = await import('./projects.js');
const { lineFor } = await import('./helpers.js');
const {
  bake,
  evaluatePiece,
  newUse,
  partBounds,
  partCounts,
  copyPart,
  realMesh,
  sliceAt,
  SurfaceStore,
  Surroundings,
  topologyOf,
  unitOf,
  unitsOf,
  withPiece,
  World,
} = core;

const nowhere = new Surroundings(new Map());
const BEND = [
  [0, 0, 0],
  [0.4, 0.05, 0],
  [0.7, 0, 0.2],
] as const;
const recipe = (id: string, change: Partial<import('../src/index.js').Piece> = {}) => {
  // of what consists of many a short line has all there is to see
  const size = id === 'laid' || id === 'braid' ? 0.3 : lineFor(id);
  const { document, piece } = alongPoints(BEND.map(([x, y, z]) => [size * x, size * y, size * z] as const));
  const made = { ...piece, make: newUse('make', id), ...change };
  return { document: { ...document, pieces: [made] }, piece: made };
};
const built = (id: string, change = {}) => {
  const { document, piece } = recipe(id, change);
  return evaluatePiece(new World(document, nowhere), piece);
};
const all = unitsOf('make').map(({ id }) => id);

it('every make unit, placed, strands, two slots or moving, is counted, boxed, copied and baked as what it is made of', () => {
  expect(all).toContain('test-beads');
  for (const id of all) {
    const { document } = recipe(id);
    const build = built(id);
    // an open line is none to fill, there is nothing to bridge, and nothing to sew through: that is reported, not refused
    const reported =
      { fill: ['fill-open'], bridge: ['no-opening'], stitch: ['stitch-free'], belt: ['belt-open'] }[id] ?? [];
    expect(
      build.findings.map(({ code }) => code),
      id,
    ).toEqual(reported);
    for (const part of build.parts) {
      const mesh = realMesh(part);
      if (!unitOf('make', id).sheet) expect(topologyOf(mesh).openEdges, id).toBe(0);
      expect(partCounts(part)).toMatchObject({
        triangles: mesh.index.length / 3,
        vertices: mesh.position.length / 3,
      });
      const box = partBounds(part)!;
      // of strands the box is that of their lines
      const slack = part.kind === 'strands' ? 0.003 : 1e-6;
      const out = mesh.position.findIndex((at, i) => at < box.min[i % 3] - slack || at > box.max[i % 3] + slack);
      expect(out, id).toBe(-1);
      const copy = copyPart(part);
      expect(copy).toEqual(part);
      expect(realMesh(copy).position.buffer).not.toBe(mesh.position.buffer);
    }
    const { meshes, pieces } = bake(document, new SurfaceStore());
    expect(meshes.reduce((sum, { mesh }) => sum + mesh.index.length / 3, 0)).toBe(pieces[0].triangles);
    expect(built(id).parts).toEqual(build.parts);
  }
});

it('a part of two slots becomes one a slot, each in what its slot wears: its own, the project’s, or what it was made with', () => {
  const build = built('test-piping');
  expect(build.parts.map(({ slot }) => slot)).toEqual(['main', 'trim']);
  expect(build.materials['trim']).toMatchObject({ metalness: 1 });
  // the attribute went along with its vertices
  for (const part of build.parts) {
    const level = part.kind === 'mesh' ? part.mesh.attributes?.['level'] : undefined;
    expect(new Set(level?.data)).toEqual(new Set([part.slot === 'trim' ? 1 : 0]));
    expect(level?.data.length).toBe(part.kind === 'mesh' ? part.mesh.position.length / 3 : 0);
  }
  const { document, piece } = recipe('test-piping');
  const library = {
    ...document,
    materials: [
      {
        id: 'red',
        name: 'Red',
        dress: {
          ...newUse('dress', 'plain'),
          parameters: { ...newUse('dress', 'plain').parameters, colour: '#ff0000' },
        },
      },
    ],
  };
  const wearing = (dress: object) =>
    evaluatePiece(
      new World(library, nowhere),
      withPiece(library, 'piece', (now) => ({ ...now, dress: { ...now.dress, ...dress } })).pieces[0],
    );
  expect(wearing({ trim: { material: 'red' } }).materials['trim'].colour).toBe('#ff0000');
  expect(wearing({ trim: { material: 'gone' } }).findings.map(({ code }) => code)).toEqual(['material-missing']);
  expect(piece.dress['trim']).toBeUndefined();
});

it('single elements are dropped, moved and sized by their ids; the others stay where they were', () => {
  const before = built('test-beads');
  const placed = (build: typeof before) => {
    const [part] = build.parts;
    if (part.kind !== 'placed') throw new Error('no placed part');
    return part.places;
  };
  const { id, matrix } = placed(before);
  const after = placed(
    built('test-beads', {
      elements: [
        { id: id[1], dropped: true },
        { id: id[2], move: [0, 1, 0], size: 2 },
      ],
    }),
  );
  expect([...after.id]).toEqual([...id].filter((_, i) => i !== 1));
  expect(after.matrix[16 + 13]).toBeCloseTo(matrix[2 * 16 + 13] + 1, 6);
  expect(after.matrix[16]).toBeCloseTo(2 * matrix[2 * 16], 6);
  expect([...after.matrix.slice(32)]).toEqual([...matrix.slice(48)]);
  // a piece whose spacing changes along its length keeps its first beads
  const wider = placed(
    built('test-beads', {
      make: {
        unit: 'test-beads',
        parameters: {
          size: 0.012,
          gap: {
            ease: 'straight',
            knots: [
              { at: 0.5, value: 3 },
              { at: 1, value: 6 },
            ],
          },
        },
      },
    }),
  );
  expect([...wider.id].slice(0, 5)).toEqual([...id].slice(0, 5));
});

it('the slice of each shows its parts by name: beads, each strand, the cord and its trim, holes taken off', () => {
  const cut = (id: string) => {
    const build = built(id);
    return sliceAt(build.parts, build.guide, 0.5, 0.02);
  };
  expect(cut('test-wisps')?.outlines.map(({ part }) => part)).toEqual(Array(7).fill('Wisps'));
  expect(new Set(cut('test-piping')?.outlines.map(({ slot }) => slot))).toEqual(new Set(['main', 'trim']));
  // the trim's middle stands 1.4 sizes off, both have their radius: they overlap by less than nothing
  expect(cut('test-piping')?.gap).toBeCloseTo(0.012 * (1.4 - 1 - 1 / 3), 3);
  const { pipe } = { pipe: built('cable') };
  expect(sliceAt(pipe.parts, pipe.guide, 0.5, 0.02)?.outlines).toHaveLength(1);
});
