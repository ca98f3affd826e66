import { absentValue, type CurveSet, curveCount, POINT } from '../curve/curve-set.js';
import { pairAt } from '../numeric/pair.js';
import { defineUnit } from '../unit/unit.js';

export const vary = defineUnit({
  stage: 'shape',
  id: 'vary',
  label: 'Vary',
  purpose: 'Varies thickness and roll randomly from line to line.',
  synonyms: ['random', 'variation', 'thickness'],
  sample: {
    before: [['repeat', { count: 7, step: [0, 0, 0.04] }]],
    parameters: { thickness: { least: 0.4, most: 1.8 } },
  },
  parameters: {
    thickness: {
      kind: 'pair',
      each: 'ratio',
      of: 'thickness',
      label: 'Thickness range',
      help: 'Thinnest and thickest line, relative to the set thickness.',
      gauge: 'curves',
      default: { least: 0.8, most: 1.2 },
      min: 0.001,
      max: 1000,
      comfortable: [0, 2],
    },
    roll: {
      kind: 'pair',
      each: 'angle',
      label: 'Roll range',
      help: 'Smallest and largest roll of a line.',
      gauge: 'curves',
      default: { least: 0, most: 0 },
      min: -1000,
      max: 1000,
      comfortable: [-Math.PI, Math.PI],
    },
    seed: {
      kind: 'seed',
      label: 'Random seed',
      help: 'Change for a different variation.',
      unmeasured: 'A seed has no size.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
    },
  },
  presets: [
    { id: 'slightly', label: 'Slight', parameters: { thickness: { least: 0.9, most: 1.1 } } },
    {
      id: 'wildly',
      label: 'Strong',
      parameters: { thickness: { least: 0.4, most: 1.6 }, roll: { least: -Math.PI, most: Math.PI } },
    },
  ],
  describe: ({ thickness: { least, most } }) => `Thickness ${+least.toPrecision(3)} to ${+most.toPrecision(3)} ×`,
  build(input, { thickness, roll, seed }): CurveSet {
    const points = input.position.length / 3;
    const read = (name: string) => input.pointData[name]?.slice() ?? new Float32Array(points).fill(absentValue(name));
    const radii = read(POINT.radius);
    const rolls = read(POINT.roll);
    for (let c = 0; c < curveCount(input); c++) {
      const share = pairAt(thickness, seed, input.id[c], 'thickness');
      const turn = pairAt(roll, seed, input.id[c], 'roll');
      for (let p = input.start[c]; p < input.start[c + 1]; p++) {
        radii[p] *= share;
        rolls[p] += turn;
      }
    }
    return { ...input, pointData: { ...input.pointData, [POINT.radius]: radii, [POINT.roll]: rolls } };
  },
});
