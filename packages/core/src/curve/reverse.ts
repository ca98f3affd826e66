import { type CurveSet, curveCount, POINT, pointCount } from './curve-set.js';

/**
 * The same curves run the other way; a closed one keeps its first point. Roll is counted about the way the curve runs,
 * so it changes its sign. `along` falls away: resample writes it anew.
 */
export function reverseCurves(curves: CurveSet): CurveSet {
  const { start, closed } = curves;
  const position = curves.position.slice();
  const pointData = Object.fromEntries(
    Object.entries(curves.pointData)
      .filter(([name]) => name !== POINT.along)
      .map(([name, data]) => [name, data.slice()]),
  );
  for (let c = 0; c < curveCount(curves); c++) {
    const first = start[c] + (closed[c] ? 1 : 0);
    const last = start[c + 1] - 1;
    for (let p = first; p <= last; p++) {
      const from = first + last - p;
      for (let axis = 0; axis < 3; axis++) position[3 * p + axis] = curves.position[3 * from + axis];
      for (const [name, data] of Object.entries(pointData)) {
        const size = data.length / pointCount(curves);
        for (let n = 0; n < size; n++) data[size * p + n] = curves.pointData[name][size * from + n];
      }
    }
  }
  negateRoll(pointData);
  return { ...curves, position, pointData };
}

/** Turns the roll of all points the other way, in place: of curves that were reversed or mirrored. */
export function negateRoll(pointData: CurveSet['pointData']): void {
  const roll = pointData[POINT.roll];
  for (let p = 0; p < (roll?.length ?? 0); p++) roll[p] = -roll[p];
}
