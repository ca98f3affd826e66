import {
  type BakedMesh,
  type BakedMoving,
  type BakedPlaced,
  type BakedShaping,
  type BakedStrands,
  boundsOf,
  type Material,
  type Mesh,
  slidRepeats,
  strandMeshes,
  transformMesh,
} from '@kelp/core';
import type { BakeWriter, Sections } from '../written/bake-writer.js';
import { rideKeys, turnKeys } from './animation.js';
import { GltfChannels, POINTER } from './channels.js';
import { COMPRESSION } from './compressed.js';
import { INSTANCING } from './instances.js';
import { GlbMaterials } from './materials.js';
import { GltfNodes } from './nodes.js';
import { GltfNumbers, MAX_BYTES, tooLarge } from './numbers.js';
import { placesOf } from './places.js';
import { RECIPE, SETTINGS } from './recipe.js';
import { type PictureFiles, SAMPLER } from './textures.js';

/** Numbers of the standard (glTF 2.0, sections 3.7.2.1 and 4.4). */
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

const TRANSFORM = 'KHR_texture_transform';

/**
 * Binary glTF 2.0 as its meshes are made, one node each: metres, +Y up, counter-clockwise fronts, v along the length.
 * Their numbers go out at once and are not kept; what is before them in the file is known when all are there.
 */
export class GlbWriter implements BakeWriter {
  readonly room = ROOM;
  private readonly numbers: GltfNumbers;
  private readonly nodes = new GltfNodes();
  private readonly channels: GltfChannels;
  private readonly dress: GlbMaterials;
  private readonly meshes: object[] = [];
  private readonly extensions = new Set<string>();
  /** Those that a reader may leave out of account. */
  private readonly extensionsUsed = new Set<string>();
  /** Where the project's archive is. */
  private recipe: number | undefined;
  private settings: object | undefined;

  /**
   * @param sections takes the bytes that follow the head, in their order
   * @param pictures the files of pictures that materials wear; one that is not there is left out
   * @param compress whether meshes are compressed; the encoder must be ready then
   */
  constructor(
    private readonly sceneName: string,
    sections: Sections,
    pictures: PictureFiles = () => undefined,
    compress = false,
  ) {
    this.numbers = new GltfNumbers(sections, compress);
    this.channels = new GltfChannels(this.numbers);
    this.dress = new GlbMaterials(pictures, (bytes) => this.numbers.view(bytes));
  }

  /** @throws KelpError TOO_LARGE when the file would be longer than the format can say */
  add({ name, mesh, material, piece, at }: BakedMesh): void {
    this.nodes.root({ name, ...(mesh.index.length > 0 ? { mesh: this.meshOf(name, mesh, material) } : {}) }, piece, at);
  }

  /** One mesh in many places (EXT_mesh_gpu_instancing); as a node each where a place leans, which that cannot say. */
  addPlaced({ name, mesh, material, places, piece, at }: BakedPlaced): void {
    if (mesh.index.length === 0 || places.id.length === 0) return;
    const number = this.meshOf(name, mesh, material);
    const { colour, matrix } = places;
    const ways = placesOf(matrix);
    if (!ways) {
      const children = Array.from(places.id, (_, n) =>
        this.nodes.child({
          name: `${name} ${n + 1}`,
          mesh: colour ? this.tinted(number, material, colour.subarray(3 * n, 3 * n + 3)) : number,
          matrix: [...matrix.subarray(16 * n, 16 * n + 16)],
        }),
      );
      this.nodes.root({ name, children }, piece, at);
      return;
    }
    this.extensions.add(INSTANCING);
    const attributes = {
      TRANSLATION: this.numbers.accessor(ways.translation, 3, {}, false),
      ROTATION: this.numbers.accessor(ways.rotation, 4, {}, false),
      SCALE: this.numbers.accessor(ways.scale, 3, {}, false),
      ...(colour ? { _COLOR_0: this.numbers.accessor(Float32Array.from(colour), 3, {}, false) } : {}),
    };
    this.nodes.root({ name, mesh: number, extensions: { [INSTANCING]: { attributes } } }, piece, at);
  }

  /** The project that it came from, as the bytes of an archive that the scene's extras name, and how it was baked. */
  addRecipe(archive: Uint8Array, settings?: object): void {
    this.recipe = this.numbers.view(archive);
    this.settings = settings;
  }

  /** @returns its number among the meshes */
  private meshOf(name: string, mesh: Mesh, material: Material): number {
    // 65,535 is no vertex in 16 bits: it restarts a strip
    const short = mesh.position.length / 3 <= 65_535;
    const { min, max } = boundsOf(mesh.position);
    const attributes: Record<string, number> = {
      POSITION: this.numbers.accessor(mesh.position, 3, { min: [...min], max: [...max] }),
      NORMAL: this.numbers.accessor(mesh.normal, 3),
      TEXCOORD_0: this.numbers.accessor(mesh.uv, 2),
    };
    // whole numbers have no place among a vertex's attributes in glTF: as floats they are exact up to 2²⁴
    for (const [own, { size, data }] of Object.entries(mesh.attributes ?? {}))
      attributes[attributeName(own, size)] = this.numbers.accessor(
        data instanceof Float32Array ? data : Float32Array.from(data),
        size,
      );
    const indices = this.numbers.accessor(short ? Uint16Array.from(mesh.index) : mesh.index, 1);
    const primitive = { attributes, indices, mode: TRIANGLES, material: this.dress.of(material) };
    return this.meshes.push({ name, primitives: [primitive] }) - 1;
  }

  /**
   * What moves, with its movement as an animation: a wheel is turned about its own middle; of what moves each place is a
   * node, all of them below one.
   */
  addMoving({ name, mesh, material, track, seconds }: BakedMoving): void {
    if (mesh.index.length === 0) return;
    if (track.kind === 'turn') {
      const [x, y, z] = track.at;
      const own = transformMesh(mesh, Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -x, -y, -z, 1));
      const node = this.nodes.root({ name, mesh: this.meshOf(name, own, material), translation: [x, y, z] });
      this.channels.animate(node, turnKeys(track, seconds));
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
      const node = this.nodes.child({
        name: `${name} ${n + 1}`,
        mesh: colour ? this.tinted(number, material, colour.subarray(3 * n, 3 * n + 3)) : number,
        translation: [...(translation ?? []).slice(0, 3)],
        rotation: [...(rotation ?? []).slice(0, 4)],
        scale: [...(scale?.values ?? []).slice(0, 3)],
      });
      this.channels.animate(node, keys);
      return node;
    });
    this.nodes.root({ name, children });
  }

  /** What is while its textures run along it: their offsets are led by pointers to them (KHR_animation_pointer). */
  private addSliding(name: string, mesh: Mesh, material: Material, repeats: number, seconds: number): void {
    // a material of its own: others that look like it stand still
    const number = this.meshOf(name, mesh, { ...material, name: `${material.name} running` });
    this.nodes.root({ name, mesh: number });
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
      this.channels.animate(-1, {
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
        POSITION: this.numbers.accessor(position, 3, { min: [...min], max: [...max] }),
        NORMAL: this.numbers.accessor(normal, 3),
      };
    });
    made.weights = targets.map(() => 0);
    const node = this.nodes.root({ name, mesh: number });
    const times = Float32Array.from(keys, ({ phase }) => seconds * phase);
    const values = Float32Array.from({ length: keys.length * targets.length }, (_, i) =>
      keys[Math.floor(i / targets.length)].shape - 1 === i % targets.length ? 1 : 0,
    );
    this.channels.animate(node, { times, weights: values });
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

  /** Strands as meshes, this many at once as fit comfortably; or as lines, with their width and colour at every point. */
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
      this.nodes.root({ name });
      return;
    }
    const position = Float32Array.from(curves.position);
    const { min, max } = boundsOf(position);
    const attributes: Record<string, number> = {
      POSITION: this.numbers.accessor(position, 3, { min: [...min], max: [...max] }),
      _WIDTH: this.numbers.accessor(width, 1),
    };
    const own = pointData['colour'];
    if (own) attributes['COLOR_0'] = this.numbers.accessor(own, 3);
    const each = (data: ArrayLike<number>) => {
      const out = new Float32Array(points);
      for (let c = 0; c < closed.length; c++) out.fill(data[c] & EXACT, start[c], start[c + 1]);
      return out;
    };
    attributes['_STRAND'] = this.numbers.accessor(each(id), 1);
    for (const kind of ['layer', 'clump'])
      if (curveData[kind]) attributes[`_${kind.toUpperCase()}`] = this.numbers.accessor(each(curveData[kind]), 1);
    const ends: number[] = [];
    for (let c = 0; c < closed.length; c++) {
      for (let p = start[c]; p + 1 < start[c + 1]; p++) ends.push(p, p + 1);
      if (closed[c]) ends.push(start[c + 1] - 1, start[c]);
    }
    const indices = this.numbers.accessor(
      points <= 65_535 ? Uint16Array.from(ends) : Uint32Array.from(ends),
      1,
      {},
      true,
      'INDICES',
    );
    const primitive = { attributes, indices, mode: LINES, material: this.dress.of(material) };
    this.nodes.root({ name, mesh: this.meshes.push({ name, primitives: [primitive] }) - 1 });
  }

  /** What the file says of itself. */
  content(): { buffers?: { byteLength: number }[]; [list: string]: unknown } {
    const { numbers, nodes, channels } = this;
    if (numbers.isCompressed) this.extensions.add(COMPRESSION);
    const used = [...this.extensions, ...this.extensionsUsed];
    const lists = {
      accessors: numbers.accessors,
      bufferViews: numbers.views,
      meshes: this.meshes,
      nodes: nodes.all,
      animations: channels.animations(),
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
          ...(nodes.roots.length > 0 ? { nodes: nodes.roots } : {}),
          ...(this.recipe === undefined
            ? {}
            : { extras: { [RECIPE]: this.recipe, ...(this.settings ? { [SETTINGS]: this.settings } : {}) } }),
        },
      ],
      // lists of the standard are left out rather than empty
      ...Object.fromEntries(
        Object.entries({ ...lists, materials: this.dress.materials }).filter(([, list]) => list.length),
      ),
      ...(numbers.bytes > 0 ? { buffers: numbers.buffers() } : {}),
    };
  }

  /** What the file begins with; what the sections were given follows it. */
  head(): Uint8Array {
    const text = new TextEncoder().encode(JSON.stringify(this.content()));
    const { bytes } = this.numbers;
    const binary = bytes > 0 ? 8 : 0;
    const filled = bytes >= LONG && 20 + text.length + binary <= ROOM;
    const room = filled ? ROOM - 20 - binary : text.length + (-text.length & 3);
    const length = 20 + room + binary + bytes;
    if (length > MAX_BYTES) throw tooLarge();
    const out = new Uint8Array(20 + room + binary).fill(0x20, 20);
    const view = new DataView(out.buffer);
    [MAGIC, 2, length, room, JSON_CHUNK].forEach((value, i) => {
      view.setUint32(4 * i, value, true);
    });
    out.set(text, 20);
    if (binary) {
      view.setUint32(20 + room, bytes, true);
      view.setUint32(24 + room, BIN_CHUNK, true);
    }
    return out;
  }
}

/** What glTF calls an attribute; names it does not know begin with a line (glTF 2.0, section 3.7.2.1). */
function attributeName(own: string, size: number): string {
  if (own === 'colour' && size >= 3) return 'COLOR_0';
  if (own === 'tangent' && size === 4) return 'TANGENT';
  if (own === 'uv2' && size === 2) return 'TEXCOORD_1';
  return `_${own.toUpperCase().replaceAll(/\W/g, '_')}`;
}
