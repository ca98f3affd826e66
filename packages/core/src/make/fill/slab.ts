import { blankMesh, type Mesh } from '../../mesh/mesh.js';
import { crossingOf } from '../../section/plane.js';
import { bowOver, leastArea } from './membrane.js';
import { type Flat, inset, type Outline, type Plane, type Region } from './outline.js';
import { type Tessellation, tessellate } from './tessellate.js';

export interface SlabShape {
  /** Half its thickness, metres. */
  half: number;
  /** How round its rim is: 0 square, 1 half a circle. */
  rounding: number;
  /** How high it bows at most, in halves of its width; below 0 it is sunk. */
  crown: number;
  /** Distance from its curve, in halves of its thickness. */
  rise: number;
  /** Distance of places on its faces, metres. */
  spacing: number;
  /** Faces over a quarter of a round rim. */
  rimSteps: number;
}

/** Corners of the rim that turn more than this are edges, radians. */
const HARD = 0.6;
/** Heights over the plane below this share of its width are none. */
const PLANE = 1e-6;
/** A rim that leaves no room for its rounding is tried less round this often. */
const MAX_TRIES = 6;

/** A slab over a region: both faces on one triangulation, and its rims between them. */
export function slab(region: Region, shape: SlabShape): Mesh {
  const loops = [region.rim, ...region.holes];
  const { insets, rounding } = room(loops, shape.rounding * shape.half);
  const tessellation = tessellate(insets, shape.spacing);
  return meshOf(region.plane, tessellation, baseOf(region, loops, tessellation, shape), shape, rounding);
}

/** The outlines of the faces: inside the rim by its rounding, or by as much as there is room for. */
function room(loops: readonly Outline[], asked: number): { insets: Flat[][]; rounding: number } {
  for (let tries = 0, rounding = asked; rounding > 0 && tries < MAX_TRIES; tries++, rounding /= 2) {
    const insets = loops.flatMap((loop) => {
      const moved = inset(loop, rounding);
      return moved ? [moved] : [];
    });
    if (insets.length === loops.length && !crossingOf(insets)) return { insets, rounding };
  }
  return { insets: loops.map(({ flat }) => flat), rounding: 0 };
}

/** A middle surface, flat xyz: its places, which way its faces stand off it, and how they look. */
interface Base {
  place: Float64Array;
  up: Float64Array;
  normal: Float64Array;
}

/**
 * The middle surface: flat, or of least area over a rim that is not, bowed by its crown. Its rim stands as upright as it
 * would without a crown: where a bowed slab is narrow it does not lean over.
 */
function baseOf(
  { plane }: Region,
  loops: readonly Outline[],
  { place: flat, triangles, origin }: Tessellation,
  shape: SlabShape,
): Base {
  const place = new Float64Array(3 * flat.length);
  let highest = 0;
  flat.forEach(([x, y], p) => {
    const from = origin[p];
    const high = from ? heightAt(loops[from.loop], from.spot) : 0;
    highest = Math.max(highest, Math.abs(high));
    for (let n = 0; n < 3; n++)
      place[3 * p + n] = plane.center[n] + x * plane.x[n] + y * plane.y[n] + high * plane.normal[n];
  });
  const held = origin.length;
  if (highest > PLANE * extentOf(flat)) leastArea(place, triangles, held);
  const even = normalsOf(place, triangles);
  if (shape.crown !== 0) {
    const bow = bowOver(place, triangles, held);
    const most = bow.reduce((a, b) => Math.max(a, b), 0);
    // of a disk the bow is R²/4 high: 2·√ of it is half the width
    const high = most > 0 ? (shape.crown * 2 * Math.sqrt(most)) / most : 0;
    for (let i = 0; i < place.length; i++) place[i] += high * bow[Math.floor(i / 3)] * even[i];
  }
  const normal = shape.crown === 0 ? even : normalsOf(place, triangles);
  const up = normal.slice();
  up.set(even.subarray(0, 3 * held));
  for (let i = 0; i < place.length; i++) place[i] += shape.rise * shape.half * even[i];
  return { place, up, normal };
}

function heightAt({ height }: Outline, spot: number): number {
  const k = Math.floor(spot);
  const next = height[(k + 1) % height.length];
  return height[k % height.length] + (spot - k) * (next - height[k % height.length]);
}

const extentOf = (flat: readonly Flat[]): number => flat.reduce((far, [x, y]) => Math.max(far, Math.hypot(x, y)), 0);

/** Unit normals of the places of a surface, each face by its angle there (Thürmer and Wüthrich 1998). */
function normalsOf(p: Float64Array, index: Uint32Array): Float64Array {
  const out = new Float64Array(p.length);
  for (let t = 0; t < index.length; t += 3) {
    const at = [0, 1, 2].map((k) => 3 * index[t + k]);
    const edge = (from: number, to: number) => [0, 1, 2].map((n) => p[at[to] + n] - p[at[from] + n]);
    const [u, v] = [edge(0, 1), edge(0, 2)];
    const face = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const size = Math.hypot(...face);
    if (size === 0) continue;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [edge(k, (k + 1) % 3), edge(k, (k + 2) % 3)];
      const angle = Math.atan2(size, a[0] * b[0] + a[1] * b[1] + a[2] * b[2]);
      for (let n = 0; n < 3; n++) out[at[k] + n] += (angle * face[n]) / size;
    }
  }
  for (let i = 0; i < out.length; i += 3) {
    const size = Math.hypot(out[i], out[i + 1], out[i + 2]) || 1;
    for (let n = 0; n < 3; n++) out[i + n] /= size;
  }
  return out;
}

/** Stations of a rim from its upper edge to its lower one: out of the face's outline, up from the middle, and its normal. */
interface Station {
  out: number;
  up: number;
  side: number;
  over: number;
  walked: number;
}

function stationsOf(half: number, rounding: number, steps: number): Station[] {
  if (rounding === 0)
    return [
      { out: 0, up: half, side: 1, over: 0, walked: 0 },
      { out: 0, up: -half, side: 1, over: 0, walked: 2 * half },
    ];
  const quarter = Array.from({ length: steps + 1 }, (_, k): Station => {
    const angle = (Math.PI / 2) * (k / steps);
    const [cos, sin] = [k === steps ? 0 : Math.cos(angle), Math.sin(angle)];
    return {
      out: rounding * sin,
      up: half - rounding + rounding * cos,
      side: sin,
      over: cos,
      walked: rounding * angle,
    };
  });
  const whole = 2 * (quarter[steps].walked + half - rounding);
  const lower = quarter
    .toReversed()
    .map((one) => ({ ...one, up: -one.up, over: -one.over, walked: whole - one.walked }));
  // of half a circle both quarters end in one place
  return [...quarter, ...(half - rounding > 1e-9 * half ? lower : lower.slice(1))];
}

function meshOf(
  plane: Plane,
  tessellation: Tessellation,
  { place, up, normal: looks }: Base,
  shape: SlabShape,
  rounding: number,
): Mesh {
  const { place: flat, triangles, rows } = tessellation;
  const stations = stationsOf(shape.half, rounding, shape.rimSteps);
  const position: number[] = [];
  const normal: number[] = [];
  const uv: number[] = [];
  for (const side of [1, -1])
    flat.forEach(([x, y], p) => {
      for (let n = 0; n < 3; n++) {
        position.push(place[3 * p + n] + side * shape.half * up[3 * p + n]);
        normal.push(side * looks[3 * p + n]);
      }
      uv.push(x, side * y);
    });
  const quads: number[] = [];
  for (const row of rows) {
    const count = row.length;
    const sides = row.map((p, k): Flat => {
      const [a, b] = [flat[p], flat[row[(k + 1) % count]]];
      const size = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
      // to the right: out of what is filled
      return [(b[1] - a[1]) / size, (a[0] - b[0]) / size];
    });
    /** Writes the stations at a place with a side's normal; returns its first vertex. */
    const put = (k: number, [nx, ny]: Flat, v: number): number => {
      const p = row[k];
      const [u, w] = [sides[(k + count - 1) % count], sides[k]];
      const lean = Math.max(0.25, 1 + u[0] * w[0] + u[1] * w[1]);
      const lift = (x: number, y: number) => {
        const way = [0, 1, 2].map((n) => x * plane.x[n] + y * plane.y[n]);
        const over = way[0] * up[3 * p] + way[1] * up[3 * p + 1] + way[2] * up[3 * p + 2];
        return way.map((value, n) => value - over * up[3 * p + n]);
      };
      const move = lift((u[0] + w[0]) / lean, (u[1] + w[1]) / lean);
      const out = lift(nx, ny);
      const size = Math.hypot(...out) || 1;
      const first = position.length / 3;
      for (const { out: far, up: high, side, over, walked } of stations) {
        for (let n = 0; n < 3; n++) {
          position.push(place[3 * p + n] + far * move[n] + high * up[3 * p + n]);
          normal.push((side * out[n]) / size + over * up[3 * p + n]);
        }
        uv.push(walked, v);
      }
      return first;
    };
    const starts: number[] = [];
    const ends: number[] = [];
    let walked = 0;
    for (let k = 0; k <= count; k++) {
      const at = k % count;
      const [u, w] = [sides[(at + count - 1) % count], sides[at]];
      const isHard = u[0] * w[0] + u[1] * w[1] < Math.cos(HARD);
      const size = Math.hypot(u[0] + w[0], u[1] + w[1]) || 1;
      const mean: Flat = [(u[0] + w[0]) / size, (u[1] + w[1]) / size];
      if (k > 0) {
        const [a, b] = [flat[row[k - 1]], flat[row[at]]];
        walked += Math.hypot(b[0] - a[0], b[1] - a[1]);
        ends.push(put(at, isHard ? u : mean, walked));
      }
      // a smooth place is one column for both its sides
      if (k < count) starts.push(k > 0 && !isHard ? ends[k - 1] : put(at, isHard ? w : mean, walked));
    }
    for (let k = 0; k < count; k++)
      for (let s = 0; s + 1 < stations.length; s++) {
        const [a, b, c, d] = [starts[k] + s, starts[k] + s + 1, ends[k] + s + 1, ends[k] + s];
        quads.push(a, b, c, a, c, d);
      }
  }
  const mesh = blankMesh(position.length / 3, quads.length + 2 * triangles.length);
  mesh.position.set(position);
  mesh.normal.set(normal);
  mesh.uv.set(uv);
  mesh.index.set(quads);
  mesh.index.set(triangles, quads.length);
  const lower = triangles.map((v) => v + flat.length);
  for (let t = 0; t < lower.length; t += 3) [lower[t + 1], lower[t + 2]] = [lower[t + 2], lower[t + 1]];
  mesh.index.set(lower, quads.length + triangles.length);
  mesh.quads = quads.length / 6;
  mesh.groups.push({ start: 0, count: mesh.index.length, slot: 'main' });
  return mesh;
}
