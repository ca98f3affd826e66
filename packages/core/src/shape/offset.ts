import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { rotationMinimizingFrames } from '../curve/frames.js';
import { resample } from '../curve/resample.js';
import { greatest, isLane, valueAt } from '../numeric/lane.js';
import { createHit } from '../surface/surface.js';
import { defineUnit } from '../unit/unit.js';

/** Steps in which a distance that varies is followed. */
const LANE_STEPS = 64;

export const offset = defineUnit({
  stage: 'shape',
  id: 'offset',
  label: 'Offset',
  purpose: 'Moves the line sideways, or away from the nearest surface.',
  synonyms: ['shift', 'parallel', 'move'],
  parameters: {
    way: {
      kind: 'choice',
      label: 'Direction',
      help: 'Sideways moves to one side of the line; Off the surface moves away from the nearest prop.',
      default: 'side',
      options: [
        { value: 'side', label: 'Sideways' },
        { value: 'surface', label: 'Off the surface' },
      ],
    },
    distance: {
      kind: 'length',
      label: 'Distance',
      help: 'Offset distance; below 0 reverses it.',
      default: 0.05,
      min: -100,
      max: 100,
      comfortable: [-0.5, 0.5],
      along: true,
      gauge: 'off-line',
    },
    side: {
      gauge: 'turn',
      kind: 'angle',
      label: 'Side angle',
      help: 'Direction around the line; 0° is up, 90° is left when looking along it.',
      default: Math.PI / 2,
      min: -1000,
      max: 1000,
      comfortable: [-Math.PI, Math.PI],
      when: { parameter: 'way', is: ['side'] },
    },
  },
  presets: [
    { id: 'beside', label: 'Beside', parameters: {} },
    { id: 'lifted', label: 'Surface offset', parameters: { way: 'surface' } },
  ],
  describe: ({ distance }, length) => `Offset ${length(greatest(distance))}`,
  build(input, { way, distance, side }, context) {
    // a straight line has to have places where a lane can move it
    const spacing = isLane(distance)
      ? curveLengths(input).reduce((a, b) => Math.max(a, b), 0) / Math.max(LANE_STEPS, distance.knots.length)
      : undefined;
    const even = resample(input, { maxTurn: 0.1, spacing, keepKnots: true });
    const { tangent, normal } = rotationMinimizingFrames(even);
    const along = even.pointData[POINT.along];
    const lengths = curveLengths(even);
    const position = even.position.slice();
    const hit = createHit();
    // seen along the line, left is normal × tangent: −binormal
    const [cos, sin] = [Math.cos(side), -Math.sin(side)];
    for (let c = 0; c < curveCount(even); c++) {
      for (let p = even.start[c]; p < even.start[c + 1]; p++) {
        const i = 3 * p;
        const far = valueAt(distance, along[p] / (lengths[c] || 1));
        if (way === 'surface') {
          const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
          if (!context.surroundings.closest(x, y, z, hit)) continue;
          for (let n = 0; n < 3; n++) position[i + n] += far * hit.normal[n];
          continue;
        }
        const [tx, ty, tz] = [tangent[i], tangent[i + 1], tangent[i + 2]];
        const [nx, ny, nz] = [normal[i], normal[i + 1], normal[i + 2]];
        position[i] += far * (cos * nx + sin * (ty * nz - tz * ny));
        position[i + 1] += far * (cos * ny + sin * (tz * nx - tx * nz));
        position[i + 2] += far * (cos * nz + sin * (tx * ny - ty * nx));
      }
    }
    const fold = firstFold(even, position);
    if (fold >= 0)
      context.report({
        code: 'offset-folds',
        severity: 'warning',
        message: 'The offset is larger than the bend radius: the line reverses. Reduce the offset, or smooth the bend.',
        place: [position[3 * fold], position[3 * fold + 1], position[3 * fold + 2]],
      });
    return resample({ ...even, position }, { maxTurn: 0.1, keepKnots: true });
  },
});

/** First point from which the moved line runs against the one it came from; −1 where there is none. */
function firstFold(curves: CurveSet, moved: Float64Array): number {
  for (let c = 0; c < curveCount(curves); c++)
    for (let p = curves.start[c]; p < curves.start[c + 1] - 1; p++) {
      let dot = 0;
      for (let n = 0; n < 3; n++)
        dot +=
          (curves.position[3 * p + 3 + n] - curves.position[3 * p + n]) * (moved[3 * p + 3 + n] - moved[3 * p + n]);
      if (dot < 0) return p;
    }
  return -1;
}
