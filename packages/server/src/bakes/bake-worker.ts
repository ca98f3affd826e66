import { rename, rm, writeFile } from 'node:fs/promises';
import { bake, KelpError, parseDocument, SurfaceStore } from '@kelp/core';
import { decodeProp, writeGlb } from '@kelp/formats';
import type { BakeProgress, BakeResult, BakeTask } from './bake-task.js';

/** Parts of a piece are told no more often than this, milliseconds. */
const TELL_AFTER = 200;

/** Runs in a thread of its own. Trees over props are kept from bake to bake. */
const surfaces = new SurfaceStore();

export default async function runBake({
  text,
  files,
  piece,
  density,
  memory,
  out,
  port,
}: BakeTask): Promise<BakeResult> {
  const started = performance.now();
  let told = started;
  try {
    const document = parseDocument(JSON.parse(text));
    for (const { mesh } of document.props) {
      const stored = files.get(mesh);
      if (stored && !surfaces.has(mesh)) surfaces.add(mesh, await decodeProp(stored));
    }
    const baked = bake(document, surfaces, {
      piece,
      density,
      memory,
      onProgress(done, total, name) {
        const now = performance.now();
        if (Number.isInteger(done) || now - told > TELL_AFTER) {
          port.postMessage({ done, total, name } satisfies BakeProgress);
          told = now;
        }
        return true;
      },
    });
    const bytes = await writeGlb(baked.meshes, document.name);
    // beside its place first: what stands there is whole
    await writeFile(`${out}.part`, bytes, { flush: true });
    await rename(`${out}.part`, out);
    return { ok: true, bytes: bytes.length, pieces: baked.pieces, seconds: (performance.now() - started) / 1000 };
  } catch (error) {
    await rm(`${out}.part`, { force: true });
    if (error instanceof KelpError) return { ok: false, code: error.code, message: error.message };
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
      return {
        ok: false,
        code: 'TOO_LARGE',
        message: 'The disk of the server is full: the mesh could not be kept. Free some space and bake again.',
      };
    throw error;
  } finally {
    port.close();
  }
}
