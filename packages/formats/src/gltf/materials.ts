import { linearColour, type Material } from '@kelp/core';
import { type PictureFiles, type TextureFile, texturesOf } from './textures.js';

interface WrittenTexture {
  index: number;
  extensions?: object;
}
/** A material as it is in the file. */
interface WrittenMaterial {
  name: string;
  pbrMetallicRoughness: {
    baseColorFactor: number[];
    baseColorTexture?: WrittenTexture;
    roughnessFactor: number;
    metallicFactor: number;
  };
  normalTexture?: WrittenTexture;
  emissiveFactor?: number[];
}

/** The materials of a GLB with the pictures that they wear, each once. */
export class GlbMaterials {
  /** Lists of the file. */
  readonly materials: WrittenMaterial[] = [];
  readonly textures: object[] = [];
  readonly images: object[] = [];
  private readonly known = new Map<string, number>();
  private readonly worn = new Map<string, { colour?: number; normal?: number }>();

  /** @param view puts bytes into the file and says where */
  constructor(
    private readonly pictures: PictureFiles,
    private readonly view: (bytes: Uint8Array) => number,
  ) {}

  /** @param tint linear rgb, multiplied into its colour @returns the material's number */
  of(material: Material, tint: readonly number[] = [1, 1, 1]): number {
    const key = JSON.stringify([material, tint]);
    const old = this.known.get(key);
    if (old !== undefined) return old;
    const { name, colour, roughness, metalness, glow } = material;
    const worn = this.wornBy(material);
    const made = {
      baseColorFactor: [...linearColour(colour).map((value, k) => value * tint[k]), 1],
      ...(worn.colour === undefined ? {} : { baseColorTexture: { index: worn.colour } }),
      roughnessFactor: roughness,
      metallicFactor: metalness,
    };
    const further = {
      ...(worn.normal === undefined ? {} : { normalTexture: { index: worn.normal } }),
      ...(glow ? { emissiveFactor: linearColour(colour).map((value) => value * glow) } : {}),
    };
    const number = this.materials.push({ name, pbrMetallicRoughness: made, ...further }) - 1;
    this.known.set(key, number);
    return number;
  }

  /** Numbers of the textures that a material wears; they are drawn once, whatever tints there are of it. */
  private wornBy(material: Material): { colour?: number; normal?: number } {
    const key = JSON.stringify([material.pattern, material.picture]);
    let worn = this.worn.get(key);
    if (!worn) {
      const { colour, normal } = texturesOf(material, this.pictures);
      worn = {
        ...(colour ? { colour: this.texture(colour) } : {}),
        ...(normal ? { normal: this.texture(normal) } : {}),
      };
      this.worn.set(key, worn);
    }
    return worn;
  }

  /** A picture within the file, once however many materials wear it. */
  private texture({ name, mimeType, bytes }: TextureFile): number {
    const key = `texture ${digest(bytes)}`;
    const old = this.known.get(key);
    if (old !== undefined) return old;
    const source = this.images.push({ name, mimeType, bufferView: this.view(bytes) }) - 1;
    const index = this.textures.push({ source, sampler: 0 }) - 1;
    this.known.set(key, index);
    return index;
  }
}

/** A few bits of all of a file, to tell files apart that are as long. */
function digest(bytes: Uint8Array): string {
  let [a, b] = [0, 0];
  for (const byte of bytes) {
    a = Math.imul(a, 31) + byte;
    b = Math.imul(b ^ byte, 0x9e3779b1);
  }
  return `${bytes.length} ${a} ${b}`;
}
