import type { BakeSettings } from '@kelp/core';
import { type BakeFormat, isGltf } from './bake-writer.js';

/** What there is to be written. */
export interface BakeContent {
  /** Something moves with the clock. */
  moves: boolean;
  strands: boolean;
  /** Strands that are to be lines, not tubes. */
  lines: boolean;
  patterns: boolean;
  /** Colours at vertices, elements or strands. */
  colours: boolean;
  /** Something stands many times. */
  placed: boolean;
  meshes: boolean;
}

/** What of it a format does not carry with these settings, in sentences; none where all arrives. */
export function lossesOf(
  format: BakeFormat,
  has: BakeContent,
  settings: Pick<
    BakeSettings,
    'instances' | 'pivot' | 'recipe' | 'compress' | 'unit' | 'up' | 'hand' | 'merge' | 'frames'
  >,
): string[] {
  const { instances, pivot, recipe, compress, unit, up, hand, merge, frames } = settings;
  const out: (string | false)[] = [];
  const merged = merge === 'all' || merge === 'material';
  if (has.moves && !frames && (!isGltf(format) || merged))
    out.push('Animation is not included: bake a frame sequence, or an ungrouped GLB.');
  if (isGltf(format))
    out.push(
      (unit !== 'm' || up !== 'y' || hand !== 'right') &&
        'glTF is always in metres, +Y up and right-handed: the target settings are ignored.',
    );
  if (format === 'csv')
    out.push(has.meshes && 'Meshes are not included: only points of strands and lines, and positions of instances.');
  if (format === 'svg') out.push('Flat lines only: from above, from the front and from the right, in millimetres.');
  if (format === 'obj')
    out.push(
      has.colours && 'Varying colours are not included: each material has one.',
      has.lines && 'Line widths are not included.',
    );
  if (format === 'ply')
    out.push('Everything becomes a single mesh without names and materials; colours are at its vertices.');
  if (format === 'stl')
    out.push('Triangles only: no names, materials, colours or texture.', has.lines && 'Lines are not included.');
  if (['usda', 'obj', 'ply'].includes(format))
    out.push(has.patterns && 'Patterns and images of materials are not included; their colours are.');
  if (merge === 'all') out.push('Materials become vertex colours of a single mesh.');
  if (instances && has.placed && !['glb', 'gltf', 'usda', 'csv', 'svg'].includes(format))
    out.push('Instances are written as meshes.');
  if (pivot !== 'world' && (merged || (!isGltf(format) && format !== 'usda')))
    out.push('The pivot of each piece is the world origin.');
  if (recipe && format !== 'glb') out.push('The editable project is not included: only a GLB can hold it.');
  if (compress && !isGltf(format)) out.push('Compression is not available: only glTF supports it.');
  return out.filter((words): words is string => words !== false);
}
