import type { BakeSettings } from '@kelp/core';
import type { BakeFormat } from '@kelp/formats';
import { countText, lengthText } from '../fields/units.js';

const MERGED: Record<BakeSettings['merge'], string> = {
  slot: '',
  part: 'a mesh a part',
  material: 'a mesh a material',
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
    within !== undefined && `within ${lengthText(within, 'mm')}`,
    triangles !== undefined && `at most ${countText(triangles)} triangles`,
    MERGED[merge],
    instances && 'instances kept',
    unit !== 'm' && `in ${unit}`,
    up !== 'y' && 'Z up',
    hand !== 'right' && 'left-handed',
    pivot &&
      pivot !== 'world' &&
      `origins at the ${pivot === 'start' ? 'start of each line' : 'underside of each piece'}`,
    recipe && 'with its live pieces',
    compress && 'compressed',
    frames && `frames ${frames.first} to ${frames.last}`,
  ];
  return words.filter(Boolean).join(', ');
}
