import { KelpError } from '../errors.js';

/** A run of the index that wears one material slot. */
export interface MeshGroup {
  /** First index and how many, both multiples of 3. */
  start: number;
  count: number;
  slot: string;
}

/**
 * Triangles with everything a renderer needs. Counter-clockwise fronts, metres, +Y up, texture v along the length.
 * The first `quads` pairs of triangles are quads (a, b, c) (a, c, d): a wireframe leaves out their shared edge a–c.
 */
export interface Mesh {
  position: Float32Array;
  normal: Float32Array;
  uv: Float32Array;
  index: Uint32Array;
  quads: number;
  groups: MeshGroup[];
}

export const vertexCount = (mesh: Mesh): number => mesh.position.length / 3;
export const triangleCount = (mesh: Mesh): number => mesh.index.length / 3;
export const meshBytes = (mesh: Mesh): number =>
  mesh.position.byteLength + mesh.normal.byteLength + mesh.uv.byteLength + mesh.index.byteLength;

/** A mesh to be filled. `old` gives its buffers where their sizes are the same; what they hold is not cleared. */
export const blankMesh = (vertices: number, indices: number, old?: Mesh): Mesh => ({
  position: old?.position.length === 3 * vertices ? old.position : new Float32Array(3 * vertices),
  normal: old?.normal.length === 3 * vertices ? old.normal : new Float32Array(3 * vertices),
  uv: old?.uv.length === 2 * vertices ? old.uv : new Float32Array(2 * vertices),
  index: old?.index.length === indices ? old.index : new Uint32Array(indices),
  quads: 0,
  groups: [],
});

export const emptyMesh = (): Mesh => blankMesh(0, 0);

/** The buffers of a mesh, for a transfer list. */
export const meshBuffers = (mesh: Mesh): ArrayBuffer[] =>
  [mesh.position, mesh.normal, mesh.uv, mesh.index].map((array) => array.buffer as ArrayBuffer);

export const copyMesh = (mesh: Mesh): Mesh => ({
  ...mesh,
  position: mesh.position.slice(),
  normal: mesh.normal.slice(),
  uv: mesh.uv.slice(),
  index: mesh.index.slice(),
});

/** All meshes in one; quads stay first in it. Groups are kept, one a source group. */
export function mergeMeshes(meshes: readonly Mesh[]): Mesh {
  if (meshes.length === 1) return meshes[0];
  const vertices = meshes.reduce((sum, mesh) => sum + vertexCount(mesh), 0);
  const indices = meshes.reduce((sum, mesh) => sum + mesh.index.length, 0);
  const out = blankMesh(vertices, indices);
  out.quads = meshes.reduce((sum, mesh) => sum + mesh.quads, 0);
  let vertex = 0;
  let quadAt = 0;
  let triangleAt = 6 * out.quads;
  for (const mesh of meshes) {
    out.position.set(mesh.position, 3 * vertex);
    out.normal.set(mesh.normal, 3 * vertex);
    out.uv.set(mesh.uv, 2 * vertex);
    const quadIndices = 6 * mesh.quads;
    for (let i = 0; i < quadIndices; i++) out.index[quadAt + i] = mesh.index[i] + vertex;
    for (let i = quadIndices; i < mesh.index.length; i++)
      out.index[triangleAt + i - quadIndices] = mesh.index[i] + vertex;
    const slot = mesh.groups[0]?.slot ?? 'main';
    if (quadIndices) out.groups.push({ start: quadAt, count: quadIndices, slot });
    if (mesh.index.length > quadIndices)
      out.groups.push({ start: triangleAt, count: mesh.index.length - quadIndices, slot });
    quadAt += quadIndices;
    triangleAt += mesh.index.length - quadIndices;
    vertex += vertexCount(mesh);
  }
  return out;
}

/**
 * Refuses a mesh that nothing can be drawn on, naming the place.
 * @throws KelpError EMPTY_MESH, BAD_SHAPE (an index beyond the vertices), BAD_NUMBER (NaN or infinite coordinate)
 */
export function checkMesh(mesh: Mesh, name: string): void {
  if (mesh.position.length === 0) throw new KelpError('EMPTY_MESH', `${name} has no vertices`);
  if (mesh.index.length === 0)
    throw new KelpError('EMPTY_MESH', `${name} has no faces: a line or a cloud of points cannot be drawn on`);
  const vertices = vertexCount(mesh);
  for (let i = 0; i < mesh.index.length; i++)
    if (mesh.index[i] >= vertices)
      throw new KelpError(
        'BAD_SHAPE',
        `${name}: face ${Math.floor(i / 3)} names vertex ${mesh.index[i]} of ${vertices}`,
      );
  for (let i = 0; i < mesh.position.length; i++)
    if (!Number.isFinite(mesh.position[i]))
      throw new KelpError(
        'BAD_NUMBER',
        `${name}: vertex ${Math.floor(i / 3)} has ${mesh.position[i]} for ${'xyz'[i % 3]}`,
      );
}
