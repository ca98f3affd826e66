import { LaneTable } from '../../numeric/lane-table.js';
import { defineUnit } from '../../unit/unit.js';
import { CHOSEN, chosenOf } from './chosen.js';
import { bent } from './reshape.js';

export const droop = defineUnit({
  stage: 'shape',
  id: 'droop',
  label: 'Droop',
  purpose: 'Lets strands hang: each turns down more and more from root to tip, as long as it was.',
  sample: { path: ['grown', { prop: 'bar', count: 500, length: 0.08 }], make: ['strands', {}], bar: true },
  parameters: {
    amount: {
      kind: 'ratio',
      of: 'all the way down',
      label: 'Amount',
      help: 'How far it has turned straight down, root to tip.',
      default: 0.5,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      along: true,
      gauge: 'drop',
    },
    towards: {
      kind: 'direction',
      label: 'Towards',
      help: 'Which way they hang; down unless wind or water says otherwise.',
      default: [0, -1, 0],
      gauge: 'figure',
    },
    ...CHOSEN,
  },
  presets: [
    { id: 'hanging', label: 'Hanging', parameters: { amount: { ease: 'smooth', knots: [{ at: 0, value: 0 }, { at: 1, value: 0.9 }] } } },
    { id: 'bowed', label: 'Bowed', parameters: { amount: { ease: 'smooth', knots: [{ at: 0, value: 0 }, { at: 1, value: 0.4 }] } } },
  ], // biome-ignore format: a line each
  describe: () => 'Droop',
  build(input, p, context) {
    const amount = new LaneTable(p.amount);
    const chosen = chosenOf(input, p, context);
    const [x, y, z] = p.towards;
    return bent(input, context.step, (direction, t, c) => {
      const by = amount.at(t) * (chosen ? chosen(c) : 1);
      direction[0] += by * (x - direction[0]);
      direction[1] += by * (y - direction[1]);
      direction[2] += by * (z - direction[2]);
    });
  },
});
