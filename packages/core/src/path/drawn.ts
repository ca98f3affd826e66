import { joinCurves } from '../curve/carry.js';
import { catmullRom } from '../curve/catmull-rom.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { greatest } from '../numeric/lane.js';
import { defineUnit } from '../unit/unit.js';
import { MIN_TURN, noCurves } from './trace.js';

export const drawn = defineUnit({
  stage: 'path',
  id: 'drawn',
  label: 'Drawn',
  purpose: 'Curves drawn in the view, by points or freehand.',
  synonyms: ['freehand', 'stroke', 'pen', 'curve', 'spline'],
  byHand: true,
  parameters: {
    curves: { kind: 'curves', label: 'Curves', help: 'Drawn curves that this piece runs along.', default: [] },
  },
  presets: [{ id: 'drawn', label: 'Drawn', parameters: {} }],
  describe: ({ curves }) =>
    curves.length === 0 ? 'Nothing drawn yet' : curves.length === 1 ? '1 curve' : `${curves.length} curves`,
  build(_input, { curves }, context) {
    const sets: CurveSet[] = [];
    if (curves.length === 0)
      context.report({
        code: 'curve-missing',
        severity: 'warning',
        message: 'This piece has no line. Draw one, or choose a line for its path.',
      });
    for (const id of curves) {
      const points = context.curves.get(id);
      if (!points) {
        context.report({
          code: 'curve-missing',
          severity: 'error',
          message: 'A curve of this piece was deleted. Draw a new one, or remove it from the list.',
        });
        continue;
      }
      const fine = catmullRom(points);
      if (curveCount(fine) === 0) {
        const place: [number, number, number] | undefined =
          points.position.length >= 3 ? [points.position[0], points.position[1], points.position[2]] : undefined;
        context.report({
          code: 'curve-short',
          severity: 'error',
          message: 'All points of this curve are in one position. Add a second point.',
          place,
        });
        continue;
      }
      reportCloseness(points.position, id, points.closed, context);
      sets.push(fine);
    }
    if (sets.length === 0) return noCurves();
    return resample(joinCurves(sets), { maxTurn: MIN_TURN, keepKnots: true });
  },
});

/** Two drawn points nearer than the thing is thick make a pinch. */
function reportCloseness(
  position: Float64Array,
  curve: string,
  closed: boolean,
  context: Parameters<typeof drawn.build>[2],
): void {
  const count = position.length / 3;
  const thickness = greatest(context.thickness);
  for (let i = 0; i < (closed ? count : count - 1); i++) {
    const j = (i + 1) % count;
    const gap = Math.hypot(
      position[3 * j] - position[3 * i],
      position[3 * j + 1] - position[3 * i + 1],
      position[3 * j + 2] - position[3 * i + 2],
    );
    if (gap >= thickness) continue;
    // an end stays where it was put: the inner one of the two goes
    const inner = j === count - 1 && !closed ? i : j;
    context.report({
      code: 'points-close',
      severity: 'warning',
      message: `Points ${i + 1} and ${j + 1} are {value} apart (limit {limit}), which causes a pinch. Delete one.`,
      place: [position[3 * inner], position[3 * inner + 1], position[3 * inner + 2]],
      size: { value: gap, limit: thickness, kind: 'length' },
      fix: count > 2 ? { label: 'Delete the point', kind: 'delete-point', curve, point: inner } : undefined,
    });
  }
}
