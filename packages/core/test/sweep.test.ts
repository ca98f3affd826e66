import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import Module from 'manifold-3d';
import { Vector3 } from 'three';
import { beforeAll, describe, expect, it } from 'vitest';
import { joinCurves } from '../src/curve/carry.js';
import { allocateCurves, type CurveSet, POINT } from '../src/curve/curve-set.js';
import {
  curveCount,
  type Mesh,
  pointCount,
  polygonSection,
  resample,
  roundedBoxSection,
  roundSection,
  type Section,
  type SweepOptions,
  signedVolume,
  singleCurve,
  surfaceArea,
  sweep,
  topologyOf,
  vertexCount,
} from '../src/index.js';
import { circle, drawn, evenly, helix, polygonShare, totalLength } from './helpers.js';

describe('Pappus-Guldinus: volume = area · length, surface = outline · length (any calculus text)', () => {
  it('torus R 1, r 0.25: V = 2π²Rr² = 1.233701, A = 4π²Rr = 9.869604, with the N-gon corrections', () => {
    for (const [sides, steps] of [
      [12, 60],
      [32, 200],
    ]) {
      const mesh = sweep(circle(1, steps), roundSection(sides), { radius: 0.25 });
      // the path is an N-gon too: between two rings a chord of share sin(δ)/δ of its arc
      const along = Math.sin((2 * Math.PI) / steps) / ((2 * Math.PI) / steps);
      expect(signedVolume(mesh)).toBeCloseTo(1.233701 * polygonShare(sides) * along, 5);
      const outline = Math.sin(Math.PI / sides) / (Math.PI / sides);
      expect(Math.abs(surfaceArea(mesh) / (9.869604 * outline) - 1)).toBeLessThan(2e-3);
    }
  });

  it('capped tube along any gentle curve, with every section', () => {
    const sections = fc.constantFrom<[string, Section]>(
      ['round', roundSection(14)],
      ['edged', polygonSection(5)],
      ['box', roundedBoxSection(2, 0.5, 3)],
      ['sharp box', roundedBoxSection(1.5, 0, 1)],
    );
    const height = evenly(-0.4, 0.4);
    fc.assert(
      fc.property(sections, fc.tuple(height, height, height), ([, section], [a, b, c]) => {
        const line = resample(
          drawn([
            [0, 0, 0],
            [1, a, b],
            [2, b, c],
            [3, c, a],
          ]),
          { maxTurn: 0.03, spacing: 0.05 },
        );
        const mesh = sweep(line, section, { radius: 0.04, start: 'flat', end: 'flat' });
        expect(Math.abs(signedVolume(mesh) / (section.area * 0.04 ** 2 * totalLength(line)) - 1)).toBeLessThan(2e-3);
      }),
      { numRuns: 30 },
    );
  });

  it('a mitred corner keeps area · length exactly', () => {
    const line = resample(
      drawn(
        [
          [0, 0, 0],
          [1, 0, 0],
          [1, 1, 0],
        ],
        { corner: Uint8Array.of(0, 1, 0) },
      ),
      { spacing: 0.2 },
    );
    const mesh = sweep(line, polygonSection(6), { radius: 0.05, start: 'flat', end: 'flat' });
    expect(signedVolume(mesh) / (polygonSection(6).area * 0.05 ** 2 * 2)).toBeCloseTo(1, 5);
  });
});

describe('closed bodies, judged by manifold-3d', () => {
  let manifold: Awaited<ReturnType<typeof Module>>;
  beforeAll(async () => {
    manifold = await Module();
    manifold.setup();
  });

  it.each([
    ['capped tube', { start: 'flat', end: 'round' } as const, false, 0],
    ['dome ends, twisted and tapered', { start: 'round', end: 'round', twisted: true } as const, false, 0],
    ['closed tube', {} as const, true, 1],
  ])('%s is a manifold with the right genus and volume', (_name, ends, closed, genus) => {
    const line = closed
      ? resample(circle(1, 90), { maxTurn: 0.1 })
      : resample(
          drawn([
            [0, 0, 0],
            [1, 0.3, 0],
            [2, 0, 0.4],
          ]),
          { maxTurn: 0.05 },
        );
    const radius = Float32Array.from({ length: pointCount(line) }, (_, i) =>
      'twisted' in ends ? 0.05 + 0.02 * Math.sin(i) ** 2 : 0.05,
    );
    const roll = Float32Array.from({ length: pointCount(line) }, (_, i) => ('twisted' in ends ? 0.05 * i : 0));
    const mesh = sweep(line, roundedBoxSection(1.5, 0.6, 3), { radius, roll, start: 'flat', end: 'flat', ...ends });
    const welded = new manifold.Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index });
    welded.merge();
    const body = new manifold.Manifold(welded);
    expect(body.status()).toBe('NoError');
    expect(body.genus()).toBe(genus);
    expect(body.volume()).toBeCloseTo(signedVolume(mesh), 5);
    expect(topologyOf(mesh)).toEqual({ openEdges: 0, euler: closed ? 0 : 2, shells: 1 });
  });
});

describe('normals are those of the swept surface', () => {
  it.each([
    ['circle', [0]],
    ['square', [1]],
  ])(
    'a %s with a twisted edged section: no vertex leans off its faces, at the seam and at corners neither',
    (_name, [hard]) => {
      const corners: [number, number, number][] = [
        [-0.5, 0, -0.5],
        [0.5, 0, -0.5],
        [0.5, 0, 0.5],
        [-0.5, 0, 0.5],
      ];
      const shape = hard ? drawn(corners, { closed: true, corner: new Uint8Array(4).fill(1) }) : circle(0.5, 90);
      fc.assert(
        fc.property(fc.integer({ min: -4, max: 4 }), fc.integer({ min: 3, max: 6 }), (turns, sides) => {
          const line = resample(shape, { spacing: 0.01, maxTurn: 0.1 });
          const length = totalLength(line);
          const roll = Float32Array.from(line.pointData[POINT.along], (s) => (2 * Math.PI * turns * s) / length);
          const mesh = sweep(line, polygonSection(sides), { radius: 0.02, roll });
          // a quad that twists is two flat triangles: the worst of all of these is 20.7°, at four turns of three sides
          expect(worstLean(mesh)).toBeLessThan(turns === 0 ? 3 : 22);
        }),
        { numRuns: 12 },
      );
    },
  );

  it.each(['flat', 'round', 'open'] as const)(
    'a %s end that shrinks to a place still has a direction at every vertex',
    (end) => {
      const line = resample(singleCurve([0, 0, 0, 0.3, 1, 0.2]), { steps: 6 });
      const radius = Float32Array.from(line.pointData[POINT.along], (_, p) => 0.1 * Math.min(p, 6 - p));
      for (const section of [roundSection(8), polygonSection(4), roundedBoxSection(3, 0.4, 2)]) {
        const { normal } = sweep(line, section, { radius, start: end, end });
        for (let i = 0; i < normal.length; i += 3) expect(Math.hypot(...normal.subarray(i, i + 3))).toBeCloseTo(1, 4);
      }
    },
  );

  it('cone: the normal leans back by the taper', () => {
    const line = resample(
      drawn([
        [0, 0, 0],
        [0, 1, 0],
      ]),
      { steps: 40 },
    );
    const radius = Float32Array.from(line.pointData[POINT.along], (s) => 0.1 + 0.3 * s);
    const mesh = sweep(line, roundSection(16), { radius, start: 'open', end: 'open' });
    const lean = -0.3 / Math.hypot(1, 0.3);
    for (let v = 0; v < vertexCount(mesh); v++) expect(mesh.normal[3 * v + 1]).toBeCloseTo(lean, 5);
  });

  it('cone round a corner: each leg leans back by the taper, up to the mitre', () => {
    const corner = Uint8Array.of(0, 1, 0);
    const line = resample(
      drawn(
        [
          [0, 0, 0],
          [0, 1, 0],
          [1, 1, 0],
        ],
        { corner },
      ),
      { spacing: 0.1 },
    );
    const radius = Float32Array.from(line.pointData[POINT.along], (s) => 0.02 + 0.03 * s);
    const { position, normal } = sweep(line, roundSection(16), { radius, start: 'open', end: 'open' });
    const lean = -0.03 / Math.hypot(1, 0.03);
    for (let i = 0; i < normal.length; i += 3) {
      // the first leg ends on the plane between the two
      const axis = position[i + 1] - 1 < -position[i] - 1e-6 ? 1 : position[i + 1] - 1 > -position[i] + 1e-6 ? 0 : -1;
      if (axis >= 0) expect(normal[i + axis]).toBeCloseTo(lean, 4);
    }
  });

  it('torus whose thickness waves: equal to the cross product of the analytic derivatives', () => {
    const steps = 400;
    const line = circle(1, steps);
    const thickness = (t: number) => 0.2 + 0.04 * Math.sin(3 * t);
    const mesh = sweep(line, roundSection(24), {
      radius: Float32Array.from({ length: steps }, (_, i) => thickness((2 * Math.PI * i) / steps)),
    });
    let worst = 0;
    // rings away from the seam, where differences are central
    for (let ring = 5; ring < steps - 5; ring++) {
      const t = (2 * Math.PI * ring) / steps;
      const [r, slope] = [thickness(t), 0.12 * Math.cos(3 * t)];
      for (let k = 0; k < 24; k++) {
        const v = 3 * (ring * 25 + k);
        const [x, y, z] = mesh.position.subarray(v, v + 3);
        const out = Math.hypot(x, z) - 1;
        const [cos, sin] = [out / r, y / r];
        // S = ((1 + r cos φ) e(t), r sin φ): S_t × S_φ up to length is (1 + r cos φ)·n − r′·e′, n outwards
        const w = 1 + r * cos;
        const along = -slope;
        const expected = [
          w * cos * Math.cos(t) + along * -Math.sin(t),
          w * sin,
          -(w * cos * Math.sin(t)) - along * Math.cos(t),
        ];
        const size = Math.hypot(...expected);
        worst = Math.max(worst, ...expected.map((e, axis) => Math.abs(e / size - mesh.normal[v + axis])));
      }
    }
    expect(worst).toBeLessThan(2e-3);
  });
});

describe('the compiled inner loops', () => {
  it('are those of the source beside them (npm run kernel)', async () => {
    const { compileKernel, KERNELS } = await import('../../../scripts/kernel.mjs');
    for (const [source, target] of KERNELS) {
      const written = readFileSync(new URL(`../../../${target}`, import.meta.url), 'utf8');
      expect(written).toBe(await compileKernel(source));
    }
  });

  it('give many lines at once what each gets alone: gently bent, sharp, plumb, of two points, through one place twice', () => {
    const place = evenly(-1, 1);
    // on their way, so that none bends by just 20° at one point: rounding would say which side of it
    const bent = fc.array(fc.tuple(place, place), { minLength: 2, maxLength: 5 });
    const sections = fc.constantFrom(roundSection(6), polygonSection(4), roundedBoxSection(3, 0.3, 2));
    const ends = fc.constantFrom<SweepOptions['start']>('open', 'flat');
    fc.assert(
      fc.property(
        fc.array(bent, { minLength: 3, maxLength: 6 }),
        sections,
        ends,
        fc.boolean(),
        (drawings, section, end, sharp) => {
          const kinds = [
            ...drawings.map((sides) =>
              resample(drawn(sides.map(([y, z], k) => [k, 0.4 * y, 0.4 * z])), { spacing: 0.1, maxTurn: 0.3 }),
            ),
            singleCurve([0, 0, 0, 0, -1, 0, 0.01, -2, 0], { smooth: true }),
            singleCurve([1, 0, 0, 2, 0, 0], { smooth: true }),
          ];
          // a bend, and a line that turns back: their blocks are left to the plain way
          if (sharp)
            kinds.push(singleCurve([0, 0, 0, 1, 0, 0, 1, 0, 1]), singleCurve([0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 1, 0]));
          const short = resample(joinCurves(kinds), { steps: 24 });
          const times = Math.ceil(4100 / pointCount(short));
          const lines = joinCurves(Array.from({ length: times }, () => short));
          const options: SweepOptions = { radius: 0.01, start: end, end };
          const [one, all] = [sweep(short, section, options), sweep(lines, section, options)];
          expect(vertexCount(all)).toBe(times * vertexCount(one));
          expect(all.index.length).toBe(times * one.index.length);
          const body = pointCount(short) * section.x.length;
          // a mitred bend, which a drawing may have too, has rings of its own; caps stand behind all skins
          const same = end === 'open' && vertexCount(one) === body ? body : 0;
          let off = 0;
          for (const [k, v] of [
            [0, 0],
            [times - 1, (times - 1) * same],
          ])
            for (const [mine, other, size] of [
              [all.position, one.position, 3],
              [all.normal, one.normal, 3],
              [all.uv, one.uv, 2],
            ] as const)
              for (let i = 0; i < size * (k === 0 ? body : same); i++)
                off = Math.max(off, Math.abs(mine[size * v + i] - other[i]));
          expect(off).toBeLessThan(3e-6);
          const faces = 6 * (pointCount(short) - curveCount(short));
          expect(all.index.subarray(0, faces)).toEqual(one.index.subarray(0, faces));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('refuse what is no number among many lines too', () => {
    const lines = resample(joinCurves(Array.from({ length: 1000 }, (_, c) => singleCurve([c, 0, 0, c, 1, 0]))), {
      steps: 5,
    });
    for (const value of [NaN, Infinity]) {
      lines.position[3001] = value;
      expect(() => sweep(lines, roundSection(4), { radius: 0.01, start: 'open', end: 'open' })).toThrow(
        /has (NaN|Infinity) for y/,
      );
    }
  });

  it('write the same into the buffers of an earlier result, whatever stood there', () => {
    const section = fc.constantFrom(roundSection(7), polygonSection(5), roundedBoxSection(3, 0.3, 2));
    const place = evenly(-1, 1);
    const bent = fc.array(fc.tuple(place, place, place), { minLength: 3, maxLength: 8 });
    fc.assert(
      fc.property(section, section, bent, bent, fc.boolean(), (a, b, first, second, closed) => {
        const line = (points: [number, number, number][]) => resample(drawn(points, { closed }), { steps: 40 });
        const old = sweep(line(first), a, { radius: 0.02 });
        const lanes = new Float32Array(pointCount(line(second))).fill(0.3);
        const options = { radius: 0.01, roll: closed ? 0 : lanes };
        const fresh = sweep(line(second), b, options);
        expect(sweep(line(second), b, { ...options, into: old })).toEqual(fresh);
      }),
      { numRuns: 60 },
    );
  });
});

describe('what is spared', () => {
  it('faces in the buffers of an earlier result stay where its divisions are the same, and are written anew where they are not', () => {
    const points = (count: number) =>
      singleCurve(
        Float64Array.from({ length: 3 * count }, (_, i) => Math.floor(i / 3) * [1, 0.1, 0.2][i % 3]),
        { smooth: true },
      );
    const early = joinCurves([points(5), points(7)]);
    const late = joinCurves([points(7), points(5)]);
    const corner = singleCurve([0, 0, 0, 1, 0, 0, 2, 0, 0, 2, 0, 1]);
    const straight = points(4);
    const [box, round] = [roundedBoxSection(1, 0, 1), roundSection(4)];
    const swept = (lines: CurveSet, section: Section, into?: Mesh) =>
      sweep(lines, section, { radius: 0.1, start: 'open', end: 'open', into });
    let last = swept(early, box);
    // what is written there stays
    last.index[0] = 77;
    last = swept(early, box, last);
    expect(last.index[0]).toBe(77);
    for (const [lines, section] of [
      [late, box],
      [late, round],
      [early, round],
      [straight, round],
      [corner, round],
      [straight, round],
      [corner, box],
      [corner, box],
    ] as const) {
      const before = last.index;
      last = swept(lines, section, last);
      expect(last.index).toEqual(swept(lines, section).index);
      if (before.length === last.index.length) expect(last.index).toBe(before);
      last.index.fill(77, 0, lines === corner ? undefined : 0);
    }
  });

  it('very many lines go the quick way, at single precision, where they are open, measured and gently bent, and the section is simple', () => {
    const along = (k: number, c: number) => [0.05 * k, 0.03 * Math.sin(0.5 * k + c), 0.02 * Math.cos(0.7 * k - c)];
    const line = (c: number) =>
      singleCurve(
        [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => along(k, c)),
        { smooth: true },
      );
    const many = Array.from({ length: 600 }, (_, c) => line(c));
    const measured = (all: readonly CurveSet[]) => resample(joinCurves(all), { steps: 7 });
    const lines = measured(many);
    const isQuick = (lines: CurveSet, sides: number, change: Partial<SweepOptions> = {}) => {
      const options = { radius: 0.01, start: 'open', end: 'open', ...change } as const;
      const mesh = sweep(lines, roundSection(sides), options);
      // limited to what never folds: nothing changes, but it is no longer plain
      const slow = sweep(lines, roundSection(sides), { ...options, limited: true });
      return !mesh.position.every((value, i) => value === slow.position[i]);
    };
    expect(isQuick(lines, 15)).toBe(true);
    expect(isQuick(lines, 16)).toBe(false);
    for (const change of [
      { roll: 1e-3 },
      { startDirection: [0, 0, 1] },
      { end: 'flat' },
      { start: 'flat' },
      { radius: new Float32Array(pointCount(lines)).fill(0.01) },
    ] as const)
      expect(isQuick(lines, 9, change)).toBe(false);
    expect(isQuick({ ...lines, pointData: {} }, 9)).toBe(false);
    expect(isQuick(measured([...many, circle(1, 60)]), 9)).toBe(false);
    expect(isQuick(measured([...many, singleCurve([0, 0, 0, 1, 0, 0, 1, 1, 0])]), 9)).toBe(false);
    expect(isQuick(measured(many.slice(0, 400)), 9)).toBe(false);
  });
});

it('texture of ends: a flat one as if cut from a sheet, a round one along the meridians by true length', () => {
  const line = resample(
    drawn([
      [0, 0, 0],
      [0, 0, 1],
    ]),
    { steps: 4 },
  );
  const section = roundSection(16);
  const body = 5 * section.x.length;
  const radius = 0.1;
  const flat = sweep(line, section, { radius, start: 'flat', end: 'flat' });
  for (let v = body; v < vertexCount(flat); v++) {
    const [x, y] = [flat.uv[2 * v] - 0.5, flat.uv[2 * v + 1] - 0.5];
    const off = Math.hypot(flat.position[3 * v], flat.position[3 * v + 1]);
    expect(Math.hypot(x, y) * 2 * radius * section.reach).toBeCloseTo(off, 6);
    // neighbours on the sheet are neighbours on the end
    const w = body + ((v - body + 1) % (vertexCount(flat) - body));
    if (flat.position[3 * v + 2] !== flat.position[3 * w + 2]) continue;
    const apart = Math.hypot(...[0, 1].map((n) => flat.position[3 * v + n] - flat.position[3 * w + n]));
    const onSheet = Math.hypot(...[0, 1].map((n) => flat.uv[2 * v + n] - flat.uv[2 * w + n]));
    expect(onSheet * 2 * radius * section.reach).toBeCloseTo(apart, 6);
  }
  const round = sweep(line, section, { radius, start: 'round', end: 'round' });
  for (let v = body; v < vertexCount(round); v++) {
    const z = round.position[3 * v + 2];
    const [over, side, v0] = z > 0.5 ? [z - 1, 1, round.uv[2 * (body - 1) + 1]] : [-z, -1, round.uv[1]];
    const angle = Math.asin(Math.min(1, Math.max(0, over / radius)));
    expect(round.uv[2 * v + 1]).toBeCloseTo(v0 + side * radius * angle, 5);
  }
});

it('texture v is true length and stays put when divisions change', () => {
  const { curve, length } = helix(0.2, 0.1, 3, 300);
  const vAtEnd = (options: { maxTurn: number }) => {
    const { uv } = sweep(resample(curve, options), roundSection(8), { radius: 0.01, start: 'open', end: 'open' });
    return uv[uv.length - 1];
  };
  expect(vAtEnd({ maxTurn: 0.3 })).toBeCloseTo(length, 4);
  expect(vAtEnd({ maxTurn: 0.05 })).toBeCloseTo(vAtEnd({ maxTurn: 0.3 }), 6);
});

it('100,000 curves of 12 points go through resample, work on every point and a sweep of 6 sides in one block', () => {
  const count = 100_000;
  const curves = allocateCurves(count, 12 * count);
  for (let c = 0; c < count; c++) {
    curves.start[c + 1] = 12 * (c + 1);
    curves.id[c] = c;
    for (let k = 0; k < 12; k++)
      curves.position.set(
        [(c % 316) * 0.001 + 0.002 * Math.sin(k / 3), k * 0.01, Math.floor(c / 316) * 0.001],
        3 * (12 * c + k),
      );
  }
  const hairs = resample(curves, { steps: 11 });
  expect(curveCount(hairs)).toBe(count);
  expect(pointCount(hairs)).toBe(12 * count);
  for (let i = 0; i < hairs.position.length; i += 3) hairs.position[i] += 1e-4 * Math.sin(200 * hairs.position[i + 1]);
  const options: SweepOptions = { radius: 2e-5, start: 'open', end: 'open' };
  const mesh: Mesh = sweep(hairs, roundSection(6), options);
  expect(vertexCount(mesh)).toBe(count * 12 * 7);
  expect(mesh.index.length / 3).toBe(count * 11 * 6 * 2);
  expect(mesh.normal.every(Number.isFinite)).toBe(true);
});

/** Greatest angle between a vertex's normal and that of a face it belongs to, degrees. */
function worstLean({ position, normal, index }: Mesh): number {
  const at = (data: Float32Array, v: number) => new Vector3().fromArray(data, 3 * v);
  let worst = 0;
  for (let i = 0; i < index.length; i += 3) {
    const [a, b, c] = [...index.subarray(i, i + 3)].map((v) => at(position, v));
    const face = b.sub(a).cross(c.sub(a));
    if (face.length() < 1e-12) continue;
    for (let k = 0; k < 3; k++) worst = Math.max(worst, face.angleTo(at(normal, index[i + k])));
  }
  return (worst * 180) / Math.PI;
}
