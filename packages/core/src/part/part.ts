import { pickCurves } from '../curve/carry.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import { type Bounds, boundsOf } from '../mesh/measure.js';
import {
  copyMesh,
  emptyMesh,
  type Mesh,
  mergeMeshes,
  meshBuffers,
  meshBytes,
  triangleCount,
  vertexCount,
} from '../mesh/mesh.js';
import { repeatMesh } from '../mesh/repeat.js';
import type { MeshPart, Part, Placements } from '../unit/carriers.js';
import { type PartCounts, strandCounts, strandMeshes } from './strand-meshes.js';

export type { PartCounts };

// Operations on parts of any kind: copying, counting, bounds, meshes.

/** The same part in memory of its own. */
export function copyPart(part: Part): Part {
  switch (part.kind) {
    case 'mesh':
      return {
        ...part,
        mesh: copyMesh(part.mesh),
        ...(part.elements
          ? { elements: { places: copyPlacements(part.elements.places), of: part.elements.of.slice() } }
          : {}),
      };
    case 'placed':
      return { ...part, mesh: copyMesh(part.mesh), places: copyPlacements(part.places) };
    case 'strands':
      return { ...part, curves: copyCurveSet(part.curves), width: part.width.slice() };
  }
}

/** The buffers of a part, for a transfer list. */
export function partBuffers(part: Part): ArrayBuffer[] {
  switch (part.kind) {
    case 'mesh':
      return [...meshBuffers(part.mesh), ...elementArrays(part).map((array) => array.buffer as ArrayBuffer)];
    case 'placed':
      return [...meshBuffers(part.mesh), ...placementArrays(part.places).map((array) => array.buffer as ArrayBuffer)];
    case 'strands':
      return [...curveArrays(part.curves), part.width].map((array) => array.buffer as ArrayBuffer);
  }
}

/** World box of a part; undefined where there is nothing of it. */
export function partBounds(part: Part): Bounds | undefined {
  switch (part.kind) {
    case 'mesh':
      return part.mesh.position.length > 0 ? boundsOf(part.mesh.position) : undefined;
    case 'placed':
      return placedBounds(part.mesh, part.places);
    case 'strands':
      return part.curves.position.length > 0 ? boundsOf(part.curves.position) : undefined;
  }
}

/** What a bake makes of the part, instances and strands made real. */
export function partCounts(part: Part): PartCounts {
  if (part.kind === 'strands') return strandCounts(part);
  const times = part.kind === 'placed' ? part.places.id.length : 1;
  return {
    triangles: times * triangleCount(part.mesh),
    vertices: times * vertexCount(part.mesh),
    bytes: times * meshBytes(part.mesh),
  };
}

/** The part as one mesh: instances made real, strands swept. A mesh part gives its own mesh, not a copy. */
export function realMesh(part: Part): Mesh {
  switch (part.kind) {
    case 'mesh':
      return part.mesh;
    case 'placed':
      return part.places.id.length > 0 ? repeatMesh(part.mesh, part.places.matrix, part.places.colour) : emptyMesh();
    case 'strands': {
      const all = [...strandMeshes(part)];
      return all.length > 0 ? mergeMeshes(all) : emptyMesh();
    }
  }
}

/** Strands of a thinned part are this many times as wide at most. */
const MAX_WIDENING = 3;

/** The part with only as many instances or strands as come to about this many triangles, evenly picked: for small pictures. */
export function lighter(part: Part, triangles: number): Part {
  const share = triangles / Math.max(1, partCounts(part).triangles);
  if (share >= 1 || part.kind === 'mesh') return part;
  const every = Math.ceil(1 / share);
  const some = (count: number) => Array.from({ length: Math.ceil(count / every) }, (_, i) => i * every);
  if (part.kind === 'placed') return { ...part, places: pickPlaces(part.places, some(part.places.id.length)) };
  const kept = some(curveCount(part.curves));
  const { start } = part.curves;
  // those that are left represent the others
  const wider = Math.min(MAX_WIDENING, every);
  const width = kept.flatMap((c) => Array.from(part.width.subarray(start[c], start[c + 1]), (value) => wider * value));
  return { ...part, curves: pickCurves(part.curves, kept), width: Float32Array.from(width) };
}

/** Some of the places, in the given order. */
export function pickPlaces({ id, matrix, along, curve, colour }: Placements, wanted: readonly number[]): Placements {
  const take = <T extends Float32Array | Uint32Array>(data: T, size: number): T => {
    const out = new (data.constructor as new (length: number) => T)(size * wanted.length);
    wanted.forEach((i, k) => {
      out.set(data.subarray(size * i, size * i + size), size * k);
    });
    return out;
  };
  return {
    id: take(id, 1),
    matrix: take(matrix, 16),
    along: take(along, 1),
    curve: take(curve, 1),
    ...(colour ? { colour: take(colour, 3) } : {}),
  };
}

/** The slots that a part wears, each once. */
export function slotsOf(part: Part): string[] {
  const groups = part.kind === 'strands' ? [] : part.mesh.groups;
  return [...new Set(groups.length > 0 ? groups.map(({ slot }) => slotOf(part, slot)) : [part.slot])];
}

/** A group that names no slot of its own wears the part's. */
export const slotOf = (part: Part, group: string): string => (group === 'main' ? part.slot : group);

/** The part with other texture coordinates: `change` gets those of its mesh. Strands get theirs when they are swept. */
export const withUv = (part: Part, change: (uv: Float32Array) => Float32Array): Part =>
  part.kind === 'strands' ? part : { ...part, mesh: { ...part.mesh, uv: change(part.mesh.uv) } };

function placedBounds(mesh: Mesh, { id, matrix }: Placements): Bounds | undefined {
  if (id.length === 0 || mesh.position.length === 0) return undefined;
  const { min, max } = boundsOf(mesh.position);
  const corners = new Float64Array(24 * id.length);
  for (let i = 0; i < id.length; i++)
    for (let corner = 0; corner < 8; corner++) {
      const [x, y, z] = [corner & 1 ? max[0] : min[0], corner & 2 ? max[1] : min[1], corner & 4 ? max[2] : min[2]];
      for (let k = 0; k < 3; k++) {
        const m = 16 * i + k;
        corners[24 * i + 3 * corner + k] = matrix[m] * x + matrix[m + 4] * y + matrix[m + 8] * z + matrix[m + 12];
      }
    }
  return boundsOf(corners);
}

const placementArrays = ({ id, matrix, along, curve, colour }: Placements) => [
  id,
  matrix,
  along,
  curve,
  ...(colour ? [colour] : []),
];

const elementArrays = ({ elements }: MeshPart) => (elements ? [...placementArrays(elements.places), elements.of] : []);

const copyPlacements = ({ id, matrix, along, curve, colour }: Placements): Placements => ({
  id: id.slice(),
  matrix: matrix.slice(),
  along: along.slice(),
  curve: curve.slice(),
  ...(colour ? { colour: colour.slice() } : {}),
});

const curveArrays = ({ start, position, closed, id, pointData, curveData }: CurveSet) => [
  start,
  position,
  closed,
  id,
  ...Object.values(pointData),
  ...Object.values(curveData),
];

function copyCurveSet({ start, position, closed, id, pointData, curveData }: CurveSet): CurveSet {
  const each = <T extends Float32Array | Uint32Array>(data: Record<string, T>) =>
    Object.fromEntries(Object.entries(data).map(([name, values]) => [name, values.slice() as T]));
  return {
    start: start.slice(),
    position: position.slice(),
    closed: closed.slice(),
    id: id.slice(),
    pointData: each(pointData),
    curveData: each(curveData),
  };
}
