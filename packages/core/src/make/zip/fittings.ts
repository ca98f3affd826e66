import type { Mesh } from '../../mesh/mesh.js';
import { childId } from '../../numeric/random.js';
import { addScaled, cross, normalize, type Vec3, vec3 } from '../../numeric/vector.js';
import type { Part } from '../../unit/carriers.js';
import type { Cloth } from '../elements/cloth.js';
import { PlacementsWriter } from '../elements/placements.js';
import { frameAt, roomFor, walkOf } from '../elements/stations.js';
import type { Half } from './halves.js';

/** What is placed on a zip: where, which way, and whose it is. */
export interface Place {
  id: number;
  curve: number;
  along: number;
  at: Vec3;
  /** Unit axes. */
  x: Vec3;
  y: Vec3;
  z: Vec3;
}

/** Teeth of one half: x across the middle, so that those of both halves reach for each other. */
export function toothStands(half: Half, at: readonly number[], curve: number, thick: number): Place[] {
  const { framed, side } = half;
  const walk = walkOf(framed, 0);
  const frame = roomFor(1);
  return at.map((metres, k): Place => {
    frameAt(framed, walk, metres, frame, 0);
    const [t, y] = [frame.tangent, frame.up].map((v): Vec3 => [v[0], v[1], v[2]]);
    const x = cross(vec3(), side === 1 ? y : t, side === 1 ? t : y);
    return {
      id: childId(childId(framed.lines.id[0], side + 2), k),
      curve,
      along: metres,
      at: addScaled(vec3(), [frame.at[0], frame.at[1], frame.at[2]], y, thick),
      x,
      y,
      z: cross(vec3(), x, y),
    };
  });
}

/** Something in the middle of the zip; z on along the line, or back. */
export function standAt(cloth: Cloth, curve: number, along: number, way: number, thick: number, id: number): Place {
  const step = 1e-3;
  const here = cloth.place(curve, along, 0);
  const [before, after] = [-step, step].map((by) => cloth.place(curve, along + by, 0).at);
  const z = normalize(vec3(), [0, 1, 2].map((n) => way * (after[n] - before[n])) as Vec3);
  const x = normalize(vec3(), cross(vec3(), here.up, z));
  const y = cross(vec3(), z, x);
  return { id, curve, along, at: addScaled(vec3(), here.at, y, thick), x, y, z };
}

/** A part that is placed. @param size what its mesh is multiplied by */
export function placedPart(
  names: { id: string; name: string; slot: string },
  mesh: Mesh,
  size: number,
  stands: readonly Place[],
): Part[] {
  if (stands.length === 0) return [];
  const writer = new PlacementsWriter(stands.length);
  const stations = {
    id: Uint32Array.from(stands, ({ id }) => id),
    along: Float32Array.from(stands, ({ along }) => along),
    curve: Uint32Array.from(stands, ({ curve }) => curve),
  };
  const scaled = (v: Vec3) => v.map((value) => value * size);
  stands.forEach(({ x, y, z, at }, n) => {
    writer.add(stations, n, scaled(x), scaled(y), scaled(z), at);
  });
  return [{ kind: 'placed', ...names, mesh, places: writer.finish() }];
}
