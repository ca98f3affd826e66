import type { Mesh } from './mesh.js';

/** Where a prop stands: moved, turned (unit quaternion xyzw) and scaled evenly. */
export interface Placement {
  position: [number, number, number];
  rotation: [number, number, number, number];
  scale: number;
}

export const HOME: Placement = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 };

export const isHome = ({ position, rotation, scale }: Placement): boolean =>
  scale === 1 && position.every((v) => v === 0) && rotation[3] === 1;

/** Column-major 4×4 of a placement. */
export function placementMatrix({ position, rotation: [x, y, z, w], scale: s }: Placement): Float64Array {
  return Float64Array.of(
    s * (1 - 2 * (y * y + z * z)),
    s * 2 * (x * y + z * w),
    s * 2 * (x * z - y * w),
    0,
    s * 2 * (x * y - z * w),
    s * (1 - 2 * (x * x + z * z)),
    s * 2 * (y * z + x * w),
    0,
    s * 2 * (x * z + y * w),
    s * 2 * (y * z - x * w),
    s * (1 - 2 * (x * x + y * y)),
    0,
    position[0],
    position[1],
    position[2],
    1,
  );
}

/**
 * The mesh with a column-major 4×4 applied, scales and mirrors included: normals by the inverse transpose, winding
 * turned where the matrix mirrors, so that fronts stay fronts.
 */
export function transformMesh(mesh: Mesh, m: ArrayLike<number>): Mesh {
  const position = new Float32Array(mesh.position.length);
  const normal = new Float32Array(mesh.normal.length);
  const mirrors = writeTransformed(mesh, m, 0, position, normal, 0);
  return { ...mesh, position, normal, index: mirrors ? flippedIndex(mesh.index) : mesh.index.slice() };
}

/**
 * Writes a mesh's places and normals with the 4×4 at `of` applied into those of another, from entry `to` on. Returns
 * whether the matrix mirrors: fronts are backs then.
 */
export function writeTransformed(
  { position: from, normal: normals }: Mesh,
  matrix: ArrayLike<number>,
  of: number,
  position: Float32Array,
  normal: Float32Array,
  to: number,
): boolean {
  const [a, b, c] = [matrix[of], matrix[of + 1], matrix[of + 2]];
  const [d, e, f] = [matrix[of + 4], matrix[of + 5], matrix[of + 6]];
  const [g, h, k] = [matrix[of + 8], matrix[of + 9], matrix[of + 10]];
  const [mx, my, mz] = [matrix[of + 12], matrix[of + 13], matrix[of + 14]];
  const determinant = a * (e * k - f * h) + b * (f * g - d * k) + c * (d * h - e * g);
  // cofactors: the inverse transpose up to the determinant, whose sign is all that matters after normalizing
  const sign = determinant < 0 ? -1 : 1;
  const [ax, ay, az] = [sign * (e * k - f * h), sign * (f * g - d * k), sign * (d * h - e * g)];
  const [bx, by, bz] = [sign * (c * h - b * k), sign * (a * k - c * g), sign * (b * g - a * h)];
  const [cx, cy, cz] = [sign * (b * f - c * e), sign * (c * d - a * f), sign * (a * e - b * d)];
  for (let i = 0, o = to; i < from.length; i += 3, o += 3) {
    const x = from[i];
    const y = from[i + 1];
    const z = from[i + 2];
    position[o] = a * x + d * y + g * z + mx;
    position[o + 1] = b * x + e * y + h * z + my;
    position[o + 2] = c * x + f * y + k * z + mz;
    const nx = normals[i];
    const ny = normals[i + 1];
    const nz = normals[i + 2];
    const px = ax * nx + bx * ny + cx * nz;
    const py = ay * nx + by * ny + cy * nz;
    const pz = az * nx + bz * ny + cz * nz;
    const size = 1 / (Math.sqrt(px * px + py * py + pz * pz) || 1);
    normal[o] = px * size;
    normal[o + 1] = py * size;
    normal[o + 2] = pz * size;
  }
  return determinant < 0;
}

/** Inside turned out: winding and normals reversed. */
export function flipMesh(mesh: Mesh): Mesh {
  return { ...mesh, normal: mesh.normal.map((value) => -value), index: flippedIndex(mesh.index) };
}

function flippedIndex(index: Uint32Array): Uint32Array {
  const out = index.slice();
  for (let i = 0; i < out.length; i += 3) {
    out[i + 1] = index[i + 2];
    out[i + 2] = index[i + 1];
  }
  return out;
}
