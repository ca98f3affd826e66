import { type Mesh, withComputedNormals } from '@kelp/core';

export type Vec = readonly [number, number, number];

/** Gathers faces of simple solids; `finish` welds nothing and computes normals. */
export class SolidBuilder {
  private readonly position: number[] = [];
  private readonly index: number[] = [];

  /** Box with chamfered edges, centred at `center`; `turn` about the vertical, radians. */
  box(center: Vec, size: Vec, chamfer = 0.006, turn = 0): this {
    const half = size.map((s) => s / 2);
    const c = Math.min(chamfer, ...half.map((h) => h * 0.9));
    const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
    const corner = (sx: number, sy: number, sz: number, flat: number): Vec => {
      const p = [sx, sy, sz].map((s, axis) => s * (half[axis] - (axis === flat ? 0 : c)));
      return [center[0] + p[0] * cos + p[2] * sin, center[1] + p[1], center[2] - p[0] * sin + p[2] * cos];
    };
    const signs = [-1, 1];
    for (let axis = 0; axis < 3; axis++) {
      const [b, d] = [(axis + 1) % 3, (axis + 2) % 3];
      for (const s of signs) {
        const at = (sb: number, sd: number, flat: number): Vec => {
          const sign = [0, 0, 0];
          sign[axis] = s;
          sign[b] = sb;
          sign[d] = sd;
          return corner(sign[0], sign[1], sign[2], flat);
        };
        this.convex(center, [at(-1, -1, axis), at(1, -1, axis), at(1, 1, axis), at(-1, 1, axis)]);
        // the chamfer between this side and the next axis'
        for (const t of signs) this.convex(center, [at(t, -1, axis), at(t, 1, axis), at(t, 1, b), at(t, -1, b)]);
      }
    }
    for (const sx of signs)
      for (const sy of signs)
        for (const sz of signs)
          this.convex(
            center,
            [0, 1, 2].map((flat) => corner(sx, sy, sz, flat)),
          );
    return this;
  }

  /**
   * Turned solid: `profile` holds (radius, height) from bottom to top; a radius of 0 closes an end in a tip.
   * @param axis the way up of the profile: y stands, x and z lie
   */
  lathe(
    center: Vec,
    profile: readonly (readonly [number, number])[],
    segments: number,
    axis: 'x' | 'y' | 'z' = 'y',
  ): this {
    const start = this.position.length / 3;
    for (const [radius, height] of profile)
      for (let k = 0; k < segments; k++) {
        const angle = (2 * Math.PI * k) / segments;
        const a = radius * Math.cos(angle);
        const b = radius * Math.sin(angle);
        const p = axis === 'y' ? [b, height, a] : axis === 'x' ? [height, a, b] : [a, b, height];
        this.position.push(center[0] + p[0], center[1] + p[1], center[2] + p[2]);
      }
    for (let r = 0; r + 1 < profile.length; r++)
      for (let k = 0; k < segments; k++) {
        const a = start + r * segments + k;
        const b = start + r * segments + ((k + 1) % segments);
        if (profile[r][0] > 0) this.index.push(a, b, b + segments);
        if (profile[r + 1][0] > 0) this.index.push(a, b + segments, a + segments);
      }
    return this;
  }

  /** A standing or lying cylinder with a small chamfer at both ends. */
  cylinder(
    center: Vec,
    radius: number,
    height: number,
    segments = 32,
    axis: 'x' | 'y' | 'z' = 'y',
    chamfer = 0.008,
  ): this {
    const h = height / 2;
    return this.lathe(
      center,
      [
        [0, -h],
        [radius - chamfer, -h],
        [radius, -h + chamfer],
        [radius, h - chamfer],
        [radius - chamfer, h],
        [0, h],
      ],
      segments,
      axis,
    );
  }

  /** Convex solid from its faces' corners, in any order of travel. */
  faces(middle: Vec, faces: readonly (readonly Vec[])[]): this {
    for (const face of faces) this.convex(middle, face);
    return this;
  }

  finish(hardAngle = 0.6): Mesh {
    return withComputedNormals(
      {
        position: Float32Array.from(this.position),
        normal: new Float32Array(this.position.length),
        uv: new Float32Array((2 * this.position.length) / 3),
        index: Uint32Array.from(this.index),
        quads: 0,
        groups: [],
      },
      hardAngle,
    );
  }

  /** One flat face of a convex solid, turned so that it looks away from the solid's middle. */
  private convex(middle: Vec, points: readonly Vec[]): void {
    const [a, b, c] = points;
    const u = [0, 1, 2].map((k) => b[k] - a[k]);
    const v = [0, 1, 2].map((k) => c[k] - a[k]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const outward = n.reduce((sum, value, k) => sum + value * (a[k] - middle[k]), 0) > 0;
    const ordered = outward ? points : [...points].reverse();
    const start = this.position.length / 3;
    for (const p of ordered) this.position.push(...p);
    for (let k = 1; k + 1 < ordered.length; k++) this.index.push(start, start + k, start + k + 1);
  }
}
