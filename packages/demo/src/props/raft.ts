import type { Mesh } from '@kelp/core';
import { CRATE, RAFT, RAFT_CLEAT } from './places.js';
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
