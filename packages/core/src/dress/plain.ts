import { defineUnit } from '../unit/unit.js';
import { inSkin, SKIN } from './skin.js';

export const plain = defineUnit({
  stage: 'dress',
  id: 'plain',
  label: 'Plain',
  purpose: 'One material: colour, roughness, metalness.',
  synonyms: ['material', 'colour', 'paint', 'metal', 'plastic', 'rubber'],
  parameters: SKIN,
  presets: [
    { id: 'rubber', label: 'Rubber', parameters: {} },
    { id: 'orange-jacket', label: 'Orange jacket', parameters: { colour: '#d9772b', roughness: 0.5 } },
    { id: 'steel', label: 'Steel', parameters: { colour: '#a9b0b2', roughness: 0.35, metalness: 1 } },
    { id: 'brass', label: 'Brass', parameters: { colour: '#b8964f', roughness: 0.3, metalness: 1 } },
    { id: 'white-jacket', label: 'White jacket', parameters: { colour: '#ffffff', roughness: 0.5 } },
    { id: 'lamp', label: 'Lamp', parameters: { colour: '#7ee081', roughness: 0.3, glow: 1 } },
    { id: 'timber', label: 'Timber', parameters: { colour: '#a98458', roughness: 0.8 } },
    { id: 'green-paint', label: 'Green paint', parameters: { colour: '#356a5c', roughness: 0.5, metalness: 0.1 } },
    { id: 'linen', label: 'Linen', parameters: { colour: '#d8cfba', roughness: 0.9 } },
  ],
  describe: ({ colour, metalness }) => `${metalness > 0.5 ? 'Metal' : 'Plain'} ${colour}`,
  build: (parts, p) => inSkin(parts, p),
});
