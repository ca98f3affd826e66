/**
 * Three-number vectors. `out` comes first, may be one of the others, and is returned. Points of a flat xyz array are
 * reached by their number: `pointOf(position, p)`, `distanceAt(position, p, q)`.
 */
export type Vec3 = [number, number, number];
export type ReadVec3 = ArrayLike<number>;
type Out = Vec3 | Float64Array;

export const vec3 = (x = 0, y = 0, z = 0): Vec3 => [x, y, z];

export function set<T extends Out>(out: T, x: number, y: number, z: number): T {
  out[0] = x;
  out[1] = y;
  out[2] = z;
  return out;
}

/** Point `p` of a flat xyz array. */
export const pointOf = (flat: ArrayLike<number>, p: number): Vec3 => [flat[3 * p], flat[3 * p + 1], flat[3 * p + 2]];

/** out = point `p` of a flat xyz array. */
export const readPoint = <T extends Out>(out: T, flat: ArrayLike<number>, p: number): T =>
  set(out, flat[3 * p], flat[3 * p + 1], flat[3 * p + 2]);

export const add = <T extends Out>(out: T, a: ReadVec3, b: ReadVec3): T =>
  set(out, a[0] + b[0], a[1] + b[1], a[2] + b[2]);

/** out = a − b. */
export const subtract = <T extends Out>(out: T, a: ReadVec3, b: ReadVec3): T =>
  set(out, a[0] - b[0], a[1] - b[1], a[2] - b[2]);

export const scale = <T extends Out>(out: T, a: ReadVec3, by: number): T => set(out, a[0] * by, a[1] * by, a[2] * by);

/** out = a + by · b. */
export const addScaled = <T extends Out>(out: T, a: ReadVec3, b: ReadVec3, by: number): T =>
  set(out, a[0] + by * b[0], a[1] + by * b[1], a[2] + by * b[2]);

/** out = a at 0, b at 1. */
export const mix = <T extends Out>(out: T, a: ReadVec3, b: ReadVec3, t: number): T =>
  set(out, a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]), a[2] + t * (b[2] - a[2]));

export const dot = (a: ReadVec3, b: ReadVec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** out = a × b. */
export const cross = <T extends Out>(out: T, a: ReadVec3, b: ReadVec3): T =>
  set(out, a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]);

export const length = (a: ReadVec3): number => Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);

export const distance = (a: ReadVec3, b: ReadVec3): number => {
  const x = a[0] - b[0];
  const y = a[1] - b[1];
  const z = a[2] - b[2];
  return Math.sqrt(x * x + y * y + z * z);
};

/** Distance between points `p` and `q` of a flat xyz array. */
export function distanceAt(flat: ArrayLike<number>, p: number, q: number): number {
  const x = flat[3 * p] - flat[3 * q];
  const y = flat[3 * p + 1] - flat[3 * q + 1];
  const z = flat[3 * p + 2] - flat[3 * q + 2];
  return Math.sqrt(x * x + y * y + z * z);
}

/** out = a / |a|; a vector of no length stays as it is. */
export const normalize = <T extends Out>(out: T, a: ReadVec3): T => scale(out, a, 1 / (length(a) || 1));

/** out = what of `a` stands at right angles to the unit vector `axis`. */
export const acrossFrom = <T extends Out>(out: T, a: ReadVec3, axis: ReadVec3): T =>
  addScaled(out, a, axis, -dot(a, axis));

/** out = `a` turned about the unit vector `axis` by `angle` radians (Rodrigues' rotation formula, any text on rotations). */
export function turn<T extends Out>(out: T, a: ReadVec3, axis: ReadVec3, angle: number): T {
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  const along = dot(a, axis) * (1 - cos);
  return set(
    out,
    a[0] * cos + (axis[1] * a[2] - axis[2] * a[1]) * sin + axis[0] * along,
    a[1] * cos + (axis[2] * a[0] - axis[0] * a[2]) * sin + axis[1] * along,
    a[2] * cos + (axis[0] * a[1] - axis[1] * a[0]) * sin + axis[2] * along,
  );
}

/** Unit vector at right angles to the unit vector `axis`: as near to +Y as it can be, to +X where the axis is plumb. */
export function upAcross<T extends Out>(out: T, axis: ReadVec3): T {
  const plumb = Math.abs(axis[1]) >= 0.97;
  set(out, plumb ? 1 : 0, plumb ? 0 : 1, 0);
  return normalize(out, acrossFrom(out, out, axis));
}
