import type { Mesh } from './mesh.js';

/** The bits of −0 as a single-precision number. */
const MINUS_ZERO = -0x8000_0000;

/**
 * Which vertices stand in the same place, bit for bit: `remap[vertex]` is the place's number, `count` how many places.
 * Open addressing on a hash of the three coordinates, about one probe a vertex.
 */
export function weldPositions(position: Float32Array): { remap: Uint32Array; count: number } {
  const vertices = position.length / 3;
  let size = 16;
  while (size < 2 * vertices) size *= 2;
  const table = new Int32Array(size).fill(-1);
  const bits = new Int32Array(position.slice().buffer);
  // −0 and 0 are one place
  for (let i = 0; i < bits.length; i++) if (bits[i] === MINUS_ZERO) bits[i] = 0;
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
  const { remap, count } = weldPositions(mesh.position);
  const parent = new Uint32Array(count);
  for (let i = 0; i < count; i++) parent[i] = i;
  const root = (i: number) => {
    let r = i;
    while (parent[r] !== r) {
      parent[r] = parent[parent[r]];
      r = parent[r];
    }
    return r;
  };
  const edges = new EdgeUses(mesh.index.length);
  const seen = new Uint8Array(count);
  let faces = 0;
  for (let i = 0; i < mesh.index.length; i += 3) {
    const a = remap[mesh.index[i]];
    const b = remap[mesh.index[i + 1]];
    const c = remap[mesh.index[i + 2]];
    if (a === b || b === c || c === a) continue;
    faces++;
    seen[a] = 1;
    seen[b] = 1;
    seen[c] = 1;
    edges.add(a, b);
    edges.add(b, c);
    edges.add(c, a);
    parent[root(a)] = root(b);
    parent[root(b)] = root(c);
  }
  let used = 0;
  let shells = 0;
  for (let i = 0; i < count; i++) {
    used += seen[i];
    if (seen[i] && root(i) === i) shells++;
  }
  return { openEdges: edges.unpaired(), euler: used - edges.count + faces, shells };
}

/** How many faces use each edge: open addressing on its two ends, about one probe a use. */
class EdgeUses {
  count = 0;
  private readonly low: Uint32Array;
  private readonly high: Uint32Array;
  private readonly uses: Uint32Array;

  /** @param most edges at most */
  constructor(most: number) {
    let size = 16;
    // of a closed mesh there are half as many
    while (size < 1.25 * most) size *= 2;
    this.low = new Uint32Array(size);
    this.high = new Uint32Array(size);
    this.uses = new Uint32Array(size);
  }

  add(a: number, b: number): void {
    const { low, high, uses } = this;
    const [from, to] = a < b ? [a, b] : [b, a];
    let h = Math.imul(from, 0x9e3779b1) ^ Math.imul(to, 0x85ebca6b);
    h = (h ^ (h >>> 15)) & (uses.length - 1);
    while (uses[h] > 0 && !(low[h] === from && high[h] === to)) h = (h + 1) & (uses.length - 1);
    if (uses[h] === 0) {
      low[h] = from;
      high[h] = to;
      this.count++;
    }
    uses[h]++;
  }

  /** Edges of one face, or of more than two. */
  unpaired(): number {
    let sum = 0;
    for (const uses of this.uses) if (uses > 0 && uses !== 2) sum++;
    return sum;
  }
}
