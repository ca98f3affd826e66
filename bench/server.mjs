// The server under bodies that are made to cost more than their length: how long others wait, what it takes of memory.
// Run by `npm run bench -- server`.
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from '../scripts/root.mjs';

const data = mkdtempSync(join(tmpdir(), 'kelp-bench-'));
const cli = join(root, 'packages/cli/bin/kelp.js');
const server = spawn(process.execPath, [cli, 'serve', '--port', '0', '--data', data]);
const url = await new Promise((resolve) =>
  server.stdout.on('data', (chunk) => resolve(String(chunk).match(/http:\S+/)[0])),
);
const results = [];
const row = (name, value, goal) => results.push({ name, value, goal });

const json = { 'Content-Type': 'application/json' };
const send = (method, path, body, headers) => fetch(`${url}/api${path}`, { method, headers, body });
const { id, document } = await (await send('POST', '/projects', JSON.stringify({ name: 'Bench' }), json)).json();
const savedAs = (list) => `{"basedOn":1,"document":{"format":"kelp-project","version":3,${list}}}`;
const points = { ...document, curves: Array.from({ length: 100 }, (_, c) => line(c)) };

try {
  await hostile(
    '20 MB of zeros for curves',
    'PUT',
    `/projects/${id}`,
    savedAs(`"curves":[${'0,'.repeat(1e7)}0]`),
    json,
  );
  await hostile(
    '300,000 pieces that are none',
    'PUT',
    `/projects/${id}`,
    savedAs(`"pieces":[${'{},'.repeat(3e5)}{}]`),
    json,
  );
  await hostile(
    '100,000 points saved',
    'PUT',
    `/projects/${id}`,
    JSON.stringify({ basedOn: 1, document: points }),
    json,
    1.5,
  );
  await hostile('100,000 points read', 'GET', `/projects/${id}`, undefined, {}, 1.5);
} finally {
  server.kill();
  rmSync(data, { recursive: true, force: true });
}
for (const { name, value, goal } of results)
  console.log(`${value <= goal ? 'ok  ' : 'MISS'} ${value.toFixed(2).padStart(8)}  (at most ${goal})  ${name}`);
const out = join(root, 'bench', 'out');
mkdirSync(out, { recursive: true });
writeFileSync(join(out, 'server.json'), `${JSON.stringify(results, null, 2)}\n`);

/** One request; the server's health is asked for all the while. `goal`: most seconds; by size where none is given. */
async function hostile(name, method, path, body, headers, goal) {
  const size = typeof body === 'string' ? body.length : (body?.byteLength ?? 0);
  const before = resident();
  let [longest, most, over] = [0, before, false];
  const asking = (async () => {
    while (!over) {
      const began = performance.now();
      await (await fetch(`${url}/api/health`)).text();
      longest = Math.max(longest, performance.now() - began);
      most = Math.max(most, resident());
      await new Promise((done) => setTimeout(done, 5));
    }
  })();
  const began = performance.now();
  const answer = await send(method, path, body, headers);
  await answer.arrayBuffer();
  const seconds = (performance.now() - began) / 1000;
  over = true;
  await asking;
  row(`${name}: answered ${answer.status}, seconds`, seconds, goal ?? Math.max(0.5, (0.1 * size) / 2 ** 20));
  row(`${name}: longest wait of another request, milliseconds`, longest, 250);
  // of a small body the threads' own room is the greater part
  if (size > 2 ** 24) row(`${name}: memory, as a multiple of the body`, (most - before) / size, 6);
}

/** Bytes of memory that the server has now. */
function resident() {
  const pages = Number(readFileSync(`/proc/${server.pid}/statm`, 'utf8').split(' ')[1]);
  return 4096 * pages;
}

function line(c) {
  const place = (i) => ({ position: [i, c, 0], corner: false, radius: 1 });
  return { id: `c${c}`, name: `Line ${c}`, closed: false, points: Array.from({ length: 1000 }, (_, i) => place(i)) };
}
