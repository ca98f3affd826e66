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
export function lossesOf(format: BakeFormat, has: BakeContent, settings: Pick<BakeSettings, 'instances' | 'pivot' | 'recipe' | 'compress' | 'unit' | 'up' | 'hand' | 'merge' | 'frames'>): string[] {
  const { instances, pivot, recipe, compress, unit, up, hand, merge, frames } = settings;
  const out: (string | false)[] = [];
  const merged = merge === 'all' || merge === 'material';
  if (has.moves && !frames && (!isGltf(format) || merged)) out.push('What moves stands still: bake a range of frames, or a GLB that is not merged.');
  if (isGltf(format)) out.push((unit !== 'm' || up !== 'y' || hand !== 'right') && 'A glTF is always in metres, +Y up and right-handed: the target is left out of account.');
  if (format === 'csv') out.push(has.meshes && 'Meshes are left out: only the points of strands and of the lines that pieces run along, and the places of what stands many times.');
  if (format === 'svg') out.push('Lines alone, flat: from above, from the front and from the right, in millimetres.');
  if (format === 'obj') out.push(has.colours && 'Colours that vary are left out: each material has one.', has.lines && 'Lines have no width.');
  if (format === 'ply') out.push('All is one mesh, without names and materials; colours are at its vertices.');
  if (format === 'stl') out.push('Triangles alone: no names, materials, colours or texture.', has.lines && 'Lines are left out.');
  if (['usda', 'obj', 'ply'].includes(format)) out.push(has.patterns && 'Patterns and pictures of materials are left out; their colours stay.');
  if (merge === 'all') out.push('Materials become colours at the vertices of one mesh.');
  if (instances && has.placed && !['glb', 'gltf', 'usda', 'csv', 'svg'].includes(format)) out.push('What stands many times is written as meshes.');
  if (pivot !== 'world' && (merged || (!isGltf(format) && format !== 'usda'))) out.push('The origin of each piece is that of the world.');
  if (recipe && format !== 'glb') out.push('It cannot hold its project: only a GLB can.');
  if (compress && !isGltf(format)) out.push('It is not compressed: only a glTF can be.');
  return out.filter((words): words is string => words !== false);
} // biome-ignore format: a rule a line
