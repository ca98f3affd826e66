import { type CurveSet, POINT } from './curve-set.js';

/** How far along its curve the nearest place of all curves is to a place, metres; undefined where there is no curve. */
export function nearestAlong(
  { position, start, closed, pointData }: CurveSet,
  lengths: ArrayLike<number>,
  place: ArrayLike<number>,
): number | undefined {
  const along = pointData[POINT.along];
  let best: number | undefined;
  let least = Infinity;
  for (let c = 0; c < closed.length; c++) {
    const [first, end] = [start[c], start[c + 1]];
    for (let p = first; p < end - 1 + closed[c]; p++) {
      const q = p + 1 < end ? p + 1 : first;
      let [step, towards] = [0, 0];
      for (let k = 0; k < 3; k++) {
        const way = position[3 * q + k] - position[3 * p + k];
        step += way * way;
        towards += way * (place[k] - position[3 * p + k]);
      }
      const t = step > 0 ? Math.min(1, Math.max(0, towards / step)) : 0;
      let far = 0;
      for (let k = 0; k < 3; k++)
        far += (position[3 * p + k] + t * (position[3 * q + k] - position[3 * p + k]) - place[k]) ** 2;
      if (far >= least) continue;
      least = far;
      best = along[p] + t * ((q === first ? lengths[c] : along[q]) - along[p]);
    }
  }
  return best;
}
