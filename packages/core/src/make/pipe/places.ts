import { CURVE, POINT } from '../../curve/curve-set.js';
import { Walk } from '../../curve/walk.js';
import { childId } from '../../numeric/random.js';
import { cross, scale, upAcross, type Vec3, vec3 } from '../../numeric/vector.js';
import type { Placements } from '../../unit/carriers.js';
import type { PipeRun } from './run.js';
import type { Station } from './stations.js';

/** What is at a station: where, and which way it looks. */
export interface Stand {
  station: Station;
  at: Vec3;
  /** Unit direction of the pipe. */
  along: Vec3;
}

/** Where stations are in the world. */
export function standsOf({ rails }: Pick<PipeRun, 'rails'>, stations: readonly Station[]): Stand[] {
  const walks = new Map<number, Walk>();
  return stations.map((station) => {
    const { curve, at } = station;
    let walk = walks.get(curve);
    if (!walk) {
      walk = new Walk(rails, curve, {
        along: rails.pointData[POINT.along],
        length: rails.curveData[CURVE.length][curve],
      });
      walks.set(curve, walk);
    }
    return { station, at: walk.pointAt(at, vec3()), along: walk.directionAt(at, vec3()) };
  });
}

/** One place with its axes; their lengths are the scale. */
export interface Axes {
  stand: Stand;
  x: Vec3;
  y: Vec3;
  z: Vec3;
  at?: Vec3;
}

/** Axes for a part that lies along the pipe, z along it or back, x as far up as that allows. */
export function alongPipe(stand: Stand, size: number, way: 1 | -1 = 1): Axes {
  const z = scale(vec3(), stand.along, way);
  const x = upAcross(vec3(), z);
  const y = cross(vec3(), z, x);
  return { stand, x: scale(x, x, size), y: scale(y, y, size), z: scale(z, z, size) };
}

/** Places by their axes; the ids are those of their lines' stations in order, so that one more at the end moves none. */
export function placesAt({ rails }: Pick<PipeRun, 'rails'>, all: readonly Axes[]): Placements {
  const counts = new Map<number, number>();
  return {
    id: Uint32Array.from(all, ({ stand: { station } }) => {
      const count = counts.get(station.curve) ?? 0;
      counts.set(station.curve, count + 1);
      return childId(rails.id[station.curve], count);
    }),
    matrix: Float32Array.from(
      all.flatMap(({ stand, x, y, z, at = stand.at }) => [...x, 0, ...y, 0, ...z, 0, ...at, 1]),
    ),
    along: Float32Array.from(all, ({ stand: { station } }) => station.at),
    curve: Uint32Array.from(all, ({ stand: { station } }) => station.curve),
  };
}
