import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { roundSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { arcPlaces, lathe } from '../elements/solids.js';
import type { ChainKind } from './kinds.js';

/** The halves of a rod lap by this much, so that a bend opens no gap between them. */
const LAP = 0.05;

/** A ball of radius 1 with the half of each rod beside it: z along the chain. @param rod thickness of the rod, in radii */
export function bead({ pitch }: ChainKind, rod: number, sides: number): Mesh {
  const round = Math.max(6, sides);
  const upright = lathe(arcPlaces(0, 1, -Math.PI / 2, Math.PI / 2, Math.max(4, round >> 1)), round, Math.PI);
  // y goes to z, z to −y
  const ball = transformMesh(upright, Float64Array.of(1, 0, 0, 0, 0, 0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1));
  const straight = sweep(singleCurve([0, 0, -pitch - LAP, 0, 0, pitch + LAP]), roundSection(Math.max(6, sides >> 1)), {
    radius: rod,
  });
  return mergeMeshes([ball, { ...straight, groups: [{ start: 0, count: straight.index.length, slot: 'joints' }] }]);
}
