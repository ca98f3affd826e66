import { Sequelize } from 'sequelize';
import { migrate } from './migrations.js';
import { defineModels, type Models } from './models.js';

export interface Database {
  sequelize: Sequelize;
  models: Models;
  close(): Promise<void>;
}

/**
 * Opens the SQLite file and lifts it to the newest schema. Write-ahead log, so that a reader never waits for a writer
 * and a killed server loses nothing that was acknowledged; foreign keys on.
 */
export async function openDatabase(file: string): Promise<Database> {
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  // each transaction opens a connection of its own: all of them wait for one another rather than fail
  sequelize.addHook('afterConnect', (connection) => {
    (connection as { configure(option: string, value: number): void }).configure('busyTimeout', 10_000);
  });
  await sequelize.query('PRAGMA journal_mode = WAL');
  await sequelize.query('PRAGMA foreign_keys = ON');
  await sequelize.query('PRAGMA synchronous = FULL');
  await migrate(sequelize);
  return { sequelize, models: defineModels(sequelize), close: () => sequelize.close() };
}
