import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { afterAll, beforeAll } from 'vitest';
import { type RunningServer, type ServerOptions, startServer } from '../src/index.js';

/** An id that nothing has. */
export const NOBODY = '00000000-0000-4000-8000-000000000000';

/** A few pixels. */
export const PNG = new Uint8Array(
  Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAQAAAACCAIAAADwyuo0AAAAEElEQVR4nGM4cWADHDEgcwDnmhHBBZCF0AAAAABJRU5ErkJggg==',
    'base64',
  ),
);

/** What a server is started with when only `data` and `port` matter. */
export const QUIET = {
  workers: fileURLToPath(new URL('../../cli/dist', import.meta.url)),
  log: pino({ level: 'silent' }),
};

/** A folder of its own, and what takes it away. */
export function freshFolder(): { folder: string; remove(): void } {
  const folder = mkdtempSync(join(tmpdir(), 'kelp-test-'));
  return { folder, remove: () => rmSync(folder, { recursive: true, force: true }) };
}

// biome-ignore lint/suspicious/noExplicitAny: what the server answers is what these tests look at
type Answer = { status: number; type: string; body: any };

/** A real server with data of its own for the tests of one file. */
export function testServer({ demo = false }: Pick<ServerOptions, 'demo'> = {}) {
  let server: RunningServer;
  let data: ReturnType<typeof freshFolder>;
  const start = async () => {
    server = await startServer({ data: data.folder, port: 0, demo, ...QUIET });
  };
  beforeAll(async () => {
    data = freshFolder();
    await start();
  });
  afterAll(async () => {
    await server.stop();
    data.remove();
  });

  const send = (method: string, path: string, body?: unknown, headers: Record<string, string> = {}) => {
    const isBytes = body instanceof Uint8Array;
    return fetch(`${server.url}/api${path}`, {
      method,
      headers: {
        // making a hostile body may hold this process up for longer than the server keeps an idle connection
        Connection: 'close',
        ...(body === undefined ? {} : { 'Content-Type': isBytes ? 'application/octet-stream' : 'application/json' }),
        ...headers,
      },
      body: body === undefined ? undefined : isBytes ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body),
    });
  };
  const call = async (...request: Parameters<typeof send>): Promise<Answer> => {
    const response = await send(...request);
    const type = response.headers.get('Content-Type') ?? '';
    const read = type.includes('json') ? await response.json() : new Uint8Array(await response.arrayBuffer());
    return { status: response.status, type, body: read };
  };
  return {
    send,
    /** `send`, with its answer read. */
    call,
    /** A new empty project. */
    fresh: async (name: string) => (await call('POST', '/projects', { name })).body,
    /** The demo project as the list shows it. */
    demo: async () =>
      (await call('GET', '/projects')).body.find((project: { name: string }) => project.name.startsWith('Kelp farm')),
    url: () => server.url,
    /** Where its data is. */
    folder: () => data.folder,
    restart: async () => {
      await server.stop();
      await start();
    },
  };
}
