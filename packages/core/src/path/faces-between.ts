import { faceNormals } from '../mesh/edges.js';
import { propSpace } from '../surface/prop-space.js';
import type { Surface } from '../surface/surface.js';

/** Triangles whose outside looks between two angles from straight up, radians. */
export function facesBetween(surface: Surface, from: number, to: number): number[] {
  const count = surface.mesh.index.length / 3;
  if (from <= 0 && to >= Math.PI) return Array.from({ length: count }, (_, k) => k);
  const up = propSpace(surface).toMesh([0, 1, 0]);
  const normals = faceNormals(surface.mesh);
  const [most, least] = [Math.cos(from), Math.cos(to)];
  return Array.from({ length: count }, (_, k) => k).filter((k) => {
    const cos = normals[3 * k] * up[0] + normals[3 * k + 1] * up[1] + normals[3 * k + 2] * up[2];
    return cos <= most + 1e-9 && cos >= least - 1e-9;
  });
}
