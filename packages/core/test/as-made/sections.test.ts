import { it } from 'vitest';
import type { Profile } from '../../src/index.js';
import { outlineOf, roundOutline } from '../../src/make/bundle/hull.js';
import { blendedAt, blendOf, crossesBetween, legAt } from '../../src/section/blend/blend.js';
import { drawnPath } from '../../src/section/drawn-paths.js';
import { formPaths } from '../../src/section/form-paths.js';
import { FORMS, type Form, formSection } from '../../src/section/forms.js';
import { hullOf, leastReach } from '../../src/section/hull.js';
import { outlinePath } from '../../src/section/outline-path.js';
import { ownSection, profilePicture, profileSize } from '../../src/section/own-section.js';
import { withSeam } from '../../src/section/seam.js';
import type { Section } from '../../src/section/section.js';
import { polygonSection, roundedBoxSection, roundSection } from '../../src/section/section.js';
import { fingerprintOfAll } from './fingerprint.js';
import { ANEW, Remembered } from './remembered.js';

// What is swept, by itself: each ready-made section, what is drawn, and what is between two or three. As in as-made.test.

type Path = Profile['paths'][number];
const path = (points: readonly (readonly number[])[], corner = true, closed = true): Path => ({
  closed,
  points: points.map(([x, y, bulge = 0]) => ({ x, y, corner, ...(bulge && { bulge }) })),
});
const box = (half: number, x = 0, y = 0): Path =>
  path([
    [x - half, y - half],
    [x + half, y - half],
    [x + half, y + half],
    [x - half, y + half],
  ]);
const soft = (half: number): Path =>
  path(
    [
      [half, 0],
      [0, 1.3 * half],
      [-half, 0.1],
      [0, -half],
    ],
    false,
  );
const DRAWN: Readonly<Record<string, readonly Path[]>> = {
  soft: [soft(0.5)],
  'soft with a hole': [
    soft(0.5),
    path(
      [
        [0.1, 0],
        [0, 0.1],
        [-0.1, 0],
        [0, -0.1],
      ],
      false,
    ),
  ],
  'an island in a hole': [box(1), box(0.7, 0.1), box(0.2), box(0.5, 3, 0.3)],
  bulging: [
    path([
      [-0.5, -0.2, 0.6],
      [0.5, -0.2],
      [0.5, 0.3, -0.25],
      [-0.5, 0.4, 1],
    ]),
  ],
  'half soft': [
    {
      closed: true,
      points: [
        [0, 0],
        [1, 0],
        [1.2, 0.6],
        [0.5, 1],
        [-0.1, 0.5],
      ].map(([x, y], i) => ({ x, y, corner: i % 2 === 0 })),
    },
  ],
  'a bow': [
    path(
      [
        [0, 0, 0.4],
        [0.3, 0.1],
        [0.6, 0.5, -0.3],
        [0.9, 0.4],
      ],
      true,
      false,
    ),
  ],
  'a soft bow and a leg': [
    path(
      [
        [0, 0],
        [0.3, 0.1],
        [0.4, 0.5],
        [0.9, 0.4],
      ],
      false,
      false,
    ),
    path(
      [
        [0, 1],
        [1, 1.5],
      ],
      true,
      false,
    ),
  ],
  straight: [
    path(
      [
        [0, 0],
        [0, 2],
      ],
      true,
      false,
    ),
  ],
  crossed: [
    path([
      [0, 0],
      [1, 1],
      [1, 0],
      [0, 1.4],
    ]),
    box(0.3),
  ],
  'one beside another': [
    box(0.4),
    box(0.4, 1),
    path(
      [
        [0, 0],
        [0.1, 0.1],
      ],
      true,
      false,
    ),
  ],
  nothing: [
    path([
      [0, 0],
      [1, 0],
      [2, 0],
    ]),
    path([[0, 0]], true, false),
  ],
};

const NUMBERS = [
  { width: 1, sides: 16, points: 5, wall: 0.2, depth: 0.3, rounding: 0 },
  { width: 1.7, sides: 9, points: 6, wall: 0.35, depth: 0.5, rounding: 0.4 },
  { width: 0.4, sides: 24, points: 3, wall: 0.9, depth: 0.1, rounding: 1 },
];
const forms = FORMS.map(({ value }) => value);
const at = (form: Form, k: number) => formSection(form, NUMBERS[k % NUMBERS.length], k === 1 ? 0.5 : 1);
const remembered = new Remembered('sections');

/** A section with all that is asked of one. */
function same(name: string, section: Section): void {
  const { x, y, cap } = section;
  const hull = hullOf(x, y);
  const seams = [0.23, 0.5, 1.8].map((share) => withSeam(section, share));
  const now = [section, seams, hull, leastReach(hull), outlinePath(section)];
  remembered.expectSame(name, fingerprintOfAll(now, { vertices: x.length, triangles: (cap?.length ?? 0) / 3 }));
}

it('ready-made sections are as they were', () => {
  for (const form of forms) {
    NUMBERS.forEach((_, k) => {
      same(`${form} ${k}`, at(form, k));
    });
    remembered.expectSame(`${form}, to be drawn on`, fingerprintOfAll(formPaths(form, 0.3)));
  }
  for (const sides of [3, 8, 15, 40]) {
    same(`round of ${sides}`, roundSection(sides));
    same(`polygon of ${sides}`, polygonSection(sides));
  }
  same('polygon, soft', polygonSection(5, 2));
  for (const rounding of [0, 0.4, 1]) same(`rounded box ${rounding}`, roundedBoxSection(1.6, rounding, 3));
});

it('drawn ones are as they were', () => {
  for (const [name, paths] of Object.entries(DRAWN)) {
    const profile: Profile = { id: name, name, paths: [...paths] };
    const [coarse, fine] = [0.5, 1].map((density) => ownSection(profile, 1.2, density));
    const lines = paths.map(drawnPath);
    const now = [coarse, fine, lines, profileSize(profile), profilePicture(profile)];
    remembered.expectSame(name, fingerprintOfAll(now));
    if (fine.section) same(`${name}, by itself`, fine.section);
  }
});

it('what is between sections is as it was', () => {
  const blended = (name: string, sections: readonly Section[]) => {
    const blend = blendOf(sections);
    const parts = blend && [0, 0.1, 0.37, 0.5, 0.8, 1].map((share) => [legAt(blend, share), blendedAt(blend, share)]);
    const now = [blend ?? 'none', parts, blend && crossesBetween(blend)];
    remembered.expectSame(name, fingerprintOfAll(now, { vertices: blend?.stages[0].x.length }));
  };
  const drawn = Object.entries(DRAWN).flatMap(([name, paths]) => {
    const { section } = ownSection({ id: name, name, paths: [...paths] }, 1, 0.5);
    return section ? [{ name, section }] : [];
  });
  forms.forEach((form, i) => {
    forms.forEach((other, k) => {
      blended(`${form}, ${other}`, [at(form, 0), at(other, i + k)]);
    });
    const [next, after] = [forms[(i + 2) % forms.length], forms[(i + 5) % forms.length]];
    blended(`${form}, ${next}, ${after}`, [at(form, 2), at(next, 0), at(after, 1)]);
  });
  drawn.forEach(({ name, section }, k) => {
    blended(`${name}, ${drawn[(k + 1) % drawn.length].name}`, [section, drawn[(k + 1) % drawn.length].section]);
    blended(`${name}, ${forms[k % forms.length]}`, [section, at(forms[k % forms.length], k)]);
  });
});

it('the outlines of bundles are as they were', () => {
  for (const count of [1, 2, 3, 5, 7, 12])
    for (const [name, wide, off] of [
      ['apart', 0.9, 0],
      ['touching', 1, 0],
      ['lapping', 1.1, 0],
      ['uneven', 1.05, 0.2],
    ] as const) {
      const angle = Array.from({ length: count }, (_, k) => (2 * Math.PI * k) / count + 0.3);
      const far = angle.map((_, k) => 1 - off * (k % 2));
      const size = Float64Array.from(
        angle,
        (_, k) => wide * Math.sin(Math.PI / Math.max(2, count)) * (1 + off * ((k % 3) - 1)),
      );
      const [x, y] = [
        Float64Array.from(angle, (a, k) => far[k] * Math.cos(a)),
        Float64Array.from(angle, (a, k) => far[k] * Math.sin(a)),
      ];
      const slanted = outlineOf({ x, y, size, slant: size.map((_, k) => 1.1 + 0.05 * (k % 2)) });
      const now = [outlineOf({ x, y, size }), slanted, roundOutline(count)];
      remembered.expectSame(
        `bundle of ${count}, ${name}`,
        fingerprintOfAll(now, { vertices: slanted.section.x.length }),
      );
    }
  // one within another, and one that is at the middle
  const [x, y] = [Float64Array.of(0, 0.5, 0.1), Float64Array.of(0, 0.2, 0)];
  remembered.expectSame(
    'bundle about its middle',
    fingerprintOfAll(outlineOf({ x, y, size: Float64Array.of(0.3, 0.4, 0.1) })),
  );
});

if (ANEW) it('remembered', () => remembered.keep());
