import type { BakedLines, BakedMesh, BakedMoving, BakedPlaced, BakedShaping, BakedStrands } from '@kelp/core';
import { GlbWriter } from '../gltf/glb-writer.js';
import { GltfWriter } from '../gltf/gltf-writer.js';
import type { BakeFormat, BakeWriter, Sections, WriterTarget } from './bake-writer.js';
import { CsvWriter } from './csv-writer.js';
import { ObjWriter } from './obj-writer.js';
import { PlyWriter } from './ply-writer.js';
import { StlWriter } from './stl-writer.js';
import { SvgWriter } from './svg-writer.js';
import { UsdaWriter } from './usda-writer.js';

/** What writes a format. */
export function bakeWriter(
  format: BakeFormat,
  name: string,
  sections: Sections,
  target: WriterTarget = {},
): BakeWriter {
  switch (format) {
    case 'glb':
      return new GlbWriter(name, sections, target.pictures, target.compress);
    case 'gltf':
      return new GltfWriter(name, sections, target.pictures, target.compress);
    case 'usda':
      return new UsdaWriter(name, sections, target);
    case 'obj':
      return new ObjWriter(name, sections, target.library);
    case 'ply':
      return new PlyWriter(name, sections);
    case 'stl':
      return new StlWriter(name, sections);
    case 'svg':
      return new SvgWriter(name);
    case 'csv':
      return new CsvWriter(sections);
  }
}

/** A file of what is all there already. The same gives the same bytes everywhere. */
export function writeBaked(
  format: BakeFormat,
  {
    meshes,
    strands = [],
    moving = [],
    shapes = [],
    placed = [],
    lines = [],
    recipe,
  }: {
    meshes: readonly BakedMesh[];
    strands?: readonly BakedStrands[];
    moving?: readonly BakedMoving[];
    shapes?: readonly BakedShaping[];
    placed?: readonly BakedPlaced[];
    lines?: readonly BakedLines[];
    recipe?: Uint8Array;
  },
  name: string,
  target?: WriterTarget,
): Uint8Array {
  const sections: Uint8Array[][] = [[], []];
  const writer = bakeWriter(format, name, (bytes, section) => sections[section].push(bytes), target);
  for (const mesh of meshes) writer.add(mesh);
  for (const one of lines) writer.addLines?.(one);
  for (const one of placed) writer.addPlaced?.(one);
  for (const one of strands) writer.addStrands(one);
  for (const one of moving) writer.addMoving?.(one);
  for (const one of shapes) writer.addShapes?.(one);
  if (recipe) writer.addRecipe?.(recipe);
  const parts = [writer.head(), ...sections.flat()];
  const out = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
