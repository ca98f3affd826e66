import { type Document, type Node, type Primitive, WebIO } from '@gltf-transform/core';
import { checkMesh, KelpError, type Mesh, mergeMeshes, transformMesh, withComputedNormals } from '@kelp/core';
import { MOST_TRIANGLES, type Model } from '../model/model.js';

const TRIANGLES = 4;
const STRIP = 5;
const FAN = 6;
/** What Kelp can read a file without: it changes the look, not the shape. */
const SHAPE_EXTENSIONS = new Set(['KHR_draco_mesh_compression', 'EXT_meshopt_compression', 'KHR_mesh_quantization']);

/** Reads a binary or JSON glTF 2.0 with its data inside (Khronos, glTF 2.0 specification). */
export async function readGltf(fileName: string, bytes: Uint8Array): Promise<Model> {
  const document = await parseGltf(fileName, bytes);
  const model: Model = { format: 'glTF', objects: [], notes: [] };
  const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
  let triangles = 0;
  scene?.traverse((node) => {
    const mesh = meshOf(node, fileName, model.notes);
    if (!mesh) return;
    triangles += mesh.index.length / 3;
    if (triangles > MOST_TRIANGLES)
      throw new KelpError('TOO_LARGE', `${fileName} has more than ${MOST_TRIANGLES.toLocaleString('en')} triangles`);
    const name = node.getName() || node.getMesh()?.getName() || `Object ${model.objects.length + 1}`;
    checkMesh(mesh, `${fileName}: "${name}"`);
    model.objects.push({ name, mesh: placed(mesh, node, name, model.notes) });
  });
  if (model.objects.length === 0)
    throw new KelpError('EMPTY_MESH', `${fileName} has no faces: there is nothing in it to draw on`);
  return model;
}

/** Opens the file; nothing in it is looked at yet. @throws KelpError BAD_FILE */
export async function parseGltf(fileName: string, bytes: Uint8Array): Promise<Document> {
  const needed = requiredExtensions(bytes).filter((name) => SHAPE_EXTENSIONS.has(name));
  if (needed.length > 0)
    throw new KelpError(
      'BAD_FILE',
      `${fileName} is compressed with ${needed.join(', ')}, which Kelp does not read. Export it without compression.`,
    );
  const io = new WebIO();
  try {
    const isBinary = bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;
    if (isBinary) {
      const declared = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(8, true);
      if (declared > bytes.byteLength)
        throw new Error(`it says it has ${declared} bytes, but ${bytes.byteLength} arrived: it was cut off`);
      return await io.readBinary(bytes);
    }
    const json = JSON.parse(new TextDecoder().decode(bytes));
    const outside = [...(json.buffers ?? [])].find(
      (buffer) => typeof buffer.uri !== 'string' || !buffer.uri.startsWith('data:'),
    );
    if (outside)
      throw new Error(
        `its data is in another file (${outside.uri ?? 'not named'}). Export as .glb, which holds everything`,
      );
    // pictures are not needed, and may lie in other files
    json.images = undefined;
    json.textures = undefined;
    json.materials = undefined;
    for (const mesh of json.meshes ?? []) for (const primitive of mesh.primitives ?? []) primitive.material = undefined;
    const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
    for (const buffer of json.buffers ?? []) resources[buffer.uri] = fromDataUri(buffer.uri);
    return await io.readJSON({ json: JSON.parse(JSON.stringify(json)), resources });
  } catch (error) {
    throw new KelpError('BAD_FILE', `${fileName} is no readable glTF: ${(error as Error).message}`);
  }
}

function fromDataUri(uri: string): Uint8Array<ArrayBuffer> {
  const text = atob(uri.slice(uri.indexOf(',') + 1));
  return Uint8Array.from(text, (character) => character.charCodeAt(0));
}

/** `extensionsRequired`, read by hand because the reader stops at the first one it does not know. */
function requiredExtensions(bytes: Uint8Array): string[] {
  try {
    const isBinary = bytes[0] === 0x67;
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const text = new TextDecoder().decode(isBinary ? bytes.subarray(20, 20 + view.getUint32(12, true)) : bytes);
    const list = JSON.parse(text).extensionsRequired;
    return Array.isArray(list) ? list.map(String) : [];
  } catch {
    return [];
  }
}

function meshOf(node: Node, fileName: string, notes: string[]): Mesh | undefined {
  const parts: Mesh[] = [];
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
    const mesh = primitiveMesh(primitive, `${fileName}: "${node.getName()}"`);
    if (mesh) parts.push(mesh);
    else notes.push(`Lines or points in "${node.getName()}" were left out: only faces can be drawn on.`);
  }
  return parts.length > 0 ? mergeMeshes(parts) : undefined;
}

function primitiveMesh(primitive: Primitive, place: string): Mesh | undefined {
  const position = primitive.getAttribute('POSITION');
  const mode = primitive.getMode();
  if (!position || mode < TRIANGLES) return undefined;
  const count = position.getCount();
  const listed = primitive.getIndices()?.getArray();
  const source = listed ? Uint32Array.from(listed) : Uint32Array.from({ length: count }, (_, i) => i);
  for (let i = 0; i < source.length; i++)
    if (source[i] >= count)
      throw new KelpError('BAD_FILE', `${place}: face ${Math.floor(i / 3)} names vertex ${source[i]} of ${count}`);
  const index =
    mode === STRIP || mode === FAN
      ? unrolled(source, mode)
      : source.subarray(0, source.length - (source.length % 3)).slice();
  const normal = primitive.getAttribute('NORMAL');
  const uv = primitive.getAttribute('TEXCOORD_0');
  const mesh: Mesh = {
    position: floats(position, count, 3),
    normal: normal ? floats(normal, count, 3) : new Float32Array(3 * count),
    uv: uv ? floats(uv, count, 2) : new Float32Array(2 * count),
    index,
    quads: 0,
    groups: [],
    ...attributesOf(primitive, count),
  };
  return normal ? mesh : withComputedNormals(mesh);
}

/** Colours, second texture coordinates and what else a program put there under a name of its own. */
function attributesOf(primitive: Primitive, count: number): Pick<Mesh, 'attributes'> {
  const out: NonNullable<Mesh['attributes']> = {};
  for (const semantic of primitive.listSemantics()) {
    const accessor = primitive.getAttribute(semantic);
    const own = { COLOR_0: 'colour', TEXCOORD_1: 'uv2' }[semantic] ?? semantic.match(/^_(.+)/)?.[1].toLowerCase();
    const size = accessor?.getElementSize() ?? 0;
    if (own && accessor && size >= 1 && size <= 4) out[own] = { size, data: floats(accessor, count, size) };
  }
  return Object.keys(out).length > 0 ? { attributes: out } : {};
}

/** Accessor as floats, whatever it is stored as. */
function floats(
  accessor: { getElement(i: number, out: number[]): number[] },
  count: number,
  size: number,
): Float32Array {
  const out = new Float32Array(count * size);
  const element: number[] = [];
  for (let i = 0; i < count; i++) {
    accessor.getElement(i, element);
    for (let k = 0; k < size; k++) out[size * i + k] = element[k];
  }
  return out;
}

/** Strip or fan as single triangles, every second one of a strip turned (glTF 2.0, section 3.7.2.1). */
function unrolled(source: Uint32Array, mode: number): Uint32Array {
  const out: number[] = [];
  for (let i = 0; i + 2 < source.length; i++) {
    if (mode === FAN) out.push(source[i + 1], source[i + 2], source[0]);
    else out.push(source[i], source[i + 1 + (i % 2)], source[i + 2 - (i % 2)]);
  }
  return Uint32Array.from(out);
}

/** The mesh with its node's transform applied; says so where that mended something. */
function placed(mesh: Mesh, node: Node, name: string, notes: string[]): Mesh {
  const matrix = node.getWorldMatrix();
  const scale = node.getWorldScale();
  const uneven = Math.max(...scale.map(Math.abs)) / Math.min(...scale.map(Math.abs)) > 1.001;
  const mirrored = scale[0] * scale[1] * scale[2] < 0;
  const scaled = scale.some((value) => Math.abs(Math.abs(value) - 1) > 1e-4);
  if (mirrored) notes.push(`"${name}" was mirrored by its transform; its faces were turned the right way round.`);
  if (uneven) notes.push(`"${name}" had an uneven scale left in its transform; it was applied.`);
  else if (scaled)
    notes.push(`"${name}" had a scale of ${+Math.abs(scale[0]).toPrecision(3)} left in its transform; it was applied.`);
  return transformMesh(mesh, matrix);
}
