import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import express from 'express';
import { Sequelize } from 'sequelize';
import { expect, it } from 'vitest';
import { openDatabase } from '../src/database/database.js';
import { problemHandler } from '../src/http/problem.js';
import { startServer } from '../src/index.js';
import { freshFolder, QUIET } from './test-server.js';

it('a full disk is reported as such, and nothing of the save is kept', async () => {
  const { folder, remove } = freshFolder();
  const database = await openDatabase(join(folder, 'kelp.sqlite'));
  const app = express();
  app.put('/', async () => {
    await database.write(async (transaction) => {
      // the file may not grow any more: the same error that a full disk gives
      await database.models.props.sequelize?.query('PRAGMA max_page_count = 1', { transaction });
      const bytes = Buffer.alloc(1_000_000);
      await database.models.props.create({ hash: 'a'.repeat(64), bytes, triangles: 1 }, { transaction });
    });
  });
  app.use(problemHandler(QUIET.log));
  const listening = createServer(app).listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  const answer = await fetch(`http://127.0.0.1:${(listening.address() as AddressInfo).port}/`, { method: 'PUT' });
  expect(answer.status).toBe(507);
  expect((await answer.json()).detail).toContain('server’s disk is full');
  expect(await database.models.props.count()).toBe(0);
  listening.close();
  await database.close();
  remove();
});

it('a database of an older Kelp is copied before it is lifted, one of a newer Kelp is not touched', async () => {
  const { folder, remove } = freshFolder();
  const file = join(folder, 'kelp.sqlite');
  const first = await openDatabase(file);
  await first.models.props.create({ hash: 'b'.repeat(64), bytes: Buffer.from('kept'), triangles: 1 });
  // as it was before covers came
  await first.models.props.sequelize?.query('DROP TABLE covers');
  await first.models.props.sequelize?.query("DELETE FROM migrations WHERE name = '0002-covers'");
  await first.close();
  const lifted = await openDatabase(file);
  expect(await lifted.models.covers.count()).toBe(0);
  const copy = new Sequelize({ dialect: 'sqlite', storage: `${file}.before-0002-covers`, logging: false });
  expect((await copy.query('SELECT hash FROM props'))[0]).toEqual([{ hash: 'b'.repeat(64) }]);
  expect((await copy.query("SELECT name FROM sqlite_master WHERE name = 'covers'"))[0]).toEqual([]);
  await copy.close();
  await lifted.models.props.sequelize?.query("INSERT INTO migrations (name) VALUES ('9999-later')");
  await lifted.close();
  const before = readFileSync(file);
  await expect(openDatabase(file)).rejects.toMatchObject({ code: 'NEWER_DOCUMENT' });
  expect(readFileSync(file).equals(before)).toBe(true);
  remove();
});

it('a taken port moves to the next free one when asked to, and is an error otherwise', async () => {
  const blocker = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => blocker.once('listening', resolve));
  const { port } = blocker.address() as AddressInfo;
  const { folder, remove } = freshFolder();
  const options = { data: folder, port, ...QUIET };
  await expect(startServer(options)).rejects.toMatchObject({ code: 'EADDRINUSE' });
  const moved = await startServer({ ...options, nextFreePort: true });
  expect(Number(new URL(moved.url).port)).toBeGreaterThan(port);
  await moved.stop();
  blocker.close();
  remove();
});
