import { curveLengths } from '../../curve/arc-length.js';
import { allocateCurves, CURVE, type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';
import { measureLines } from '../../curve/kernel/lengths.js';
import { childId } from '../../numeric/random.js';

/** How strands are laid about each of some lines. */
export interface Lay {
  /** Where each strand is, in radii of the bundle, untwisted. */
  x: ArrayLike<number>;
  y: ArrayLike<number>;
  /** Radius of the bundle at each point of the lines, metres. */
  bundle: Float32Array;
  /** Turns for each metre at each point, right-handed above 0. */
  turns: (p: number) => number;
  /** Turned beside that at each point, radians. */
  roll: (p: number) => number;
}

/** How far the whole has turned at each point, radians; round a closed line whole turns. */
export function anglesAlong(lines: CurveSet, turns: (p: number) => number): Float64Array {
  const along = lines.pointData[POINT.along];
  const lengths = curveLengths(lines);
  const angle = new Float64Array(pointCount(lines));
  for (let c = 0; c < curveCount(lines); c++) {
    const [first, end] = [lines.start[c], lines.start[c + 1]];
    for (let p = first + 1; p < end; p++)
      angle[p] = angle[p - 1] + Math.PI * (turns(p - 1) + turns(p)) * (along[p] - along[p - 1]);
    if (!lines.closed[c]) continue;
    const all = angle[end - 1] + Math.PI * (turns(end - 1) + turns(first)) * (lengths[c] - along[end - 1]);
    const whole = 2 * Math.PI * Math.round(all / (2 * Math.PI));
    for (let p = first; p < end; p++) angle[p] += ((whole - all) * along[p]) / lengths[c];
  }
  return angle;
}

/**
 * The middle lines of the strands: c(s) + R(s)·(X N + Y B), (X, Y) the strand's place turned by φ(s) over rotation-minimizing
 * frames (N, B), φ growing by the lay, so that a bend adds no turn. Round a closed line they go whole turns.
 * @param lines know how far along their points are
 * @returns the strands of one line after the other, each with as many points as its line
 */
export function laidAbout(lines: CurveSet, { tangent, normal }: Frames, { x, y, bundle, turns, roll }: Lay): CurveSet {
  const count = x.length;
  const out = allocateCurves(curveCount(lines) * count, pointCount(lines) * count, [POINT.along]);
  out.curveData[CURVE.length] = new Float32Array(curveCount(lines) * count);
  const angle = anglesAlong(lines, turns);
  for (let c = 0; c < curveCount(lines); c++) {
    const [first, end] = [lines.start[c], lines.start[c + 1]];
    for (let k = 0; k < count; k++) {
      const strand = c * count + k;
      out.start[strand + 1] = out.start[strand] + (end - first);
      out.closed[strand] = lines.closed[c];
      out.id[strand] = childId(lines.id[c], k);
    }
  }
  const { position: from } = lines;
  const { position } = out;
  for (let c = 0; c < curveCount(lines); c++) {
    const [first, end] = [lines.start[c], lines.start[c + 1]];
    for (let p = first; p < end; p++) {
      const i = 3 * p;
      const cos = bundle[p] * Math.cos(angle[p] + roll(p));
      const sin = bundle[p] * Math.sin(angle[p] + roll(p));
      const [tx, ty, tz] = [tangent[i], tangent[i + 1], tangent[i + 2]];
      const [nx, ny, nz] = [normal[i], normal[i + 1], normal[i + 2]];
      const bx = ty * nz - tz * ny;
      const by = tz * nx - tx * nz;
      const bz = tx * ny - ty * nx;
      // the axes of the turned bundle
      const ux = cos * nx + sin * bx;
      const uy = cos * ny + sin * by;
      const uz = cos * nz + sin * bz;
      const vx = cos * bx - sin * nx;
      const vy = cos * by - sin * ny;
      const vz = cos * bz - sin * nz;
      for (let k = 0; k < count; k++) {
        const o = 3 * (out.start[c * count + k] + p - first);
        position[o] = from[i] + x[k] * ux + y[k] * vx;
        position[o + 1] = from[i + 1] + x[k] * uy + y[k] * vy;
        position[o + 2] = from[i + 2] + x[k] * uz + y[k] * vz;
      }
    }
  }
  measureLines(out);
  return out;
}
