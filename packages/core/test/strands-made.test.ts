import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { joinCurves } from '../src/curve/carry.js';
import { along, energyOf, lobesOf, strengths } from '../src/dress/strands/scatter.js';
import {
  bake,
  emptyDocument,
  evaluatePiece,
  HOME,
  type KelpDocument,
  newPiece,
  newShape,
  newUse,
  parseDocument,
  type StrandsPart,
  Surface,
  SurfaceStore,
  Surroundings,
  singleCurve,
  topologyOf,
  unitOf,
  World,
} from '../src/index.js';
import { realMesh } from '../src/part/part.js';
import { strandCounts, strandMeshes } from '../src/part/strand-meshes.js';
import type { Part } from '../src/unit/carriers.js';
import { circle } from './helpers.js';
import { build, made } from './units.js';

const skin = Surface.of({
  position: Float32Array.of(0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1),
  index: Uint32Array.of(0, 2, 1, 0, 3, 2),
});
const surroundings = new Surroundings(new Map([['skin', skin]]));
const grown = (count: number, more: object = {}) =>
  build('path', 'grown', { count, length: 0.05, points: 6, ...more }, { surroundings });
const strandsOf = (set: Record<string, unknown>, input = grown(300)) =>
  made('strands', { radius: 0.001, ...set }, { input }).parts[0] as StrandsPart;
const dressed = (part: Part, set: Record<string, unknown>, more: object = {}) =>
  (
    unitOf('dress', 'hair') as never as {
      build(...all: unknown[]): { parts: StrandsPart[]; material: { strand: unknown } };
    }
  ).build(
    [part],
    { ...newUse('dress', 'hair').parameters, ...set },
    { picture: () => undefined, report: () => {}, ...more },
  );
const share = (at: number) => ({
  ease: 'straight' as const,
  knots: [
    { at: 0, value: at },
    { at: 1, value: at },
  ],
});

describe('strands', () => {
  it('are as wide as their lane, their ends and what is drawn say; of a closed line too', () => {
    const part = strandsOf({ radius: 0.002, root: 0.5, tip: 0, taper: 0.4 });
    for (const c of [0, 7]) {
      const width = [...part.width.subarray(6 * c, 6 * c + 6)];
      expect(width[0]).toBeCloseTo(0.002, 9);
      expect(width[2]).toBeCloseTo(0.004, 9);
      expect(width[5]).toBe(0);
    }
    expect(
      [
        ...strandsOf(
          { radius: 0.002, root: 0.5, tip: 0 },
          build('shape', 'resample', { spacing: 0.01 }, { input: circle(0.1, 24) }),
        ).width,
      ].every((value) => Math.abs(value - 0.004) < 1e-9),
    ).toBe(true);
    const guard = strandsOf(
      { tip: 1 },
      build(
        'shape',
        'layers',
        { others: [{ layer: 'guard', share: 1, width: 2, length: 1, frizz: 0, colour: '#ffffff' }] },
        { input: grown(5) },
      ),
    );
    expect(guard.width.every((value) => Math.abs(value - 0.004) < 1e-9)).toBe(true);
  });

  it('have a guide of their own lines, of very many the first 400', () => {
    for (const [count, guides] of [
      [400, 400],
      [401, 400],
    ] as const) {
      const input = grown(count);
      expect(input.id.length).toBe(count);
      const { guide } = made('strands', {}, { input });
      expect([...guide.id]).toEqual([...input.id.subarray(0, guides)]);
    }
  });

  it('say how many there are of each layer that has any, and how long all are', () => {
    const one = { width: 1, length: 1, frizz: 0, colour: '#ffffff' };
    const layered = build(
      'shape',
      'layers',
      {
        others: [
          { ...one, layer: 'guard', share: 0.3 },
          { ...one, layer: 'white', share: 0.1 },
        ],
      },
      { input: grown(400) },
    );
    const measures = Object.fromEntries(
      made('strands', {}, { input: layered }).measures.map(({ id, value }) => [id, value]),
    );
    const layer = [...layered.curveData['layer']];
    const counted = ['main', 'white', 'stray', 'guard'].map((name) => measures[`layer-${name}`]);
    expect(counted.filter((value) => value !== undefined).length).toBe(3);
    expect(counted.reduce((sum, value) => sum + (value ?? 0), 0)).toBe(400);
    expect(new Set(counted.filter((value) => value !== undefined))).toEqual(
      new Set([0, 1, 2, 3].map((k) => layer.filter((value) => value === k).length).filter((count) => count > 0)),
    );
    expect(measures['all-lines']).toBe(400);
    expect(measures['all-length']).toBeCloseTo(400 * 0.05, 4);
    expect(
      Object.keys(Object.fromEntries(made('strands', {}, { input: grown(4) }).measures.map(({ id }) => [id, 1]))),
    ).toEqual(['all-lines', 'all-length']);
  });

  it('are closed tubes with their faces out, or strips of two sides that lie off the skin; as many as is said; lines have none', () => {
    const rings = joinCurves([build('path', 'grown', { count: 40, length: 0.05 }, { surroundings }), circle(0.1, 24)]);
    delete rings.curveData['rootNormal'];
    for (const bakedAs of ['round', 'flat', 'lines'] as const)
      for (const input of [grown(300), rings]) {
        const part = strandsOf(
          { bakedAs, tip: 0.3, sides: 5 },
          made('strands', {}, { input: build('shape', 'resample', { spacing: 0.004 }, { input }) }).guide,
        );
        const mesh = realMesh(part);
        if (bakedAs !== 'lines')
          expect({ vertices: mesh.position.length / 3, triangles: mesh.index.length / 3 }).toEqual(
            (({ vertices, triangles }) => ({ vertices, triangles }))(strandCounts(part)),
          );
        for (const [i, v] of mesh.index.entries()) {
          expect(v).toBeLessThan(mesh.position.length / 3);
          if (i > 3000) break;
        }
        if (bakedAs === 'round') expect(topologyOf(mesh).openEdges).toBe(0);
        expect(
          mesh.normal.findIndex(
            (x, v, all) => v % 3 === 0 && !(Math.abs(Math.hypot(x, all[v + 1], all[v + 2]) - 1) < 5e-5),
          ),
        ).toBe(-1);
        // each face looks where its corners look
        for (let f = 0; f < mesh.index.length; f += 3) {
          const [a, b, c] = [0, 1, 2].map((k) => [
            ...mesh.position.subarray(3 * mesh.index[f + k], 3 * mesh.index[f + k] + 3),
          ]);
          const [u, w] = [b, c].map((q) => q.map((value, n) => value - a[n]));
          const face = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
          const normal = mesh.normal.subarray(3 * mesh.index[f], 3 * mesh.index[f] + 3);
          if (Math.hypot(...face) > 1e-12)
            expect(face[0] * normal[0] + face[1] * normal[1] + face[2] * normal[2]).toBeGreaterThan(0);
          if (f > 600) break;
        }
      }
    // a strip is as wide as its strand
    const strip = realMesh(strandsOf({ bakedAs: 'flat', tip: 1 }));
    expect(Math.hypot(...[0, 1, 2].map((n) => strip.position[n] - strip.position[3 + n]))).toBeCloseTo(0.002, 6);
  });

  it('come a part at a time: together they are all, no part is large, and every vertex says whose it is', () => {
    const coat = build(
      'shape',
      'clump',
      { share: 0.5 },
      { input: build('shape', 'layers', {}, { input: grown(12_000) }) },
    );
    const part = { ...strandsOf({ sides: 6 }, coat) };
    const parts = [...strandMeshes(part)];
    expect(parts.length).toBeGreaterThan(1);
    for (const { position } of parts) expect(position.length / 3).toBeLessThan(800_000);
    expect(parts.reduce((sum, { position }) => sum + position.length / 3, 0)).toBe(strandCounts(part).vertices);
    const { attributes = {}, position } = parts[1];
    const first = parts[0].attributes!['strand'].data;
    const seen = new Set([...first].map(Number));
    expect([...attributes['strand'].data.subarray(0, 5000)].some((id) => seen.has(id))).toBe(false);
    for (let v = 0; v < 4000; v++) {
      const c = coat.id.findIndex((id) => (id & 0xff_ffff) === attributes['strand'].data[v]);
      expect(attributes['layer'].data[v]).toBe(coat.curveData['layer'][c]);
      expect(attributes['clump'].data[v]).toBe(coat.curveData['clump'][c] & 0xff_ffff);
      // straight up from the ground: the height reports how far from the root
      expect(attributes['rootToTip'].data[v]).toBeCloseTo(
        position[3 * v + 1] / coat.position[3 * coat.start[c + 1] - 2],
        1,
      );
      v += 97;
    }
  });
});

describe('hair', () => {
  const linear = (hex: string) =>
    [1, 3, 5].map((i) => {
      const c = Number.parseInt(hex.slice(i, i + 2), 16) / 255;
      return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
    });
  const colours = (part: StrandsPart, c: number, k: number) => [
    ...part.curves.pointData['colour'].subarray(3 * (6 * c + k), 3 * (6 * c + k) + 3),
  ];
  const close = (all: number[]) => all.map((value) => expect.closeTo(value, 5));

  it('goes from the root’s colour to the tip’s; second and third colours have their shares, white and stray layers theirs, markings where the picture is light', () => {
    const plain = {
      root: '#102030',
      tip: '#c0b0a0',
      variation: 0,
      towardsTip: {
        ease: 'straight',
        knots: [
          { at: 0, value: 0 },
          { at: 1, value: 1 },
        ],
      },
    };
    const part = strandsOf({});
    const [out] = dressed(part, plain).parts;
    expect(colours(out, 3, 0)).toEqual(close(linear('#102030')));
    expect(colours(out, 3, 5)).toEqual(close(linear('#c0b0a0')));
    const many = strandsOf({}, grown(6000));
    const [shared] = dressed(many, {
      ...plain,
      towardsTip: share(1),
      second: '#ff0000',
      secondShare: 0.2,
      third: '#00ff00',
      thirdShare: 0.1,
    }).parts;
    for (const [wanted, p] of [
      ['#ff0000', 0.2],
      ['#00ff00', 0.1],
      ['#c0b0a0', 0.7],
    ] as const) {
      const count = Array.from({ length: 6000 }, (_, c) => colours(shared, c, 5)).filter((one) =>
        one.every((value, n) => Math.abs(value - linear(wanted)[n]) < 1e-4),
      ).length;
      expect(Math.abs(count - 6000 * p)).toBeLessThan(3.3 * Math.sqrt(6000 * p * (1 - p)));
    }
    const white = build(
      'shape',
      'layers',
      { others: [{ layer: 'white', share: 1, width: 1, length: 1, frizz: 0, colour: '#ffffff' }] },
      { input: grown(4) },
    );
    expect(colours(dressed(strandsOf({}, white), { ...plain, white: '#eeeeee' }).parts[0], 1, 2)).toEqual(
      close(linear('#eeeeee')),
    );
    const picture = () => ({
      picture: { position: [0.25, 0, 0.5], plane: 'top', width: 0.5, aspect: 2 },
      shades: { width: 1, height: 1, light: Uint8Array.of(255), colour: new Uint8Array(4) },
    });
    const [marked] = dressed(part, { ...plain, picture: 'p', pictureColour: '#0000ff' }, { picture }).parts;
    for (let c = 0; c < 300; c++) expect(colours(marked, c, 4)[2] > 0.99).toBe(part.curves.position[18 * c] <= 0.5);
    // in its own colours: red, then half clear green
    const coloured = () => ({
      ...picture(),
      shades: { width: 2, height: 1, light: new Uint8Array(2), colour: Uint8Array.of(255, 0, 0, 255, 0, 128, 0, 128) },
    });
    const [worn] = dressed(
      part,
      { ...plain, secondShare: 0, picture: 'p', pictureUse: 'colours' },
      { picture: coloured },
    ).parts;
    const half = linear('#c0b0a0').map((value, n) => (value + (n === 1 ? 1 : 0)) / 2);
    for (let c = 0; c < 300; c++) {
      const x = part.curves.position[18 * c];
      const tip = colours(worn, c, 5);
      if (x < 0.124) expect(tip).toEqual(close([1, 0, 0]));
      else if (x > 0.376 && x <= 0.5) for (const n of [0, 1, 2]) expect(tip[n]).toBeCloseTo(half[n], 2);
      else if (x > 0.5) expect(tip).toEqual(close(linear('#c0b0a0')));
    }
    const reported: string[] = [];
    dressed(part, { picture: 'p' }, { report: ({ code }: { code: string }) => reported.push(code) });
    expect(reported).toEqual(['picture-unread']);
    // and its meshes wear them
    expect(realMesh(out).attributes!['colour'].data[0]).toBeCloseTo(linear('#102030')[0], 5);
  });

  it('throws light as the longitudinal terms of Marschner et al. (2003) do: the same both ways, no more than falls on it, highlights to both sides', () => {
    const light = fc.record({
      shine: fc.integer({ min: 0, max: 100 }),
      through: fc.integer({ min: 0, max: 100 }),
      spread: fc.integer({ min: 3, max: 30 }),
      shift: fc.integer({ min: 0, max: 12 }),
    });
    const angle = fc.integer({ min: -60, max: 60 });
    fc.assert(
      fc.property(light, angle, angle, (given_, a, b) => {
        const given = {
          shine: given_.shine / 100,
          through: given_.through / 100,
          spread: given_.spread / 100,
          shift: given_.shift / 100,
        };
        const [inward, outward] = [(a * Math.PI) / 180, (b * Math.PI) / 180];
        for (const lobe of lobesOf(given))
          expect(along(lobe, inward, outward)).toBeCloseTo(along(lobe, outward, inward), 12);
        expect(strengths(given).reduce((sum, one) => sum + one, 0)).toBeLessThanOrEqual(1);
        // beyond 60° the paper's own 1/cos² grows past what falls on it (d'Eon et al., 2011)
        expect(energyOf(given, inward)).toBeLessThanOrEqual(1.02);
      }),
    );
    const [r, tt, trt] = lobesOf({ shift: 0.06, spread: 0.1 });
    expect([r.shift, tt.shift, trt.shift]).toEqual([-0.06, 0.03, expect.closeTo(0.09, 12)]);
    expect([r.spread, tt.spread, trt.spread]).toEqual([0.1, 0.05, 0.2]);
    // over all half angles each lobe is one
    for (const lobe of [r, tt, trt]) {
      let sum = 0;
      for (let k = -3000; k <= 3000; k++) sum += along(lobe, 2 * (k / 1000), 0) / 1000;
      expect(sum).toBeCloseTo(1, 6);
    }
  });
});

describe('a project with fur', () => {
  const HASH = 'a'.repeat(64);
  function furred(count: number): { document: KelpDocument; surfaces: SurfaceStore } {
    const surfaces = new SurfaceStore();
    surfaces.add(HASH, skin.mesh);
    const document = emptyDocument('Fur');
    document.props.push({ id: 'skin', name: 'Skin', mesh: HASH, placement: HOME, visible: true, colour: '#cccccc' });
    const piece = newPiece('fur', 'Fur', [], false);
    piece.path = newUse('path', 'grown');
    Object.assign(piece.path.parameters, { count, shown: 0.1 });
    piece.shape = [newShape('clump', {}), newShape('frizz', {})];
    piece.make = newUse('make', 'strands');
    piece.dress = { main: newUse('dress', 'hair') };
    document.pieces.push(piece);
    return { document: parseDocument(JSON.parse(JSON.stringify(document))), surfaces };
  }

  it('shows its share, bakes all, as strands or as meshes; a changed tightness computes only what follows', () => {
    const { document, surfaces } = furred(3000);
    const world = new World(document, surfaces.surroundings(document));
    world.forView = true;
    const seen = evaluatePiece(world, document.pieces[0]);
    expect((seen.parts[0] as StrandsPart).curves.closed.length).toBe(300);
    const strands: StrandsPart[] = [];
    const { meshes } = bake(document, surfaces, { onStrands: (one) => strands.push(one.strands) });
    expect([meshes.length, strands[0].curves.closed.length]).toEqual([0, 3000]);
    expect([...strands[0].curves.id.subarray(0, 300)]).toEqual([...(seen.parts[0] as StrandsPart).curves.id]);
    const asMeshes = bake(document, surfaces).meshes;
    expect(asMeshes.reduce((sum, { mesh }) => sum + mesh.index.length / 3, 0)).toBe(strandCounts(strands[0]).triangles);
    const piece = {
      ...document.pieces[0],
      shape: document.pieces[0].shape.map((use, k) =>
        k === 0 ? { ...use, parameters: { ...use.parameters, tightness: 0.1 } } : use,
      ),
    };
    const next = new World({ ...document, pieces: [piece] }, world.surroundings, world.cache);
    next.forView = true;
    const after = evaluatePiece(next, piece);
    expect(after.stages[0]).toBe(seen.stages[0]);
    expect(after.stages[1]).not.toBe(seen.stages[1]);
  });

  it('is never made coarser for being many: meshes come a part at a time', () => {
    const { document, surfaces } = furred(60_000);
    const { pieces } = bake(document, surfaces, { memory: 220e6, onStrands: () => {} });
    expect(pieces[0].findings).toEqual([]);
    expect(pieces[0].vertices).toBeGreaterThan(3e6);
  });
});

it('a single drawn line is a strand as well', () => {
  const line = build(
    'shape',
    'resample',
    { spacing: 0.01 },
    { input: singleCurve([0, 0, 0, 0.1, 0.05, 0, 0.2, 0, 0]) },
  );
  const mesh = realMesh(strandsOf({}, line));
  expect(topologyOf(mesh)).toMatchObject({ openEdges: 0, shells: 1 });
});

it('a bake holds no stage of a piece longer than the next one needs it; a world that is looked at keeps them all', () => {
  const surfaces = new SurfaceStore();
  surfaces.add('b'.repeat(64), skin.mesh);
  const document = {
    ...emptyDocument('Fur'),
    props: [{ id: 'skin', name: 'Skin', mesh: 'b'.repeat(64), placement: HOME, visible: true, colour: '#cccccc' }],
  };
  const piece = {
    ...newPiece('fur', 'Fur', [], false),
    path: newUse('path', 'grown'),
    shape: [newShape('clump'), newShape('frizz'), newShape('droop')],
  };
  const kept = (once: boolean) => {
    const world = new World({ ...document, pieces: [piece] }, surfaces.surroundings(document));
    world.once = once;
    const { stages } = evaluatePiece(world, piece);
    const places = ['path', 'shape 0', 'shape 1', 'shape 2'].filter(
      (place) => world.cache.last('fur', place) !== undefined,
    );
    return [stages.length, places];
  };
  expect(kept(true)).toEqual([1, ['shape 2']]);
  expect(kept(false)).toEqual([4, ['path', 'shape 0', 'shape 1', 'shape 2']]);
});

it('a region drives the width of all strands at once: they stay one part', () => {
  const surfaces = new SurfaceStore();
  surfaces.add('c'.repeat(64), skin.mesh);
  const document = {
    ...emptyDocument('Fur'),
    props: [{ id: 'skin', name: 'Skin', mesh: 'c'.repeat(64), placement: HOME, visible: true, colour: '#cccccc' }],
  };
  document.regions = [
    {
      id: 'r',
      name: 'R',
      form: 'box',
      position: [0, 0, 0.5],
      size: [0.5, 9, 9],
      rotation: [0, 0, 0, 1],
      edge: 0,
    } as never,
  ];
  const piece = {
    ...newPiece('fur', 'Fur', [], false),
    path: newUse('path', 'grown'),
    make: newUse('make', 'strands'),
  };
  Object.assign(piece.make.parameters, {
    tip: 1,
    radius: {
      ease: 'straight',
      region: 'r',
      knots: [
        { at: 0, value: 0.001 },
        { at: 1, value: 0.003 },
      ],
    },
  });
  const { parts } = evaluatePiece(new World({ ...document, pieces: [piece] }, surfaces.surroundings(document)), piece);
  expect(parts.length).toBe(1);
  const { curves, width } = parts[0] as StrandsPart;
  for (let c = 0; c < curves.closed.length; c++)
    expect(width[curves.start[c]]).toBeCloseTo(curves.position[3 * curves.start[c]] <= 0.5 ? 0.006 : 0.002, 9);
});
