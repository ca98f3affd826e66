import { allocateCurves, CURVE, type CurveSet, POINT } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';
import { measureLines } from '../../curve/kernel/lengths.js';
import { tangentsOf } from '../../curve/tangents.js';
import { normalize, vec3 } from '../../numeric/vector.js';
import type { ClothPlace } from './cloth.js';

/** Places on the cloth one after the other. */
export interface LaidRow {
  places: readonly ClothPlace[];
  closed: boolean;
  id: number;
}

/** Rows as lines with frames: their normal is the way out of the cloth, calmed along the row. */
export function laidRails(rows: readonly LaidRow[]): { rails: CurveSet; frames: Frames } {
  const rails = allocateCurves(
    rows.length,
    rows.reduce((sum, { places }) => sum + places.length, 0),
    [POINT.along],
  );
  rails.curveData[CURVE.length] = new Float32Array(rows.length);
  const up = new Float64Array(rails.position.length);
  let p = 0;
  rows.forEach(({ places, closed, id }, c) => {
    for (const place of calm(places, closed)) {
      rails.position.set(place.at, 3 * p);
      up.set(place.up, 3 * p);
      p++;
    }
    rails.start[c + 1] = p;
    rails.closed[c] = closed ? 1 : 0;
    rails.id[c] = id;
  });
  measureLines(rails);
  const tangent = tangentsOf(rails);
  return { rails, frames: { tangent, normal: squared(up, tangent) } };
}

/** Each place's way out, the mean of its own and its neighbours': single faces of a scan do not shake it. */
function calm(places: readonly ClothPlace[], closed: boolean): ClothPlace[] {
  const count = places.length;
  return places.map((place, k) => {
    const up = vec3();
    for (let j = -2; j <= 2; j++) {
      const i = closed ? (k + j + count) % count : Math.min(count - 1, Math.max(0, k + j));
      for (let n = 0; n < 3; n++) up[n] += places[i].up[n];
    }
    return { ...place, up: normalize(up, up) };
  });
}

function squared(up: Float64Array, tangent: Float64Array): Float64Array {
  const out = new Float64Array(up.length);
  for (let i = 0; i < up.length; i += 3) {
    const lean = up[i] * tangent[i] + up[i + 1] * tangent[i + 1] + up[i + 2] * tangent[i + 2];
    const own = [0, 1, 2].map((n) => up[i + n] - lean * tangent[i + n]);
    const size = Math.hypot(...own) || 1;
    for (let n = 0; n < 3; n++) out[i + n] = own[n] / size;
  }
  return out;
}
