import type { Mesh } from '../mesh/mesh.js';
import { withComputedNormals } from '../mesh/normals.js';
import type { Surface } from '../surface/surface.js';

const known = new WeakMap<Surface['mesh'], Mesh>();

/** The mesh of a prop with normals, as it is modelled; the same each time, not to be changed. */
export function propMesh({ mesh }: Surface): Mesh {
  let made = known.get(mesh);
  if (!made) {
    made = withComputedNormals({
      position: mesh.position,
      index: mesh.index,
      normal: new Float32Array(mesh.position.length),
      uv: new Float32Array((2 * mesh.position.length) / 3),
      quads: 0,
      groups: [],
    });
    known.set(mesh, made);
  }
  return made;
}
