import type { BakedMesh } from '@kelp/core';
import { writeBaked } from '../written/write-baked.js';

/** Binary glTF 2.0 of meshes that are all there already, as `GlbWriter` writes it. */
export const writeGlb = (meshes: readonly BakedMesh[], sceneName: string): Uint8Array =>
  writeBaked('glb', { meshes }, sceneName);
