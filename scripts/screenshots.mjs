// npm run screenshots: one current picture of each main view, from the demo data, into docs/screenshots.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { launchOptions } from './chromium.mjs';
import { root } from './root.mjs';

const data = mkdtempSync(join(tmpdir(), 'kelp-shots-'));
const server = spawn(process.execPath, [
  join(root, 'packages/cli/bin/kelp.js'),
  'serve',
  '--port',
  '0',
  '--data',
  data,
  '--with-demo',
]);
const url = await new Promise((resolve) =>
  server.stdout.on('data', (chunk) => resolve(String(chunk).match(/http:\S+/)[0])),
);
const browser = await chromium.launch(launchOptions());
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(120_000);

/** Waits until the picture stands still, then takes it. */
async function shoot(name) {
  await page.mouse.move(700, 20);
  await page.waitForTimeout(3500);
  await page.screenshot({ path: join(root, 'docs', 'screenshots', `${name}.png`), timeout: 120_000 });
  console.log(name);
}
const piece = (name) =>
  page.getByRole('region', { name: 'Pieces' }).getByRole('button', { name: new RegExp(`^${name}`) });
const float = (name) => page.getByRole('region', { name, exact: true }).getByRole('button').first();

await page.goto(url);
await page.getByRole('list', { name: 'Projects' }).getByRole('link').click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(4000);
await piece('Mooring line').click();
await page.getByAltText('').nth(2).waitFor();
await shoot('workbench');

await page.keyboard.press('Escape');
await shoot('overview');

await piece('Bridge hose').click();
await page.keyboard.press('f');
await page.getByRole('button', { name: 'Mesh', exact: true }).click();
await float('Shape').click();
await shoot('mesh-look');

await page.getByRole('button', { name: 'Dressed' }).click();
await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
await page.getByRole('button', { name: 'Bake to GLB' }).click();
await page.getByRole('link', { name: 'Download' }).waitFor();
await shoot('bake-panel');

await piece('Shore power')
  .or(page.getByRole('button', { name: 'Close Bake' }))
  .first()
  .click();
await piece('Shore power').click();
await page.keyboard.press('f');
await float('Make').click();
const least = page.getByRole('textbox', { name: 'Least bend value' });
await least.fill('9');
await least.press('Enter');
await page
  .getByRole('banner')
  .getByRole('button', { name: /Checks/ })
  .click();
await shoot('checks');

await page.goto(url);
await page.getByRole('list', { name: 'Projects' }).getByRole('link').waitFor();
await shoot('project-list');

await browser.close();
server.kill();
rmSync(data, { recursive: true, force: true });
