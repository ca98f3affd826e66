import { allocateCurves, CURVE, type CurveSet, POINT, singleCurve } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import type { Mesh } from '../../mesh/mesh.js';
import type { Section } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { Placements } from '../../unit/carriers.js';
import type { Stations } from '../elements/stations.js';
import type { Lattice } from './lattice.js';

/** A member of length 1 and half thickness 1, from 0 along z, both ends shut. */
export const memberMesh = (section: Section): Mesh =>
  sweep(singleCurve([0, 0, 0, 0, 0, 1]), section, { radius: 1, startDirection: [1, 0, 0] });

/** How long members are from joint to joint, metres. */
export function lengthsOf({ joint, from, to, members }: Lattice): Float64Array {
  const out = new Float64Array(members);
  for (let m = 0; m < members; m++) {
    const [a, b] = [3 * from[m], 3 * to[m]];
    const x = joint[b] - joint[a];
    const y = joint[b + 1] - joint[a + 1];
    const z = joint[b + 2] - joint[a + 2];
    out[m] = Math.sqrt(x * x + y * y + z * z);
  }
  return out;
}

/**
 * Where the members of one kind stand: each drawn out from joint to joint, less what is cut off at either end. One of
 * their sides looks out of the truss, or turned from that.
 */
export function memberPlaces(
  lattice: Lattice,
  kind: number,
  lengths: Float64Array,
  { along, curve }: Pick<Stations, 'along' | 'curve'>,
  radius: number,
  cut: number,
  roll = 0,
): Placements {
  const { joint, outward, from, to, station, id, members } = lattice;
  let count = 0;
  for (let m = 0; m < members; m++) if (lattice.kind[m] === kind && lengths[m] > 0) count++;
  const out: Placements = {
    id: new Uint32Array(count),
    matrix: new Float32Array(16 * count),
    along: new Float32Array(count),
    curve: new Uint32Array(count),
  };
  const { matrix } = out;
  const [cos, sin] = [Math.cos(roll), Math.sin(roll)];
  for (let m = 0, n = 0; m < members; m++) {
    const length = lengths[m];
    if (lattice.kind[m] !== kind || !(length > 0)) continue;
    const a = 3 * from[m];
    const b = 3 * to[m];
    const zx = (joint[b] - joint[a]) / length;
    const zy = (joint[b + 1] - joint[a + 1]) / length;
    const zz = (joint[b + 2] - joint[a + 2]) / length;
    let x = outward[a] + outward[b];
    let y = outward[a + 1] + outward[b + 1];
    let z = outward[a + 2] + outward[b + 2];
    const lean = x * zx + y * zy + z * zz;
    x -= lean * zx;
    y -= lean * zy;
    z -= lean * zz;
    let size = Math.sqrt(x * x + y * y + z * z);
    if (size < 1e-9) {
      // it runs straight out: any side will do
      const aside = Math.abs(zx) < 0.9;
      x = aside ? 0 : -zz;
      y = aside ? zz : 0;
      z = aside ? -zy : zx;
      size = Math.sqrt(x * x + y * y + z * z);
    }
    const by = radius / size;
    x *= by;
    y *= by;
    z *= by;
    if (roll !== 0) {
      const u = zy * z - zz * y;
      const v = zz * x - zx * z;
      const w = zx * y - zy * x;
      x = cos * x + sin * u;
      y = cos * y + sin * v;
      z = cos * z + sin * w;
    }
    // what is shorter than what is cut off is a stub in its middle
    const off = Math.min(cut, 0.45 * length);
    const long = length - 2 * off;
    const i = 16 * n;
    matrix[i] = x;
    matrix[i + 1] = y;
    matrix[i + 2] = z;
    matrix[i + 4] = zy * z - zz * y;
    matrix[i + 5] = zz * x - zx * z;
    matrix[i + 6] = zx * y - zy * x;
    matrix[i + 8] = long * zx;
    matrix[i + 9] = long * zy;
    matrix[i + 10] = long * zz;
    matrix[i + 12] = joint[a] + off * zx;
    matrix[i + 13] = joint[a + 1] + off * zy;
    matrix[i + 14] = joint[a + 2] + off * zz;
    matrix[i + 15] = 1;
    out.id[n] = id[m];
    out.along[n] = along[station[m]];
    out.curve[n] = curve[station[m]];
    n++;
  }
  return out;
}

/** Members as lines of two points from joint to joint, and how thick each is: those of the kinds that are wanted. */
export function memberLines(
  lattice: Lattice,
  lengths: Float64Array,
  sizes: readonly number[],
  wanted: (kind: number) => boolean,
): { curves: CurveSet; radius: Float32Array } {
  const { joint, from, to, id, kind, members } = lattice;
  let count = 0;
  for (let m = 0; m < members; m++) if (wanted(kind[m]) && lengths[m] > 0) count++;
  const curves = allocateCurves(count, 2 * count, [POINT.along]);
  const { position } = curves;
  const along = curves.pointData[POINT.along];
  const radius = new Float32Array(2 * count);
  const length = new Float32Array(count);
  for (let m = 0, c = 0; m < members; m++) {
    if (!wanted(kind[m]) || !(lengths[m] > 0)) continue;
    const i = 6 * c;
    const a = 3 * from[m];
    const b = 3 * to[m];
    position[i] = joint[a];
    position[i + 1] = joint[a + 1];
    position[i + 2] = joint[a + 2];
    position[i + 3] = joint[b];
    position[i + 4] = joint[b + 1];
    position[i + 5] = joint[b + 2];
    length[c] = lengths[m];
    along[2 * c + 1] = lengths[m];
    radius[2 * c] = sizes[kind[m]];
    radius[2 * c + 1] = sizes[kind[m]];
    curves.id[c] = id[m];
    curves.start[++c] = 2 * c;
  }
  curves.curveData[CURVE.length] = length;
  return { curves, radius };
}

/** Chord lines with one of their sides turned out of the truss. */
export function outwardFrames(curves: CurveSet, outward: ArrayLike<number>) {
  const frames = rotationMinimizingFrames(curves);
  const { tangent, normal } = frames;
  for (let i = 0; i < normal.length; i += 3) {
    const lean = outward[i] * tangent[i] + outward[i + 1] * tangent[i + 1] + outward[i + 2] * tangent[i + 2];
    const x = outward[i] - lean * tangent[i];
    const y = outward[i + 1] - lean * tangent[i + 1];
    const z = outward[i + 2] - lean * tangent[i + 2];
    const size = Math.sqrt(x * x + y * y + z * z);
    if (!(size > 1e-9)) continue;
    normal[i] = x / size;
    normal[i + 1] = y / size;
    normal[i + 2] = z / size;
  }
  return frames;
}
