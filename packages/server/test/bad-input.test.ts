import { request } from 'node:http';
import { emptyDocument, type KelpDocument } from '@kelp/core';
import { describe, expect, it } from 'vitest';
import { NOBODY, testServer } from './test-server.js';

const { call, fresh, url } = testServer();

describe('bad input is reported as application/problem+json and harms nothing', () => {
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
      'not a Kelp archive',
    ],
    [
      'an import that is broken JSON',
      'POST',
      '/projects/import',
      new TextEncoder().encode('{"format":'),
      400,
      'not valid JSON',
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
    const { port } = new URL(url());
    const answer = await new Promise<number>((resolve, reject) => {
      // fetch does not let a test set Host
      request({ port, host: '127.0.0.1', path: '/api/health', headers: { Host: 'evil.example' } }, (res) =>
        resolve(res.statusCode ?? 0),
      )
        .on('error', reject)
        .end();
    });
    expect(answer).toBe(403);
    expect((await call('POST', '/projects', { name: 'a' }, { Origin: 'http://evil.example' })).status).toBe(403);
    const policy = (await fetch(`${url()}/api/health`)).headers.get('Content-Security-Policy');
    expect(policy).toContain("script-src 'self'");
    expect(policy).not.toContain("'unsafe");
  });
});
