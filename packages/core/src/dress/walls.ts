import { type Mesh, vertexCount } from '../mesh/mesh.js';
import { shellsOf } from '../mesh/shells.js';

/** The walls of a mesh, over which texture v runs by length; what closes their ends has another texture. */
export interface Walls {
  /** 1 for each vertex of a wall. */
  wall: Uint8Array;
  /** The shell that each vertex is of. */
  shells: Uint32Array;
  /** Where v begins and ends on the walls of each shell. */
  low: Float32Array;
  high: Float32Array;
}

/** Walls are quads; where there are none all of it is taken for a wall. */
export function wallsOf(mesh: Mesh): Walls {
  const { uv, index, quads } = mesh;
  const wall = new Uint8Array(vertexCount(mesh)).fill(quads > 0 ? 0 : 1);
  for (let i = 0; i < 6 * quads; i++) wall[index[i]] = 1;
  const { of: shells, count } = shellsOf(mesh);
  const low = new Float32Array(count).fill(Infinity);
  const high = new Float32Array(count).fill(-Infinity);
  wall.forEach((is, v) => {
    if (!is) return;
    low[shells[v]] = Math.min(low[shells[v]], uv[2 * v + 1]);
    high[shells[v]] = Math.max(high[shells[v]], uv[2 * v + 1]);
  });
  return { wall, shells, low, high };
}
