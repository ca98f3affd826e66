import { expect, it } from 'vitest';
import { measureEdges, writeLengths } from '../../src/curve/arc-length.js';
import { joinCurves } from '../../src/curve/carry.js';
import { CURVE, curveCount, POINT, pointCount } from '../../src/curve/curve-set.js';
import { type CurveSet, type Mesh, resample, singleCurve } from '../../src/index.js';
import { blendOf } from '../../src/section/blend/blend.js';
import { formSection } from '../../src/section/forms.js';
import { ownSection } from '../../src/section/own-section.js';
import { roundSection, type Section } from '../../src/section/section.js';
import type { EndKind } from '../../src/sweep/caps.js';
import { eachVertex } from '../../src/sweep/each-vertex.js';
import { type SweepOptions, sweep } from '../../src/sweep/sweep.js';
import { circle, drawn, helix } from '../helpers.js';
import { fingerprintOfAll } from './fingerprint.js';
import { ANEW, Remembered } from './remembered.js';

// The sweep by itself, on lines that bend, close, turn sharply and fold, with each of its options. As in as-made.test.

type Place = readonly [number, number, number];
const smooth = (points: readonly Place[], closed = false): CurveSet =>
  resample(drawn(points, { closed }), { maxTurn: 0.2 });
const WAVE: Place[] = [
  [0, 0, 0],
  [0.4, 0.15, 0.1],
  [0.7, 0, -0.1],
  [1, 0.1, 0],
];
const HAIRPINS: Place[] = [
  [0, 0, 0],
  [0.5, 0, 0],
  [0.52, 0, 0.06],
  [0.1, 0, 0.05],
  [0.12, 0.05, 0.1],
  [0.6, 0.1, 0.12],
];
const LOOP: Place[] = [
  [0.3, 0, 0],
  [0.02, 0.03, 0.04],
  [-0.3, 0, 0],
  [0.01, 0, -0.05],
];
const LINES: Readonly<Record<string, CurveSet>> = {
  wave: smooth(WAVE),
  hairpins: smooth(HAIRPINS),
  'tight loop': smooth(LOOP, true),
  'small ring': circle(0.045, 24),
  corners: singleCurve([0, 0, 0, 0.4, 0, 0, 0.4, 0, 0.3, 0.6, 0.2, 0.4, 0.62, 0.4, 0.1]),
  'closed corners': singleCurve([0, 0, 0, 0.4, 0, 0, 0.4, 0, 0.3, 0.05, 0.02, 0.3], { closed: true }),
  'corner in a bend': joinedAt(smooth(HAIRPINS), 9),
  'all at once': joinCurves([
    smooth(WAVE),
    circle(0.2, 16),
    singleCurve([0, 1, 0, 0, 1.2, 0, 0.2, 1.2, 0]),
    smooth(LOOP, true),
    singleCurve([0, 2, 0, 0, 2.2, 0, 0.2, 2.2, 0, 0.2, 2, 0.1], { closed: true }),
    helix(0.1, 0.1, 1, 20).curve,
  ]),
};

/** A line on which one point is a corner. */
function joinedAt(line: CurveSet, p: number): CurveSet {
  const corner = new Float32Array(pointCount(line));
  corner[p] = 1;
  return { ...line, pointData: { ...line.pointData, corner } };
}

/** With its lengths, as a piece has it. */
function measured(lines: CurveSet): CurveSet {
  const pointData = { ...lines.pointData, [POINT.along]: new Float32Array(pointCount(lines)) };
  const out = { ...lines, pointData, curveData: { [CURVE.length]: new Float32Array(curveCount(lines)) } };
  writeLengths(out, measureEdges(out).length);
  return out;
}

const NUMBERS = { width: 1.4, sides: 12, points: 5, wall: 0.3, depth: 0.35, rounding: 0.2 };
const sheetPath = {
  closed: false,
  points: [
    [0, 0],
    [1, 0.4],
    [2, 0],
  ].map(([x, y]) => ({ x, y, corner: true })),
};
const SECTIONS: Readonly<Record<string, Section>> = {
  round: roundSection(9),
  box: formSection('box', { ...NUMBERS, rounding: 0 }),
  gear: formSection('gear', NUMBERS, 0.5),
  channel: formSection('channel', NUMBERS, 0.5),
  tube: formSection('box-tube', NUMBERS, 0.5),
  sheet: ownSection({ id: 'sheet', name: 'Sheet', paths: [sheetPath] }, 1, 0.5).section!,
};
const BECOMES: Readonly<Record<string, string>> = {
  round: 'box',
  box: 'round',
  gear: 'channel',
  channel: 'gear',
  tube: 'tube',
  sheet: 'sheet',
};

const ENDS: EndKind[] = ['flat', 'round', 'pointed', 'chamfered', 'plate', 'open'];
const R = 0.05;
const lane = (lines: CurveSet, at: (k: number) => number) =>
  Float32Array.from({ length: pointCount(lines) }, (_, k) => at(k));
/** Each option by itself, and some together. */
const options = (lines: CurveSet, name: string): Record<string, SweepOptions> => {
  const size = lane(lines, (k) => R * (1 + 0.4 * Math.sin(k / 3)));
  const turned = lane(lines, (k) => 0.1 * k);
  const shift = { x: lane(lines, (k) => 0.02 * Math.cos(k / 4)), y: lane(lines, (k) => 0.01 * (k % 5)) };
  const blend = blendOf([SECTIONS[name], SECTIONS[BECOMES[name]]]);
  const becomes = blend && { blend, share: lane(lines, (k) => (0.13 * k) % 1) };
  return {
    plain: { radius: R },
    sized: { radius: size, limited: true },
    turned: { radius: R, roll: turned, hardAngle: 0.2 },
    'turned once': { radius: size, roll: 0.7, startDirection: [0.3, 0.2, 1] },
    wide: { radius: R, width: lane(lines, (k) => R * (1.5 - 0.05 * (k % 20))), trueWidth: true },
    aside: { radius: size, shift, limited: true },
    limited: { radius: 1.6 * R, limited: true, hardAngle: Math.PI },
    'thick and limited': { radius: 3 * R, limited: true, roll: turned },
    becoming: { radius: R, becomes, limited: true },
    'all of it': { radius: size, width: size, shift, roll: turned, becomes, trueWidth: true },
    ...Object.fromEntries(
      ENDS.map((start, k) => [start, { radius: k % 2 ? size : R, start, end: ENDS[(k + 2) % ENDS.length] }]),
    ),
  };
};

const remembered = new Remembered('sweeps');
const figures = ({ position, index }: Mesh) => ({ vertices: position.length / 3, triangles: index.length / 3 });

for (const [line, lines] of Object.entries(LINES))
  it(`along ${line} they are as they were, and the same in the buffers of the one before`, () => {
    for (const [name, section] of Object.entries(SECTIONS)) {
      let into: Mesh | undefined;
      for (const [option, one] of Object.entries(options(lines, name))) {
        const swept = one.becomes?.blend.stages[0] ?? section;
        const mesh = sweep(lines, swept, one);
        remembered.expectSame(`${line}, ${name}, ${option}`, fingerprintOfAll(mesh, figures(mesh)));
        into = sweep(lines, swept, { ...one, into });
        expect(fingerprintOfAll(into)).toEqual(fingerprintOfAll(mesh));
      }
    }
  });

const POINTS = [0, 1, 2, 3, 4, 5, 6, 7];
it('very many lines are as they were', () => {
  const many = (more: readonly CurveSet[]) =>
    measured(
      joinCurves([
        ...more,
        ...Array.from({ length: 600 }, (_, c) =>
          singleCurve(
            POINTS.flatMap((k) => [0.05 * k, 0.03 * Math.sin(0.5 * k + c), 0.02 * Math.cos(0.7 * k - c)]),
            { smooth: true },
          ),
        ),
      ]),
    );
  const lines = many([]);
  const also: Readonly<Record<string, Section>> = { fine: roundSection(20), 'of 15': roundSection(15), ...SECTIONS };
  for (const name of ['round', 'sheet', 'tube', 'fine', 'of 15']) {
    const tried =
      name === 'round' ? options(lines, name) : { plain: { radius: R }, wide: { radius: R, trueWidth: true } };
    for (const [option, one] of Object.entries(tried)) {
      const open: SweepOptions = { start: 'open', end: 'open', ...one, becomes: undefined };
      const mesh = sweep(lines, also[name], open);
      // taken before its buffers are written over
      const print = fingerprintOfAll(mesh, figures(mesh));
      remembered.expectSame(`many, ${name}, ${option}`, print);
      for (const array of [mesh.position, mesh.normal, mesh.uv]) array.fill(7);
      const again = sweep(lines, also[name], { ...open, into: mesh });
      expect(fingerprintOfAll(again, figures(again))).toEqual(print);
    }
  }
  // what bends sharply or closes goes the way of few, and with it all others
  const open: SweepOptions = { radius: R, start: 'open', end: 'open' };
  for (const [name, one] of [
    ['sharp', LINES['corners']],
    ['closed', LINES['small ring']],
  ] as const) {
    const mesh = sweep(many([one]), SECTIONS['round'], open);
    remembered.expectSame(`many, and one ${name}`, fingerprintOfAll(mesh, figures(mesh)));
  }
});

it('each vertex is reported as it was, once', () => {
  for (const [line, lines] of Object.entries(LINES))
    for (const [k, start] of ENDS.entries()) {
      const said: number[] = [];
      const skins = { section: SECTIONS.gear, start, end: ENDS[(k + 3) % ENDS.length] };
      eachVertex(lines, skins, (v, c, point, column = -1) => said.push(v, c, point, column));
      remembered.expectSame(`vertices, ${line}, ${start}`, fingerprintOfAll(said));
      if (lines.pointData[POINT.corner]) continue;
      const { vertices } = figures(sweep(lines, skins.section, { radius: R, ...skins }));
      const reported = said.filter((_, i) => i % 4 === 0).sort((a, b) => a - b);
      expect(reported).toEqual(Array.from({ length: vertices }, (_, v) => v));
    }
});

if (ANEW) it('remembered', () => remembered.keep());
