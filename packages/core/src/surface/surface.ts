import { boundsOf } from '../mesh/measure.js';
import type { Mesh } from '../mesh/mesh.js';
import { HOME, isHome, type Placement, placementMatrix } from '../mesh/transform.js';
import { type Found, TriangleTree } from './triangle-tree.js';

/** Of two places as near as each other, rounding must lose none. */
const NEARLY = 1 + 1e-12;

/** A place on a surface. Written by the queries, meant to be used again and again. */
export interface SurfaceHit {
  /** Triangle of the mesh, −1 when nothing was found. */
  triangle: number;
  /** Shares of the triangle's three corners at the place; they sum to 1. */
  barycentric: [number, number, number];
  /** The place and the face's outward unit normal, world xyz. */
  point: Float64Array;
  normal: Float64Array;
  /** From the asked point (closest) or from the ray's origin (ray), world metres. */
  distance: number;
}

export const createHit = (): SurfaceHit => ({
  triangle: -1,
  barycentric: [1, 0, 0],
  point: new Float64Array(3),
  normal: new Float64Array(3),
  distance: Infinity,
});

export function copyHit(from: SurfaceHit, to: SurfaceHit): void {
  to.triangle = from.triangle;
  to.distance = from.distance;
  for (let k = 0; k < 3; k++) {
    to.barycentric[k] = from.barycentric[k];
    to.point[k] = from.point[k];
    to.normal[k] = from.normal[k];
  }
}

/** A mesh with its tree, which is built when it is first asked: about half a second for a million triangles. */
class Shape {
  readonly bounds: Float64Array;
  private built: TriangleTree | undefined;

  constructor(readonly mesh: Pick<Mesh, 'position' | 'index'>) {
    const { min, max } = boundsOf(mesh.position);
    this.bounds = Float64Array.of(...min, ...max);
  }

  get tree(): TriangleTree {
    this.built ??= new TriangleTree(this.mesh);
    return this.built;
  }
}

/**
 * A mesh that can be asked for its closest point and for rays, where it is in the world. The tree over the
 * triangles is built once a mesh; moving the prop only changes the placement.
 */
export class Surface {
  /** World box: least xyz, greatest xyz. */
  readonly bounds: Float64Array;
  private readonly home: boolean;
  /** Column-major 4×4 of the placement. */
  private readonly matrix: Float64Array;
  // scratch of the queries, which never call back into themselves
  private readonly local = new Float64Array(3);

  private constructor(
    private readonly shape: Shape,
    readonly placement: Placement,
  ) {
    this.home = isHome(placement);
    this.matrix = placementMatrix(placement);
    this.bounds = this.home ? shape.bounds : worldBox(shape.bounds, this.matrix);
  }

  static of(mesh: Pick<Mesh, 'position' | 'index'>, placement: Placement = HOME): Surface {
    return new Surface(new Shape(mesh), placement);
  }

  /** The same mesh and tree somewhere else. */
  at(placement: Placement): Surface {
    return new Surface(this.shape, placement);
  }

  get mesh(): Pick<Mesh, 'position' | 'index'> {
    return this.shape.mesh;
  }

  private get tree(): TriangleTree {
    return this.shape.tree;
  }

  /**
   * Closest place to (x, y, z), world metres, nearer than `within`. Returns false and leaves `hit` alone if there is none.
   */
  closest(x: number, y: number, z: number, hit: SurfaceHit, within = Infinity): boolean {
    const distance = this.distance(x, y, z, within);
    if (!(distance < within)) return false;
    const { triangle, x: lx, y: ly, z: lz } = this.tree.found;
    hit.distance = distance;
    this.fill(triangle, lx, ly, lz, hit);
    return true;
  }

  /** Distance to the closest place, at most about `within`, else Infinity. `found` then holds where that is. */
  distance(x: number, y: number, z: number, within: number): number {
    const { scale } = this.placement;
    const { local, tree } = this;
    this.toLocal(x, y, z);
    // a hair more: rounding must not lose a place that is just as near as another prop's
    return tree.closest(local[0], local[1], local[2], (within / scale) * NEARLY)
      ? Math.sqrt(tree.found.measure) * scale
      : Infinity;
  }

  /** What the last question found, in the mesh's own space. Props of one mesh share it. */
  get found(): Readonly<Found> {
    return this.tree.found;
  }

  /** First face that a ray meets, from either side, nearer than `within`. `direction` need not be unit. */
  cast(origin: ArrayLike<number>, direction: ArrayLike<number>, hit: SurfaceHit, within = Infinity): boolean {
    const { matrix: m, tree, local } = this;
    const { scale } = this.placement;
    this.toLocal(origin[0], origin[1], origin[2]);
    const size = Math.sqrt(direction[0] ** 2 + direction[1] ** 2 + direction[2] ** 2) || 1;
    const [x, y, z] = [direction[0] / size, direction[1] / size, direction[2] / size];
    const dx = (m[0] * x + m[1] * y + m[2] * z) / scale;
    const dy = (m[4] * x + m[5] * y + m[6] * z) / scale;
    const dz = (m[8] * x + m[9] * y + m[10] * z) / scale;
    if (!tree.ray(local[0], local[1], local[2], dx, dy, dz, (within / scale) * NEARLY)) return false;
    const distance = tree.found.measure * scale;
    if (!(distance <= within)) return false;
    const { found } = tree;
    hit.distance = distance;
    this.fill(found.triangle, found.x, found.y, found.z, hit);
    return true;
  }

  /** World place of a triangle and its corner shares: what an anchor represents. Writes point, normal and shares. */
  place(triangle: number, barycentric: readonly [number, number, number], hit: SurfaceHit): void {
    const { position: p, index } = this.mesh;
    let [x, y, z] = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      const v = 3 * index[3 * triangle + k];
      x += barycentric[k] * p[v];
      y += barycentric[k] * p[v + 1];
      z += barycentric[k] * p[v + 2];
    }
    hit.distance = 0;
    this.fill(triangle, x, y, z, hit);
  }

  private toLocal(x: number, y: number, z: number): void {
    const { local, matrix: m } = this;
    if (this.home) {
      local[0] = x;
      local[1] = y;
      local[2] = z;
      return;
    }
    const ss = this.placement.scale * this.placement.scale;
    const [px, py, pz] = [x - m[12], y - m[13], z - m[14]];
    local[0] = (m[0] * px + m[1] * py + m[2] * pz) / ss;
    local[1] = (m[4] * px + m[5] * py + m[6] * pz) / ss;
    local[2] = (m[8] * px + m[9] * py + m[10] * pz) / ss;
  }

  /** Writes a place of the mesh's own space: triangle, shares, world point and normal. */
  fill(triangle: number, lx: number, ly: number, lz: number, hit: SurfaceHit): void {
    const { position: p, index } = this.mesh;
    const a = 3 * index[3 * triangle];
    const b = 3 * index[3 * triangle + 1];
    const c = 3 * index[3 * triangle + 2];
    const ux = p[b] - p[a];
    const uy = p[b + 1] - p[a + 1];
    const uz = p[b + 2] - p[a + 2];
    const vx = p[c] - p[a];
    const vy = p[c + 1] - p[a + 1];
    const vz = p[c + 2] - p[a + 2];
    const nx = uy * vz - uz * vy;
    const ny = uz * vx - ux * vz;
    const nz = ux * vy - uy * vx;
    const nn = nx * nx + ny * ny + nz * nz;
    const wx = lx - p[a];
    const wy = ly - p[a + 1];
    const wz = lz - p[a + 2];
    hit.triangle = triangle;
    if (nn > 0) {
      const second = ((wy * vz - wz * vy) * nx + (wz * vx - wx * vz) * ny + (wx * vy - wy * vx) * nz) / nn;
      const third = ((uy * wz - uz * wy) * nx + (uz * wx - ux * wz) * ny + (ux * wy - uy * wx) * nz) / nn;
      hit.barycentric[0] = 1 - second - third;
      hit.barycentric[1] = second;
      hit.barycentric[2] = third;
    } else {
      hit.barycentric[0] = 1;
      hit.barycentric[1] = 0;
      hit.barycentric[2] = 0;
    }
    const { point, normal } = hit;
    if (this.home) {
      const size = Math.sqrt(nn) || 1;
      point[0] = lx;
      point[1] = ly;
      point[2] = lz;
      normal[0] = nx / size;
      normal[1] = ny / size;
      normal[2] = nz / size;
      return;
    }
    const m = this.matrix;
    const size = (Math.sqrt(nn) || 1) * this.placement.scale;
    for (let k = 0; k < 3; k++) {
      point[k] = m[k] * lx + m[4 + k] * ly + m[8 + k] * lz + m[12 + k];
      normal[k] = (m[k] * nx + m[4 + k] * ny + m[8 + k] * nz) / size;
    }
  }
}

/** World box of a box that is moved, turned and scaled. */
function worldBox(box: Float64Array, m: Float64Array): Float64Array {
  const out = Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
  for (let corner = 0; corner < 8; corner++) {
    const [x, y, z] = [box[corner & 1 ? 3 : 0], box[corner & 2 ? 4 : 1], box[corner & 4 ? 5 : 2]];
    for (let k = 0; k < 3; k++) {
      const value = m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k];
      if (value < out[k]) out[k] = value;
      if (value > out[3 + k]) out[3 + k] = value;
    }
  }
  return out;
}
