import { boundsOf } from '../../mesh/measure.js';
import { type Mesh, triangleCount } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { propMesh } from '../../part/prop-mesh.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { Finding } from '../../unit/finding.js';

/** More faces than these in one element are reported: each of many has as many. */
const MANY_FACES = 100_000;

/** A prop as an element; undefined where there is none, or none with faces. */
export function propElement(id: string, surroundings: Surroundings): Mesh | undefined {
  const surface = id ? surroundings.surface(id) : undefined;
  return surface && surface.mesh.index.length > 0 ? propMesh(surface) : undefined;
}

/** What is wrong with a prop as an element. */
export function reportElement(id: string, mesh: Mesh | undefined, report: (finding: Finding) => void): void {
  if (!mesh)
    report({
      code: 'part-missing',
      severity: 'error',
      message: id
        ? 'The prop of this part is missing, hidden or empty: a built-in part is used. Choose another prop.'
        : 'No prop is chosen: a built-in part is used. Choose a prop.',
    });
  else if (triangleCount(mesh) > MANY_FACES)
    report({
      code: 'part-heavy',
      severity: 'warning',
      message: `Each part has ${triangleCount(mesh).toLocaleString('en')} triangles: drawn as instances, but a bake makes all of them. Use a simpler prop.`,
      size: { value: triangleCount(mesh), limit: MANY_FACES, kind: 'count' },
    });
}

/** Its longest side along z, the shortest along y, its middle at the origin, half its breadth 1. */
export function laidAlong(mesh: Mesh): Mesh {
  const { min, max } = boundsOf(mesh.position);
  const size = max.map((value, k) => value - min[k]);
  const order = [0, 1, 2].sort((a, b) => size[a] - size[b] || b - a);
  const [low, broad, long] = order;
  const scale = 2 / (size[broad] || size[long] || 1);
  const m = new Float64Array(16);
  // an odd change of axes would mirror it
  const odd = (low + 1) % 3 !== long && (broad + 1) % 3 !== low;
  m[4 * broad] = odd ? -scale : scale;
  m[4 * low + 1] = scale;
  m[4 * long + 2] = scale;
  for (const [axis, row] of [
    [broad, 0],
    [low, 1],
    [long, 2],
  ] as const)
    m[12 + row] = (-m[4 * axis + row] * (min[axis] + max[axis])) / 2;
  m[15] = 1;
  return transformMesh(mesh, m);
}
