import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { smoothCurves } from '../curve/smooth.js';
import { type AlongValue, greatest, valueAt } from '../numeric/lane.js';
import { createHit, type SurfaceHit } from '../surface/surface.js';
import type { Surroundings } from '../surface/surroundings.js';
import { defineUnit } from '../unit/unit.js';

/** Steps along the line, as a share of the thickness: closer than this the section bridges whatever is under it. */
const STEP = 0.75;
/** Most samples for all curves of a piece. */
const MOST_SAMPLES = 400_000;

export const cling = defineUnit({
  stage: 'shape',
  id: 'cling',
  label: 'Cling',
  purpose: 'Lays the line on a prop: every place at one distance from the surface.',
  parameters: {
    target: { kind: 'prop', label: 'On', help: 'The prop to lie on; empty takes whichever is nearest.', default: '' },
    gap: {
      kind: 'length', label: 'Gap', help: 'Air between the surface and the skin of the thing. Below 0 it is pressed in.',
      default: 0, min: -10, max: 100, comfortable: [0, 0.05], gauge: 'distance',
    },
    reach: {
      kind: 'length', label: 'Reach', help: 'Places further than this from the surface are left where they are.',
      default: 100, min: 0, max: 10_000, comfortable: [0, 2],
    },
    ease: {
      kind: 'ratio', of: 'thickness', label: 'Ease', help: 'Length over which the line eases across edges and facets.',
      default: 1.5, min: 0, max: 100, comfortable: [0, 8],
    },
  },
  presets: [{ id: 'lying', label: 'Lying on it', parameters: {} }],
  describe: ({ gap }, length) => (gap === 0 ? 'Cling' : `Cling, gap ${length(gap)}`),
  build(input, { target, gap, reach, ease }, context) {
    const only = target || undefined;
    if (context.surroundings.isEmpty || (only && !context.surroundings.surface(only))) {
      context.report({
        code: 'nothing-to-cling-to',
        severity: 'warning',
        message: only ? 'The prop to cling to is gone or hidden. Choose another one.' : 'There is no prop to cling to. Import one or take Cling off.',
      });
      return input;
    }
    const thick = greatest(context.thickness);
    const lengths = curveLengths(input);
    const total = lengths.reduce((sum, length) => sum + length, 0);
    const fine = resample(input, { spacing: Math.max(thick * STEP, total / MOST_SAMPLES, 1e-6), maxTurn: 0.3, keepKnots: true });
    const distance = distances(fine, context.thickness, gap);
    const held = layOn(fine, context.surroundings, distance, reach, only);
    if (ease === 0) return held;
    const eased = smoothCurves(held, { over: ease * thick, hold: 'corners' });
    return pushOut(eased, context.surroundings, distance, only);
  },
});

/** Wanted distance of the curve from the surface at each point: the section's own reach there, and the gap. */
function distances(curves: CurveSet, thickness: AlongValue, gap: number): Float64Array {
  const along = curves.pointData[POINT.along];
  const share = curves.pointData[POINT.radius];
  const lengths = curveLengths(curves);
  const out = new Float64Array(along.length);
  for (let c = 0; c < curveCount(curves); c++)
    for (let p = curves.start[c]; p < curves.start[c + 1]; p++)
      out[p] = valueAt(thickness, along[p] / (lengths[c] || 1)) * (share?.[p] ?? 1) + gap;
  return out;
}

/** Every point within `reach` of a surface moves to `distance` over its closest place. One query a point. */
export function layOn(curves: CurveSet, surroundings: Surroundings, distance: Float64Array, reach: number, only?: string): CurveSet {
  const position = curves.position.slice();
  const hit = createHit();
  for (let p = 0; p < distance.length; p++) {
    const i = 3 * p;
    if (surroundings.closest(position[i], position[i + 1], position[i + 2], hit, reach, only) === undefined) continue;
    placeOver(position, i, hit, distance[p]);
  }
  return { ...curves, position };
}

/** Points nearer than `distance` are pushed out to it: after smoothing, and in inner corners where two faces are near. */
function pushOut(curves: CurveSet, surroundings: Surroundings, distance: Float64Array, only?: string): CurveSet {
  const position = curves.position.slice();
  const hit = createHit();
  for (let p = 0; p < distance.length; p++) {
    const i = 3 * p;
    for (let again = 0; again < 3; again++) {
      if (surroundings.closest(position[i], position[i + 1], position[i + 2], hit, distance[p] * 0.995, only) === undefined) break;
      placeOver(position, i, hit, distance[p]);
    }
  }
  return { ...curves, position };
}

/** Moves the point along the line to its closest place: round an edge that line turns, on a face it is the normal. */
function placeOver(position: Float64Array, i: number, hit: SurfaceHit, distance: number): void {
  const { point, normal } = hit;
  let x = position[i] - point[0];
  let y = position[i + 1] - point[1];
  let z = position[i + 2] - point[2];
  const size = Math.sqrt(x * x + y * y + z * z);
  const front = x * normal[0] + y * normal[1] + z * normal[2];
  if (size < 1e-7 || Math.abs(front) < 1e-3 * size) {
    x = normal[0];
    y = normal[1];
    z = normal[2];
  } else {
    const scale = (front < 0 ? -1 : 1) / size;
    x *= scale;
    y *= scale;
    z *= scale;
  }
  position[i] = point[0] + distance * x;
  position[i + 1] = point[1] + distance * y;
  position[i + 2] = point[2] + distance * z;
}
