import type { NodeKeys } from './animation.js';
import type { GltfNumbers } from './numbers.js';

export const POINTER = 'KHR_animation_pointer';

/** The one animation of a bake: what moves by the clock. */
export class GltfChannels {
  private readonly samplers: object[] = [];
  private readonly channels: object[] = [];
  private readonly times = new Map<Float32Array, number>();

  constructor(private readonly numbers: GltfNumbers) {}

  /** @param node the one that is led; of no matter where the keys point at what they lead */
  animate(node: number, { times, translation, rotation, scale, weights, pointer }: NodeKeys): void {
    const [first, last] = [times[0], times[times.length - 1]];
    const known = this.times.get(times);
    const input = known ?? this.numbers.accessor(times, 1, { min: [first], max: [last] }, false);
    this.times.set(times, input);
    const channel = (path: string, values: Float32Array, size: number, steps = false) => {
      const sampler = this.samplers.push({
        input,
        output: this.numbers.accessor(values, size, {}, false),
        interpolation: steps ? 'STEP' : 'LINEAR',
      });
      this.channels.push({ sampler: sampler - 1, target: { node, path } });
    };
    if (pointer) {
      const sampler = this.samplers.push({
        input,
        output: this.numbers.accessor(pointer.values, 2, {}, false),
        interpolation: 'LINEAR',
      });
      this.channels.push({
        sampler: sampler - 1,
        target: { path: 'pointer', extensions: { [POINTER]: { pointer: pointer.to } } },
      });
    }
    if (weights) channel('weights', weights, 1);
    if (translation) channel('translation', translation, 3);
    if (rotation) channel('rotation', rotation, 4);
    if (scale && scale.values.length > 3) channel('scale', scale.values, 3, scale.steps);
  }

  /** Empty where nothing moves. */
  animations(): object[] {
    const { samplers, channels } = this;
    return channels.length > 0 ? [{ name: 'Clock', samplers, channels }] : [];
  }
}
