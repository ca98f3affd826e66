import { blankMesh, type Mesh, vertexCount } from '../../mesh/mesh.js';
import type { FramedLines } from '../elements/framed-lines.js';
import { frameAt, roomFor, walkOf } from '../elements/stations.js';

/** Of its length, how far before and behind a place the bend of the line is measured. */
const STEP = 0.02;

/** How one element lies along its line before that bends. */
export interface BentPlace {
  curve: number;
  /** Metres from the start of the line. */
  along: number;
  /** Its x, y and z in the frame of the line (side, up, along) with their scale, 9 numbers, and where its origin is there. */
  axes: ArrayLike<number>;
  offset: ArrayLike<number>;
}

/**
 * Copies of a mesh bent as the line is: what is so far along in the mesh is so far along the line, and stands off it in the
 * frame there. The Jacobian of that map is diag(1, 1, 1 − κ·p) in the frame (Frenet–Serret; Barr: Global and local
 * deformations of solid primitives, SIGGRAPH 1984), which gives the normals.
 */
export function bentMesh(mesh: Mesh, framed: FramedLines, places: readonly BentPlace[]): Mesh {
  const vertices = vertexCount(mesh);
  const out = blankMesh(vertices * places.length, mesh.index.length * places.length);
  out.groups = [{ start: 0, count: out.index.length, slot: 'main' }];
  const frame = roomFor(3);
  places.forEach(({ curve, along, axes, offset }, n) => {
    const walk = walkOf(framed, curve);
    const open = framed.lines.closed[curve] === 0;
    const step = STEP * walk.length * Math.min(1, 1 / places.length) || 1e-6;
    for (let v = 0; v < vertices; v++) {
      const [i, o] = [3 * v, 3 * (n * vertices + v)];
      const [x, y, z] = [mesh.position[i], mesh.position[i + 1], mesh.position[i + 2]];
      const own = (row: number, a: number, b: number, c: number) =>
        a * axes[row] + b * axes[3 + row] + c * axes[6 + row];
      const [side, up, far] = [0, 1, 2].map((row) => offset[row] + own(row, x, y, z));
      const s = along + far;
      // what reaches beyond an open end goes on straight
      const beyond = open ? s - Math.min(walk.length, Math.max(0, s)) : 0;
      frameAt(framed, walk, s, frame, 0);
      frameAt(framed, walk, s - step, frame, 1);
      frameAt(framed, walk, s + step, frame, 2);
      const { at, tangent: t, up: u } = frame;
      const [nx, ny, nz] = [mesh.normal[i], mesh.normal[i + 1], mesh.normal[i + 2]];
      const [ns, nu, nt] = [0, 1, 2].map((row) => own(row, nx, ny, nz));
      let bend = 0;
      const across = [0, 1, 2].map((k) => u[(k + 1) % 3] * t[(k + 2) % 3] - u[(k + 2) % 3] * t[(k + 1) % 3]);
      for (let k = 0; k < 3; k++) bend += ((t[6 + k] - t[3 + k]) / (2 * step)) * (side * across[k] + up * u[k]);
      const stretch = Math.max(0.05, 1 - (beyond === 0 ? bend : 0));
      let size = 0;
      for (let k = 0; k < 3; k++) {
        out.position[o + k] = at[k] + side * across[k] + up * u[k] + beyond * t[k];
        out.normal[o + k] = ns * across[k] + nu * u[k] + (nt / stretch) * t[k];
        size += out.normal[o + k] ** 2;
      }
      size = Math.sqrt(size) || 1;
      for (let k = 0; k < 3; k++) out.normal[o + k] /= size;
    }
    out.uv.set(mesh.uv, 2 * n * vertices);
    for (let k = 0; k < mesh.index.length; k++) out.index[n * mesh.index.length + k] = n * vertices + mesh.index[k];
  });
  return out;
}
