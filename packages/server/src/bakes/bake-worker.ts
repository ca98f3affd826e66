import {
  bake,
  KelpError,
  KeptPieces,
  parseDocument,
  phaseAt,
  readyFor,
  SurfaceStore,
  simplifierReady,
} from '@kelp/core';
import { encoderReady, filesOf, isGltf, readStored, writeArchive } from '@kelp/formats';
import type { BakeProgress, BakeResult, BakeTask, SentTask } from './bake-task.js';
import { BakedFile } from './baked-file.js';
import { FrameArchive } from './frame-archive.js';

/** Parts of a piece are reported no more often than this, milliseconds. */
const TELL_AFTER = 200;

/** Runs in a thread of its own. Trees over props are kept from bake to bake. */
const surfaces = new SurfaceStore();
/** And of what was baked as much as this, bytes, and no more than a quarter of the memory there is. */
const MAX_CACHED = 2 ** 29;
const keptOf = (memory: number) => Math.min(MAX_CACHED, memory / 4);
let kept: KeptPieces | undefined;

export default async function runBake({ port, ...task }: SentTask): Promise<BakeResult> {
  let reported = performance.now();
  const tell = (progress: BakeProgress) => {
    const now = performance.now();
    if (!Number.isInteger(progress.done) && now - reported < TELL_AFTER) return;
    port.postMessage(progress);
    reported = now;
  };
  try {
    const started = performance.now();
    kept ??= new KeptPieces(keptOf(task.memory));
    const document = parseDocument(JSON.parse(task.text));
    await readStored(document, task.files, surfaces);
    await readyFor(document);
    await Promise.all([simplifierReady(), encoderReady()]);
    const done =
      task.settings.frames && task.phase === undefined
        ? bakeFrames(task, document, tell)
        : bakeToFile(task, document, tell);
    return { ok: true, ...done, seconds: (performance.now() - started) / 1000 };
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

type Document = ReturnType<typeof parseDocument>;
type Done = Omit<Extract<BakeResult, { ok: true }>, 'ok' | 'seconds'>;

function bakeToFile(
  { files, settings, called, memory, format, out, phase }: BakeTask,
  document: Document,
  tell: (progress: BakeProgress) => void,
): Done {
  const asked = isGltf(format)
    ? { ...settings, unit: 'm' as const, up: 'y' as const, hand: 'right' as const }
    : { ...settings };
  // only these say where the origin of a piece is
  if (!isGltf(format) && format !== 'usda') asked.pivot = 'world';
  // a table of places is nothing but these
  if (format === 'csv') asked.instances = true;
  const file = new BakedFile(out, format, document.name, {
    pictures: (hash) => files.get(hash),
    unit: asked.unit,
    up: asked.up,
    compress: asked.compress,
    ...(format === 'obj' ? { library: `${called}.mtl` } : {}),
  });
  const moves = phase === undefined && asked.merge !== 'all' && asked.merge !== 'material';
  try {
    const { pieces } = bake(document, surfaces, {
      ...asked,
      kept,
      memory: memory - keptOf(memory),
      phase,
      onMesh: (mesh) => file.writer.add(mesh),
      ...(file.writer.addLines ? { onLines: (lines) => file.writer.addLines?.(lines) } : {}),
      ...(file.writer.addPlaced ? { onPlaced: (placed) => file.writer.addPlaced?.(placed) } : {}),
      ...(moves && file.writer.addMoving ? { onMoving: (moving) => file.writer.addMoving?.(moving) } : {}),
      ...(moves && file.writer.addShapes ? { onShapes: (shaping) => file.writer.addShapes?.(shaping) } : {}),
      onStrands: (strands) => file.writer.addStrands(strands),
      onProgress(done, total, name) {
        tell({ done, total, name });
        return true;
      },
    });
    if (asked.recipe && file.writer.addRecipe) {
      const named = new Map(
        filesOf(document).flatMap((hash) => (files.has(hash) ? [[hash, files.get(hash) as Uint8Array]] : [])),
      );
      // in one order, wherever they come from: the same bake is the same to the byte
      const reported = Object.entries(settings)
        .filter(([, value]) => value !== undefined)
        .sort(([a], [b]) => (a < b ? -1 : 1));
      file.writer.addRecipe(writeArchive({ document, props: named }), Object.fromEntries(reported));
    }
    return { bytes: file.finish(), pieces };
  } finally {
    file.close();
  }
}

/** A bake for each frame, one after the other, all in one archive. */
function bakeFrames(task: BakeTask, document: Document, tell: (progress: BakeProgress) => void): Done {
  const { first, last, rate } = task.settings.frames ?? { first: 0, last: 0, rate: 24 };
  const archive = new FrameArchive(task.out);
  try {
    let pieces: Done['pieces'] = [];
    const count = last - first + 1;
    for (let frame = first; frame <= last; frame++) {
      const phase = phaseAt(frame, rate, document.clock.seconds);
      const one = { ...task, phase, out: archive.next, settings: { ...task.settings, recipe: false } };
      ({ pieces } = bakeToFile(one, document, ({ done, total }) =>
        tell({ done: frame - first + done / total, total: count, name: `frame ${frame}` }),
      ));
      archive.add(`${task.called}.${String(frame).padStart(Math.max(4, String(last).length), '0')}`, task.format);
    }
    return { bytes: archive.finish(), pieces };
  } finally {
    archive.close();
  }
}
