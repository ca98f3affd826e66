import type { Mesh } from './mesh.js';

/**
 * Tangents for normal maps, as glTF 2.0 wants them (section 3.7.2.1): along growing texture u, square to the normal, and
 * in w the side on which the picture's own way up lies, cross(normal, tangent)·w; 4 numbers a vertex. Texture v grows
 * downwards in a picture. Of each face the direction of u follows from its places and texture coordinates
 * (E. Lengyel, "Computing tangent space basis vectors for an arbitrary mesh", from memory); a vertex has the sum of its
 * faces', larger faces counting more.
 */
export function tangentsOf({ position, normal, uv, index }: Mesh): Float32Array {
  const count = position.length / 3;
  const along = new Float64Array(3 * count);
  const up = new Float64Array(3 * count);
  for (let f = 0; f < index.length; f += 3) {
    const [a, b, c] = [index[f], index[f + 1], index[f + 2]];
    const [u1, v1] = [uv[2 * b] - uv[2 * a], uv[2 * b + 1] - uv[2 * a + 1]];
    const [u2, v2] = [uv[2 * c] - uv[2 * a], uv[2 * c + 1] - uv[2 * a + 1]];
    // its sign is all that is needed of it: how much a face counts follows from its size in space
    const turn = u1 * v2 - u2 * v1;
    if (turn === 0) continue;
    const side = Math.sign(turn);
    for (let k = 0; k < 3; k++) {
      const p = position[3 * b + k] - position[3 * a + k];
      const q = position[3 * c + k] - position[3 * a + k];
      const t = side * (p * v2 - q * v1);
      const s = side * (q * u1 - p * u2);
      for (const vertex of [a, b, c]) {
        along[3 * vertex + k] += t;
        up[3 * vertex + k] += s;
      }
    }
  }
  const out = new Float32Array(4 * count);
  for (let vertex = 0; vertex < count; vertex++) writeTangent(vertex, normal, along, up, out);
  return out;
}

function writeTangent(
  vertex: number,
  normal: Float32Array,
  along: Float64Array,
  up: Float64Array,
  out: Float32Array,
): void {
  const i = 3 * vertex;
  const [nx, ny, nz] = [normal[i], normal[i + 1], normal[i + 2]];
  const lean = nx * along[i] + ny * along[i + 1] + nz * along[i + 2];
  let t = [along[i] - lean * nx, along[i + 1] - lean * ny, along[i + 2] - lean * nz];
  let size = Math.hypot(...t);
  if (size < 1e-20) {
    // where the texture says nothing any direction square to the normal will do
    t = Math.abs(nx) < 0.9 ? [1 - nx * nx, -nx * ny, -nx * nz] : [-ny * nx, 1 - ny * ny, -ny * nz];
    size = Math.hypot(...t) || 1;
  }
  for (let k = 0; k < 3; k++) out[4 * vertex + k] = t[k] / size;
  const [x, y, z] = t;
  const side = (ny * z - nz * y) * up[i] + (nz * x - nx * z) * up[i + 1] + (nx * y - ny * x) * up[i + 2];
  out[4 * vertex + 3] = side > 0 ? -1 : 1;
}
