import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { KelpError } from '@kelp/core';
import { QueryTypes, Sequelize } from 'sequelize';
import { DATABASE_FILE, PID_FILE } from './database.js';
import { laterMigration } from './migrations.js';

/** What a copy holds. */
export interface BackupContent {
  projects: number;
  revisions: number;
  files: number;
}

/**
 * Copies the database of a folder while it may be running: SQLite reads one state of it and writes that into a new file
 * (VACUUM INTO, sqlite.org/lang_vacuum.html). The copy is checked before it takes its name.
 * @throws KelpError BAD_FILE when there is no database or the copy is not sound
 */
export async function backupDatabase(data: string, out: string): Promise<BackupContent> {
  const file = join(resolve(data), DATABASE_FILE);
  if (!existsSync(file))
    throw new KelpError('BAD_FILE', `No database in ${resolve(data)}. Set its folder with --data.`);
  const copy = `${resolve(out)}.part`;
  rmSync(copy, { force: true });
  try {
    await copyInto(file, copy);
    const content = await contentOf(copy, file);
    renameSync(copy, out);
    return content;
  } finally {
    rmSync(copy, { force: true });
  }
}

/**
 * Puts a copy in the place of a folder's database. What was there is kept beside it.
 * @returns what is there now, and where what was there went; null when there was nothing
 * @throws KelpError BAD_FILE when the copy is not sound or a server runs on the folder, NEWER_DOCUMENT
 */
export async function restoreDatabase(
  from: string,
  data: string,
): Promise<{ content: BackupContent; before: string | null }> {
  const folder = resolve(data);
  const running = runningOn(folder);
  if (running !== undefined)
    throw new KelpError('BAD_FILE', `Kelp is running on ${folder} (process ${running}). Stop it first.`);
  if (!existsSync(from)) throw new KelpError('BAD_FILE', `There is no file ${from}`);
  mkdirSync(folder, { recursive: true });
  const file = join(folder, DATABASE_FILE);
  const fresh = `${file}.part`;
  rmSync(fresh, { force: true });
  try {
    const content = await contentOf(from, from);
    await copyInto(from, fresh);
    let before: string | null = null;
    if (existsSync(file)) {
      before = freeFile(`${file}.before-restore`);
      await copyInto(file, before);
    }
    for (const end of ['', '-wal', '-shm']) rmSync(`${file}${end}`, { force: true });
    renameSync(fresh, file);
    return { content, before };
  } finally {
    rmSync(fresh, { force: true });
  }
}

async function copyInto(file: string, copy: string): Promise<void> {
  await onDatabase(file, async (database) => {
    await database.query('VACUUM INTO :copy', { replacements: { copy } });
  });
}

/** What is in a file, once SQLite finds it sound (PRAGMA integrity_check). `named` is what it is called in words. */
async function contentOf(file: string, named: string): Promise<BackupContent> {
  const unsound = (why: string) => new KelpError('BAD_FILE', `${named} is not a valid Kelp database: ${why}`);
  try {
    return await onDatabase(file, async (database) => {
      const ask = <T extends object>(query: string) => database.query<T>(query, { type: QueryTypes.SELECT });
      const [{ integrity_check: found }] = await ask<{ integrity_check: string }>('PRAGMA integrity_check');
      if (found !== 'ok') throw unsound(found.slice(0, 200));
      const later = laterMigration(
        (await ask<{ name: string }>('SELECT name FROM migrations')).map(({ name }) => name),
      );
      if (later !== undefined)
        throw new KelpError('NEWER_DOCUMENT', `${named} was written by a newer Kelp (${later}). Update Kelp first.`);
      const [counts] = await ask<BackupContent>(
        'SELECT (SELECT count(*) FROM projects) AS projects, (SELECT count(*) FROM revisions) AS revisions, (SELECT count(*) FROM props) AS files',
      );
      return counts;
    });
  } catch (error) {
    if (error instanceof KelpError) throw error;
    throw unsound((error as Error).message);
  }
}

async function onDatabase<T>(file: string, work: (database: Sequelize) => Promise<T>): Promise<T> {
  const database = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  try {
    return await work(database);
  } finally {
    await database.close();
  }
}

/** The process that serves a folder, if one does. */
function runningOn(folder: string): number | undefined {
  const file = join(folder, PID_FILE);
  const pid = existsSync(file) ? Number(readFileSync(file, 'utf8')) : Number.NaN;
  if (!Number.isInteger(pid)) return undefined;
  try {
    process.kill(pid, 0);
    return pid;
  } catch (error) {
    // one of another user lives, too
    return (error as NodeJS.ErrnoException).code === 'EPERM' ? pid : undefined;
  }
}

function freeFile(wanted: string): string {
  if (!existsSync(wanted)) return wanted;
  let i = 2;
  while (existsSync(`${wanted}-${i}`)) i++;
  return `${wanted}-${i}`;
}
