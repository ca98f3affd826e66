import { distanceAt } from '../numeric/vector.js';
import { eachBlock } from './blocks.js';
import { type CurveSet, curveCount, pointCount } from './curve-set.js';
import { framesByKernel } from './kernel/frames.js';
import { tangentsOf } from './tangents.js';

/** Moving frames of all curves. Right-handed: binormal = tangent × normal. All flat xyz, one triple a point. */
export interface Frames {
  tangent: Float64Array;
  normal: Float64Array;
  /** No line bends by more than 20° at one point, as far as is known. */
  smooth?: boolean;
}

export interface FrameOptions {
  /** Direction that the first normal of every curve leans to, xyz. Default: up; for a line that begins nearly plumb, aside. */
  startDirection?: readonly [number, number, number];
  /** Exact tangents where they are known; estimated from the points otherwise. */
  tangent?: Float64Array;
}

/**
 * Rotation-minimizing frames by double reflection: no turn about the tangent, no snap on a bend or an inflection.
 * Error falls with the fourth power of the step (Wang, Jüttler, Zheng, Liu: Computation of rotation minimizing frames,
 * ACM TOG 27(1), 2008, table I). On a closed curve the turn that is left over at the seam is spread over the length.
 */
export function rotationMinimizingFrames(curves: CurveSet, options: FrameOptions = {}): Frames {
  const short = pointCount(curves) <= SHORT * curveCount(curves);
  if (!options.tangent && !options.startDirection && short && pointCount(curves) > MANY) return framesOfMany(curves);
  return framesOf(curves, options);
}

/** The same, worked out when they are asked for. */
export function framesWhenAsked(curves: CurveSet): Frames {
  let known: Frames | undefined;
  const frames = () => {
    known ??= rotationMinimizingFrames(curves);
    return known;
  };
  return {
    get tangent() {
      return frames().tangent;
    },
    get normal() {
      return frames().normal;
    },
    get smooth() {
      return frames().smooth;
    },
  };
}

/** The same for very many lines, those without bends by the compiled loops. */
function framesOfMany(curves: CurveSet): Frames {
  const tangent = new Float64Array(curves.position.length);
  const normal = new Float64Array(curves.position.length);
  let smooth = true;
  eachBlock(curves, (block, first) => {
    const [from, end] = [3 * curves.start[first], 3 * curves.start[first] + block.position.length];
    if (framesByKernel(block, tangent.subarray(from, end), normal.subarray(from, end))) return;
    smooth = false;
    const own = framesOf(block, {});
    tangent.set(own.tangent, from);
    normal.set(own.normal, from);
  });
  return { tangent, normal, smooth };
}

function framesOf(curves: CurveSet, options: FrameOptions): Frames {
  const tangent = options.tangent ?? tangentsOf(curves);
  const normal = new Float64Array(3 * pointCount(curves));
  const { start, closed, position } = curves;
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c];
    const last = start[c + 1] - 1;
    startNormal(tangent, first, options.startDirection ?? upOrAside(tangent[3 * first + 1]), normal);
    for (let p = first; p < last; p++) reflectTwice(position, tangent, normal, 3 * p, 3 * p + 3, normal, 3 * p + 3);
    if (closed[c]) closeSeam(curves, first, last, tangent, normal);
  }
  return { tangent, normal };
}

/** This many points on lines of this few in the mean are worth the compiled loops. */
const MANY = 4000;
const SHORT = 1000;
/** Height of a unit tangent from which on the line counts as steep, and as plumb. */
const STEEP = 0.9;
const PLUMB = 0.99;
/** A direction aside in which lines seldom run, as long as up is in the sum of both. */
const ASIDE = [1.6, 1.2] as const;

/**
 * Up, and for what is plumb aside of it. Each direction has somewhere a line along itself, on both sides of which the
 * normal looks the other way: for up that would be at plumb, where cables hang. So it lies 24° beside it, in one direction.
 */
function upOrAside(height: number): readonly [number, number, number] {
  const t = Math.min(1, Math.max(0, (Math.abs(height) - STEEP) / (PLUMB - STEEP)));
  const share = t * t * (3 - 2 * t);
  return [share * ASIDE[0], 1, share * ASIDE[1]];
}

/** Normal at `p`: `direction` made perpendicular to the tangent; another axis where the two are nearly parallel. */
function startNormal(tangent: Float64Array, p: number, direction: readonly number[], normal: Float64Array): void {
  const tx = tangent[3 * p];
  const ty = tangent[3 * p + 1];
  const tz = tangent[3 * p + 2];
  for (let attempt = 0; attempt < 2; attempt++) {
    const sideways = Math.abs(tx) < 0.8;
    const dx = attempt === 0 ? direction[0] : sideways ? 1 : 0;
    const dy = attempt === 0 ? direction[1] : 0;
    const dz = attempt === 0 ? direction[2] : sideways ? 0 : 1;
    const along = dx * tx + dy * ty + dz * tz;
    const x = dx - along * tx;
    const y = dy - along * ty;
    const z = dz - along * tz;
    const size = Math.sqrt(x * x + y * y + z * z);
    if (size > 0.02 * Math.sqrt(dx * dx + dy * dy + dz * dz)) {
      normal[3 * p] = x / size;
      normal[3 * p + 1] = y / size;
      normal[3 * p + 2] = z / size;
      return;
    }
  }
}

/** Carries the normal of the point at `i` to the one at `j` through two reflections and writes it at `out[at]`. */
function reflectTwice(
  position: Float64Array,
  tangent: Float64Array,
  normal: Float64Array,
  i: number,
  j: number,
  out: Float64Array,
  at: number,
): void {
  // first reflection: in the plane between the two points
  const v1x = position[j] - position[i];
  const v1y = position[j + 1] - position[i + 1];
  const v1z = position[j + 2] - position[i + 2];
  const c1 = v1x * v1x + v1y * v1y + v1z * v1z;
  let rx = normal[i];
  let ry = normal[i + 1];
  let rz = normal[i + 2];
  let tx = tangent[i];
  let ty = tangent[i + 1];
  let tz = tangent[i + 2];
  if (c1 > 0) {
    const twice = 2 / c1;
    const kr = twice * (v1x * rx + v1y * ry + v1z * rz);
    const kt = twice * (v1x * tx + v1y * ty + v1z * tz);
    rx -= kr * v1x;
    ry -= kr * v1y;
    rz -= kr * v1z;
    tx -= kt * v1x;
    ty -= kt * v1y;
    tz -= kt * v1z;
  }
  // second reflection: takes the reflected tangent to the real one
  const v2x = tangent[j] - tx;
  const v2y = tangent[j + 1] - ty;
  const v2z = tangent[j + 2] - tz;
  const c2 = v2x * v2x + v2y * v2y + v2z * v2z;
  if (c2 > 1e-24) {
    const k = (2 / c2) * (v2x * rx + v2y * ry + v2z * rz);
    rx -= k * v2x;
    ry -= k * v2y;
    rz -= k * v2z;
  }
  // against drift over 100,000 steps: perpendicular and unit again
  const along = rx * tangent[j] + ry * tangent[j + 1] + rz * tangent[j + 2];
  rx -= along * tangent[j];
  ry -= along * tangent[j + 1];
  rz -= along * tangent[j + 2];
  // one step of Newton's method for 1/√s about s = 1: reflections keep the length but for rounding
  const scale = 1.5 - 0.5 * (rx * rx + ry * ry + rz * rz);
  out[at] = rx * scale;
  out[at + 1] = ry * scale;
  out[at + 2] = rz * scale;
}

const seamNormal = /* @__PURE__ */ new Float64Array(3);

function closeSeam(curves: CurveSet, first: number, last: number, tangent: Float64Array, normal: Float64Array): void {
  const { position } = curves;
  reflectTwice(position, tangent, normal, 3 * last, 3 * first, seamNormal, 0);
  const leftover = angleAbout(tangent, first, seamNormal, normal);
  let total = 0;
  for (let p = first; p <= last; p++) total += distanceAt(position, p, p === last ? first : p + 1);
  let along = 0;
  for (let p = first; p <= last && total > 0; p++) {
    turnNormal(tangent, normal, p, (leftover * along) / total);
    along += distanceAt(position, p, p === last ? first : p + 1);
  }
}

/** Signed angle about the tangent of `p` that takes `from` (at 0) to the normal of `p`. */
function angleAbout(tangent: Float64Array, p: number, from: Float64Array, normal: Float64Array): number {
  const i = 3 * p;
  const bx = tangent[i + 1] * from[2] - tangent[i + 2] * from[1];
  const by = tangent[i + 2] * from[0] - tangent[i] * from[2];
  const bz = tangent[i] * from[1] - tangent[i + 1] * from[0];
  const cos = from[0] * normal[i] + from[1] * normal[i + 1] + from[2] * normal[i + 2];
  const sin = bx * normal[i] + by * normal[i + 1] + bz * normal[i + 2];
  return Math.atan2(sin, cos);
}

function turnNormal(tangent: Float64Array, normal: Float64Array, p: number, angle: number): void {
  const i = 3 * p;
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  const [nx, ny, nz] = [normal[i], normal[i + 1], normal[i + 2]];
  const bx = tangent[i + 1] * nz - tangent[i + 2] * ny;
  const by = tangent[i + 2] * nx - tangent[i] * nz;
  const bz = tangent[i] * ny - tangent[i + 1] * nx;
  normal[i] = cos * nx + sin * bx;
  normal[i + 1] = cos * ny + sin * by;
  normal[i + 2] = cos * nz + sin * bz;
}
