import { type CurveSet, checkCurves, checkShape, curveCount, pointCount } from '../curve/curve-set.js';
import { type Frames, rotationMinimizingFrames } from '../curve/frames.js';
import { blankMesh, type Mesh } from '../mesh/mesh.js';
import { type Blend, blendedAt } from '../section/blend/blend.js';
import type { Section } from '../section/section.js';
import { holdsBands, writeBands } from './bands.js';
import type { CapWriter } from './cap-writer.js';
import { capQuads, capSize, type EndKind, writeCap } from './caps.js';
import { limitFolds } from './folds/limit-folds.js';
import { PortionWriter, RING_NUMBERS } from './kernel/kernel.js';
import { mitre } from './mitre.js';
import { plainSkins } from './plain-lines.js';
import { HARD_ANGLE, planRings, type Rings } from './rings.js';
import { layTrueWidth } from './true-width.js';

export interface SweepOptions {
  /** Size of the section: metres for its unit radius, the same for all or one a point. */
  radius: number | Float32Array;
  /** Size of the section's y, metres, one a point, where that is another than `radius`. */
  width?: Float32Array;
  /** How far the section stands off the curve along its own x and y, metres, one a point. */
  shift?: { x: Float32Array; y: Float32Array };
  /** What the section becomes: it is then the first stage of this blend; how far on its way it is, 0…1, one a point. */
  becomes?: { blend: Blend; share: Float32Array };
  /** Turn of the section about the curve, radians, the same for all or one a point. Default 0. */
  roll?: number | Float32Array;
  start?: EndKind;
  end?: EndKind;
  /** A bend that turns more than this at one point gets a hard edge, radians. Default: 40°. */
  hardAngle?: number;
  /** Where it bends tighter than it reaches, its inner side is creased, so that no face is inside out. */
  limited?: boolean;
  /** Texture u in metres round the section, not once round. */
  trueWidth?: boolean;
  /** Direction the first normal leans to. Default: up. */
  startDirection?: readonly [number, number, number];
  /** Frames, where they are known already. */
  frames?: Frames;
  /** A mesh that is no longer wanted: its buffers are written over where their sizes fit, which spares fresh memory. */
  into?: Mesh;
}

const NO_LANE = new Float32Array(0);

/**
 * Sweeps a section along all curves in one go: position, normal, texture coordinate and index, no object a curve.
 *
 * Normals are those of the swept surface itself, S(s, θ) = c(s) + X A + Y B with X = r(s)·x + a(s), Y = w(s)·y + b(s) and
 * (A, B) the frame turned by the roll φ(s): n = n₀ − T·[n₀·(X′ − φ′Y, Y′ + φ′X)] / (1 − κ·p), where p = (X, Y), n₀ is the
 * outline's own normal and κ the curvature vector (differentiate S and take the cross product); a section that becomes
 * another adds r·x′(s) and w·y′(s) to X′ and Y′. Where width is thickness
 * and nothing is shifted, the bracket is (r′/r)·(p·n₀) + φ′·(Jp·n₀). Texture u goes once round
 * the section, v is the true length in metres. Bends above 20° at one point are mitred: the ring is stretched by
 * 1/cos of half the bend, so that the thickness stays, and the rings beside it lean over to it.
 *
 * @throws KelpError BAD_SHAPE, BAD_NUMBER, TOO_FEW_POINTS for curves that are none
 */
export function sweep(curves: CurveSet, section: Section, options: SweepOptions): Mesh {
  checkShape(curves);
  const plain = isPlain(curves, options) && plainSkins(curves, section, options.radius as number, options.into);
  if (plain) return finished(plain, curves, section, options);
  checkCurves(curves);
  const frames = options.frames ?? rotationMinimizingFrames(curves, { startDirection: options.startDirection });
  const rings = planRings(curves, frames, options.hardAngle ?? HARD_ANGLE);
  const columns = section.x.length;
  const faces = section.face.length;
  const startKind = options.start ?? 'flat';
  const endKind = options.end ?? 'flat';
  const ends = endSections(curves, section, options.becomes);
  const caps = countCaps(curves, ends, startKind, endKind);
  const vertices = rings.total * columns + caps.vertices;
  const bodyQuads = rings.bands * faces;
  const indices = 6 * (bodyQuads + caps.quads) + 3 * caps.triangles;
  const mesh = { ...blankMesh(vertices, indices, options.into), quads: bodyQuads + caps.quads };
  const portion = new PortionWriter(section);
  writeRings(curves, frames, rings, portion, options, mesh, columns);
  if (options.limited) limitFolds(curves, frames, rings, section, reachAt(section, options), mesh);
  if (options.trueWidth) layTrueWidth(mesh, rings.total, section);
  if (!holdsBands(mesh.index, rings, section)) writeBands(rings, portion, columns, mesh.index);
  if (caps.vertices > 0) {
    const writer: CapWriter = {
      mesh,
      section,
      vertex: rings.total * columns,
      quadAt: 6 * bodyQuads,
      triangleAt: 6 * mesh.quads,
    };
    for (let c = 0; c < curveCount(curves); c++) {
      if (curves.closed[c]) continue;
      const travel = (p: number) => frames.tangent.subarray(3 * p, 3 * p + 3);
      writer.section = ends.start;
      writeCap(writer, startKind, rings.start[c] * columns, -1, travel(curves.start[c]));
      writer.section = ends.end;
      writeCap(writer, endKind, (rings.start[c + 1] - 1) * columns, 1, travel(curves.start[c + 1] - 1));
    }
  }
  mesh.groups.push({ start: 0, count: mesh.index.length, slot: 'main' });
  return mesh;
}

/** This many points are worth the way of very many lines. */
const MANY = 4000;

/** Whether it is one thickness that never turns, without ends, on very many points. */
const isPlain = (
  curves: CurveSet,
  { radius, roll, width, shift, becomes, start, end, limited, startDirection }: SweepOptions,
) =>
  pointCount(curves) > MANY &&
  typeof radius === 'number' &&
  !roll &&
  !width &&
  !shift &&
  !becomes &&
  start === 'open' &&
  end === 'open' &&
  !limited &&
  !startDirection;

/** Skins of lines whose rings are their points, with their faces. */
function finished(mesh: Mesh, curves: CurveSet, section: Section, { trueWidth }: SweepOptions): Mesh {
  const rings = { start: curves.start, corners: new Map(), side: new Int8Array(0) };
  if (trueWidth) layTrueWidth(mesh, pointCount(curves), section);
  if (!holdsBands(mesh.index, rings, section))
    writeBands(rings, new PortionWriter(section), section.x.length, mesh.index);
  mesh.groups.push({ start: 0, count: mesh.index.length, slot: 'main' });
  return mesh;
}

/** What the section is at both ends: the same for all lines, which become the other by their own length. */
function endSections({ start, closed }: CurveSet, section: Section, becomes: SweepOptions['becomes']) {
  const open = closed.indexOf(0);
  if (!becomes || open < 0) return { start: section, end: section };
  const { blend, share } = becomes;
  return { start: blendedAt(blend, share[start[open]]), end: blendedAt(blend, share[start[open + 1] - 1]) };
}

function countCaps(curves: CurveSet, ends: { start: Section; end: Section }, start: EndKind, end: EndKind) {
  let open = 0;
  for (let c = 0; c < curveCount(curves); c++) open += curves.closed[c] ? 0 : 1;
  const a = capSize(ends.start, start);
  const b = capSize(ends.end, end);
  return {
    vertices: open * (a.vertices + b.vertices),
    quads: open * (capQuads(ends.start, start) + capQuads(ends.end, end)),
    triangles: open * (a.triangles + b.triangles),
  };
}

/** How far the section reaches from the curve at a point, metres, at most. */
function reachAt(section: Section, { radius, width, shift, becomes }: SweepOptions): (p: number) => number {
  const outlines = becomes ? becomes.blend.stages : [section];
  const most = Math.max(
    ...outlines.map(({ x, y }) => x.reduce((far, value, i) => Math.max(far, Math.hypot(value, y[i])), 0)),
  );
  return (p) => {
    const size = typeof radius === 'number' ? radius : radius[p];
    const beside = shift ? Math.hypot(shift.x[p], shift.y[p]) : 0;
    return most * Math.max(size, width ? width[p] : 0) + beside;
  };
}

/** Every ring's vertices, in portions: here goes what belongs to a ring, the kernel does what belongs to a vertex. */
function writeRings(
  curves: CurveSet,
  { tangent, normal: frameNormal }: Frames,
  rings: Rings,
  portion: PortionWriter,
  options: SweepOptions,
  mesh: Mesh,
  columns: number,
): void {
  const { position: center } = curves;
  const radiusLane = typeof options.radius === 'number' ? NO_LANE : options.radius;
  const rollLane = typeof options.roll === 'object' ? options.roll : NO_LANE;
  const evenRadius = typeof options.radius === 'number' ? options.radius : 0;
  const evenRoll = typeof options.roll === 'number' ? options.roll : 0;
  const { width = NO_LANE, shift, becomes } = options;
  const free = width.length > 0 || shift !== undefined || becomes !== undefined;
  const leaning = free || radiusLane.length > 0 || rollLane.length > 0;
  const manner = free ? 'free' : leaning ? 'leaning' : 'even';
  const { rings: out, capacity } = portion;
  let waiting = 0;
  for (let ring = 0, curve = 0; ring < rings.total; ring++) {
    while (ring >= rings.start[curve + 1]) curve++;
    const p = rings.point[ring];
    const p3 = 3 * p;
    const radius = radiusLane.length > 0 ? radiusLane[p] : evenRadius;
    const roll = rollLane.length > 0 ? rollLane[p] : evenRoll;
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
    const o = RING_NUMBERS * waiting;
    out[o] = center[p3];
    out[o + 1] = center[p3 + 1];
    out[o + 2] = center[p3 + 2];
    out[o + 4] = ax;
    out[o + 5] = ay;
    out[o + 6] = az;
    out[o + 8] = bx;
    out[o + 9] = by;
    out[o + 10] = bz;
    out[o + 16] = rings.v[ring];
    out[o + 17] = radius;
    if (leaning) {
      const first = rings.start[curve];
      const last = rings.start[curve + 1] - 1;
      out[o + 12] = tx;
      out[o + 13] = ty;
      out[o + 14] = tz;
      const closed = curves.closed[curve] === 1;
      neighbours(rings, ring, first, last, closed, around);
      out[o + 18] = radiusLane.length > 0 ? slope(radiusLane, rings, around) / (radius || 1) : 0;
      out[o + 19] = rollLane.length > 0 ? slope(rollLane, rings, around, closed ? 2 * Math.PI : 0) : 0;
      // curvature: change of the tangent over the neighbouring rings, 1/m
      smoothNeighbours(rings, ring, first, last, closed, around);
      const p0 = 3 * rings.point[around.before];
      const p1 = 3 * rings.point[around.after];
      const span = around.span || 1;
      const kx = (tangent[p1] - tangent[p0]) / span;
      const ky = (tangent[p1 + 1] - tangent[p0 + 1]) / span;
      const kz = (tangent[p1 + 2] - tangent[p0 + 2]) / span;
      out[o + 20] = kx * ax + ky * ay + kz * az;
      out[o + 21] = kx * bx + ky * by + kz * bz;
    }
    if (free) {
      neighbours(rings, ring, rings.start[curve], rings.start[curve + 1] - 1, curves.closed[curve] === 1, around);
      out[o + 22] = width.length > 0 ? width[p] : radius;
      out[o + 23] = width.length > 0 ? slope(width, rings, around) : out[o + 18] * radius;
      out[o + 24] = shift ? shift.x[p] : 0;
      out[o + 25] = shift ? shift.y[p] : 0;
      out[o + 26] = shift ? slope(shift.x, rings, around) : 0;
      out[o + 27] = shift ? slope(shift.y, rings, around) : 0;
      if (becomes) portion.fillBlend(becomes.blend, becomes.share[p], slope(becomes.share, rings, around));
    }
    waiting++;
    // each ring of a blend has columns of its own
    if (becomes || waiting === capacity || ring === rings.total - 1) {
      portion.writeRings(waiting, manner, mesh, (ring + 1 - waiting) * columns);
      waiting = 0;
    }
  }
  if (rings.corners.size > 0) mitre(curves, rings, tangent, columns, mesh);
  for (let c = 0; c < curves.closed.length; c++) if (curves.closed[c]) closeSeam(rings, c, columns, mesh);
}

/** The last ring of a closed curve stands on its first, bit for bit. */
function closeSeam(rings: Rings, c: number, columns: number, mesh: Mesh): void {
  const first = 3 * rings.start[c] * columns;
  const last = 3 * (rings.start[c + 1] - 1) * columns;
  mesh.position.copyWithin(last, first, first + 3 * columns);
  if (rings.side[rings.start[c]] === 0) mesh.normal.copyWithin(last, first, first + 3 * columns);
}

/** Two rings that follow each other with at most one between, and how far apart they are along the line, metres. */
interface Around {
  before: number;
  after: number;
  span: number;
}

const around: Around = { before: 0, after: 0, span: 0 };

/** → the rings beside one: both inside and over a smooth seam, one and itself at an end and at a hard edge. */
function neighbours({ v, side }: Rings, ring: number, first: number, last: number, closed: boolean, out: Around): void {
  const wraps = closed && side[first] === 0;
  const before = side[ring] > 0 ? ring : ring > first ? ring - 1 : wraps ? last - 1 : ring;
  const after = side[ring] < 0 ? ring : ring < last ? ring + 1 : wraps ? first + 1 : ring;
  out.before = before;
  out.after = after;
  // over the seam, once round is added
  out.span = v[after] - v[before] + (before > ring || after < ring ? v[last] - v[first] : 0);
}

/** → the same without hard edges: their tangent is the mitre's, not the line's. A hard edge itself bends as what follows it. */
function smoothNeighbours(rings: Rings, ring: number, first: number, last: number, closed: boolean, out: Around): void {
  const { side, v } = rings;
  if (side[ring] === 0) neighbours(rings, ring, first, last, closed, out);
  else {
    out.before = side[ring] > 0 ? ring + 1 : Math.max(first, ring - 2);
    out.after = side[ring] > 0 ? Math.min(last, ring + 2) : ring - 1;
  }
  if (side[out.before] !== 0) out.before = side[ring] === 0 ? ring : out.after;
  if (side[out.after] !== 0) out.after = side[ring] === 0 ? ring : out.before;
  if (side[ring] !== 0 || out.before === ring || out.after === ring) out.span = v[out.after] - v[out.before];
}

/** d/ds of a value of the points between two rings; `period`: it comes round after this much, and 0 where it does not. */
function slope(lane: Float32Array, { point }: Rings, { before, after, span }: Around, period = 0): number {
  const change = lane[point[after]] - lane[point[before]];
  return span > 0 ? (change - (period > 0 ? period * Math.round(change / period) : 0)) / span : 0;
}
