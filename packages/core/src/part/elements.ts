import type { ElementEdit } from '../document/document.js';
import type { Mesh } from '../mesh/mesh.js';
import { withComputedNormals } from '../mesh/normals.js';
import type { Surroundings } from '../surface/surroundings.js';
import type { Made, Part, PlacedPart } from '../unit/carriers.js';
import { pickPlaces } from './part.js';

/** What was done by hand to single elements: dropped, moved, sized, or a prop put in their place. Others stay. */
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
    const { move, size = 1 } = of(i) ?? {};
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
      ? { ...part, id: `${part.id} ${prop}`, mesh: propMesh(surface.mesh), places: picked }
      : { ...part, places: picked };
  });
}

const propMesh = ({ position, index }: Pick<Mesh, 'position' | 'index'>): Mesh =>
  withComputedNormals({
    position,
    index,
    normal: new Float32Array(position.length),
    uv: new Float32Array((2 * position.length) / 3),
    quads: 0,
    groups: [],
  });
