import type { CurveSet } from '../../curve/curve-set.js';
import { LAYER_OPTIONS, LAYERS, type LayerKind, STRAND } from '../../curve/strand-data.js';
import { shadeAt } from '../../document/picture-shade.js';
import { weightIn } from '../../document/region-weight.js';
import type { ParameterSet } from '../../unit/parameters.js';
import { isRead } from '../../unit/read-picture.js';
import type { BuildContext } from '../../unit/unit.js';

// Which of many strands an operation is for, and how much.

export const CHOSEN = {
  layers: {
    kind: 'choice',
    label: 'Layer',
    help: 'Layer of strands that this affects.',
    default: 'all',
    options: [{ value: 'all', label: 'All' }, ...LAYER_OPTIONS],
    group: 'Affects',
  },
  within: {
    kind: 'region',
    label: 'Region',
    help: 'Affects strands whose root is inside the region, fading over its soft edge.',
    default: '',
    group: 'Affects',
  },
  mask: {
    kind: 'picture',
    label: 'Mask image',
    help: 'Image projected onto the roots; full effect where it is light, none where it is dark or outside.',
    default: '',
    group: 'Affects',
  },
} as const satisfies ParameterSet;

export interface ChosenChoice {
  layers: string;
  within: string;
  mask: string;
}

/** How much an operation does to a strand, 0 … 1; undefined where it is for all in full. */
export function chosenOf(
  curves: CurveSet,
  { layers, within, mask }: ChosenChoice,
  context: BuildContext,
): ((curve: number) => number) | undefined {
  const layer = layers === 'all' ? -1 : LAYERS.indexOf(layers as LayerKind);
  const found = mask && isRead(mask, context) ? context.picture(mask) : undefined;
  const region = within ? context.region(within) : undefined;
  if (layer < 0 && !mask && !within) return undefined;
  const of = curves.curveData[STRAND.layer];
  const { position, start } = curves;
  return (c) => {
    if (layer >= 0 && (of?.[c] ?? 0) !== layer) return 0;
    const i = 3 * start[c];
    const [x, y, z] = [position[i], position[i + 1], position[i + 2]];
    // a region that is not there is nowhere
    const inside = within ? (region ? weightIn(region, x, y, z) : 0) : 1;
    if (inside === 0 || !found?.shades) return inside;
    return inside * (shadeAt(found.picture, found.shades, x, y, z) ?? 0);
  };
}
