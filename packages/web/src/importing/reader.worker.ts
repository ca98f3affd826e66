import { KelpError, type Mesh } from '@kelp/core';
import { encodeProp, propMesh } from '@kelp/formats';
import { readFile } from './read-file.js';
import type { Encoded, Errand, Report } from './reader-thread.js';

// Reads one file, or writes the meshes of one import, and is ended: see `reader-thread.ts`.

const tell = (report: Report, hands: Transferable[] = []) => self.postMessage(report, { transfer: hands });

self.onmessage = async ({ data }: MessageEvent<Errand>) => {
  try {
    if (data.kind === 'read') {
      const value = await readFile(data.file, (words) => tell({ kind: 'stage', words }), data.plain);
      tell(
        { kind: 'done', value },
        value.kind === 'model' ? buffersOf(value.model.objects.map(({ mesh }) => mesh)) : [],
      );
    } else {
      const value: Encoded[] = [];
      for (const objects of data.groups) value.push(await encodeProp(propMesh(objects, data.choices)));
      tell({ kind: 'done', value }, [...new Set(value.map(({ bytes }) => bytes.buffer as ArrayBuffer))]);
    }
  } catch (error) {
    const code = error instanceof KelpError ? error.code : null;
    tell({ kind: 'failed', code, message: error instanceof Error ? error.message : String(error) });
  }
};

/** The memory of meshes, each once: it goes over to the page, not a copy of it. */
const buffersOf = (meshes: readonly Mesh[]): ArrayBuffer[] => [
  ...new Set(
    meshes.flatMap(({ position, normal, uv, index }) =>
      [position, normal, uv, index].map(({ buffer }) => buffer as ArrayBuffer),
    ),
  ),
];
