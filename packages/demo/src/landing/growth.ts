import { type AnchorPick, newUse } from '@kelp/core';
import type { Farm } from '../farm.js';
import { PILING, PILINGS } from './things.js';

/** Heights at which weed has grown from one piling to the next, and how far round each it begins. */
const HEIGHTS = [
  [0.8, 0.86, 0.35],
  [0.71, 0.66, -0.3],
  [0.57, 0.62, 0.1],
  [0.47, 0.42, -0.25],
  [0.36, 0.33, 0.3],
] as const;

/** Places on both pilings, one after the other: as picked they are joined to and fro. */
function between(farm: Farm, a: number, b: number): AnchorPick[] {
  const [from, to] = [PILINGS[a], PILINGS[b]];
  const way = Math.atan2(to[2] - from[2], to[0] - from[0]);
  const on = (k: number, height: number, turn: number, id: string): AnchorPick => {
    const at = PILINGS[k];
    const angle = (k === a ? way : way + Math.PI) + turn;
    const { position, anchor } = farm.near('pilings', [
      at[0] + PILING.radius * Math.cos(angle),
      height,
      at[2] + PILING.radius * Math.sin(angle),
    ]);
    return { on: 'place', id, position, anchor };
  };
  return HEIGHTS.flatMap(([left, right, turn], k) => [
    on(a, left, turn, `left-${k}`),
    on(b, right, -turn, `right-${k}`),
  ]);
}

function growth(farm: Farm, name: string, a: number, b: number, preset: string, colour: string, more: object): void {
  const path = newUse('path', 'strung');
  Object.assign(path.parameters, { anchors: between(farm, a, b), slack: { least: 0.03, most: 0.14 }, seed: 3 });
  farm.along(name, path, [], {}, { colour, roughness: 0.35 });
  const piece = farm.document.pieces[farm.document.pieces.length - 1];
  piece.make = newUse('make', 'tendrils', preset);
  Object.assign(piece.make.parameters, more);
}

/** Kelp grown from piling to piling: strands that can be distinguished between the first two, one skin between the others. */
export function pilingGrowth(farm: Farm): void {
  growth(farm, 'Kelp strands', 0, 1, 'slime', '#4a5a22', {
    radius: 0.006,
    sides: 8,
    drips: 7,
    dripLength: { least: 8, most: 34 },
  });
  growth(farm, 'Grown together', 1, 2, 'slime-skin', '#3d5a2b', { radius: 0.0065, drips: 5, cell: 1.15 });
}
