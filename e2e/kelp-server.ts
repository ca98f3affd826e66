import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
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

const CLI = new URL('../packages/cli/bin/kelp.js', import.meta.url).pathname;

/** The real server, as its own process, with a database of its own. */
export const test = base.extend<{ demo: boolean; cli: string; kelp: KelpServer }>({
  // the tour comes by itself at the first visit; here it comes when it is asked for
  context: async ({ context }, use) => {
    await context.addInitScript(() => localStorage.setItem('kelp-tour', 'seen'));
    await use(context);
  },
  demo: [false, { option: true }],
  /** The built command line that serves. */
  cli: [CLI, { option: true }],
  kelp: async ({ demo, cli }, use) => {
    const data = mkdtempSync(join(tmpdir(), 'kelp-e2e-'));
    let port = 0;
    let child: ChildProcess;
    const start = () =>
      new Promise<string>((resolve, reject) => {
        child = spawn(process.execPath, [
          cli,
          'serve',
          '--port',
          String(port),
          '--data',
          data,
          ...(demo ? ['--with-demo'] : []),
        ]);
        let said = '';
        const listen = (chunk: Buffer) => {
          said += chunk;
          const url = said.match(/http:\/\/\S+/)?.[0];
          if (url) resolve(url);
        };
        child.stdout?.on('data', listen);
        child.stderr?.on('data', (chunk) => {
          said += chunk;
        });
        child.on('exit', (code) => reject(new Error(`The server ended with ${code}: ${said}`)));
      });
    const url = await start();
    port = Number(new URL(url).port);
    const kill = () =>
      new Promise<void>((resolve) => {
        child.once('exit', () => resolve());
        child.kill('SIGKILL');
      });
    const peak = () => {
      const status = readFileSync(`/proc/${child.pid}/status`, 'utf8');
      return 1024 * Number(status.match(/VmHWM:\s+(\d+) kB/)?.[1]);
    };
    await use({ url, kill, restart: async () => void (await start()), peak });
    await kill();
    rmSync(data, { recursive: true, force: true });
  },
});
