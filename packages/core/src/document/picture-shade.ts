import { linearChannel } from '../numeric/colour.js';
import type { Picture } from './document.js';

/** What a picture looks like, rows from the top. */
export interface Shades {
  width: number;
  height: number;
  /** 0 dark … 255 light; what is clear counts as dark. */
  light: Uint8Array;
  /** Red, green, blue as stored (sRGB) times how opaque they are, then how opaque: four bytes a pixel. */
  colour: Uint8Array;
}

/**
 * How light a picture is where a place lies before or behind it, square to its plane: 0 dark … 1 light, evenly between
 * the middles of four pixels. Undefined beside the picture.
 */
export function shadeAt(picture: Picture, shades: Shades, x: number, y: number, z: number): number | undefined {
  const at = pixelsAt(picture, shades, x, y, z);
  return at && between(at, (pixel) => shades.light[pixel]) / 255;
}

/** The colour there as linear light, and how opaque it is, 0 … 1: four numbers, looked up the same way. */
export function colourAt(
  picture: Picture,
  shades: Shades,
  x: number,
  y: number,
  z: number,
): [number, number, number, number] | undefined {
  const at = pixelsAt(picture, shades, x, y, z);
  if (!at) return undefined;
  const [red, green, blue, cover] = [0, 1, 2, 3].map((n) => between(at, (pixel) => shades.colour[4 * pixel + n]));
  const share = (value: number) => (cover > 0 ? linearChannel(value / cover) : 0);
  return [share(red), share(green), share(blue), cover / 255];
}

/** The four pixels that a place lies between, and how far it is from the first to the right and down. */
interface Between {
  pixels: [number, number, number, number];
  s: number;
  t: number;
}

function pixelsAt(
  { position, plane, width, aspect }: Picture,
  shades: Shades,
  x: number,
  y: number,
  z: number,
): Between | undefined {
  const [dx, dy, dz] = [x - position[0], y - position[1], z - position[2]];
  // to the right and up in the sheet, as it is in the view
  const right = plane === 'side' ? -dz : dx;
  const up = plane === 'top' ? -dz : dy;
  const u = right / width + 0.5;
  const v = 0.5 - up / (width * aspect);
  if (!(u >= 0 && u <= 1 && v >= 0 && v <= 1)) return undefined;
  const inside = (value: number, most: number) => Math.min(most, Math.max(0, value));
  const column = inside(u * shades.width - 0.5, shades.width - 1);
  const row = inside(v * shades.height - 0.5, shades.height - 1);
  const [c, r] = [Math.floor(column), Math.floor(row)];
  const [next, below] = [Math.min(c + 1, shades.width - 1), Math.min(r + 1, shades.height - 1)];
  const at = (i: number, j: number) => j * shades.width + i;
  return { pixels: [at(c, r), at(next, r), at(c, below), at(next, below)], s: column - c, t: row - r };
}

function between({ pixels: [a, b, c, d], s, t }: Between, of: (pixel: number) => number): number {
  const above = of(a) * (1 - s) + of(b) * s;
  const below = of(c) * (1 - s) + of(d) * s;
  return above * (1 - t) + below * t;
}
