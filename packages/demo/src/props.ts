import type { Mesh } from '@kelp/core';
import { SolidBuilder, type Vec } from './build-mesh.js';

/** Heights and places of the farm's first corner, metres; water at y = 0. */
export const PIER = { left: -4.2, right: 1.2, front: 1.15, back: -1.15, deck: 0.95 } as const;
export const RAFT = { left: 2.3, right: 5.1, front: 1.35, back: -1.05, deck: 0.5 } as const;
/** Radius of a bollard where a line is wound round it. */
export const BOLLARD = { waist: 0.095 } as const;
export const PIER_BOLLARDS: readonly Vec[] = [
  [-1.5, PIER.deck, 0.72],
  [0.78, PIER.deck, 0.72],
];
export const RAFT_CLEAT: Vec = [3.2, RAFT.deck, RAFT.front - 0.14];
export const LAMP_POSTS: readonly Vec[] = [
  [-1.75, PIER.deck, -0.95],
  [0.95, PIER.deck, -0.95],
];
/** Height of the lamp arm's tip over the deck, and how far it reaches over it. */
export const LAMP_ARM = { height: 2.05, reach: 0.34 } as const;
export const HOUSE = { left: -3.95, right: -2.35, front: -0.05, back: -1.05, eaves: 1.75 } as const;
/** Down from the pier's front: between x `left` and `right`, `treads` steps of `rise` and `run`, the rail so high above. */
export const STAIR = { left: -3.95, right: -3.2, rise: 0.19, run: 0.21, treads: 5, rail: 0.86 } as const;
export const CRATE = { center: [4.25, RAFT.deck + 0.24, -0.25] as Vec, size: [0.9, 0.46, 0.62] as Vec } as const;

export interface PropSource {
  name: string;
  colour: string;
  mesh: Mesh;
}

/** Planks side by side along x from `left` to `right`, each `depth` long in z. */
function planks(
  solid: SolidBuilder,
  left: number,
  right: number,
  back: number,
  front: number,
  top: number,
  width: number,
): void {
  const count = Math.round((right - left) / width);
  const step = (right - left) / count;
  for (let i = 0; i < count; i++)
    solid.box([left + (i + 0.5) * step, top - 0.022, (front + back) / 2], [step - 0.009, 0.044, front - back], 0.005);
}

function pier(): Mesh {
  const solid = new SolidBuilder();
  planks(solid, PIER.left, PIER.right, PIER.back, PIER.front, PIER.deck, 0.17);
  const middle = (PIER.left + PIER.right) / 2;
  const length = PIER.right - PIER.left;
  for (const z of [-0.92, 0, 0.92]) solid.box([middle, PIER.deck - 0.134, z], [length - 0.06, 0.18, 0.12], 0.008);
  for (const z of [PIER.back + 0.04, PIER.front - 0.04])
    solid.box([middle, PIER.deck + 0.032, z], [length, 0.064, 0.08], 0.012);
  for (const x of [PIER.left + 0.5, middle, PIER.right - 0.5])
    for (const z of [-0.92, 0.92]) solid.cylinder([x, 0.1, z], 0.13, 1.24, 28);
  return solid.finish();
}

function raft(): Mesh {
  const solid = new SolidBuilder();
  const lanes = 12;
  const step = (RAFT.front - RAFT.back) / lanes;
  for (let i = 0; i < lanes; i++)
    solid.box(
      [(RAFT.left + RAFT.right) / 2, RAFT.deck - 0.022, RAFT.back + (i + 0.5) * step],
      [RAFT.right - RAFT.left, 0.044, step - 0.009],
      0.005,
    );
  const middle = (RAFT.left + RAFT.right) / 2;
  const length = RAFT.right - RAFT.left;
  for (const x of [RAFT.left + 0.15, middle, RAFT.right - 0.15])
    solid.box([x, RAFT.deck - 0.114, (RAFT.back + RAFT.front) / 2], [0.1, 0.14, RAFT.front - RAFT.back - 0.04], 0.008);
  for (const z of [RAFT.back + 0.32, RAFT.front - 0.32]) {
    const r = 0.25;
    const h = length / 2 - 0.05;
    solid.lathe(
      [middle, 0.07, z],
      [
        [0, -h],
        [r * 0.5, -h + 0.03],
        [r * 0.85, -h + 0.1],
        [r, -h + 0.22],
        [r, h - 0.22],
        [r * 0.85, h - 0.1],
        [r * 0.5, h - 0.03],
        [0, h],
      ],
      36,
      'x',
    );
  }
  return solid.finish();
}

/** A mooring bollard: flared foot, waist, mushroom head. */
const bollardProfile: readonly (readonly [number, number])[] = [
  [0, -0.01],
  [0.17, -0.01],
  [0.175, 0.012],
  [0.16, 0.03],
  [0.115, 0.05],
  [0.1, 0.085],
  [0.095, 0.14],
  [0.095, 0.3],
  [0.1, 0.33],
  [0.12, 0.355],
  [0.142, 0.375],
  [0.148, 0.395],
  [0.138, 0.42],
  [0.1, 0.438],
  [0.05, 0.446],
  [0, 0.448],
];

function bollards(): Mesh {
  const solid = new SolidBuilder();
  for (const place of PIER_BOLLARDS) solid.lathe(place, bollardProfile, 48);
  return solid.finish(0.7);
}

function cleat(): Mesh {
  const solid = new SolidBuilder();
  const [x, y, z] = RAFT_CLEAT;
  solid.box([x, y + 0.012, z], [0.3, 0.03, 0.12], 0.008);
  for (const dx of [-0.07, 0.07]) solid.cylinder([x + dx, y + 0.06, z], 0.022, 0.1, 24, 'y', 0.003);
  solid.lathe(
    [x, y + 0.115, z],
    [
      [0, -0.19],
      [0.012, -0.185],
      [0.02, -0.15],
      [0.026, -0.06],
      [0.026, 0.06],
      [0.02, 0.15],
      [0.012, 0.185],
      [0, 0.19],
    ],
    24,
    'x',
  );
  return solid.finish(0.8);
}

function lampPosts(): Mesh {
  const solid = new SolidBuilder();
  for (const [x, y, z] of LAMP_POSTS) {
    solid.lathe(
      [x, y, z],
      [
        [0, -0.005],
        [0.1, -0.005],
        [0.1, 0.012],
        [0.05, 0.03],
        [0.042, 0.08],
        [0.034, 2.1],
        [0.038, 2.12],
        [0.03, 2.15],
        [0, 2.16],
      ],
      28,
    );
    solid.cylinder([x, y + LAMP_ARM.height, z + LAMP_ARM.reach / 2], 0.016, LAMP_ARM.reach, 20, 'z', 0.004);
    const tip: Vec = [x, y + LAMP_ARM.height, z + LAMP_ARM.reach];
    solid.lathe(
      tip,
      [
        [0, -0.17],
        [0.09, -0.17],
        [0.112, -0.155],
        [0.1, -0.11],
        [0.06, -0.06],
        [0.03, -0.03],
        [0.028, 0.02],
        [0, 0.03],
      ],
      32,
    );
  }
  return solid.finish(0.7);
}

function houseWalls(): Mesh {
  const solid = new SolidBuilder();
  const { left, right, front, back, eaves } = HOUSE;
  const [cx, cz] = [(left + right) / 2, (front + back) / 2];
  const y = PIER.deck;
  const [w, d] = [right - left, front - back];
  solid.box([cx, y + eaves / 2, cz], [w, eaves, d], 0.015);
  // gables: a ridge along x
  const rise = 0.42;
  for (const x of [left + 0.02, right - 0.02]) {
    const [a, b] = [x - 0.02, x + 0.02];
    const at = (px: number): Vec[] => [
      [px, y + eaves - 0.02, back],
      [px, y + eaves - 0.02, front],
      [px, y + eaves + rise, cz],
    ];
    const [p, q] = [at(a), at(b)];
    solid.faces(
      [x, y + eaves + rise / 3, cz],
      [p, q, [p[0], p[1], q[1], q[0]], [p[1], p[2], q[2], q[1]], [p[2], p[0], q[0], q[2]]],
    );
  }
  // battens on the front and the right side, a door and a window frame
  for (let i = 0; i <= 8; i++)
    solid.box(
      [left + 0.04 + ((w - 0.08) * i) / 8, y + eaves / 2 - 0.02, front + 0.011],
      [0.035, eaves - 0.06, 0.024],
      0.004,
    );
  for (let i = 1; i < 5; i++)
    solid.box([right + 0.011, y + eaves / 2 - 0.02, back + (d * i) / 5], [0.024, eaves - 0.06, 0.035], 0.004);
  solid.box([left + 0.5, y + 0.78, front + 0.028], [0.66, 1.5, 0.05], 0.01);
  for (const [px, py, sx, sy] of [
    [0, 0.3, 0.62, 0.05],
    [0, -0.3, 0.62, 0.05],
    [-0.3, 0, 0.05, 0.6],
    [0.3, 0, 0.05, 0.6],
    [0, 0, 0.03, 0.6],
  ])
    solid.box([right - 0.46 + px, y + 1.12 + py, front + 0.032], [sx, sy, 0.045], 0.006);
  return solid.finish();
}

function houseRoof(): Mesh {
  const solid = new SolidBuilder();
  const { left, right, front, back, eaves } = HOUSE;
  const cz = (front + back) / 2;
  const y = PIER.deck + eaves;
  const rise = 0.42;
  const over = 0.16;
  const thick = 0.05;
  const slope = rise / ((front - back) / 2);
  for (const side of [-1, 1]) {
    const edge = cz + side * ((front - back) / 2 + over);
    const low = y - over * slope + 0.02;
    const high = y + rise + 0.02;
    const at = (x: number): Vec[] => [
      [x, high, cz],
      [x, low, edge],
      [x, low + thick, edge],
      [x, high + thick, cz],
    ];
    const [p, q] = [at(left - over), at(right + over)];
    const middle: Vec = [(left + right) / 2, (low + high + thick) / 2, (cz + edge) / 2];
    solid.faces(middle, [p, q, ...[0, 1, 2, 3].map((i) => [p[i], p[(i + 1) % 4], q[(i + 1) % 4], q[i]])]);
  }
  solid.cylinder([(left + right) / 2, y + rise + 0.055, cz], 0.035, right - left + 2 * over, 20, 'x');
  return solid.finish(0.5);
}

/** Treads between two stringers, from the pier's front edge down to the water. */
function stair(): Mesh {
  const solid = new SolidBuilder();
  const { left, right, rise, run, treads } = STAIR;
  const [y, z] = [PIER.deck, PIER.front];
  for (let k = 1; k <= treads; k++)
    solid.box(
      [(left + right) / 2, y - k * rise - 0.02, z + (k - 0.4) * run],
      [right - left - 0.06, 0.04, run + 0.03],
      0.008,
    );
  const end = treads + 0.4;
  for (const x of [left, right]) {
    const side = (dx: number): Vec[] => [
      [x + dx, y - 0.06, z],
      [x + dx, y - 0.06 - end * rise, z + end * run],
      [x + dx, y - 0.26 - end * rise, z + end * run],
      [x + dx, y - 0.26, z],
    ];
    const [p, q] = [side(-0.025), side(0.025)];
    const middle: Vec = [x, y - 0.16 - (end * rise) / 2, z + (end * run) / 2];
    solid.faces(middle, [p, q, ...[0, 1, 2, 3].map((i) => [p[i], p[(i + 1) % 4], q[(i + 1) % 4], q[i]])]);
  }
  return solid.finish(0.5);
}

/** Posts and a flat bar over them, level on the pier and sloping with the stair: its edge carries the hand rail. */
function stairRail(): Mesh {
  const solid = new SolidBuilder();
  const { right: x, rise, run, treads, rail } = STAIR;
  const [y, z] = [PIER.deck, PIER.front];
  const way: [number, number][] = [
    [y + rail, z - 0.62],
    [y + rail, z + 0.04],
    [y + rail - treads * rise, z + 0.04 + treads * run],
  ];
  for (const [height, depth] of [
    [0, -0.55],
    [0, -0.06],
    [-2, 0.04 + 2 * run],
    [-treads + 0.5, 0.04 + (treads - 0.5) * run],
  ] as const) {
    const [foot, top] = [y + height * rise - 0.12, y + rail + height * rise - 0.02];
    solid.cylinder([x + 0.05, (foot + top) / 2, z + depth], 0.016, top - foot, 20, 'y', 0.002);
  }
  const ring = ([h, d]: [number, number]): Vec[] => [
    [x + 0.03, h - 0.012, d],
    [x + 0.07, h - 0.012, d],
    [x + 0.07, h + 0.012, d],
    [x + 0.03, h + 0.012, d],
  ];
  for (let k = 0; k + 1 < way.length; k++) {
    const [p, q] = [ring(way[k]), ring(way[k + 1])];
    const middle: Vec = [x + 0.05, (way[k][0] + way[k + 1][0]) / 2, (way[k][1] + way[k + 1][1]) / 2];
    solid.faces(middle, [
      ...[0, 1, 2, 3].map((i) => [p[i], p[(i + 1) % 4], q[(i + 1) % 4], q[i]]),
      ...(k === 0 ? [p] : [q]),
    ]);
  }
  return solid.finish(0.5);
}

/** The winch: a drum between two cheeks on a frame, in front of the house. */
function winch(): Mesh {
  const solid = new SolidBuilder();
  const [x, y, z] = [-2.0, PIER.deck, -0.2];
  solid.box([x, y + 0.03, z], [0.5, 0.06, 0.5], 0.01);
  for (const dx of [-0.19, 0.19]) solid.box([x + dx, y + 0.2, z], [0.03, 0.34, 0.28], 0.008);
  solid.lathe(
    [x, y + 0.25, z],
    [
      [0, -0.175],
      [0.15, -0.175],
      [0.15, -0.15],
      [0.085, -0.145],
      [0.08, -0.13],
      [0.08, 0.13],
      [0.085, 0.145],
      [0.15, 0.15],
      [0.15, 0.175],
      [0, 0.175],
    ],
    40,
    'x',
  );
  solid.cylinder([x, y + 0.25, z], 0.025, 0.56, 20, 'x', 0.004);
  return solid.finish();
}

function crate(): Mesh {
  const solid = new SolidBuilder();
  const {
    center: [x, y, z],
    size: [w, h, d],
  } = CRATE;
  solid.box([x, y - 0.01, z], [w, h, d], 0.05);
  return solid.finish();
}

/** A drum of a buoy with a fender round its waist, a cone and a lifting eye. */
function buoy(): Mesh {
  const solid = new SolidBuilder();
  solid.lathe(
    [0, 0, 0],
    [
      [0, -0.3],
      [0.2, -0.3],
      [0.3, -0.27],
      [0.36, -0.2],
      [0.38, -0.1],
      [0.38, 0.02],
      [0.4, 0.035],
      [0.42, 0.065],
      [0.42, 0.115],
      [0.4, 0.145],
      [0.38, 0.16],
      [0.38, 0.22],
      [0.36, 0.27],
      [0.31, 0.3],
      [0.09, 0.4],
      [0.07, 0.42],
      [0.06, 0.46],
      [0.06, 0.6],
      [0.075, 0.61],
      [0.075, 0.64],
      [0.06, 0.655],
      [0, 0.66],
    ],
    56,
  );
  return solid.finish(0.5);
}

/** All props of the demo, each in its own place; the buoy at the origin, to be placed by the project. */
export const propSources = (): PropSource[] => [
  { name: 'Pier', colour: '#c9c1ab', mesh: pier() },
  { name: 'Stair', colour: '#bdb49b', mesh: stair() },
  { name: 'Stair rail', colour: '#7d9490', mesh: stairRail() },
  { name: 'Bollards', colour: '#5f7576', mesh: bollards() },
  { name: 'Lamp posts', colour: '#86a09d', mesh: lampPosts() },
  { name: 'Winch house', colour: '#a9bfb4', mesh: houseWalls() },
  { name: 'Winch house roof', colour: '#5f7a70', mesh: houseRoof() },
  { name: 'Winch', colour: '#56706e', mesh: winch() },
  { name: 'Work raft', colour: '#d3ccb8', mesh: raft() },
  { name: 'Cleat', colour: '#6e8081', mesh: cleat() },
  { name: 'Crate', colour: '#a99a74', mesh: crate() },
  { name: 'Buoy', colour: '#d8902f', mesh: buoy() },
];
