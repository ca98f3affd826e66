import { describe, expect, it } from 'vitest';
import { type CurveSet, Surface, Surroundings } from '../src/index.js';
import { sidesOf } from '../src/path/across/root-edge.js';
import { Unrolled } from '../src/path/across/unrolled.js';
import { createHit } from '../src/surface/surface.js';
import { controls, sheet } from './helpers.js';
import { build } from './units.js';

type Place = [number, number, number];

/** A curtain that hangs from y = 1 to 0; a quarter of a ball from its top down; a tongue that narrows to a tip. */
const curtain = (columns = 20) => sheet(columns, 16, (s, t) => [s, 1 - t, 0.1 * Math.sin(3 * s)]);
const ball = sheet(20, 14, (s, t) => {
  const [turn, down] = [Math.PI * (1 - s), 0.35 + 1.2 * t];
  return [Math.sin(down) * Math.cos(turn), Math.cos(down), Math.sin(down) * Math.sin(turn)];
});
const tongue = sheet(12, 20, (s, t) => [(s - 0.5) * (1.02 - t), 1 - t, 0.05 * Math.cos(6 * s)]);
const world = (shells: Record<string, Surface>, hidden = false) =>
  hidden
    ? new Surroundings(new Map(), undefined, undefined, new Map(Object.entries(shells)))
    : new Surroundings(new Map(Object.entries(shells)));
const over = (set: Record<string, unknown>, shells: Record<string, Surface>, more: Parameters<typeof build>[3] = {}) =>
  build(
    'path',
    'across',
    { shells: Object.keys(shells), height: { least: 0, most: 0 }, ...set },
    { surroundings: world(shells), ...more },
  );
const point = ({ position, start }: CurveSet, c: number, k: number): Place => {
  const p = 3 * (k < 0 ? start[c + 1] + k : start[c] + k);
  return [position[p], position[p + 1], position[p + 2]];
};
const apart = (a: Place, b: Place) => Math.hypot(...a.map((value, n) => value - b[n]));

describe('strands across a shell', () => {
  it.each([
    ['curtain', curtain()],
    ['ball', ball],
    ['tongue', tongue],
  ] as const)('of a %s lie on it, begin at its upper edge, end at its far one, and cross nowhere', (_name, shell) => {
    const out = over({ strands: 24, points: 12, spacing: 'even' }, { shell });
    const hit = createHit();
    const top = Math.max(...Array.from(shell.mesh.position).filter((_, i) => i % 3 === 1));
    for (let c = 0; c < 24; c++) {
      expect(point(out, c, 0)[1]).toBeCloseTo(top, 2);
      expect(point(out, c, -1)[1]).toBeLessThan(0.12);
      for (let k = 0; k < 12; k++) {
        shell.closest(...point(out, c, k), hit);
        expect(hit.distance).toBeLessThan(2e-3);
      }
      // even steps
      const steps = Array.from({ length: 11 }, (_, k) => apart(point(out, c, k), point(out, c, k + 1)));
      expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(1.2);
    }
    // laid flat no face is turned over: strands at different places of the root edge never meet
    const sides = sidesOf(shell, undefined);
    if (typeof sides === 'string') throw new Error(sides);
    const flat = new Unrolled(sides);
    const { corner } = sides.skin;
    const turns = new Set<number>();
    for (let i = 0; i < corner.length; i += 3) {
      const [a, b, c] = [corner[i], corner[i + 1], corner[i + 2]];
      turns.add(
        Math.sign(
          (flat.u[b] - flat.u[a]) * (flat.v[c] - flat.v[a]) - (flat.u[c] - flat.u[a]) * (flat.v[b] - flat.v[a]),
        ),
      );
    }
    turns.delete(0);
    expect(turns.size).toBe(1);
  });

  it('begin where a line marks its rim, from side to side, over part of the way, as high as asked; hidden shells do', () => {
    const side = controls([
      [0, 1, 0],
      [0, 0.5, 0],
      [0, 0, 0],
    ]);
    const marked = over(
      { strands: 10, marked: 'line', roots: ['side'] },
      { shell: curtain() },
      { curves: new Map([['side', side]]) },
    );
    for (let c = 0; c < 10; c++) {
      expect(point(marked, c, 0)[0]).toBeCloseTo(0, 2);
      expect(point(marked, c, -1)[0]).toBeCloseTo(1, 2);
    }
    const part = over({ strands: 10, from: 0.25, to: 0.5 }, { shell: curtain() });
    for (let c = 0; c < 10; c++)
      expect([point(part, c, 0)[1], point(part, c, -1)[1]]).toEqual([expect.closeTo(0.75, 1), expect.closeTo(0.5, 1)]);
    const high = over(
      { strands: 40, height: { least: 0.02, most: 0.05 } },
      { shell: ball },
      { surroundings: world({ shell: ball }, true) },
    );
    for (let c = 0; c < 40; c++) {
      const far = Math.hypot(...point(high, c, 8)) - 1;
      expect(far).toBeGreaterThan(0.012);
      expect(far).toBeLessThan(0.055);
    }
  });

  it('of one shell stay where they are when another gets more, and when there are more between them', () => {
    const shells = { a: curtain(), b: ball };
    const few = over({ strands: 30 }, shells);
    const own = over({ strands: 30, own: [{ shell: 2, strands: 90, points: 16, spacing: 'filled' }] }, shells);
    expect(new Set(own.id).size).toBe(120);
    expect([...own.position.subarray(0, few.start[30] * 3)]).toEqual([...few.position.subarray(0, few.start[30] * 3)]);
    for (let k = 30; k < 60; k++) expect([own.id[k], ...point(own, k, 9)]).toEqual([few.id[k], ...point(few, k, 9)]);
    const seen = over({ strands: 30, shown: 0.5 }, shells, { forView: true });
    expect(seen.id.length).toBe(30);
    // filled in, the widest gap is less than three times the narrowest (golden section; any text on sequences)
    const xs = Array.from({ length: 30 }, (_, c) => point(few, c, 0)[0]).sort((a, b) => a - b);
    const gaps = xs.slice(1).map((x, k) => x - xs[k]);
    expect(Math.max(...gaps) / Math.min(...gaps)).toBeLessThan(3.2);
  });
});

it('reports which shell it cannot use, and why', () => {
  const closed = Surface.of({
    position: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1),
    index: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2),
  });
  const empty = Surface.of({ position: new Float32Array(0), index: new Uint32Array(0) });
  const said = (
    set: Record<string, unknown>,
    shells: Record<string, Surface>,
    more: Parameters<typeof build>[3] = {},
  ) => {
    const reported: string[] = [];
    const out = over(set, shells, { reported, ...more });
    return [reported, out.id.length];
  };
  expect(said({}, {})).toEqual([['no-shells'], 0]);
  expect(said({}, { closed, empty })).toEqual([['shell-closed', 'no-area'], 0]);
  expect(said({ shells: ['gone'] }, {})).toEqual([['prop-missing'], 0]);
  expect(said({ strands: 7, marked: 'line' }, { curtain: curtain(), ball })).toEqual([
    ['no-root-edge', 'no-root-edge'],
    0,
  ]);
  const far = new Map([
    [
      'far',
      controls([
        [0, 9, 0],
        [1, 9, 0],
      ]),
    ],
  ]);
  expect(said({ strands: 7, marked: 'line', roots: ['far'] }, { curtain: curtain() }, { curves: far })).toEqual([
    ['no-root-edge'],
    0,
  ]);
  expect(said({}, { fine: curtain(6000) })).toEqual([['shell-too-fine'], 0]);
  expect(said({ strands: 1_000_000, points: 200, shown: 0.001 }, { curtain: curtain() }, { forView: true })).toEqual([
    ['too-many-strands'],
    80,
  ]);
});
