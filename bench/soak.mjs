// One server under everything at once for twenty minutes: saves, bakes, cancels, imports, listeners that go away. Its memory
// at the end against that after a tenth of the time, and the files and sockets it has open. `npm run bench -- soak [MINUTES]`.
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from '../scripts/root.mjs';

const minutes = Number(process.argv[3] ?? 20);
if (!(minutes > 0)) throw new Error('Ask for a number of minutes: npm run bench -- soak 20');
/** Memory at the end, as a share of that after the first tenth, at most. */
const GROWTH = 1.2;
/** At work at once. */
const HANDS = 4;

const data = mkdtempSync(join(tmpdir(), 'kelp-soak-'));
const cli = join(root, 'packages/cli/bin/kelp.js');
const server = spawn(process.execPath, [cli, 'serve', '--port', '0', '--data', data, '--with-demo']);
const url = await new Promise((resolve) =>
  server.stdout.on('data', (chunk) => resolve(String(chunk).match(/http:\S+/)[0])),
);
const json = { 'Content-Type': 'application/json' };
const call = async (method, path, body, headers = json) => {
  const answer = await fetch(`${url}/api${path}`, { method, headers, body });
  if (answer.status >= 500 && answer.status !== 503) throw new Error(`${method} ${path} was answered ${answer.status}`);
  const type = answer.headers.get('Content-Type') ?? '';
  return type.includes('json') ? answer.json() : Buffer.from(await answer.arrayBuffer());
};

/** State of the server by the system: memory in use, MB, and open files and sockets. Linux only. */
const reported = () => ({
  memory: Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))[1]) / 1024,
  handles: readdirSync(`/proc/${server.pid}/fd`).length,
});
const done = { saves: 0, bakes: 0, cancels: 0, imports: 0, listeners: 0 };
const [demo] = await call('GET', '/projects');
const archive = await call('GET', `/projects/${demo.id}/archive`);

/** One round of all that is done to a server. */
async function round() {
  const { id } = await call('POST', '/projects/import?name=soak.kelp', archive, {
    'Content-Type': 'application/octet-stream',
  });
  done.imports++;
  for (let save = 0; save < 5; save++) {
    const { document, revision } = await call('GET', `/projects/${id}`);
    document.pieces[0].name = `Saved ${save}`;
    await call('PUT', `/projects/${id}`, JSON.stringify({ basedOn: revision, document }));
    done.saves++;
  }
  const { id: whole } = await call('POST', `/projects/${id}/bakes`, JSON.stringify({ density: 1 }));
  const { id: stopped } = await call('POST', `/projects/${id}/bakes`, JSON.stringify({ density: 4 }));
  // one listens to the end, one goes away
  const leaves = new AbortController();
  const gone = fetch(`${url}/api/bakes/${stopped}/events`, { signal: leaves.signal }).then((stream) => stream.text());
  const heard = whole && fetch(`${url}/api/bakes/${whole}/events`).then((stream) => stream.text());
  await new Promise((after) => setTimeout(after, 60));
  leaves.abort();
  await gone.catch(() => {});
  if (stopped) await call('POST', `/bakes/${stopped}/cancel`);
  done.cancels++;
  await heard;
  done.listeners += 2;
  if (whole) await call('GET', `/bakes/${whole}/file`);
  done.bakes++;
  await call('DELETE', `/projects/${id}`);
}

const began = performance.now();
const share = () => (performance.now() - began) / (60_000 * minutes);
let early;
try {
  const hands = Array.from({ length: HANDS }, async () => {
    while (share() < 1) {
      await round();
      if (!early && share() > 0.1) early = reported();
    }
  });
  await Promise.all(hands);
  // keep-alive sockets end, and what was let go is gathered
  await new Promise((after) => setTimeout(after, 10_000));
  const late = reported();
  const results = [
    {
      name: 'memory at the end, as a share of that after a tenth of the time',
      value: late.memory / early.memory,
      goal: GROWTH,
    },
    {
      name: 'files and sockets open at the end, beyond those after a tenth of the time',
      value: Math.max(0, late.handles - early.handles),
      goal: 0,
    },
  ];
  console.log(
    `${minutes} minutes: ${Object.entries(done)
      .map(([what, count]) => `${count} ${what}`)
      .join(', ')}; ${late.memory.toFixed(0)} MB, ${late.handles} handles`,
  );
  for (const { name, value, goal } of results)
    console.log(`${value <= goal ? 'ok  ' : 'MISS'} ${value.toFixed(2).padStart(8)}  (at most ${goal})  ${name}`);
  const out = join(root, 'bench', 'out');
  mkdirSync(out, { recursive: true });
  writeFileSync(join(out, 'soak.json'), `${JSON.stringify({ minutes, done, early, late, results }, null, 2)}\n`);
} finally {
  server.kill();
  rmSync(data, { recursive: true, force: true });
}
