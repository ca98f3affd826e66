import { defineUnit } from '../../unit/unit.js';
import { CHOSEN, chosenOf } from './chosen.js';
import { bent } from './reshape.js';
import { StrandLane } from './strand-lane.js';

export const droop = defineUnit({
  stage: 'shape',
  id: 'droop',
  label: 'Droop',
  purpose: 'Bends strands downwards from root to tip without changing their length.',
  synonyms: ['gravity', 'wind', 'sag', 'bend'],
  ownRegions: true,
  sample: { path: ['grown', { prop: 'bar', count: 500, length: 0.08 }], make: ['strands', {}], bar: true },
  parameters: {
    amount: {
      kind: 'ratio',
      of: 'maximum',
      label: 'Amount',
      help: 'How far the direction turns down, root to tip; 0 is none, 1 is straight down.',
      default: 0.5,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      along: true,
      gauge: 'drop',
    },
    towards: {
      kind: 'direction',
      label: 'Direction',
      help: 'Direction that strands hang towards; down unless wind or water bends them.',
      default: [0, -1, 0],
      gauge: 'figure',
    },
    ...CHOSEN,
  },
  presets: [
    {
      id: 'hanging',
      label: 'Hanging',
      parameters: {
        amount: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0 },
            { at: 1, value: 0.9 },
          ],
        },
      },
    },
    {
      id: 'bowed',
      label: 'Bowed',
      parameters: {
        amount: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0 },
            { at: 1, value: 0.4 },
          ],
        },
      },
    },
  ],
  describe: () => 'Droop',
  build(input, p, context) {
    const amount = new StrandLane(p.amount, input, context);
    const chosen = chosenOf(input, p, context);
    const [x, y, z] = p.towards;
    let current = -1;
    let weight = 1;
    return bent(input, context.step, (direction, t, c) => {
      if (c !== current) {
        current = c;
        amount.begin(c);
        weight = chosen ? chosen(c) : 1;
      }
      const by = weight * amount.at(t);
      direction[0] += by * (x - direction[0]);
      direction[1] += by * (y - direction[1]);
      direction[2] += by * (z - direction[2]);
    });
  },
});
