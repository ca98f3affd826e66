import type { Bounds } from '@kelp/core';
import { Vector3 } from 'three';

/** Where to stand, looking against `direction`, so that all corners of a box are just seen. */
export function fitted(
  { min, max }: Bounds,
  direction: Vector3,
  fov: number,
  aspect: number,
  roomy: number,
): { target: Vector3; distance: number } {
  const right = new Vector3(0, 1, 0).cross(direction).normalize();
  const up = direction.clone().cross(right);
  const tanUp = Math.tan((fov * Math.PI) / 360) / roomy;
  const corners = Array.from(
    { length: 8 },
    (_, i) => new Vector3(i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]),
  );
  const tanRight = tanUp * aspect;
  // each side of the picture is a plane through the eye; the eye stands where opposite planes just hold all corners
  const reach = (axis: Vector3, tan: number, sign: number) =>
    Math.max(...corners.map((corner) => sign * corner.dot(axis) + corner.dot(direction) * tan));
  const away = (axis: Vector3, tan: number) => (reach(axis, tan, 1) + reach(axis, tan, -1)) / (2 * tan);
  const span = new Vector3(...min).distanceTo(new Vector3(...max));
  const nearest = Math.max(...corners.map((corner) => corner.dot(direction)));
  // in front of all of it, even of a line seen from its end
  const eyeDepth = Math.max(away(right, tanRight), away(up, tanUp), nearest + 0.05 * span);
  const across = (axis: Vector3, tan: number) => (reach(axis, tan, 1) - reach(axis, tan, -1)) / 2;
  const middle = new Vector3((min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2);
  const depth = middle.dot(direction);
  const target = new Vector3()
    .addScaledVector(right, across(right, tanRight))
    .addScaledVector(up, across(up, tanUp))
    .addScaledVector(direction, depth);
  return { target, distance: Math.max(0.05, eyeDepth - depth) };
}
