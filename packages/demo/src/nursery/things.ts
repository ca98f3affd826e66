import type { Mesh } from '@kelp/core';
import { SolidBuilder, type Vec } from '../props/solid-builder.js';
import { body, type Station, sheet } from './bodies.js';

// The corner of the winch house where a stray seal pup is fed; metres.

export const MAT = { center: [0.02, 0.012, -0.1] as Vec, size: [0.98, 0.016, 0.56] as Vec } as const;
/** Where the doll's head is, and how large. */
export const HEAD = { center: [0.66, 0.315, 0.3] as Vec, radius: 0.066 } as const;
/** Which way the tail of its hair is tied, seen from the middle of its head. */
export const TIE: Vec = [-0.1, 0.62, -0.778];
export const BRUSH = { center: [-0.5, 0.014, 0.36] as Vec, size: [0.2, 0.026, 0.066] as Vec, turn: 0.35 } as const;
export const BOTTLE = { from: [-0.2, 0.038, 0.42] as Vec, to: [0.18, 0.03, 0.47] as Vec } as const;
export const TRAY = { center: [-0.64, 0.05, -0.44] as Vec, size: [0.42, 0.1, 0.3] as Vec } as const;

const PUP: readonly Station[] = [
  [-0.4, 0.05, 0.012, 0.008],
  [-0.34, 0.055, 0.042, 0.026],
  [-0.24, 0.085, 0.088, 0.062],
  [-0.1, 0.125, 0.13, 0.102],
  [0.04, 0.142, 0.142, 0.12],
  [0.15, 0.155, 0.122, 0.113],
  [0.22, 0.178, 0.09, 0.095],
  [0.275, 0.205, 0.083, 0.085],
  [0.325, 0.213, 0.085, 0.081],
  [0.37, 0.205, 0.071, 0.064],
  [0.405, 0.192, 0.046, 0.04],
  [0.43, 0.186, 0.034, 0.028],
  [0.445, 0.186, 0.014, 0.012],
];
const PUP_Z = -0.1;

export const pup = (): Mesh => body(PUP, PUP_Z);

/** Flippers, flat and dark. */
export function flippers(): Mesh {
  const solid = new SolidBuilder();
  const blade = (center: Vec, size: Vec, turn: number) => solid.box(center, size, 0.009, turn);
  for (const side of [-1, 1]) {
    blade([0.16, 0.05, PUP_Z + side * 0.135], [0.13, 0.02, 0.05], side * 0.55);
    blade([-0.43, 0.04, PUP_Z + side * 0.03], [0.12, 0.017, 0.045], side * 0.3);
  }
  return solid.finish();
}

/** Eyes and nose. */
export function face(): Mesh {
  const solid = new SolidBuilder();
  for (const side of [-1, 1]) solid.lathe([0.389, 0.229, PUP_Z + side * 0.05], ballOf(0.0145, 12), 20);
  solid.lathe([0.452, 0.194, PUP_Z], ballOf(0.0135, 12), 20);
  return solid.finish();
}

export const floor = (): Mesh => {
  const solid = new SolidBuilder();
  for (let k = 0; k < 6; k++) solid.box([0, -0.012, -0.62 + 0.23 * k], [1.86, 0.024, 0.226], 0.004);
  return solid.finish();
};

export const mat = (): Mesh => new SolidBuilder().box(MAT.center, MAT.size, 0.006).finish();

const ballOf = (radius: number, rows: number): [number, number][] =>
  Array.from({ length: rows + 1 }, (_, k) => [
    radius * Math.sin((Math.PI * k) / rows),
    -radius * Math.cos((Math.PI * k) / rows),
  ]);

/** The head of the crew's doll. */
export const dollHead = (): Mesh => new SolidBuilder().lathe(HEAD.center, ballOf(HEAD.radius, 24), 48).finish();

/** Its turned body in a jersey, with arms. */
export function dollBody(): Mesh {
  const [x, y, z] = HEAD.center;
  const foot = y - HEAD.radius;
  const solid = new SolidBuilder();
  solid.lathe(
    [x, 0, z],
    [
      [0, 0],
      [0.078, 0],
      [0.08, 0.012],
      [0.068, 0.07],
      [0.056, 0.13],
      [0.05, 0.175],
      [0.042, 0.205],
      [0.027, 0.222],
      [0.026, foot + 0.012],
      [0, foot + 0.012],
    ],
    40,
  );
  for (const side of [-1, 1]) solid.cylinder([x + side * 0.062, 0.155, z + 0.018], 0.014, 0.1, 20, 'y', 0.012);
  return solid.finish();
}

/** Its eyes and mouth. */
export function dollFace(): Mesh {
  const [x, y, z] = HEAD.center;
  const solid = new SolidBuilder();
  for (const side of [-1, 1]) solid.lathe([x + side * 0.022, y + 0.002, z + 0.061], ballOf(0.0062, 12), 20);
  solid.lathe([x, y - 0.026, z + 0.0598], ballOf(0.0045, 8), 16);
  return solid.finish();
}

const unit = (v: readonly number[]): Vec => {
  const size = Math.hypot(...v);
  return [v[0] / size, v[1] / size, v[2] / size];
};
const cross = (a: Vec, b: Vec): Vec => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** A place over the doll's head, by the turn about its tie (0 over the forehead) and the angle from it, radians. */
export function overHead(turn: number, angle: number, height = 0): Vec {
  const tie = unit(TIE);
  const side = unit(cross([0, 1, 0], tie));
  const front = cross(tie, side);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const far = HEAD.radius + height;
  return [0, 1, 2].map(
    (n) => HEAD.center[n] + far * (Math.cos(angle) * tie[n] + Math.sin(angle) * (c * front[n] + s * side[n])),
  ) as unknown as Vec;
}

/** How far from the tie the hair begins: far over the forehead, nearer at the nape. */
export const hairline = (turn: number): number => 1.42 + 0.5 * Math.cos(turn) - 0.06 * Math.cos(2 * turn);

/** Guide shapes over the head: from the hairline to the tie; one over the forehead, one on each side down to the nape. */
export const SHELLS = [
  { name: 'Front shell', from: -1.05, to: 1.05 },
  { name: 'Left shell', from: 1.05, to: Math.PI },
  { name: 'Right shell', from: -Math.PI, to: -1.05 },
] as const;

export const shell = (which: number): Mesh => {
  const { from, to } = SHELLS[which];
  return sheet(14, 18, (s, t) => {
    const turn = from + (to - from) * t;
    const angle = hairline(turn) + (0.16 - hairline(turn)) * s;
    // it rises over the head on its way
    return overHead(turn, angle, 0.003 + 0.012 * Math.sin(Math.PI * Math.min(1, 0.25 + s)));
  });
};

/** The tail's guide shape: half a tube from the tie, out and down. */
export function tailShell(): Mesh {
  const tie = unit(TIE);
  const start = overHead(0, 0, 0.012);
  return sheet(16, 10, (s, t) => {
    const turn = Math.PI * (t - 0.5) * 1.5;
    const wide = 0.011 + 0.022 * Math.sin(Math.PI * Math.min(0.85, s));
    const out = 0.075 * Math.sin(1.6 * s);
    const down = 0.06 * s - 0.24 * s * s;
    return [
      start[0] + tie[0] * out + wide * Math.sin(turn),
      start[1] + tie[1] * out * 0.4 + down,
      start[2] + tie[2] * out - wide * Math.cos(turn),
    ];
  });
}

export const scrubBrush = (): Mesh => new SolidBuilder().box(BRUSH.center, BRUSH.size, 0.008, BRUSH.turn).finish();

/** The wire of the bottle brush, and the end of its handle. */
export function bottleWire(): Mesh {
  const { from, to } = BOTTLE;
  const way = unit([to[0] - from[0], to[1] - from[1], to[2] - from[2]]);
  const side = unit(cross([0, 1, 0], way));
  const up = cross(way, side);
  const long = Math.hypot(...[0, 1, 2].map((n) => to[n] - from[n]));
  return sheet(40, 12, (s, t) => {
    const turn = -2 * Math.PI * t;
    return [0, 1, 2].map(
      (n) => from[n] + way[n] * long * s + 0.0022 * (Math.cos(turn) * up[n] + Math.sin(turn) * side[n]),
    ) as unknown as Vec;
  });
}

export function bottleHandle(): Mesh {
  const { to } = BOTTLE;
  return new SolidBuilder()
    .lathe(
      [to[0] - 0.002, to[1], to[2]],
      [
        [0, 0],
        [0.008, 0],
        [0.009, 0.02],
        [0.008, 0.09],
        [0.01, 0.14],
        [0.006, 0.155],
        [0, 0.155],
      ],
      24,
      'x',
    )
    .finish();
}

/** A tray of sand, its rim above it. */
export function tray(): Mesh {
  const [x, y, z] = TRAY.center;
  const [w, h, d] = TRAY.size;
  const solid = new SolidBuilder();
  solid.box([x, y - h / 2 + 0.008, z], [w, 0.016, d], 0.004);
  for (const side of [-1, 1]) {
    solid.box([x + (side * w) / 2, y, z], [0.016, h, d + 0.016], 0.004);
    solid.box([x, y, z + (side * d) / 2], [w, h, 0.016], 0.004);
  }
  return solid.finish();
}

export function sand(): Mesh {
  const [x, y, z] = TRAY.center;
  const [w, h, d] = TRAY.size;
  return sheet(10, 14, (s, t) => [
    x + (w - 0.02) * (t - 0.5),
    y + 0.16 * h + 0.006 * Math.sin(9 * t + 4 * s) * Math.cos(7 * s),
    z + (d - 0.02) * (s - 0.5),
  ]);
}
