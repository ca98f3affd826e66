import { type DrawnPoint, newShape, newUse } from '@kelp/core';
import { type Farm, free } from './farm.js';
import { BOLLARD, CRATE, LAMP_ARM, LAMP_POSTS, PIER, PIER_BOLLARDS, RAFT, RAFT_CLEAT } from './props/places.js';

// Cables, hoses, lines and straps.

/** Thick, lying on the pier in easy bends, from Kelp to where it is plugged in. */
export function shorePower(farm: Farm): void {
  const way: [number, number][] = [
    [-2.28, 0.12],
    [-1.9, 0.42],
    [-1.2, 0.36],
    [-0.6, 0.02],
    [-0.1, -0.12],
    [0.25, 0.12],
    [0.3, 0.42],
    [0.05, 0.62],
    [-0.3, 0.5],
  ];
  farm.piece(
    'Shore power',
    way.map(([x, z]) => farm.on('pier', x, z)),
    [newShape('smooth', { over: 1.2 }), newShape('cling', { target: 'pier', ease: 2.5 })],
    { radius: 0.021, leastBend: 4 },
    { pattern: 'braid', colour: '#2c5349', roughness: 0.6, repeat: 0.03, around: 4, relief: 0.1 },
  );
}

/** Thin, hanging from the gable over both lamp arms. */
export function lampLine(farm: Farm): void {
  const tips = LAMP_POSTS.map(([x, y, z]) =>
    farm.near('lamp-posts', [x, y + LAMP_ARM.height + 1, z + LAMP_ARM.reach], 0.007),
  );
  const gable = farm.near('winch-house', [-2.2, PIER.deck + 1.62, -0.35], 0.007);
  farm.piece(
    'Lamp line',
    [gable, ...tips],
    [newShape('sag', { slack: 0.025 })],
    { radius: 0.006, sides: 10, leastBend: 1 },
    { colour: '#1d2a28', roughness: 0.6 },
  );
}

/** Wound once round a bollard, both ends lying on the deck. */
export function mooring(farm: Farm): void {
  const [bx, by, bz] = PIER_BOLLARDS[0];
  const radius = 0.014;
  const ring = BOLLARD.waist + radius + 0.0006;
  const lying = (dx: number, dz: number): DrawnPoint => free(bx + dx, by + radius, bz + dz);
  const points: DrawnPoint[] = [lying(1.02, 0.22), lying(0.72, 0.1), lying(0.44, -0.02)];
  // a full turn, climbing more than its own thickness
  for (let k = 0; k <= 16; k++) {
    const angle = Math.PI / 2 - 0.3 + (k / 16) * (2 * Math.PI + 0.6);
    points.push(free(bx + ring * Math.cos(angle), by + 0.11 + 0.0038 * k, bz + ring * Math.sin(angle)));
  }
  points.push(lying(-0.5, -0.06), lying(-0.8, -0.02), lying(-1.1, 0.16), lying(-1.4, 0.1));
  farm.piece(
    'Mooring line',
    points,
    [newShape('smooth', { over: 0.6 }), newShape('cling', { mode: 'off' })],
    { radius, sides: 14, leastBend: 3 },
    { colour: '#d8c38a', roughness: 0.8 },
  );
}

/** Ribbed, from the pier down to the raft with a loop of slack between them. */
export function bridgeHose(farm: Farm): void {
  farm.piece(
    'Bridge hose',
    [
      farm.on('pier', 0.55, -0.62),
      farm.on('pier', 0.95, -0.5),
      free(PIER.right + 0.12, PIER.deck - 0.02, -0.42),
      free(1.75, 0.42, -0.36),
      free(RAFT.left - 0.1, RAFT.deck + 0.02, -0.4),
      farm.on('work-raft', RAFT.left + 0.3, -0.5),
      farm.on('work-raft', 3.0, -0.72),
      farm.on('work-raft', 3.45, -0.66),
    ],
    [newShape('cling', { reach: 0.08, ease: 2 })],
    { radius: 0.034, section: 'polygon', sides: 9, twist: 1.6, leastBend: 2 },
    { colour: '#3f7486', roughness: 0.42 },
  );
}

/** Thin and bright, from the crate over the raft's edge down into the water. */
export function sensorLead(farm: Farm): void {
  const points = [
    farm.on('work-raft', 3.72, 0.16),
    farm.on('work-raft', 3.5, 0.42),
    farm.on('work-raft', 3.62, 0.74),
    farm.on('work-raft', 4.05, 0.86),
    farm.on('work-raft', 4.25, 1.08),
    farm.on('work-raft', 4.31, RAFT.front - 0.14),
    free(4.335, RAFT.deck + 0.022, RAFT.front - 0.04),
    free(4.345, RAFT.deck + 0.002, RAFT.front + 0.03),
    free(4.35, 0.36, RAFT.front + 0.07),
    free(4.355, 0.02, RAFT.front + 0.075),
    free(4.36, -0.55, RAFT.front + 0.075),
  ];
  farm.piece(
    'Sensor lead',
    points,
    [newShape('cling', { reach: 0.012, ease: 4 })],
    { radius: 0.0055, sides: 10, leastBend: 2 },
    { colour: '#d9772b', roughness: 0.45 },
  );
}

/** A flat strap drawn tight over the crate, down to the raft on both sides. */
export function crateStrap(farm: Farm): void {
  const {
    center: [cx, cy],
    size: [, h, d],
  } = CRATE;
  const [, , z] = CRATE.center;
  const top = cy + h / 2 - 0.01;
  const half = d / 2;
  const over = (y: number, dz: number): DrawnPoint => free(cx, y, z + dz);
  const side = [
    over(RAFT.deck + 0.004, half + 0.3),
    over(RAFT.deck + 0.16, half + 0.19),
    over(top - 0.1, half + 0.03),
    over(top - 0.03, half - 0.012),
    over(top + 0.002, half - 0.07),
    over(top + 0.003, half - 0.16),
  ];
  const points = [...side, ...side.toReversed().map((point) => over(point.position[1], 2 * z - point.position[2] - z))];
  farm.piece(
    'Crate strap',
    points,
    [
      newShape('cling', { mode: 'off', gap: 0.0005 }),
      newShape('smooth', { over: 4 }),
      newShape('cling', { mode: 'off', gap: 0.0005 }),
    ],
    { radius: 0.003, section: 'box', width: 9, rounding: 0.7, leastBend: 1.2 },
    { pattern: 'weave', colour: '#2f6e92', roughness: 0.8, repeat: 0.012, around: 10, tone: 0.4 },
  );
}

/** Thick, sagging from the cleat to the buoy's neck. */
export function buoyTether(farm: Farm): void {
  const [x, y, z] = RAFT_CLEAT;
  const cleatEnd = farm.near('cleat', [x, y + 0.115, z + 0.12], 0.012);
  const neck = farm.near('buoy', [3.7, 0.55, 2.4], 0.012);
  farm.piece(
    'Buoy tether',
    [cleatEnd, neck],
    [newShape('sag', { slack: 0.03, held: 'ends' })],
    { radius: 0.012, sides: 14, leastBend: 2 },
    { colour: '#8a5a3b', roughness: 0.75 },
  );
}

/** A wash-down hose, coiled flat on the deck in front of Kelp: each turn lies beside the one before. */
export function hoseCoil(farm: Farm): void {
  const radius = 0.019;
  const [turns, inner] = [5, 0.07];
  const path = newUse('path', 'helix');
  Object.assign(path.parameters, {
    at: [-2.76, PIER.deck + radius + 0.001, 0.5],
    height: 0,
    radius: inner,
    taper: 1 + (turns * 2.06 * radius) / inner,
    turns,
    offset: 0.6,
  });
  farm.along('Hose coil', path, [], { radius, sides: 16, leastBend: 2 }, { colour: '#b9783f', roughness: 0.55 });
}
