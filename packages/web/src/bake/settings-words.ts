import type { BakeSettings } from '@kelp/core';
import type { BakeFormat } from '@kelp/formats';
import { countText, lengthText } from '../fields/units.js';

const MERGED: Record<BakeSettings['merge'], string> = {
  slot: '',
  part: 'one mesh per part',
  material: 'one mesh per material',
  all: 'one mesh',
};

/** The settings of a bake in words, without what is as always. */
export function settingsWords(format: BakeFormat, settings: BakeSettings): string {
  const {
    pieces,
    slots,
    density,
    within,
    triangles,
    merge,
    instances,
    unit,
    up,
    hand,
    pivot,
    recipe,
    compress,
    frames,
  } = settings;
  const words = [
    format.toUpperCase(),
    pieces && (pieces.length === 1 ? pieces[0] : `${pieces.length} pieces`),
    slots && `only ${slots.join(', ')}`,
    density !== 1 && `density ${+density.toFixed(2)}`,
    within !== undefined && `max error ${lengthText(within, 'mm')}`,
    triangles !== undefined && `limit ${countText(triangles)} triangles`,
    MERGED[merge],
    instances && 'instances kept',
    unit !== 'm' && `in ${unit}`,
    up !== 'y' && 'Z up',
    hand !== 'right' && 'left-handed',
    pivot &&
      pivot !== 'world' &&
      `pivot at the ${pivot === 'start' ? 'start of each line' : 'underside of each piece'}`,
    recipe && 'with editable project',
    compress && 'compressed',
    frames && `frames ${frames.first} to ${frames.last}`,
  ];
  return words.filter(Boolean).join(', ');
}
