import { absentValue, allocateCurves, type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { defineUnit } from '../unit/unit.js';
import { type Catenary, catenaryFromLength, catenaryFromSag } from './catenary.js';
import { HANG_STEPS, hang } from './hang.js';

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
    swing: {
      gauge: 'turn',
      kind: 'angle',
      label: 'Swing',
      help: 'Swings the bow to a side about the straight connection, as wind or a hook would.',
      default: 0,
      min: -2 * Math.PI,
      max: 2 * Math.PI,
      comfortable: [-Math.PI / 2, Math.PI / 2],
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
  const out = allocateCurves(
    curveCount(curves),
    counts.reduce((a, b) => a + b, 0),
    [POINT.knot, POINT.corner, POINT.radius, POINT.roll, POINT.source],
  );
  out.closed.set(curves.closed);
  out.id.set(curves.id);
  let to = 0;
  for (let c = 0; c < spans.length; c++) {
    for (let k = 0; k + 1 < spans[c].length; k++)
      to = hangSpan(curves, spans[c][k], spans[c][k + 1], solve, swing, out, to);
    if (!curves.closed[c]) to = copyPoint(curves, spans[c][spans[c].length - 1], out, to);
    out.start[c + 1] = to;
  }
  return resample(out, { maxTurn: 0.1, keepKnots: true });
}

function copyPoint(curves: CurveSet, p: number, out: CurveSet, to: number): number {
  for (let axis = 0; axis < 3; axis++) out.position[3 * to + axis] = curves.position[3 * p + axis];
  out.pointData[POINT.knot][to] = 1;
  for (const name of [POINT.radius, POINT.roll])
    out.pointData[name][to] = curves.pointData[name]?.[p] ?? absentValue(name);
  out.pointData[POINT.source][to] = curves.pointData[POINT.source]?.[p] ?? -1;
  return to + 1;
}

function hangSpan(
  curves: CurveSet,
  p: number,
  q: number,
  solve: (span: number, rise: number) => Catenary,
  swing: number,
  out: CurveSet,
  to: number,
): number {
  const place = (point: number): [number, number, number] => [
    curves.position[3 * point],
    curves.position[3 * point + 1],
    curves.position[3 * point + 2],
  ];
  const line = hang(place(p), place(q), solve, swing);
  copyPoint(curves, p, out, to);
  for (let k = 1; k < HANG_STEPS; k++) {
    const t = k / HANG_STEPS;
    line.at(t, out.position, 3 * (to + k));
    for (const name of [POINT.radius, POINT.roll]) {
      const [a, b] = [p, q].map((point) => curves.pointData[name]?.[point] ?? absentValue(name));
      out.pointData[name][to + k] = a + (b - a) * t;
    }
    out.pointData[POINT.source][to + k] = -1;
  }
  return to + HANG_STEPS;
}
