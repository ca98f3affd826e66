import { KelpError, type Shades } from '@kelp/core';
import { decode as decodePng } from 'fast-png';
import { decode as decodeJpeg } from 'jpeg-js';
import { pictureInfo } from './picture.js';
import { plainPng } from './plain-png.js';

/** Larger pictures are not read for their shades: pixels in all, and what a JPEG may take, MB. */
const MAX_PIXELS = 16_777_216;
const JPEG_MEMORY = 512;
/** Shades are kept this fine, pixels a side at most. */
const KEPT = 1024;

/** Rows of a picture: red, green, blue and how opaque each pixel is, 0…1. */
interface Pixels {
  width: number;
  height: number;
  colour(pixel: number): readonly [number, number, number, number];
}

/**
 * How light a picture is and its colours, pixel by pixel, at most 1024 a side; the same wherever it is read. Light is the luma
 * of the colours as stored (ITU-R BT.709), times how opaque they are.
 * @throws KelpError BAD_FILE where it is no PNG or JPEG or a broken one, TOO_LARGE above 16.7 million pixels
 */
export function readShades(fileName: string, bytes: Uint8Array): Shades {
  const { type, width, height } = pictureInfo(fileName, bytes);
  if (width * height > MAX_PIXELS)
    throw new KelpError(
      'TOO_LARGE',
      `${fileName} is ${width} × ${height} pixels (limit 4096 × 4096). Make it smaller.`,
    );
  let pixels: Pixels;
  try {
    pixels = type === 'png' ? pngPixels(plainPng(fileName, bytes)) : jpegPixels(bytes);
  } catch (error) {
    if (error instanceof KelpError) throw error;
    throw new KelpError('BAD_FILE', `${fileName} is broken: ${(error as Error).message}`);
  }
  return smaller(pixels);
}

const CLEAR = [0, 0, 0, 0] as const;

const luma = (red: number, green: number, blue: number) => 0.2126 * red + 0.7152 * green + 0.0722 * blue;

function jpegPixels(bytes: Uint8Array): Pixels {
  const { width, height, data } = decodeJpeg(bytes, { useTArray: true, maxMemoryUsageInMB: JPEG_MEMORY });
  return { width, height, colour: (i) => [data[4 * i] / 255, data[4 * i + 1] / 255, data[4 * i + 2] / 255, 1] };
}

function pngPixels(bytes: Uint8Array): Pixels {
  const { width, height, data, depth, channels, palette, transparency } = decodePng(bytes);
  const most = 2 ** depth - 1;
  const row = Math.ceil((width * channels * depth) / 8);
  // less than a byte each, packed from the left
  const sample =
    depth >= 8
      ? (i: number) => data[i]
      : (i: number) => {
          const bit = (i % width) * depth;
          return (data[Math.floor(i / width) * row + (bit >> 3)] >> (8 - depth - (bit & 7))) & most;
        };
  if (palette)
    return {
      width,
      height,
      colour(i) {
        const [red, green, blue, alpha = 255] = palette[sample(i)] ?? [0, 0, 0];
        return [red / 255, green / 255, blue / 255, alpha / 255];
      },
    };
  const [grey, hasAlpha] = [channels < 3, channels % 2 === 0];
  const clear = transparency?.length === (grey ? 1 : 3) ? transparency : undefined;
  return {
    width,
    height,
    colour(i) {
      const at = channels * i;
      const [red, green, blue] = grey
        ? [sample(at), sample(at), sample(at)]
        : [sample(at), sample(at + 1), sample(at + 2)];
      if (clear && red === clear[0] && (grey || (green === clear[1] && blue === clear[2]))) return CLEAR;
      return [red / most, green / most, blue / most, hasAlpha ? sample(at + channels - 1) / most : 1];
    },
  };
}

/** Each kept pixel is the mean of those it represents, its colour by how opaque they are. */
function smaller({ width, height, colour }: Pixels): Shades {
  const step = Math.max(1, Math.ceil(Math.max(width, height) / KEPT));
  const [columns, rows] = [Math.ceil(width / step), Math.ceil(height / step)];
  const sum = new Float64Array(4 * columns * rows);
  const count = new Uint32Array(columns * rows);
  for (let y = 0, i = 0; y < height; y++) {
    const first = Math.floor(y / step) * columns;
    for (let x = 0; x < width; x++, i++) {
      const to = first + Math.floor(x / step);
      const [red, green, blue, cover] = colour(i);
      sum[4 * to] += red * cover;
      sum[4 * to + 1] += green * cover;
      sum[4 * to + 2] += blue * cover;
      sum[4 * to + 3] += cover;
      count[to]++;
    }
  }
  const mean = sum.map((value, k) => (255 * value) / count[k >> 2]);
  return {
    width: columns,
    height: rows,
    light: Uint8Array.from(count, (_, i) => Math.round(luma(mean[4 * i], mean[4 * i + 1], mean[4 * i + 2]))),
    colour: Uint8Array.from(mean, Math.round),
  };
}
