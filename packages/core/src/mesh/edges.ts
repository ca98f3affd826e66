import type { Mesh } from './mesh.js';
import { weldPositions } from './weld.js';

/** Edges of a mesh over welded places, with the faces on both sides. */
export interface MeshEdges {
  /** Welded places: number of each vertex's, and one vertex for each. */
  placeOf: Uint32Array;
  vertexOf: Uint32Array;
  /** Two places an edge, in the direction in which its first face runs through it. */
  ends: Uint32Array;
  /** Faces on both sides, two an edge; the second −1 on an open edge, −2 where more than two meet. */
  faces: Int32Array;
  /** Edges of each face, three a face, edge k from corner k to k + 1; −1 on faces without area in places. */
  ofFace: Int32Array;
}

const known = new WeakMap<Uint32Array, MeshEdges>();

/** The edges of a mesh; worked out once for each. */
export function edgesOf(mesh: Pick<Mesh, 'position' | 'index'>): MeshEdges {
  let edges = known.get(mesh.index);
  if (!edges) {
    edges = findEdges(mesh);
    known.set(mesh.index, edges);
  }
  return edges;
}

function findEdges({ position, index }: Pick<Mesh, 'position' | 'index'>): MeshEdges {
  const { remap: placeOf, count } = weldPositions(position);
  const vertexOf = new Uint32Array(count);
  for (let v = placeOf.length - 1; v >= 0; v--) vertexOf[placeOf[v]] = v;
  const ends = new Uint32Array(2 * index.length);
  const faces = new Int32Array(2 * index.length);
  const ofFace = new Int32Array(index.length).fill(-1);
  let size = 16;
  while (size < 2 * index.length) size *= 2;
  const table = new Int32Array(size).fill(-1);
  let total = 0;
  for (let i = 0; i < index.length; i += 3) {
    const corners = [placeOf[index[i]], placeOf[index[i + 1]], placeOf[index[i + 2]]];
    if (corners[0] === corners[1] || corners[1] === corners[2] || corners[2] === corners[0]) continue;
    for (let k = 0; k < 3; k++) {
      const a = corners[k];
      const b = corners[k === 2 ? 0 : k + 1];
      const low = Math.min(a, b);
      const high = Math.max(a, b);
      let h = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0;
      h = (h ^ (h >>> 15)) & (size - 1);
      for (;;) {
        const e = table[h];
        if (e < 0) {
          table[h] = total;
          ends[2 * total] = a;
          ends[2 * total + 1] = b;
          faces[2 * total] = i / 3;
          faces[2 * total + 1] = -1;
          ofFace[i + k] = total++;
          break;
        }
        const [p, q] = [ends[2 * e], ends[2 * e + 1]];
        if ((p === a && q === b) || (p === b && q === a)) {
          faces[2 * e + 1] = faces[2 * e + 1] === -1 ? i / 3 : -2;
          ofFace[i + k] = e;
          break;
        }
        h = (h + 1) & (size - 1);
      }
    }
  }
  return { placeOf, vertexOf, ends: ends.slice(0, 2 * total), faces: faces.slice(0, 2 * total), ofFace };
}

/** Cosine of the turn from face to face at an edge: 1 flat. Open edges and such of many faces turn most: −1. */
export function edgeTurns(mesh: Pick<Mesh, 'position' | 'index'>, { ends, faces }: MeshEdges): Float64Array {
  const normals = faceNormals(mesh);
  const out = new Float64Array(ends.length / 2);
  for (let e = 0; e < out.length; e++) {
    const [f, g] = [3 * faces[2 * e], 3 * faces[2 * e + 1]];
    out[e] = g < 0 ? -1 : normals[f] * normals[g] + normals[f + 1] * normals[g + 1] + normals[f + 2] * normals[g + 2];
  }
  return out;
}

/** Unit normal of every face, flat xyz; zero where a face has no area. */
export function faceNormals({ position: p, index }: Pick<Mesh, 'position' | 'index'>): Float64Array {
  const out = new Float64Array(index.length);
  for (let i = 0; i < index.length; i += 3) {
    const [a, b, c] = [3 * index[i], 3 * index[i + 1], 3 * index[i + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const size = Math.hypot(x, y, z) || 1;
    out[i] = x / size;
    out[i + 1] = y / size;
    out[i + 2] = z / size;
  }
  return out;
}

/** Mean of the face normals round each place, unit, flat xyz. */
export function placeNormals(mesh: Pick<Mesh, 'position' | 'index'>): Float64Array {
  const { placeOf, vertexOf } = edgesOf(mesh);
  const faces = faceNormals(mesh);
  const out = new Float64Array(3 * vertexOf.length);
  mesh.index.forEach((v, i) => {
    for (let n = 0; n < 3; n++) out[3 * placeOf[v] + n] += faces[i - (i % 3) + n];
  });
  for (let i = 0; i < out.length; i += 3) {
    const size = Math.hypot(out[i], out[i + 1], out[i + 2]) || 1;
    for (let n = 0; n < 3; n++) out[i + n] /= size;
  }
  return out;
}

export interface Chain {
  /** Places in order; a closed chain does not repeat its first. */
  places: number[];
  closed: boolean;
}

/**
 * Strings edges together: runs between places where other than two of them meet, and closed rings.
 * @param ends two places an edge, as `MeshEdges.ends`
 * @param chosen which edges take part
 */
export function chainEdges(ends: Uint32Array, chosen: readonly number[]): Chain[] {
  const at = new Map<number, number[]>();
  for (const e of chosen)
    for (const place of [ends[2 * e], ends[2 * e + 1]]) {
      const list = at.get(place);
      if (list) list.push(e);
      else at.set(place, [e]);
    }
  const used = new Set<number>();
  const walk = (from: number, edge: number): Chain => {
    const places = [from];
    let place = from;
    let e: number | undefined = edge;
    while (e !== undefined) {
      used.add(e);
      place = ends[2 * e] === place ? ends[2 * e + 1] : ends[2 * e];
      if (place === from) return { places, closed: true };
      places.push(place);
      const here: number[] = at.get(place) ?? [];
      e = here.length === 2 ? here.find((other) => !used.has(other)) : undefined;
    }
    return { places, closed: false };
  };
  const chains: Chain[] = [];
  for (const [place, edges] of at)
    if (edges.length !== 2) for (const e of edges) if (!used.has(e)) chains.push(walk(place, e));
  // what is left are rings; each starts where its first edge does, in that edge's direction
  for (const e of chosen) if (!used.has(e)) chains.push(walk(ends[2 * e], e));
  return chains;
}
