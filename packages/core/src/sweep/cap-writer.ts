import type { Mesh } from '../mesh/mesh.js';
import type { Section } from '../section/section.js';

// What all ends of a swept body are written with.

export interface CapWriter {
  mesh: Mesh;
  section: Section;
  /** Next free vertex and places in the index; quads stand before triangles. */
  vertex: number;
  quadAt: number;
  triangleAt: number;
}

export interface EndRing {
  center: [number, number, number];
  /** Unit direction of travel. */
  axis: [number, number, number];
  v: number;
}

/** One quad from a column and the next to the ring behind them. */
export function putQuad(writer: CapWriter, i: number, columns: number, out: 1 | -1): void {
  const j = i + columns;
  writer.mesh.index.set(out > 0 ? [i, i + 1, j + 1, i, j + 1, j] : [i, j, j + 1, i, j + 1, i + 1], writer.quadAt);
  writer.quadAt += 6;
}

/** How far the places of a ring lie from its middle at most. */
export function reachOf({ mesh: { position }, section }: CapWriter, ringAt: number, center: EndRing['center']): number {
  let reach = 0;
  for (let i = 3 * ringAt; i < 3 * (ringAt + section.x.length); i += 3)
    reach = Math.max(
      reach,
      Math.hypot(position[i] - center[0], position[i + 1] - center[1], position[i + 2] - center[2]),
    );
  return reach;
}

/** The normals of a ring's columns within its own plane. */
export function sideNormals({ mesh, section }: CapWriter, ringAt: number, axis: EndRing['axis']): Float64Array {
  const sides = new Float64Array(3 * section.x.length);
  for (let k = 0; k < sides.length; k += 3) {
    const normal = mesh.normal.subarray(3 * ringAt + k, 3 * ringAt + k + 3);
    const flat = normal[0] * axis[0] + normal[1] * axis[1] + normal[2] * axis[2];
    const level = [0, 1, 2].map((n) => normal[n] - flat * axis[n]);
    const size = Math.hypot(...level) || 1;
    for (let n = 0; n < 3; n++) sides[k + n] = level[n] / size;
  }
  return sides;
}
