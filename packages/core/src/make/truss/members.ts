import { CURVE, type CurveSet, POINT, singleCurve } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import type { Mesh } from '../../mesh/mesh.js';
import type { Section } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { Placements } from '../../unit/carriers.js';
import { KINDS } from './bracing.js';
import { hold, kernel } from './kernel.js';
import type { Lattice } from './lattice.js';

/** A member of length 1 and half thickness 1, from 0 along z, both ends shut. */
export const memberMesh = (section: Section): Mesh =>
  sweep(singleCurve([0, 0, 0, 0, 0, 1]), section, { radius: 1, startDirection: [1, 0, 0] });

/** How long members are from joint to joint, metres. */
export function lengthsOf(lattice: Lattice): Float64Array {
  const { members } = lattice;
  const at = hold(lattice, 8 * members)(8 * members);
  kernel.measure(members, at);
  return new Float64Array(kernel.memory.buffer, at, members).slice();
}

/**
 * Where members stand, those of each kind together: each drawn out from joint to joint, less what is cut off at either
 * end. One of their sides looks out of the truss, or turned from that. What is shorter than what is cut off is a stub in
 * its middle.
 * @param spare places of each kind that nobody needs any more: their memory is used again
 * @param looks of each kind: half thickness, what is cut off, how far it is turned (metres, radians); none where it is not made so
 */
export function memberPlaces(
  lattice: Lattice,
  lengths: Float64Array,
  looks: readonly ({ radius: number; cut: number; roll: number } | undefined)[],
  spare: readonly (Placements | undefined)[] = [],
): Placements[] {
  const counts = countsOf(lattice, lengths).map((count, kind) => (looks[kind] ? count : 0));
  const each = kernel.LOOK.value;
  const room = counts.reduce((sum, count) => sum + BYTES * count, lengths.byteLength + each * looks.length);
  const reserve = hold(lattice, room);
  const long = reserve(lengths.byteLength);
  const table = reserve(each * looks.length);
  const at = counts.map((count) => [64, 4, 4, 4].map((bytes) => (count > 0 ? reserve(bytes * count) : 0)));
  const { buffer } = kernel.memory;
  new Float64Array(buffer, long, lengths.length).set(lengths);
  looks.forEach((look, kind) => {
    const { radius, cut, roll } = look ?? { radius: 0, cut: 0, roll: 0 };
    new Float64Array(buffer, table + each * kind, 4).set([radius, cut, Math.cos(roll), Math.sin(roll)]);
    new Uint32Array(buffer, table + each * kind + 32, 4).set(at[kind]);
  });
  kernel.place(lattice.members, long, table);
  return counts.map((count, kind) => {
    const [matrix, id, along, curve] = at[kind];
    const old = spare[kind];
    return {
      id: copied(new Uint32Array(buffer, id, count), old?.id),
      matrix: copied(new Float32Array(buffer, matrix, 16 * count), old?.matrix),
      along: copied(new Float32Array(buffer, along, count), old?.along),
      curve: copied(new Uint32Array(buffer, curve, count), old?.curve),
    };
  });
}

/** A copy of what is in the kernel's memory; in an array that is not needed any more, where that is as long. */
export function copied<T extends Float32Array | Uint32Array>(view: T, old: T | undefined): T {
  if (old?.length !== view.length) return view.slice() as T;
  old.set(view);
  return old;
}

/** Of a place: its matrix, number, way along and line. */
const BYTES = 64 + 4 + 4 + 4;

/** How many members of each kind have a length. */
function countsOf({ kind, members }: Lattice, lengths: Float64Array): number[] {
  const counts = new Uint32Array(KINDS.length);
  for (let m = 0; m < members; m++) if (lengths[m] > 0) counts[kind[m]]++;
  return [...counts];
}

/** Room for this many places. */
export const placesFor = (count: number): Placements => ({
  id: new Uint32Array(count),
  matrix: new Float32Array(16 * count),
  along: new Float32Array(count),
  curve: new Uint32Array(count),
});

/** Members as lines of two points from joint to joint, and how thick each is: of the kinds that are wanted. */
export function memberLines(
  lattice: Lattice,
  lengths: Float64Array,
  sizes: readonly number[],
  wanted: readonly boolean[],
): { curves: CurveSet; radius: Float32Array } {
  const count = countsOf(lattice, lengths).reduce((sum, some, kind) => sum + (wanted[kind] ? some : 0), 0);
  const reserve = hold(lattice, lengths.byteLength + 16 * KINDS.length + LINE_BYTES * count);
  const [long, size, want, position, along, radius, id, length] = [
    lengths.byteLength,
    8 * KINDS.length,
    8 * KINDS.length,
    48 * count,
    8 * count,
    8 * count,
    4 * count,
    4 * count,
  ].map(reserve);
  const { buffer } = kernel.memory;
  new Float64Array(buffer, long, lengths.length).set(lengths);
  new Float64Array(buffer, size, sizes.length).set(sizes);
  new Uint8Array(buffer, want, wanted.length).set(wanted.map(Number));
  kernel.lines(lattice.members, long, want, size, position, along, radius, id, length);
  const start = new Uint32Array(count + 1);
  for (let c = 1; c <= count; c++) start[c] = 2 * c;
  const curves: CurveSet = {
    start,
    position: new Float64Array(buffer, position, 6 * count).slice(),
    closed: new Uint8Array(count),
    id: new Uint32Array(buffer, id, count).slice(),
    pointData: { [POINT.along]: new Float32Array(buffer, along, 2 * count).slice() },
    curveData: { [CURVE.length]: new Float32Array(buffer, length, count).slice() },
  };
  return { curves, radius: new Float32Array(buffer, radius, 2 * count).slice() };
}

/** Of a line: its points, ways along, thicknesses, number and length. */
const LINE_BYTES = 48 + 8 + 8 + 4 + 4;

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
