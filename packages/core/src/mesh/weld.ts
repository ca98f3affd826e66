import type { Mesh } from './mesh.js';

/**
 * Which vertices stand in the same place, bit for bit: `remap[vertex]` is the place's number, `count` how many places.
 * Open addressing on a hash of the three coordinates, about one probe a vertex.
 */
export function weldPlaces(position: Float32Array): { remap: Uint32Array; count: number } {
  const vertices = position.length / 3;
  let size = 16;
  while (size < 2 * vertices) size *= 2;
  const table = new Int32Array(size).fill(-1);
  // + 0 turns −0 into 0, so that both are one place
  const plain = Float32Array.from(position, (value) => value + 0);
  const bits = new Int32Array(plain.buffer);
  const remap = new Uint32Array(vertices);
  let count = 0;
  for (let v = 0; v < vertices; v++) {
    const [x, y, z] = [bits[3 * v], bits[3 * v + 1], bits[3 * v + 2]];
    let h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35);
    h = (h ^ (h >>> 15)) & (size - 1);
    for (;;) {
      const other = table[h];
      if (other < 0) {
        table[h] = v;
        remap[v] = count++;
        break;
      }
      if (bits[3 * other] === x && bits[3 * other + 1] === y && bits[3 * other + 2] === z) {
        remap[v] = remap[other];
        break;
      }
      h = (h + 1) & (size - 1);
    }
  }
  return { remap, count };
}

export interface Topology {
  /** Edges that belong to one face only, or to more than two. 0 on a watertight mesh. */
  openEdges: number;
  /** Vertices − edges + faces, over welded places. */
  euler: number;
  /** Pieces that hang together. */
  shells: number;
}

/** How a mesh hangs together once vertices in the same place count as one. Faces without area are passed over. */
export function topologyOf(mesh: Pick<Mesh, 'position' | 'index'>): Topology {
  const { remap, count } = weldPlaces(mesh.position);
  const parent = Uint32Array.from({ length: count }, (_, i) => i);
  const root = (i: number) => {
    let r = i;
    while (parent[r] !== r) {
      parent[r] = parent[parent[r]];
      r = parent[r];
    }
    return r;
  };
  const uses = new Map<number, number>();
  const seen = new Uint8Array(count);
  let faces = 0;
  for (let i = 0; i < mesh.index.length; i += 3) {
    const corners = [remap[mesh.index[i]], remap[mesh.index[i + 1]], remap[mesh.index[i + 2]]];
    if (corners[0] === corners[1] || corners[1] === corners[2] || corners[2] === corners[0]) continue;
    faces++;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [corners[k], corners[(k + 1) % 3]];
      seen[a] = 1;
      const key = Math.min(a, b) * count + Math.max(a, b);
      uses.set(key, (uses.get(key) ?? 0) + 1);
      parent[root(a)] = root(b);
    }
  }
  let openEdges = 0;
  for (const n of uses.values()) if (n !== 2) openEdges++;
  let used = 0;
  let shells = 0;
  for (let i = 0; i < count; i++) {
    used += seen[i];
    if (seen[i] && root(i) === i) shells++;
  }
  return { openEdges, euler: used - uses.size + faces, shells };
}
