import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base } from '@playwright/test';

export interface KelpServer {
  url: string;
  /** Stops the server at once, as a power cut would, and starts it again on the same data and port. */
  kill(): Promise<void>;
  restart(): Promise<void>;
  /** The most memory it has had, bytes (proc(5), VmHWM). */
  peak(): number;
}

/** The built command line. */
export const CLI = new URL('../packages/cli/bin/kelp.js', import.meta.url).pathname;

/** The real server, as its own process, with a database of its own. */
export const test = base.extend<
  { demo: boolean; cli: string; kelp: KelpServer },
  { demoData: (into: string) => Promise<void> }
>({
  // the tour comes by itself at the first visit, here when it is asked for; without shadows a processor draws twice as fast
  context: async ({ context }, use) => {
    await context.addInitScript(() => {
      if (localStorage.length > 0) return;
      localStorage.setItem('kelp-tour', 'seen');
      localStorage.setItem('kelp-shadows', 'none');
    });
    await use(context);
  },
  demo: [false, { option: true }],
  /** The built command line that serves. */
  cli: [CLI, { option: true }],
  // a server puts the demo together in seconds: once for all tests of a worker, each begins with a copy
  demoData: [
    // biome-ignore lint/correctness/noEmptyPattern: the test runner reads from the pattern what is needed: nothing
    async ({}, use) => {
      const kept = mkdtempSync(join(tmpdir(), 'kelp-demo-'));
      let made: Promise<void> | undefined;
      await use(async (into) => {
        made ??= serve(CLI, kept, 0, ['--with-demo']).then(({ child }) => ended(child, 'SIGTERM'));
        await made;
        cpSync(kept, into, { recursive: true });
      });
      rmSync(kept, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  kelp: async ({ demo, cli, demoData }, use) => {
    const data = mkdtempSync(join(tmpdir(), 'kelp-e2e-'));
    if (demo) await demoData(data);
    let { child, url } = await serve(cli, data);
    const port = Number(new URL(url).port);
    await use({
      url,
      kill: () => ended(child, 'SIGKILL'),
      restart: async () => {
        ({ child } = await serve(cli, data, port));
      },
      peak: () => {
        const status = readFileSync(`/proc/${child.pid}/status`, 'utf8');
        return 1024 * Number(status.match(/VmHWM:\s+(\d+) kB/)?.[1]);
      },
    });
    await ended(child, 'SIGKILL');
    rmSync(data, { recursive: true, force: true });
  },
});

/** Starts a server on a folder and waits for the address it reports. */
function serve(cli: string, data: string, port = 0, more: string[] = []) {
  return new Promise<{ child: ChildProcess; url: string }>((resolve, reject) => {
    const child = spawn(process.execPath, [cli, 'serve', '--port', String(port), '--data', data, ...more]);
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => {
      said += chunk;
      const url = said.match(/http:\/\/\S+/)?.[0];
      if (url) resolve({ child, url });
    });
    child.stderr.on('data', (chunk) => {
      said += chunk;
    });
    child.on('exit', (code) => reject(new Error(`The server ended with ${code}: ${said}`)));
  });
}

function ended(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  return new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve();
    child.once('exit', () => resolve());
    child.kill(signal);
  });
}
