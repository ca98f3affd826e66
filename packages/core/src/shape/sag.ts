import { allocateCurves, type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { defineUnit } from '../unit/unit.js';
import { type Catenary, catenaryFromLength, catenaryFromSag, catenaryPoint } from './catenary.js';

/** Steps of one hanging span. */
const STEPS = 48;
/** A line that hangs from one point down and back up needs some width: this share of its length. */
const LEAST_SPAN = 1e-3;

export const sag = defineUnit({
  stage: 'shape',
  id: 'sag',
  label: 'Sag',
  purpose: 'Hangs the line between its held points, in the true curve of a chain.',
  parameters: {
    by: {
      kind: 'choice',
      label: 'Set by',
      help: 'Whether the extra length or the drop is given.',
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
      help: 'Extra length over the straight distance between two held points.',
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
      help: 'How far the line hangs below the straight connection, halfway across.',
      default: 0.2,
      min: 0,
      max: 1000,
      comfortable: [0, 2],
      gauge: 'drop',
      when: { parameter: 'by', is: ['drop'] },
    },
    held: {
      kind: 'choice',
      label: 'Held at',
      help: 'The points that keep their place.',
      default: 'points',
      options: [
        { value: 'points', label: 'Every point' },
        { value: 'ends', label: 'Both ends' },
      ],
    },
  },
  presets: [
    { id: 'easy', label: 'Easy', parameters: {} },
    { id: 'taut', label: 'Nearly taut', parameters: { slack: 0.005 } },
    { id: 'deep', label: 'Deep', parameters: { slack: 0.25 } },
  ],
  describe: ({ by, slack, drop }, length) =>
    by === 'slack' ? `Sag ${+(slack * 100).toPrecision(3)} %` : `Sag ${length(drop)}`,
  build(input, { by, slack, drop, held }) {
    const spans = heldSpans(input, held === 'ends');
    const solve = (span: number, rise: number): Catenary =>
      by === 'slack'
        ? catenaryFromLength(span, rise, Math.hypot(span, rise) * (1 + slack))
        : catenaryFromSag(span, rise, drop);
    return hang(input, spans, solve);
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

function hang(curves: CurveSet, spans: number[][], solve: (span: number, rise: number) => Catenary): CurveSet {
  const counts = spans.map((held, c) => (held.length - 1) * STEPS + (curves.closed[c] ? 0 : 1));
  const out = allocateCurves(
    curveCount(curves),
    counts.reduce((a, b) => a + b, 0),
    [POINT.knot, POINT.corner, POINT.radius, POINT.source],
  );
  out.closed.set(curves.closed);
  out.id.set(curves.id);
  let to = 0;
  for (let c = 0; c < spans.length; c++) {
    for (let k = 0; k + 1 < spans[c].length; k++) to = hangSpan(curves, spans[c][k], spans[c][k + 1], solve, out, to);
    if (!curves.closed[c]) to = copyPoint(curves, spans[c][spans[c].length - 1], out, to);
    out.start[c + 1] = to;
  }
  return resample(out, { maxTurn: 0.1, keepKnots: true });
}

function copyPoint(curves: CurveSet, p: number, out: CurveSet, to: number): number {
  for (let axis = 0; axis < 3; axis++) out.position[3 * to + axis] = curves.position[3 * p + axis];
  out.pointData[POINT.knot][to] = 1;
  out.pointData[POINT.radius][to] = curves.pointData[POINT.radius]?.[p] ?? 1;
  out.pointData[POINT.source][to] = curves.pointData[POINT.source]?.[p] ?? -1;
  return to + 1;
}

function hangSpan(
  curves: CurveSet,
  p: number,
  q: number,
  solve: (span: number, rise: number) => Catenary,
  out: CurveSet,
  to: number,
): number {
  const [px, py, pz] = [0, 1, 2].map((axis) => curves.position[3 * p + axis]);
  const [qx, qy, qz] = [0, 1, 2].map((axis) => curves.position[3 * q + axis]);
  const sideways = Math.hypot(qx - px, qz - pz);
  const rise = qy - py;
  const least = LEAST_SPAN * Math.hypot(sideways, rise);
  const span = Math.max(sideways, least);
  const line = solve(span, rise);
  // a plumb span has no direction of its own and hangs in x
  const [dx, dz] = sideways > least ? [(qx - px) / sideways, (qz - pz) / sideways] : [1, 0];
  const radiusP = curves.pointData[POINT.radius]?.[p] ?? 1;
  const radiusQ = curves.pointData[POINT.radius]?.[q] ?? 1;
  copyPoint(curves, p, out, to);
  for (let k = 1; k < STEPS; k++) {
    const t = k / STEPS;
    const [x, y] = catenaryPoint(line, span, rise, t);
    const off = x - span * t;
    const i = to + k;
    out.position[3 * i] = px + (qx - px) * t + dx * off;
    out.position[3 * i + 1] = py + y;
    out.position[3 * i + 2] = pz + (qz - pz) * t + dz * off;
    out.pointData[POINT.radius][i] = radiusP + (radiusQ - radiusP) * t;
    out.pointData[POINT.source][i] = -1;
  }
  return to + STEPS;
}
