import { weldPositions } from './weld.js';

const known = new WeakMap<Uint32Array, { of: Uint32Array; count: number }>();

/**
 * Which shell each vertex belongs to: what hangs together by its triangles, vertices in one place counting as one. Numbered
 * in the order of their first vertex (union by halving paths; any text on algorithms).
 */
export function shellsOf({ position, index }: { position: Float32Array; index: Uint32Array }): {
  of: Uint32Array;
  count: number;
} {
  let found = known.get(index);
  if (found) return found;
  const { remap, count } = weldPositions(position);
  const parent = Uint32Array.from({ length: count }, (_, v) => v);
  const root = (v: number): number => {
    while (parent[v] !== v) {
      parent[v] = parent[parent[v]];
      v = parent[v];
    }
    return v;
  };
  for (let i = 0; i < index.length; i += 3)
    for (const k of [1, 2]) parent[root(remap[index[i + k]])] = root(remap[index[i]]);
  const numbers = new Map<number, number>();
  const of = Uint32Array.from(remap, (v) => {
    const own = root(v);
    if (!numbers.has(own)) numbers.set(own, numbers.size);
    return numbers.get(own)!;
  });
  found = { of, count: numbers.size };
  known.set(index, found);
  return found;
}
