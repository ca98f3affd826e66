/** How often weights are taken anew from the surface that came out. */
const ROUNDS = 8;
/** Conjugate gradients end when what is left is this part of the beginning. */
const EXACT = 1e-9;

/** Symmetric weights between neighbouring places, a row each: `start[p] … start[p + 1]` of `to` and `weight`. */
interface Laplacian {
  start: Uint32Array;
  to: Uint32Array;
  weight: Float64Array;
  diagonal: Float64Array;
}

/**
 * Moves the places inside a triangulation so that its area is least while its rim stays: each round solves the Laplace
 * equation with the cotangent weights of the last surface (Pinkall and Polthier, Computing discrete minimal surfaces and
 * their conjugates, Experimental Mathematics 2, 1993).
 * @param place flat xyz, changed in place; @param held the first so many places stay
 */
export function leastArea(place: Float64Array, triangles: Uint32Array, held: number): void {
  for (let round = 0; round < ROUNDS; round++) {
    const laplacian = cotangents(place, triangles);
    for (let n = 0; n < 3; n++) {
      const value = Float64Array.from({ length: place.length / 3 }, (_, p) => place[3 * p + n]);
      solve(laplacian, value, new Float64Array(value.length), held);
      for (let p = held; p < value.length; p++) place[3 * p + n] = value[p];
    }
  }
}

/**
 * How a skin over the triangulation bows under an even pressure, 0 on the rim: −Δφ = 1. Of a disk it is (R² − r²)/4.
 */
export function bowOver(place: Float64Array, triangles: Uint32Array, held: number): Float64Array {
  const value = new Float64Array(place.length / 3);
  const load = new Float64Array(value.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const third = areaAt(place, triangles, t) / 3;
    for (let k = 0; k < 3; k++) load[triangles[t + k]] += third;
  }
  solve(cotangents(place, triangles), value, load, held);
  return value;
}

function areaAt(p: Float64Array, index: Uint32Array, t: number): number {
  const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
  const u = [0, 1, 2].map((n) => p[b + n] - p[a + n]);
  const v = [0, 1, 2].map((n) => p[c + n] - p[a + n]);
  return Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
}

/** Half the cotangents of the angles that face each edge. Those below 0 count nothing: the system stays definite. */
function cotangents(p: Float64Array, index: Uint32Array): Laplacian {
  const count = p.length / 3;
  const edges = new Map<number, number>();
  for (let t = 0; t < index.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [o, a, b] = [index[t + k], index[t + ((k + 1) % 3)], index[t + ((k + 2) % 3)]];
      const u = [0, 1, 2].map((n) => p[3 * a + n] - p[3 * o + n]);
      const v = [0, 1, 2].map((n) => p[3 * b + n] - p[3 * o + n]);
      const sine = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]);
      const cotangent = sine > 0 ? (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / sine : 0;
      const key = Math.min(a, b) * count + Math.max(a, b);
      edges.set(key, (edges.get(key) ?? 0) + cotangent / 2);
    }
  const start = new Uint32Array(count + 1);
  const ends = [...edges.keys()].map((key) => [Math.floor(key / count), key % count] as const);
  for (const [a, b] of ends) {
    start[a + 1]++;
    start[b + 1]++;
  }
  for (let k = 0; k < count; k++) start[k + 1] += start[k];
  const at = start.slice();
  const to = new Uint32Array(2 * ends.length);
  const weight = new Float64Array(2 * ends.length);
  const diagonal = new Float64Array(count);
  let e = 0;
  for (const own of edges.values()) {
    const [a, b] = ends[e++];
    const w = Math.max(1e-9, own);
    for (const [from, other] of [
      [a, b],
      [b, a],
    ]) {
      to[at[from]] = other;
      weight[at[from]++] = w;
      diagonal[from] += w;
    }
  }
  return { start, to, weight, diagonal };
}

/** L·x = load with the first `held` values given: conjugate gradients with the diagonal before them. Writes into x. */
function solve({ start, to, weight, diagonal }: Laplacian, x: Float64Array, load: Float64Array, held: number): void {
  const count = x.length;
  const times = (v: Float64Array, p: number) => {
    let sum = diagonal[p] * v[p];
    for (let k = start[p]; k < start[p + 1]; k++) sum -= weight[k] * v[to[k]];
    return sum;
  };
  const r = new Float64Array(count);
  const d = new Float64Array(count);
  const q = new Float64Array(count);
  let rz = 0;
  for (let p = held; p < count; p++) {
    r[p] = load[p] - times(x, p);
    d[p] = r[p] / (diagonal[p] || 1);
    rz += r[p] * d[p];
  }
  const enough = rz * EXACT ** 2;
  for (let step = 0; step < 10 * Math.sqrt(count) + 50 && rz > enough && rz > 0; step++) {
    let dq = 0;
    for (let p = held; p < count; p++) {
      q[p] = times(d, p);
      dq += d[p] * q[p];
    }
    const alpha = rz / dq;
    let next = 0;
    for (let p = held; p < count; p++) {
      x[p] += alpha * d[p];
      r[p] -= alpha * q[p];
      next += (r[p] * r[p]) / (diagonal[p] || 1);
    }
    const beta = next / rz;
    for (let p = held; p < count; p++) d[p] = r[p] / (diagonal[p] || 1) + beta * d[p];
    rz = next;
  }
}
