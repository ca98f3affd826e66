import type { Mark, Placements } from '../../unit/carriers.js';
import type { Stations } from './stations.js';

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
  add(stations: Pick<Stations, 'id' | 'along' | 'curve'>, n: number, x: ArrayLike<number>, y: ArrayLike<number>, z: ArrayLike<number>, at: ArrayLike<number>): void {
    const { id, matrix, along, curve } = this.places;
    const i = this.count++;
    id[i] = stations.id[n];
    along[i] = stations.along[n];
    curve[i] = stations.curve[n];
    const m = 16 * i;
    matrix[m] = x[0];
    matrix[m + 1] = x[1];
    matrix[m + 2] = x[2];
    matrix[m + 4] = y[0];
    matrix[m + 5] = y[1];
    matrix[m + 6] = y[2];
    matrix[m + 8] = z[0];
    matrix[m + 9] = z[1];
    matrix[m + 10] = z[2];
    matrix[m + 12] = at[0];
    matrix[m + 13] = at[1];
    matrix[m + 14] = at[2];
    matrix[m + 15] = 1;
  } // biome-ignore format: one number a line

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
