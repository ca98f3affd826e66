import { type CurveSet, checkCurves, curveCount } from '../curve/curve-set.js';
import { type Frames, rotationMinimizingFrames } from '../curve/frames.js';
import type { Mesh } from '../mesh/mesh.js';
import type { Section } from '../section/section.js';
import { capQuads, capSize, type EndKind, writeCap } from './caps.js';
import { type Corner, planRings, type Rings } from './rings.js';

export interface SweepOptions {
  /** Size of the section: metres for its unit radius, the same for all or one a point. */
  radius: number | Float32Array;
  /** Turn of the section about the curve, radians, the same for all or one a point. Default 0. */
  roll?: number | Float32Array;
  start?: EndKind;
  end?: EndKind;
  /** A bend that turns more than this at one point gets a hard edge, radians. Default: 40°. */
  hardAngle?: number;
  /** Direction the first normal leans to. Default: up. */
  startDirection?: readonly [number, number, number];
  /** Frames, where they are known already. */
  frames?: Frames;
}

const NO_TURN = new Float32Array(0);

/**
 * Sweeps a section along all curves in one go: position, normal, texture coordinate and index, no object a curve.
 *
 * Normals are those of the swept surface itself, S(s, θ) = c(s) + r(s)·(x A + y B) with (A, B) the frame turned by the
 * roll φ(s): n = n₀ − T·[(r′/r)·(p·n₀) + φ′·(Jp·n₀)] / (1 − κ·p), where p is the offset from the curve, Jp that offset
 * turned by 90° and κ the curvature vector (differentiate S and take the cross product). Texture u goes once round
 * the section, v is the true length in metres. Bends above 20° at one point are mitred: the ring is stretched by
 * 1/cos of half the bend, so that the thickness stays.
 *
 * @throws KelpError BAD_SHAPE, BAD_NUMBER, TOO_FEW_POINTS for curves that are none
 */
export function sweep(curves: CurveSet, section: Section, options: SweepOptions): Mesh {
  checkCurves(curves);
  const frames = options.frames ?? rotationMinimizingFrames(curves, { startDirection: options.startDirection });
  const rings = planRings(curves, frames, options.hardAngle ?? 0.7);
  const columns = section.x.length;
  const faces = section.face.length;
  const startKind = options.start ?? 'flat';
  const endKind = options.end ?? 'flat';
  const caps = countCaps(curves, section, startKind, endKind);
  const vertices = rings.total * columns + caps.vertices;
  const bodyQuads = rings.bands * faces;
  const mesh: Mesh = {
    position: new Float32Array(3 * vertices),
    normal: new Float32Array(3 * vertices),
    uv: new Float32Array(2 * vertices),
    index: new Uint32Array(6 * (bodyQuads + caps.quads) + 3 * caps.triangles),
    quads: bodyQuads + caps.quads,
    groups: [],
  };
  writeRings(curves, frames, rings, section, options, mesh);
  writeBands(curves, rings, section, mesh.index);
  if (caps.vertices > 0) {
    const writer = { mesh, section, vertex: rings.total * columns, quadAt: 6 * bodyQuads, triangleAt: 6 * mesh.quads };
    for (let c = 0; c < curveCount(curves); c++) {
      if (curves.closed[c]) continue;
      writeCap(writer, startKind, rings.start[c] * columns, -1);
      writeCap(writer, endKind, (rings.start[c + 1] - 1) * columns, 1);
    }
  }
  mesh.groups.push({ start: 0, count: mesh.index.length, slot: 'main' });
  return mesh;
}

function countCaps(curves: CurveSet, section: Section, start: EndKind, end: EndKind) {
  let open = 0;
  for (let c = 0; c < curveCount(curves); c++) open += curves.closed[c] ? 0 : 1;
  const a = capSize(section, start);
  const b = capSize(section, end);
  return {
    vertices: open * (a.vertices + b.vertices),
    quads: open * (capQuads(section, start) + capQuads(section, end)),
    triangles: open * (a.triangles + b.triangles),
  };
}

/** Every ring's vertices. Locals only in the inner loop: this is where the time of a sweep goes. */
function writeRings(
  curves: CurveSet,
  frames: Frames,
  rings: Rings,
  section: Section,
  options: SweepOptions,
  mesh: Mesh,
): void {
  const { position: center } = curves;
  const { tangent, normal: frameNormal } = frames;
  const { x: sx, y: sy, normalX, normalY, u } = section;
  const { position, normal, uv } = mesh;
  const columns = sx.length;
  const radiusLane = typeof options.radius === 'number' ? NO_TURN : options.radius;
  const rollLane = typeof options.roll === 'object' ? options.roll : NO_TURN;
  const evenRadius = typeof options.radius === 'number' ? options.radius : 0;
  const evenRoll = typeof options.roll === 'number' ? options.roll : 0;
  const slopes = radiusLane.length > 0 || rollLane.length > 0;
  let v3 = 0;
  let v2 = 0;
  let curve = 0;
  for (let ring = 0; ring < rings.total; ring++) {
    while (ring >= rings.start[curve + 1]) curve++;
    const p = rings.point[ring];
    const p3 = 3 * p;
    const radius = radiusLane.length > 0 ? radiusLane[p] : evenRadius;
    const roll = rollLane.length > 0 ? rollLane[p] : evenRoll;
    const v = rings.v[ring];
    const cx = center[p3];
    const cy = center[p3 + 1];
    const cz = center[p3 + 2];
    const tx = tangent[p3];
    const ty = tangent[p3 + 1];
    const tz = tangent[p3 + 2];
    let ax = frameNormal[p3];
    let ay = frameNormal[p3 + 1];
    let az = frameNormal[p3 + 2];
    let bx = ty * az - tz * ay;
    let by = tz * ax - tx * az;
    let bz = tx * ay - ty * ax;
    if (roll !== 0) {
      const cos = Math.cos(roll);
      const sin = Math.sin(roll);
      const ox = ax;
      const oy = ay;
      const oz = az;
      ax = cos * ox + sin * bx;
      ay = cos * oy + sin * by;
      az = cos * oz + sin * bz;
      bx = cos * bx - sin * ox;
      by = cos * by - sin * oy;
      bz = cos * bz - sin * oz;
    }
    const rax = ax * radius;
    const ray = ay * radius;
    const raz = az * radius;
    const rbx = bx * radius;
    const rby = by * radius;
    const rbz = bz * radius;
    if (!slopes && section.round) {
      for (let k = 0; k < columns; k++) {
        const x = sx[k];
        const y = sy[k];
        const nx = x * ax + y * bx;
        const ny = x * ay + y * by;
        const nz = x * az + y * bz;
        position[v3] = cx + radius * nx;
        normal[v3] = nx;
        position[v3 + 1] = cy + radius * ny;
        normal[v3 + 1] = ny;
        position[v3 + 2] = cz + radius * nz;
        normal[v3 + 2] = nz;
        v3 += 3;
        uv[v2] = u[k];
        uv[v2 + 1] = v;
        v2 += 2;
      }
    } else if (!slopes) {
      for (let k = 0; k < columns; k++) {
        const x = sx[k];
        const y = sy[k];
        const nx = normalX[k];
        const ny = normalY[k];
        position[v3] = cx + x * rax + y * rbx;
        normal[v3++] = nx * ax + ny * bx;
        position[v3] = cy + x * ray + y * rby;
        normal[v3++] = nx * ay + ny * by;
        position[v3] = cz + x * raz + y * rbz;
        normal[v3++] = nx * az + ny * bz;
        uv[v2++] = u[k];
        uv[v2++] = v;
      }
    } else {
      const grow =
        radiusLane.length > 0
          ? slopeAt(radiusLane, rings, ring, rings.start[curve], rings.start[curve + 1] - 1) / (radius || 1)
          : 0;
      const twist =
        rollLane.length > 0 ? slopeAt(rollLane, rings, ring, rings.start[curve], rings.start[curve + 1] - 1) : 0;
      // curvature: change of the tangent over the neighbouring rings, 1/m
      const before = ring > rings.start[curve] ? ring - 1 : ring;
      const after = ring < rings.start[curve + 1] - 1 ? ring + 1 : ring;
      const p0 = 3 * rings.point[before];
      const p1 = 3 * rings.point[after];
      const span = rings.v[after] - rings.v[before] || 1;
      const kx = (tangent[p1] - tangent[p0]) / span;
      const ky = (tangent[p1 + 1] - tangent[p0 + 1]) / span;
      const kz = (tangent[p1 + 2] - tangent[p0 + 2]) / span;
      const bendA = kx * ax + ky * ay + kz * az;
      const bendB = kx * bx + ky * by + kz * bz;
      for (let k = 0; k < columns; k++) {
        const x = sx[k] * radius;
        const y = sy[k] * radius;
        const nx = normalX[k];
        const ny = normalY[k];
        // κ·p beyond 0.9 is a folded inner side; there no normal is right, and this keeps it finite
        const shrink = 1 - Math.min(0.9, bendA * x + bendB * y);
        const lean = (grow * (x * nx + y * ny) + twist * (x * ny - y * nx)) / shrink;
        const size = 1 / Math.sqrt(1 + lean * lean);
        position[v3] = cx + x * ax + y * bx;
        normal[v3++] = (nx * ax + ny * bx - lean * tx) * size;
        position[v3] = cy + x * ay + y * by;
        normal[v3++] = (nx * ay + ny * by - lean * ty) * size;
        position[v3] = cz + x * az + y * bz;
        normal[v3++] = (nx * az + ny * bz - lean * tz) * size;
        uv[v2++] = u[k];
        uv[v2++] = v;
      }
    }
    const corner = rings.corners.size > 0 ? rings.corners.get(p) : undefined;
    if (corner) bendRing(corner, rings.side[ring], ring, columns, cx, cy, cz, mesh);
  }
  for (let c = 0; c < curves.closed.length; c++) if (curves.closed[c]) closeSeam(rings, c, columns, mesh);
}

/** Mitre: stretches the ring along the bend and, at a hard edge, turns its normals to one side of the bend. */
function bendRing(
  corner: Corner,
  side: number,
  ring: number,
  columns: number,
  cx: number,
  cy: number,
  cz: number,
  mesh: Mesh,
): void {
  const { position, normal } = mesh;
  const [mx, my, mz] = corner.mitre;
  const [wx, wy, wz] = corner.hinge;
  const stretch = Math.min(4, 1 / Math.cos(corner.bend / 2)) - 1;
  const turn = (side * corner.bend) / 2;
  const cos = Math.cos(turn);
  const sin = Math.sin(turn);
  for (let i = 3 * ring * columns; i < 3 * (ring + 1) * columns; i += 3) {
    const reach = ((position[i] - cx) * mx + (position[i + 1] - cy) * my + (position[i + 2] - cz) * mz) * stretch;
    position[i] += reach * mx;
    position[i + 1] += reach * my;
    position[i + 2] += reach * mz;
    if (turn === 0) continue;
    // rotation about the hinge (Rodrigues)
    const [x, y, z] = [normal[i], normal[i + 1], normal[i + 2]];
    const dot = (wx * x + wy * y + wz * z) * (1 - cos);
    normal[i] = x * cos + (wy * z - wz * y) * sin + wx * dot;
    normal[i + 1] = y * cos + (wz * x - wx * z) * sin + wy * dot;
    normal[i + 2] = z * cos + (wx * y - wy * x) * sin + wz * dot;
  }
}

/** The last ring of a closed curve stands on its first, bit for bit. */
function closeSeam(rings: Rings, c: number, columns: number, mesh: Mesh): void {
  const first = 3 * rings.start[c] * columns;
  const last = 3 * (rings.start[c + 1] - 1) * columns;
  mesh.position.copyWithin(last, first, first + 3 * columns);
  if (rings.side[rings.start[c]] === 0) mesh.normal.copyWithin(last, first, first + 3 * columns);
}

/** d/ds of a point value at a ring: over both neighbours inside, one-sided at an end, at a hard edge and at the seam. */
function slopeAt(lane: Float32Array, { point, side, v }: Rings, ring: number, first: number, last: number): number {
  const a = ring > first && side[ring] <= 0 ? ring - 1 : ring;
  const b = ring < last && side[ring] >= 0 ? ring + 1 : ring;
  return v[b] > v[a] ? (lane[point[b]] - lane[point[a]]) / (v[b] - v[a]) : 0;
}

/** Two triangles a face between neighbouring rings of one curve. */
function writeBands(curves: CurveSet, rings: Rings, section: Section, index: Uint32Array): void {
  const columns = section.x.length;
  const { face } = section;
  const faces = face.length;
  let i = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    for (let ring = rings.start[c]; ring < rings.start[c + 1] - 1; ring++) {
      // the second ring of a hard edge stands where the first does: no band between them
      if (rings.side[ring] < 0 && rings.side[ring + 1] > 0 && rings.point[ring] === rings.point[ring + 1]) continue;
      const base = ring * columns;
      for (let f = 0; f < faces; f++) {
        const a = base + face[f];
        const b = a + columns;
        index[i] = a;
        index[i + 1] = a + 1;
        index[i + 2] = b + 1;
        index[i + 3] = a;
        index[i + 4] = b + 1;
        index[i + 5] = b;
        i += 6;
      }
    }
  }
}
