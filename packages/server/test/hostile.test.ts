import { createHash, randomBytes } from 'node:crypto';
import { request } from 'node:http';
import { connect } from 'node:net';
import { type DrawnPoint, emptyDocument } from '@kelp/core';
import { DOCUMENT_ENTRY, propEntry } from '@kelp/formats';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { NOBODY, testServer } from './test-server.js';

const { call, send, fresh, url } = testServer();

/** Asks for the server's health all the while; → what was answered, and the longest wait, milliseconds. */
async function whileAsked<T>(work: Promise<T>): Promise<{ answer: T; longest: number }> {
  let longest = 0;
  let over = false;
  const asking = (async () => {
    while (!over) {
      const began = performance.now();
      expect((await send('GET', '/health')).status).toBe(200);
      longest = Math.max(longest, performance.now() - began);
      await new Promise((done) => setTimeout(done, 10));
    }
  })();
  try {
    return { answer: await work, longest };
  } finally {
    over = true;
    await asking;
  }
}

/** This long a request may wait while another is worked on, milliseconds; the bench holds it to a quarter of a second. */
const PATIENT = 1500;

const savedAs = (document: string) =>
  new TextEncoder().encode(`{"basedOn":1,"document":{"format":"kelp-project","version":3,${document}}}`);

describe('bodies that are made to cost more than their length', () => {
  it.each<[string, () => Uint8Array, string]>([
    ['millions of zeros for curves', () => savedAs(`"curves":[${'0,'.repeat(5e6)}0]`), 'items'],
    ['a hundred thousand zeros for curves', () => savedAs(`"curves":[${'0,'.repeat(1e5)}0]`), 'items'],
    ['300,000 pieces that are none', () => savedAs(`"pieces":[${'{},'.repeat(3e5)}{}]`), 'items'],
    ['lists in lists', () => savedAs(`"curves":${'['.repeat(1e5)}`), 'deep'],
    ['bytes that are no text', () => Uint8Array.of(0x7b, 0x22, 0xff, 0xfe, 0x22), 'UTF-8'],
  ])('%s', async (_what, body, words) => {
    const { id } = await fresh('Hostile');
    const sent = send('PUT', `/projects/${id}`, body(), { 'Content-Type': 'application/json' });
    const { answer, longest } = await whileAsked(sent);
    const said = await answer.json();
    expect([400, 413]).toContain(answer.status);
    expect(said.detail).toContain(words);
    expect(longest).toBeLessThan(PATIENT);
    expect((await call('GET', `/projects/${id}`)).body.revision).toBe(1);
  });

  it('a hundred thousand points are a project like any other, and nobody waits for them', async () => {
    const { id } = await fresh('Large');
    const point = (i: number): DrawnPoint => ({ position: [i, 0, 0], corner: false, radius: 1 });
    const curve = (c: number) => ({
      id: `c${c}`,
      name: `Line ${c}`,
      closed: false,
      points: Array.from({ length: 1000 }, (_, i) => point(i)),
    });
    const document = { ...emptyDocument('Large'), curves: Array.from({ length: 100 }, (_, c) => curve(c)) };
    const { answer, longest } = await whileAsked(call('PUT', `/projects/${id}`, { basedOn: 1, document }));
    expect(answer).toMatchObject({ status: 200, body: { revision: 2 } });
    expect(longest).toBeLessThan(PATIENT);
    expect((await call('GET', `/projects/${id}`)).body.document).toEqual(document);
  });

  it('nesting and long names in small bodies', async () => {
    const deep = new TextEncoder().encode(`{"name":${'['.repeat(8000)}`);
    const answer = await call('POST', '/projects', deep, { 'Content-Type': 'application/json' });
    expect(answer).toMatchObject({ status: 400, body: { detail: expect.stringContaining('deep') } });
  });
});

describe('archives', () => {
  const project = (extra: object = {}) =>
    new TextEncoder().encode(JSON.stringify({ ...emptyDocument('Zip'), ...extra }));

  it('a gigabyte of blanks in a megabyte is not unpacked', async () => {
    const blanks = zipSync({ [DOCUMENT_ENTRY]: new Uint8Array(60 * 2 ** 20).fill(0x20) });
    expect(blanks.length).toBeLessThan(100_000);
    const { answer, longest } = await whileAsked(call('POST', '/projects/import', blanks));
    expect(answer).toMatchObject({ status: 413, body: { detail: expect.stringContaining('times its size') } });
    expect(longest).toBeLessThan(PATIENT);
  });

  it('files that the project does not name are not unpacked', async () => {
    const files: Record<string, Uint8Array> = { [DOCUMENT_ENTRY]: project() };
    for (let i = 0; i < 3; i++) files[propEntry(`${i}`.padStart(64, '0'))] = new Uint8Array(20 * 2 ** 20);
    const { answer, longest } = await whileAsked(call('POST', '/projects/import', zipSync(files)));
    expect(answer.status).toBe(201);
    expect(longest).toBeLessThan(PATIENT);
  });

  it('more entries than any archive of Kelp’s has, and an entry that says it is smaller than it is', async () => {
    const many: Record<string, Uint8Array> = { [DOCUMENT_ENTRY]: project() };
    for (let i = 0; i < 6000; i++) many[`${i}`] = new Uint8Array(0);
    expect(await call('POST', '/projects/import', zipSync(many))).toMatchObject({ status: 413 });
    const lying = zipSync({ [DOCUMENT_ENTRY]: project({ name: 'x'.repeat(150) }) });
    const view = new DataView(lying.buffer);
    for (let at = 0; at < lying.length - 4; at++)
      if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 40, true);
    expect((await call('POST', '/projects/import', lying)).status).toBe(400);
  });
});

describe('requests', () => {
  const raw = (headers: Record<string, string>, path: string, method = 'POST') =>
    new Promise<number>((resolve, reject) => {
      const { port } = new URL(url());
      request({ port, host: '127.0.0.1', path, method, headers }, (res) => {
        res.resume();
        resolve(res.statusCode ?? 0);
      })
        .on('error', reject)
        .end();
    });

  it('a form of another site that names no origin is refused (Fetch Metadata, W3C)', async () => {
    const { id } = await fresh('Kept');
    for (const site of ['cross-site', 'same-site'])
      expect(await raw({ 'Sec-Fetch-Site': site }, `/api/projects/${id}/restore`)).toBe(403);
    expect(await raw({ 'Sec-Fetch-Site': 'same-origin' }, `/api/projects/${id}/restore`)).toBe(204);
  });

  it.each(['0x1', '%201', '1.0', '1e0', '+1', '01', '0', '١'])('a revision written %s is none', async (number) => {
    const { id } = await fresh('Revisions');
    expect((await call('GET', `/projects/${id}/revisions/1`)).status).toBe(200);
    expect((await call('GET', `/projects/${id}/revisions/${number}`)).status).toBe(400);
  });

  it.each(['A\u0000', 'two\nlines', 'a\u202eb', '\u200b'])('a project cannot be called %j', async (name) => {
    expect((await call('POST', '/projects', { name })).status).toBe(400);
  });

  it('a body that says it is a gigabyte is reported that it is too large, while it is still being sent', async () => {
    const { port } = new URL(url());
    const said = await new Promise<string>((resolve, reject) => {
      const socket = connect(Number(port), '127.0.0.1');
      let answer = '';
      socket.on('data', (chunk) => {
        answer += chunk;
        if (answer.includes('}')) resolve(answer);
      });
      socket.on('error', reject);
      socket.write(
        `PUT /api/projects/${NOBODY} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nContent-Type: application/json\r\nContent-Length: 1000000000\r\n\r\n`,
      );
      const chunk = Buffer.alloc(2 ** 20, 0x20);
      let sent = 0;
      const more = () => {
        while (sent < 64 && socket.write(chunk)) sent++;
        if (sent < 64) socket.once('drain', more);
      };
      more();
    });
    expect(said).toMatch(/^HTTP\/1.1 413/);
    expect(said).toContain('application/problem+json');
  });

  it('a mesh that claims more than it holds is refused, and not kept', async () => {
    const json = JSON.stringify({
      asset: { version: '2.0' },
      accessors: [{ componentType: 5126, type: 'VEC3', count: 200_000_000 }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
      nodes: [{ mesh: 0 }],
      scenes: [{ nodes: [0] }],
    });
    const padded = json.padEnd(4 * Math.ceil(json.length / 4));
    const head = new Uint32Array([0x46546c67, 2, 20 + padded.length, padded.length, 0x4e4f534a]);
    const bytes = new Uint8Array([...new Uint8Array(head.buffer), ...new TextEncoder().encode(padded)]);
    const hash = createHash('sha256').update(bytes).digest('hex');
    const { answer, longest } = await whileAsked(call('PUT', `/props/${hash}`, bytes));
    expect(answer).toMatchObject({ status: 400, body: { issues: [{ path: 'accessors[0]' }] } });
    expect(longest).toBeLessThan(PATIENT);
    expect((await call('GET', `/props/${hash}`)).status).toBe(404);
  });

  it('noise on every route is answered, never with a failure of the server', async () => {
    for (const [method, path] of [
      ['POST', '/projects'],
      ['POST', '/projects/import'],
      ['PUT', `/projects/${NOBODY}`],
      ['PUT', `/projects/${NOBODY}/cover`],
      ['PUT', `/props/${'a'.repeat(64)}`],
      ['POST', `/projects/${NOBODY}/bakes`],
      ['POST', `/bakes/${NOBODY}/cancel`],
    ])
      for (const type of [
        'application/json',
        'application/octet-stream',
        'text/plain',
        'application/json; charset=utf-7',
      ]) {
        const { status } = await send(method, path, new Uint8Array(randomBytes(300)), { 'Content-Type': type });
        expect({ method, path, type, failed: status >= 500 }).toEqual({ method, path, type, failed: false });
        expect(status).toBeGreaterThanOrEqual(400);
      }
  });
});
