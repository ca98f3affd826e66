import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';

const KILLS = 50;
const data = mkdtempSync(join(tmpdir(), 'kelp-kill-'));
let server: ChildProcess | undefined;

afterAll(() => {
  server?.kill('SIGKILL');
  rmSync(data, { recursive: true, force: true });
});

/** Starts the server on the same data and gives its address. */
function start(): Promise<string> {
  const bin = new URL('../bin/kelp.js', import.meta.url).pathname;
  server = spawn(process.execPath, [bin, 'serve', '--port', '0', '--data', data]);
  return new Promise((resolve, reject) => {
    server?.stdout?.on('data', (chunk) => {
      const address = String(chunk).match(/http:\S+/)?.[0];
      if (address) resolve(address);
    });
    server?.once('exit', (code) => reject(new Error(`The server ended with ${code} before it had an address`)));
  });
}

const gone = () => new Promise((resolve) => server?.once('exit', resolve));

it(`kill -9 in the middle of saves, ${KILLS} times, loses no revision that was acknowledged`, async () => {
  let url = await start();
  const json = { 'Content-Type': 'application/json' };
  const made = await fetch(`${url}/api/projects`, { method: 'POST', headers: json, body: '{"name":"Kills"}' });
  const { id, document } = await made.json();
  let acknowledged = 1;
  for (let kill = 0; kill < KILLS; kill++) {
    const dead = gone();
    // somewhere in the middle of a burst of saves, another place each time
    const timer = setTimeout(() => server?.kill('SIGKILL'), 20 + ((kill * 37) % 150));
    for (let basedOn = acknowledged; ; basedOn++) {
      const body = JSON.stringify({ basedOn, document: { ...document, name: `State ${basedOn + 1}` } });
      const saved = await fetch(`${url}/api/projects/${id}`, { method: 'PUT', headers: json, body }).catch(() => null);
      if (!saved) break;
      expect(saved.status).toBe(200);
      acknowledged = (await saved.json().catch(() => ({ revision: acknowledged }))).revision;
    }
    await dead;
    clearTimeout(timer);
    url = await start();
    const now = await (await fetch(`${url}/api/projects/${id}`)).json();
    // a save may have reached the disk without its answer reaching us: it may be one ahead, never behind
    expect(now.revision - acknowledged).toBeGreaterThanOrEqual(0);
    expect(now.revision - acknowledged).toBeLessThanOrEqual(1);
    expect(now.document.name).toBe(now.revision === 1 ? 'Kills' : `State ${now.revision}`);
    const { length } = await (await fetch(`${url}/api/projects/${id}/revisions`)).json();
    expect(length).toBe(now.revision);
    acknowledged = now.revision;
  }
  expect(acknowledged).toBeGreaterThan(KILLS / 2);
}, 300_000);
