import { BufferAttribute, BufferGeometry, Matrix4, Quaternion, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { Mesh } from '../mesh/mesh.js';
import { HOME, isHome, type Placement, placementMatrix } from '../mesh/transform.js';

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

/**
 * A mesh that can be asked for its closest point and for rays, where it stands in the world. The tree over the
 * triangles is built once a mesh; moving the prop only changes the placement.
 */
export class Surface {
  private readonly matrix = new Matrix4();
  private readonly inverse = new Matrix4();
  private readonly turn = new Quaternion();
  private readonly home: boolean;
  // scratch of the queries, which never call back into themselves
  private readonly asked = new Vector3();
  private readonly ray = new Ray();
  private readonly found = { point: new Vector3(), distance: 0, faceIndex: 0 };

  private constructor(
    readonly mesh: Pick<Mesh, 'position' | 'index'>,
    private readonly tree: MeshBVH,
    readonly placement: Placement,
  ) {
    this.home = isHome(placement);
    this.matrix.fromArray(placementMatrix(placement));
    this.inverse.copy(this.matrix).invert();
    this.turn.fromArray(placement.rotation);
  }

  /** Builds the tree: about a second for a million triangles. */
  static of(mesh: Pick<Mesh, 'position' | 'index'>, placement: Placement = HOME): Surface {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(mesh.position, 3));
    geometry.setIndex(new BufferAttribute(mesh.index, 1));
    // indirect: the tree must not reorder the triangles, anchors name them
    return new Surface(mesh, new MeshBVH(geometry, { indirect: true }), placement);
  }

  /** The same mesh and tree somewhere else. */
  at(placement: Placement): Surface {
    return new Surface(this.mesh, this.tree, placement);
  }

  /**
   * Closest place to (x, y, z), world metres, nearer than `within`. Returns false and leaves `hit` alone if there is none.
   */
  closest(x: number, y: number, z: number, hit: SurfaceHit, within = Infinity): boolean {
    this.asked.set(x, y, z);
    if (!this.home) this.asked.applyMatrix4(this.inverse);
    const scale = this.placement.scale;
    const found = this.tree.closestPointToPoint(this.asked, this.found, 0, within / scale);
    if (!found || found.distance * scale >= within) return false;
    hit.distance = found.distance * scale;
    this.fill(found.faceIndex, found.point, hit);
    return true;
  }

  /** First face that a ray meets, from either side. `direction` need not be unit. */
  cast(origin: ArrayLike<number>, direction: ArrayLike<number>, hit: SurfaceHit): boolean {
    this.ray.origin.set(origin[0], origin[1], origin[2]);
    this.ray.direction.set(direction[0], direction[1], direction[2]).normalize();
    if (!this.home) this.ray.applyMatrix4(this.inverse);
    this.ray.direction.normalize();
    const found = this.tree.raycastFirst(this.ray, 2);
    if (!found || found.faceIndex == null) return false;
    hit.distance = found.distance * this.placement.scale;
    this.fill(found.faceIndex, found.point, hit);
    return true;
  }

  /** World place of a triangle and its corner shares: what an anchor stands for. Writes point, normal and shares. */
  place(triangle: number, barycentric: readonly [number, number, number], hit: SurfaceHit): void {
    const { position: p, index } = this.mesh;
    const at = this.asked.set(0, 0, 0);
    for (let k = 0; k < 3; k++) {
      const v = 3 * index[3 * triangle + k];
      at.x += barycentric[k] * p[v];
      at.y += barycentric[k] * p[v + 1];
      at.z += barycentric[k] * p[v + 2];
    }
    hit.distance = 0;
    this.fill(triangle, at, hit);
  }

  private fill(triangle: number, local: Vector3, hit: SurfaceHit): void {
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
    const wx = local.x - p[a];
    const wy = local.y - p[a + 1];
    const wz = local.z - p[a + 2];
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
    const size = Math.sqrt(nn) || 1;
    if (this.home) {
      hit.point[0] = local.x;
      hit.point[1] = local.y;
      hit.point[2] = local.z;
      hit.normal[0] = nx / size;
      hit.normal[1] = ny / size;
      hit.normal[2] = nz / size;
    } else {
      this.normalScratch
        .set(nx / size, ny / size, nz / size)
        .applyQuaternion(this.turn)
        .toArray(hit.normal);
      local.applyMatrix4(this.matrix).toArray(hit.point);
    }
  }
  private readonly normalScratch = new Vector3();
}
