import { join } from 'node:path';
import { KelpError } from '@kelp/core';
import { Piscina } from 'piscina';
import { HttpProblem } from '../http/problem.js';
import type { GateJobs, GateResult } from './gate-task.js';

/** Threads that read what comes in; a pool of their own, so that a bake never keeps a save waiting. */
const THREADS = 2;
/** This many bodies wait at once; more are refused rather than piled up. */
const MAX_WAITING = 64;
/** Nothing that Kelp takes needs longer, milliseconds, or more memory for what is made of it, megabytes. */
const MAX_MS = 60_000;
const MAX_MEGABYTES = 1536;

/** Where everything that comes in is read and checked, off the thread that answers. */
export class Gate {
  private readonly pool: Piscina;

  /** @param workers folder of the built threads */
  constructor(workers: string) {
    this.pool = new Piscina({
      filename: join(workers, 'gate-worker.js'),
      minThreads: 1,
      maxThreads: THREADS,
      maxQueue: MAX_WAITING,
      idleTimeout: 30_000,
      resourceLimits: { maxOldGenerationSizeMb: MAX_MEGABYTES },
    });
    // reported to who asked; the pool has a new thread already
    this.pool.on('error', () => {});
  }

  /**
   * One job. A `body` is handed over: its bytes are gone here afterwards.
   * @throws KelpError with what is wrong; HttpProblem 503 when too much waits
   */
  async run<K extends keyof GateJobs>(kind: K, given: GateJobs[K]['in']): Promise<GateJobs[K]['out']> {
    const body = 'body' in given ? given.body : undefined;
    const owned = body && body.byteLength < body.buffer.byteLength ? { ...given, body: body.slice() } : given;
    const transferList = 'body' in owned ? [owned.body.buffer as ArrayBuffer] : [];
    const result = await this.attempt({ kind, ...owned }, transferList);
    if (result.ok) return result.value as GateJobs[K]['out'];
    if (result.code === 'BAD_REQUEST')
      throw new HttpProblem(400, 'Not accepted', result.message, { code: result.code, issues: result.issues });
    throw new KelpError(result.code, result.message, result.issues);
  }

  private async attempt(task: unknown, transferList: ArrayBuffer[]): Promise<GateResult> {
    const late = AbortSignal.timeout(MAX_MS);
    try {
      return await this.pool.run(task, { transferList, signal: late });
    } catch (error) {
      const { code, message } = error as NodeJS.ErrnoException;
      if (code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new KelpError('TOO_LARGE', `The file needs more than the ${MAX_MEGABYTES} MB available per file.`);
      if (late.aborted) throw new KelpError('TOO_LARGE', `The file could not be read within ${MAX_MS / 1000} seconds.`);
      if (/queue/i.test(message))
        throw new HttpProblem(503, 'Busy', 'Too many files are waiting to be read. Try again soon.');
      throw error;
    }
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
