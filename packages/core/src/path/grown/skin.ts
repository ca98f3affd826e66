import { edgesOf, placeNormals } from '../../mesh/edges.js';
import { propSpace } from '../../surface/prop-space.js';
import type { Surface } from '../../surface/surface.js';

/** A prop as strands grow on it: its welded places in the world, and the edges between them. */
export interface Skin {
  /** Place of each corner of each triangle. */
  corner: Uint32Array;
  /** World xyz of each place, and the unit normal there, smooth over edges. */
  position: Float64Array;
  normal: Float64Array;
  /** Neighbours of place `p`: entries `start[p] … start[p + 1] − 1` of `next`. */
  start: Uint32Array;
  next: Uint32Array;
}

const known = new WeakMap<Surface, Skin>();

/** The skin of a prop where it is; worked out once for each. */
export function skinOf(surface: Surface): Skin {
  let skin = known.get(surface);
  if (!skin) {
    skin = weldedSkin(surface);
    known.set(surface, skin);
  }
  return skin;
}

function weldedSkin(surface: Surface): Skin {
  const { mesh } = surface;
  const { placeOf, vertexOf, ends } = edgesOf(mesh);
  const space = propSpace(surface);
  const count = vertexOf.length;
  const position = new Float64Array(3 * count);
  const normal = new Float64Array(3 * count);
  const own = placeNormals(mesh);
  const origin = [0, 0, 0];
  space.toWorld(0, 0, 0, origin, 0);
  for (let p = 0; p < count; p++) {
    const v = 3 * vertexOf[p];
    space.toWorld(mesh.position[v], mesh.position[v + 1], mesh.position[v + 2], position, 3 * p);
    space.toWorld(own[3 * p], own[3 * p + 1], own[3 * p + 2], normal, 3 * p);
    for (let n = 0; n < 3; n++) normal[3 * p + n] = (normal[3 * p + n] - origin[n]) / space.scale;
  }
  const start = new Uint32Array(count + 1);
  for (const place of ends) start[place + 1]++;
  for (let p = 0; p < count; p++) start[p + 1] += start[p];
  const next = new Uint32Array(ends.length);
  const filled = start.slice(0, count);
  for (let e = 0; e < ends.length; e += 2) {
    next[filled[ends[e]]++] = ends[e + 1];
    next[filled[ends[e + 1]]++] = ends[e];
  }
  return { corner: Uint32Array.from(mesh.index, (v) => placeOf[v]), position, normal, start, next };
}

/** World xyz and smooth unit normal of a place in a triangle: six numbers. */
export function placeOnSkin(
  { corner, position, normal }: Skin,
  triangle: number,
  second: number,
  third: number,
  out: Float64Array,
): void {
  const [a, b, c] = [3 * corner[3 * triangle], 3 * corner[3 * triangle + 1], 3 * corner[3 * triangle + 2]];
  const first = 1 - second - third;
  let size = 0;
  for (let n = 0; n < 3; n++) {
    out[n] = first * position[a + n] + second * position[b + n] + third * position[c + n];
    const along = first * normal[a + n] + second * normal[b + n] + third * normal[c + n];
    out[3 + n] = along;
    size += along * along;
  }
  size = Math.sqrt(size) || 1;
  for (let n = 3; n < 6; n++) out[n] /= size;
}

const edges = new WeakMap<Skin, number>();

/** Mean length of a skin's edges, 1 where it has none; worked out once. */
export function edgeOf(skin: Skin): number {
  let mean = edges.get(skin);
  if (mean === undefined) {
    mean = meanEdge(skin) || 1;
    edges.set(skin, mean);
  }
  return mean;
}

function meanEdge({ start, next, position: at }: Skin): number {
  let sum = 0;
  for (let p = 0; p + 1 < start.length; p++)
    for (let e = start[p]; e < start[p + 1]; e++) {
      const q = 3 * next[e];
      sum += Math.hypot(at[3 * p] - at[q], at[3 * p + 1] - at[q + 1], at[3 * p + 2] - at[q + 2]);
    }
  return next.length > 0 ? sum / next.length : 1;
}
