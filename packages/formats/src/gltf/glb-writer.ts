import {
  type BakedMesh,
  type BakedMoving,
  type BakedPlaced,
  type BakedShaping,
  type BakedStrands,
  boundsOf,
  KelpError,
  type Material,
  type Mesh,
  slidRepeats,
  strandMeshes,
  transformMesh,
} from '@kelp/core';
import type { BakeWriter, Sections } from '../written/bake-writer.js';
import { type NodeKeys, rideKeys, turnKeys } from './animation.js';
import { COMPRESSION, compressed, type Mode } from './compressed.js';
import { INSTANCING } from './instances.js';
import { GlbMaterials } from './materials.js';
import { placesOf } from './places.js';
import { RECIPE, SETTINGS } from './recipe.js';
import { type PictureFiles, SAMPLER } from './textures.js';

/** Numbers of the standard (glTF 2.0, sections 3.6.2.2, 3.7.2.1 and 4.4). */
const FLOAT = 5126;
const UNSIGNED_SHORT = 5123;
const UNSIGNED_INT = 5125;
const VERTICES = 34_962;
const INDICES = 34_963;
const LINES = 1;
const TRIANGLES = 4;
const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;
/** Whole numbers are written as floats: of an id these bits are kept. */
const EXACT = 0xff_ffff;
/** The head of a file with as many bytes of numbers is filled up with blanks to this length, where it is not longer. */
const ROOM = 2 ** 16;
const LONG = 2 ** 22;
/** Lengths in a GLB are 32 bits. */
const MOST_BYTES = 2 ** 32 - 1;

const TRANSFORM = 'KHR_texture_transform';
const POINTER = 'KHR_animation_pointer';

const TYPES = ['SCALAR', 'VEC2', 'VEC3', 'VEC4'] as const;

/**
 * Binary glTF 2.0 as its meshes are made, one node each: metres, +Y up, counter-clockwise fronts, v along the length.
 * Their numbers go out at once and are not kept; what stands before them in the file is known when all are there.
 */
export class GlbWriter implements BakeWriter {
  readonly room = ROOM;
  private readonly accessors: object[] = [];
  private readonly views: object[] = [];
  private readonly meshes: object[] = [];
  private readonly nodes: object[] = [];
  private readonly dress: GlbMaterials;
  /** Nodes that stand in the scene themselves; others hang below one. */
  private readonly roots: number[] = [];
  private readonly samplers: object[] = [];
  private readonly channels: object[] = [];
  private readonly times = new Map<Float32Array, number>();
  private readonly extensions = new Set<string>();
  /** Those that a reader may leave out of account. */
  private readonly extensionsUsed = new Set<string>();
  private readonly pieces = new Map<string, { root: number; nodes: number[]; parent?: object }>();
  /** Where the project's archive is. */
  private recipe: number | undefined;
  private settings: object | undefined;
  private bytes = 0;
  /** Bytes that the compressed views would take. */
  private unpacked = 0;

  /**
   * @param sections takes the bytes that follow the head, in their order
   * @param pictures the files of pictures that materials wear; one that is not there is left out
   * @param compress whether meshes are compressed; the encoder must be ready then
   */
  constructor(
    private readonly sceneName: string,
    private readonly sections: Sections,
    pictures: PictureFiles = () => undefined,
    private readonly compress = false,
  ) {
    this.dress = new GlbMaterials(pictures, (bytes) => this.view(bytes));
  }

  /** @throws KelpError TOO_LARGE when the file would be longer than the format can say */
  add({ name, mesh, material, piece, at }: BakedMesh): void {
    this.root({ name, ...(mesh.index.length > 0 ? { mesh: this.meshOf(name, mesh, material) } : {}) }, piece, at);
  }

  /** One mesh in many places (EXT_mesh_gpu_instancing); as a node each where a place leans, which that cannot say. */
  addPlaced({ name, mesh, material, places, piece, at }: BakedPlaced): void {
    if (mesh.index.length === 0 || places.id.length === 0) return;
    const number = this.meshOf(name, mesh, material);
    const { colour, matrix } = places;
    const ways = placesOf(matrix);
    if (!ways) {
      const children = Array.from(
        places.id,
        (_, n) =>
          this.nodes.push({
            name: `${name} ${n + 1}`,
            mesh: colour ? this.tinted(number, material, colour.subarray(3 * n, 3 * n + 3)) : number,
            matrix: [...matrix.subarray(16 * n, 16 * n + 16)],
          }) - 1,
      );
      this.root({ name, children }, piece, at);
      return;
    }
    this.extensions.add(INSTANCING);
    const attributes = {
      TRANSLATION: this.accessor(ways.translation, 3, {}, false),
      ROTATION: this.accessor(ways.rotation, 4, {}, false),
      SCALE: this.accessor(ways.scale, 3, {}, false),
      ...(colour ? { _COLOR_0: this.accessor(Float32Array.from(colour), 3, {}, false) } : {}),
    };
    this.root({ name, mesh: number, extensions: { [INSTANCING]: { attributes } } }, piece, at);
  }

  /** The project that it came from, as the bytes of an archive that the scene's extras name, and how it was baked. */
  addRecipe(archive: Uint8Array, settings?: object): void {
    this.recipe = this.view(archive);
    this.settings = settings;
  }

  /**
   * Those of one piece are put below a node of its own, once there are several.
   * @param at the origin that they are told from
   */
  private root(node: object, piece?: string, at?: readonly number[]): number {
    const own: { translation?: number[] } = at ? { ...node, translation: [...at] } : node;
    const number = this.nodes.push(own) - 1;
    if (piece === undefined) return this.roots.push(number);
    // two pieces may have one name, but not one origin
    const key = JSON.stringify([piece, at]);
    const known = this.pieces.get(key);
    if (!known) {
      this.pieces.set(key, { root: this.roots.length, nodes: [number] });
      return this.roots.push(number);
    }
    known.nodes.push(number);
    delete own.translation;
    if (known.nodes.length === 2) {
      const first = this.nodes[known.nodes[0]] as { translation?: number[] };
      known.parent = { name: piece, children: known.nodes, ...(at ? { translation: [...at] } : {}) };
      delete first.translation;
      this.roots[known.root] = this.nodes.push(known.parent) - 1;
    }
    return number;
  }

  /** @returns its number among the meshes */
  private meshOf(name: string, mesh: Mesh, material: Material): number {
    // 65,535 is no vertex in 16 bits: it restarts a strip
    const short = mesh.position.length / 3 <= 65_535;
    const { min, max } = boundsOf(mesh.position);
    const attributes: Record<string, number> = {
      POSITION: this.accessor(mesh.position, 3, { min: [...min], max: [...max] }),
      NORMAL: this.accessor(mesh.normal, 3),
      TEXCOORD_0: this.accessor(mesh.uv, 2),
    };
    // whole numbers have no place among a vertex's attributes in glTF: as floats they are exact up to 2²⁴
    for (const [own, { size, data }] of Object.entries(mesh.attributes ?? {}))
      attributes[attributeName(own, size)] = this.accessor(
        data instanceof Float32Array ? data : Float32Array.from(data),
        size,
      );
    const indices = this.accessor(short ? Uint16Array.from(mesh.index) : mesh.index, 1);
    const primitive = { attributes, indices, mode: TRIANGLES, material: this.dress.of(material) };
    return this.meshes.push({ name, primitives: [primitive] }) - 1;
  }

  /**
   * What moves, with its movement as an animation: a wheel is turned about its own middle; of what rides each place is a
   * node, all of them below one.
   */
  addMoving({ name, mesh, material, track, seconds }: BakedMoving): void {
    if (mesh.index.length === 0) return;
    if (track.kind === 'turn') {
      const [x, y, z] = track.at;
      const own = transformMesh(mesh, Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -x, -y, -z, 1));
      this.root({ name, mesh: this.meshOf(name, own, material), translation: [x, y, z] });
      this.animate(this.nodes.length - 1, turnKeys(track, seconds));
      return;
    }
    if (track.kind === 'slide') {
      this.addSliding(name, mesh, material, slidRepeats(track, material.repeat), seconds);
      return;
    }
    const number = this.meshOf(name, mesh, material);
    const { colour } = track;
    const children = rideKeys(track, seconds).map((keys, n) => {
      const { translation, rotation, scale } = keys;
      const node = this.nodes.push({
        name: `${name} ${n + 1}`,
        mesh: colour ? this.tinted(number, material, colour.subarray(3 * n, 3 * n + 3)) : number,
        translation: [...(translation ?? []).slice(0, 3)],
        rotation: [...(rotation ?? []).slice(0, 4)],
        scale: [...(scale?.values ?? []).slice(0, 3)],
      });
      this.animate(node - 1, keys);
      return node - 1;
    });
    this.root({ name, children });
  }

  /** What stands while its textures run along it: their offsets are led by pointers to them (KHR_animation_pointer). */
  private addSliding(name: string, mesh: Mesh, material: Material, repeats: number, seconds: number): void {
    // a material of its own: others that look like it stand still
    const number = this.meshOf(name, mesh, { ...material, name: `${material.name} running` });
    this.root({ name, mesh: number });
    const { primitives } = this.meshes[number] as { primitives: { material: number }[] };
    const at = primitives[0].material;
    const made = this.dress.materials[at];
    const times = Float32Array.of(0, seconds);
    for (const [texture, path] of [
      [made.pbrMetallicRoughness.baseColorTexture, 'pbrMetallicRoughness/baseColorTexture'],
      [made.normalTexture, 'normalTexture'],
    ] as const) {
      if (!texture) continue;
      texture.extensions = { [TRANSFORM]: { offset: [0, 0] } };
      this.extensionsUsed.add(TRANSFORM).add(POINTER);
      this.animate(-1, {
        times,
        pointer: {
          to: `/materials/${at}/${path}/extensions/${TRANSFORM}/offset`,
          values: Float32Array.of(0, 0, 0, -repeats),
        },
      });
    }
  }

  /** A mesh with its further shapes as morph targets, and how much of each there is over the loop as an animation. */
  addShapes({ name, mesh, targets, keys, material, seconds }: BakedShaping): void {
    if (mesh.index.length === 0) return;
    const number = this.meshOf(name, mesh, material);
    const made = this.meshes[number] as { primitives: { targets?: object[] }[]; weights?: number[] };
    made.primitives[0].targets = targets.map(({ position, normal }) => {
      const { min, max } = boundsOf(position);
      return {
        POSITION: this.accessor(position, 3, { min: [...min], max: [...max] }),
        NORMAL: this.accessor(normal, 3),
      };
    });
    made.weights = targets.map(() => 0);
    this.root({ name, mesh: number });
    const times = Float32Array.from(keys, ({ phase }) => seconds * phase);
    const values = Float32Array.from({ length: keys.length * targets.length }, (_, i) =>
      keys[Math.floor(i / targets.length)].shape - 1 === i % targets.length ? 1 : 0,
    );
    this.animate(this.nodes.length - 1, { times, weights: values });
  }

  /** The same mesh in a material of another tint. @returns its number among the meshes */
  private tinted(number: number, material: Material, tint: ArrayLike<number>): number {
    const { name, primitives } = this.meshes[number] as { name: string; primitives: object[] };
    return (
      this.meshes.push({
        name,
        primitives: [{ ...primitives[0], material: this.dress.of(material, [tint[0], tint[1], tint[2]]) }],
      }) - 1
    );
  }

  private animate(node: number, { times, translation, rotation, scale, weights, pointer }: NodeKeys): void {
    const [first, last] = [times[0], times[times.length - 1]];
    const known = this.times.get(times);
    const input = known ?? this.accessor(times, 1, { min: [first], max: [last] }, false);
    this.times.set(times, input);
    const channel = (path: string, values: Float32Array, size: number, steps = false) => {
      const sampler = this.samplers.push({ input, output: this.accessor(values, size, {}, false), interpolation: steps ? 'STEP' : 'LINEAR' });
      this.channels.push({ sampler: sampler - 1, target: { node, path } });
    };
    if (pointer) {
      const sampler = this.samplers.push({ input, output: this.accessor(pointer.values, 2, {}, false), interpolation: 'LINEAR' });
      this.channels.push({ sampler: sampler - 1, target: { path: 'pointer', extensions: { [POINTER]: { pointer: pointer.to } } } });
    }
    if (weights) channel('weights', weights, 1);
    if (translation) channel('translation', translation, 3);
    if (rotation) channel('rotation', rotation, 4);
    if (scale && scale.values.length > 3) channel('scale', scale.values, 3, scale.steps);
  } // biome-ignore format: its longest line in one

  /** Strands as meshes, so many at once as fit comfortably; or as lines, with their width and colour at every point. */
  addStrands({ name, material, strands }: BakedStrands): void {
    if (strands.shape !== 'lines') {
      let k = 0;
      for (const mesh of strandMeshes(strands)) this.add({ name: k++ === 0 ? name : `${name} ${k}`, mesh, material });
      return;
    }
    const { curves, width } = strands;
    const { start, closed, pointData, curveData, id } = curves;
    const points = width.length;
    if (points === 0) {
      this.root({ name });
      return;
    }
    const position = Float32Array.from(curves.position);
    const { min, max } = boundsOf(position);
    const attributes: Record<string, number> = {
      POSITION: this.accessor(position, 3, { min: [...min], max: [...max] }),
      _WIDTH: this.accessor(width, 1),
    };
    const own = pointData['colour'];
    if (own) attributes['COLOR_0'] = this.accessor(own, 3);
    const each = (data: ArrayLike<number>) => {
      const out = new Float32Array(points);
      for (let c = 0; c < closed.length; c++) out.fill(data[c] & EXACT, start[c], start[c + 1]);
      return out;
    };
    attributes['_STRAND'] = this.accessor(each(id), 1);
    for (const kind of ['layer', 'clump'])
      if (curveData[kind]) attributes[`_${kind.toUpperCase()}`] = this.accessor(each(curveData[kind]), 1);
    const ends: number[] = [];
    for (let c = 0; c < closed.length; c++) {
      for (let p = start[c]; p + 1 < start[c + 1]; p++) ends.push(p, p + 1);
      if (closed[c]) ends.push(start[c + 1] - 1, start[c]);
    }
    const indices = this.accessor(
      points <= 65_535 ? Uint16Array.from(ends) : Uint32Array.from(ends),
      1,
      {},
      true,
      'INDICES',
    );
    const primitive = { attributes, indices, mode: LINES, material: this.dress.of(material) };
    this.root({ name, mesh: this.meshes.push({ name, primitives: [primitive] }) - 1 });
  }

  /** What the file says of itself. */
  content(): { buffers?: { byteLength: number }[]; [list: string]: unknown } {
    const { samplers, channels } = this;
    const used = [...this.extensions, ...this.extensionsUsed];
    const animations = channels.length > 0 ? [{ name: 'Clock', samplers, channels }] : [];
    const lists = {
      accessors: this.accessors,
      bufferViews: this.views,
      meshes: this.meshes,
      nodes: this.nodes,
      animations,
      textures: this.dress.textures,
      images: this.dress.images,
      samplers: this.dress.textures.length > 0 ? [SAMPLER] : [],
    };
    return {
      asset: { version: '2.0', generator: 'Kelp' },
      scene: 0,
      ...(used.length > 0 ? { extensionsUsed: used } : {}),
      ...(this.extensions.size > 0 ? { extensionsRequired: [...this.extensions] } : {}),
      scenes: [
        {
          name: this.sceneName,
          ...(this.roots.length > 0 ? { nodes: this.roots } : {}),
          ...(this.recipe === undefined
            ? {}
            : { extras: { [RECIPE]: this.recipe, ...(this.settings ? { [SETTINGS]: this.settings } : {}) } }),
        },
      ],
      // lists of the standard are left out rather than empty
      ...Object.fromEntries(
        Object.entries({ ...lists, materials: this.dress.materials }).filter(([, list]) => list.length),
      ),
      ...(this.bytes > 0 ? { buffers: this.buffers() } : {}),
    };
  }

  /** What the file begins with; what the sections were given follows it. */
  head(): Uint8Array {
    const text = new TextEncoder().encode(JSON.stringify(this.content()));
    const binary = this.bytes > 0 ? 8 : 0;
    const filled = this.bytes >= LONG && 20 + text.length + binary <= ROOM;
    const room = filled ? ROOM - 20 - binary : text.length + (-text.length & 3);
    const length = 20 + room + binary + this.bytes;
    if (length > MOST_BYTES) throw tooLarge();
    const out = new Uint8Array(20 + room + binary).fill(0x20, 20);
    const view = new DataView(out.buffer);
    [MAGIC, 2, length, room, JSON_CHUNK].forEach((value, i) => {
      view.setUint32(4 * i, value, true);
    });
    out.set(text, 20);
    if (binary) {
      view.setUint32(20 + room, this.bytes, true);
      view.setUint32(24 + room, BIN_CHUNK, true);
    }
    return out;
  }

  private buffers(): { byteLength: number }[] {
    const own = { byteLength: this.bytes };
    // no bytes are there of the second: it says where the views of the first would lie without compression
    const bare = { byteLength: this.unpacked, extensions: { [COMPRESSION]: { fallback: true } } };
    return this.unpacked > 0 ? [own, bare] : [own];
  }

  private accessor(
    data: Float32Array | Uint16Array | Uint32Array,
    size: number,
    limits: object = {},
    ofMesh = true,
    mode: Mode = data instanceof Float32Array ? 'ATTRIBUTES' : 'TRIANGLES',
  ): number {
    const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    const target = data instanceof Float32Array ? VERTICES : INDICES;
    const view =
      ofMesh && this.compress
        ? this.packedView(bytes, size * data.BYTES_PER_ELEMENT, mode, target)
        : this.view(bytes, ofMesh ? { target } : {});
    const componentType =
      data instanceof Float32Array ? FLOAT : data instanceof Uint16Array ? UNSIGNED_SHORT : UNSIGNED_INT;
    const type = TYPES[size - 1];
    return this.accessors.push({ bufferView: view, componentType, count: data.length / size, type, ...limits }) - 1;
  }

  /** A view whose bytes are compressed. */
  private packedView(bytes: Uint8Array, byteStride: number, mode: Mode, target: number): number {
    const count = bytes.length / byteStride;
    const packed = compressed(bytes, count, byteStride, mode);
    const byteOffset = this.write(packed);
    const view = { buffer: 1, byteOffset: this.unpacked, byteLength: bytes.length, target, extensions: { [COMPRESSION]: { buffer: 0, byteOffset, byteLength: packed.length, byteStride, mode, count } } };
    this.unpacked += bytes.length + (-bytes.length & 3);
    this.extensions.add(COMPRESSION);
    return this.views.push(view) - 1;
  } // biome-ignore format: its longer lines

  private view(bytes: Uint8Array, further: object = {}): number {
    const byteOffset = this.write(bytes);
    return this.views.push({ buffer: 0, byteOffset, byteLength: bytes.length, ...further }) - 1;
  }

  /** @returns where the bytes are in the file's buffer */
  private write(bytes: Uint8Array): number {
    const at = this.bytes;
    // every number of 4 bytes lies at a multiple of 4
    const padding = -bytes.length & 3;
    this.bytes += bytes.length + padding;
    if (this.bytes > MOST_BYTES) throw tooLarge();
    this.sections(bytes, 0);
    if (padding > 0) this.sections(new Uint8Array(padding), 0);
    return at;
  }
}

const tooLarge = () =>
  new KelpError(
    'TOO_LARGE',
    'The meshes come to more than 4 GB, which is all that a GLB holds. Bake fewer pieces at once, or at a lower density.',
  );

/** What glTF calls an attribute; names it does not know begin with a line (glTF 2.0, section 3.7.2.1). */
function attributeName(own: string, size: number): string {
  if (own === 'colour' && size >= 3) return 'COLOR_0';
  if (own === 'tangent' && size === 4) return 'TANGENT';
  if (own === 'uv2' && size === 2) return 'TEXCOORD_1';
  return `_${own.toUpperCase().replaceAll(/\W/g, '_')}`;
}
