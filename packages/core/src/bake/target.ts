import type { CurveSet } from '../curve/curve-set.js';
import { type Mesh, vertexCount } from '../mesh/mesh.js';
import { transformMesh } from '../mesh/transform.js';
import type { Placements, StrandsPart } from '../unit/carriers.js';
import { type BakeSettings, PER_METRE } from './settings.js';

/** The way from Kelp's world, metres, +Y up, right-handed, to that of a target. */
export interface Target {
  /** Column-major 4×4. */
  matrix: Float64Array;
  /** Its lengths are this many times Kelp's. */
  scale: number;
}

/**
 * Where a target has the world differently; undefined where it has it as Kelp does. With z up what was in front (+z) is at
 * −y; a left-handed world has front and back changed over.
 */
export function targetOf({ unit, up, hand }: Pick<BakeSettings, 'unit' | 'up' | 'hand'>): Target | undefined {
  const scale = PER_METRE[unit];
  if (scale === 1 && up === 'y' && hand === 'right') return undefined;
  const front = hand === 'left' ? -scale : scale;
  const matrix = new Float64Array(16);
  matrix[0] = scale;
  matrix[15] = 1;
  if (up === 'y') {
    matrix[5] = scale;
    matrix[10] = front;
  } else {
    matrix[6] = scale;
    matrix[9] = -front;
  }
  return { matrix, scale };
}

export const meshTo = (target: Target | undefined, mesh: Mesh): Mesh =>
  target && vertexCount(mesh) > 0 ? transformMesh(mesh, target.matrix) : mesh;

/** Curves in a target's world; what they carry is left as it is. */
export function curvesTo(target: Target | undefined, curves: CurveSet): CurveSet {
  if (!target) return curves;
  const { matrix: m } = target;
  const { position } = curves;
  const moved = position.slice();
  for (let i = 0; i < moved.length; i += 3)
    for (let k = 0; k < 3; k++)
      moved[i + k] = m[k] * position[i] + m[4 + k] * position[i + 1] + m[8 + k] * position[i + 2];
  return { ...curves, position: moved };
}

/** Strands in a target's world. */
export const strandsTo = (target: Target | undefined, strands: StrandsPart): StrandsPart =>
  target
    ? {
        ...strands,
        curves: curvesTo(target, strands.curves),
        width: strands.width.map((width) => target.scale * width),
      }
    : strands;

/** Places in a target's world, of a mesh that is brought there itself: each is turned round from one world to the other. */
export function placesTo(target: Target | undefined, places: Placements): Placements {
  if (!target) return places;
  const { matrix: t, scale } = target;
  const matrix = new Float32Array(places.matrix.length);
  for (let p = 0; p < matrix.length; p += 16) {
    const own = places.matrix.subarray(p, p + 16);
    // t · own · t⁻¹: t turns and scales evenly, so its inverse is its transpose by the square of its scale
    for (let c = 0; c < 3; c++)
      for (let r = 0; r < 3; r++) {
        let sum = 0;
        for (let a = 0; a < 3; a++) for (let b = 0; b < 3; b++) sum += t[4 * a + r] * own[4 * b + a] * t[4 * b + c];
        matrix[p + 4 * c + r] = sum / (scale * scale);
      }
    for (let r = 0; r < 3; r++) matrix[p + 12 + r] = t[r] * own[12] + t[4 + r] * own[13] + t[8 + r] * own[14];
    matrix[p + 15] = 1;
  }
  return { ...places, matrix };
}
