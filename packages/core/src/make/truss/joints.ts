import { singleCurve } from '../../curve/curve-set.js';
import type { Mesh } from '../../mesh/mesh.js';
import { childId } from '../../numeric/random.js';
import { formSection } from '../../section/forms.js';
import { sweep } from '../../sweep/sweep.js';
import type { Placements } from '../../unit/carriers.js';
import { arcPlaces, lathe } from '../elements/solids.js';
import type { Stations } from '../elements/stations.js';
import { hold, kernel } from './kernel.js';
import type { Lattice } from './lattice.js';
import { copied, placesFor } from './members.js';

/** How high a plate is and how thick, as shares of its width. */
const PLATE = { high: 0.7, thick: 0.05 };
/** Numbers of joints, apart from those of members. */
const SLOT = 1000;

/** A ball of radius 1. */
export const ballMesh = (sides: number): Mesh =>
  lathe(arcPlaces(0, 1, -Math.PI / 2, Math.PI / 2, Math.max(4, Math.round(sides / 2))), sides, Math.PI);

/** A plate with rounded corners that fills a unit cube: x along the chord, y into the face, z through it. */
export const plateMesh = (): Mesh => {
  const section = formSection('box', { width: 1, sides: 8, points: 4, wall: 0.2, depth: 0.3, rounding: 0.4 });
  return sweep(singleCurve([0, 0, -0.5, 0, 0, 0.5]), section, { radius: 0.5, startDirection: [1, 0, 0] });
};

/** A ball at each joint. */
export function ballPlaces(lattice: Lattice, stations: Stations, radius: number, spare?: Placements): Placements {
  const { stationOf } = lattice;
  const count = stationOf.length;
  const into = hold(lattice, 64 * count)(64 * count);
  kernel.balls(count, radius, into);
  const { id, along, curve } = ballNumbers(stationOf, stations);
  const matrix = copied(new Float32Array(kernel.memory.buffer, into, 16 * count), spare?.matrix);
  return { id: copied(id, spare?.id), matrix, along: copied(along, spare?.along), curve: copied(curve, spare?.curve) };
}

/** What of balls stays as it is when their joints move, by the stations of these. */
const numbered = new WeakMap<Uint32Array, Omit<Placements, 'matrix'>>();

function ballNumbers(stationOf: Uint32Array, stations: Stations): Omit<Placements, 'matrix'> {
  let known = numbered.get(stationOf);
  if (!known) {
    const out = placesFor(stationOf.length);
    stationOf.forEach((station, j) => {
      write(out, j, stations, station, j);
    });
    known = out;
    numbered.set(stationOf, known);
  }
  return known;
}

/** A plate in each face wherever something of it meets a chord. */
export function platePlaces(lattice: Lattice, runsOn: Int32Array, stations: Stations, wide: number): Placements {
  const { chords, faces, met, joint } = lattice;
  const count = met.reduce((sum, one) => sum + one, 0);
  const out = placesFor(count);
  let n = 0;
  for (let s = 0; s < stations.id.length; s++)
    for (let f = 0; f < faces.length; f++)
      for (let corner = 0; corner < 2; corner++) {
        if (!met[2 * (faces.length * s + f) + corner]) continue;
        const own = 3 * (chords * s + faces[f][corner]);
        const other = 3 * (chords * s + faces[f][1 - corner]);
        const step = 3 * chords * runsOn[s];
        const x = unit(own, own + step, joint);
        const inward = unit(own, other, joint);
        const z = cross(x, inward);
        const y = cross(z, x);
        const m = 16 * n;
        const high = PLATE.high * wide;
        for (let k = 0; k < 3; k++) {
          out.matrix[m + k] = wide * x[k];
          out.matrix[m + 4 + k] = high * y[k];
          out.matrix[m + 8 + k] = PLATE.thick * wide * z[k];
          out.matrix[m + 12 + k] = joint[own + k] + 0.5 * high * y[k];
        }
        out.matrix[m + 15] = 1;
        write(out, n++, stations, s, 2 * f + corner);
      }
  return out;
}

function write(out: Placements, n: number, { id, along, curve }: Stations, station: number, slot: number): void {
  out.id[n] = childId(id[station], SLOT + slot);
  out.along[n] = along[station];
  out.curve[n] = curve[station];
}

function unit(from: number, to: number, at: Float64Array): [number, number, number] {
  const [x, y, z] = [at[to] - at[from], at[to + 1] - at[from + 1], at[to + 2] - at[from + 2]];
  const size = Math.hypot(x, y, z) || 1;
  return [x / size, y / size, z / size];
}

function cross(a: readonly number[], b: readonly number[]): [number, number, number] {
  const out: [number, number, number] = [
    a[1] * b[2] - a[2] * b[1],
    a[2] * b[0] - a[0] * b[2],
    a[0] * b[1] - a[1] * b[0],
  ];
  const size = Math.hypot(...out) || 1;
  return [out[0] / size, out[1] / size, out[2] / size];
}
