import { arc, bow, type Loop, line, type Run, reversed, rounded, sectionFromRuns } from './runs.js';
import type { Section } from './section.js';

/** The ready-made sections, in the order in which they are offered. */
export const FORMS = [
  { value: 'round', label: 'Round' },
  { value: 'polygon', label: 'Polygon' },
  { value: 'box', label: 'Box' },
  { value: 'half-round', label: 'Half-round' },
  { value: 'crescent', label: 'Crescent' },
  { value: 'angle', label: 'L' },
  { value: 'tee', label: 'T' },
  { value: 'channel', label: 'U' },
  { value: 'beam', label: 'I' },
  { value: 'star', label: 'Star' },
  { value: 'gear', label: 'Gear' },
  { value: 'tube', label: 'Tube' },
  { value: 'box-tube', label: 'Box tube' },
] as const;
export type Form = (typeof FORMS)[number]['value'];

export interface FormNumbers {
  /** How much wider than high. */
  width: number;
  /** Faces all the way round what is curved. */
  sides: number;
  /** Corners of a polygon, points of a star, teeth. */
  points: number;
  /** Thickness of legs and walls, as a share of half the height. */
  wall: number;
  /** How deep a star or a gear is cut, as a share of its radius. */
  depth: number;
  /** Roundness of corners, from 0 to as round as they may be at 1. */
  rounding: number;
}

/** Faces for a corner of 90°, at density 1. */
const CORNER_STEPS = 3;
/** Of a tooth and the gap beside it the tip takes this share, its two flanks each the second. */
const [TIP, FLANK] = [0.3, 0.15];

/**
 * A section 2 high (x, along the frame's normal, which is up) and 2·`width` wide (y), its middle at 0; round ones, polygons,
 * stars and gears stand in that ellipse.
 * @param density factor on the divisions of what is curved
 */
export function formSection(form: Form, numbers: FormNumbers, density = 1): Section {
  const { width: w, points, depth } = numbers;
  const sides = even(numbers.sides, density);
  const steps = Math.max(1, Math.round(CORNER_STEPS * density));
  // legs meet at their middle at most
  const t = Math.min(2 * numbers.wall, 1.8, 1.8 * w);
  const wall = Math.min(numbers.wall, 0.95, 0.95 * w);
  const round = (places: readonly (readonly [number, number])[], most: number) =>
    rounded(places, numbers.rounding * most, steps);
  const one = (runs: readonly Run[]): Section => sectionFromRuns([{ runs, closed: true }]);
  const pair = (outer: readonly Run[], inner: readonly Run[]): Section => {
    const loops: Loop[] = [
      { runs: outer, closed: true },
      { runs: reversed(inner), closed: true },
    ];
    return sectionFromRuns(loops);
  };
  switch (form) {
    case 'round':
      return one([ellipse(1, w, sides)]);
    case 'polygon':
      return one(
        round(
          ring(points, w, () => 1),
          1,
        ),
      );
    case 'box':
      return one(round(boxPlaces(1, w), Math.min(1, w)));
    case 'half-round':
      return one([arc([-1, 0], [2, w], -Math.PI / 2, Math.PI / 2, sides / 2), ...line(-1, w, -1, -w)]);
    case 'crescent':
      return one([
        bow(sides / 2, (s) => parabola(2, w, 2 * s - 1, 1)),
        bow(sides / 2, (s) => parabola(2 * (1 - wall), w, 1 - 2 * s, -1)),
      ]);
    case 'angle':
      return one(
        round(
          [
            [-1, -w],
            [1, -w],
            [1, t - w],
            [t - 1, t - w],
            [t - 1, w],
            [-1, w],
          ],
          t / 2,
        ),
      );
    case 'tee':
      return one(
        round(
          [
            [-1, -t / 2],
            [1 - t, -t / 2],
            [1 - t, -w],
            [1, -w],
            [1, w],
            [1 - t, w],
            [1 - t, t / 2],
            [-1, t / 2],
          ],
          t / 2,
        ),
      );
    case 'channel': {
      const u = Math.min(t, 0.9 * w);
      return one(
        round(
          [
            [-1, -w],
            [1, -w],
            [1, u - w],
            [u - 1, u - w],
            [u - 1, w - u],
            [1, w - u],
            [1, w],
            [-1, w],
          ],
          u / 2,
        ),
      );
    }
    case 'beam': {
      const u = Math.min(t, 0.9);
      return one(
        round(
          [
            [-1, -w],
            [u - 1, -w],
            [u - 1, -u / 2],
            [1 - u, -u / 2],
            [1 - u, -w],
            [1, -w],
            [1, w],
            [1 - u, w],
            [1 - u, u / 2],
            [u - 1, u / 2],
            [u - 1, w],
            [-1, w],
          ],
          u / 2,
        ),
      );
    }
    case 'star':
      return one(
        round(
          ring(2 * points, w, (i) => (i % 2 === 0 ? 1 : 1 - depth)),
          depth,
        ),
      );
    case 'gear':
      return one(round(teeth(points, w, depth), depth / 2));
    case 'tube':
      return pair([ellipse(1, w, sides)], [ellipse(1 - wall, w - wall, sides)]);
    case 'box-tube': {
      const r = numbers.rounding * Math.min(1, w);
      return pair(
        rounded(boxPlaces(1, w), r, steps),
        rounded(boxPlaces(1 - wall, w - wall), Math.max(0, r - wall), steps),
      );
    }
  }
}

/** An even number keeps its mirror when it is made finer or coarser. */
const even = (sides: number, density: number): number => Math.max(4, 2 * Math.round((sides * density) / 2));

// the seam of the texture is where an outline begins: at the bottom, away from the eye

const ellipse = (rx: number, ry: number, sides: number): Run => arc([0, 0], [rx, ry], Math.PI, 3 * Math.PI, sides);

const boxPlaces = (h: number, w: number): [number, number][] => [
  [-h, w],
  [-h, -w],
  [h, -w],
  [h, w],
];

/** Places round an ellipse, number 0 at the top; the first in the list is opposite. */
const ring = (count: number, w: number, far: (i: number) => number): [number, number][] =>
  Array.from({ length: count }, (_, k) => {
    const i = (k + (count >> 1)) % count;
    const angle = (2 * Math.PI * i) / count;
    return [far(i) * Math.cos(angle), w * far(i) * Math.sin(angle)];
  });

function teeth(count: number, w: number, depth: number): [number, number][] {
  const step = (2 * Math.PI) / count;
  const half = (TIP / 2) * step;
  return Array.from({ length: count }, (_, k) => k + (count >> 1)).flatMap((i) =>
    [
      [-half - FLANK * step, 1 - depth],
      [-half, 1],
      [half, 1],
      [half + FLANK * step, 1 - depth],
    ].map(([by, far]): [number, number] => [far * Math.cos(i * step + by), w * far * Math.sin(i * step + by)]),
  );
}

/** A bow over the foot at x = −1, `high` at its middle and 2·`w` wide; s from −1 to 1, `way` 1 or −1. */
const parabola = (high: number, w: number, s: number, way: number) => ({
  x: high * (1 - s * s) - 1,
  y: w * s,
  dx: -2 * way * high * s,
  dy: way * w,
});
