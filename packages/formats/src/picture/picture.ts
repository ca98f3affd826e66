import { KelpError } from '@kelp/core';
import { imageSize } from 'image-size';

/** Reference pictures: larger ones are refused, bytes and pixels a side. */
export const MAX_PICTURE_BYTES = 32 * 1024 * 1024;
const MAX_PIXELS = 16_384;
/** No PNG or JPEG with its size in it is shorter, bytes. */
const MIN_BYTES = 33;

export interface PictureInfo {
  type: 'png' | 'jpg';
  width: number;
  height: number;
}

/** True when the bytes begin as a PNG (ISO/IEC 15948) or a JPEG (ITU-T T.81) does. */
export const looksLikePicture = (bytes: Uint8Array): boolean =>
  (bytes[0] === 0x89 && bytes[1] === 0x50 && bytes[2] === 0x4e && bytes[3] === 0x47) ||
  (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff);

/**
 * Kind and size of a reference picture.
 * @throws KelpError BAD_FILE where it is no PNG or JPEG, TOO_LARGE
 */
export function pictureInfo(fileName: string, bytes: Uint8Array): PictureInfo {
  if (!looksLikePicture(bytes))
    throw new KelpError('BAD_FILE', `${fileName} is not an image that Kelp reads (PNG or JPEG)`);
  if (bytes.byteLength > MAX_PICTURE_BYTES)
    throw new KelpError('TOO_LARGE', `${fileName} is larger than ${MAX_PICTURE_BYTES / 2 ** 20} MB`);
  if (bytes.byteLength < MIN_BYTES) throw new KelpError('BAD_FILE', `${fileName} is broken: it was cut off`);
  let size: { width: number; height: number };
  try {
    size = imageSize(bytes);
  } catch (error) {
    throw new KelpError('BAD_FILE', `${fileName} is broken: ${(error as Error).message}`);
  }
  const { width, height } = size;
  if (!(width > 0 && height > 0)) throw new KelpError('BAD_FILE', `${fileName} is an image without size`);
  if (Math.max(width, height) > MAX_PIXELS)
    throw new KelpError('TOO_LARGE', `${fileName} is ${width} × ${height} pixels (limit ${MAX_PIXELS} per side)`);
  return { type: bytes[0] === 0x89 ? 'png' : 'jpg', width, height };
}
