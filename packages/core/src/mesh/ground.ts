import { cross, dot, normalize, subtract, upAcross, type Vec3, vec3 } from '../numeric/vector.js';
import { areaOf } from '../section/plane.js';
import { type FlatOutline, triangles } from '../section/runs.js';
import { blankMesh, type Mesh, onlyUsed } from './mesh.js';

/** What stands out beyond a plane is ground off it, as far as `near` from its place. */
export interface GroundPlane {
  at: Vec3;
  /** Unit vector to the side that is taken away. */
  out: Vec3;
  /** Metres. */
  near: number;
}

/**
 * A mesh with what is beyond its planes taken off and closed by flat faces. Quads that are not cut stay quads; further attributes are left out.
 * @param planesOf planes that a vertex is held against; of several the first that it lies beyond takes it
 */
export function groundOff(mesh: Mesh, planesOf: (vertex: number) => readonly GroundPlane[]): Mesh {
  const beyond = heights(mesh, planesOf);
  const { index } = mesh;
  const made = new Added(mesh);
  const kept: number[] = [];
  const pieces: number[] = [];
  const isKept = (v: number) => !(beyond.height[v] > 0);
  for (let i = 0; i < index.length; i += i < 6 * mesh.quads ? 6 : 3) {
    const corners = index.subarray(i, i + (i < 6 * mesh.quads ? 6 : 3));
    if (corners.every(isKept)) (i < 6 * mesh.quads ? kept : pieces).push(...corners);
    else
      for (let k = 0; k < corners.length; k += 3)
        pieces.push(...made.cut(Array.from(corners.subarray(k, k + 3)), beyond));
  }
  const caps = made.caps();
  const out = blankMesh(mesh.position.length / 3 + made.count, kept.length + pieces.length + caps.length);
  out.position.set(mesh.position);
  out.normal.set(mesh.normal);
  out.uv.set(mesh.uv);
  out.position.set(made.position, mesh.position.length);
  out.normal.set(made.normal, mesh.normal.length);
  out.uv.set(made.uv, mesh.uv.length);
  out.index.set(kept);
  out.index.set(pieces, kept.length);
  out.index.set(caps, kept.length + pieces.length);
  out.quads = kept.length / 6;
  out.groups.push({ start: 0, count: out.index.length, slot: mesh.groups[0]?.slot ?? 'main' });
  return onlyUsed(out);
}

interface Beyond {
  /** How far a vertex lies beyond its plane, metres. */
  height: Float64Array;
  plane: (GroundPlane | undefined)[];
}

function heights({ position }: Mesh, planesOf: (vertex: number) => readonly GroundPlane[]): Beyond {
  const count = position.length / 3;
  const height = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
  const plane: Beyond['plane'] = [];
  for (let v = 0; v < count; v++)
    for (const one of planesOf(v)) {
      const from = subtract(vec3(), position.subarray(3 * v, 3 * v + 3), one.at);
      if (height[v] > 0 || dot(from, from) > one.near ** 2) continue;
      // on the plane to the bit counts as before it
      height[v] = dot(from, one.out) || -1e-15;
      plane[v] = one;
    }
  return { height, plane };
}

/** The vertices of cut faces and of the flats that close them. */
class Added {
  readonly position: number[] = [];
  readonly normal: number[] = [];
  readonly uv: number[] = [];
  /** Rims of what was cut, one list of steps for each plane, from place to place. */
  private readonly rims = new Map<GroundPlane, Map<string, { from: Vec3; to: Vec3 }[]>>();
  private readonly mesh: Mesh;

  constructor(mesh: Mesh) {
    this.mesh = mesh;
  }

  get count(): number {
    return this.position.length / 3;
  }

  private add(place: readonly number[], normal: readonly number[], uv: readonly number[]): number {
    this.position.push(...place);
    this.normal.push(...normal);
    this.uv.push(...uv);
    return this.mesh.position.length / 3 + this.count - 1;
  }

  /** Triangles of what is left of one. */
  cut(corners: number[], { height, plane }: Beyond): number[] {
    const left: number[] = [];
    let [out, back] = [-1, -1];
    corners.forEach((a, k) => {
      const b = corners[(k + 1) % 3];
      const [isIn, goesIn] = [!(height[a] > 0), !(height[b] > 0)];
      if (isIn) left.push(a);
      if (isIn === goesIn) return;
      // always from the inside: faces on both sides of an edge are cut in one place to the bit
      const cut = isIn ? this.between(a, b, height) : this.between(b, a, height);
      left.push(cut);
      if (isIn) out = cut;
      else back = cut;
    });
    const one = corners.map((v) => (height[v] > 0 ? plane[v] : undefined)).find(Boolean);
    if (!one || left.length < 3) return left;
    // the flat runs against what is left
    this.remember(one, back, out);
    return left.length === 4 ? [left[0], left[1], left[2], left[0], left[2], left[3]] : left;
  }

  /** The place where an edge that goes out passes its plane. */
  private between(a: number, b: number, height: Float64Array): number {
    const { position, normal, uv } = this.mesh;
    // what is far from every plane is just before it
    const t = Number.isFinite(height[a]) ? height[a] / (height[a] - height[b]) : 1;
    const mix = (array: Float32Array, size: number) =>
      Array.from({ length: size }, (_, k) =>
        Math.fround(array[size * a + k] + t * (array[size * b + k] - array[size * a + k])),
      );
    return this.add(mix(position, 3), normalize(vec3(), mix(normal, 3)), mix(uv, 2));
  }

  private remember(plane: GroundPlane, a: number, b: number): void {
    const at = (v: number) => {
      const i = 3 * (v - this.mesh.position.length / 3);
      return this.position.slice(i, i + 3) as Vec3;
    };
    const [from, to] = [at(a), at(b)];
    if (from.join() === to.join()) return;
    const rims = this.rims.get(plane) ?? new Map<string, { from: Vec3; to: Vec3 }[]>();
    this.rims.set(plane, rims);
    rims.set(from.join(), [...(rims.get(from.join()) ?? []), { from, to }]);
  }

  /** Flat faces over all rims. */
  caps(): number[] {
    return [...this.rims].flatMap(([plane, steps]) => {
      const u = upAcross(vec3(), plane.out);
      const v = cross(vec3(), plane.out, u);
      const places: Vec3[] = [];
      const outlines: FlatOutline[] = [];
      for (const loop of loopsOf(steps)) {
        const flat = loop.map((place): [number, number] => [dot(place, u), dot(place, v)]);
        outlines.push({ first: places.length, places: flat, area: areaOf(flat) });
        places.push(...loop);
      }
      const faces = triangles(outlines);
      const first = this.mesh.position.length / 3 + this.count;
      for (const place of places) this.add(place, plane.out, [dot(place, u), dot(place, v)]);
      return Array.from(faces, (k) => first + k);
    });
  }
}

/** Steps joined to closed rims. */
function loopsOf(steps: Map<string, { from: Vec3; to: Vec3 }[]>): Vec3[][] {
  const loops: Vec3[][] = [];
  for (;;) {
    const begin = [...steps.values()].find((all) => all.length > 0);
    if (!begin) return loops;
    const loop: Vec3[] = [];
    for (let next = begin.pop(); next; next = steps.get(next.to.join())?.pop()) loop.push(next.from);
    if (loop.length > 2) loops.push(loop);
  }
}
