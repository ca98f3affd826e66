import type { Picture } from './document.js';

/** How light a picture is: rows from the top, 0 dark … 255 light; what is clear counts as dark. */
export interface Shades {
  width: number;
  height: number;
  light: Uint8Array;
}

/**
 * How light a picture is where a place lies before or behind it, square to its plane: 0 dark … 1 light, evenly between
 * the middles of four pixels. Undefined beside the picture.
 */
export function shadeAt(picture: Picture, shades: Shades, x: number, y: number, z: number): number | undefined {
  const { position, plane, width } = picture;
  const [dx, dy, dz] = [x - position[0], y - position[1], z - position[2]];
  // to the right and up in the sheet, as it stands in the view
  const right = plane === 'side' ? -dz : dx;
  const up = plane === 'top' ? -dz : dy;
  const u = right / width + 0.5;
  const v = 0.5 - up / (width * picture.aspect);
  if (!(u >= 0 && u <= 1 && v >= 0 && v <= 1)) return undefined;
  const inside = (value: number, most: number) => Math.min(most, Math.max(0, value));
  const column = inside(u * shades.width - 0.5, shades.width - 1);
  const row = inside(v * shades.height - 0.5, shades.height - 1);
  const [c, r] = [Math.floor(column), Math.floor(row)];
  const [right1, down1] = [Math.min(c + 1, shades.width - 1), Math.min(r + 1, shades.height - 1)];
  const [s, t] = [column - c, row - r];
  const at = (i: number, j: number) => shades.light[j * shades.width + i];
  const above = at(c, r) * (1 - s) + at(right1, r) * s;
  const below = at(c, down1) * (1 - s) + at(right1, down1) * s;
  return (above * (1 - t) + below * t) / 255;
}
