import { edgesOf, faceNormals, type MeshEdges } from './edges.js';
import type { Mesh } from './mesh.js';

/** One closed or open line in which a plane cuts a mesh. */
export interface Contour {
  /** Number of the slice, and of the line within it. */
  level: number;
  ordinal: number;
  closed: boolean;
  /** Flat xyz in the space of the mesh. */
  position: Float64Array;
  /** Out of the surface at each point, flat xyz, unit. */
  outward: Float64Array;
}

/**
 * Cuts a mesh by parallel planes direction·p = first + k·spacing, all in one pass over its faces: each face is put under
 * the levels it crosses, then each level is walked from face to face over the edges they share. A place exactly on a
 * plane counts as above it, so that every face is crossed by two of its edges or by none.
 * @param direction unit vector in the space of the mesh
 */
export function contoursOf(
  mesh: Pick<Mesh, 'position' | 'index'>,
  direction: readonly number[],
  first: number,
  spacing: number,
  count: number,
): Contour[] {
  const { position, index } = mesh;
  const edges = edgesOf(mesh);
  const height = new Float64Array(position.length / 3);
  for (let v = 0; v < height.length; v++)
    height[v] =
      position[3 * v] * direction[0] + position[3 * v + 1] * direction[1] + position[3 * v + 2] * direction[2];
  const buckets = facesByLevel(index, height, first, spacing, count);
  const walker = new Walker(index, edges.ofFace, edges.faces, height);
  const normals = faceNormals(mesh);
  const out: Contour[] = [];
  for (let level = 0; level < count; level++) {
    const at = first + level * spacing;
    for (let i = buckets.start[level], ordinal = 0; i < buckets.start[level + 1]; i++) {
      const chain = walker.chain(buckets.faces[i], level, at);
      if (chain) out.push({ level, ordinal: ordinal++, ...placePoints(mesh, edges, height, normals, chain, at) });
    }
  }
  return out;
}

/** Counting sort of all crossings of a face and a level by level. */
function facesByLevel(index: Uint32Array, height: Float64Array, first: number, spacing: number, count: number) {
  const total = index.length / 3;
  const low = new Int32Array(total);
  const high = new Int32Array(total);
  const start = new Uint32Array(count + 1);
  for (let f = 0; f < total; f++) {
    const [a, b, c] = [height[index[3 * f]], height[index[3 * f + 1]], height[index[3 * f + 2]]];
    const least = a < b ? Math.min(a, c) : Math.min(b, c);
    const most = a > b ? Math.max(a, c) : Math.max(b, c);
    // levels above the lowest corner, up to and with the highest: places on a plane count as above it
    low[f] = Math.max(0, Math.floor((least - first) / spacing) + 1);
    high[f] = Math.min(count - 1, Math.floor((most - first) / spacing));
    // rounding may put a level on the wrong side of a corner that lies on it
    if (low[f] > 0 && first + (low[f] - 1) * spacing > least) low[f]--;
    if (low[f] < count && first + low[f] * spacing <= least) low[f]++;
    if (high[f] >= 0 && first + high[f] * spacing > most) high[f]--;
    for (let k = low[f]; k <= high[f]; k++) start[k + 1]++;
  }
  for (let k = 0; k < count; k++) start[k + 1] += start[k];
  const faces = new Uint32Array(start[count]);
  const next = start.slice();
  for (let f = 0; f < total; f++) for (let k = low[f]; k <= high[f]; k++) faces[next[k]++] = f;
  return { start, faces };
}

interface Steps {
  /** Edges crossed in order, and the face walked after each. */
  edges: number[];
  faces: number[];
  closed: boolean;
}

class Walker {
  /** The level at which each face was walked last. */
  private readonly walked: Int32Array;

  constructor(
    private readonly index: Uint32Array,
    private readonly ofFace: Int32Array,
    private readonly faces: Int32Array,
    private readonly height: Float64Array,
  ) {
    this.walked = new Int32Array(index.length / 3).fill(-1);
  }

  /** The line through a face at a level; undefined where it was walked already or the face has no area. */
  chain(face: number, level: number, at: number): Steps | undefined {
    if (this.walked[face] === level || this.ofFace[3 * face] < 0) return undefined;
    // enters where the face's own direction goes up through the plane: the solid is then always on the same side
    const entry = this.crossing(face, at, -1, true);
    if (entry < 0) return undefined;
    const ahead: Steps = { edges: [entry], faces: [], closed: false };
    this.walk(ahead, face, entry, level, at);
    if (ahead.closed) return ahead;
    const back: Steps = { edges: [], faces: [], closed: false };
    const before = this.across(entry, face);
    if (before >= 0 && this.walked[before] !== level) this.walk(back, before, entry, level, at);
    return {
      edges: [...back.edges.reverse(), ...ahead.edges],
      faces: [...back.faces.reverse(), ...ahead.faces],
      closed: false,
    };
  }

  private walk(steps: Steps, face: number, entry: number, level: number, at: number): void {
    let f = face;
    let e = entry;
    for (;;) {
      this.walked[f] = level;
      steps.faces.push(f);
      e = this.crossing(f, at, e, false);
      if (e < 0) return;
      if (e === entry) {
        steps.closed = true;
        return;
      }
      steps.edges.push(e);
      f = this.across(e, f);
      if (f < 0 || this.walked[f] === level) return;
    }
  }

  private across(edge: number, face: number): number {
    const [a, b] = [this.faces[2 * edge], this.faces[2 * edge + 1]];
    return b < 0 ? -1 : a === face ? b : a;
  }

  /** An edge of the face that the plane crosses: going up in the face's direction, or any but `not`. */
  private crossing(face: number, at: number, not: number, up: boolean): number {
    for (let k = 0; k < 3; k++) {
      const a = this.height[this.index[3 * face + k]] >= at;
      const b = this.height[this.index[3 * face + (k === 2 ? 0 : k + 1)]] >= at;
      if (a === b || (up && a)) continue;
      const e = this.ofFace[3 * face + k];
      if (e !== not) return e;
    }
    return -1;
  }
}

/** Where a line crosses its edges, and which way is out of the surface there. */
function placePoints(
  { position }: Pick<Mesh, 'position' | 'index'>,
  { ends, vertexOf }: MeshEdges,
  height: Float64Array,
  normals: Float64Array,
  { edges, faces, closed }: Steps,
  at: number,
): Omit<Contour, 'level' | 'ordinal'> {
  const out = {
    closed,
    position: new Float64Array(3 * edges.length),
    outward: new Float64Array(3 * edges.length),
  };
  for (let k = 0; k < edges.length; k++) {
    const a = vertexOf[ends[2 * edges[k]]];
    const b = vertexOf[ends[2 * edges[k] + 1]];
    const t = (at - height[a]) / (height[b] - height[a]);
    const before = 3 * faces[k > 0 ? k - 1 : closed ? faces.length - 1 : 0];
    const after = 3 * faces[Math.min(k, faces.length - 1)];
    let size = 0;
    for (let n = 0; n < 3; n++) {
      out.position[3 * k + n] = position[3 * a + n] + t * (position[3 * b + n] - position[3 * a + n]);
      out.outward[3 * k + n] = normals[before + n] + normals[after + n];
      size += out.outward[3 * k + n] ** 2;
    }
    for (let n = 0; n < 3; n++) out.outward[3 * k + n] /= Math.sqrt(size) || 1;
  }
  return out;
}
