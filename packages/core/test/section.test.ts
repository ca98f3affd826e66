import { describe, expect, it } from 'vitest';
import { polygonSection, roundedBoxSection, roundSection, type Section } from '../src/index.js';
import { FORMS, type Form, formSection } from '../src/section/forms.js';
import { withSeam } from '../src/section/seam.js';

describe('area of an N-gon inside its circle: N/2·sin(2π/N)/π (geometry)', () => {
  it.each([
    [3, 0.413497],
    [4, 0.63662],
    [6, 0.826993],
    [8, 0.900316],
    [12, 0.95493],
    [16, 0.974495],
    [24, 0.988616],
    [32, 0.993587],
  ])('%i sides: %f', (sides, share) => {
    for (const section of [roundSection(sides), polygonSection(sides)]) {
      expect(section.area / Math.PI).toBeCloseTo(share, 6);
      expect(section.perimeter).toBeCloseTo(2 * sides * Math.sin(Math.PI / sides), 9);
      expect(section.reach).toBeCloseTo(1, 9);
    }
  });
});

it.each([
  [1, 0.5],
  [3, 0.4],
  [0.5, 1],
  [6, 0],
])('rounded box, width %f, rounding %f: 4w − (4 − π)r² and outline 4(1 + w) − (8 − 2π)r', (width, rounding) => {
  const r = rounding * Math.min(1, width);
  const section = roundedBoxSection(width, rounding, 64);
  expect(section.area).toBeCloseTo(4 * width - (4 - Math.PI) * r * r, 3);
  expect(section.perimeter).toBeCloseTo(4 * (1 + width) - (8 - 2 * Math.PI) * r, 3);
});

const all: [string, Section][] = [
  ['round', roundSection(9)],
  ['edged', polygonSection(7)],
  ['box', roundedBoxSection(3, 0.4, 3)],
  ['sharp box', roundedBoxSection(2, 0, 1)],
  ['stadium', roundedBoxSection(1, 1, 4)],
];

it.each(all)(
  '%s: u rises from 0 to 1, normals are unit and look out, faces go round once',
  (_name, { x, y, normalX, normalY, u, face, rim }) => {
    expect(u[0]).toBe(0);
    expect(u[u.length - 1]).toBeCloseTo(1, 9);
    expect(face.length).toBe(rim.length);
    for (let k = 0; k < x.length; k++) {
      expect(Math.hypot(normalX[k], normalY[k])).toBeCloseTo(1, 9);
      expect(normalX[k] * x[k] + normalY[k] * y[k]).toBeGreaterThan(0);
      if (k > 0) expect(u[k]).toBeGreaterThanOrEqual(u[k - 1]);
    }
    let turn = 0;
    for (const f of face) {
      const cross = x[f] * y[f + 1] - x[f + 1] * y[f];
      const dot = x[f] * x[f + 1] + y[f] * y[f + 1];
      turn += Math.atan2(cross, dot);
      // the face's own direction agrees with the normals at both its columns
      const [ex, ey] = [y[f + 1] - y[f], x[f] - x[f + 1]];
      for (const k of [f, f + 1]) expect(ex * normalX[k] + ey * normalY[k]).toBeGreaterThan(0);
    }
    expect(turn).toBeCloseTo(2 * Math.PI, 9);
  },
);

it('the ready-made sections have the areas of their shapes, by the textbook formulas', () => {
  const [w, t, h] = [1.3, 0.4, 2];
  const plain = { width: w, sides: 256, points: 7, wall: t / 2, depth: 0.3, rounding: 0 };
  const b = 2 * w;
  const wall = t / 2;
  const star = 7 * 0.7 * Math.sin(Math.PI / 7) * w;
  const expected: [Form, number][] = [
    ['round', Math.PI * w],
    ['polygon', (7 / 2) * Math.sin((2 * Math.PI) / 7) * w],
    ['box', h * b],
    // half an ellipse with half axes 2 and w; a parabola fills two thirds of its box (Archimedes)
    ['half-round', Math.PI * w],
    ['crescent', (2 / 3) * h * b * wall],
    ['angle', h * t + (b - t) * t],
    ['tee', h * t + (b - t) * t],
    ['channel', b * h - (b - 2 * t) * (h - t)],
    ['beam', b * h - (b - t) * (h - 2 * t)],
    ['star', star],
    ['tube', Math.PI * (w - (1 - wall) * (w - wall))],
    ['box-tube', h * b - 4 * (1 - wall) * (w - wall)],
  ];
  for (const [form, area] of expected) expect(formSection(form, plain).area / area, form).toBeCloseTo(1, 3);
  // all but a gear, whose teeth lie between the circles of their tips and feet
  expect(expected.map(([form]) => form)).toEqual(FORMS.map(({ value }) => value).filter((form) => form !== 'gear'));
  const { area } = formSection('gear', { ...plain, points: 20 });
  expect(area).toBeGreaterThan(Math.PI * w * 0.7 ** 2);
  expect(area).toBeLessThan(Math.PI * w);
  // a corner of 90° that is rounded by r loses (1 − π/4)·r²; an inner one gains it
  const r = 0.5 * (t / 2);
  const rounded = formSection('angle', { ...plain, rounding: 0.5 }, 20).area;
  expect(rounded - (h * t + (b - t) * t)).toBeCloseTo(-4 * (1 - Math.PI / 4) * r * r, 4);
});

describe('a seam at a share of the way round', () => {
  const faces = ({ x, y, normalX, normalY, u, face }: Section) =>
    [...face].map((from) =>
      [from, from + 1].map((p) => ({ at: [x[p], y[p]], way: [normalX[p], normalY[p]], u: u[p] })),
    );
  const named = ([from, to]: ReturnType<typeof faces>[number]) =>
    [...from.at, ...to.at, ...from.way, ...to.way].map((value) => Math.round(1e7 * value) + 0).join();
  const sections = {
    round: roundSection(12),
    edged: polygonSection(5),
    box: roundedBoxSection(2, 0.5, 3),
    tube: formSection('tube', { width: 1, wall: 0.3, points: 6, depth: 0.3, rounding: 0.2, sides: 16 }),
  };

  it.each(Object.entries(sections))(
    '%s: the same faces with the same normals, each as wide in the texture, from there all the way round',
    (_name, section) => {
      for (const share of [0.3, 0.77, 1.31, -0.2, 0.98]) {
        const [old, moved] = [faces(section), faces(withSeam(section, share))];
        const widths = new Map(old.map((face) => [named(face), face[1].u - face[0].u]));
        expect(moved.length).toBe(old.length);
        expect(new Set(moved.map(named))).toEqual(new Set(widths.keys()));
        let rounds = 0;
        moved.forEach((face, k) => {
          expect(face[1].u - face[0].u).toBeCloseTo(widths.get(named(face))!, 9);
          // an outline begins at 0, goes on without a jump and ends at 1
          const before = moved[k - 1];
          if (face[0].u === 0) rounds++;
          else expect(face[0].u).toBeCloseTo(before[1].u, 9);
          if (k + 1 === moved.length || moved[k + 1][0].u === 0) expect(face[1].u).toBe(1);
        });
        expect(rounds).toBe(old.filter(([from]) => from.u === 0).length);
        // it begins at the place that was nearest to that share
        const away = (u: number) => Math.abs(u - share - Math.round(u - share));
        const start = old.find((face) => named(face) === named(moved[0]))!;
        expect(away(start[0].u)).toBeCloseTo(
          Math.min(...old.slice(0, old.length / rounds).map(([from]) => away(from.u))),
          9,
        );
      }
    },
  );

  it('a sharp corner keeps its two normals, what is smooth shares one column; rim and cap stay where they are', () => {
    const moved = withSeam(polygonSection(5), 0.4);
    expect([moved.x.length, moved.rim.length]).toEqual([10, 5]);
    expect(withSeam(roundSection(12), 0.4)).toMatchObject({ round: false, x: { length: 13 } });
    const places = ({ x, y, rim }: Section) => [...rim].map((p) => `${x[p].toFixed(9)} ${y[p].toFixed(9)}`);
    const tube = sections.tube;
    const turned = withSeam(tube, 0.4);
    const corners = (section: Section) =>
      new Set(
        Array.from({ length: section.cap!.length / 3 }, (_, k) =>
          [...section.cap!.subarray(3 * k, 3 * k + 3)].map((r) => places(section)[r]).join(),
        ),
      );
    expect(corners(turned)).toEqual(corners(tube));
    expect(turned.round).toBe(false);
  });

  it('at 0, or all the way round, nothing changes, nor on a sheet', () => {
    const round = roundSection(8);
    expect([withSeam(round, 0), withSeam(round, 2)]).toEqual([round, round]);
    const sheet = { ...round, open: true };
    expect(withSeam(sheet, 0.4)).toBe(sheet);
  });
});

it('the seam of a texture is away from the eye: on the lower side, where the frame’s normal does not look', () => {
  const lowest = ({ x }: Section) => Math.min(...x);
  const sections = [
    ...[3, 4, 7, 12].map((sides) => roundSection(sides)),
    ...[0, 0.6].map((rounding) => roundedBoxSection(3, rounding, 4)),
    ...FORMS.map(({ value }) =>
      formSection(value, { width: 1, wall: 0.2, points: 6, depth: 0.3, rounding: 0.2, sides: 12 }),
    ),
  ];
  for (const section of sections) expect(section.x[0]).toBeLessThan(lowest(section) / 3);
});
