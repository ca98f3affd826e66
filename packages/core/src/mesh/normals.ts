import type { Mesh } from './mesh.js';
import { weldPositions } from './weld.js';

/** More corners in one place than these are gathered by their normals: each looking at each would never end. */
const MAX_FAN = 256;
/** Of gathered normals each number differs by about this much at most. */
const NEARLY = 1 / 16;

/**
 * Normals for a mesh that came without: smooth across edges that turn less than `hardAngle` (radians), sharp across
 * the others. Face normals are weighted by their angle at the vertex (Thürmer and Wüthrich, Computing vertex normals
 * from polygonal facets, JGT 3(1), 1998). Returns a mesh in which every corner of a face has its own vertex where
 * normals differ.
 */
export function withComputedNormals(mesh: Mesh, hardAngle = 0.6): Mesh {
  const { position: p, index, uv } = mesh;
  const { remap, count } = weldPositions(p);
  const { faceNormal, cornerAngle } = facesOf(p, index);
  const { start, corners } = fansOf(index, remap, count);
  const crowds = crowdsOf(start, corners, faceNormal, cornerAngle);
  const cos = Math.cos(hardAngle);
  // of the vertices that one becomes the first, and of each the next one
  const first = new Int32Array(p.length / 3).fill(-1);
  const next: number[] = [];
  const rounded: number[] = [];
  const position: number[] = [];
  const normal: number[] = [];
  const newUv: number[] = [];
  const newIndex = new Uint32Array(index.length);
  for (let corner = 0; corner < index.length; corner++) {
    const v = index[corner];
    const place = remap[v];
    const f = 3 * Math.floor(corner / 3);
    const [fx, fy, fz] = [faceNormal[f], faceNormal[f + 1], faceNormal[f + 2]];
    let [x, y, z] = [0, 0, 0];
    const crowd = crowds.get(place);
    if (crowd)
      for (let k = 0; k < crowd.length; k += 4) {
        if (fx * crowd[k] + fy * crowd[k + 1] + fz * crowd[k + 2] < cos) continue;
        x += crowd[k] * crowd[k + 3];
        y += crowd[k + 1] * crowd[k + 3];
        z += crowd[k + 2] * crowd[k + 3];
      }
    else
      for (let k = start[place]; k < start[place + 1]; k++) {
        const n = 3 * Math.floor(corners[k] / 3);
        if (fx * faceNormal[n] + fy * faceNormal[n + 1] + fz * faceNormal[n + 2] < cos) continue;
        const weight = cornerAngle[corners[k]];
        x += faceNormal[n] * weight;
        y += faceNormal[n + 1] * weight;
        z += faceNormal[n + 2] * weight;
      }
    const size = Math.hypot(x, y, z);
    const [nx, ny, nz] = size > 0 ? [x / size, y / size, z / size] : [0, 1, 0];
    const [rx, ry, rz] = [Math.round(nx * 1e4), Math.round(ny * 1e4), Math.round(nz * 1e4)];
    let at = first[v];
    while (at >= 0 && !(rounded[3 * at] === rx && rounded[3 * at + 1] === ry && rounded[3 * at + 2] === rz))
      at = next[at];
    if (at < 0) {
      at = next.length;
      next.push(first[v]);
      first[v] = at;
      rounded.push(rx, ry, rz);
      position.push(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
      normal.push(nx, ny, nz);
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

/** The unit normal of each face (0 where it has no area), and the angle at each of its corners, radians. */
function facesOf(p: Float32Array, index: Uint32Array): { faceNormal: Float64Array; cornerAngle: Float64Array } {
  const faceNormal = new Float64Array(index.length);
  const cornerAngle = new Float64Array(index.length);
  for (let f = 0; f + 2 < index.length; f += 3) {
    const [a, b, c] = [3 * index[f], 3 * index[f + 1], 3 * index[f + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const size = Math.hypot(x, y, z);
    if (size > 0) {
      faceNormal[f] = x / size;
      faceNormal[f + 1] = y / size;
      faceNormal[f + 2] = z / size;
    }
    cornerAngle[f] = angleAt(p, a, b, c);
    cornerAngle[f + 1] = angleAt(p, b, c, a);
    cornerAngle[f + 2] = angleAt(p, c, a, b);
  }
  return { faceNormal, cornerAngle };
}

/** The corners of faces that meet at each place: those of place i are `corners[start[i]] … corners[start[i + 1] − 1]`. */
function fansOf(index: Uint32Array, remap: Uint32Array, count: number): { start: Uint32Array; corners: Uint32Array } {
  const start = new Uint32Array(count + 1);
  for (let corner = 0; corner < index.length; corner++) start[remap[index[corner]] + 1]++;
  for (let i = 0; i < count; i++) start[i + 1] += start[i];
  const filled = start.slice();
  const corners = new Uint32Array(index.length);
  for (let corner = 0; corner < index.length; corner++) corners[filled[remap[index[corner]]]++] = corner;
  return { start, corners };
}

/** Of places where very many corners meet: gathered normals and their weights, four numbers each. */
function crowdsOf(
  start: Uint32Array,
  corners: Uint32Array,
  faceNormal: Float64Array,
  cornerAngle: Float64Array,
): Map<number, number[]> {
  const crowds = new Map<number, number[]>();
  for (let place = 0; place + 1 < start.length; place++) {
    if (start[place + 1] - start[place] <= MAX_FAN) continue;
    const all = [...corners.subarray(start[place], start[place + 1])].flatMap((corner) => {
      const n = 3 * Math.floor(corner / 3);
      return [faceNormal[n], faceNormal[n + 1], faceNormal[n + 2], cornerAngle[corner]];
    });
    crowds.set(place, gathered(all));
  }
  return crowds;
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

/** The angle at a corner, radians; a, b and c say where in `p` the places stand. */
function angleAt(p: Float32Array, a: number, b: number, c: number): number {
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  const size = Math.hypot(ux, uy, uz) * Math.hypot(vx, vy, vz);
  if (size === 0) return 0;
  return Math.acos(Math.max(-1, Math.min(1, (ux * vx + uy * vy + uz * vz) / size)));
}
