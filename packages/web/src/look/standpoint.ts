import type { Mesh } from '@kelp/core';
import { Vector3 } from 'three';

/** Where the camera stands: a place and the middle of what it looks at. */
export interface Standpoint {
  eye: Vector3;
  at: Vector3;
}

/** Angle of view from top to bottom, degrees. */
export const FOV = 24;

/** This much more than it fills is seen of it. */
const MARGIN = 1.06;

/** A standpoint from which all of the meshes fills a picture of that shape, seen against direction `from`. */
export function standpointFor(meshes: readonly Mesh[], from: Vector3, aspect: number): Standpoint {
  const back = from.clone().normalize();
  const right = new Vector3(0, 1, 0).cross(back).normalize();
  const up = back.clone().cross(right);
  const axes = [right, up, back];
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const { position } of meshes)
    for (let i = 0; i < position.length; i += 3)
      for (let k = 0; k < 3; k++) {
        const { x, y, z } = axes[k];
        const along = x * position[i] + y * position[i + 1] + z * position[i + 2];
        if (along < low[k]) low[k] = along;
        if (along > high[k]) high[k] = along;
      }
  const [mx, my, mz] = low.map((value, k) => (Number.isFinite(value) ? (value + high[k]) / 2 : 0));
  const tall = Math.tan((FOV * Math.PI) / 360);
  const wide = tall * aspect;
  let far = 0;
  for (const { position } of meshes)
    for (let i = 0; i < position.length; i += 3) {
      const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
      const across = Math.abs(right.x * x + right.y * y + right.z * z - mx) / wide;
      const over = Math.abs(up.x * x + up.y * y + up.z * z - my) / tall;
      const near = back.x * x + back.y * y + back.z * z - mz;
      const needed = MARGIN * Math.max(across, over) + near;
      if (needed > far) far = needed;
    }
  const at = new Vector3().addScaledVector(right, mx).addScaledVector(up, my).addScaledVector(back, mz);
  return { eye: at.clone().addScaledVector(back, far || 1), at };
}

/** Thinner than this share of the height, a thing's section cannot be recognised in a picture; close up it fills this much. */
const THIN = 0.09;
const CLOSE = 0.22;

/**
 * From the same side, so near to a place that a thing so thick there can be judged; undefined where the whole shows it well
 * enough.
 */
export function closeUpOf({ eye, at }: Standpoint, place: Vector3, thickness: number): Standpoint | undefined {
  const back = eye.clone().sub(at);
  const height = 2 * back.length() * Math.tan((FOV * Math.PI) / 360);
  const share = thickness / height;
  if (!(share > 0) || share >= THIN) return undefined;
  return { eye: place.clone().addScaledVector(back, share / CLOSE), at: place };
}
