import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { rotationMinimizingFrames } from '../curve/frames.js';
import { resample } from '../curve/resample.js';
import { Walk } from '../curve/walk.js';
import { greatest } from '../numeric/lane.js';
import { acrossFrom, cross, dot, normalize, pointOf, subtract, type Vec3, vec3 } from '../numeric/vector.js';
import { defineUnit } from '../unit/unit.js';

export const slide = defineUnit({
  stage: 'shape',
  id: 'slide',
  label: 'Slide',
  purpose: 'Lays the line along the line of another piece, from a position that slides along it.',
  synonyms: ['follow', 'along', 'path'],
  sample: { lines: ['posts'], parameters: { along: 'other', shape: 1 } },
  parameters: {
    along: { kind: 'piece', label: 'Target piece', help: 'Piece whose line it follows.', default: '' },
    from: {
      kind: 'length',
      label: 'Start position',
      help: 'Distance along the other line at which it starts.',
      default: 0,
      min: -10_000,
      max: 10_000,
      comfortable: [0, 5],
      gauge: 'start',
    },
    shape: {
      gauge: 'figure',
      kind: 'ratio',
      of: 'original shape',
      label: 'Keep shape',
      help: 'Share of its own bends that it keeps; 0 follows exactly, 1 keeps all.',
      default: 0,
      min: 0,
      max: 10,
      comfortable: [0, 1],
    },
  },
  presets: [{ id: 'following', label: 'Following', parameters: {} }],
  describe: ({ from }, length) => `Slide from ${length(from)}`,
  build(input, { along, from, shape }, context) {
    const guide = along ? context.piece(along)?.line : undefined;
    if (!guide || curveCount(guide) === 0) {
      context.report({
        code: 'carrier-missing',
        severity: 'warning',
        message: along
          ? 'The target piece is missing, has no line, or follows this one. Choose another one.'
          : 'No target piece is chosen. Pick the piece to slide along.',
      });
      return input;
    }
    const spacing = Math.max(greatest(context.thickness), 1e-5);
    const guideLine = resample(guide, { maxTurn: 0.08, spacing: 20 * spacing });
    const guideFrames = rotationMinimizingFrames(guideLine);
    const guideLengths = curveLengths(guideLine);
    const own = resample(input, { maxTurn: 0.1, spacing: 4 * spacing, keepKnots: true });
    const ownLengths = curveLengths(own);
    const out: CurveSet = { ...own, position: new Float64Array(own.position.length), closed: own.closed.slice() };
    let short = 0;
    for (let c = 0; c < curveCount(own); c++) {
      const g = c % curveCount(guideLine);
      const walk = new Walk(guideLine, g, { along: guideLine.pointData[POINT.along], length: guideLengths[g] });
      if (!guideLine.closed[g]) short = Math.max(short, from + ownLengths[c] - guideLengths[g], -from);
      // a ring laid along another line is cut open, unless it goes exactly round it
      out.closed[c] =
        own.closed[c] && guideLine.closed[g] && Math.abs(ownLengths[c] - guideLengths[g]) < 1e-3 * ownLengths[c]
          ? 1
          : 0;
      const stray = shape > 0 ? strayFrom(own.position, own.start[c], own.start[c + 1] - 1) : undefined;
      for (let p = own.start[c]; p < own.start[c + 1]; p++) {
        const spot = walk.spot(from + own.pointData[POINT.along][p]);
        for (let n = 0; n < 3; n++) {
          const [a, b] = [3 * spot.a + n, 3 * spot.b + n];
          out.position[3 * p + n] = guideLine.position[a] + spot.t * (guideLine.position[b] - guideLine.position[a]);
        }
        if (!stray) continue;
        const i = 3 * spot.a;
        const t = guideFrames.tangent.subarray(i, i + 3);
        const m = guideFrames.normal.subarray(i, i + 3);
        const binormal = [t[1] * m[2] - t[2] * m[1], t[2] * m[0] - t[0] * m[2], t[0] * m[1] - t[1] * m[0]];
        const [up, side] = stray(p);
        for (let n = 0; n < 3; n++) out.position[3 * p + n] += shape * (up * m[n] + side * binormal[n]);
      }
    }
    if (short > 1e-6)
      context.report({
        code: 'slid-past-the-end',
        severity: 'warning',
        message:
          'The line is {value} longer than the rest of the one it follows and is compressed at its end. Reduce the start position.',
        size: { value: short, limit: 0, kind: 'length' },
      });
    return resample(out, { maxTurn: 0.1, keepKnots: true });
  },
});

/** How far each point is off the straight connection of a curve's ends, upwards and to the side. */
function strayFrom(position: Float64Array, first: number, last: number): (p: number) => [number, number] {
  const from = pointOf(position, first);
  const way = subtract(vec3(), pointOf(position, last), from);
  const axis = normalize(vec3(), way);
  // up as far as the direction allows; a plumb line takes x
  const lead: Vec3 = Math.abs(axis[1]) < 0.99 ? [0, 1, 0] : [1, 0, 0];
  const up = normalize(lead, acrossFrom(lead, lead, axis));
  const side = cross(vec3(), axis, up);
  const off = vec3();
  return (p) => {
    subtract(off, pointOf(position, p), from);
    return [dot(off, up), dot(off, side)];
  };
}
