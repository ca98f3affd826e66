import type { BakedMesh } from '@kelp/core';
import { GlbWriter } from './glb-writer.js';

/** Binary glTF 2.0 of meshes that are all there already, as `GlbWriter` writes it. The same meshes give the same bytes everywhere. */
export function writeGlb(meshes: readonly BakedMesh[], sceneName: string): Uint8Array {
  const body: Uint8Array[] = [];
  const writer = new GlbWriter(sceneName, (bytes) => body.push(bytes));
  for (const mesh of meshes) writer.add(mesh);
  const parts = [writer.head(), ...body];
  const out = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
