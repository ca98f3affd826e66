import { withUv } from '../part/part.js';
import { defineUnit } from '../unit/unit.js';

export const plain = defineUnit({
  stage: 'dress',
  id: 'plain',
  label: 'Plain',
  purpose: 'One material: colour, roughness, metalness.',
  parameters: {
    colour: { kind: 'colour', label: 'Colour', help: 'Colour of the skin.', default: '#3d4a46' },
    roughness: {
      unmeasured: 'A share of the material: watch the shine.',
      kind: 'ratio',
      of: 'fully rough',
      label: 'Roughness',
      help: '0 a mirror, 1 chalk.',
      default: 0.55,
      min: 0,
      max: 1,
      comfortable: [0, 1],
    },
    metalness: {
      unmeasured: 'A share of the material: watch the shine.',
      kind: 'ratio',
      of: 'bare metal',
      label: 'Metalness',
      help: '0 rubber, cloth or paint, 1 bare metal.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 1],
    },
    glow: {
      unmeasured: 'A share of the material: watch the light.',
      kind: 'ratio',
      of: 'its colour',
      label: 'Glow',
      help: 'How much light of its own colour it gives off.',
      default: 0,
      min: 0,
      max: 1,
      comfortable: [0, 1],
    },
    repeat: {
      kind: 'length',
      label: 'Texture length',
      help: 'Length that one repeat of a texture covers; stays put when divisions change.',
      default: 1,
      min: 1e-4,
      max: 10_000,
      comfortable: [0.01, 2],
      gauge: 'spacing',
    },
  },
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
  build: (parts, { colour, roughness, metalness, glow, repeat }) => ({
    parts: parts.map((part) => (repeat === 1 ? part : withUv(part, (uv) => scaledAlong(uv, 1 / repeat)))),
    material: { name: 'Main', colour, roughness, metalness, ...(glow > 0 ? { glow } : {}) },
  }),
});

/** v scaled, u kept. */
function scaledAlong(uv: Float32Array, factor: number): Float32Array {
  const out = uv.slice();
  for (let i = 1; i < out.length; i += 2) out[i] *= factor;
  return out;
}
