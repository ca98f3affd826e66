import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { singleCurve } from '../src/curve/curve-set.js';
import {
  createHit,
  evaluatePiece,
  HOME,
  type MeshPart,
  newShape,
  newUse,
  type Part,
  type PlacedPart,
  realMesh,
  Surface,
  Surroundings,
  signedVolume,
  topologyOf,
  World,
} from '../src/index.js';
import { Cloth } from '../src/make/elements/cloth.js';
import { framedLines } from '../src/make/elements/framed-lines.js';
import { type PlanPlace, STITCH_KINDS, stitchKind } from '../src/make/stitch/kinds.js';
import { legsOf } from '../src/make/stitch/legs.js';
import { laidThreads } from '../src/make/stitch/plies.js';
import { type StitchChoice, sew, stitchesOf } from '../src/make/stitch/threads.js';
import { sidesOfEdge } from '../src/make/stitch/whip.js';
import { foldOf } from '../src/make/zip/halves.js';
import { bunnyMesh, circle, evenly } from './helpers.js';
import { alongPoints } from './projects.js';

type Place = readonly [number, number, number];
const nowhere = new Surroundings(new Map());
const flat = Surface.of({
  position: Float32Array.of(-1, 0, -1, 1, 0, -1, 1, 0, 1, -1, 0, 1),
  index: Uint32Array.of(0, 2, 1, 0, 3, 2),
});
const rabbit = Surface.of(bunnyMesh());
const onto = (surface: Surface) => new Surroundings(new Map([['cloth', surface]]));
const LINE: Place[] = [
  [0, 0, 0],
  [0.05, 0, 0],
  [0.1, 0, 0],
];

function made(
  unit: string,
  set: Record<string, unknown>,
  points: readonly Place[] = LINE,
  props = onto(flat),
  options: { closed?: boolean; corners?: boolean; cling?: boolean } = {},
) {
  const { document, piece } = alongPoints(points, (one) => {
    one.make = newUse('make', unit);
    Object.assign(one.make.parameters, set);
    if (options.cling) one.shape = [newShape('cling', { reach: 0.05 })];
  });
  document.curves[0].closed = options.closed ?? false;
  for (const point of document.curves[0].points) point.corner = options.corners ?? false;
  if (props.surface('cloth'))
    document.props.push({
      id: 'cloth',
      name: 'Cloth',
      mesh: 'cloth',
      placement: HOME,
      visible: true,
      colour: '#cccccc',
    });
  return evaluatePiece(new World(document, props), piece);
}

/** Places on the scan, one after the other, as they are seen from the front. */
function overRabbit(sway: number): Place[] {
  const hit = createHit();
  return [...Array(7).keys()].flatMap((k): Place[] =>
    rabbit.cast([-0.045 + 0.009 * k, 0.052 + sway * Math.sin(k), 1], [0, 0, -1], hit)
      ? [[hit.point[0], hit.point[1], hit.point[2]]]
      : [],
  );
}

const codes = ({ findings }: { findings: readonly { code: string }[] }) => findings.map(({ code }) => code);
const partOf = (build: { parts: readonly Part[] }, id: string) => build.parts.find((part) => part.id === id);
const figure = (build: ReturnType<typeof made>, id: string) =>
  build.measures.further.find((one) => one.id === id)?.value ?? Number.NaN;
const apart = (a: ArrayLike<number>, b: ArrayLike<number>) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const choice = (set: Partial<StitchChoice> & { kind: string }): StitchChoice => ({
  ...(newUse('make', 'stitch').parameters as unknown as StitchChoice),
  radius: 0.0005,
  ...set,
});

/** Sews along a straight decimetre, or along the given lines. */
function sewn(
  p: StitchChoice,
  lines = framedLines(singleCurve([0, 0, 0, 0.1, 0, 0]), false),
  props = onto(flat),
  pitch = 0.004,
) {
  const { legs } = legsOf(lines, pitch, stitchKind(p.kind).alternates, 1e5);
  const stitches = [...stitchesOf(legs, lines.lines.id, lines.lengths, lines.lines.closed, p)];
  return { ...sew(stitches, new Cloth(lines, props, 0.02), p), legs, stitches };
}

/** Where two plain ways cross each other, counted. */
function crossings(a: readonly PlanPlace[], b: readonly PlanPlace[]): number {
  let count = 0;
  for (let i = 0; i + 1 < a.length; i++)
    for (let j = 0; j + 1 < b.length; j++) {
      const [[px, py], [qx, qy], [rx, ry], [sx, sy]] = [a[i], a[i + 1], b[j], b[j + 1]];
      const side = (x: number, y: number, ax: number, ay: number, bx: number, by: number) =>
        Math.sign((bx - ax) * (y - ay) - (by - ay) * (x - ax));
      if (
        side(rx, ry, px, py, qx, qy) * side(sx, sy, px, py, qx, qy) < 0 &&
        side(px, py, rx, ry, sx, sy) * side(qx, qy, rx, ry, sx, sy) < 0
      )
        count++;
    }
  return count;
}

describe('stitches', () => {
  it('fit the line in whole ones: this many to the inch give what the inch says (by definition), corners have a hole of their own', () => {
    for (const [perInch, millimetres] of [
      [8, 3.175],
      [10, 2.54],
      [12, 2.117],
    ]) {
      const length = 0.0254 / perInch;
      const build = made('stitch', { kind: 'back', radius: 0.0002, length: length / 0.0002 }, [
        [0, 0, 0],
        [0.127, 0, 0],
        [0.254, 0, 0],
      ]);
      expect(figure(build, 'stitches')).toBe(10 * perInch);
      expect(1000 * figure(build, 'stitch-length')).toBeCloseTo(millimetres, 2);
    }
    const square: Place[] = [
      [0, 0, 0],
      [0.03, 0, 0],
      [0.03, 0, 0.05],
      [0, 0, 0.05],
    ];
    const build = made('stitch', { kind: 'back', radius: 0.0004, hole: 1.5 }, square, onto(flat), {
      closed: true,
      corners: true,
    });
    const { matrix, id } = (partOf(build, 'holes') as PlacedPart).places;
    const holes = Array.from(id, (_, k) => matrix.subarray(16 * k + 12, 16 * k + 15));
    for (const corner of square) expect(Math.min(...holes.map((hole) => apart(hole, corner)))).toBeLessThan(0.0004);
    // stitches of 3.6 mm on sides of 30 and 50 mm: none goes over a corner
    expect(figure(build, 'stitches')).toBe(2 * (Math.round(30 / 3.6) + Math.round(50 / 3.6)));
  });

  it('are of the kinds of ISO 4915 by how their threads cross: 301 none, 304 none and from side to side, 101 each loop held by the next', () => {
    const size = { pitch: 4, length: 3, half: 2, thread: 0.4, turn: 0, ordinal: 0, last: false };
    const places = (kind: string, ordinal: number) =>
      stitchKind(kind)
        .plan({ ...size, ordinal })
        .map((thread) => thread.places.map(([u, v]): PlanPlace => [u + ordinal * size.pitch, v]));
    const between = (kind: string, n: number) =>
      places(kind, n)
        .flatMap((a) => places(kind, n + 1).map((b) => crossings(a, b)))
        .reduce((a, b) => a + b, 0);
    expect(between('back', 0)).toBe(0);
    expect(between('zigzag', 0)).toBe(0);
    // 304: it ends where the next begins, on the other side
    expect(places('zigzag', 0)[0][1]).toEqual(places('zigzag', 1)[0][0]);
    expect(Math.sign(places('zigzag', 0)[0][0][1])).toBe(-Math.sign(places('zigzag', 0)[0][1][1]));
    // 101: both legs of the next loop pass over the end of this one, and nothing else of it
    expect(between('chain', 0)).toBe(2);
    expect(crossings(places('chain', 0)[0], places('chain', 2)[0])).toBe(0);
    // a cross is two threads that cross once; a blanket's leg crosses the thread along the edge where it goes round it
    expect(crossings(places('cross', 0)[0], places('cross', 0)[1])).toBe(1);
    expect(places('vee', 0)[0][1]).toEqual(places('vee', 0)[1][0]);
    for (const { value, plan } of STITCH_KINDS)
      expect(
        plan({ ...size, turn: 0.3 }).every((thread) => thread.places.flat().every(Number.isFinite)),
        value,
      ).toBe(true);
  });

  it('land on an open scanned mesh at both ends, lie on it between, and none cuts deeper than its hole: by brute force', () => {
    const points = overRabbit(0.01);
    for (const { value } of STITCH_KINDS.filter(({ value: kind }) => kind !== 'whip')) {
      const radius = 0.0003;
      const build = made('stitch', { kind: value, radius, plies: '1' }, points, onto(rabbit), { cling: true });
      expect(codes(build), value).toEqual([]);
      const hit = createHit();
      const holes = (partOf(build, 'holes') as PlacedPart).places;
      for (let k = 0; k < holes.id.length; k++) {
        const [x, y, z] = holes.matrix.subarray(16 * k + 12, 16 * k + 15);
        rabbit.closest(x, y, z, hit);
        expect(hit.distance).toBeLessThan(1e-6);
      }
      const { mesh } = partOf(build, 'thread') as MeshPart;
      expect(topologyOf(mesh).openEdges, value).toBe(0);
      let floating = 0;
      for (let v = 0; v < mesh.position.length; v += 3) {
        const [x, y, z] = mesh.position.subarray(v, v + 3);
        rabbit.closest(x, y, z, hit);
        const over =
          (x - hit.point[0]) * hit.normal[0] + (y - hit.point[1]) * hit.normal[1] + (z - hit.point[2]) * hit.normal[2];
        const toHole = Math.min(
          ...Array.from(holes.id, (_, k) => apart([x, y, z], holes.matrix.subarray(16 * k + 12, 16 * k + 15))),
        );
        // away from its holes it is nowhere inside, by more than a facet of the scan rises
        if (over < 0 && toHole > 4 * radius) expect(hit.distance, value).toBeLessThan(0.8 * radius);
        floating = Math.max(floating, hit.distance);
      }
      expect(floating, value).toBeLessThan(9 * radius);
    }
  });

  it('bow over the cloth by their arch, and over what is in their way; threads that cross lie over each other', () => {
    const highest = (lines: { position: Float64Array }) =>
      lines.position.reduce((most, value, i) => (i % 3 === 1 ? Math.max(most, value) : most), -1);
    fc.assert(
      fc.property(evenly(0, 3), evenly(0, 2), (arch, lift) => {
        const { lines } = sewn(choice({ kind: 'run', arch, lift }));
        expect(highest(lines)).toBeCloseTo(0.0005 * (1 + arch + lift), 9);
        const { lines: crossed } = sewn(choice({ kind: 'cross', arch, lift }));
        expect(highest(crossed)).toBeCloseTo(0.0005 * (3 + arch + lift), 9);
      }),
      { numRuns: 20 },
    );
    // a ridge of 2 mm under the middle of a stitch
    const ridge = Surface.of({
      position: Float32Array.of(
        -1,
        0,
        -1,
        -1,
        0,
        1,
        0.049,
        0,
        -1,
        0.049,
        0,
        1,
        0.05,
        0.002,
        -1,
        0.05,
        0.002,
        1,
        0.051,
        0,
        -1,
        0.051,
        0,
        1,
        1,
        0,
        -1,
        1,
        0,
        1,
      ),
      index: Uint32Array.of(0, 1, 3, 0, 3, 2, 2, 3, 5, 2, 5, 4, 4, 5, 7, 4, 7, 6, 6, 7, 9, 6, 9, 8),
    });
    const { lines } = sewn(choice({ kind: 'run', arch: 0 }), undefined, onto(ridge), 0.02);
    expect(highest(lines)).toBeGreaterThan(0.0024);
    expect(highest(lines)).toBeLessThan(0.0034);
  });

  it('hang on ids: another seed changes nothing but the hand, a row more moves none, a ring of two kinds by turns closes', () => {
    const p = choice({ kind: 'run', messTurn: 0.3, messLength: 0.2, messSide: 1 });
    const [one, other, even] = [sewn(p), sewn({ ...p, seed: 2 }), sewn(choice({ kind: 'run' }))];
    expect(one.lines.id).toEqual(other.lines.id);
    expect(one.lines.position).not.toEqual(other.lines.position);
    expect(Math.max(...one.lines.position.map((value, i) => Math.abs(value - even.lines.position[i])))).toBeLessThan(
      0.0015,
    );
    const two = sewn(choice({ kind: 'run', rows: 2 }));
    expect([...two.lines.id].filter((id) => even.lines.id.includes(id)).length).toBe(even.lines.id.length);
    for (const pitch of [0.003, 0.0041, 0.0072]) {
      const ring = sewn(choice({ kind: 'zigzag' }), framedLines(circle(0.03, 240), false), onto(flat), pitch);
      expect(ring.legs[0].count % 2).toBe(0);
      const ends = ring.holes.map(({ at }) => at);
      for (let k = 0; k < ends.length; k += 2)
        expect(apart(ends[k + 1], ends[(k + 2) % ends.length])).toBeLessThan(1e-4);
    }
  });

  it('go over an edge from one of its sides to the other, whatever its angle; over the rim of a sheet from above to below', () => {
    for (const degrees of [30, 60, 90, 150]) {
      const half = (degrees * Math.PI) / 360;
      const [x, y] = [Math.sin(half), -Math.cos(half)];
      // a roof whose ridge is the x axis
      const roof = Surface.of({
        position: Float32Array.of(-1, 0, 0, 1, 0, 0, -1, y, x, 1, y, x, -1, y, -x, 1, y, -x),
        index: Uint32Array.of(0, 2, 3, 0, 3, 1, 0, 1, 5, 0, 5, 4, 4, 5, 3, 4, 3, 2),
      });
      const lines = framedLines(singleCurve([0, 0, 0, 0.1, 0, 0]), false);
      const cloth = new Cloth(lines, onto(roof), 0.02);
      const { legs } = legsOf(lines, 0.01, false, 10);
      const [a, b] = sidesOfEdge(cloth, legs[0], 0.05, 0.004);
      expect(apart(a.at, [0.05, 0, 0])).toBeCloseTo(0.004, 5);
      expect(apart(b.at, [0.05, 0, 0])).toBeCloseTo(0.004, 5);
      expect(apart(a.at, b.at)).toBeCloseTo(0.008 * Math.sin(half), 5);
    }
    const rim = framedLines(singleCurve([-0.1, 0, 1, 0.1, 0, 1]), false);
    const [above, below] = sidesOfEdge(
      new Cloth(rim, onto(flat), 0.02),
      legsOf(rim, 0.01, false, 10).legs[0],
      0.05,
      0.004,
    );
    expect(above.at[2]).toBeCloseTo(0.996, 6);
    expect(above.up[1]).toBeCloseTo(1, 6);
    expect(below.at).toEqual(above.at);
    expect(below.up[1]).toBeCloseTo(-1, 6);
  });

  it('of laid thread have plies that touch and fill it; holes, seam and creases are sound meshes that lie on the cloth', () => {
    const line = framedLines(
      singleCurve(
        Float64Array.from({ length: 300 }, (_, i) => (i % 3 === 0 ? i / 3000 : 0)),
        { smooth: true },
      ),
      false,
    ).lines;
    for (const plies of [2, 3]) {
      const { lines, radius } = laidThreads(line, plies, 0.001, 0.009);
      const points = lines.position.length / 3 / plies;
      for (let p = 0; p < points; p += 7) {
        const [a, b] = [0, 1].map((k) => lines.position.subarray(3 * (k * points + p), 3 * (k * points + p) + 3));
        expect(apart(a, b)).toBeCloseTo(2 * radius, 9);
        expect(Math.hypot(a[1], a[2]) + radius).toBeCloseTo(0.001, 9);
      }
    }
    const build = made('stitch', { radius: 0.0005, seam: 8, depth: 1.5, creases: 6, rows: 2, rowGap: 20 });
    for (const id of ['seam', 'creases']) {
      const { mesh } = partOf(build, id) as MeshPart;
      expect(topologyOf(mesh).openEdges, id).toBe(0);
      expect(signedVolume(mesh)).toBeGreaterThan(0);
      expect(Math.max(...mesh.position.filter((_, i) => i % 3 === 1))).toBeLessThan(id === 'seam' ? 0.00076 : 0.0005);
      expect(Math.min(...mesh.position.filter((_, i) => i % 3 === 1))).toBeLessThan(0);
    }
    expect(topologyOf(realMesh(partOf(build, 'holes')!)).openEdges).toBe(0);
  });

  it('say when there is nothing to sew through, on all of the line or on some of it, and how many would be too many', () => {
    expect(codes(made('stitch', {}, LINE, nowhere))).toEqual(['stitch-free']);
    const half = made('stitch', { reach: 5 }, [
      [0.95, 0, 0],
      [1.02, 0, 0],
    ]);
    expect(half.findings[0]).toMatchObject({ code: 'stitch-free', severity: 'warning' });
    expect(half.findings[0].place?.[0]).toBeGreaterThan(1);
    const long = framedLines(singleCurve([0, 0, 0, 1, 0, 0]), false);
    const { legs, asked } = legsOf(long, 0.001, false, 300);
    expect([asked, legs[0].count, legs[0].to]).toEqual([1000, 300, expect.closeTo(0.3, 9)]);
  });
});

describe('zips', () => {
  const extent = ({ position }: { position: Float32Array }, axis: number) => {
    const range = [Infinity, -Infinity];
    for (let i = axis; i < position.length; i += 3) {
      range[0] = Math.min(range[0], position[i]);
      range[1] = Math.max(range[1], position[i]);
    }
    return range;
  };
  const OPEN = {
    ease: 'straight',
    knots: [
      { at: 0, value: 6 },
      { at: 0.5, value: 0 },
    ],
  };

  it('are as wide over their closed teeth as their number says in millimetres (common practice), and no two teeth cut', () => {
    for (const size of ['3', '5', '8', '10'])
      for (const teeth of ['moulded', 'metal', 'round', 'coil']) {
        const build = made('zip', { size, teeth, stops: false, pull: 'none' });
        const mesh = realMesh(partOf(build, 'teeth')!);
        const [low, high] = extent(mesh, 2);
        expect(1000 * (high - low)).toBeCloseTo(Number(size), teeth === 'coil' ? 0 : 1);
        expect(topologyOf(mesh).openEdges).toBe(0);
        expect(codes(build)).toEqual([]);
        if (teeth === 'coil') continue;
        // what reaches over the middle stands between the teeth of the other half
        const { places, mesh: tooth } = partOf(build, 'teeth') as PlacedPart;
        const [back, front] = extent(tooth, 2).map((value) => (value * Number(size)) / 2000);
        const tips = { position: tooth.position.filter((_, i) => tooth.position[i - (i % 3)] > -0.36) };
        const thick = (extent(tips, 2)[1] * Number(size)) / 1000;
        const along = Array.from(places.id, (_, k) => places.matrix[16 * k + 12]).sort((a, b) => a - b);
        for (let k = 1; k < along.length; k++) expect(along[k] - along[k - 1]).toBeGreaterThan(thick);
        // and those of one half clear each other
        expect(along[2] - along[0]).toBeGreaterThan(front - back);
      }
  });

  it('open as their lane says: halves apart, a slider where they part, stops at the ends, and each half keeps its teeth', () => {
    const build = made('zip', { size: '5', opening: OPEN, tape: 4 });
    const teeth = (partOf(build, 'teeth') as PlacedPart).places;
    for (let k = 0; k < teeth.id.length; k++) {
      const [x, , z] = teeth.matrix.subarray(16 * k + 12, 16 * k + 15);
      const gap = Math.max(0, 6 * (1 - x / 0.05)) * 0.005;
      expect(Math.abs(Math.abs(z) - gap / 2), `at ${x}`).toBeLessThan(1.5e-4);
    }
    const slider = (partOf(build, 'slider') as PlacedPart).places;
    expect(slider.id.length).toBe(1);
    expect(Math.abs(slider.matrix[12] - 0.05)).toBeLessThan(0.0004);
    // its wide end looks to where it is open
    expect(slider.matrix[8]).toBeLessThan(0);
    expect((partOf(build, 'stops') as PlacedPart).places.id.length).toBe(2);
    expect((partOf(build, 'shut') as PlacedPart).places.id.length).toBe(1);
    // teeth of the open half go by its own length, which is longer than the line
    const slant = Math.hypot(0.05, 0.015);
    const pitch = 0.0025 * 1.1;
    expect(figure(build, 'teeth')).toBe(2 * (Math.round(slant / pitch) + Math.round(0.05 / pitch)));
    // closed all along, its slider is at the end
    const closed = (partOf(made('zip', { size: '5' }), 'slider') as PlacedPart).places;
    expect(closed.matrix[12]).toBeGreaterThan(0.09);
  });

  it('lie on an open scanned mesh: the tape is nowhere deeper in it than its own thickness, nor floats, closed or open', () => {
    const hit = createHit();
    const points = overRabbit(0.002);
    for (const opening of [
      0,
      {
        ease: 'smooth',
        knots: [
          { at: 0, value: 1.5 },
          { at: 0.5, value: 0 },
        ],
      },
    ]) {
      const build = made('zip', { size: 'free', radius: 0.0008, tape: 3, opening }, points, onto(rabbit), {
        cling: true,
      });
      expect(codes(build)).toEqual([]);
      const { mesh } = partOf(build, 'tape') as MeshPart;
      expect(topologyOf(mesh).openEdges).toBe(0);
      for (let v = 0; v < mesh.position.length; v += 3) {
        const [x, y, z] = mesh.position.subarray(v, v + 3);
        rabbit.closest(x, y, z, hit);
        expect(hit.distance).toBeLessThan(0.0008 * 0.16 * 1.2);
      }
    }
  });

  it('tell halves that fold on a bend with the widest that do not, lines too short, and lie on the inside when asked', () => {
    const arc = [...Array(9).keys()].map(
      (k): Place => [0.03 * Math.sin((k * Math.PI) / 9), 0, 0.03 * (1 - Math.cos((k * Math.PI) / 9))],
    );
    const wide = (value: number) =>
      made(
        'zip',
        {
          size: '3',
          tape: 3,
          opening: {
            ease: 'straight',
            knots: [
              { at: 0, value },
              { at: 1, value },
            ],
          },
        },
        arc,
      );
    const fold = wide(30).findings.find(({ code }) => code === 'halves-cut');
    expect(fold?.size?.value).toBeCloseTo(0.09, 6);
    expect(fold?.size?.limit).toBeLessThan(2 * (0.03 - 0.0045));
    // on a circle what is so far inwards is as much shorter: a share of its radius
    const ring = framedLines(circle(0.03, 400), false);
    const folds = (half: number) =>
      foldOf(ring, 0, new Cloth(ring, nowhere, 0), { at: () => half, slope: () => 0 }, 0.0015, 0.0045);
    expect(folds(0.03 * 0.85 - 0.0045 - 1e-4)).toBeUndefined();
    expect(folds(0.03 * 0.85 - 0.0045 + 1e-4)).toBeGreaterThanOrEqual(0);
    expect(codes(wide((0.98 * fold!.size!.limit) / 0.003))).toEqual([]);
    expect(fold?.fix).toMatchObject({ parameter: 'opening' });
    expect(
      codes(
        made('zip', { size: '10' }, [
          [0, 0, 0],
          [0.01, 0, 0],
        ]),
      ),
    ).toContain('zip-short');
    expect(
      codes(
        made(
          'zip',
          { size: 'free', radius: 1e-5 },
          [
            [0, 0, 0],
            [2, 0, 0],
          ],
          nowhere,
        ),
      ),
    ).toContain('too-many-elements');
    const inner = made('zip', { facing: 'in', size: '5', pull: 'none' });
    expect(extent(realMesh(partOf(inner, 'teeth')!), 1)[0]).toBeLessThan(-0.001);
    expect(signedVolume(realMesh(partOf(inner, 'tape')!))).toBeGreaterThan(0);
  });

  it('may have teeth and pulls of props, which reach across as their own do', () => {
    const props = new Surroundings(
      new Map([
        ['cloth', flat],
        ['own', rabbit],
      ]),
    );
    const build = made('zip', { size: '8', teeth: 'own', tooth: 'own', pull: 'own', pullProp: 'own' }, LINE, props);
    expect(codes(build)).toEqual([]);
    const [low, high] = extent(realMesh(partOf(build, 'teeth')!), 2);
    expect(1000 * (high - low)).toBeCloseTo(8, 1);
    expect(codes(made('zip', { teeth: 'own' }))).toEqual(['part-missing']);
  });
});
