import type { CurveSet } from '../curve/curve-set.js';
import type { Mesh } from '../mesh/mesh.js';
import type { Corner, Rings } from './rings.js';

/** The rings of a leg lean over to the mitre from this many times as far as the mitre reaches into the leg. */
const EASE = 2;

/** Brings the rings at sharp bends, and those beside them, into the planes of their mitres. */
export function mitre({ position }: CurveSet, rings: Rings, tangent: Float64Array, columns: number, mesh: Mesh): void {
  const { corners, point, side, start } = rings;
  for (let c = 0; c + 1 < start.length; c++)
    for (let ring = start[c]; ring < start[c + 1]; ring++) {
      const corner = corners.get(point[ring]);
      if (!corner) continue;
      const at = 3 * point[ring];
      if (side[ring] <= 0) leanLeg(rings, ring, -1, start[c], corner, tangent, position, columns, mesh);
      if (side[ring] >= 0) leanLeg(rings, ring, 1, start[c + 1] - 1, corner, tangent, position, columns, mesh);
      bendRing(corner, side[ring], ring, columns, position, at, mesh);
    }
}

/**
 * Slides the places of the rings before or after a mitre along the leg, the less the further away: on its inside a mitre
 * reaches back into the leg by p·tan(β/2), p the offset towards the inside and β the bend, and rings that stood upright
 * there would pass through it. The leg's own surface stays what it was.
 */
function leanLeg(
  { corners, point, v }: Rings,
  ring: number,
  step: 1 | -1,
  end: number,
  corner: Corner,
  tangent: Float64Array,
  center: Float64Array,
  columns: number,
  mesh: Mesh,
): void {
  const half = Math.tan(Math.min(corner.bend, MAX_BEND) / 2);
  let last = ring;
  while (last !== end && (last === ring || !corners.has(point[last]))) last += step;
  const leg = Math.abs(v[last] - v[ring]);
  const { position } = mesh;
  let zone = 0;
  for (let r = ring + step; step * r < step * last; r += step) {
    const at = 3 * point[r];
    const away = Math.abs(v[r] - v[ring]);
    if (zone === 0) {
      const taken = (one: Corner) => takenBy(one, mesh, r, columns, center, tangent, at);
      const other = corners.get(point[last]);
      // two corners share the leg by what each takes of it
      const own = taken(corner);
      const room = other ? (leg * own) / (own + taken(other) || 1) : leg;
      zone = Math.min(EASE * reachOf(mesh, r, columns, center, at) * half, room);
    }
    if (away >= zone) break;
    const [tx, ty, tz] = [tangent[at], tangent[at + 1], tangent[at + 2]];
    const [qx, qy, qz] = inwards(corner, tx, ty, tz);
    const share = step * half * (1 - away / zone);
    for (let i = 3 * r * columns; i < 3 * (r + 1) * columns; i += 3) {
      const inside =
        (position[i] - center[at]) * qx +
        (position[i + 1] - center[at + 1]) * qy +
        (position[i + 2] - center[at + 2]) * qz;
      position[i] += share * inside * tx;
      position[i + 1] += share * inside * ty;
      position[i + 2] += share * inside * tz;
    }
  }
}

/** Towards the inside of a bend, across a leg. */
const inwards = ({ hinge: [hx, hy, hz] }: Corner, tx: number, ty: number, tz: number) =>
  [hy * tz - hz * ty, hz * tx - hx * tz, hx * ty - hy * tx] as const;

/** How far a mitre reaches back along a leg, by the ring there, metres. */
function takenBy(
  corner: Corner,
  { position }: Mesh,
  ring: number,
  columns: number,
  center: Float64Array,
  tangent: Float64Array,
  at: number,
): number {
  const [qx, qy, qz] = inwards(corner, tangent[at], tangent[at + 1], tangent[at + 2]);
  let far = 0;
  for (let i = 3 * ring * columns; i < 3 * (ring + 1) * columns; i += 3)
    far = Math.max(
      far,
      (position[i] - center[at]) * qx +
        (position[i + 1] - center[at + 1]) * qy +
        (position[i + 2] - center[at + 2]) * qz,
    );
  return far * Math.tan(Math.min(corner.bend, MAX_BEND) / 2);
}

/** Of a sharper bend the mitre is cut short: the ring is stretched by no more than this bend asks for. */
const MAX_STRETCH = 4;
export const MAX_BEND = 2 * Math.acos(1 / MAX_STRETCH);

/** How far the places of a ring lie from its middle at most, metres. */
function reachOf({ position }: Mesh, ring: number, columns: number, center: Float64Array, at: number): number {
  let far = 0;
  for (let i = 3 * ring * columns; i < 3 * (ring + 1) * columns; i += 3)
    far = Math.max(
      far,
      Math.hypot(position[i] - center[at], position[i + 1] - center[at + 1], position[i + 2] - center[at + 2]),
    );
  return far;
}

/** Stretches the ring along the bend and, at a hard edge, turns its normals to one side of the bend. */
function bendRing(
  corner: Corner,
  side: number,
  ring: number,
  columns: number,
  center: Float64Array,
  at: number,
  mesh: Mesh,
): void {
  const { position, normal } = mesh;
  const [cx, cy, cz] = [center[at], center[at + 1], center[at + 2]];
  const [mx, my, mz] = corner.mitre;
  const [wx, wy, wz] = corner.hinge;
  const stretch = Math.min(MAX_STRETCH, 1 / Math.cos(corner.bend / 2)) - 1;
  const turn = (side * corner.bend) / 2;
  const cos = Math.cos(turn);
  const sin = Math.sin(turn);
  for (let i = 3 * ring * columns; i < 3 * (ring + 1) * columns; i += 3) {
    const reach = ((position[i] - cx) * mx + (position[i + 1] - cy) * my + (position[i + 2] - cz) * mz) * stretch;
    position[i] += reach * mx;
    position[i + 1] += reach * my;
    position[i + 2] += reach * mz;
    if (turn === 0) continue;
    // rotation about the hinge (Rodrigues)
    const [x, y, z] = [normal[i], normal[i + 1], normal[i + 2]];
    const dot = (wx * x + wy * y + wz * z) * (1 - cos);
    normal[i] = x * cos + (wy * z - wz * y) * sin + wx * dot;
    normal[i + 1] = y * cos + (wz * x - wx * z) * sin + wy * dot;
    normal[i + 2] = z * cos + (wx * y - wy * x) * sin + wz * dot;
  }
}
