import bunny from 'bunny';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { leanStrands, strandsOfTriangles } from '../src/bake/lean-strands.js';
import { farthest, leanMesh } from '../src/bake/lighter.js';
import { PER_METRE } from '../src/bake/settings.js';
import { strandsTo, targetOf } from '../src/bake/target.js';
import {
  type BakedMesh,
  type BakedPlaced,
  bake,
  emptyDocument,
  type KelpDocument,
  KeptPieces,
  type Mesh,
  mergedDocument,
  mergeMeshes,
  newPiece,
  newUse,
  phaseAt,
  type StrandsPart,
  Surface,
  SurfaceStore,
  simplified,
  simplifierReady,
  singleCurve,
  testCube,
  transformMesh,
  vertexCount,
} from '../src/index.js';
import { signedVolume as volumeOf } from '../src/mesh/measure.js';
import { topologyOf } from '../src/mesh/weld.js';
import { partCounts } from '../src/part/part.js';

beforeAll(simplifierReady);

/** A cable that bends, a chain, and a cable with bared ends: meshes, places, several slots. */
function scene(): KelpDocument {
  const document = emptyDocument('Scene');
  const points = [0, 1, 2, 3, 4].map((x) => ({
    position: [x, 1 + (x % 2) * 0.4, 0] as [number, number, number],
    corner: false,
    radius: 1,
  }));
  document.curves = [{ id: 'c', name: 'C', closed: false, points }];
  document.pieces = ['Cable', 'Chain', 'Bared'].map((name) => newPiece(name.toLowerCase(), name, ['c'], false));
  document.pieces[0].dress = { main: newUse('dress', 'plain', 'orange-jacket') };
  document.pieces[1].make = newUse('make', 'chain');
  document.pieces[1].dress = { main: newUse('dress', 'plain', 'steel') };
  document.pieces[2].make = newUse('make', 'cable', 'cut-cable');
  return document;
}
const store = new SurfaceStore();
const allOf = (meshes: readonly BakedMesh[]): Mesh => mergeMeshes(meshes.map(({ mesh }) => mesh));
const triangles = (meshes: readonly BakedMesh[]) => meshes.reduce((sum, { mesh }) => sum + mesh.index.length / 3, 0);
const skin = (meshes: readonly BakedMesh[], name: string) => allOf(meshes.filter((mesh) => mesh.piece === name));

describe('what is baked', () => {
  it('are the pieces that are named, and of these the slots; a name that is none is reported', () => {
    const all = bake(scene(), store);
    const one = bake(scene(), store, { pieces: ['Chain', 'Bared'] });
    expect(one.pieces.map(({ name }) => name)).toEqual(['Chain', 'Bared']);
    const slots = all.meshes.filter(({ piece }) => piece === 'Bared').length;
    expect(slots).toBeGreaterThan(1);
    const metal = bake(scene(), store, { pieces: ['Bared'], slots: ['metal'] });
    expect(metal.meshes).toHaveLength(1);
    expect(metal.pieces[0].triangles).toBe(triangles(metal.meshes));
    expect(() => bake(scene(), store, { pieces: ['Rope'] })).toThrow(
      'No piece is called "Rope"; available: "Cable", "Chain", "Bared"',
    );
  });

  it('is one mesh a slot, a part, a material or of all, with the same faces; all in one has its colours at its vertices', () => {
    const by = Object.fromEntries(
      (['slot', 'part', 'material', 'all'] as const).map((merge) => [merge, bake(scene(), store, { merge }).meshes]),
    );
    for (const meshes of Object.values(by)) {
      expect(triangles(meshes)).toBe(triangles(by['slot']));
      expect(volumeOf(allOf(meshes))).toBeCloseTo(volumeOf(allOf(by['slot'])), 6);
    }
    expect(by['part'].length).toBeGreaterThan(by['slot'].length);
    expect(by['material'].length).toBe(
      new Set(by['slot'].map(({ material: { name: _, ...looks } }) => JSON.stringify(looks))).size,
    );
    expect(by['all']).toHaveLength(1);
    const [{ mesh, material }] = by['all'];
    expect(material.colour).toBe('#ffffff');
    expect(
      new Set(
        Array.from({ length: vertexCount(mesh) }, (_, v) =>
          mesh.attributes?.['colour'].data.slice(3 * v, 3 * v + 3).join(),
        ),
      ).size,
    ).toBeGreaterThanOrEqual(by['material'].length);
  });

  it('meshes with tangents and without are merged without, and those that all have them keep them', () => {
    const document = scene();
    document.pieces = [document.pieces[0], { ...document.pieces[0], id: 'second', name: 'Second' }];
    const tangents = () =>
      bake(document, store, { merge: 'material' }).meshes.map(({ mesh }) => mesh.attributes?.['tangent'] !== undefined);
    document.pieces[0].bake = { density: 1, tangents: true };
    expect(tangents()).toEqual([false]);
    document.pieces[1].bake = { density: 1, tangents: true };
    expect(tangents()).toEqual([true]);
  });

  it('what is many times stays one mesh with its places where that is asked for, and is the same as its meshes', () => {
    const placed: BakedPlaced[] = [];
    const { meshes, pieces } = bake(scene(), store, {
      instances: true,
      unit: 'cm',
      up: 'z',
      hand: 'left',
      onPlaced: (one) => placed.push(one),
    });
    const real = bake(scene(), store, { unit: 'cm', up: 'z', hand: 'left' });
    expect(placed.length).toBeGreaterThan(0);
    const chain = placed
      .filter(({ piece }) => piece === 'Chain')
      .flatMap(({ mesh, places }) =>
        Array.from(places.id, (_, k) => transformMesh(mesh, places.matrix.subarray(16 * k, 16 * k + 16))),
      );
    const given = skin(real.meshes, 'Chain');
    expect(vertexCount(mergeMeshes(chain))).toBe(vertexCount(given));
    expect(farthest(mergeMeshes(chain), Surface.of(given))).toBeLessThan(1e-3);
    expect(meshes.some(({ piece }) => piece === 'Chain')).toBe(false);
    expect(pieces[1].triangles).toBe(real.pieces[1].triangles);
  });
});

it('nothing that is to be seen is nothing to bake, which is reported', () => {
  const hidden = scene();
  for (const piece of hidden.pieces) piece.visible = false;
  expect(() => bake(hidden, store)).toThrow('Nothing to bake');
  expect(bake(hidden, store, { pieces: ['Cable'] }).meshes.length).toBeGreaterThan(0);
});

describe('baked again', () => {
  const many = (k: number): KelpDocument => {
    const document = scene();
    document.pieces[0].make = newUse('make', 'cable');
    Object.assign(document.pieces[0].make.parameters, { sides: 8 + k });
    return document;
  };
  const baked = (document: KelpDocument, options: object = {}) => {
    const placed: BakedPlaced[] = [];
    return { ...bake(document, store, { instances: true, onPlaced: (one) => placed.push(one), ...options }), placed };
  };

  it('what has not changed is the very same, and what has is made anew; other settings and less room make all anew', () => {
    const kept = new KeptPieces(1e9);
    const first = baked(many(0), { kept });
    const next = baked(many(1), { kept });
    expect(next).toEqual(baked(many(1)));
    const sameMesh = ({ meshes, placed }: typeof first, other: typeof first) =>
      [...meshes, ...placed].map(({ piece, mesh }) => [
        piece,
        [...other.meshes, ...other.placed].some((one) => one.mesh === mesh),
      ]);
    expect(sameMesh(next, first).every(([piece, same]) => same === (piece !== 'Cable'))).toBe(true);
    expect(sameMesh(baked(many(1), { kept, unit: 'cm' }), next).some(([, same]) => same)).toBe(false);
    // a moved point moves all that runs along its line
    const moved = many(1);
    moved.curves[0].points[1].position[1] += 0.1;
    expect(baked(moved, { kept })).toEqual(baked(moved));
    const little = new KeptPieces(1000);
    const [once, again] = [baked(many(0), { kept: little }), baked(many(0), { kept: little })];
    expect(sameMesh(again, once).some(([, same]) => same)).toBe(false);
    expect(again).toEqual(once);
  });
});

describe('lighter', () => {
  it.each([0.0005, 0.002])('with an error of %f m all is coarser, and no place is further off than that', (within) => {
    const [full, lean] = [bake(scene(), store), bake(scene(), store, { within })];
    for (const { name, off, triangles: count } of lean.pieces) {
      expect(off).toBeLessThanOrEqual(within);
      expect(count).toBeLessThanOrEqual(full.pieces.find((piece) => piece.name === name)?.triangles ?? 0);
      const [fine, coarse] = [skin(full.meshes, name), skin(lean.meshes, name)];
      // both ways, as Hausdorff's distance is defined
      expect(Math.max(farthest(fine, Surface.of(coarse)), farthest(coarse, Surface.of(fine)))).toBeLessThan(
        1.5 * within,
      );
    }
    // a smaller error leaves more
    expect(triangles(bake(scene(), store, { within: within / 4 }).meshes)).toBeGreaterThan(triangles(lean.meshes));
  });

  it('a number of triangles is kept to, findings are those of the piece itself', () => {
    const full = bake(scene(), store);
    const most = Math.round(triangles(full.meshes) / 5);
    const lean = bake(scene(), store, { triangles: most });
    expect(triangles(lean.meshes)).toBeLessThanOrEqual(1.02 * most);
    expect(triangles(lean.meshes)).toBeGreaterThan(most / 3);
    const reported = (baked: typeof full) =>
      baked.pieces.map(({ findings }) => [...new Set(findings.map(({ code }) => code))].sort());
    expect(reported(lean)).toEqual(reported(full));
    expect(bake(scene(), store, { triangles: 1e9 }).meshes).toEqual(full.meshes);
  });

  it('a scan is simplified within its error, by Hausdorff; what is closed stays closed', () => {
    const mesh: Mesh = {
      ...mergeMeshes([]),
      position: Float32Array.from(bunny.positions.flat()),
      normal: new Float32Array(3 * bunny.positions.length),
      uv: new Float32Array(2 * bunny.positions.length),
      index: Uint32Array.from(bunny.cells.flat()),
    };
    const { mesh: lean, off } = leanMesh(mesh, 0.1, 0);
    expect(off).toBeLessThanOrEqual(0.1);
    expect(lean.index.length).toBeLessThan(mesh.index.length / 2);
    expect(Math.max(farthest(lean, Surface.of(mesh)), farthest(mesh, Surface.of(lean)))).toBeLessThanOrEqual(
      1.0001 * off,
    );
    const tube = skin(bake(scene(), store).meshes, 'Cable');
    expect([topologyOf(tube).openEdges, topologyOf(simplified(tube, 0.001)).openEdges]).toEqual([0, 0]);
  });
});

describe('lighter strands', () => {
  const curve = fc.array(
    fc.tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: 0.001, max: 0.05, noNaN: true }),
    ),
    { minLength: 2, maxLength: 30 },
  );
  const strandsOf = (points: readonly (readonly number[])[], closed: boolean): StrandsPart => ({
    kind: 'strands',
    id: 's',
    name: 'S',
    slot: 'main',
    sides: 8,
    shape: 'round',
    curves: {
      ...singleCurve(
        points.flatMap(([x, y], k) => [x, y, 0.1 * k]),
        { id: 1 },
      ),
      closed: Uint8Array.of(closed ? 1 : 0),
    },
    width: Float32Array.from(points, ([, , width]) => width),
  });
  /** How far the points of one line are off another line, half the difference of their widths counted in. */
  const off = (fine: StrandsPart, coarse: StrandsPart): number => {
    const at = (part: StrandsPart, k: number) => [
      ...part.curves.position.subarray(3 * k, 3 * k + 3),
      part.width[k] / 2,
    ];
    let most = 0;
    for (let k = 0; k < fine.width.length; k++) {
      const p = at(fine, k);
      let least = Infinity;
      const count = coarse.width.length;
      for (let e = 0; e < count - 1 + fine.curves.closed[0]; e++) {
        const [a, b] = [at(coarse, e), at(coarse, (e + 1) % count)];
        const way = b.map((value, n) => value - a[n]);
        const long = way.reduce((sum, value) => sum + value * value, 0);
        const t =
          long > 0 ? Math.max(0, Math.min(1, way.reduce((sum, value, n) => sum + value * (p[n] - a[n]), 0) / long)) : 0;
        const gap = p.map((value, n) => value - a[n] - t * way[n]);
        least = Math.min(least, Math.hypot(gap[0], gap[1], gap[2]) + Math.abs(gap[3]));
      }
      most = Math.max(most, least);
    }
    return most;
  };

  it('have fewer points and sides, and no point or width of them is further off than is allowed', () => {
    fc.assert(
      fc.property(curve, fc.double({ min: 1e-4, max: 0.3, noNaN: true }), fc.boolean(), (points, within, closed) => {
        const full = strandsOf(points, closed && points.length > 2);
        const { part: lean, off: reported } = leanStrands(full, within);
        const thickest = Math.max(...full.width) / 2;
        const round = lean.sides < full.sides ? thickest * (1 - Math.cos(Math.PI / lean.sides)) : 0;
        expect(off(full, lean) + round).toBeLessThanOrEqual(within * 1.000001);
        expect(reported).toBeLessThanOrEqual(within);
        expect(Object.values(lean.curves.pointData).every((data) => data.length === lean.width.length)).toBe(true);
        expect(lean.curves.start[1]).toBe(lean.width.length);
      }),
    );
    // a straight one is its two ends
    const straight = strandsOf(
      [0, 1, 2, 3].map((k) => [k, 0, 0.02]),
      false,
    );
    expect(leanStrands(straight, 0.001).part.width).toHaveLength(2);
  });

  it('keep to a number of triangles', () => {
    const full = strandsOf(
      Array.from({ length: 40 }, (_, k) => [Math.sin(k), Math.cos(k / 3), 0.02]),
      false,
    );
    const count = (part: StrandsPart) => partCounts(part).triangles;
    const { part, off: reported } = strandsOfTriangles(full, 200);
    expect([count(part) <= 200, reported > 0, count(full) > 400]).toEqual([true, true, true]);
  });
});

describe('targets', () => {
  it('turn the world over: unit, way up, front and handedness, as the test cube shows them', () => {
    // where the tip of the arrow (+Z, at the height of 1) and the post (+X) come to: common practice of z-up and left-handed programs, no source
    const cases = [
      [{ unit: 'm', up: 'y', hand: 'right' }, [0, 1, 0.45]],
      [{ unit: 'cm', up: 'y', hand: 'left' }, [0, 100, -45]],
      [{ unit: 'mm', up: 'z', hand: 'right' }, [0, -450, 1000]],
      [{ unit: 'm', up: 'z', hand: 'left' }, [0, 0.45, 1]],
    ] as const;
    for (const [settings, tip] of cases) {
      const { mesh } = testCube(settings);
      const scale = PER_METRE[settings.unit];
      const places = Array.from({ length: vertexCount(mesh) }, (_, v) => [...mesh.position.subarray(3 * v, 3 * v + 3)]);
      expect(places.some((place) => place.every((value, k) => Math.abs(value - tip[k]) < 1e-3 * scale))).toBe(true);
      const up = settings.up === 'y' ? 1 : 2;
      expect(Math.max(...places.map((place) => place[up]))).toBeCloseTo(1.5 * scale, 3);
      // the post is on the right, whichever way round the axes are
      expect(places.filter((place) => place[up] > 1.2 * scale).every(([x]) => x > 0)).toBe(true);
      // fronts stay fronts: the volume is above 0
      expect(volumeOf(mesh) / scale ** 3).toBeCloseTo(volumeOf(testCube(cases[0][0]).mesh), 4);
    }
  });

  it('a whole bake and its strands go there too', () => {
    const [home, there] = [bake(scene(), store), bake(scene(), store, { unit: 'in', up: 'z' })];
    expect(volumeOf(allOf(there.meshes)) * 0.0254 ** 3).toBeCloseTo(volumeOf(allOf(home.meshes)), 7);
    const strands = {
      kind: 'strands',
      curves: singleCurve([1, 2, 3, 4, 5, 6]),
      width: Float32Array.of(0.1, 0.2),
    } as unknown as StrandsPart;
    const moved = strandsTo(targetOf({ unit: 'cm', up: 'z', hand: 'right' }), strands);
    expect([...moved.curves.position]).toEqual([100, -300, 200, 400, -600, 500]);
    expect([...moved.width].map((width) => Math.round(width))).toEqual([10, 20]);
  });

  it('a piece is reported from its own origin where that is asked for: put back there it is where it was, of instances too', () => {
    for (const pivot of ['bottom', 'start'] as const)
      for (const settings of [{}, { unit: 'cm', up: 'z' } as const]) {
        const placed: BakedPlaced[] = [];
        const plain: BakedPlaced[] = [];
        const own = bake(scene(), store, { ...settings, pivot, instances: true, onPlaced: (one) => placed.push(one) });
        const world = bake(scene(), store, { ...settings, instances: true, onPlaced: (one) => plain.push(one) });
        own.meshes.forEach(({ mesh, at }, k) => {
          const there = world.meshes[k].mesh.position;
          for (let i = 0; i < there.length; i += 97)
            expect(mesh.position[i] + (at?.[i % 3] ?? Number.NaN)).toBeCloseTo(there[i], 2);
          const up = 'up' in settings ? 2 : 1;
          // of a piece of one mesh: nothing is below its underside
          if (pivot === 'bottom' && own.meshes[k].piece === 'Cable')
            expect(Math.min(...Array.from(mesh.position).filter((_, i) => i % 3 === up))).toBeCloseTo(0, 3);
        });
        placed.forEach(({ places, at }, k) => {
          for (let i = 12; i < places.matrix.length; i += 16)
            expect(places.matrix[i] + (at?.[0] ?? Number.NaN)).toBeCloseTo(plain[k].places.matrix[i], 2);
        });
      }
  });

  it('frames stand where the clock is', () => {
    expect([0, 6, 12, 24, 30].map((frame) => phaseAt(frame, 24, 0.5))).toEqual([0, 0.5, 0, 0, 0.5]);
  });
});

describe('taken in again', () => {
  it('what is there already is not there twice; what differs gets an id and a name of its own, and all that names it follows', () => {
    let ids = 0;
    const newId = () => `new-${++ids}`;
    const [mine, theirs] = [scene(), scene()];
    expect(mergedDocument(emptyDocument('Empty'), theirs, newId).document).toEqual({ ...theirs, name: 'Empty' });
    expect(mergedDocument(mine, theirs, newId)).toEqual({ document: mine, pieces: [] });
    theirs.curves[0].points[2].position = [2, 5, 0];
    const { document, pieces } = mergedDocument(mine, theirs, newId);
    expect(document.curves.map(({ id, name }) => [id, name])).toEqual([
      ['c', 'C'],
      ['new-1', 'C 2'],
    ]);
    // they are the same to the letter but for the line they run along
    expect(pieces).toEqual(['new-2', 'new-3', 'new-4']);
    expect(document.pieces.slice(3)).toMatchObject([
      { name: 'Cable 2', path: { parameters: { curves: ['new-1'] } } },
      { name: 'Chain 2' },
      { name: 'Bared 2' },
    ]);
    expect(document.pieces.slice(0, 3)).toEqual(mine.pieces);
  });
});
