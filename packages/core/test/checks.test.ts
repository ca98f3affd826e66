import { readdirSync, readFileSync } from 'node:fs';
import { BoxGeometry, SphereGeometry } from 'three';
import { expect, it, vi } from 'vitest';

vi.mock('../src/unit/further.js', async () => {
  const { defineUnit } = await import('../src/unit/unit.js');
  const broken = defineUnit({
    stage: 'shape',
    id: 'test-broken',
    label: 'Broken',
    purpose: 'Fails.',
    version: 1,
    parameters: {},
    presets: [{ id: 'broken', label: 'Broken', parameters: {} }],
    describe: () => 'Broken',
    build() {
      throw new Error('no such number');
    },
  });
  return { FURTHER: [broken] };
});

const { applyFix, evaluatePiece, newShape, newUse, partCounts, Surface, Surroundings, World } = await import(
  '../src/index.js'
);
const { madeOfPiece } = await import('../src/evaluate/made.js');
const { alongPoints } = await import('./projects.js');
const { build } = await import('./units.js');

// One example of each finding that no other test brings about. What is beside it is just not one.

const LINE = [
  [0, 0, 0],
  [0.5, 0.1, 0],
  [1, 0, 0],
] as const;
const nowhere = new Surroundings(new Map());

/** Findings of a straight piece with one operation of its shape. */
function shaped(unit: string, parameters: Record<string, string | number> = {}) {
  const { document, piece } = alongPoints(LINE, (one) => {
    const use = newUse('shape', unit);
    one.shape = [{ ...use, enabled: true, parameters: { ...use.parameters, ...parameters } }];
  });
  return { piece, build: evaluatePiece(new World(document, nowhere), piece) };
}

it('a line that is to cling is reported when there is nothing, and left as it is', () => {
  const { build: built } = shaped('cling');
  expect(built.findings).toMatchObject([{ code: 'nothing-to-cling-to', severity: 'warning' }]);
  expect(built.findings[0].message).toContain('There is no prop');
  expect(shaped('cling', { target: 'gone' }).build.findings[0].message).toContain('is missing');
  expect(built.measures.length).toBeCloseTo(evaluatePiece(...along()).measures.length, 9);
});

const along = (): [InstanceType<typeof World>, ReturnType<typeof alongPoints>['piece']] => {
  const { document, piece } = alongPoints(LINE);
  return [new World(document, nowhere), piece];
};

it('more vertices than there may be are reported before they are made, and as many as may be are made', () => {
  const [world, piece] = along();
  const free = madeOfPiece(world, piece, 1);
  expect(free.findings).toEqual([]);
  const [all] = free.made.parts.map((part) => partCounts(part).vertices);
  const held = madeOfPiece(world, piece, 1, Math.round(all / 2));
  expect(held.findings).toMatchObject([
    { code: 'too-heavy', severity: 'warning', size: { limit: Math.round(all / 2), kind: 'count' } },
  ]);
  // what was reported beforehand is what it would have had
  expect(held.findings[0].size!.value).toBe(all);
  expect(held.density).toBeLessThan(1);
  expect(partCounts(held.made.parts[0]).vertices).toBeLessThanOrEqual(all / 2);
});

it('an operation that fails is reported with its reason, and what it was given goes on', () => {
  const { build: built } = shaped('test-broken');
  expect(built.findings).toMatchObject([{ code: 'unit-failed', severity: 'error' }]);
  expect(built.findings[0].message).toContain('no such number');
  expect(built.measures.length).toBeGreaterThan(1);
});

it('copies and slices stop where there would be too many, and say how many there are', () => {
  const reported: string[] = [];
  // four million points are the most: of a line of 101, 39,603 copies
  const input = build('path', 'helix', { turns: 100 });
  const points = input.position.length / 3;
  const copies = build('shape', 'repeat', { count: 100_000 }, { input, reported });
  expect(reported).toEqual(['too-many-copies']);
  expect(copies.start.length - 1).toBe(Math.floor(4_000_000 / points));
  expect(build('shape', 'repeat', { count: 3 }, { input, reported }).start.length - 1).toBe(3);
  expect(reported).toHaveLength(1);
  const ball = Surface.of({
    position: Float32Array.from(new SphereGeometry(1, 8, 4).toNonIndexed().getAttribute('position').array),
    index: Uint32Array.from({ length: 8 * 4 * 6 - 48 }, (_, v) => v),
  });
  // every way to ask for points, and all the same no more than four million of them
  const many = build('shape', 'repeat', { count: 100 }, { input: build('path', 'helix', { turns: 3 }) });
  for (const asked of [
    { by: 'count', count: 100_000 },
    { by: 'spacing', spacing: 1e-5 },
    { by: 'bend', turn: 1e-4 },
  ]) {
    const fine = build('shape', 'resample', asked, { input: many, reported });
    expect(reported.pop()).toBe('too-many-points');
    expect(fine.position.length / 3).toBeGreaterThan(3_000_000);
    expect(fine.position.length / 3).toBeLessThan(4_010_000);
  }
  // nothing touches, so it ends at once; as it might not, its passes are counted
  const apart = build('path', 'helix', { turns: 100, height: 5 });
  build('shape', 'keep-apart', { passes: 2000 }, { input: apart, reported });
  expect(reported.at(-1)).toBe('too-many-passes');
  const slices = build(
    'path',
    'contours',
    { spacing: 0.0001 },
    { surroundings: new Surroundings(new Map([['ball', ball]])), reported },
  );
  expect(reported.at(-1)).toBe('too-many-slices');
  expect(slices.start.length - 1).toBe(5000);
});

it('a lane that ends elsewhere than it begins is reported on a closed line, and mended; whole turns and open lines are none', () => {
  const of = (parameters: object, closed = true) => {
    const { document, piece } = alongPoints([...LINE, [0.5, 0, 0.6]], ({ make }) =>
      Object.assign(make.parameters, { section: 'box', ...parameters }),
    );
    document.curves[0].closed = closed;
    const { findings } = evaluatePiece(new World(document, nowhere), piece);
    return { document, reported: findings.filter(({ code }) => code === 'jumps-at-seam') };
  };
  const lane = (...values: number[]) => ({
    ease: 'smooth',
    knots: values.map((value, k) => ({ at: k / (values.length - 1), value })),
  });
  const radius = lane(0.01, 0.02, 0.013);
  const { document, reported } = of({ radius });
  expect(reported).toHaveLength(1);
  expect(reported[0].size?.value).toBeCloseTo(0.003, 6);
  expect(reported[0].place).toEqual([0, 0, 0]);
  const mended = applyFix(document, 'piece', reported[0].fix!).pieces[0];
  expect(mended.make.parameters['radius']).toEqual(lane(0.01, 0.02, 0.01));
  expect(of({ radius: lane(0.01, 0.02, 0.01) }).reported).toEqual([]);
  expect(of({ radius }, false).reported).toEqual([]);
  expect(of({ roll: lane(0.3, 0.3 + 4 * Math.PI), twist: lane(0, 3) }).reported).toEqual([]);
  // a step of a tenth before a whole turn, as of a tenth after it
  for (const step of [0.1, -0.1])
    expect(of({ roll: lane(0, 2 * Math.PI + step) }).reported[0].size?.value).toBeCloseTo(0.1, 6);
});

const floor = Surface.of({
  position: Float32Array.from(new BoxGeometry(3, 2, 3).toNonIndexed().getAttribute('position').array),
  index: Uint32Array.from({ length: 36 }, (_, v) => v),
});
const onFloor = new Surroundings(new Map([['floor', floor]]));

it.each([
  // a zigzag in the air; a line led over the edge of a block
  [
    'Increase the smoothing',
    nowhere,
    Array.from({ length: 15 }, (_, k) => [0.04 * k, 1.02, k % 2 === 0 ? 0 : 0.1] as const),
    [newShape('smooth', { over: 0.5 })],
  ],
  [
    'Smooth it over the surface',
    onFloor,
    [
      [1.2, 1.02, 0],
      [1.52, 1.02, 0],
      [1.52, 0.5, 0],
    ] as const,
    [newShape('smooth', { over: 1 }), newShape('cling', { ease: 0.1 })],
  ],
])(
  'what bends too tightly is mended by its own fix, taken as often as it is offered: %s',
  (label, on, points, shape) => {
    let { document } = alongPoints(points, (one) => {
      one.make.parameters['radius'] = 0.02;
      one.shape = shape;
    });
    const pinchOf = () =>
      evaluatePiece(new World(document, on), document.pieces[0]).findings.find(({ code }) => code === 'pinch');
    const taken: string[] = [];
    for (let pinch = pinchOf(); pinch; pinch = pinchOf()) {
      taken.push(pinch.fix!.label);
      document = applyFix(document, 'piece', pinch.fix!);
    }
    expect(taken[0]).toBe(label);
  },
);

it('a fold that an edge forces on what is over it is a note; the same fold in the air is an error', () => {
  const over: [number, number, number][] = [
    [1.2, 1.02, 0],
    [1.51, 1.02, 0],
    [1.51, 0.7, 0],
  ];
  const reported = (on: InstanceType<typeof Surroundings>, points = over, radius = 0.2) => {
    const { document, piece } = alongPoints(points, (one) => {
      Object.assign(one.make.parameters, { radius, folds: 'through' });
    });
    return evaluatePiece(new World(document, on), piece).findings.filter(({ code }) => code === 'pinch');
  };
  expect(reported(nowhere).map(({ severity }) => severity)).toContain('error');
  const forced = reported(onFloor);
  expect(forced.length).toBeGreaterThan(0);
  for (const { severity, message } of forced) {
    expect(severity).toBe('warning');
    expect(message).toMatch(
      /^Bend radius .*(the surface below turns tighter|Smooth the line, or lower the min bend radius)/,
    );
  }
  // turned back beside itself on the edge: that is no doing of the edge
  const back: [number, number, number][] = [
    [1.49, 1.02, -0.3],
    [1.49, 1.02, 0],
    [1.51, 1.02, 0],
    [1.51, 1.02, -0.3],
  ];
  expect(reported(onFloor, back, 0.02).map(({ severity }) => severity)).toContain('error');
});

it('every kind of finding in the core has a test that brings it about', () => {
  const read = (folder: string) =>
    readdirSync(new URL(folder, import.meta.url), { recursive: true, encoding: 'utf8' })
      .filter((name) => name.endsWith('.ts'))
      .map((name) => readFileSync(new URL(`${folder}/${name}`, import.meta.url), 'utf8'))
      .join('\n');
  const codes = new Set([...read('../src').matchAll(/code: '([a-z-]+)'/g)].map(([, code]) => code));
  expect(codes.size).toBeGreaterThan(20);
  const tests = read('.');
  expect([...codes].filter((code) => !tests.includes(`'${code}'`))).toEqual([]);
});
