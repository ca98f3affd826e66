import { curveLengths } from '../../curve/arc-length.js';
import { type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { rotationMinimizingFrames } from '../../curve/frames.js';
import { type AlongValue, greatest, valueAt } from '../../numeric/lane.js';
import { swellCourse, type Unevenness } from './life/wander.js';
import type { Course } from './strands.js';

/** How far along its line each point is, 0…1, and which line it is of. */
export function sharesAlong(rails: CurveSet): { share: Float64Array; curve: Uint32Array } {
  const along = rails.pointData[POINT.along];
  const lengths = curveLengths(rails);
  const share = new Float64Array(pointCount(rails));
  const curve = new Uint32Array(pointCount(rails));
  for (let c = 0; c < curveCount(rails); c++)
    for (let p = rails.start[c]; p < rails.start[c + 1]; p++) {
      share[p] = lengths[c] > 0 ? along[p] / lengths[c] : 0;
      curve[p] = c;
    }
  return { share, curve };
}

/**
 * Lines as bundles run along them: framed, and as thick as asked at each point.
 * @param drawn the thickness that was drawn counts in
 */
export function courseOf(rails: CurveSet, radius: AlongValue, drawn: boolean, life: Unevenness): Course {
  const { share } = sharesAlong(rails);
  const thick = drawn ? rails.pointData[POINT.radius] : undefined;
  const course = {
    rails,
    frames: rotationMinimizingFrames(rails),
    radius: Float32Array.from(share, (at, p) => valueAt(radius, at) * (thick?.[p] ?? 1)),
  };
  swellCourse(course, life, greatest(radius));
  return course;
}

/** The radius of a bundle, in the same words for each. */
export const BUNDLE_RADIUS = {
  kind: 'length',
  label: 'Radius',
  help: 'Distance from the line to the outside of the bundle.',
  default: 0.02,
  min: 1e-6,
  max: 100,
  comfortable: [0.001, 0.1],
  along: true,
  share: 'size',
  gauge: 'diameter',
} as const;

/** Greatest turn of the line that the strip and the view show, from place to place. */
export const GUIDE_TURN = Math.PI / 30;
