import 'fake-indexeddb/auto';
import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { emptyDocument } from '@kelp/core';
import { configureStore } from '@reduxjs/toolkit';
import { afterAll, expect, it, vi } from 'vitest';
import { api } from '../src/api/client.js';
import type { AppDispatch } from '../src/app/store.js';
import { readJournal } from '../src/state/journal.js';
import { openProject } from '../src/state/open-project.js';
import { edited, projectReducer } from '../src/state/project-slice.js';
import { createSaving } from '../src/state/saving.js';
import { viewReducer } from '../src/state/view-slice.js';

const KILLS = 50;
const data = mkdtempSync(join(tmpdir(), 'kelp-kill-'));
const realFetch = fetch;
let server: ChildProcess | undefined;
let url: string;

afterAll(() => {
  server?.kill('SIGKILL');
  vi.unstubAllGlobals();
  rmSync(data, { recursive: true, force: true });
});

/** Starts the server on the same data; from then on `url` is its address. */
async function start(): Promise<void> {
  const bin = new URL('../../cli/bin/kelp.js', import.meta.url).pathname;
  server = spawn(process.execPath, [bin, 'serve', '--port', '0', '--data', data]);
  url = await new Promise<string>((resolve, reject) => {
    server?.stdout?.on('data', (chunk) => {
      const address = String(chunk).match(/http:\S+/)?.[0];
      if (address) resolve(address);
    });
    server?.once('exit', (code) => reject(new Error(`The server ended with ${code} before it had an address`)));
  });
}

const until = (condition: () => boolean) => vi.waitFor(() => expect(condition()).toBe(true), { timeout: 60_000 });

/** A tab with the project open, as the browser runs it, with a quicker hand. */
async function openTab(id: string) {
  let gone = false;
  vi.stubGlobal('fetch', async (path: string, init?: RequestInit) => {
    const answer = gone ? undefined : await realFetch(url + path, init);
    // nothing reaches a tab that is gone
    return answer && !gone ? answer : new Promise(() => {});
  });
  const store = configureStore({
    reducer: { project: projectReducer, view: viewReducer },
    middleware: (defaults) =>
      defaults({ serializableCheck: false, immutableCheck: false }).prepend(
        createSaving({ rest: 4, retry: 25 }).middleware,
      ),
  });
  await (store.dispatch as unknown as AppDispatch)(openProject(id));
  return {
    state: () => store.getState().project,
    /** One edit, in the journal when this is done. */
    edit: async (name: string) => {
      store.dispatch(edited({ document: emptyDocument(name), label: 'Edit' }));
      await readJournal(id);
    },
    crash: () => {
      gone = true;
    },
  };
}

/** Saves as fast as the server answers, until it is dead; gives the newest revision that it acknowledged. */
async function burst(id: string, newest: number): Promise<number> {
  let acknowledged = newest;
  for (let basedOn = newest; ; basedOn++) {
    const body = JSON.stringify({ basedOn, document: emptyDocument(`State ${basedOn + 1}`) });
    const headers = { 'Content-Type': 'application/json' };
    const saved = await realFetch(`${url}/api/projects/${id}`, { method: 'PUT', headers, body }).catch(() => null);
    if (!saved) return acknowledged;
    expect(saved.status).toBe(200);
    acknowledged = (await saved.json().catch(() => ({ revision: acknowledged }))).revision;
  }
}

it(`kill -9 in the middle of saves, ${KILLS} times, loses no revision that was acknowledged and no edit in the journal`, async () => {
  await start();
  vi.stubGlobal('fetch', (path: string, init?: RequestInit) => realFetch(url + path, init));
  const { id: others } = await api.createProject('Others', 'empty');
  const { id } = await api.createProject('Mine', 'empty');
  let acknowledged = 1;
  let edits = 0;
  let tab = await openTab(id);
  for (let kill = 0; kill < KILLS; kill++) {
    const dead = once(server as ChildProcess, 'exit');
    // somewhere in the middle of a burst of saves, another place each time
    const timer = setTimeout(() => server?.kill('SIGKILL'), 20 + ((kill * 37) % 150));
    const saving = burst(others, acknowledged);
    while (server?.signalCode === null) {
      await tab.edit(`Edit ${++edits}`);
      await pause((edits * 7) % 20);
    }
    acknowledged = await saving;
    await dead;
    clearTimeout(timer);
    await tab.edit(`Edit ${++edits}`);
    const tabDiesToo = kill % 2 === 0;
    if (tabDiesToo) tab.crash();
    await start();
    if (tabDiesToo) tab = await openTab(id);

    const now = await api.project(others);
    // a save may have reached the disk without its answer reaching us: it may be one ahead, never behind
    expect(now.revision - acknowledged).toBeGreaterThanOrEqual(0);
    expect(now.revision - acknowledged).toBeLessThanOrEqual(1);
    expect(now.document.name).toBe(now.revision === 1 ? 'Others' : `State ${now.revision}`);
    expect(await api.revisions(others)).toHaveLength(now.revision);
    acknowledged = now.revision;

    expect(tab.state().document?.name).toBe(`Edit ${edits}`);
    await until(() => tab.state().save.state === 'saved');
    expect((await api.project(id)).document.name).toBe(`Edit ${edits}`);
  }
  expect(acknowledged).toBeGreaterThan(KILLS / 2);
}, 600_000);
