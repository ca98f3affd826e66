import { placementMatrix } from '../mesh/transform.js';
import type { Surface } from './surface.js';

/** Puts places and directions of a prop's mesh where the prop stands. */
export function propSpace({ placement }: Surface) {
  const m = placementMatrix(placement);
  return {
    scale: placement.scale,
    toWorld(x: number, y: number, z: number, out: { [index: number]: number }, at: number): void {
      for (let n = 0; n < 3; n++) out[at + n] = m[n] * x + m[4 + n] * y + m[8 + n] * z + m[12 + n];
    },
    /** Unit direction of the world, seen from the mesh. */
    toMesh(direction: readonly number[]): [number, number, number] {
      const along = (column: number) =>
        (m[column] * direction[0] + m[column + 1] * direction[1] + m[column + 2] * direction[2]) / placement.scale;
      return [along(0), along(4), along(8)];
    },
  };
}
