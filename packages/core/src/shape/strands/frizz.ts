import { STRAND } from '../../curve/strand-data.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import { defineUnit } from '../../unit/unit.js';
import { CHOSEN, chosenOf } from './chosen.js';
import { lengthOf, reshaped } from './reshape.js';
import { StrandLane } from './strand-lane.js';

export const frizz = defineUnit({
  stage: 'shape',
  id: 'frizz',
  label: 'Frizz',
  purpose: 'Adds noise to every strand, growing towards the tip.',
  synonyms: ['noise', 'messy', 'flyaway', 'random'],
  ownRegions: true,
  sample: { path: ['grown', { prop: 'bar', count: 500, length: 0.06 }], make: ['strands', {}], bar: true },
  parameters: {
    amount: {
      kind: 'ratio',
      of: 'strand length',
      label: 'Frizz amount',
      help: 'Distance strands deviate, root to tip; 0 is none.',
      default: 0.05,
      min: 0,
      max: 10,
      comfortable: [0, 0.3],
      along: true,
      gauge: 'sway',
    },
    waves: {
      kind: 'ratio',
      of: 'waves per strand',
      label: 'Wave count',
      help: 'Waves from root to tip; each wave needs about three points.',
      default: 3,
      min: 0.1,
      max: 1000,
      comfortable: [0.5, 12],
      gauge: 'figure',
    },
    alike: {
      kind: 'ratio',
      of: 'maximum',
      label: 'Clump coherence',
      help: '1 moves the strands of a clump together, 0 moves each by itself.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
    },
    seed: {
      kind: 'seed',
      label: 'Random seed',
      help: 'Change for a different frizz.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
      unmeasured: 'A seed has no size.',
    },
    ...CHOSEN,
  },
  presets: [
    {
      id: 'soft',
      label: 'Soft',
      parameters: {
        amount: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0 },
            { at: 1, value: 0.06 },
          ],
        },
      },
    },
    {
      id: 'wiry',
      label: 'Wiry',
      parameters: {
        amount: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0.01 },
            { at: 1, value: 0.08 },
          ],
        },
        waves: 6,
      },
    },
    {
      id: 'fluffy',
      label: 'Fluffy',
      parameters: {
        amount: {
          ease: 'straight',
          knots: [
            { at: 0, value: 0 },
            { at: 1, value: 0.2 },
          ],
        },
        waves: 1.5,
      },
    },
  ],
  describe: ({ waves }) => `Frizz, ${+waves.toPrecision(3)} waves`,
  build(input, p, context) {
    const amount = new StrandLane(p.amount, input, context);
    const chosen = chosenOf(input, p, context);
    const more = input.curveData[STRAND.frizz];
    const clump = input.curveData[STRAND.clump];
    const noise = new Stray(p.seed);
    return reshaped(input, context.step, (position, first, end, c) => {
      const weight = (chosen ? chosen(c) : 1) * (1 + (more?.[c] ?? 0));
      if (weight === 0) return;
      amount.begin(c);
      const size = weight * lengthOf(position, first, end);
      const steps = end - first - 1;
      const id = input.id[c];
      const of = clump?.[c] || id;
      for (let k = 1; k <= steps; k++) {
        const t = k / steps;
        const by = size * amount.at(t);
        const i = 3 * (first + k);
        const [own, shared] = [by * (1 - p.alike), by * p.alike];
        if (own > 0) noise.add(id, t * p.waves, own, position, i);
        if (shared > 0) noise.add(of, t * p.waves, shared, position, i);
      }
    });
  },
});

/**
 * Smooth noise of three channels along many lines, 0 at each line's root: random values at whole numbers, eased between
 * (Perlin: Improving noise, SIGGRAPH 2002).
 */
class Stray {
  private readonly channels: readonly ((id: number) => number)[];
  /** Values at both ends of the stretch that was asked for last, of its three channels. */
  private readonly a = new Float64Array(3);
  private readonly b = new Float64Array(3);
  private id = -1;
  private cell = -1;

  constructor(seed: number) {
    this.channels = ['x', 'y', 'z'].map((name) => randomsOf(seed, hashText(`frizz ${name}`)));
  }

  add(id: number, x: number, size: number, position: Float64Array, i: number): void {
    const cell = Math.floor(x);
    if (id !== this.id || cell !== this.cell) this.enter(id, cell);
    const t = x - cell;
    const s = t * t * t * (t * (6 * t - 15) + 10);
    for (let n = 0; n < 3; n++) position[i + n] += size * (this.a[n] + s * (this.b[n] - this.a[n]));
  }

  private enter(id: number, cell: number): void {
    const next = id === this.id && cell === this.cell + 1;
    for (let n = 0; n < 3; n++) {
      this.a[n] = next ? this.b[n] : this.at(n, id, cell);
      this.b[n] = this.at(n, id, cell + 1);
    }
    this.id = id;
    this.cell = cell;
  }

  private at(channel: number, id: number, cell: number): number {
    return cell === 0 ? 0 : 2 * this.channels[channel](id ^ Math.imul(cell, 0x9e3779b1)) - 1;
  }
}
