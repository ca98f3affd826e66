import { type Material, type Pattern, patternTile } from '@kelp/core';
import {
  DataTexture,
  LinearFilter,
  LinearMipmapLinearFilter,
  type MeshStandardMaterial,
  NoColorSpace,
  RepeatWrapping,
  SRGBColorSpace,
  type Texture,
  TextureLoader,
  Vector2,
} from 'three';
import { kept } from './kept.js';

/** Normal maps are drawn for this relief; any other is the same, scaled. */
const RELIEF = 0.25;
/** Tones are drawn in this many steps, so that a slider fills no memory. */
const TONES = 16;
/** Squares of the checker along a repeat of the texture. */
const SQUARES = 8;
/** Greys of its squares, and of the one that says which way is up. */
const GREYS = [236, 150];

/** What a material wears, as a renderer takes it. */
export interface Worn {
  map: Texture | null;
  normalMap: Texture | null;
  normalScale: Vector2;
}

const FLAT = new Vector2(1, 1);
export const NOTHING_WORN: Worn = { map: null, normalMap: null, normalScale: FLAT };

/** Textures of a material. Pictures are given by their own hook, once they are there. */
export function wornBy({ pattern }: Material, picture: Texture | null = null): Worn {
  if (!pattern) return picture ? { ...NOTHING_WORN, map: picture } : NOTHING_WORN;
  const { kind, relief, tone } = pattern;
  const step = Math.round(TONES * tone);
  return {
    map: picture ?? (step > 0 ? toneMap(`${kind} ${step}`) : null),
    normalMap: relief > 0 ? normalMap(kind) : null,
    // texture v grows downwards
    normalScale: relief > 0 ? new Vector2(relief / RELIEF, -relief / RELIEF) : FLAT,
  };
}

/** The same textures, but their own to be moved: the pictures behind them are shared. */
export const movable = ({ map, normalMap, normalScale }: Worn): Worn => ({
  map: map?.clone() ?? null,
  normalMap: normalMap?.clone() ?? null,
  normalScale,
});

/** Puts textures on a material; one that has others than before is made ready anew. */
export function wear(material: MeshStandardMaterial, { map, normalMap, normalScale }: Worn): void {
  if (Boolean(material.map) !== Boolean(map) || Boolean(material.normalMap) !== Boolean(normalMap))
    material.needsUpdate = true;
  material.map = map;
  material.normalMap = normalMap;
  material.normalScale.copy(normalScale);
}

const normalMap = kept((kind) => {
  const { size, normal } = patternTile({ kind: kind as Pattern['kind'], relief: RELIEF, tone: 0 });
  return repeating(normal, size);
});

const toneMap = kept((key) => {
  const [kind, step] = key.split(' ');
  const { size, tone } = patternTile({ kind: kind as Pattern['kind'], relief: 0, tone: Number(step) / TONES });
  const texture = repeating(tone ?? new Uint8Array(3 * size * size).fill(255), size);
  texture.colorSpace = SRGBColorSpace;
  return texture;
});

const checkers = kept(() => {
  const size = 256;
  const cell = size / SQUARES;
  const rgb = new Uint8Array(3 * size * size);
  for (let j = 0; j < size; j++)
    for (let i = 0; i < size; i++) {
      const [a, b] = [Math.floor(i / cell), Math.floor(j / cell)];
      const at = 3 * (j * size + i);
      rgb.fill(GREYS[(a + b) % 2], at, at + 3);
      // the first square of each row of repeats is tinted: by it one sees which way the texture runs, and its seam
      if (a === 0 && b < 2) rgb.set([217, 119, 43], at);
      else if (a < 2 && b === 0) rgb.set([63, 142, 130], at);
    }
  const texture = repeating(rgb, size);
  texture.colorSpace = SRGBColorSpace;
  return texture;
});

/** Squares by which stretched textures are seen: eight to a repeat, the first ones tinted along and around. */
export const checker = (): Worn => ({ ...NOTHING_WORN, map: checkers('') });

function repeating(rgb: Uint8Array, size: number): DataTexture {
  const data = new Uint8Array(4 * size * size).fill(255);
  for (let k = 0; k < size * size; k++) data.set(rgb.subarray(3 * k, 3 * k + 3), 4 * k);
  const texture = new DataTexture(data, size, size);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.magFilter = LinearFilter;
  texture.minFilter = LinearMipmapLinearFilter;
  texture.generateMipmaps = true;
  texture.anisotropy = 4;
  texture.colorSpace = NoColorSpace;
  texture.needsUpdate = true;
  return texture;
}

/** Loads a stored picture as a texture that repeats, the way a GLB has it. */
export async function pictureTexture(url: string): Promise<Texture> {
  const texture = await new TextureLoader().loadAsync(url);
  texture.flipY = false;
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.colorSpace = SRGBColorSpace;
  texture.anisotropy = 4;
  texture.needsUpdate = true;
  return texture;
}
