import type { CurveSet } from '../../curve/curve-set.js';
import { LAYER_OPTIONS, LAYERS, type LayerKind, STRAND } from '../../curve/strand-data.js';
import { shadeAt } from '../../document/picture-shade.js';
import type { ParameterSet } from '../../unit/parameters.js';
import { isRead } from '../../unit/read-picture.js';
import type { BuildContext } from '../../unit/unit.js';

// Which of many strands an operation is for, and how much.

export const CHOSEN = {
  layers: {
    kind: 'choice',
    label: 'For',
    help: 'Strands of which layer it is for.',
    default: 'all',
    options: [{ value: 'all', label: 'All' }, ...LAYER_OPTIONS],
    group: 'For which',
  },
  mask: {
    kind: 'picture',
    label: 'Picture',
    help: 'A picture seen through onto the roots: full where it is light, nothing where it is dark or beside it.',
    default: '',
    group: 'For which',
  },
} as const satisfies ParameterSet;

export interface ChosenChoice {
  layers: string;
  mask: string;
}

/** How much an operation does to a strand, 0 … 1; undefined where it is for all in full. */
export function chosenOf(
  curves: CurveSet,
  { layers, mask }: ChosenChoice,
  context: BuildContext,
): ((curve: number) => number) | undefined {
  const layer = layers === 'all' ? -1 : LAYERS.indexOf(layers as LayerKind);
  const found = mask && isRead(mask, context) ? context.picture(mask) : undefined;
  if (layer < 0 && !mask) return undefined;
  const of = curves.curveData[STRAND.layer];
  const { position, start } = curves;
  return (c) => {
    if (layer >= 0 && (of?.[c] ?? 0) !== layer) return 0;
    if (!found?.shades) return 1;
    const i = 3 * start[c];
    return shadeAt(found.picture, found.shades, position[i], position[i + 1], position[i + 2]) ?? 0;
  };
}
