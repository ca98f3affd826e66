import { type DrawnPoint, newShape, newUse, type ParameterValues } from '@kelp/core';
import { type Farm, free } from '../farm.js';
import { BENCH, LOFT_CLEAT } from './bench.js';

// What is on the bench: every rope shows its strands, and one of its ends.

/** Lying on the bench: points by x and z, as high as the line is thick. */
const lying = (radius: number, places: readonly (readonly [number, number])[]): DrawnPoint[] =>
  places.map(([x, z]) => free(x, BENCH.top + radius + 0.0005, z));

const laid = (preset: string, parameters: ParameterValues) => {
  const make = newUse('make', 'laid', preset);
  Object.assign(make.parameters, parameters);
  return make;
};
const level = (count: number, filling: string, hand: string, lay: number) => ({
  count,
  filling,
  hand,
  lay,
  by: 'thickness',
});

/** Three strands, whipped at one end and come loose at the other. */
export function mooringRope(farm: Farm): void {
  const radius = 0.015;
  farm.made(
    'Mooring rope',
    lying(radius, [
      [-0.49, 0.2],
      [-0.32, 0.235],
      [-0.12, 0.15],
      [0.02, 0.1],
      [0.13, 0.085],
      [0.24, 0.085],
    ]),
    [newShape('smooth', { over: 1 })],
    laid('three-strand', {
      radius,
      levels: [level(3, 'hollow', 'z', 3.5), level(7, 'filled', 's', 4)],
      sides: 5,
      places: 14,
      start: 'whipped',
      startOver: 1.4,
      end: 'frayed',
      endOver: 3,
    }),
    { colour: '#d8c38a', roughness: 0.85 },
  );
}

/** Thread in a loose hank, laid across the rope, with stray fibres on it. */
export function hankOfThread(farm: Farm): void {
  const radius = 0.009;
  const over = BENCH.top + 0.03 + radius + 0.001;
  const at = BENCH.top + radius + 0.0005;
  farm.made(
    'Hank of thread',
    [
      free(-0.24, at, 0.02),
      free(-0.2, at, 0.08),
      free(-0.17, over - 0.008, 0.125),
      free(-0.15, over + 0.0005, 0.162),
      free(-0.135, over - 0.006, 0.2),
      free(-0.11, at, 0.25),
      free(-0.05, at, 0.275),
    ],
    [],
    laid('hank', { radius, fuzz: 1.2, wander: 0.15, scale: 0.72 }),
    { colour: '#3f7486', roughness: 0.8 },
  );
}

/** Nineteen wires. */
export function wireStay(farm: Farm): void {
  const radius = 0.006;
  farm.made(
    'Wire stay',
    lying(radius, [
      [-0.27, -0.05],
      [-0.1, -0.035],
      [0.1, -0.07],
      [0.46, -0.02],
    ]),
    [],
    laid('wire-1x19', { radius, sides: 5, places: 12 }),
    { colour: '#a9b0b2', roughness: 0.35, metalness: 1 },
  );
}

/** Three ropes laid into one, its end melted together. */
export function cableLaidEnd(farm: Farm): void {
  const radius = 0.022;
  farm.made(
    'Cable-laid rope',
    lying(radius, [
      [-0.36, -0.16],
      [-0.22, -0.14],
      [-0.02, -0.18],
      [0.08, -0.17],
    ]),
    [],
    laid('cable-laid', {
      radius,
      levels: [level(3, 'hollow', 's', 4), level(3, 'hollow', 'z', 3.5), level(3, 'filled', 's', 4)],
      sides: 5,
      places: 13,
      end: 'sealed',
      endOver: 0.8,
    }),
    { colour: '#8a5a3b', roughness: 0.75 },
  );
}

/** Braided about a core, led in a bight. */
export function longline(farm: Farm): void {
  const radius = 0.0085;
  const make = newUse('make', 'braid', 'braided-line');
  Object.assign(make.parameters, {
    radius,
    carriers: 8,
    lay: 3.6,
    places: 6,
    sides: 5,
    start: 'sealed',
    startOver: 0.7,
    end: 'frayed',
    endOver: 1.6,
  });
  farm.made(
    'Longline',
    lying(radius, [
      [0.02, -0.005],
      [0.14, 0.01],
      [0.3, 0.005],
      [0.42, 0.04],
      [0.455, 0.11],
      [0.4, 0.165],
      [0.29, 0.16],
      [0.2, 0.2],
      [0.13, 0.255],
    ]),
    [newShape('smooth', { over: 2 })],
    make,
    { colour: '#c2513b', roughness: 0.7 },
  );
}

/** Straight strands that a place in space twists hard: round the cleat they hold each other, beyond it they lie open. */
export function cleatRope(farm: Farm): void {
  const radius = 0.009;
  const [x, y, z] = LOFT_CLEAT;
  const [post, around] = [0.035, 0.0228];
  const first = y + 0.0126 + radius;
  // half round each post, and across to the other one; the second time above the first
  const points = [
    ...lying(radius, [
      [0.5, -0.285],
      [0.44, -0.26],
    ]),
    free(x + 0.098, y + 0.0205, z - 0.052),
  ];
  const [halves, steps] = [4, 6];
  for (let half = 0; half < halves; half++)
    for (let k = 0; k <= steps; k++) {
      // it comes from behind and leaves to the left
      if ((half === 0 && k < 2) || (half === 3 && k > 2)) continue;
      const [right, turn] = [half % 2 === 0, (Math.PI * k) / steps];
      const climbed = Math.max(0, (half + k / steps - 1.33) / 0.98);
      const way = right ? 1 : -1;
      points.push(
        free(
          x + way * (post + around * Math.sin(turn)),
          first + 0.0195 * Math.min(1, climbed),
          z - way * around * Math.cos(turn),
        ),
      );
    }
  points.push(
    free(x - 0.082, first + 0.0186, z - 0.026),
    free(x - 0.13, y + radius + 0.004, z - 0.066),
    ...lying(radius, [
      [0.12, -0.245],
      [0.07, -0.262],
    ]),
  );
  farm.document.regions.push({
    id: 'cleat-region',
    name: 'Round the cleat',
    form: 'ball',
    position: [x, y + 0.03, z],
    size: [0.06, 0.06, 0.06],
    rotation: [0, 0, 0, 1],
    edge: 0.05,
  });
  const twist = {
    ease: 'smooth',
    region: 'cleat-region',
    knots: [
      { at: 0, value: 0 },
      { at: 1, value: 11 },
    ],
  } as const;
  farm.made(
    'Cleat rope',
    points,
    [newShape('smooth', { over: 0.7 })],
    laid('three-strand', {
      radius,
      levels: [level(3, 'hollow', 'z', 60), level(5, 'filled', 's', 7)],
      twist: { ...twist, knots: [...twist.knots] },
      sides: 5,
      places: 14,
      end: 'frayed',
      endOver: 1.5,
      start: 'round',
    }),
    { colour: '#b9a57a', roughness: 0.85 },
  );
}

/** What is spare lies coiled at the back: too far off for its strands, so its hull is shown. */
export function coiledRope(farm: Farm): void {
  const radius = 0.0125;
  const [turns, inner] = [3, 0.032];
  const path = newUse('path', 'helix');
  Object.assign(path.parameters, {
    at: [-0.42, BENCH.top + radius + 0.0008, 0.02],
    height: 0,
    radius: inner,
    taper: 1 + (turns * 2.04 * radius) / inner,
    turns,
  });
  farm.along('Coiled rope', path, [], {}, { colour: '#6f8f7a', roughness: 0.85 });
  farm.document.pieces[farm.document.pieces.length - 1].make = laid('three-strand', { radius, shown: 'hull' });
}
