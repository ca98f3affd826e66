import { blockOf } from '../curve/blocks.js';
import { CURVE, type CurveSet, curveCount, POINT, pointCount } from '../curve/curve-set.js';
import { STRAND } from '../curve/strand-data.js';
import { blankMesh, type Mesh } from '../mesh/mesh.js';
import { roundSection } from '../section/section.js';
import { eachVertex } from '../sweep/each-vertex.js';
import { sweep } from '../sweep/sweep.js';
import type { StrandsPart } from '../unit/carriers.js';

export interface PartCounts {
  triangles: number;
  vertices: number;
  /** Memory of what a bake makes of it. */
  bytes: number;
}

/** Vertices of one mesh of strands, about: they come one after the other, and no more than one need be in memory. */
const VERTICES_AT_ONCE = 400_000;
/** Files hold whole numbers as floats: of an id these bits are kept. */
const EXACT = 0xff_ffff;

/** What a bake makes of strands. */
export function strandCounts(part: Pick<StrandsPart, 'curves' | 'sides' | 'shape'>): PartCounts {
  const { curves, sides, shape } = part;
  const points = pointCount(curves);
  const closed = curves.closed.reduce((sum, one) => sum + one, 0);
  const open = curveCount(curves) - closed;
  const bands = points - open;
  if (shape === 'lines') return { triangles: 0, vertices: points, bytes: 32 * points };
  if (shape === 'flat') {
    const vertices = 4 * (points + closed);
    return { triangles: 4 * bands, vertices, bytes: 32 * vertices + 48 * bands };
  }
  // a round section repeats its seam; a flat end has its rim and a middle
  const vertices = (points + closed + 2 * open) * (sides + 1);
  const triangles = 2 * sides * bands + 2 * open * sides;
  return { triangles, vertices, bytes: 32 * vertices + 12 * triangles };
}

/** Strands as meshes, this many of them at once as fit comfortably: tubes, or flat strips that lie off the skin. */
export function* strandMeshes(part: StrandsPart): Generator<Mesh> {
  const { curves, width } = part;
  const count = curveCount(curves);
  const each = part.shape === 'flat' ? 4 : part.sides + 1;
  for (let first = 0; first < count; ) {
    let end = first + 1;
    while (end < count && (curves.start[end + 1] - curves.start[first]) * each <= VERTICES_AT_ONCE) end++;
    const block = blockOf(curves, first, end);
    const own = width.subarray(curves.start[first], curves.start[end]);
    yield part.shape === 'flat' ? strips(block, own, part) : tubes(block, own, part);
    first = end;
  }
}

function tubes(curves: CurveSet, width: Float32Array, { sides, marked }: StrandsPart): Mesh {
  const section = roundSection(Math.max(3, sides));
  const mesh = sweep(curves, section, { radius: width.map((value) => value / 2), start: 'flat', end: 'flat' });
  const marks = marksOf(curves, mesh.position.length / 3, marked);
  if (marks)
    eachVertex(curves, { section, start: 'flat', end: 'flat' }, (v, c, point) =>
      marks.write(v, c, curves.start[c] + point),
    );
  return { ...mesh, ...(marks ? { attributes: marks.attributes } : {}) };
}

/** Two faces back to back along each strand, square to what looks off the skin at its root. */
function strips(curves: CurveSet, width: Float32Array, { marked }: StrandsPart): Mesh {
  const { start, position, closed } = curves;
  const rings = pointCount(curves) + closed.reduce((sum, one) => sum + one, 0);
  const mesh = blankMesh(4 * rings, 12 * (rings - closed.length));
  mesh.quads = mesh.index.length / 6;
  const normals = curves.curveData[STRAND.rootNormal];
  const along = curves.pointData[POINT.along];
  const marks = marksOf(curves, 4 * rings, marked);
  const side = new Float64Array(3);
  let to = 0;
  let ring = 0;
  for (let c = 0; c < closed.length; c++) {
    const [first, count] = [start[c], start[c + 1] - start[c]];
    // up where no skin is known
    const out = normals ? [normals[3 * c], normals[3 * c + 1], normals[3 * c + 2]] : [0, 1, 0];
    /** The point this many steps on: a closed line goes round, an open one ends. */
    const at = (k: number) => first + (closed[c] ? (k + count) % count : Math.min(count - 1, Math.max(0, k)));
    side.fill(0);
    for (let k = 0; k < count + closed[c]; k++, ring++) {
      const [a, p, b] = [3 * at(k - 1), at(k), 3 * at(k + 1)];
      const [x, y, z] = [
        position[b] - position[a],
        position[b + 1] - position[a + 1],
        position[b + 2] - position[a + 2],
      ];
      sideOf(side, x, y, z, out);
      // the normal is square to the line and to its side
      let [nx, ny, nz] = [y * side[2] - z * side[1], z * side[0] - x * side[2], x * side[1] - y * side[0]];
      const size = Math.hypot(nx, ny, nz) || 1;
      [nx, ny, nz] = [nx / size, ny / size, nz / size];
      for (let corner = 0; corner < 4; corner++) {
        const v = 4 * ring + corner;
        const by = (corner % 2 === 0 ? -0.5 : 0.5) * width[p];
        const way = corner < 2 ? 1 : -1;
        for (let n = 0; n < 3; n++) mesh.position[3 * v + n] = position[3 * p + n] + by * side[n];
        mesh.normal[3 * v] = way * nx;
        mesh.normal[3 * v + 1] = way * ny;
        mesh.normal[3 * v + 2] = way * nz;
        mesh.uv[2 * v] = corner % 2;
        mesh.uv[2 * v + 1] = k === count ? (curves.curveData[CURVE.length]?.[c] ?? along[p]) : along[p];
        marks?.write(v, c, p);
      }
      if (k === 0) continue;
      const [q, r] = [4 * (ring - 1), 4 * ring];
      mesh.index.set([q, r + 1, q + 1, q, r, r + 1, q + 3, r + 2, q + 2, q + 3, r + 3, r + 2], to);
      to += 12;
    }
  }
  mesh.groups.push({ start: 0, count: mesh.index.length, slot: 'main' });
  return marks ? { ...mesh, attributes: marks.attributes } : mesh;
}

/** Lays `side` across a way: square to what looks off the skin, and turned as little as can be from point to point. */
function sideOf(side: Float64Array, x: number, y: number, z: number, out: readonly number[]): void {
  let [sx, sy, sz] = [out[1] * z - out[2] * y, out[2] * x - out[0] * z, out[0] * y - out[1] * x];
  const size = Math.hypot(sx, sy, sz);
  const long = Math.hypot(x, y, z) || 1;
  const had = side[0] !== 0 || side[1] !== 0 || side[2] !== 0;
  if (size > 0.05 * long && (!had || sx * side[0] + sy * side[1] + sz * side[2] > 0)) {
    side[0] = sx / size;
    side[1] = sy / size;
    side[2] = sz / size;
    return;
  }
  // straight off the skin, or past it: as before, or across some axis
  [sx, sy, sz] = had ? [side[0], side[1], side[2]] : Math.abs(x) < 0.9 * long ? [1, 0, 0] : [0, 0, 1];
  const lean = (sx * x + sy * y + sz * z) / (long * long);
  [sx, sy, sz] = [sx - lean * x, sy - lean * y, sz - lean * z];
  const whole = Math.hypot(sx, sy, sz) || 1;
  side[0] = sx / whole;
  side[1] = sy / whole;
  side[2] = sz / whole;
}

/** What a vertex says about its strand: colour where it has one, and its masks. */
function marksOf({ id, pointData, curveData }: CurveSet, vertices: number, marked: boolean | undefined) {
  const colours = pointData['colour'];
  if (!colours && !marked) return undefined;
  const along = pointData[POINT.along];
  const length = curveData[CURVE.length];
  const colour = colours && new Float32Array(3 * vertices);
  const strand = marked && new Uint32Array(vertices);
  const share = marked && new Float32Array(vertices);
  const named = marked ? [STRAND.layer, STRAND.clump].filter((name) => curveData[name]) : [];
  const whole = named.map((name) => ({ from: curveData[name], to: new Uint32Array(vertices) }));
  return {
    attributes: {
      ...(colour ? { colour: { size: 3, data: colour } } : {}),
      ...(strand ? { strand: { size: 1, data: strand } } : {}),
      ...(share ? { rootToTip: { size: 1, data: share } } : {}),
      ...Object.fromEntries(named.map((name, k) => [name, { size: 1, data: whole[k].to }])),
    },
    write(v: number, c: number, p: number) {
      if (colour) for (let n = 0; n < 3; n++) colour[3 * v + n] = colours[3 * p + n];
      if (strand) strand[v] = id[c] & EXACT;
      if (share) share[v] = length?.[c] > 0 ? along[p] / length[c] : 0;
      for (const { from, to } of whole) to[v] = from[c] & EXACT;
    },
  };
}
