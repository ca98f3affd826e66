import type { Mesh } from './mesh.js';
import { weldPlaces } from './weld.js';

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
    for (const other of fan[remap[v]]) {
      const g = Math.floor(other / 3);
      const dot =
        faceNormal[3 * f] * faceNormal[3 * g] +
        faceNormal[3 * f + 1] * faceNormal[3 * g + 1] +
        faceNormal[3 * f + 2] * faceNormal[3 * g + 2];
      if (dot < cos) continue;
      x += faceNormal[3 * g] * cornerAngle[other];
      y += faceNormal[3 * g + 1] * cornerAngle[other];
      z += faceNormal[3 * g + 2] * cornerAngle[other];
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

function angleAt(p: Float32Array, a: number, b: number, c: number): number {
  const u = [0, 1, 2].map((k) => p[3 * b + k] - p[3 * a + k]);
  const v = [0, 1, 2].map((k) => p[3 * c + k] - p[3 * a + k]);
  const size = Math.hypot(u[0], u[1], u[2]) * Math.hypot(v[0], v[1], v[2]);
  if (size === 0) return 0;
  return Math.acos(Math.max(-1, Math.min(1, (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / size)));
}
