import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { availableParallelism } from 'node:os';
import { type BakeSettings, PLAIN_SETTINGS } from '@kelp/core';
import type { BakeFormat } from '@kelp/formats';
import type { BakeRow, BakeStatus, Models } from '../database/models.js';
import { HttpProblem, isDatabaseFull, notFound } from '../http/problem.js';
import { fileName } from '../projects/file-name.js';
import type { ProjectStore } from '../projects/project-store.js';
import type { BakeFiles } from './bake-files.js';
import type { BakeProgress } from './bake-task.js';
import { BakeThreads } from './bake-threads.js';

export interface BakeState {
  id: string;
  projectId: string;
  revision: number;
  piece: string | null;
  density: number;
  format: BakeFormat;
  settings: BakeSettings;
  status: BakeStatus;
  progress: BakeProgress | null;
  report: unknown;
  error: string | null;
  createdAt: string;
  finishedAt: string | null;
}

/** Bakes that wait at once; more are refused rather than piled up. */
const MAX_WAITING = 32;

/** Runs bakes in worker threads, keeps their results, reports their progress to listeners. */
export class BakeQueue {
  private readonly threads: BakeThreads;
  private readonly running = new Map<string, { abort: AbortController; progress: BakeProgress | null }>();
  private readonly changes = new EventEmitter().setMaxListeners(0);
  private readonly settled = new Set<Promise<void>>();
  /** For each bake, bytes. */
  private readonly memory: number;
  /** Ends that the database did not take, in words. */
  private readonly untold = new Map<string, string>();

  constructor(
    private readonly models: Models,
    private readonly projects: ProjectStore,
    private readonly files: BakeFiles,
    workers: string,
    memory: number,
  ) {
    const threads = Math.max(1, availableParallelism() - 1);
    this.memory = memory / threads;
    this.threads = new BakeThreads(workers, threads);
  }

  /** What a stopped server left unfinished can't be taken up again: it is reported as failed. */
  async recover(): Promise<void> {
    await this.models.bakes.update(
      { status: 'failed', error: 'The server stopped during this bake. Start it again.', finishedAt: new Date() },
      { where: { status: ['queued', 'running'] } },
    );
    const kept = await this.models.bakes.findAll({ attributes: ['id'], where: { status: 'done' } });
    await this.files.sweep(new Set(kept.map(({ id }) => id)));
  }

  /** @throws HttpProblem 404 (project, revision), 503 (too many waiting) */
  async start(
    projectId: string,
    options: { revision?: number; format: BakeFormat; settings: BakeSettings },
  ): Promise<BakeState> {
    if (this.running.size >= MAX_WAITING)
      throw new HttpProblem(
        503,
        'Busy',
        `${MAX_WAITING} bakes are already waiting. Wait for one to finish, or cancel one.`,
      );
    const revision = await this.projects.revisionNumber(projectId, options.revision);
    const id = randomUUID();
    const { pieces } = options.settings;
    const row = await this.models.bakes.create({
      id,
      projectId,
      revision,
      piece: pieces?.length === 1 ? pieces[0] : null,
      density: options.settings.density,
      format: options.format,
      settings: JSON.stringify(options.settings),
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

  /** The file, or the bytes of a bake of an earlier Kelp. @throws HttpProblem 404, 409 when it has not ended well */
  async result(id: string, ending?: 'mtl'): Promise<{ file: string } | { bytes: Buffer }> {
    const row = await this.models.bakes.findByPk(id);
    if (!row) throw notFound('This bake');
    const { status, settings } = this.state(row);
    if (status === 'done' && row.result && !ending) return { bytes: row.result };
    const own = ending ?? endingOf(row.format, settings);
    if (status === 'done' && this.files.has(id, own)) return { file: this.files.path(id, own) };
    if (status === 'done' && ending) throw notFound(`A material file for this ${row.format.toUpperCase()}`);
    const why = status === 'done' ? 'its file was deleted. Bake it again' : `it is ${status}`;
    throw new HttpProblem(409, 'No result', `This bake has no file to download: ${why}.`);
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
    await this.threads.close();
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
    const onProgress = (progress: BakeProgress) => {
      job.progress = progress;
      if (row.status === 'queued') {
        row.status = 'running';
        void row.save().catch(() => {});
      }
      this.changes.emit(row.id);
    };
    try {
      const { text, files } = await this.projects.exportProject(row.projectId, row.revision);
      const task = {
        text,
        files,
        settings: settingsOf(row),
        called: fileName(row.piece ?? (await this.projects.summary(row.projectId)).name),
        memory: this.memory,
        format: row.format,
        out: this.files.path(row.id, endingOf(row.format, settingsOf(row))),
      };
      const result = await this.threads.run(task, { signal: job.abort.signal, onProgress });
      const { ok } = result;
      await this.finish(row, {
        status: ok ? 'done' : 'failed',
        report: ok ? JSON.stringify({ pieces: result.pieces, bytes: result.bytes, seconds: result.seconds }) : null,
        error: ok ? null : result.message,
      });
    } catch (error) {
      const cancelled = job.abort.signal.aborted;
      const message = cancelled ? 'Cancelled' : `The bake failed: ${failure(error)}`;
      await this.finish(row, { status: cancelled ? 'cancelled' : 'failed', error: message });
    }
  }

  /** Writes how a bake ended. Where that cannot be written it is reported as failed for as long as the server runs. */
  private async finish(row: BakeRow, end: { status: BakeStatus; report?: string | null; error: string | null }) {
    try {
      await row.update({ ...end, finishedAt: new Date() });
    } catch (error) {
      this.untold.set(row.id, `The result of this bake could not be stored: ${failure(error)}`);
    }
    if (this.untold.has(row.id) || end.status !== 'done') await this.files.remove(row.id);
  }

  private async row(id: string): Promise<BakeRow> {
    const row = await this.models.bakes.findByPk(id, { attributes: { exclude: ['result'] } });
    if (!row) throw notFound('This bake');
    return row;
  }

  private state(row: BakeRow): BakeState {
    const untold = this.untold.get(row.id);
    return {
      id: row.id,
      projectId: row.projectId,
      revision: row.revision,
      piece: row.piece,
      density: row.density,
      format: row.format,
      settings: settingsOf(row),
      status: untold === undefined ? row.status : 'failed',
      progress: this.running.get(row.id)?.progress ?? null,
      report: row.report ? JSON.parse(row.report) : null,
      error: untold ?? row.error ?? null,
      createdAt: row.createdAt.toISOString(),
      finishedAt: row.finishedAt?.toISOString() ?? null,
    };
  }
}

/** Those of a bake of an earlier Kelp had no more than a piece and a density. */
const settingsOf = ({ settings, piece, density }: BakeRow): BakeSettings =>
  settings ? JSON.parse(settings) : { ...PLAIN_SETTINGS, density, ...(piece ? { pieces: [piece] } : {}) };

/** Frames are in one archive. */
export const endingOf = (format: BakeFormat, { frames }: BakeSettings): string => (frames ? 'zip' : format);

/** Why something could not be done, in words. */
const failure = (error: unknown): string => {
  const { code, message } = error as NodeJS.ErrnoException;
  if (isDatabaseFull(error) || code === 'ENOSPC') return 'the disk is full. Free some space and bake again';
  return message;
};
