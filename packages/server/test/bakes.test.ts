import { readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { openDatabase } from '../src/database/database.js';
import { NOBODY, testServer } from './test-server.js';

const { call, send, demo, folder, restart } = testServer({ demo: true });

describe('bakes', () => {
  const ended = async (id: string) => {
    const response = await send('GET', `/bakes/${id}/events`);
    const events = (await response.text())
      .trim()
      .split('\n\n')
      .filter((event) => event.startsWith('event'));
    return events.map((event) => ({
      event: event.match(/^event: (\w+)/)?.[1],
      state: JSON.parse(event.slice(event.indexOf('data: ') + 6)),
    }));
  };

  it('run in a thread, tell their progress, and their file can be fetched', async () => {
    const { id } = await demo();
    const started = await call('POST', `/projects/${id}/bakes`, { density: 0.5 });
    expect(started).toMatchObject({ status: 202, body: { status: 'queued', revision: 1 } });
    const events = await ended(started.body.id);
    expect(events.at(-1)).toMatchObject({ event: 'end', state: { status: 'done' } });
    expect(events.at(-1)?.state.report.pieces).toHaveLength(20);
    const file = await call('GET', `/bakes/${started.body.id}/file`);
    expect(new TextDecoder().decode(file.body.subarray(0, 4))).toBe('glTF');
    expect(file.body.length).toBe(events.at(-1)?.state.report.bytes);
    expect((await call('GET', `/projects/${id}/bakes`)).body[0].id).toBe(started.body.id);
  });

  it('can be cancelled, and then have no file', async () => {
    const { id } = await demo();
    const { body } = await call('POST', `/projects/${id}/bakes`, { density: 20 });
    expect((await call('POST', `/bakes/${body.id}/cancel`)).body.status).toBe('cancelled');
    expect((await call('GET', `/bakes/${body.id}/file`)).status).toBe(409);
  });

  it('are files beside the database: what is left of stopped or deleted ones is swept up at the next start', async () => {
    const { id } = await demo();
    const { body } = await call('POST', `/projects/${id}/bakes`, { piece: 'Bridge hose', density: 0.5 });
    await ended(body.id);
    const files = join(folder(), 'bakes');
    expect(readdirSync(files)).toContain(`${body.id}.glb`);
    for (const left of ['half.glb.part', `${NOBODY}.glb`]) writeFileSync(join(files, left), 'left');
    await restart();
    expect(readdirSync(files).filter((name) => name.endsWith('.part') || name.startsWith(NOBODY))).toEqual([]);
    expect((await call('GET', `/bakes/${body.id}/file`)).status).toBe(200);
    rmSync(join(files, `${body.id}.glb`));
    const gone = await call('GET', `/bakes/${body.id}/file`);
    expect(gone).toMatchObject({ status: 409, body: { detail: expect.stringContaining('deleted') } });
  });

  it('whose end cannot be written down are reported as failed, and the server goes on', async () => {
    const { id } = await demo();
    const other = await openDatabase(join(folder(), 'kelp.sqlite'));
    const { sequelize } = other.models.bakes;
    // what a full disk does to the last write of a bake
    await sequelize?.query(
      "CREATE TRIGGER full BEFORE UPDATE ON bakes WHEN NEW.status = 'done' BEGIN SELECT RAISE(ABORT, 'no room'); END",
    );
    try {
      const { body } = await call('POST', `/projects/${id}/bakes`, { piece: 'Bridge hose', density: 0.5 });
      await ended(body.id);
      const state = (await call('GET', `/bakes/${body.id}`)).body;
      expect(state).toMatchObject({ status: 'failed', error: expect.stringContaining('could not be stored') });
      expect(readdirSync(join(folder(), 'bakes'))).not.toContain(`${body.id}.glb`);
      expect((await call('GET', '/health')).status).toBe(200);
    } finally {
      await sequelize?.query('DROP TRIGGER full');
      await other.close();
    }
  });

  it('are reported by their settings what to make: frames in one archive, materials beside an OBJ; what makes no sense is refused', async () => {
    const { id } = await demo();
    const done = async (settings: object) => {
      const { body } = await call('POST', `/projects/${id}/bakes`, {
        pieces: ['Lamp line', 'Fenders'],
        density: 0.5,
        ...settings,
      });
      return (await ended(body.id)).at(-1)?.state;
    };
    const frames = await done({ format: 'ply', frames: { first: 3, last: 4, rate: 12 }, merge: 'all' });
    expect(frames.settings).toMatchObject({
      pieces: ['Lamp line', 'Fenders'],
      merge: 'all',
      up: 'y',
      frames: { first: 3, last: 4, rate: 12 },
    });
    const archive = await call('GET', `/bakes/${frames.id}/file`);
    expect(Object.keys(unzipSync(archive.body)).map((name) => name.split('.').slice(-2).join('.'))).toEqual([
      '0003.ply',
      '0004.ply',
    ]);
    expect((await call('GET', `/bakes/${frames.id}/materials`)).status).toBe(404);
    const obj = await done({ format: 'obj', triangles: 500, up: 'z', unit: 'mm' });
    expect(
      obj.report.pieces.reduce((sum: number, { triangles }: { triangles: number }) => sum + triangles, 0),
    ).toBeLessThanOrEqual(510);
    const materials = await call('GET', `/bakes/${obj.id}/materials`);
    expect(new TextDecoder().decode(materials.body)).toMatch(/^newmtl /);
    for (const wrong of [
      { pieces: [] },
      { pieces: 'Fenders' },
      { triangles: 3 },
      { within: -1 },
      { merge: 'none' },
      { unit: 'mile' },
      { frames: { first: 4, last: 3, rate: 24 } },
      { frames: { first: 0, last: 20_000, rate: 24 } },
      { frames: { first: 0, last: 1 } },
      { recipe: 'yes' },
      { colour: 'red' },
    ])
      expect([wrong, (await call('POST', `/projects/${id}/bakes`, wrong)).status]).toEqual([wrong, 400]);
  });

  it('a piece that is not there fails with a sentence', async () => {
    const { id } = await demo();
    const { body } = await call('POST', `/projects/${id}/bakes`, { piece: 'Spaghetti' });
    expect((await ended(body.id)).at(-1)?.state).toMatchObject({
      status: 'failed',
      error: expect.stringContaining('No piece is called "Spaghetti"'),
    });
  });
});

it('a stop keeps everything, and a bake that was under way is reported as failed', async () => {
  const { id } = await demo();
  const { body } = await call('POST', `/projects/${id}/bakes`, { density: 20 });
  await restart();
  expect((await call('GET', `/bakes/${body.id}`)).body.status).toMatch(/cancelled|failed/);
  expect((await call('GET', `/projects/${id}`)).body.document.pieces).toHaveLength(20);
});
