import { CURVE, type CurveSet, curveCount, POINT, pointCount } from './curve-set.js';

/**
 * The curves with `along` and `length` measured from point to point: for strands, whose points lie so close that arc and
 * chord are one. Arrays that are there already are written over.
 */
export function withChordLengths(curves: CurveSet): CurveSet {
  const { start, position, closed } = curves;
  const along = fresh(curves.pointData[POINT.along], pointCount(curves));
  const lengths = fresh(curves.curveData[CURVE.length] as Float32Array | undefined, curveCount(curves));
  for (let c = 0; c < closed.length; c++) {
    let sum = 0;
    const [first, end] = [start[c], start[c + 1]];
    along[first] = 0;
    for (let p = first + 1; p < end; p++) {
      const i = 3 * p;
      const x = position[i] - position[i - 3];
      const y = position[i + 1] - position[i - 2];
      const z = position[i + 2] - position[i - 1];
      sum += Math.sqrt(x * x + y * y + z * z);
      along[p] = sum;
    }
    if (closed[c]) {
      const [i, j] = [3 * first, 3 * end - 3];
      sum += Math.hypot(
        position[i] - position[j],
        position[i + 1] - position[j + 1],
        position[i + 2] - position[j + 2],
      );
    }
    lengths[c] = sum;
  }
  return {
    ...curves,
    pointData: { ...curves.pointData, [POINT.along]: along },
    curveData: { ...curves.curveData, [CURVE.length]: lengths },
  };
}

const fresh = (had: Float32Array | undefined, size: number): Float32Array =>
  had?.length === size ? had : new Float32Array(size);
