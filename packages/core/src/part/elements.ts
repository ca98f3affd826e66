import type { ElementEdit } from '../document/document.js';
import { boundsOf } from '../mesh/measure.js';
import { type Mesh, onlyUsed } from '../mesh/mesh.js';
import { transformMesh } from '../mesh/transform.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Made, MeshPart, Part, PlacedPart, Placements } from '../unit/carriers.js';
import { pickPlaces } from './part.js';
import { propMesh } from './prop-mesh.js';

type Edits = ReadonlyMap<number, ElementEdit>;

/** Where a part's single elements stand, if it has some. */
export function placesOf(part: Part): Placements | undefined {
  return part.kind === 'placed' ? part.places : part.kind === 'mesh' ? part.elements?.places : undefined;
}

/** What was done by hand to single elements: dropped, moved, turned, sized, or a prop put in their place. Others stay. */
export function withElements(made: Made, edits: Edits, props: Surroundings): Made {
  if (edits.size === 0 || !made.parts.some(placesOf)) return made;
  return {
    ...made,
    parts: made.parts.flatMap((part) => {
      if (part.kind === 'placed') return editedPlaced(part, edits, props);
      return part.kind === 'mesh' && part.elements ? editedMesh(part, part.elements, edits, props) : [part];
    }),
  };
}

/** The prop in an element's place, if there is one. */
const propFor = (edit: ElementEdit | undefined, props: Surroundings): string =>
  edit?.prop && props.surface(edit.prop) ? edit.prop : '';

/** The matrices of all elements as they were moved, turned and sized. */
function movedMatrices({ id, matrix }: Placements, edits: Edits): Float32Array {
  const out = matrix.slice();
  id.forEach((own, i) => {
    const { move, turn = 0, size = 1 } = edits.get(own) ?? {};
    turnAboutUp(out, 16 * i, turn);
    for (let k = 0; k < 12; k++) if (k % 4 < 3) out[16 * i + k] *= size;
    for (let k = 0; k < 3; k++) out[16 * i + 12 + k] += move?.[k] ?? 0;
  });
  return out;
}

function editedPlaced(part: PlacedPart, edits: Edits, props: Surroundings): Part[] {
  const { places } = part;
  const standing = [...places.id.keys()].filter((i) => !edits.get(places.id[i])?.dropped);
  const moved = { ...places, matrix: movedMatrices(places, edits) };
  const meshOf = (i: number) => propFor(edits.get(places.id[i]), props);
  return [...new Set(['', ...standing.map(meshOf)])].map((prop): Part => {
    const picked = pickPlaces(
      moved,
      standing.filter((i) => meshOf(i) === prop),
    );
    const surface = prop ? props.surface(prop) : undefined;
    return surface
      ? { ...part, id: `${part.id} ${prop}`, mesh: inPlaceOf(propMesh(surface), part.mesh), places: picked }
      : { ...part, places: picked };
  });
}

/** Elements that have a shape of their own each: what belongs to one is moved as that one is. */
function editedMesh(
  part: MeshPart,
  { places, of }: NonNullable<MeshPart['elements']>,
  edits: Edits,
  props: Surroundings,
): Part[] {
  const { mesh } = part;
  const { id, matrix } = places;
  const changed = [...id.keys()].filter((i) => edits.has(id[i]));
  if (changed.length === 0) return [part];
  const moved = movedMatrices(places, edits);
  const change = new Map(
    changed.map((i) => [i, fromTo(matrix.subarray(16 * i, 16 * i + 16), moved.subarray(16 * i, 16 * i + 16))]),
  );
  const [position, normal] = [mesh.position.slice(), mesh.normal.slice()];
  of.forEach((i, v) => {
    const m = change.get(i);
    if (!m) return;
    const [x, y, z, nx, ny, nz] = [
      ...mesh.position.subarray(3 * v, 3 * v + 3),
      ...mesh.normal.subarray(3 * v, 3 * v + 3),
    ];
    // turned and sized alike to all sides: normals go the same way
    const size = Math.hypot(m[0], m[1], m[2]) || 1;
    for (let k = 0; k < 3; k++) {
      position[3 * v + k] = m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k];
      normal[3 * v + k] = (m[k] * nx + m[4 + k] * ny + m[8 + k] * nz) / size;
    }
  });
  const dropped = new Set(changed.filter((i) => edits.get(id[i])?.dropped));
  const propOf = (i: number) => (dropped.has(i) ? '' : propFor(edits.get(id[i]), props));
  const gone = new Set(changed.filter((i) => dropped.has(i) || propOf(i)));
  const standing = [...id.keys()].filter((i) => !gone.has(i));
  const now = { ...places, matrix: moved };
  const all = { ...mesh, position, normal };
  const left = gone.size > 0 ? elementsOnly(all, of, standing) : { mesh: all, of };
  const replaced = changed.flatMap((i): Part[] => {
    const surface = propOf(i) ? props.surface(propOf(i)) : undefined;
    if (!surface) return [];
    const own = transformMesh(elementsOnly(mesh, of, [i]).mesh, inverse(matrix.subarray(16 * i, 16 * i + 16)));
    return [
      {
        kind: 'placed',
        id: `${part.id} ${propOf(i)} ${id[i]}`,
        name: part.name,
        slot: part.slot,
        mesh: inPlaceOf(propMesh(surface), own),
        places: pickPlaces(now, [i]),
      },
    ];
  });
  return [{ ...part, mesh: left.mesh, elements: { places: pickPlaces(now, standing), of: left.of } }, ...replaced];
}

/** The faces and vertices of some elements, and which of those each vertex belongs to by its new number. */
function elementsOnly(mesh: Mesh, of: Uint32Array, wanted: readonly number[]): { mesh: Mesh; of: Uint32Array } {
  const number = new Map(wanted.map((i, k) => [i, k]));
  const index: number[] = [];
  let inQuads = 0;
  for (let i = 0; i < mesh.index.length; i += 3) {
    if (!number.has(of[mesh.index[i]])) continue;
    if (i < 6 * mesh.quads) inQuads++;
    index.push(mesh.index[i], mesh.index[i + 1], mesh.index[i + 2]);
  }
  const groups = [{ start: 0, count: index.length, slot: mesh.groups[0]?.slot ?? 'main' }];
  // goes along as one more number of each vertex
  const attributes = { ...mesh.attributes, [OF]: { size: 1, data: of } };
  const left = onlyUsed({ ...mesh, index: Uint32Array.from(index), quads: inQuads / 2, groups, attributes });
  const { [OF]: kept, ...others } = left.attributes ?? {};
  return {
    mesh: { ...left, attributes: mesh.attributes && others },
    of: Uint32Array.from(kept.data, (i) => number.get(i) ?? 0),
  };
}

const OF = 'element-of';

/** What takes one frame to another; columns of both are square to each other and as long as each other. */
function fromTo(from: Float32Array, to: Float32Array): Float64Array {
  const back = inverse(from);
  const out = new Float64Array(16);
  for (let c = 0; c < 4; c++)
    for (let r = 0; r < 4; r++) for (let k = 0; k < 4; k++) out[4 * c + r] += to[4 * k + r] * back[4 * c + k];
  return out;
}

/** Of a matrix whose columns are square to each other and as long as each other. */
function inverse(m: Float32Array): Float64Array {
  const out = new Float64Array(16);
  const square = m[0] ** 2 + m[1] ** 2 + m[2] ** 2 || 1;
  for (let r = 0; r < 3; r++) {
    for (let c = 0; c < 3; c++) out[4 * c + r] = m[4 * r + c] / square;
    for (let k = 0; k < 3; k++) out[12 + r] -= (m[4 * r + k] * m[12 + k]) / square;
  }
  out[15] = 1;
  return out;
}

/** Turns a matrix about its own y axis. */
function turnAboutUp(matrix: Float32Array, m: number, angle: number): void {
  if (angle === 0) return;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  for (let k = 0; k < 3; k++) {
    const [x, z] = [matrix[m + k], matrix[m + 8 + k]];
    matrix[m + k] = cos * x - sin * z;
    matrix[m + 8 + k] = cos * z + sin * x;
  }
}

/** As large as what it represents, on the same foot. */
function inPlaceOf(mesh: Mesh, old: Mesh): Mesh {
  const [own, there] = [boundsOf(mesh.position), boundsOf(old.position)];
  const sizeOf = ({ min, max }: typeof own) => Math.max(...max.map((value, k) => value - min[k])) || 1;
  const scale = sizeOf(there) / sizeOf(own);
  const foot = ({ min, max }: typeof own) => [(min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2];
  const [from, to] = [foot(own), foot(there)];
  const shift = to.map((value, k) => value - scale * from[k]);
  return transformMesh(mesh, Float64Array.of(scale, 0, 0, 0, 0, scale, 0, 0, 0, 0, scale, 0, ...shift, 1));
}
