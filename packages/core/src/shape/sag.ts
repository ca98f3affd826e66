import { carryPoints, copiedCurveData, roomLike, type Spots } from '../curve/carry.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { pointOf } from '../numeric/vector.js';
import { defineUnit } from '../unit/unit.js';
import { type Catenary, catenaryFromLength, catenaryFromSag } from './catenary.js';
import { HANG_STEPS, hang } from './hang.js';

export const sag = defineUnit({
  stage: 'shape',
  id: 'sag',
  label: 'Sag',
  purpose: 'Hangs the line between its pinned points as a catenary.',
  synonyms: ['gravity', 'hang', 'droop', 'slack', 'catenary'],
  sample: { lines: ['posts'], parameters: { by: 'drop', drop: 0.09 } },
  parameters: {
    by: {
      kind: 'choice',
      label: 'Mode',
      help: 'Set the extra length, or the drop.',
      default: 'slack',
      options: [
        { value: 'slack', label: 'Slack' },
        { value: 'drop', label: 'Drop' },
      ],
    },
    slack: {
      kind: 'ratio',
      of: 'straight length',
      label: 'Slack',
      help: 'Extra length over the straight distance between two pinned points; 0 is taut.',
      default: 0.04,
      min: 0,
      max: 20,
      comfortable: [0, 0.5],
      gauge: 'drop',
      when: { parameter: 'by', is: ['slack'] },
    },
    drop: {
      kind: 'length',
      label: 'Drop',
      help: 'Drop below the straight line at the middle of the span.',
      default: 0.2,
      min: 0,
      max: 1000,
      comfortable: [0, 2],
      gauge: 'drop',
      when: { parameter: 'by', is: ['drop'] },
    },
    swing: {
      gauge: 'turn',
      kind: 'angle',
      label: 'Swing',
      help: 'Swings the bow sideways around the straight line; 0° hangs down, 90° is level.',
      default: 0,
      min: -2 * Math.PI,
      max: 2 * Math.PI,
      comfortable: [-Math.PI / 2, Math.PI / 2],
    },
    held: {
      kind: 'choice',
      label: 'Pinned',
      help: 'Points that keep their position.',
      default: 'points',
      options: [
        { value: 'points', label: 'Every point' },
        { value: 'ends', label: 'Both ends' },
      ],
    },
  },
  presets: [
    { id: 'easy', label: 'Relaxed', parameters: {} },
    { id: 'taut', label: 'Nearly taut', parameters: { slack: 0.005 } },
    { id: 'deep', label: 'Deep', parameters: { slack: 0.25 } },
  ],
  describe: ({ by, slack, drop }, length) =>
    by === 'slack' ? `Sag ${+(slack * 100).toPrecision(3)} %` : `Sag ${length(drop)}`,
  build(input, { by, slack, drop, swing, held }) {
    const spans = heldSpans(input, held === 'ends');
    const solve = (span: number, rise: number): Catenary =>
      by === 'slack'
        ? catenaryFromLength(span, rise, Math.hypot(span, rise) * (1 + slack))
        : catenaryFromSag(span, rise, drop);
    return hangSpans(input, spans, solve, swing);
  },
});

/** Points at which the line is held, curve by curve; a closed curve comes back to its first. */
function heldSpans(curves: CurveSet, onlyEnds: boolean): number[][] {
  const knot = curves.pointData[POINT.knot];
  return Array.from({ length: curveCount(curves) }, (_, c) => {
    const first = curves.start[c];
    const last = curves.start[c + 1] - 1;
    const held: number[] = [];
    for (let p = first; p <= last; p++) {
      const isEnd = p === first || (p === last && !curves.closed[c]);
      if (isEnd || (!onlyEnds && knot?.[p])) held.push(p);
    }
    if (curves.closed[c]) held.push(first);
    return held;
  });
}

function hangSpans(
  curves: CurveSet,
  spans: number[][],
  solve: (span: number, rise: number) => Catenary,
  swing: number,
): CurveSet {
  const counts = spans.map((held, c) => (held.length - 1) * HANG_STEPS + (curves.closed[c] ? 0 : 1));
  const points = counts.reduce((a, b) => a + b, 0);
  const out = roomLike(curves, curveCount(curves), points, [POINT.knot]);
  const spots: Spots = { a: new Uint32Array(points), b: new Uint32Array(points), t: new Float64Array(points) };
  out.closed.set(curves.closed);
  out.id.set(curves.id);
  out.curveData = copiedCurveData(curves);
  let to = 0;
  for (let c = 0; c < spans.length; c++) {
    for (let k = 0; k + 1 < spans[c].length; k++)
      to = hangSpan(curves, spans[c][k], spans[c][k + 1], solve, swing, out, spots, to);
    if (!curves.closed[c]) to = holdPoint(curves, spans[c][spans[c].length - 1], out, spots, to);
    out.start[c + 1] = to;
  }
  carryPoints(curves, spots, out);
  // it hangs from just those points, and turns at them as a chain does
  for (let p = 0; p < points; p++) out.pointData[POINT.knot][p] = spots.t[p] === 0 ? 1 : 0;
  out.pointData[POINT.corner]?.fill(0);
  return resample(out, { maxTurn: 0.1, keepKnots: true });
}

function holdPoint(curves: CurveSet, p: number, out: CurveSet, spots: Spots, to: number): number {
  for (let axis = 0; axis < 3; axis++) out.position[3 * to + axis] = curves.position[3 * p + axis];
  spots.a[to] = p;
  spots.b[to] = p;
  return to + 1;
}

function hangSpan(
  curves: CurveSet,
  p: number,
  q: number,
  solve: (span: number, rise: number) => Catenary,
  swing: number,
  out: CurveSet,
  spots: Spots,
  to: number,
): number {
  const line = hang(pointOf(curves.position, p), pointOf(curves.position, q), solve, swing);
  holdPoint(curves, p, out, spots, to);
  for (let k = 1; k < HANG_STEPS; k++) {
    const t = k / HANG_STEPS;
    line.at(t, out.position, 3 * (to + k));
    spots.a[to + k] = p;
    spots.b[to + k] = q;
    spots.t[to + k] = t;
  }
  return to + HANG_STEPS;
}
