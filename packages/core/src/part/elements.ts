import type { ElementEdit } from '../document/document.js';
import { boundsOf } from '../mesh/measure.js';
import type { Mesh } from '../mesh/mesh.js';
import { transformMesh } from '../mesh/transform.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Made, Part, PlacedPart } from '../unit/carriers.js';
import { pickPlaces } from './part.js';
import { propMesh } from './prop-mesh.js';

/** What was done by hand to single elements: dropped, moved, turned, sized, or a prop put in their place. Others stay. */
export function withElements(made: Made, edits: ReadonlyMap<number, ElementEdit>, props: Surroundings): Made {
  if (edits.size === 0 || !made.parts.some(({ kind }) => kind === 'placed')) return made;
  return {
    ...made,
    parts: made.parts.flatMap((part) => (part.kind === 'placed' ? edited(part, edits, props) : [part])),
  };
}

function edited(part: PlacedPart, edits: ReadonlyMap<number, ElementEdit>, props: Surroundings): Part[] {
  const { places } = part;
  const of = (i: number) => edits.get(places.id[i]);
  const standing = [...places.id.keys()].filter((i) => !of(i)?.dropped);
  const matrix = places.matrix.slice();
  for (const i of standing) {
    const { move, turn = 0, size = 1 } = of(i) ?? {};
    turnAboutUp(matrix, 16 * i, turn);
    for (let k = 0; k < 12; k++) if (k % 4 < 3) matrix[16 * i + k] *= size;
    for (let k = 0; k < 3; k++) matrix[16 * i + 12 + k] += move?.[k] ?? 0;
  }
  const moved = { ...places, matrix };
  const meshOf = (i: number) => {
    const prop = of(i)?.prop;
    return prop && props.surface(prop) ? prop : '';
  };
  const kinds = [...new Set(['', ...standing.map(meshOf)])];
  return kinds.map((prop): Part => {
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

/** As large as what it stands for, on the same foot. */
function inPlaceOf(mesh: Mesh, old: Mesh): Mesh {
  const [own, there] = [boundsOf(mesh.position), boundsOf(old.position)];
  const sizeOf = ({ min, max }: typeof own) => Math.max(...max.map((value, k) => value - min[k])) || 1;
  const scale = sizeOf(there) / sizeOf(own);
  const foot = ({ min, max }: typeof own) => [(min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2];
  const [from, to] = [foot(own), foot(there)];
  const shift = to.map((value, k) => value - scale * from[k]);
  return transformMesh(mesh, Float64Array.of(scale, 0, 0, 0, 0, scale, 0, 0, 0, 0, scale, 0, ...shift, 1));
}
