import { withChordLengths } from '../../curve/chord-lengths.js';
import { absentValue, CURVE, type CurveSet, curveCount, POINT, pointCount } from '../../curve/curve-set.js';
import { pairAt } from '../../numeric/pair.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import { defineUnit } from '../../unit/unit.js';
import { CHOSEN, chosenOf } from './chosen.js';
import { lengthOf } from './reshape.js';

export const cut = defineUnit({
  stage: 'shape',
  id: 'cut',
  label: 'Cut',
  purpose: 'Changes the length of strands: to a limit, by a random share, with some longer than the rest.',
  synonyms: ['length', 'shorten', 'haircut', 'scale'],
  sample: { path: ['grown', { prop: 'bar', count: 600, length: 0.07 }], make: ['strands', {}], bar: true },
  parameters: {
    share: {
      kind: 'pair',
      each: 'ratio',
      of: 'length',
      label: 'Length range',
      help: 'Length of the shortest and the longest strand, relative to before.',
      default: { least: 0.7, most: 1 },
      min: 0.001,
      max: 100,
      comfortable: [0, 1.5],
      gauge: 'curves',
    },
    way: {
      kind: 'choice',
      label: 'Mode',
      help: 'Cut removes the tip; Scale shrinks the whole strand, so curls get smaller.',
      default: 'cut',
      options: [
        { value: 'cut', label: 'Cut' },
        { value: 'size', label: 'Scale' },
      ],
    },
    longest: {
      kind: 'length',
      label: 'Max length',
      help: 'Cuts strands longer than this; 0 is no limit.',
      default: 0,
      min: 0,
      max: 1000,
      comfortable: [0, 0.5],
      gauge: 'start',
    },
    ahead: {
      kind: 'ratio',
      of: 'all strands',
      label: 'Longer strands',
      help: 'Share of strands that stay longer than the others.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 0.3],
      gauge: 'figure',
      group: 'Longer strands',
    },
    aheadBy: {
      kind: 'ratio',
      of: 'length',
      label: 'Extra length',
      help: 'How much longer those strands are.',
      default: 0.4,
      min: 0,
      max: 100,
      comfortable: [0, 1],
      gauge: 'figure',
      group: 'Longer strands',
    },
    seed: {
      kind: 'seed',
      label: 'Random seed',
      help: 'Change for different lengths.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
      unmeasured: 'A seed has no size.',
    },
    ...CHOSEN,
  },
  presets: [
    { id: 'uneven', label: 'Uneven', parameters: {} },
    { id: 'shorn', label: 'Shorn', parameters: { share: { least: 0.35, most: 0.45 } } },
    { id: 'ragged', label: 'Ragged', parameters: { share: { least: 0.4, most: 0.9 }, ahead: 0.08, aheadBy: 0.5 } },
  ],
  describe: ({ share }) => `Length ${+share.least.toPrecision(3)} to ${+share.most.toPrecision(3)} ×`,
  build(input, p, context): CurveSet {
    const chosen = chosenOf(input, p, context);
    const ahead = randomsOf(p.seed, hashText('ahead'));
    const position = input.position.slice();
    const spots = new Spots(input);
    const count = curveCount(input);
    for (let c = 0; c < count; c++) {
      if (c % 8192 === 0) context.step(c / count);
      const weight = chosen ? chosen(c) : 1;
      const [first, end] = [input.start[c], input.start[c + 1]];
      if (weight === 0 || input.closed[c]) continue;
      const own = pairAt(p.share, p.seed, input.id[c], 'length') * (ahead(input.id[c]) < p.ahead ? 1 + p.aheadBy : 1);
      const length = lengthOf(input.position, first, end);
      let share = 1 + weight * (own - 1);
      if (p.longest > 0 && share * length > p.longest) share = p.longest / length;
      if (!(length > 0)) continue;
      if (p.way === 'cut' && share <= 1) spots.trim(position, first, end, share * length);
      else
        for (let i = 3 * first + 3; i < 3 * end; i++)
          position[i] = position[3 * first + (i % 3)] + share * (position[i] - position[3 * first + (i % 3)]);
    }
    const { [CURVE.length]: _length, ...curveData } = input.curveData;
    return withChordLengths({ ...input, position, pointData: spots.pointData, curveData });
  },
});

/** Puts the points of a line evenly over its first stretch; what the points carry goes with them. */
class Spots {
  readonly pointData: Record<string, Float32Array>;
  private readonly names: string[];

  constructor(private readonly from: CurveSet) {
    const own = Object.entries(from.pointData).filter(([name]) => name !== POINT.along);
    this.pointData = Object.fromEntries(own.map(([name, data]) => [name, data.slice()]));
    this.names = Object.keys(this.pointData);
  }

  trim(position: Float64Array, first: number, end: number, length: number): void {
    const { from } = this;
    const old = from.position;
    const steps = end - first - 1;
    let p = first;
    let [begun, step] = [0, stepOf(old, p)];
    for (let k = 1; k <= steps; k++) {
      const far = (length * k) / steps;
      while (begun + step < far && p < end - 2) {
        begun += step;
        step = stepOf(old, ++p);
      }
      const t = step > 0 ? Math.min(1, (far - begun) / step) : 0;
      const i = 3 * (first + k);
      const q = 3 * p;
      for (let n = 0; n < 3; n++) position[i + n] = old[q + n] + t * (old[q + 3 + n] - old[q + n]);
      for (const name of this.names) {
        const data = this.pointData[name];
        const size = data.length / pointCount(from);
        const source = from.pointData[name];
        const marks = name === POINT.knot || name === POINT.corner || name === POINT.source;
        for (let n = 0; n < size; n++) {
          const [a, b] = [source[size * p + n], source[size * (p + 1) + n]];
          data[size * (first + k) + n] = marks
            ? t === 0
              ? a
              : t === 1
                ? b
                : k === steps
                  ? Number(name === POINT.knot)
                  : absentValue(name)
            : a + t * (b - a);
        }
      }
    }
  }
}

function stepOf(position: Float64Array, p: number): number {
  const i = 3 * p;
  const x = position[i + 3] - position[i];
  const y = position[i + 4] - position[i + 1];
  const z = position[i + 5] - position[i + 2];
  return Math.sqrt(x * x + y * y + z * z);
}
