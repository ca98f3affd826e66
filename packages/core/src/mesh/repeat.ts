import { blankMesh, type Mesh, type MeshAttribute, vertexCount } from './mesh.js';
import { writeTransformed } from './transform.js';

/**
 * A mesh many times, each time with a matrix of its own, as one mesh; quads stay first in it.
 * @param matrices column-major 4×4 each
 * @param tints linear rgb each, multiplied into the colour of the vertices
 */
export function repeatMesh(mesh: Mesh, matrices: Float32Array, tints?: Float32Array): Mesh {
  const times = matrices.length / 16;
  const vertices = vertexCount(mesh);
  const out = blankMesh(times * vertices, times * mesh.index.length);
  out.quads = times * mesh.quads;
  const quadIndices = 6 * mesh.quads;
  const triangleIndices = mesh.index.length - quadIndices;
  for (let n = 0; n < times; n++) {
    const mirrors = writeTransformed(mesh, matrices, 16 * n, out.position, out.normal, 3 * vertices * n);
    out.uv.set(mesh.uv, 2 * vertices * n);
    writeIndex(mesh.index, 0, quadIndices, vertices * n, mirrors, out.index, quadIndices * n);
    const to = 6 * out.quads + triangleIndices * n;
    writeIndex(mesh.index, quadIndices, mesh.index.length, vertices * n, mirrors, out.index, to);
  }
  const groups = mesh.groups.length > 0 ? mesh.groups : [{ start: 0, count: mesh.index.length, slot: 'main' }];
  const alike = groups.every(({ slot }) => slot === groups[0].slot);
  if (alike && times > 0) out.groups.push({ start: 0, count: out.index.length, slot: groups[0].slot });
  else
    for (let n = 0; n < times; n++)
      for (const { start, count, slot } of groups) {
        const inQuads = Math.max(0, Math.min(start + count, quadIndices) - start);
        if (inQuads > 0) out.groups.push({ start: quadIndices * n + start, count: inQuads, slot });
        if (count === inQuads) continue;
        const from = 6 * out.quads + triangleIndices * n + start + inQuads - quadIndices;
        out.groups.push({ start: from, count: count - inQuads, slot });
      }
  const attributes = repeatedAttributes(mesh, times, tints);
  return attributes ? { ...out, attributes } : out;
}

/** Copies part of an index, this many vertices on; of what is mirrored each triangle is turned round. */
function writeIndex(
  from: Uint32Array,
  start: number,
  end: number,
  vertex: number,
  mirrors: boolean,
  out: Uint32Array,
  to: number,
): void {
  const [second, third] = mirrors ? [2, 1] : [1, 2];
  for (let i = start, o = to; i < end; i += 3, o += 3) {
    out[o] = from[i] + vertex;
    out[o + 1] = from[i + second] + vertex;
    out[o + 2] = from[i + third] + vertex;
  }
}

function repeatedAttributes(mesh: Mesh, times: number, tints: Float32Array | undefined): Mesh['attributes'] {
  const out: Record<string, MeshAttribute> = {};
  for (const [name, { size, data }] of Object.entries(mesh.attributes ?? {})) {
    const all =
      data instanceof Uint32Array ? new Uint32Array(times * data.length) : new Float32Array(times * data.length);
    for (let n = 0; n < times; n++) all.set(data, n * data.length);
    out[name] = { size, data: all };
  }
  if (tints) {
    const own = mesh.attributes?.['colour'];
    const data = new Float32Array(times * mesh.position.length);
    const step = own?.size ?? 3;
    for (let n = 0, o = 0; n < times; n++)
      for (let v = 0; v < vertexCount(mesh); v++, o += 3)
        for (let k = 0; k < 3; k++) data[o + k] = tints[3 * n + k] * (own ? own.data[step * v + k] : 1);
    out['colour'] = { size: 3, data };
  }
  return Object.keys(out).length > 0 ? out : undefined;
}
