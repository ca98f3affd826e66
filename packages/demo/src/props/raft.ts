import type { Mesh } from '@kelp/core';
import { BOW_ROLLER, CRATE, RAFT, RAFT_CLEAT } from './places.js';
import { SolidBuilder } from './solid-builder.js';

export function raft(): Mesh {
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

export function cleat(): Mesh {
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

export function crate(): Mesh {
  const solid = new SolidBuilder();
  const {
    center: [x, y, z],
    size: [w, h, d],
  } = CRATE;
  solid.box([x, y - 0.01, z], [w, h, d], 0.05);
  return solid.finish();
}

/** Two cheeks with a roller between them on the raft's edge, and the lock that the chain comes out of. */
export function bowRoller(): Mesh {
  const solid = new SolidBuilder();
  const { at, high, radius, lock } = BOW_ROLLER;
  const [x, y, z] = at;
  for (const way of [-1, 1]) solid.box([x + way * 0.062, y - 0.004, z - 0.03], [0.014, 0.17, 0.24], 0.006);
  solid.box([x, y - high + 0.004, z - 0.08], [0.13, 0.012, 0.2], 0.003);
  solid.lathe([x, y, z], [[0, -0.053], [radius + 0.012, -0.053], [radius + 0.012, -0.044], [radius, -0.028], [radius, 0.028], [radius + 0.012, 0.044], [radius + 0.012, 0.053], [0, 0.053]], 40, 'x'); // biome-ignore format: a table of numbers
  solid.cylinder([x, y, z], 0.012, 0.16, 20, 'x', 0.003);
  solid.box([x, y - high + 0.04, lock - 0.02], [0.12, 0.08, 0.1], 0.008);
  return solid.finish(0.7);
}
