import type { Mesh } from './mesh.js';

/** Volume enclosed, m³: sum of signed tetrahedra (divergence theorem). Negative when the mesh is inside out. */
export function signedVolume({ position: p, index }: Pick<Mesh, 'position' | 'index'>): number {
  if (index.length === 0) return 0;
  // relative to a vertex of the mesh, so that a mesh far from the origin keeps its digits
  const [ox, oy, oz] = [p[3 * index[0]], p[3 * index[0] + 1], p[3 * index[0] + 2]];
  let sum = 0;
  for (let i = 0; i < index.length; i += 3) {
    const a = 3 * index[i];
    const b = 3 * index[i + 1];
    const c = 3 * index[i + 2];
    const ax = p[a] - ox;
    const ay = p[a + 1] - oy;
    const az = p[a + 2] - oz;
    const bx = p[b] - ox;
    const by = p[b + 1] - oy;
    const bz = p[b + 2] - oz;
    const cx = p[c] - ox;
    const cy = p[c + 1] - oy;
    const cz = p[c + 2] - oz;
    sum += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return sum / 6;
}

/** Surface area, m². */
export function surfaceArea({ position: p, index }: Pick<Mesh, 'position' | 'index'>): number {
  let sum = 0;
  for (let i = 0; i < index.length; i += 3) {
    const a = 3 * index[i];
    const b = 3 * index[i + 1];
    const c = 3 * index[i + 2];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    sum += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
  }
  return sum / 2;
}

/** Axis-aligned box of flat xyz. Empty input gives a box of size 0 at the origin. */
export interface Bounds {
  min: [number, number, number];
  max: [number, number, number];
}

export function boundsOf(position: ArrayLike<number>): Bounds {
  if (position.length === 0) return { min: [0, 0, 0], max: [0, 0, 0] };
  let [ax, ay, az] = [Infinity, Infinity, Infinity];
  let [bx, by, bz] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < position.length; i += 3) {
    const x = position[i];
    const y = position[i + 1];
    const z = position[i + 2];
    if (x < ax) ax = x;
    if (x > bx) bx = x;
    if (y < ay) ay = y;
    if (y > by) by = y;
    if (z < az) az = z;
    if (z > bz) bz = z;
  }
  return { min: [ax, ay, az], max: [bx, by, bz] };
}

export const boundsSize = ({ min, max }: Bounds): number =>
  Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]);
