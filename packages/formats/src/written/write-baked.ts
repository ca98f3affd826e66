import type { BakedMesh, BakedMoving, BakedShaping, BakedStrands } from '@kelp/core';
import { GlbWriter } from '../gltf/glb-writer.js';
import type { PictureFiles } from '../gltf/textures.js';
import type { BakeFormat, BakeWriter, Sections } from './bake-writer.js';
import { CsvWriter } from './csv-writer.js';
import { ObjWriter } from './obj-writer.js';
import { PlyWriter } from './ply-writer.js';
import { StlWriter } from './stl-writer.js';
import { UsdaWriter } from './usda-writer.js';

/** What writes a format. */
export function bakeWriter(format: BakeFormat, name: string, sections: Sections, pictures?: PictureFiles): BakeWriter {
  switch (format) {
    case 'glb':
      return new GlbWriter(name, sections, pictures);
    case 'usda':
      return new UsdaWriter(name, sections);
    case 'obj':
      return new ObjWriter(name, sections);
    case 'ply':
      return new PlyWriter(name, sections);
    case 'stl':
      return new StlWriter(name, sections);
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
  }: {
    meshes: readonly BakedMesh[];
    strands?: readonly BakedStrands[];
    moving?: readonly BakedMoving[];
    shapes?: readonly BakedShaping[];
  },
  name: string,
  pictures?: PictureFiles,
): Uint8Array {
  const sections: Uint8Array[][] = [[], []];
  const writer = bakeWriter(format, name, (bytes, section) => sections[section].push(bytes), pictures);
  for (const mesh of meshes) writer.add(mesh);
  for (const one of strands) writer.addStrands(one);
  for (const one of moving) writer.addMoving?.(one);
  for (const one of shapes) writer.addShapes?.(one);
  const parts = [writer.head(), ...sections.flat()];
  const out = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
