import { bake, KelpError, parseDocument, readyFor, SurfaceStore } from '@kelp/core';
import { readStored } from '@kelp/formats';
import type { BakeProgress, BakeResult, BakeTask, SentTask } from './bake-task.js';
import { BakedFile } from './baked-file.js';

/** Parts of a piece are told no more often than this, milliseconds. */
const TELL_AFTER = 200;

/** Runs in a thread of its own. Trees over props are kept from bake to bake. */
const surfaces = new SurfaceStore();

export default async function runBake({ port, ...task }: SentTask): Promise<BakeResult> {
  let told = performance.now();
  const tell = (progress: BakeProgress) => {
    const now = performance.now();
    if (!Number.isInteger(progress.done) && now - told < TELL_AFTER) return;
    port.postMessage(progress);
    told = now;
  };
  try {
    return await bakeToFile(task, tell);
  } catch (error) {
    if (error instanceof KelpError) return { ok: false, code: error.code, message: error.message };
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
      return {
        ok: false,
        code: 'TOO_LARGE',
        message: 'The disk is full: the mesh was not kept. Free some space and bake again.',
      };
    throw error;
  } finally {
    port.close();
  }
}

async function bakeToFile(
  { text, files, piece, density, memory, format, out, phase }: BakeTask,
  tell: (progress: BakeProgress) => void,
): Promise<BakeResult> {
  const started = performance.now();
  const document = parseDocument(JSON.parse(text));
  await readStored(document, files, surfaces);
  await readyFor(document);
  const file = new BakedFile(out, format, document.name, (hash) => files.get(hash));
  try {
    const { pieces } = bake(document, surfaces, {
      piece,
      density,
      memory,
      phase,
      onMesh: (mesh) => file.add(mesh),
      ...(phase === undefined && file.addMoving ? { onMoving: file.addMoving } : {}),
      ...(phase === undefined && file.addShapes ? { onShapes: file.addShapes } : {}),
      onStrands: (strands) => file.addStrands(strands),
      onProgress(done, total, name) {
        tell({ done, total, name });
        return true;
      },
    });
    return { ok: true, bytes: file.finish(), pieces, seconds: (performance.now() - started) / 1000 };
  } finally {
    file.close();
  }
}
