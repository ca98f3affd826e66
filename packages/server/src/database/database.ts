import { QueryTypes, Sequelize, Transaction } from 'sequelize';
import { migrate } from './migrations.js';
import { defineModels, type Models } from './models.js';

/** What is in the folder of the data: the database, and the number of the process that serves it. */
export const DATABASE_FILE = 'kelp.sqlite';
export const PID_FILE = 'server.pid';

export interface Database {
  models: Models;
  /** How many pieces and props the newest revision of each project has, by project. */
  counts(): Promise<Map<string, { pieces: number; props: number }>>;
  /** Hashes of the files that a revision names. */
  filesOf(project: string, revision: number): Promise<string[]>;
  /** Runs `work` as one transaction. One writer at a time: SQLite has one write lock, and a queue never finds it taken. */
  write<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>;
  close(): Promise<void>;
}

/**
 * Opens the SQLite file and lifts it to the newest schema. Write-ahead log, so that a reader never waits for a writer
 * and a killed server loses nothing that was acknowledged; foreign keys on.
 */
export async function openDatabase(file: string): Promise<Database> {
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  await sequelize.query('PRAGMA journal_mode = WAL');
  await sequelize.query('PRAGMA foreign_keys = ON');
  await sequelize.query('PRAGMA synchronous = FULL');
  await sequelize.query('PRAGMA busy_timeout = 10000');
  try {
    await migrate(sequelize, file);
  } catch (error) {
    await sequelize.close();
    throw error;
  }
  let last: Promise<unknown> = Promise.resolve();
  return {
    models: defineModels(sequelize),
    async counts() {
      const rows = await sequelize.query<{ id: string; pieces: number; props: number }>(
        `SELECT p.id, json_array_length(r.document, '$.pieces') AS pieces, json_array_length(r.document, '$.props') AS props
         FROM projects p JOIN revisions r ON r.projectId = p.id AND r.number = p.revision`,
        { type: QueryTypes.SELECT },
      );
      return new Map(rows.map(({ id, pieces, props }) => [id, { pieces, props }]));
    },
    async filesOf(project, revision) {
      // SQLite reads the names out of the text: a document of many megabytes is not made into objects here
      const named = (list: string, field: string) =>
        `SELECT json_extract(one.value, '$.${field}') AS hash FROM revisions r, json_each(r.document, '$.${list}') one
         WHERE r.projectId = :project AND r.number = :revision`;
      const rows = await sequelize.query<{ hash: string }>(
        `${named('props', 'mesh')} UNION ${named('pictures', 'image')}`,
        {
          replacements: { project, revision },
          type: QueryTypes.SELECT,
        },
      );
      return rows.map(({ hash }) => hash);
    },
    write(work) {
      const run = last.then(() => sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, work));
      last = run.catch(() => {});
      return run;
    },
    close: () => sequelize.close(),
  };
}
