import { KelpError } from '../errors.js';

/** A run of the index that wears one material slot. */
export interface MeshGroup {
  /** First index and how many, both multiples of 3. */
  start: number;
  count: number;
  slot: string;
}

/** This many numbers a vertex: 1 to 4. */
export interface MeshAttribute {
  size: number;
  data: Float32Array | Uint32Array;
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
  /** Further numbers by name: 'colour' (linear rgb or rgba), 'uv2', 'strand', 'level' … They go along wherever the mesh goes. */
  attributes?: Record<string, MeshAttribute>;
}

export const vertexCount = (mesh: Mesh): number => mesh.position.length / 3;
export const triangleCount = (mesh: Mesh): number => mesh.index.length / 3;
/** All arrays of a mesh, its attributes' too. */
const meshArrays = ({ position, normal, uv, index, attributes }: Mesh) => [
  position,
  normal,
  uv,
  index,
  ...Object.values(attributes ?? {}).map(({ data }) => data),
];

export const meshBytes = (mesh: Mesh): number => meshArrays(mesh).reduce((sum, { byteLength }) => sum + byteLength, 0);

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
export const meshBuffers = (mesh: Mesh): ArrayBuffer[] => meshArrays(mesh).map((array) => array.buffer as ArrayBuffer);

export const copyMesh = (mesh: Mesh): Mesh => ({
  ...mesh,
  position: mesh.position.slice(),
  normal: mesh.normal.slice(),
  uv: mesh.uv.slice(),
  index: mesh.index.slice(),
  ...(mesh.attributes ? { attributes: copyAttributes(mesh.attributes) } : {}),
});

const copyAttributes = (attributes: NonNullable<Mesh['attributes']>): NonNullable<Mesh['attributes']> =>
  Object.fromEntries(Object.entries(attributes).map(([name, { size, data }]) => [name, { size, data: data.slice() }]));

/**
 * All meshes in one; quads stay first in it. Every group keeps its slot; an attribute that one mesh lacks is 0 there, a
 * colour 1.
 */
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
    const groups = mesh.groups.length > 0 ? mesh.groups : [{ start: 0, count: mesh.index.length, slot: 'main' }];
    for (const { start, count, slot } of groups) {
      const inQuads = Math.max(0, Math.min(start + count, quadIndices) - start);
      if (inQuads > 0) out.groups.push({ start: quadAt + start, count: inQuads, slot });
      if (count > inQuads)
        out.groups.push({ start: triangleAt + start + inQuads - quadIndices, count: count - inQuads, slot });
    }
    quadAt += quadIndices;
    triangleAt += mesh.index.length - quadIndices;
    vertex += vertexCount(mesh);
  }
  const attributes = mergedAttributes(meshes, vertices);
  return attributes ? { ...out, attributes } : out;
}

function mergedAttributes(meshes: readonly Mesh[], vertices: number): Mesh['attributes'] {
  const out: NonNullable<Mesh['attributes']> = {};
  for (const { attributes } of meshes)
    for (const [name, { size, data }] of Object.entries(attributes ?? {})) {
      const wider = out[name] && out[name].size >= size;
      if (!wider)
        out[name] = {
          size,
          data: data instanceof Uint32Array ? new Uint32Array(size * vertices) : new Float32Array(size * vertices),
        };
    }
  for (const [name, { size, data }] of Object.entries(out)) {
    if (name === 'colour') data.fill(1);
    let vertex = 0;
    for (const mesh of meshes) {
      const own = mesh.attributes?.[name];
      for (let v = 0; own && v < vertexCount(mesh); v++)
        for (let k = 0; k < own.size; k++) data[size * (vertex + v) + k] = own.data[own.size * v + k];
      vertex += vertexCount(mesh);
    }
  }
  return Object.keys(out).length > 0 ? out : undefined;
}

/**
 * The triangles of some groups as a mesh of their own, with the vertices they use, in their order; a group without a
 * slot of its own is asked for as 'main'. Gives the mesh itself where all its groups are wanted.
 */
export function groupsOf(mesh: Mesh, wanted: (slot: string) => boolean): Mesh {
  if (mesh.groups.every(({ slot }) => wanted(slot))) return mesh;
  const kept = mesh.groups.filter(({ slot }) => wanted(slot)).sort((a, b) => a.start - b.start);
  const index = new Uint32Array(kept.reduce((sum, { count }) => sum + count, 0));
  const groups: MeshGroup[] = [];
  let to = 0;
  let quads = 0;
  for (const { start, count, slot } of kept) {
    groups.push({ start: to, count, slot });
    quads += Math.max(0, Math.min(start + count, 6 * mesh.quads) - start) / 6;
    index.set(mesh.index.subarray(start, start + count), to);
    to += count;
  }
  return onlyUsed({ ...mesh, index, quads, groups });
}

/** The mesh without the vertices that no triangle uses; the others in the order of their use. */
export function onlyUsed(mesh: Mesh): Mesh {
  const number = new Int32Array(vertexCount(mesh)).fill(-1);
  const order: number[] = [];
  const index = mesh.index.map((v) => {
    if (number[v] < 0) number[v] = order.push(v) - 1;
    return number[v];
  });
  const take = <T extends Float32Array | Uint32Array>(data: T, size: number): T => {
    const out = data.slice(0, size * order.length) as T;
    order.forEach((v, i) => {
      for (let k = 0; k < size; k++) out[size * i + k] = data[size * v + k];
    });
    return out;
  };
  const attributes = Object.entries(mesh.attributes ?? {}).map(([name, { size, data }]) => [
    name,
    { size, data: take(data, size) },
  ]);
  return {
    ...mesh,
    position: take(mesh.position, 3),
    normal: take(mesh.normal, 3),
    uv: take(mesh.uv, 2),
    index,
    ...(attributes.length > 0 ? { attributes: Object.fromEntries(attributes) } : {}),
  };
}

/**
 * Refuses a mesh that nothing can be drawn on, naming the place.
 * @throws KelpError EMPTY_MESH, BAD_SHAPE (an index beyond the vertices), BAD_NUMBER (NaN or infinite coordinate)
 */
export function checkMesh(mesh: Mesh, name: string): void {
  if (mesh.position.length === 0) throw new KelpError('EMPTY_MESH', `${name} has no vertices`);
  if (mesh.index.length === 0)
    throw new KelpError('EMPTY_MESH', `${name} has no faces: lines and point clouds cannot be drawn on`);
  const vertices = vertexCount(mesh);
  for (let i = 0; i < mesh.index.length; i++)
    if (mesh.index[i] >= vertices)
      throw new KelpError(
        'BAD_SHAPE',
        `${name}: face ${Math.floor(i / 3)} refers to vertex ${mesh.index[i]} of ${vertices}`,
      );
  for (let i = 0; i < mesh.position.length; i++)
    if (!Number.isFinite(mesh.position[i]))
      throw new KelpError(
        'BAD_NUMBER',
        `${name}: vertex ${Math.floor(i / 3)} has ${mesh.position[i]} for ${'xyz'[i % 3]}`,
      );
}
