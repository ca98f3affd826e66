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
  // cofactors: the inverse transpose up to the determinant, whose sign is all that matters after normalizing
  const cof = [
    m[5] * m[10] - m[6] * m[9],
    m[6] * m[8] - m[4] * m[10],
    m[4] * m[9] - m[5] * m[8],
    m[2] * m[9] - m[1] * m[10],
    m[0] * m[10] - m[2] * m[8],
    m[1] * m[8] - m[0] * m[9],
    m[1] * m[6] - m[2] * m[5],
    m[2] * m[4] - m[0] * m[6],
    m[0] * m[5] - m[1] * m[4],
  ];
  const determinant = m[0] * cof[0] + m[1] * cof[1] + m[2] * cof[2];
  const sign = determinant < 0 ? -1 : 1;
  for (let i = 0; i < position.length; i += 3) {
    const [x, y, z] = [mesh.position[i], mesh.position[i + 1], mesh.position[i + 2]];
    position[i] = m[0] * x + m[4] * y + m[8] * z + m[12];
    position[i + 1] = m[1] * x + m[5] * y + m[9] * z + m[13];
    position[i + 2] = m[2] * x + m[6] * y + m[10] * z + m[14];
    const [nx, ny, nz] = [mesh.normal[i], mesh.normal[i + 1], mesh.normal[i + 2]];
    const px = sign * (cof[0] * nx + cof[3] * ny + cof[6] * nz);
    const py = sign * (cof[1] * nx + cof[4] * ny + cof[7] * nz);
    const pz = sign * (cof[2] * nx + cof[5] * ny + cof[8] * nz);
    const size = Math.hypot(px, py, pz) || 1;
    normal[i] = px / size;
    normal[i + 1] = py / size;
    normal[i + 2] = pz / size;
  }
  return { ...mesh, position, normal, index: determinant < 0 ? flippedIndex(mesh.index) : mesh.index.slice() };
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
