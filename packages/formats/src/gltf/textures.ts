import { type Material, patternTile } from '@kelp/core';
import { writePng } from '../picture/write-png.js';

/** Bytes of a stored picture by the hash that a material names; undefined where it is not there. */
export type PictureFiles = (hash: string) => Uint8Array | undefined;

/** How a picture is read between its pixels, and beyond its edge: smoothly, again and again (glTF 2.0, section 5.26). */
export const SAMPLER = { magFilter: 9729, minFilter: 9987, wrapS: 10_497, wrapT: 10_497 };

export interface TextureFile {
  name: string;
  mimeType: 'image/png' | 'image/jpeg';
  bytes: Uint8Array;
}

/** The pictures that a material wears: over its colour, and its normal map. */
export function texturesOf(
  { pattern, picture }: Material,
  pictures: PictureFiles,
): { colour?: TextureFile; normal?: TextureFile } {
  const stored = picture === undefined ? undefined : pictures(picture);
  const tile = pattern && patternTile(pattern);
  const png = (name: string, rgb: Uint8Array): TextureFile => ({
    name,
    mimeType: 'image/png',
    bytes: writePng(tile?.size ?? 0, tile?.size ?? 0, rgb),
  });
  const colour = stored
    ? {
        name: 'Picture',
        mimeType: stored[0] === 0xff ? ('image/jpeg' as const) : ('image/png' as const),
        bytes: stored,
      }
    : tile?.tone && png(`${pattern?.kind} tone`, tile.tone);
  return {
    ...(colour ? { colour } : {}),
    ...(tile && pattern && pattern.relief > 0 ? { normal: png(`${pattern.kind} normal`, tile.normal) } : {}),
  };
}
