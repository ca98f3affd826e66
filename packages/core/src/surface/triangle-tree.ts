import type { Mesh } from '../mesh/mesh.js';

/** Triangles in one leaf at most. */
const LEAF = 6;
/** Deep enough for any tree over 2³² triangles that halves where it cannot split. */
const STACK = 128;
/** A box is passed over only where it is further by more than rounding: which of two equals is found must not hang on it. */
const ROUNDING = 1 + 1e-12;
/** Shares of a triangle's corners that rounding may take beyond its edges. */
const EDGE = 1e-9;

// Nodes lie in pairs: the two children of a node are `link` and `link + 1`. A node with `count` > 0 is a leaf, whose
// triangles are `link … link + count − 1` in the order of the tree. Corners are kept in that order, nine numbers a triangle.

/** What a query found, in the tree's own space. */
export interface Found {
  /** Number of the triangle in the mesh. */
  triangle: number;
  x: number;
  y: number;
  z: number;
  /** Squared distance for a closest point; distance along the ray for a ray. */
  measure: number;
}

export function copyFound(from: Readonly<Found>, to: Found): void {
  to.triangle = from.triangle;
  to.x = from.x;
  to.y = from.y;
  to.z = from.z;
  to.measure = from.measure;
}

/**
 * A tree of boxes over the triangles of a mesh, for the closest place and for rays. The answer never depends on what
 * was asked before: of places equally near it is the one of the triangle with the lowest number.
 * Split at the mean of the centres along the widest axis (Ericson, Real-Time Collision Detection, 2005, 6.2).
 */
export class TriangleTree {
  readonly found: Found = { triangle: -1, x: 0, y: 0, z: 0, measure: Infinity };
  private readonly box: Float32Array;
  private readonly link: Uint32Array;
  private readonly count: Uint32Array;
  private readonly corner: Float32Array;
  private readonly number: Uint32Array;
  /** Where the last answer lay: what is asked next is likely near it, so it bounds the search. */
  private last = 0;

  constructor({ position, index }: Pick<Mesh, 'position' | 'index'>) {
    const total = Math.floor(index.length / 3);
    const built = buildTree(position, index, total);
    this.box = built.box;
    this.link = built.link;
    this.count = built.count;
    this.number = built.order;
    this.corner = new Float32Array(9 * total);
    for (let slot = 0; slot < total; slot++)
      for (let k = 0; k < 3; k++) {
        const v = 3 * index[3 * this.number[slot] + k];
        this.corner[9 * slot + 3 * k] = position[v];
        this.corner[9 * slot + 3 * k + 1] = position[v + 1];
        this.corner[9 * slot + 3 * k + 2] = position[v + 2];
      }
  }

  /** Closest place to (x, y, z) → `found`. False when nothing is at most `within` away. */
  closest(x: number, y: number, z: number, within: number): boolean {
    const { found, box, link, count, number } = this;
    if (number.length === 0) return false;
    found.triangle = -1;
    found.measure = within * within;
    this.tryTriangle(this.last, x, y, z);
    let depth = 0;
    let node = 0;
    let near = squaredToBox(box, 0, x, y, z);
    for (;;) {
      if (near <= found.measure * ROUNDING) {
        const triangles = count[node];
        if (triangles > 0) {
          const first = link[node];
          for (let slot = first; slot < first + triangles; slot++) this.tryTriangle(slot, x, y, z);
        } else {
          const a = link[node];
          const toA = squaredToBox(box, a, x, y, z);
          const toB = squaredToBox(box, a + 1, x, y, z);
          const nearer = toA <= toB ? a : a + 1;
          const further = Math.max(toA, toB);
          if (further <= found.measure * ROUNDING) {
            nodes[depth] = nearer === a ? a + 1 : a;
            measures[depth++] = further;
          }
          node = nearer;
          near = Math.min(toA, toB);
          continue;
        }
      }
      if (depth === 0) break;
      node = nodes[--depth];
      near = measures[depth];
    }
    return found.triangle >= 0;
  }

  /** Closest point on a triangle: Ericson, Real-Time Collision Detection, 2005, 5.1.5. */
  private tryTriangle(slot: number, px: number, py: number, pz: number): void {
    const { corner, found } = this;
    const i = 9 * slot;
    const ax = corner[i];
    const ay = corner[i + 1];
    const az = corner[i + 2];
    const ux = corner[i + 3] - ax;
    const uy = corner[i + 4] - ay;
    const uz = corner[i + 5] - az;
    const vx = corner[i + 6] - ax;
    const vy = corner[i + 7] - ay;
    const vz = corner[i + 8] - az;
    let wx = px - ax;
    let wy = py - ay;
    let wz = pz - az;
    const d1 = ux * wx + uy * wy + uz * wz;
    const d2 = vx * wx + vy * wy + vz * wz;
    const uu = ux * ux + uy * uy + uz * uz;
    const uv = ux * vx + uy * vy + uz * vz;
    const vv = vx * vx + vy * vy + vz * vz;
    const d3 = d1 - uu;
    const d4 = d2 - uv;
    const d5 = d1 - uv;
    const d6 = d2 - vv;
    let s = 0;
    let t = 0;
    if (d1 <= 0 && d2 <= 0) {
      // the first corner
    } else if (d3 >= 0 && d4 <= d3) s = 1;
    else if (d6 >= 0 && d5 <= d6) t = 1;
    else {
      const vc = d1 * d4 - d3 * d2;
      const vb = d5 * d2 - d1 * d6;
      const va = d3 * d6 - d5 * d4;
      if (vc <= 0 && d1 >= 0 && d3 <= 0) s = uu > 0 ? d1 / uu : 0;
      else if (vb <= 0 && d2 >= 0 && d6 <= 0) t = vv > 0 ? d2 / vv : 0;
      else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
        const whole = d4 - d3 + d5 - d6;
        t = whole > 0 ? (d4 - d3) / whole : 0;
        s = 1 - t;
      } else {
        const whole = va + vb + vc;
        s = vb / whole;
        t = vc / whole;
      }
    }
    wx -= s * ux + t * vx;
    wy -= s * uy + t * vy;
    wz -= s * uz + t * vz;
    const far = wx * wx + wy * wy + wz * wz;
    const triangle = this.number[slot];
    const nearer = far < found.measure || (far === found.measure && (found.triangle < 0 || triangle < found.triangle));
    // a triangle without an area may give no number: it is never nearer
    if (!nearer) return;
    found.measure = far;
    found.triangle = triangle;
    found.x = px - wx;
    found.y = py - wy;
    found.z = pz - wz;
    this.last = slot;
  }

  /** First triangle that a ray meets, from either side, at most `within` away → `found`. `direction` is a unit vector. */
  ray(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, within: number): boolean {
    const { found, box, link, count, number } = this;
    found.triangle = -1;
    found.measure = within;
    if (number.length === 0) return false;
    const ix = 1 / dx;
    const iy = 1 / dy;
    const iz = 1 / dz;
    let depth = 0;
    nodes[depth++] = 0;
    while (depth > 0) {
      const node = nodes[--depth];
      if (!meetsBox(box, 6 * node, ox, oy, oz, ix, iy, iz, found.measure)) continue;
      const triangles = count[node];
      if (triangles === 0) {
        nodes[depth++] = link[node];
        nodes[depth++] = link[node] + 1;
        continue;
      }
      for (let slot = link[node]; slot < link[node] + triangles; slot++) this.tryRay(slot, ox, oy, oz, dx, dy, dz);
    }
    return found.triangle >= 0;
  }

  /** Möller and Trumbore, Fast, Minimum Storage Ray/Triangle Intersection, 1997. */
  private tryRay(slot: number, ox: number, oy: number, oz: number, dx: number, dy: number, dz: number): void {
    const { corner, found } = this;
    const i = 9 * slot;
    const ux = corner[i + 3] - corner[i];
    const uy = corner[i + 4] - corner[i + 1];
    const uz = corner[i + 5] - corner[i + 2];
    const vx = corner[i + 6] - corner[i];
    const vy = corner[i + 7] - corner[i + 1];
    const vz = corner[i + 8] - corner[i + 2];
    const px = dy * vz - dz * vy;
    const py = dz * vx - dx * vz;
    const pz = dx * vy - dy * vx;
    const determinant = ux * px + uy * py + uz * pz;
    if (determinant === 0) return;
    const sx = ox - corner[i];
    const sy = oy - corner[i + 1];
    const sz = oz - corner[i + 2];
    const u = (sx * px + sy * py + sz * pz) / determinant;
    // a hair beyond the edges: between two faces no ray may slip through
    if (!(u >= -EDGE && u <= 1 + EDGE)) return;
    const qx = sy * uz - sz * uy;
    const qy = sz * ux - sx * uz;
    const qz = sx * uy - sy * ux;
    const v = (dx * qx + dy * qy + dz * qz) / determinant;
    if (!(v >= -EDGE && u + v <= 1 + EDGE)) return;
    const far = (vx * qx + vy * qy + vz * qz) / determinant;
    const triangle = this.number[slot];
    if (far < 0 || far > found.measure || (far === found.measure && found.triangle >= 0 && triangle >= found.triangle))
      return;
    found.measure = far;
    found.triangle = triangle;
    found.x = ox + far * dx;
    found.y = oy + far * dy;
    found.z = oz + far * dz;
  }
}

// stacks of the queries, which never call back into themselves
const nodes = new Uint32Array(STACK);
const measures = new Float64Array(STACK);

/** Squared distance from a place to box `node`; 0 inside it. */
export function squaredToBox(box: ArrayLike<number>, node: number, x: number, y: number, z: number): number {
  const i = 6 * node;
  const dx = x < box[i] ? box[i] - x : x > box[i + 3] ? x - box[i + 3] : 0;
  const dy = y < box[i + 1] ? box[i + 1] - y : y > box[i + 4] ? y - box[i + 4] : 0;
  const dz = z < box[i + 2] ? box[i + 2] - z : z > box[i + 5] ? z - box[i + 5] : 0;
  return dx * dx + dy * dy + dz * dz;
}

/**
 * True when a ray passes a box nearer than `within`: slabs (Kay and Kajiya, 1986). Takes the directions' reciprocals;
 * a ray that runs within a face of the box counts as passing it.
 */
export function meetsBox(
  box: ArrayLike<number>,
  i: number,
  ox: number,
  oy: number,
  oz: number,
  ix: number,
  iy: number,
  iz: number,
  within: number,
): boolean {
  let enter = 0;
  let leave = within;
  if (ix === Infinity || ix === -Infinity) {
    // along the slab: inside it or never
    if (ox < box[i] || ox > box[i + 3]) return false;
  } else {
    const a = (box[i] - ox) * ix;
    const b = (box[i + 3] - ox) * ix;
    const near = a < b ? a : b;
    const far = a < b ? b : a;
    if (near > enter) enter = near;
    if (far < leave) leave = far;
  }
  if (iy === Infinity || iy === -Infinity) {
    // along the slab: inside it or never
    if (oy < box[i + 1] || oy > box[i + 4]) return false;
  } else {
    const a = (box[i + 1] - oy) * iy;
    const b = (box[i + 4] - oy) * iy;
    const near = a < b ? a : b;
    const far = a < b ? b : a;
    if (near > enter) enter = near;
    if (far < leave) leave = far;
  }
  if (iz === Infinity || iz === -Infinity) {
    // along the slab: inside it or never
    if (oz < box[i + 2] || oz > box[i + 5]) return false;
  } else {
    const a = (box[i + 2] - oz) * iz;
    const b = (box[i + 5] - oz) * iz;
    const near = a < b ? a : b;
    const far = a < b ? b : a;
    if (near > enter) enter = near;
    if (far < leave) leave = far;
  }
  // rounding may part the two by a hair where the ray just touches
  return enter <= leave * (1 + 1e-9) + 1e-12;
}

function buildTree(position: Float32Array, index: Uint32Array, total: number) {
  const least = new Float32Array(3 * total);
  const greatest = new Float32Array(3 * total);
  const order = new Uint32Array(total);
  for (let t = 0; t < total; t++) {
    order[t] = t;
    const [a, b, c] = [3 * index[3 * t], 3 * index[3 * t + 1], 3 * index[3 * t + 2]];
    for (let k = 0; k < 3; k++) {
      const [p, q, r] = [position[a + k], position[b + k], position[c + k]];
      least[3 * t + k] = p < q ? Math.min(p, r) : Math.min(q, r);
      greatest[3 * t + k] = p > q ? Math.max(p, r) : Math.max(q, r);
    }
  }
  const most = Math.max(1, 2 * total);
  const box = new Float32Array(6 * most);
  const link = new Uint32Array(most);
  const count = new Uint32Array(most);
  let used = 1;
  const work: [node: number, from: number, to: number][] = [[0, 0, total]];
  for (let next = work.pop(); next; next = work.pop()) {
    const [node, from, to] = next;
    const axis = boxOf(least, greatest, order, from, to, box, 6 * node);
    if (to - from <= LEAF) {
      link[node] = from;
      count[node] = to - from;
      continue;
    }
    const middle = splitAtMean(least, greatest, order, from, to, axis);
    link[node] = used;
    work.push([used, from, middle], [used + 1, middle, to]);
    used += 2;
  }
  return { box: box.slice(0, 6 * used), link: link.slice(0, used), count: count.slice(0, used), order };
}

/** Writes the box of a run of triangles; returns the axis along which their centres reach furthest. */
function boxOf(
  least: Float32Array,
  greatest: Float32Array,
  order: Uint32Array,
  from: number,
  to: number,
  box: Float32Array,
  at: number,
): number {
  let axis = 0;
  let widest = -1;
  for (let k = 0; k < 3; k++) {
    let [low, high, near, far] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let i = from; i < to; i++) {
      const t = 3 * order[i] + k;
      if (least[t] < low) low = least[t];
      if (greatest[t] > high) high = greatest[t];
      const centre = least[t] + greatest[t];
      if (centre < near) near = centre;
      if (centre > far) far = centre;
    }
    box[at + k] = low;
    box[at + 3 + k] = high;
    if (far - near > widest) {
      widest = far - near;
      axis = k;
    }
  }
  return axis;
}

/** Parts the run at the mean of the centres; in half where that parts nothing. Returns where the second part begins. */
function splitAtMean(
  least: Float32Array,
  greatest: Float32Array,
  order: Uint32Array,
  from: number,
  to: number,
  axis: number,
): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += least[3 * order[i] + axis] + greatest[3 * order[i] + axis];
  const mean = sum / (to - from);
  let left = from;
  let right = to - 1;
  while (left <= right) {
    const t = 3 * order[left] + axis;
    if (least[t] + greatest[t] < mean) left++;
    else {
      const other = order[right];
      order[right--] = order[left];
      order[left] = other;
    }
  }
  return left === from || left === to ? (from + to) >> 1 : left;
}
