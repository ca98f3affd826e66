import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { BakeProgress, BakeResult, BakeTask, SentTask } from './bake-task.js';
import { removeParts } from './baked-file.js';

/** Bakes in threads, which can be stopped at any time and leave nothing but whole files. */
export class BakeThreads {
  private readonly pool: Piscina;

  /**
   * @param workers folder of the built `bake-worker.js`
   * @param most bakes at once; more of them wait
   */
  constructor(workers: string, most: number) {
    this.pool = new Piscina({
      filename: join(workers, 'bake-worker.js'),
      minThreads: 0,
      maxThreads: most,
      // what a thread keeps of a bake makes the next one short
      idleTimeout: 600_000,
    });
  }

  /** @throws what aborts it, and what the thread could not tell as its result */
  async run(
    task: BakeTask,
    { signal, onProgress }: { signal: AbortSignal; onProgress(progress: BakeProgress): void },
  ): Promise<BakeResult> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', onProgress);
    try {
      const sent: SentTask = { ...task, port: port2 };
      return await this.pool.run(sent, { signal, transferList: [port2] });
    } catch (error) {
      removeParts(task.out);
      if ((error as NodeJS.ErrnoException).code !== 'ERR_WORKER_OUT_OF_MEMORY') throw error;
      const message = 'The bake needs more memory than available. Bake fewer pieces, or at a lower density.';
      return { ok: false, code: 'TOO_LARGE', message };
    } finally {
      port1.close();
    }
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}
