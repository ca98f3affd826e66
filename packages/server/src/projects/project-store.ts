import { randomUUID } from 'node:crypto';
import { pictureInfo } from '@kelp/formats';
import type { Database } from '../database/database.js';
import type { Gate } from '../gate/gate.js';
import type { CheckedDocument, CheckedFile } from '../gate/gate-task.js';
import { HttpProblem, notFound } from '../http/problem.js';
import type { PropStore } from '../props/prop-store.js';

export interface ProjectSummary {
  id: string;
  name: string;
  revision: number;
  updatedAt: string;
  deletedAt: string | null;
}

export interface ListedProject extends ProjectSummary {
  pieces: number;
  props: number;
  /** When its cover was drawn; null when there is none yet. */
  cover: string | null;
}

export interface StoredProject {
  summary: ProjectSummary;
  document: Pick<CheckedDocument, 'text' | 'notes'>;
  /** Whether its cover was drawn since this revision was saved. */
  covered?: boolean;
}

/** Projects and all their revisions. A save that is acknowledged is on the disk. */
export class ProjectStore {
  constructor(
    private readonly database: Database,
    private readonly props: PropStore,
    private readonly gate: Gate,
  ) {}

  /** Newest first, with what is in them. */
  async list(deleted = false): Promise<ListedProject[]> {
    const rows = await this.database.models.projects.findAll({ order: [['updatedAt', 'DESC']], paranoid: false });
    const counts = await this.database.counts();
    const covers = await this.database.models.covers.findAll({ attributes: ['projectId', 'updatedAt'] });
    const drawn = new Map(covers.map(({ projectId, updatedAt }) => [projectId, updatedAt.toISOString()]));
    return rows
      .filter((row) => (row.deletedAt !== null) === deleted)
      .map((row) => ({
        ...summary(row),
        ...(counts.get(row.id) ?? { pieces: 0, props: 0 }),
        cover: drawn.get(row.id) ?? null,
      }));
  }

  /** @throws HttpProblem 422 when a prop's mesh was not sent before */
  async create(document: CheckedDocument): Promise<StoredProject> {
    await this.checkFiles(document);
    const id = randomUUID();
    const row = await this.database.write(async (transaction) => {
      const project = await this.database.models.projects.create(
        { id, name: document.name, revision: 1 },
        { transaction },
      );
      await this.database.models.revisions.create(
        { projectId: id, number: 1, document: document.text },
        { transaction },
      );
      return project;
    });
    return { summary: summary(row), document };
  }

  /** The newest revision, or the one with a number. @throws HttpProblem 404 */
  async get(id: string, number?: number): Promise<StoredProject> {
    const { row, revision } = await this.revision(id, number);
    const document = await this.gate.run('stored', { text: revision.document });
    const cover = await this.database.models.covers.findByPk(id, { attributes: ['updatedAt'] });
    const covered = cover !== null && cover.updatedAt >= revision.createdAt;
    return { summary: { ...summary(row), revision: revision.number }, document, covered };
  }

  /** What the list says of one project. @throws HttpProblem 404 */
  async summary(id: string): Promise<ProjectSummary> {
    const row = await this.database.models.projects.findByPk(id);
    if (!row) throw notFound('This project');
    return summary(row);
  }

  /** The text form, to be read by people. @throws HttpProblem 404 */
  async text(id: string): Promise<CheckedDocument> {
    const { revision } = await this.revision(id);
    return this.gate.run('stored', { text: revision.document, pretty: true });
  }

  /** The number of a revision that is there; without one, of the newest. @throws HttpProblem 404 */
  async revisionNumber(id: string, number?: number): Promise<number> {
    return (await this.revision(id, number, ['number'])).revision.number;
  }

  private async revision(id: string, number?: number, attributes?: string[]) {
    const row = await this.database.models.projects.findByPk(id);
    if (!row) throw notFound('This project');
    const where = { projectId: id, number: number ?? row.revision };
    const revision = await this.database.models.revisions.findOne({ where, attributes });
    if (!revision) throw notFound(`Version ${number} of this project`);
    return { row, revision };
  }

  async revisions(id: string): Promise<{ number: number; createdAt: string }[]> {
    await this.summary(id);
    const rows = await this.database.models.revisions.findAll({
      attributes: ['number', 'createdAt'],
      where: { projectId: id },
      order: [['number', 'DESC']],
    });
    return rows.map(({ number, createdAt }) => ({ number, createdAt: createdAt.toISOString() }));
  }

  /**
   * Saves a new revision on top of `basedOn`.
   * @throws HttpProblem 409 when a newer one is there: nothing is written, and the answer names it
   */
  async save(id: string, basedOn: number, document: CheckedDocument): Promise<ProjectSummary> {
    await this.checkFiles(document);
    const { projects, revisions } = this.database.models;
    const saved = await this.database.write(async (transaction) => {
      const row = await projects.findByPk(id, { transaction });
      if (!row) throw notFound('This project');
      if (row.revision !== basedOn)
        throw new HttpProblem(
          409,
          'Changed elsewhere',
          `This project is at version ${row.revision}; the save was based on ${basedOn}. Nothing was overwritten.`,
          {
            code: 'STALE_REVISION',
            revision: row.revision,
          },
        );
      await revisions.create({ projectId: id, number: basedOn + 1, document: document.text }, { transaction });
      return row.update({ revision: basedOn + 1, name: document.name }, { transaction });
    });
    return summary(saved);
  }

  /** Puts a project away; `restore` brings it back. @throws HttpProblem 404 */
  async remove(id: string): Promise<void> {
    if ((await this.database.models.projects.destroy({ where: { id } })) === 0) throw notFound('This project');
  }

  async restore(id: string): Promise<void> {
    const row = await this.database.models.projects.findByPk(id, { paranoid: false });
    if (!row) throw notFound('This project');
    await row.restore();
  }

  /** Keeps a small picture of the project. @throws HttpProblem 404; KelpError when it is no picture */
  async putCover(id: string, bytes: Uint8Array): Promise<void> {
    pictureInfo('The cover', bytes);
    if (!(await this.database.models.projects.findByPk(id))) throw notFound('This project');
    await this.database.write(async (transaction) => {
      await this.database.models.covers.upsert({ projectId: id, bytes: Buffer.from(bytes) }, { transaction });
    });
  }

  /** @throws HttpProblem 404 */
  async cover(id: string): Promise<Buffer> {
    const row = await this.database.models.covers.findByPk(id);
    if (!row) throw notFound('A cover of this project');
    return row.bytes;
  }

  /** Takes in a project with its files. */
  async importProject(document: CheckedDocument, files: readonly CheckedFile[]): Promise<StoredProject> {
    for (const file of files) await this.props.keep(file);
    return this.create(document);
  }

  /** The text of a revision with the files it names, for an archive or a bake. @throws HttpProblem 404 */
  async exportProject(id: string, number?: number): Promise<{ text: string; files: Map<string, Uint8Array> }> {
    const { revision } = await this.revision(id, number);
    const named = await this.database.filesOf(id, revision.number);
    const files = new Map<string, Uint8Array>();
    for (const hash of named) files.set(hash, await this.props.get(hash));
    return { text: revision.document, files };
  }

  private async checkFiles({ files }: CheckedDocument): Promise<void> {
    const missing = await this.props.firstMissing(files.map(({ hash }) => hash));
    if (missing === undefined) return;
    const what = files.find(({ hash }) => hash === missing)?.what;
    throw new HttpProblem(422, 'File missing', `The ${what} has not been sent. Send it first.`, {
      code: 'MISSING_PROP',
      hash: missing,
    });
  }
}

const summary = (row: {
  id: string;
  name: string;
  revision: number;
  updatedAt: Date;
  deletedAt?: Date | null;
}): ProjectSummary => ({
  id: row.id,
  name: row.name,
  revision: row.revision,
  updatedAt: row.updatedAt.toISOString(),
  deletedAt: row.deletedAt?.toISOString() ?? null,
});
