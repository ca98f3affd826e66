import type { Mark, Placements } from '../../unit/carriers.js';
import type { Stations } from './stations.js';

/** Which element is where, as far as it is written down with a place. */
interface Standing {
  id: ArrayLike<number>;
  along: ArrayLike<number>;
  curve: ArrayLike<number>;
}

/** Places of one part, as many as there is room for; `count` of them are written. */
export class PlacementsWriter {
  private count = 0;
  private readonly places: Placements;

  constructor(room: number) {
    this.places = {
      id: new Uint32Array(room),
      matrix: new Float32Array(16 * room),
      along: new Float32Array(room),
      curve: new Uint32Array(room),
    };
  }

  /** Element `n` of the stations with its axes, whose lengths are the scale, and where its own origin stands. */
  add(
    stations: Standing,
    n: number,
    x: ArrayLike<number>,
    y: ArrayLike<number>,
    z: ArrayLike<number>,
    at: ArrayLike<number>,
  ): void {
    const axes = new Float64Array(9);
    axes.set(x);
    axes.set(y, 3);
    axes.set(z, 6);
    this.addFrame(stations, n, axes, Float64Array.from(at));
  }

  /** The same of axes in one array of 9 numbers: for very many. */
  addFrame(stations: Standing, n: number, axes: Float64Array, at: Float64Array): void {
    const { id, matrix, along, curve } = this.places;
    const i = this.count++;
    id[i] = stations.id[n];
    along[i] = stations.along[n];
    curve[i] = stations.curve[n];
    const m = 16 * i;
    matrix[m] = axes[0];
    matrix[m + 1] = axes[1];
    matrix[m + 2] = axes[2];
    matrix[m + 4] = axes[3];
    matrix[m + 5] = axes[4];
    matrix[m + 6] = axes[5];
    matrix[m + 8] = axes[6];
    matrix[m + 9] = axes[7];
    matrix[m + 10] = axes[8];
    matrix[m + 12] = at[0];
    matrix[m + 13] = at[1];
    matrix[m + 14] = at[2];
    matrix[m + 15] = 1;
  }

  finish(): Placements {
    const { count } = this;
    const { id, matrix, along, curve } = this.places;
    if (count === id.length) return this.places;
    return {
      id: id.slice(0, count),
      matrix: matrix.slice(0, 16 * count),
      along: along.slice(0, count),
      curve: curve.slice(0, count),
    };
  }
}

/** The elements as marks on the strip. */
export const elementMarks = (label: string, { along, curve, id }: Pick<Stations, 'along' | 'curve' | 'id'>): Mark[] =>
  id.length > 0 ? [{ kind: 'element', label, along, curve, id }] : [];

/**
 * Places in the frames of their stations as these are, one size each: x to the side, y up, z along.
 * @param hold what of the mesh is at the station
 * @param old places that are no longer wanted: written over where they are as many
 */
export function framedPlacements(
  stations: Stations,
  scale: ArrayLike<number>,
  hold: readonly number[],
  old?: Placements,
): Placements {
  const { id, along, curve, at, tangent: t, up } = stations;
  const matrix = old?.matrix.length === 16 * id.length ? old.matrix : new Float32Array(16 * id.length);
  const [hx, hy, hz] = hold;
  for (let n = 0, i = 0, m = 0; n < id.length; n++, i += 3, m += 16) {
    const size = scale[n];
    const tx = size * t[i];
    const ty = size * t[i + 1];
    const tz = size * t[i + 2];
    const ux = up[i];
    const uy = up[i + 1];
    const uz = up[i + 2];
    const x = uy * tz - uz * ty;
    const y = uz * tx - ux * tz;
    const z = ux * ty - uy * tx;
    matrix[m] = x;
    matrix[m + 1] = y;
    matrix[m + 2] = z;
    matrix[m + 4] = size * ux;
    matrix[m + 5] = size * uy;
    matrix[m + 6] = size * uz;
    matrix[m + 8] = tx;
    matrix[m + 9] = ty;
    matrix[m + 10] = tz;
    matrix[m + 12] = at[i] - hx * x - hy * size * ux - hz * tx;
    matrix[m + 13] = at[i + 1] - hx * y - hy * size * uy - hz * ty;
    matrix[m + 14] = at[i + 2] - hx * z - hy * size * uz - hz * tz;
    matrix[m + 15] = 1;
  }
  return { id: id.slice(), along: along.slice(), curve: curve.slice(), matrix };
}
