import type { Region } from './document.js';

/** How far a place is in a region: 1 inside, 0 outside, over its soft edge smoothly between. */
export function weightIn({ form, position, size, rotation, edge }: Region, x: number, y: number, z: number): number {
  const [px, py, pz] = [x - position[0], y - position[1], z - position[2]];
  // into the region's own axes: by the conjugate of its rotation
  const [qx, qy, qz, w] = rotation;
  const [tx, ty, tz] = [2 * (pz * qy - py * qz), 2 * (px * qz - pz * qx), 2 * (py * qx - px * qy)];
  const own = [px + w * tx + ty * -qz + tz * qy, py + w * ty + tz * -qx + tx * qz, pz + w * tz + tx * -qy + ty * qx];
  const outside =
    form === 'ball'
      ? Math.hypot(...own) - size[0]
      : Math.hypot(...own.map((value, n) => Math.max(0, Math.abs(value) - size[n])));
  if (outside <= 0) return 1;
  if (outside >= edge) return 0;
  const t = 1 - outside / edge;
  return t * t * (3 - 2 * t);
}
