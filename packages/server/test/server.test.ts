import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { emptyDocument, type KelpDocument } from '@kelp/core';
import { contentHash, decodeProp, readArchive } from '@kelp/formats';
import express from 'express';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDatabase } from '../src/database/database.js';
import { problemHandler } from '../src/http/problem.js';
import { type RunningServer, startServer } from '../src/index.js';

const bakeWorker = fileURLToPath(new URL('../../cli/dist/bake-worker.js', import.meta.url));
const log = pino({ level: 'silent' });
let data: string;
let server: RunningServer;
const start = async () => {
  server = await startServer({ data, port: 0, demo: true, bakeWorker, log });
};
beforeAll(async () => {
  data = mkdtempSync(join(tmpdir(), 'kelp-server-'));
  await start();
});
afterAll(async () => {
  await server.stop();
  rmSync(data, { recursive: true, force: true });
});

const NOBODY = '00000000-0000-4000-8000-000000000000';
/** A few pixels. */
const PNG = new Uint8Array(
  Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAQAAAACCAIAAADwyuo0AAAAEElEQVR4nGM4cWADHDEgcwDnmhHBBZCF0AAAAABJRU5ErkJggg==',
    'base64',
  ),
);

// biome-ignore lint/suspicious/noExplicitAny: what the server answers is what these tests look at
type Answer = { status: number; type: string; body: any };
async function call(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answer> {
  const isBytes = body instanceof Uint8Array;
  const response = await fetch(`${server.url}/api${path}`, {
    method,
    headers: {
      ...(body === undefined ? {} : { 'Content-Type': isBytes ? 'application/octet-stream' : 'application/json' }),
      ...headers,
    },
    body: body === undefined ? undefined : isBytes ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body),
  });
  const type = response.headers.get('Content-Type') ?? '';
  const read = type.includes('json') ? await response.json() : new Uint8Array(await response.arrayBuffer());
  return { status: response.status, type, body: read };
}
const demo = async () =>
  (await call('GET', '/projects')).body.find((project: { name: string }) => project.name.startsWith('Kelp farm'));
const fresh = async (name: string) => (await call('POST', '/projects', { name })).body;

it('a full disk is told as such, and nothing of the save is kept', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'kelp-full-'));
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
  app.use(problemHandler(log));
  const listening = createServer(app).listen(0, '127.0.0.1');
  await new Promise((done) => listening.once('listening', done));
  const answer = await fetch(`http://127.0.0.1:${(listening.address() as AddressInfo).port}/`, { method: 'PUT' });
  expect(answer.status).toBe(507);
  expect((await answer.json()).detail).toContain('disk of the server is full');
  expect(await database.models.props.count()).toBe(0);
  listening.close();
  await database.close();
  rmSync(folder, { recursive: true, force: true });
});

describe('projects and their revisions', () => {
  it('begin as a template lays them out; an unknown one is refused with those there are', async () => {
    const templates = (await call('GET', '/projects/templates')).body as { id: string }[];
    const counts = [];
    for (const { id } of templates) {
      const { body } = await call('POST', '/projects', { name: `From ${id}`, template: id });
      expect(body.document.name).toBe(`From ${id}`);
      counts.push([id, body.document.props.length, body.document.pieces.length]);
    }
    expect(counts).toEqual([
      ['empty', 0, 0],
      ['deck', 3, 0],
      ['farm', 12, 9],
    ]);
    const refused = await call('POST', '/projects', { name: 'a', template: 'castle' });
    expect(refused.status).toBe(400);
    expect(refused.body.detail).toContain('empty, deck, farm');
  });

  it('have a cover once one was drawn; what is no picture is refused, and so is a project that is not there', async () => {
    const { id } = await fresh('Covered');
    expect((await call('GET', `/projects/${id}/cover`)).status).toBe(404);
    const cover = async () =>
      (await call('GET', '/projects')).body.find((project: { id: string }) => project.id === id).cover;
    expect(await cover()).toBeNull();
    expect((await call('PUT', `/projects/${id}/cover`, PNG)).status).toBe(204);
    expect((await call('GET', `/projects/${id}/cover`)).body).toEqual(PNG);
    expect(await cover()).toMatch(/^20/);
    expect((await call('PUT', `/projects/${id}/cover`, Buffer.from('not a picture'))).status).toBe(400);
    expect((await call('PUT', `/projects/${NOBODY}/cover`, PNG)).status).toBe(404);
  });

  it('a save on the newest revision is kept under the next number; the older ones stay', async () => {
    const { id, revision, document } = await fresh('Jetty');
    expect(revision).toBe(1);
    const saved = await call('PUT', `/projects/${id}`, {
      basedOn: 1,
      document: { ...document, name: 'Jetty, winter' },
    });
    expect(saved).toMatchObject({ status: 200, body: { revision: 2, name: 'Jetty, winter' } });
    expect((await call('GET', `/projects/${id}`)).body.document.name).toBe('Jetty, winter');
    expect((await call('GET', `/projects/${id}/revisions/1`)).body.document.name).toBe('Jetty');
    expect((await call('GET', `/projects/${id}/revisions`)).body.map((r: { number: number }) => r.number)).toEqual([
      2, 1,
    ]);
  });

  it('a stale save is refused with 409 and changes nothing; of twenty at once, one wins', async () => {
    const { id, document } = await fresh('Race');
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        call('PUT', `/projects/${id}`, { basedOn: 1, document: { ...document, name: `Race ${i}` } }),
      ),
    );
    expect(answers.filter((answer) => answer.status === 200)).toHaveLength(1);
    const stale = answers.filter((answer) => answer.status === 409);
    expect(stale).toHaveLength(19);
    expect(stale[0]).toMatchObject({
      type: expect.stringContaining('application/problem+json'),
      body: { code: 'STALE_REVISION', revision: 2 },
    });
    const now = (await call('GET', `/projects/${id}`)).body;
    expect(now.revision).toBe(2);
    expect(now.document.name).toBe(answers.find((answer) => answer.status === 200)?.body.name);
  });

  it('a deleted project comes back', async () => {
    const { id } = await fresh('Gone');
    expect((await call('DELETE', `/projects/${id}`)).status).toBe(204);
    expect((await call('GET', `/projects/${id}`)).status).toBe(404);
    expect((await call('GET', '/projects?deleted=true')).body.map((project: { id: string }) => project.id)).toContain(
      id,
    );
    expect((await call('POST', `/projects/${id}/restore`)).status).toBe(204);
    expect((await call('GET', `/projects/${id}`)).status).toBe(200);
  });

  it('an archive goes out and comes in again whole', async () => {
    const { id } = await demo();
    const archive = await call('GET', `/projects/${id}/archive`);
    const imported = await call('POST', '/projects/import', archive.body);
    expect(imported.status).toBe(201);
    const original = readArchive('a', archive.body);
    expect(imported.body.document).toEqual(original.document);
    const hash = original.document.props[0].mesh;
    expect((await decodeProp((await call('GET', `/props/${hash}`)).body)).index.length).toBeGreaterThan(0);
  });
});

describe('reference pictures', () => {
  it('are kept by their hash, served as what they are, and go out and in with the project', async () => {
    const image = contentHash(PNG);
    const { id, document: empty } = await fresh('Drawn from a plan');
    const plan = { id: 'plan', name: 'Plan', image, plane: 'top', position: [0, 0, 0], width: 3, aspect: 0.5 };
    const document = { ...empty, pictures: [{ ...plan, opacity: 0.5, visible: true, locked: true }] };
    const save = () => call('PUT', `/projects/${id}`, { basedOn: 1, document });
    // the file goes first: a project never names one that is not there
    expect(await save()).toMatchObject({ status: 422, body: { detail: expect.stringContaining('picture "Plan"') } });
    expect((await call('PUT', `/props/${image}`, PNG)).status).toBe(204);
    expect((await save()).status).toBe(200);
    const served = await fetch(`${server.url}/api/props/${image}`);
    expect(served.headers.get('content-type')).toBe('image/png');
    const archive = await call('GET', `/projects/${id}/archive`);
    expect(readArchive('a', archive.body).props.get(image)).toEqual(PNG);
    const again = await call('POST', '/projects/import', archive.body);
    expect(again.body.document.pictures).toEqual(document.pictures);
  });

  it('broken ones are refused', async () => {
    const cut = PNG.subarray(0, 20);
    const refused = await call('PUT', `/props/${contentHash(cut)}`, cut);
    expect(refused).toMatchObject({ status: 400, body: { detail: expect.stringContaining('picture') } });
  });
});

describe('bakes', () => {
  const ended = async (id: string) => {
    const response = await fetch(`${server.url}/api/bakes/${id}/events`);
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
    expect(events.at(-1)?.state.report.pieces).toHaveLength(9);
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

  it('a piece that is not there fails with a sentence', async () => {
    const { id } = await demo();
    const { body } = await call('POST', `/projects/${id}/bakes`, { piece: 'Spaghetti' });
    expect((await ended(body.id)).at(-1)?.state).toMatchObject({
      status: 'failed',
      error: expect.stringContaining('no piece called "Spaghetti"'),
    });
  });
});

describe('bad input is told as application/problem+json and harms nothing', () => {
  const broken = (change: (document: KelpDocument & Record<string, unknown>) => void) => {
    const document = emptyDocument('x') as KelpDocument & Record<string, unknown>;
    change(document);
    return { basedOn: 1, document };
  };
  it.each<[string, string, string, unknown, number, string]>([
    ['no such project', 'GET', `/projects/${NOBODY}`, undefined, 404, 'does not exist'],
    ['no such bake', 'GET', `/bakes/${NOBODY}`, undefined, 404, 'does not exist'],
    ['no such address', 'GET', '/kelp', undefined, 404, 'does not exist'],
    ['an id that is none', 'GET', '/projects/1;drop', undefined, 400, 'id must be'],
    ['a body of the wrong shape', 'POST', '/projects', ['a'], 400, 'object'],
    ['no body', 'POST', '/projects', undefined, 400, 'required'],
    ['an unknown field', 'POST', '/projects', { name: 'a', admin: true }, 400, 'admin'],
    ['a name of 10,000 characters', 'POST', '/projects', { name: 'x'.repeat(10_000) }, 400, 'at most 200'],
    ['a save without a base', 'PUT', `/projects/${NOBODY}`, { document: emptyDocument('x') }, 400, 'basedOn'],
    [
      'a document with a piece that is none',
      'PUT',
      `/projects/${NOBODY}`,
      broken((d) => (d.pieces = [null] as never)),
      400,
      'pieces',
    ],
    [
      'a document from the future',
      'PUT',
      `/projects/${NOBODY}`,
      broken((d) => (d.version = 99 as never)),
      400,
      'newer Kelp',
    ],
    [
      'a prop whose bytes are not its hash',
      'PUT',
      `/props/${'0'.repeat(64)}`,
      new Uint8Array([1, 2, 3]),
      400,
      'damaged',
    ],
    ['a prop without bytes', 'PUT', `/props/${'0'.repeat(64)}`, new Uint8Array(0), 400, 'bytes of a file'],
    [
      'an import that is no archive',
      'POST',
      '/projects/import',
      new Uint8Array([80, 75, 3, 4, 0]),
      400,
      'no Kelp archive',
    ],
    [
      'an import that is broken JSON',
      'POST',
      '/projects/import',
      new TextEncoder().encode('{"format":'),
      400,
      'no JSON',
    ],
    ['a density out of range', 'POST', `/projects/${NOBODY}/bakes`, { density: 1e9 }, 400, 'density'],
  ])('%s', async (_name, method, path, body, status, detail) => {
    const answer = await call(method, path, body);
    expect(answer.status).toBe(status);
    expect(answer.type).toContain('application/problem+json');
    expect(answer.body).toMatchObject({ status, title: expect.any(String) });
    expect(answer.body.detail).toContain(detail);
  });

  it('a body beyond the limit is refused before it is read', async () => {
    const { id, document } = await fresh('Large');
    const answer = await call('PUT', `/projects/${id}`, {
      basedOn: 1,
      document: { ...document, name: 'x'.repeat(33 * 2 ** 20) },
    });
    expect(answer).toMatchObject({ status: 413, type: expect.stringContaining('application/problem+json') });
  });

  it('a mesh that was never sent is named before anything is saved', async () => {
    const { id, document } = await fresh('Missing mesh');
    const prop = {
      id: 'p',
      name: 'Ghost',
      mesh: 'f'.repeat(64),
      placement: { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 },
      visible: true,
      colour: '#ffffff',
    };
    const answer = await call('PUT', `/projects/${id}`, { basedOn: 1, document: { ...document, props: [prop] } });
    expect(answer).toMatchObject({
      status: 422,
      body: { code: 'MISSING_PROP', detail: expect.stringContaining('"Ghost"') },
    });
    expect((await call('GET', `/projects/${id}`)).body.revision).toBe(1);
  });

  it('another host’s name and another site’s page get nothing', async () => {
    const { port } = new URL(server.url);
    const answer = await new Promise<number>((resolve, reject) => {
      // fetch does not let a test set Host
      import('node:http').then(({ request }) =>
        request({ port, host: '127.0.0.1', path: '/api/health', headers: { Host: 'evil.example' } }, (res) =>
          resolve(res.statusCode ?? 0),
        )
          .on('error', reject)
          .end(),
      );
    });
    expect(answer).toBe(403);
    expect((await call('POST', '/projects', { name: 'a' }, { Origin: 'http://evil.example' })).status).toBe(403);
    const policy = (await fetch(`${server.url}/api/health`)).headers.get('Content-Security-Policy');
    expect(policy).toContain("script-src 'self'");
    expect(policy).not.toContain("'unsafe");
  });
});

it('a stop keeps everything, and a bake that was under way is told as failed', async () => {
  const { id } = await demo();
  const { body } = await call('POST', `/projects/${id}/bakes`, { density: 20 });
  await server.stop();
  await start();
  expect((await call('GET', `/bakes/${body.id}`)).body.status).toMatch(/cancelled|failed/);
  expect((await call('GET', `/projects/${id}`)).body.document.pieces).toHaveLength(9);
});

it('a taken port moves to the next free one when asked to, and is an error otherwise', async () => {
  const blocker = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => blocker.once('listening', resolve));
  const { port } = blocker.address() as AddressInfo;
  const folder = mkdtempSync(join(tmpdir(), 'kelp-port-'));
  const options = { data: folder, port, bakeWorker, log };
  await expect(startServer(options)).rejects.toMatchObject({ code: 'EADDRINUSE' });
  const moved = await startServer({ ...options, nextFreePort: true });
  expect(Number(new URL(moved.url).port)).toBeGreaterThan(port);
  await moved.stop();
  blocker.close();
  rmSync(folder, { recursive: true, force: true });
});
