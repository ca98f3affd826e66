import { type Document, GLB_BUFFER, type Node, type Primitive, WebIO } from '@gltf-transform/core';
import {
  checkMesh,
  KelpError,
  type Mesh,
  mergeMeshes,
  repeatMesh,
  transformMesh,
  withComputedNormals,
} from '@kelp/core';
import { parseJson, textOf } from '../json/parse-json.js';
import { MAX_TRIANGLES, type Model } from '../model/model.js';
import { checkClaims } from './check-claims.js';
import { COMPRESSION, unpacked } from './compressed.js';
import { type InstanceLists, instanceMatrices, takeInstances } from './instances.js';

const TRIANGLES = 4;
const STRIP = 5;
const FAN = 6;
/** What changes the shape and cannot be read. */
const SHAPE_EXTENSIONS = new Set(['KHR_draco_mesh_compression']);

/** Reads a binary or JSON glTF 2.0 with its data inside (Khronos, glTF 2.0 specification). */
export async function readGltf(fileName: string, bytes: Uint8Array): Promise<Model> {
  const { document, instances } = await parseGltf(fileName, bytes);
  const model: Model = { format: 'glTF', objects: [], notes: [] };
  const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
  let triangles = 0;
  scene?.traverse((node) => {
    const single = meshOf(node, fileName, model.notes);
    if (!single) return;
    const lists = instances.get(node);
    const places = lists && instanceMatrices(fileName, document, node, lists);
    triangles += (single.index.length / 3) * (places ? places.length / 16 : 1);
    if (triangles > MAX_TRIANGLES)
      throw new KelpError('TOO_LARGE', `${fileName} has more than ${MAX_TRIANGLES.toLocaleString('en')} triangles`);
    const mesh = places ? repeatMesh(single, places) : single;
    const name = node.getName() || node.getMesh()?.getName() || `Object ${model.objects.length + 1}`;
    checkMesh(mesh, `${fileName}: "${name}"`);
    model.objects.push({ name, mesh: placed(mesh, node, name, model.notes) });
  });
  if (model.objects.length === 0) throw new KelpError('EMPTY_MESH', `${fileName} has no faces to draw on`);
  return model;
}

/** A file that was opened, and the position lists of its instanced nodes. */
interface OpenGltf {
  document: Document;
  instances: ReadonlyMap<Node, InstanceLists>;
}

/** Opens the file; what it claims is checked, nothing in it is looked at yet. @throws KelpError BAD_FILE */
export async function parseGltf(fileName: string, bytes: Uint8Array): Promise<OpenGltf> {
  const isBinary = bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;
  const { text, chunk } = isBinary ? chunksOf(fileName, bytes) : { text: textOf(fileName, bytes), chunk: undefined };
  const json = parseJson(fileName, text) as GltfJson;
  const needed = listed(json?.extensionsRequired).filter((name) => SHAPE_EXTENSIONS.has(String(name)));
  if (needed.length > 0)
    throw new KelpError(
      'BAD_FILE',
      `${fileName} is compressed with ${needed.join(', ')}, which Kelp does not read. Export it without compression.`,
    );
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  const bytesOf = (buffer: { uri?: unknown; extensions?: Record<string, unknown> } | null, i: number) => {
    const uri = buffer?.uri;
    if (uri === undefined && i === 0 && chunk !== undefined) return chunk;
    // this one only says how much room its views would take
    if (uri === undefined && buffer?.extensions?.[COMPRESSION]) return undefined;
    if (typeof uri !== 'string' || !uri.startsWith('data:'))
      throw new KelpError(
        'BAD_FILE',
        `${fileName} is not a readable glTF: its data is in another file (${String(uri ?? 'not named').slice(0, 80)}). Export as .glb, which includes everything`,
      );
    resources[uri] ??= fromDataUri(fileName, uri);
    return resources[uri];
  };
  const there = listed(json?.buffers).map(bytesOf);
  const whole = await unpacked(fileName, json, (buffer) => there[buffer]);
  checkClaims(fileName, json, whole ? [whole.length] : there.map((bytes) => bytes?.length ?? 0));
  const own = whole ?? chunk;
  if (own) resources[GLB_BUFFER] = own as Uint8Array<ArrayBuffer>;
  const lists = takeInstances(json);
  try {
    // what is asked for besides changes the look alone; pictures are not needed, and may lie in other files
    for (const name of ['extensionsUsed', 'extensionsRequired', 'images', 'textures', 'materials'] as const)
      json[name] = undefined;
    for (const mesh of json.meshes ?? []) for (const primitive of mesh.primitives ?? []) primitive.material = undefined;
    const document = await new WebIO().readJSON({ json: JSON.parse(JSON.stringify(json)), resources });
    const nodes = document.getRoot().listNodes();
    return { document, instances: new Map([...lists].map(([number, list]) => [nodes[number], list])) };
  } catch (error) {
    throw new KelpError('BAD_FILE', `${fileName} is not a readable glTF: ${(error as Error).message}`);
  }
}

interface GltfJson {
  extensionsUsed?: unknown;
  extensionsRequired?: unknown;
  buffers?: unknown;
  images?: unknown;
  textures?: unknown;
  materials?: unknown;
  meshes?: { primitives?: { material?: unknown }[] }[];
}

// biome-ignore lint/suspicious/noExplicitAny: of any kind until they are checked
const listed = (value: unknown): any[] => (Array.isArray(value) ? value : []);

/** The JSON of a GLB and its binary chunk (section 4.4). @throws KelpError BAD_FILE when it was cut off */
function chunksOf(fileName: string, bytes: Uint8Array): { text: string; chunk: Uint8Array | undefined } {
  const cutOff = (says: number) =>
    new KelpError(
      'BAD_FILE',
      `${fileName} is not a readable glTF: it states ${says} bytes, but ${bytes.byteLength} arrived (cut off)`,
    );
  if (bytes.byteLength < 20) throw cutOff(20);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [declared, length] = [view.getUint32(8, true), view.getUint32(12, true)];
  if (declared > bytes.byteLength) throw cutOff(declared);
  if (20 + length > bytes.byteLength) throw cutOff(20 + length);
  const after = 20 + length;
  const size = after + 8 <= bytes.byteLength ? view.getUint32(after, true) : undefined;
  if (size !== undefined && after + 8 + size > bytes.byteLength) throw cutOff(after + 8 + size);
  const chunk = size === undefined ? undefined : bytes.subarray(after + 8, after + 8 + size);
  return { text: textOf(fileName, bytes.subarray(20, after)), chunk };
}

function fromDataUri(fileName: string, uri: string): Uint8Array<ArrayBuffer> {
  try {
    const text = atob(uri.slice(uri.indexOf(',') + 1));
    return Uint8Array.from(text, (character) => character.charCodeAt(0));
  } catch {
    throw new KelpError('BAD_FILE', `${fileName} is not a readable glTF: one of its buffers is not base64`);
  }
}

function meshOf(node: Node, fileName: string, notes: string[]): Mesh | undefined {
  const parts: Mesh[] = [];
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
    const mesh = primitiveMesh(primitive, `${fileName}: "${node.getName()}"`, notes);
    if (mesh) parts.push(mesh);
    else notes.push(`Lines or points in "${node.getName()}" were skipped: only faces can be drawn on.`);
  }
  return parts.length > 0 ? mergeMeshes(parts) : undefined;
}

function primitiveMesh(primitive: Primitive, place: string, notes: string[]): Mesh | undefined {
  const position = primitive.getAttribute('POSITION');
  const mode = primitive.getMode();
  if (!position || mode < TRIANGLES) return undefined;
  const count = position.getCount();
  const listed = primitive.getIndices()?.getArray();
  const source = listed ? Uint32Array.from(listed) : Uint32Array.from({ length: count }, (_, i) => i);
  for (let i = 0; i < source.length; i++)
    if (source[i] >= count)
      throw new KelpError('BAD_FILE', `${place}: face ${Math.floor(i / 3)} refers to vertex ${source[i]} of ${count}`);
  const index =
    mode === STRIP || mode === FAN
      ? unrolled(source, mode)
      : source.subarray(0, source.length - (source.length % 3)).slice();
  const stored = primitive.getAttribute('NORMAL');
  const normal = stored && floats(stored, count, 3);
  const isSound = normal?.every(Number.isFinite);
  if (normal && !isSound) notes.push(`${place}: its normals are not all numbers; they were recomputed.`);
  const uv = primitive.getAttribute('TEXCOORD_0');
  const mesh: Mesh = {
    position: floats(position, count, 3),
    normal: normal && isSound ? normal : new Float32Array(3 * count),
    uv: uv ? floats(uv, count, 2) : new Float32Array(2 * count),
    index,
    quads: 0,
    groups: [],
    ...attributesOf(primitive, count),
  };
  return isSound ? mesh : withComputedNormals(mesh);
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
  if (mirrored) notes.push(`"${name}" was mirrored by its transform; its faces were flipped back.`);
  if (uneven) notes.push(`"${name}" had an uneven scale in its transform; it was applied.`);
  else if (scaled)
    notes.push(`"${name}" had a scale of ${+Math.abs(scale[0]).toPrecision(3)} in its transform; it was applied.`);
  return transformMesh(mesh, matrix);
}
