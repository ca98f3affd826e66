import { KelpError } from '@kelp/core';
import type { ModelObject, PropChoices } from '@kelp/formats';
import type { ReadFile } from './read-file.js';

/** A mesh as it is stored, and the name of its bytes. */
export interface Encoded {
  bytes: Uint8Array;
  hash: string;
}

/** What a thread is started for; it ends with the answer. */
export type Errand =
  | { kind: 'read'; file: File; plain: boolean }
  | { kind: 'encode'; groups: readonly (readonly ModelObject[])[]; choices: PropChoices };

export type Report =
  | { kind: 'stage'; words: string }
  | { kind: 'done'; value: ReadFile | Encoded[] }
  | { kind: 'failed'; code: ConstructorParameters<typeof KelpError>[0] | null; message: string };

export interface Listening {
  /** Ends the thread at once, in the middle of whatever it is at. */
  signal?: AbortSignal;
  /** Reported in words what is being done. */
  onStage?(words: string): void;
}

/** Reads a file and looks it over, away from the page: it stays usable, whatever is in the file. */
export const readApart = (file: File, plain: boolean, listening: Listening = {}): Promise<ReadFile> =>
  inThread({ kind: 'read', file, plain }, file.name, listening) as Promise<ReadFile>;

/** Meshes of one or more objects each, as they are stored. */
export const encodeApart = (
  name: string,
  groups: readonly (readonly ModelObject[])[],
  choices: PropChoices,
): Promise<Encoded[]> => inThread({ kind: 'encode', groups, choices }, name, {}) as Promise<Encoded[]>;

/** A thread for one errand: what it took of memory is given back whatever came of it. */
function inThread(errand: Errand, name: string, { signal, onStage }: Listening): Promise<ReadFile | Encoded[]> {
  const worker = new Worker(new URL('./reader.worker.ts', import.meta.url), { type: 'module', name: 'kelp-reader' });
  return new Promise<ReadFile | Encoded[]>((resolve, reject) => {
    signal?.addEventListener('abort', () => reject(new KelpError('CANCELLED', `Reading ${name} was stopped`)));
    worker.onmessage = ({ data }: MessageEvent<Report>) => {
      if (data.kind === 'stage') onStage?.(data.words);
      else if (data.kind === 'done') resolve(data.value);
      else reject(data.code ? new KelpError(data.code, data.message) : new Error(data.message));
    };
    // a thread that ends without an answer ran out of memory more often than not
    worker.onerror = ({ message }) =>
      reject(
        new Error(
          `${name} could not be read (${message || 'it may need more memory than available'}). Nothing was changed.`,
        ),
      );
    worker.onmessageerror = () => reject(new Error(`${name} is too large for this page. Nothing was changed.`));
    worker.postMessage(errand);
  }).finally(() => worker.terminate());
}
