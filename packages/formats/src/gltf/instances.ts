import type { Document, Node } from '@gltf-transform/core';
import { KelpError } from '@kelp/core';

// Nodes whose mesh stands many times (Khronos, glTF 2.0 vendor extension EXT_mesh_gpu_instancing).

export const INSTANCING = 'EXT_mesh_gpu_instancing';

/** The lists that say where: by name, what an instance without it has, and how many numbers that are. */
const LISTS = { TRANSLATION: [0, 0, 0], ROTATION: [0, 0, 0, 1], SCALE: [1, 1, 1] } as const;
export type InstanceLists = { [name in keyof typeof LISTS]?: number };

// biome-ignore lint/suspicious/noExplicitAny: of any kind until it is checked
type Json = any;

/**
 * Which nodes stand many times, and the accessors that say where, by the number of the node. The extension is taken out of
 * what the file says it needs.
 */
export function takeInstances(json: Json): Map<number, InstanceLists> {
  const out = new Map<number, InstanceLists>();
  const nodes: Json[] = Array.isArray(json?.nodes) ? json.nodes : [];
  nodes.forEach((node, i) => {
    const attributes = node?.extensions?.[INSTANCING]?.attributes;
    if (typeof attributes === 'object' && attributes !== null) out.set(i, attributes);
  });
  for (const list of ['extensionsRequired', 'extensionsUsed'])
    if (Array.isArray(json?.[list])) json[list] = json[list].filter((name: unknown) => name !== INSTANCING);
  return out;
}

/**
 * Where each instance of such a node is, from the node on: column-major 4×4 each.
 * @throws KelpError BAD_FILE where the lists do not fit each other
 */
export function instanceMatrices(fileName: string, document: Document, node: Node, lists: InstanceLists): Float32Array {
  const accessors = document.getRoot().listAccessors();
  const place = `${fileName}: "${node.getName()}"`;
  const read = Object.entries(LISTS).map(([name, absent]) => {
    const number = lists[name as keyof InstanceLists];
    if (number === undefined) return { absent, accessor: undefined };
    const accessor = accessors[number];
    if (accessor?.getElementSize() !== absent.length)
      throw new KelpError(
        'BAD_FILE',
        `${place}: ${name} of its instances is not a list of ${absent.length} numbers each. Export it again.`,
      );
    return { absent, accessor };
  });
  const counts = new Set(read.flatMap(({ accessor }) => (accessor ? [accessor.getCount()] : [])));
  const [count] = counts;
  if (counts.size !== 1)
    throw new KelpError('BAD_FILE', `${place}: the lists of its instances differ in length. Export it again.`);
  const out = new Float32Array(16 * count);
  for (let k = 0; k < count; k++) {
    const [t, r, s] = read.map(({ absent, accessor }) => accessor?.getElement(k, []) ?? absent);
    out.set(matrixOf(t, r, s), 16 * k);
  }
  return out;
}

/** What scales, turns by a unit quaternion and moves, in this order, as a matrix (glTF 2.0, section 3.5.3). */
function matrixOf(t: readonly number[], [x, y, z, w]: readonly number[], s: readonly number[]): number[] {
  const turn = [
    [1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)],
    [2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)],
    [2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)],
  ];
  return [...turn.flatMap((way, k) => [...way.map((value) => value * s[k]), 0]), t[0], t[1], t[2], 1];
}
