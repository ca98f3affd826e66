import { MeshoptSimplifier } from 'meshoptimizer/simplifier';
import { type Mesh, onlyUsed } from '../mesh/mesh.js';

/** What simplifies is compiled once; until then nothing can be made lighter by it. */
export const simplifierReady = (): Promise<void> => MeshoptSimplifier.ready;

/** A unit normal counts as much as this much of the error that is allowed, and texture as much as this. */
const NORMAL = 0.5;
const TEXTURE = 0.2;

/**
 * A mesh with fewer triangles: edges are collapsed where that moves the surface by no more than `within`, metres, until no
 * more than `triangles` are left (Garland and Heckbert, "Surface simplification using quadric error metrics", 1997, as the
 * meshoptimizer library has it). Vertices stay where they are. Quads become triangles.
 */
export function simplified(mesh: Mesh, within: number, triangles = 0): Mesh {
  const { index, position, normal, uv } = mesh;
  if (index.length === 0 || index.length <= 3 * triangles) return mesh;
  const count = position.length / 3;
  const attributes = new Float32Array(5 * count);
  for (let v = 0; v < count; v++) {
    attributes.set(normal.subarray(3 * v, 3 * v + 3), 5 * v);
    attributes.set(uv.subarray(2 * v, 2 * v + 2), 5 * v + 3);
  }
  const finite = Number.isFinite(within);
  // an absolute error is weighed against attributes by the size of the mesh: this far as an edge may move, a normal may turn
  const weight = finite ? within : 0.01 * MeshoptSimplifier.getScale(position, 3);
  const weights = [NORMAL, NORMAL, NORMAL, TEXTURE, TEXTURE].map((one) => one * weight);
  const [kept] = MeshoptSimplifier.simplifyWithAttributes(
    index,
    position,
    3,
    attributes,
    5,
    weights,
    null,
    3 * triangles,
    finite ? within : 1e9,
    ['ErrorAbsolute'],
  );
  if (kept.length === index.length) return mesh;
  return onlyUsed({ ...mesh, index: kept, quads: 0, groups: [{ start: 0, count: kept.length, slot: 'main' }] });
}
