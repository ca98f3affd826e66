/** How often weights are taken anew from the surface that came out, at most; and the movement, as a share of its size, that ends it. */
const ROUNDS = 8;
const STILL = 1e-4;
/** Conjugate gradients end when what is left is this part of the beginning; of a round, after which the weights change, that part. */
const EXACT = 1e-5;
const ROUGH = 1e-2;

/** Symmetric weights between neighbouring places, a row each: `start[p] … start[p + 1]` of `to` and `weight`. */
interface Laplacian {
  start: Uint32Array;
  to: Uint32Array;
  weight: Float64Array;
  diagonal: Float64Array;
  /** Of each corner of a triangle, the two entries of the edge that faces it. */
  facing: Uint32Array;
}

/**
 * Moves the places inside a triangulation so that its area is least while its rim stays: each round solves the Laplace
 * equation with the cotangent weights of the last surface (Pinkall and Polthier, Computing discrete minimal surfaces and
 * their conjugates, Experimental Mathematics 2, 1993).
 * @param place flat xyz, changed in place; @param held the first this many places stay
 */
export function leastArea(place: Float64Array, triangles: Uint32Array, held: number): void {
  const laplacian = connected(place.length / 3, triangles);
  const count = place.length / 3;
  const value = new Float64Array(count);
  const nothing = new Float64Array(count);
  let size = 0;
  for (let i = 3; i < 3 * held; i++) size = Math.max(size, Math.abs(place[i] - place[i % 3]));
  for (let round = 0, moved = Infinity; round < ROUNDS && moved > STILL * size; round++) {
    weigh(laplacian, place, triangles);
    moved = 0;
    for (let n = 0; n < 3; n++) {
      for (let p = 0; p < count; p++) value[p] = place[3 * p + n];
      solve(laplacian, value, nothing, held, ROUGH);
      for (let p = held; p < count; p++) {
        moved = Math.max(moved, Math.abs(value[p] - place[3 * p + n]));
        place[3 * p + n] = value[p];
      }
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
  const laplacian = connected(value.length, triangles);
  weigh(laplacian, place, triangles);
  solve(laplacian, value, load, held, EXACT);
  return value;
}

function areaAt(p: Float64Array, index: Uint32Array, t: number): number {
  const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
}

/** Who is whose neighbour: rows without their weights. */
function connected(count: number, index: Uint32Array): Laplacian {
  const numbers = new Map<number, number>();
  const edge = new Uint32Array(index.length);
  const ends: number[] = [];
  for (let i = 0; i < index.length; i++) {
    const t = i - (i % 3);
    const [a, b] = [index[t + ((i + 1) % 3)], index[t + ((i + 2) % 3)]];
    const key = Math.min(a, b) * count + Math.max(a, b);
    let e = numbers.get(key);
    if (e === undefined) {
      e = ends.length / 2;
      numbers.set(key, e);
      ends.push(a, b);
    }
    edge[i] = e;
  }
  const start = new Uint32Array(count + 1);
  for (const p of ends) start[p + 1]++;
  for (let k = 0; k < count; k++) start[k + 1] += start[k];
  const at = start.slice();
  const to = new Uint32Array(ends.length);
  /** The entry of each end of each edge. */
  const entry = new Uint32Array(ends.length);
  ends.forEach((p, k) => {
    to[at[p]] = ends[k ^ 1];
    entry[k] = at[p]++;
  });
  const facing = new Uint32Array(2 * index.length);
  edge.forEach((e, i) => {
    facing[2 * i] = entry[2 * e];
    facing[2 * i + 1] = entry[2 * e + 1];
  });
  return { start, to, weight: new Float64Array(to.length), diagonal: new Float64Array(count), facing };
}

/** Least weight of an edge, so that the system stays definite where angles are wide. */
const MIN_WEIGHT = 1e-9;

/** Half the cotangents of the angles that face each edge. */
function weigh({ start, weight, diagonal, facing }: Laplacian, p: Float64Array, index: Uint32Array): void {
  weight.fill(0);
  for (let i = 0; i < index.length; i++) {
    const t = i - (i % 3);
    const [o, a, b] = [3 * index[i], 3 * index[t + ((i + 1) % 3)], 3 * index[t + ((i + 2) % 3)]];
    const ux = p[a] - p[o];
    const uy = p[a + 1] - p[o + 1];
    const uz = p[a + 2] - p[o + 2];
    const vx = p[b] - p[o];
    const vy = p[b + 1] - p[o + 1];
    const vz = p[b + 2] - p[o + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const sine = Math.sqrt(x * x + y * y + z * z);
    if (sine === 0) continue;
    const half = (ux * vx + uy * vy + uz * vz) / (2 * sine);
    weight[facing[2 * i]] += half;
    weight[facing[2 * i + 1]] += half;
  }
  for (let q = 0; q < diagonal.length; q++) {
    let sum = 0;
    for (let k = start[q]; k < start[q + 1]; k++) {
      weight[k] = Math.max(MIN_WEIGHT, weight[k]);
      sum += weight[k];
    }
    diagonal[q] = sum;
  }
}

/**
 * L·x = load with the first `held` values given: conjugate gradients with the diagonal before them. Writes into x.
 * @param part ends when no more than this part of what is missing is left
 */
function solve(laplacian: Laplacian, x: Float64Array, load: Float64Array, held: number, part: number): void {
  const count = x.length;
  const r = new Float64Array(count);
  const d = new Float64Array(count);
  const q = new Float64Array(count);
  const inverse = laplacian.diagonal.map((value) => 1 / (value || 1));
  times(laplacian, x, held, q);
  let rz = 0;
  for (let p = held; p < count; p++) {
    r[p] = load[p] - q[p];
    d[p] = r[p] * inverse[p];
    rz += r[p] * d[p];
  }
  const enough = rz * part ** 2;
  const most = 10 * Math.sqrt(count) + 50;
  for (let step = 0; step < most && rz > enough && rz > 0; step++) {
    times(laplacian, d, held, q);
    let dq = 0;
    for (let p = held; p < count; p++) dq += d[p] * q[p];
    const alpha = rz / dq;
    let next = 0;
    for (let p = held; p < count; p++) {
      x[p] += alpha * d[p];
      r[p] -= alpha * q[p];
      next += r[p] * r[p] * inverse[p];
    }
    const beta = next / rz;
    for (let p = held; p < count; p++) d[p] = r[p] * inverse[p] + beta * d[p];
    rz = next;
  }
}

/** q = L·v, but for the held values. */
function times({ start, to, weight, diagonal }: Laplacian, v: Float64Array, held: number, q: Float64Array): void {
  for (let p = held; p < v.length; p++) {
    let sum = diagonal[p] * v[p];
    for (let k = start[p], end = start[p + 1]; k < end; k++) sum -= weight[k] * v[to[k]];
    q[p] = sum;
  }
}
