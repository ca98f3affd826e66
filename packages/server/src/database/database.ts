import { Sequelize, Transaction } from 'sequelize';
import { migrate } from './migrations.js';
import { defineModels, type Models } from './models.js';

export interface Database {
  models: Models;
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
  await migrate(sequelize);
  let last: Promise<unknown> = Promise.resolve();
  return {
    models: defineModels(sequelize),
    write(work) {
      const run = last.then(() => sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, work));
      last = run.catch(() => {});
      return run;
    },
    close: () => sequelize.close(),
  };
}
