import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import type { BakeRow, BakeStatus, Models } from '../database/models.js';
import { HttpProblem, notFound } from '../http/problem.js';
import type { ProjectStore } from '../projects/project-store.js';
import type { BakeProgress, BakeResult } from './bake-task.js';

export interface BakeState {
  id: string;
  projectId: string;
  revision: number;
  piece: string | null;
  density: number;
  status: BakeStatus;
  progress: BakeProgress | null;
  report: unknown;
  error: string | null;
  createdAt: string;
  finishedAt: string | null;
}

/** Bakes that wait at once; more are refused rather than piled up. */
const MOST_WAITING = 32;

/** Runs bakes in worker threads, keeps their results, tells who listens how far they are. */
export class BakeQueue {
  private readonly pool: Piscina;
  private readonly running = new Map<string, { abort: AbortController; progress: BakeProgress | null }>();
  private readonly changes = new EventEmitter().setMaxListeners(0);
  private readonly settled = new Set<Promise<void>>();

  constructor(
    private readonly models: Models,
    private readonly projects: ProjectStore,
    workers: string,
  ) {
    this.pool = new Piscina({
      filename: join(workers, 'bake-worker.js'),
      minThreads: 0,
      maxThreads: Math.max(1, availableParallelism() - 1),
      idleTimeout: 30_000,
    });
  }

  /** What a stopped server left unfinished can't be taken up again: it is told as failed. */
  async recover(): Promise<void> {
    await this.models.bakes.update(
      { status: 'failed', error: 'The server stopped during this bake. Start it again.', finishedAt: new Date() },
      { where: { status: ['queued', 'running'] } },
    );
  }

  /** @throws HttpProblem 404 (project, revision), 503 (too many waiting) */
  async start(projectId: string, options: { revision?: number; piece?: string; density: number }): Promise<BakeState> {
    if (this.running.size >= MOST_WAITING)
      throw new HttpProblem(503, 'Busy', `${MOST_WAITING} bakes are waiting already. Let some finish or cancel them.`);
    const revision = await this.projects.revisionNumber(projectId, options.revision);
    const id = randomUUID();
    const row = await this.models.bakes.create({
      id,
      projectId,
      revision,
      piece: options.piece ?? null,
      density: options.density,
      status: 'queued',
    });
    const job = { abort: new AbortController(), progress: null };
    this.running.set(id, job);
    const run = this.run(row, job).finally(() => {
      this.running.delete(id);
      this.settled.delete(run);
      this.changes.emit(id);
    });
    this.settled.add(run);
    return this.state(row);
  }

  async get(id: string): Promise<BakeState> {
    return this.state(await this.row(id));
  }

  /** Newest first, without their results. */
  async history(projectId: string): Promise<BakeState[]> {
    await this.projects.summary(projectId);
    const rows = await this.models.bakes.findAll({
      where: { projectId },
      attributes: { exclude: ['result'] },
      order: [['createdAt', 'DESC']],
      limit: 50,
    });
    return rows.map((row) => this.state(row));
  }

  /** The GLB. @throws HttpProblem 404, 409 when the bake has not ended well */
  async result(id: string): Promise<Buffer> {
    const row = await this.models.bakes.findByPk(id);
    if (!row) throw notFound('This bake');
    if (row.status !== 'done' || !row.result)
      throw new HttpProblem(409, 'No result', `This bake is ${row.status}: there is no file to download.`);
    return row.result;
  }

  /** Stops a bake that waits or runs; one that has ended stays as it is. */
  async cancel(id: string): Promise<BakeState> {
    const row = await this.row(id);
    this.running.get(id)?.abort.abort();
    await Promise.allSettled(this.running.has(id) ? [this.ended(id)] : []);
    return this.state(await row.reload({ attributes: { exclude: ['result'] } }));
  }

  /** Calls back at every change until the returned function is called. */
  onChange(id: string, listener: () => void): () => void {
    this.changes.on(id, listener);
    return () => this.changes.off(id, listener);
  }

  async close(): Promise<void> {
    for (const { abort } of this.running.values()) abort.abort();
    await Promise.allSettled(this.settled);
    await this.pool.destroy();
  }

  private ended(id: string): Promise<void> {
    return new Promise((resolve) => {
      const stop = this.onChange(id, () => {
        if (this.running.has(id)) return;
        stop();
        resolve();
      });
    });
  }

  private async run(row: BakeRow, job: { abort: AbortController; progress: BakeProgress | null }): Promise<void> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', (progress: BakeProgress) => {
      job.progress = progress;
      if (row.status === 'queued') {
        row.status = 'running';
        void row.save().catch(() => {});
      }
      this.changes.emit(row.id);
    });
    try {
      const { text, files } = await this.projects.exportProject(row.projectId, row.revision);
      const task = { text, files, piece: row.piece ?? undefined, density: row.density, port: port2 };
      const result: BakeResult = await this.pool.run(task, { signal: job.abort.signal, transferList: [port2] });
      if (result.ok)
        await row.update({
          status: 'done',
          result: Buffer.from(result.bytes),
          report: JSON.stringify({ pieces: result.pieces, bytes: result.bytes.length, seconds: result.seconds }),
          finishedAt: new Date(),
        });
      else await row.update({ status: 'failed', error: result.message, finishedAt: new Date() });
    } catch (error) {
      const cancelled = job.abort.signal.aborted;
      const message = cancelled ? 'Cancelled' : `The bake failed: ${(error as Error).message}`;
      await row.update({ status: cancelled ? 'cancelled' : 'failed', error: message, finishedAt: new Date() });
    } finally {
      port1.close();
    }
  }

  private async row(id: string): Promise<BakeRow> {
    const row = await this.models.bakes.findByPk(id, { attributes: { exclude: ['result'] } });
    if (!row) throw notFound('This bake');
    return row;
  }

  private state(row: BakeRow): BakeState {
    return {
      id: row.id,
      projectId: row.projectId,
      revision: row.revision,
      piece: row.piece,
      density: row.density,
      status: row.status,
      progress: this.running.get(row.id)?.progress ?? null,
      report: row.report ? JSON.parse(row.report) : null,
      error: row.error ?? null,
      createdAt: row.createdAt.toISOString(),
      finishedAt: row.finishedAt?.toISOString() ?? null,
    };
  }
}
