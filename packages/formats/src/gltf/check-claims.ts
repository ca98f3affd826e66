import { KelpError } from '@kelp/core';

// What a glTF file says of itself is held against the bytes that are there before anything is made room for
// (Khronos, glTF 2.0 specification: section 3.5 nodes, 3.6.1 buffers and views, 3.6.2 accessors, 3.7.2 meshes).

/** Bytes of a component, by its type (section 3.6.2.2). */
const COMPONENT: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const COMPONENTS: Readonly<Record<string, number>> = {
  SCALAR: 1,
  VEC2: 2,
  VEC3: 3,
  VEC4: 4,
  MAT2: 4,
  MAT3: 9,
  MAT4: 16,
};
const UNSIGNED = new Set([5121, 5123, 5125]);
/** No scene needs more; a chain of thousands ends programs that follow it. */
const MAX_DEPTH = 256;
/** Scales, turns and places beyond this are slips or malice. */
const [MIN_SCALE, MAX_NUMBER] = [1e-9, 1e12];

type Json = Record<string, unknown>;
const isJson = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value);
const isCount = (value: unknown): value is number => Number.isSafeInteger(value) && (value as number) >= 0;

/**
 * @param json what the file says
 * @param sizes bytes that are there, by buffer
 * @throws KelpError BAD_FILE with the place that is wrong
 */
export function checkClaims(fileName: string, json: unknown, sizes: readonly number[]): void {
  const wrong = (path: string, why: string) =>
    new KelpError('BAD_FILE', `${fileName}: ${path} ${why}. Export it again.`, [{ path, message: why }]);
  if (!isJson(json)) throw wrong('it', 'is not a glTF: it must be one JSON object');
  const list = (name: string): Json[] => {
    const value = json[name] ?? [];
    if (!Array.isArray(value) || !value.every(isJson)) throw wrong(name, 'must be a list of objects');
    return value;
  };
  const views = list('bufferViews').map((view, i) => {
    const path = `bufferViews[${i}]`;
    const { buffer, byteOffset = 0, byteLength, byteStride } = view;
    if (!isCount(buffer) || buffer >= sizes.length) throw wrong(path, `refers to buffer ${buffer} of ${sizes.length}`);
    if (!isCount(byteOffset) || !isCount(byteLength) || (byteStride !== undefined && !isCount(byteStride)))
      throw wrong(path, 'must have whole numbers from 0 for its offset, length and stride');
    if (byteOffset + byteLength > sizes[buffer])
      throw wrong(path, `ends at byte ${byteOffset + byteLength} of ${sizes[buffer]}`);
    return { byteLength, byteStride: byteStride as number | undefined };
  });
  /** Whether `count` elements of a size are in a view. */
  const holds = (path: string, place: Json, count: number, size: number) => {
    const { bufferView, byteOffset = 0 } = place;
    const view = isCount(bufferView) ? views[bufferView] : undefined;
    if (!view) throw wrong(path, `refers to buffer view ${bufferView} of ${views.length}`);
    if (!isCount(byteOffset)) throw wrong(path, 'must have a whole number from 0 for its offset');
    const end = byteOffset + (count - 1) * (view.byteStride || size) + size;
    if (count > 0 && end > view.byteLength)
      throw wrong(path, `claims ${count} elements, which end at byte ${end} of ${view.byteLength}`);
  };
  const total = sizes.reduce((sum, size) => sum + size, 0);
  const accessors = list('accessors');
  for (const [i, accessor] of accessors.entries()) {
    const path = `accessors[${i}]`;
    const { count, componentType, type, bufferView, sparse } = accessor;
    const component = COMPONENT[componentType as number];
    const size = (COMPONENTS[type as string] ?? 0) * (component ?? 0);
    if (!size) throw wrong(path, `has elements of an unknown type (${String(type)} of ${String(componentType)})`);
    if (!isCount(count)) throw wrong(path, 'must have a whole number from 0 for its count');
    if (bufferView !== undefined) holds(path, accessor, count, size);
    // elements that no bytes represent are all zero: a few kilobytes may not ask for gigabytes of them
    else if (count > total) throw wrong(path, `claims ${count} elements without data`);
    if (sparse === undefined) continue;
    const { count: some, indices, values } = isJson(sparse) ? sparse : {};
    if (!isCount(some) || some > count || !isJson(indices) || !isJson(values))
      throw wrong(`${path}.sparse`, 'must list no more elements than there are, with their indices and values');
    holds(`${path}.sparse.indices`, indices, some, COMPONENT[indices['componentType'] as number] ?? 4);
    holds(`${path}.sparse.values`, values, some, size);
  }
  for (const [i, mesh] of list('meshes').entries()) {
    const primitives = mesh['primitives'];
    if (!Array.isArray(primitives) || !primitives.every(isJson))
      throw wrong(`meshes[${i}].primitives`, 'must be a list');
    for (const [k, primitive] of primitives.entries()) {
      const path = `meshes[${i}].primitives[${k}]`;
      const { attributes, indices } = primitive;
      if (!isJson(attributes)) throw wrong(`${path}.attributes`, 'must be an object');
      const named = (where: string, number: unknown): Json => {
        const accessor = isCount(number) ? accessors[number] : undefined;
        if (!accessor) throw wrong(where, `refers to accessor ${String(number)} of ${accessors.length}`);
        return accessor;
      };
      for (const [name, number] of Object.entries(attributes)) {
        const { type } = named(`${path}.attributes.${name}`, number);
        if (name === 'POSITION' && type !== 'VEC3')
          throw wrong(`${path}.attributes.POSITION`, `must be VEC3, not ${String(type)}`);
      }
      if (indices === undefined) continue;
      const index = named(`${path}.indices`, indices);
      if (index['type'] !== 'SCALAR' || !UNSIGNED.has(index['componentType'] as number))
        throw wrong(`${path}.indices`, 'must be whole numbers (accessor component type 5121, 5123 or 5125)');
    }
  }
  checkNodes(list('nodes'), wrong);
}

/** Nodes make trees (section 3.5.2): no node is below itself or below two others; none goes too deep or is out of all size. */
function checkNodes(nodes: readonly Json[], wrong: (path: string, why: string) => KelpError): void {
  const parent = new Int32Array(nodes.length).fill(-1);
  for (const [i, node] of nodes.entries()) {
    for (const name of ['matrix', 'translation', 'rotation', 'scale']) {
      const numbers = node[name];
      if (numbers === undefined) continue;
      const path = `nodes[${i}].${name}`;
      if (!Array.isArray(numbers) || !numbers.every((value) => Number.isFinite(value) && Math.abs(value) <= MAX_NUMBER))
        throw wrong(path, `must hold finite numbers, none above ${MAX_NUMBER}`);
      if (name === 'scale' && numbers.some((value) => Math.abs(value) < MIN_SCALE))
        throw wrong(path, 'scales its content to nothing');
    }
    const children = node['children'] ?? [];
    if (!Array.isArray(children)) throw wrong(`nodes[${i}].children`, 'must be a list');
    for (const child of children) {
      if (!isCount(child) || child >= nodes.length)
        throw wrong(`nodes[${i}].children`, `refers to node ${child} of ${nodes.length}`);
      if (parent[child] >= 0)
        throw wrong(`nodes[${child}]`, `has two parents, nodes[${parent[child]}] and nodes[${i}]`);
      parent[child] = i;
    }
  }
  // every node has one parent: a way up that is longer than there are nodes goes round
  const depth = new Int32Array(nodes.length);
  for (let i = 0; i < nodes.length; i++) {
    let up = i;
    let steps = 0;
    while (up >= 0 && depth[up] === 0 && steps <= MAX_DEPTH) {
      up = parent[up];
      steps++;
    }
    depth[i] = steps + (up >= 0 ? depth[up] : 0);
    if (depth[i] > MAX_DEPTH) throw wrong(`nodes[${i}]`, `is nested more than ${MAX_DEPTH} deep, or inside itself`);
  }
}
