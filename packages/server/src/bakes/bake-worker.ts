import { bake, KelpError, parseDocument, SurfaceStore } from '@kelp/core';
import { decodeProp, writeGlb } from '@kelp/formats';
import type { BakeProgress, BakeResult, BakeTask } from './bake-task.js';

/** Runs in a thread of its own. Trees over props are kept from bake to bake. */
const surfaces = new SurfaceStore();

export default async function runBake({ text, files, piece, density, port }: BakeTask): Promise<BakeResult> {
  const started = performance.now();
  try {
    const document = parseDocument(JSON.parse(text));
    for (const { mesh } of document.props) {
      const stored = files.get(mesh);
      if (stored && !surfaces.has(mesh)) surfaces.add(mesh, await decodeProp(stored));
    }
    const baked = bake(document, surfaces, {
      piece,
      density,
      onProgress(done, total, name) {
        port.postMessage({ done, total, name } satisfies BakeProgress);
        return true;
      },
    });
    const bytes = await writeGlb(baked.meshes, document.name);
    return { ok: true, bytes, pieces: baked.pieces, seconds: (performance.now() - started) / 1000 };
  } catch (error) {
    if (error instanceof KelpError) return { ok: false, code: error.code, message: error.message };
    throw error;
  } finally {
    port.close();
  }
}
