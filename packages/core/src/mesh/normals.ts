import type { Mesh } from './mesh.js';
import { weldPlaces } from './weld.js';

/** More corners in one place than these are gathered by their normals: each looking at each would never end. */
const MOST_FAN = 256;
/** Of gathered normals each number differs by about so much at most. */
const NEARLY = 1 / 16;

/**
 * Normals for a mesh that came without: smooth across edges that turn less than `hardAngle` (radians), sharp across
 * the others. Face normals are weighted by their angle at the vertex (Thürmer and Wüthrich, Computing vertex normals
 * from polygonal facets, JGT 3(1), 1998). Returns a mesh in which every corner of a face has its own vertex where
 * normals differ.
 */
export function withComputedNormals(mesh: Mesh, hardAngle = 0.6): Mesh {
  const { position: p, index, uv } = mesh;
  const { remap, count } = weldPlaces(p);
  const faces = index.length / 3;
  const faceNormal = new Float64Array(3 * faces);
  const cornerAngle = new Float64Array(3 * faces);
  const fan = Array.from({ length: count }, () => [] as number[]);
  for (let f = 0; f < faces; f++) {
    const [a, b, c] = [index[3 * f], index[3 * f + 1], index[3 * f + 2]];
    const u = [0, 1, 2].map((k) => p[3 * b + k] - p[3 * a + k]);
    const v = [0, 1, 2].map((k) => p[3 * c + k] - p[3 * a + k]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(n[0], n[1], n[2]);
    if (size > 0) for (let k = 0; k < 3; k++) faceNormal[3 * f + k] = n[k] / size;
    for (let k = 0; k < 3; k++) {
      cornerAngle[3 * f + k] = angleAt(p, index[3 * f + k], index[3 * f + ((k + 1) % 3)], index[3 * f + ((k + 2) % 3)]);
      fan[remap[index[3 * f + k]]].push(3 * f + k);
    }
  }
  /** What meets at each place: a unit normal and how much it weighs, four numbers each. */
  const meets = fan.map((corners) => {
    const all = corners.flatMap((corner) => {
      const n = 3 * Math.floor(corner / 3);
      return [faceNormal[n], faceNormal[n + 1], faceNormal[n + 2], cornerAngle[corner]];
    });
    return corners.length > MOST_FAN ? gathered(all) : all;
  });
  const cos = Math.cos(hardAngle);
  const vertices = new Map<string, number>();
  const position: number[] = [];
  const normal: number[] = [];
  const newUv: number[] = [];
  const newIndex = new Uint32Array(index.length);
  for (let corner = 0; corner < index.length; corner++) {
    const f = Math.floor(corner / 3);
    const v = index[corner];
    let [x, y, z] = [0, 0, 0];
    const all = meets[remap[v]];
    for (let k = 0; k < all.length; k += 4) {
      const dot = faceNormal[3 * f] * all[k] + faceNormal[3 * f + 1] * all[k + 1] + faceNormal[3 * f + 2] * all[k + 2];
      if (dot < cos) continue;
      x += all[k] * all[k + 3];
      y += all[k + 1] * all[k + 3];
      z += all[k + 2] * all[k + 3];
    }
    const size = Math.hypot(x, y, z);
    const unit = size > 0 ? [x / size, y / size, z / size] : [0, 1, 0];
    const key = `${v} ${unit.map((value) => Math.round(value * 1e4)).join(' ')}`;
    let at = vertices.get(key);
    if (at === undefined) {
      at = vertices.size;
      vertices.set(key, at);
      position.push(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
      normal.push(...unit);
      newUv.push(uv[2 * v] ?? 0, uv[2 * v + 1] ?? 0);
    }
    newIndex[corner] = at;
  }
  return {
    ...mesh,
    position: Float32Array.from(position),
    normal: Float32Array.from(normal),
    uv: Float32Array.from(newUv),
    index: newIndex,
  };
}

/** Normals that are nearly the same as one, with their weights together. */
function gathered(all: readonly number[]): number[] {
  const sums = new Map<string, [number, number, number]>();
  for (let k = 0; k < all.length; k += 4) {
    const key = [0, 1, 2].map((n) => Math.round(all[k + n] / NEARLY)).join(' ');
    const sum = sums.get(key) ?? [0, 0, 0];
    for (let n = 0; n < 3; n++) sum[n] += all[k + n] * all[k + 3];
    sums.set(key, sum);
  }
  return [...sums.values()].flatMap((sum) => {
    const size = Math.hypot(...sum);
    return size > 0 ? [...sum.map((value) => value / size), size] : [];
  });
}

function angleAt(p: Float32Array, a: number, b: number, c: number): number {
  const u = [0, 1, 2].map((k) => p[3 * b + k] - p[3 * a + k]);
  const v = [0, 1, 2].map((k) => p[3 * c + k] - p[3 * a + k]);
  const size = Math.hypot(u[0], u[1], u[2]) * Math.hypot(v[0], v[1], v[2]);
  if (size === 0) return 0;
  return Math.acos(Math.max(-1, Math.min(1, (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / size)));
}
