import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { type Seed, seeds, smallDocument } from './corpus.js';
import { eachOf, spoilt } from './spoil.js';
import { Tally } from './tally.js';

interface Request {
  path: string;
  body?: Uint8Array;
  headers: Record<string, string>;
}

const NOBODY = '00000000-0000-4000-8000-000000000000';
const AWKWARD_IDS = [NOBODY, '..', '%2e%2e', '%00', 'null', '-1', '1e9', 'a'.repeat(3000), '%F0%9F%A6%91', "'; --"];
const utf8 = (value: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify(value));

/** Every route with what it is sent when all is well. `:id` and `:bake` are a project and a bake that are there. */
function routes(files: Map<string, Seed>): [method: string, path: string, body?: Uint8Array, name?: string][] {
  const document = smallDocument();
  const of = (kind: string) => files.get(kind)!.bytes;
  return [
    ['GET', '/health'],
    ['GET', '/projects/templates'],
    ['GET', '/projects'],
    ['POST', '/projects', utf8({ name: 'Fuzz', template: 'empty' })],
    ['POST', '/projects/import', of('archive'), 'a.kelp'],
    ['POST', '/projects/import', of('project text'), 'a.kelp.json'],
    ['GET', '/projects/:id'],
    ['PUT', '/projects/:id', utf8({ basedOn: 1, document })],
    ['POST', '/projects/:id/restore'],
    ['PUT', '/projects/:id/cover', of('PNG')],
    ['GET', '/projects/:id/cover'],
    ['GET', '/projects/:id/revisions'],
    ['GET', '/projects/:id/revisions/1'],
    ['GET', '/projects/:id/archive'],
    ['GET', '/projects/:id/text'],
    ['POST', '/projects/:id/bakes', utf8({ piece: 'Piece', density: 1 })],
    ['GET', '/projects/:id/bakes'],
    ['GET', '/bakes/:bake'],
    ['GET', '/bakes/:bake/file'],
    ['POST', '/bakes/:bake/cancel'],
    ['PUT', '/props/:hash', of('GLB')],
    ['PUT', '/props/:hash', of('JPEG')],
    ['GET', '/props/:hash'],
  ];
}

/**
 * Sends a running server what its routes were not made for: spoilt bodies, ids that are none, queries, headers. Each is
 * answered within two seconds and with no 5xx but "busy"; the connection is never dropped.
 * @param runs this many requests, shared out evenly
 */
export async function fuzzRoutes(url: string, runs: number, seed: number): Promise<Tally[]> {
  const files = new Map((await seeds()).map((file) => [file.kind, file]));
  const json = { 'Content-Type': 'application/json' };
  const post = async (path: string, body: Uint8Array) =>
    (await fetch(`${url}/api${path}`, { method: 'POST', body: body as BodyInit, headers: json })).json();
  const project = await post('/projects', utf8({ name: 'Fuzz' }));
  const bake = await post(`/projects/${project.id}/bakes`, utf8({ density: 1 }));
  const known: Record<string, string> = { ':id': project.id, ':bake': bake.id };
  const all = routes(files);
  const tallies: Tally[] = [];
  for (const [method, path, body, name] of all) {
    const tally = new Tally(`${method} ${path}${name ? ` (${name})` : ''}`);
    tallies.push(tally);
    await eachOf(requestTo(path, body, name, known), Math.ceil(runs / all.length), seed, async (request, how) => {
      const began = performance.now();
      try {
        const answer = await fetch(`${url}/api${request.path}`, {
          method,
          headers: request.headers,
          body: request.body as BodyInit,
        });
        await answer.arrayBuffer();
        const { status } = answer;
        const fault = status >= 500 && status !== 503 ? { fault: `answered ${status}` } : undefined;
        tally.add(performance.now() - began, how, fault ?? (status < 400 ? 'taken' : 'refused'));
      } catch (error) {
        tally.add(performance.now() - began, how, { fault: `no answer (${(error as Error).cause ?? error})` });
      }
    });
    // projects that were made pile up otherwise
    for (const { id } of await (await fetch(`${url}/api/projects`)).json())
      if (id !== project.id) await fetch(`${url}/api/projects/${id}`, { method: 'DELETE' });
  }
  return tallies;
}

function requestTo(
  path: string,
  body: Uint8Array | undefined,
  name: string | undefined,
  known: Record<string, string>,
): fc.Arbitrary<Request> {
  const query = fc.constantFrom(
    '',
    '',
    '',
    '?name=%00',
    '?name=..%2f..%2fx.kelp',
    '?revision=1e9',
    '?a[]=1&a[b]=2',
    `?q=${'x'.repeat(5000)}`,
  );
  const id = fc.oneof({ weight: 4, arbitrary: fc.constant(undefined) }, fc.constantFrom(...AWKWARD_IDS));
  const type = fc.constantFrom(
    'application/json',
    'application/json',
    'application/octet-stream',
    'text/plain',
    'application/json; charset=utf-16',
    'nonsense',
  );
  const bodies = body
    ? fc.oneof({ weight: 6, arbitrary: spoilt(body) }, fc.constantFrom(body, new Uint8Array(0)))
    : fc.constant(undefined);
  return fc.tuple(id, query, type, bodies).map(([other, asked, contentType, sent]): Request => {
    let to = path;
    const hash = sent ? createHash('sha256').update(sent).digest('hex') : 'a'.repeat(64);
    for (const [key, value] of Object.entries({ ...known, ':hash': hash })) to = to.replace(key, other ?? value);
    const own = name && asked === '' ? `?name=${name}` : asked;
    const usual = name || !body || body[0] !== 0x7b ? 'application/octet-stream' : 'application/json';
    return {
      path: to + own,
      body: sent,
      headers: sent ? { 'Content-Type': other === undefined && asked === '' ? usual : contentType } : {},
    };
  });
}

/** Most memory that a process ever had, MB, as Linux reports it; undefined elsewhere. */
export function mostMemory(pid: number): number | undefined {
  try {
    const reported = /VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
    return reported ? Number(reported[1]) / 1024 : undefined;
  } catch {
    return undefined;
  }
}
