import { boundsOf } from '../../mesh/measure.js';
import type { Mesh } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { laidAlong } from '../elements/prop-element.js';
import { OVER, TALL } from './teeth.js';

/** A prop as a tooth: its longest side across the middle, as thick as there is room. */
export function ownTooth(own: Mesh | undefined, pitch: number): Mesh | undefined {
  if (!own) return undefined;
  // laid along z, its breadth across x: turned so that its length lies along x
  const mesh = laidAlong(own);
  const { min, max } = boundsOf(mesh.position);
  const [broad, tall, long] = max.map((value, k) => value - min[k] || 1);
  const [x, y, z] = [(1 + OVER) / long, TALL / tall, (0.44 * pitch) / broad];
  return transformMesh(mesh, Float64Array.of(0, 0, -z, 0, 0, y, 0, 0, x, 0, 0, 0, (OVER - 1) / 2, TALL / 2, 0, 1));
}

/** A prop as a pull: it lies over the closed teeth. */
export function ownPull(own: Mesh | undefined, long: number): Mesh | undefined {
  if (!own) return undefined;
  const mesh = laidAlong(own);
  const { min, max } = boundsOf(mesh.position);
  const scale = long / (max[2] - min[2] || 1);
  const low = TALL + 0.5 + (scale * (max[1] - min[1])) / 2;
  return transformMesh(mesh, Float64Array.of(scale, 0, 0, 0, 0, scale, 0, 0, 0, 0, scale, 0, 0, low, -long / 2, 1));
}
