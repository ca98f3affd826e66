import { curveLengths } from '../curve/arc-length.js';
import { type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { greatest, valueAt } from '../numeric/lane.js';
import { defineUnit } from '../unit/unit.js';
import { forgetMoved, pushApart, settle } from './settle.js';

/** First steps along the lines, in radii; up to this much longer where they would be very many. */
const STEP = 1;
const MAX_STEP = 2.5;
const MANY_SAMPLES = 16_000;
/** The finishing passes, as a part of the first ones. */
const FINISH = 4;
const MAX_SAMPLES = 400_000;
/** Most points times passes: about a minute where all of them touch. */
const MAX_WORK = 25_000_000;
/** What is nearer than this share of the wanted distance is reported. */
const TOLERATED = 0.02;

export const keepApart = defineUnit({
  stage: 'shape',
  id: 'keep-apart',
  label: 'Keep apart',
  purpose: 'Pushes lines that intersect each other or a prop apart until they just touch.',
  synonyms: ['separate', 'collide', 'relax', 'untangle', 'spread'],
  sample: { lines: ['bent', 'crossing'] },
  parameters: {
    gap: {
      kind: 'length',
      label: 'Gap',
      help: 'Space between two surfaces; below 0 presses them together.',
      default: 0,
      min: -10,
      max: 10,
      comfortable: [0, 0.05],
      gauge: 'distance',
    },
    props: { kind: 'toggle', label: 'Collide with props', help: 'Also push the lines out of props.', default: true },
    held: {
      kind: 'choice',
      label: 'Pinned',
      help: 'Ends that stay where they are.',
      default: 'ends',
      options: [
        { value: 'ends', label: 'Both ends' },
        { value: 'none', label: 'None' },
      ],
    },
    passes: {
      unmeasured: 'Iterations cost time, not size.',
      kind: 'count',
      label: 'Iterations',
      help: 'Number of solver passes; increase for a tight bundle.',
      default: 120,
      min: 1,
      max: 2000,
      comfortable: [10, 400],
    },
  },
  presets: [{ id: 'touching', label: 'Just touching', parameters: {} }],
  describe: ({ gap }, length) => (gap === 0 ? 'Kept apart' : `Kept apart, gap ${length(gap)}`),
  build(input, { gap, props, held, passes }, context) {
    const thick = greatest(context.thickness);
    if (!(thick > 0)) return input;
    const total = curveLengths(input).reduce((sum, length) => sum + length, 0);
    const off = props && !context.surroundings.isEmpty ? context.surroundings : undefined;
    const long = Math.min(MAX_STEP * thick, total / MANY_SAMPLES);
    const spacing = Math.max(STEP * thick, long, total / MAX_SAMPLES);
    const coarse = resample(input, { spacing, maxTurn: 0.3, keepKnots: true });
    const points = coarse.position.length / 3;
    const most = Math.max(1, Math.floor(MAX_WORK / points));
    if (passes > most)
      context.report({
        code: 'too-many-passes',
        severity: 'warning',
        message: `${passes.toLocaleString('en')} iterations for ${points.toLocaleString('en')} points are too many: ${most.toLocaleString('en')} are made. Reduce the iterations.`,
        size: { value: passes, limit: most, kind: 'count' },
      });
    const options = { gap, passes: Math.min(passes, most), holdEnds: held === 'ends', surroundings: off };
    const onPass = (share: number) => context.step(share / 2);
    pushApart(coarse, radii(coarse, context.thickness), { ...options, onPass });
    // on the smooth curve through what was pushed, there is little left to do, and finer steps hold what they find
    const fine = resample(coarse, { spacing: spacing / 2, maxTurn: 0.3, keepKnots: true });
    const thin = radii(fine, context.thickness);
    const finish = { ...options, passes: Math.ceil(options.passes / FINISH) };
    const onFinish = (share: number) => context.step((1 + share) / 2);
    const left = settle(fine, thin, finish, pushApart(fine, thin, { ...finish, onPass: onFinish }));
    forgetMoved(fine);
    if (left && left.missing > TOLERATED * left.wanted)
      context.report({
        code: 'still-too-near',
        severity: 'warning',
        message:
          left.with === 'prop'
            ? 'The line is still inside a prop here, perhaps at a pinned end. Unpin or move the ends.'
            : 'Two lines are {value} apart (limit {limit}). Add iterations, unpin the ends, or move the lines apart.',
        place: left.place,
        size: { value: left.wanted - left.missing, limit: left.wanted, kind: 'length' },
      });
    return resample(fine, { spacing, maxTurn: 0.1, keepKnots: true });
  },
});

function radii(curves: CurveSet, thickness: Parameters<typeof valueAt>[0]): Float64Array {
  const along = curves.pointData[POINT.along];
  const share = curves.pointData[POINT.radius];
  const lengths = curveLengths(curves);
  const out = new Float64Array(along.length);
  for (let c = 0; c < curveCount(curves); c++)
    for (let p = curves.start[c]; p < curves.start[c + 1]; p++)
      out[p] = valueAt(thickness, along[p] / (lengths[c] || 1)) * (share?.[p] ?? 1);
  return out;
}
