import { curveLengths } from '../curve/arc-length.js';
import { carryCurves, carrySpots, roomLike, spotsOf } from '../curve/carry.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { type Spot, Walk } from '../curve/walk.js';
import { defineUnit } from '../unit/unit.js';

export const trim = defineUnit({
  stage: 'shape',
  id: 'trim',
  label: 'Trim',
  purpose: 'Keeps a section of each line and removes the rest.',
  synonyms: ['cut', 'shorten', 'crop', 'length'],
  sample: { parameters: { by: 'length', offStart: 0.08, offEnd: 0.05 } },
  parameters: {
    by: {
      kind: 'choice',
      label: 'Mode',
      help: 'Set the cuts as shares of the length or as lengths.',
      default: 'share',
      options: [
        { value: 'share', label: 'Share' },
        { value: 'length', label: 'Length' },
      ],
    },
    from: {
      kind: 'ratio',
      of: 'length',
      label: 'Start',
      help: 'Start of the kept section; 0 is the start of the line.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'start',
      when: { parameter: 'by', is: ['share'] },
    },
    to: {
      kind: 'ratio',
      of: 'length',
      label: 'End',
      help: 'End of the kept section; 1 is the end of the line.',
      default: 1,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'end',
      when: { parameter: 'by', is: ['share'] },
    },
    offStart: {
      kind: 'length',
      label: 'Trim start',
      help: 'Length removed at the start.',
      default: 0.1,
      min: 0,
      max: 10_000,
      comfortable: [0, 2],
      gauge: 'start',
      when: { parameter: 'by', is: ['length'] },
    },
    offEnd: {
      kind: 'length',
      label: 'Trim end',
      help: 'Length removed at the end.',
      default: 0,
      min: 0,
      max: 10_000,
      comfortable: [0, 2],
      gauge: 'end',
      when: { parameter: 'by', is: ['length'] },
    },
  },
  presets: [
    { id: 'share', label: 'By share', parameters: {} },
    { id: 'length', label: 'By length', parameters: { by: 'length' } },
  ],
  describe: ({ by, from, to, offStart, offEnd }, length) =>
    by === 'share'
      ? `From ${+(100 * from).toPrecision(3)} to ${+(100 * to).toPrecision(3)} %`
      : `${length(offStart)} off the start, ${length(offEnd)} off the end`,
  build(input, { by, from, to, offStart, offEnd }, context) {
    const even = resample(input, { maxTurn: 0.1, keepKnots: true });
    const lengths = curveLengths(even);
    const kept: { c: number; spots: Spot[] }[] = [];
    let gone = 0;
    for (let c = 0; c < curveCount(even); c++) {
      const begin = by === 'share' ? Math.min(from, to) * lengths[c] : offStart;
      const end = by === 'share' ? Math.max(from, to) * lengths[c] : lengths[c] - offEnd;
      const spots = end - begin > 1e-9 ? stretch(even, c, lengths[c], begin, end) : [];
      if (spots.length > 1) kept.push({ c, spots });
      else gone++;
    }
    if (gone > 0)
      context.report({
        code: 'trimmed-away',
        severity: kept.length === 0 ? 'error' : 'warning',
        message:
          kept.length === 0
            ? 'Nothing is left of the line. Trim less.'
            : `Nothing is left of ${gone} of ${curveCount(even)} lines. Trim less.`,
      });
    const out = roomLike(
      even,
      kept.length,
      kept.reduce((sum, { spots }) => sum + spots.length, 0),
    );
    out.curveData = carryCurves(
      even,
      kept.map(({ c }) => c),
    );
    let to3 = 0;
    kept.forEach(({ c, spots }, k) => {
      out.id[k] = even.id[c];
      // a ring of which nothing is cut away stays a ring
      out.closed[k] = even.closed[c] && spots.length === even.start[c + 1] - even.start[c] ? 1 : 0;
      to3 += spots.length;
      out.start[k + 1] = to3;
    });
    carrySpots(even, spotsOf(kept.flatMap(({ spots }) => spots)), out);
    const knot = out.pointData[POINT.knot];
    for (let k = 0; knot && k < kept.length; k++)
      if (!out.closed[k]) for (const p of [out.start[k], out.start[k + 1] - 1]) knot[p] = 1;
    return kept.length > 0 ? resample(out, { maxTurn: 0.1, keepKnots: true }) : out;
  },
});

/** The cut places of one curve and all its points between them. */
function stretch(curves: CurveSet, c: number, length: number, begin: number, end: number): Spot[] {
  const [first, last] = [curves.start[c], curves.start[c + 1] - 1];
  const along = curves.pointData[POINT.along];
  const whole = begin <= 1e-9 && end >= length - 1e-9;
  const spots: Spot[] = [];
  const cut = 1e-6 * length;
  const walk = new Walk(curves, c, { along, length });
  if (!whole) spots.push(walk.spot(begin));
  for (let p = first; p <= last; p++)
    if (whole || (along[p] > begin + cut && along[p] < end - cut)) spots.push({ a: p, b: p, t: 0 });
  // the very end of a ring is its beginning again: stay just before it
  if (!whole) spots.push(walk.spot(curves.closed[c] ? Math.min(end, length * (1 - 1e-12)) : end));
  return spots;
}
