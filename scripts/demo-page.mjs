// The built Kelp with its demo in a folder of its own, and a page of a browser on it.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { launchOptions } from './chromium.mjs';
import { root } from './root.mjs';

/** @param stored what the browser remembers from the beginning, by name */
export async function openDemoPage(stored = {}) {
  const data = mkdtempSync(join(tmpdir(), 'kelp-shots-'));
  const cli = join(root, 'packages/cli/bin/kelp.js');
  const server = spawn(process.execPath, [cli, 'serve', '--port', '0', '--data', data, '--with-demo']);
  const url = await new Promise((resolve) =>
    server.stdout.on('data', (chunk) => resolve(String(chunk).match(/http:\S+/)[0])),
  );
  const browser = await chromium.launch(launchOptions());
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.setDefaultTimeout(120_000);
  await page.addInitScript(
    (all) => {
      for (const [name, value] of Object.entries(all)) localStorage.setItem(name, value);
      // the tour comes by itself at the first visit
    },
    { 'kelp-tour': 'seen', ...stored },
  );
  const close = async () => {
    await browser.close();
    server.kill();
    rmSync(data, { recursive: true, force: true });
  };
  return { page, url, close };
}
