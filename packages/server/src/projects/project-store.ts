import { randomUUID } from 'node:crypto';
import { type KelpDocument, openDocument } from '@kelp/core';
import { filesOf, type Project, pictureInfo } from '@kelp/formats';
import type { Database } from '../database/database.js';
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

export interface StoredProject extends ProjectSummary {
  document: KelpDocument;
  /** What had to be done to the document to open it, in words. */
  notes: string[];
}

/** Projects and all their revisions. A save that is acknowledged is on the disk. */
export class ProjectStore {
  constructor(
    private readonly database: Database,
    private readonly props: PropStore,
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
  async create(document: KelpDocument): Promise<StoredProject> {
    await this.checkProps(document);
    const id = randomUUID();
    await this.database.write(async (transaction) => {
      await this.database.models.projects.create({ id, name: document.name, revision: 1 }, { transaction });
      await this.database.models.revisions.create(
        { projectId: id, number: 1, document: JSON.stringify(document) },
        { transaction },
      );
    });
    return this.get(id);
  }

  /** The newest revision, or the one with a number. @throws HttpProblem 404 */
  async get(id: string, number?: number): Promise<StoredProject> {
    const row = await this.database.models.projects.findByPk(id);
    if (!row) throw notFound('This project');
    const revision = await this.database.models.revisions.findOne({
      where: { projectId: id, number: number ?? row.revision },
    });
    if (!revision) throw notFound(`Revision ${number} of this project`);
    return { ...summary(row), revision: revision.number, ...openDocument(JSON.parse(revision.document)) };
  }

  async revisions(id: string): Promise<{ number: number; createdAt: string }[]> {
    await this.get(id);
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
  async save(id: string, basedOn: number, document: KelpDocument): Promise<ProjectSummary> {
    await this.checkProps(document);
    const { projects, revisions } = this.database.models;
    const saved = await this.database.write(async (transaction) => {
      const row = await projects.findByPk(id, { transaction });
      if (!row) throw notFound('This project');
      if (row.revision !== basedOn)
        throw new HttpProblem(
          409,
          'Saved elsewhere',
          `This project is at revision ${row.revision}; the save was based on ${basedOn}. Nothing was overwritten.`,
          {
            code: 'STALE_REVISION',
            revision: row.revision,
          },
        );
      await revisions.create(
        { projectId: id, number: basedOn + 1, document: JSON.stringify(document) },
        { transaction },
      );
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
  async importProject({ document, props, notes = [] }: Project): Promise<StoredProject> {
    for (const [hash, bytes] of props) await this.props.put(hash, bytes);
    return { ...(await this.create(document)), notes };
  }

  /** A project with its files, for an archive or a bake. @throws HttpProblem 404 */
  async exportProject(id: string, number?: number): Promise<Project> {
    const { document } = await this.get(id, number);
    const props = new Map<string, Uint8Array>();
    for (const hash of filesOf(document)) props.set(hash, await this.props.get(hash));
    return { document, props };
  }

  private async checkProps(document: KelpDocument): Promise<void> {
    const missing = await this.props.firstMissing(filesOf(document));
    if (missing === undefined) return;
    const prop = document.props.find(({ mesh }) => mesh === missing);
    const picture = document.pictures.find(({ image }) => image === missing);
    const what = prop ? `mesh of prop "${prop.name}"` : `picture "${picture?.name}"`;
    throw new HttpProblem(422, 'File missing', `The ${what} was not sent yet. Send it first.`, {
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
