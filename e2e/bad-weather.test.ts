import { writeFileSync } from 'node:fs';
import { expect, type Locator } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('pasted text, absurd values, long and right-to-left names, fast undo, a full disk, a restart and a lost view', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  const saving = page.getByRole('status', { name: 'Save status' });
  await bench.openDemo(kelp.url);
  await bench.piece('Buoy tether').click();
  await bench.openFloat('Make');

  // what is no number says so and leaves the value alone; what is beyond the limits says the limit
  const sides = page.getByRole('textbox', { name: 'Sides value' });
  for (const [typed, reported] of [
    ['drop table; 12', /number|read/i],
    ['1e308 * 10', /at most|number/i],
    ['-4', /at least 3/],
  ] as const) {
    await sides.fill(typed);
    await sides.press('Enter');
    await expect(page.getByRole('alert').filter({ hasText: reported })).toBeVisible();
    await sides.press('Escape');
    await expect(sides).toHaveValue('14');
  }

  const name = page.getByRole('textbox', { name: 'Piece name' });
  await name.fill('x'.repeat(10_000));
  await name.press('Enter');
  await expect(name).toHaveValue('x'.repeat(200));
  await name.fill('مرساة العوامة');
  await name.press('Enter');
  await bench.saved();
  await expect(bench.piece('مرساة العوامة')).toBeVisible();

  // fifty quick steps back and forth while everything is being built
  for (let i = 0; i < 8; i++) await bench.type('Sides', String(5 + i));
  await page.getByRole('heading', { name: 'Manifest' }).click();
  for (let i = 0; i < 25; i++) {
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+Shift+z');
  }
  await expect(sides).toHaveValue('12');
  await expect(page.getByText(/2\.\d+ m · [\d,]+ tri|1\.\d+ m · [\d,]+ tri/).first()).toBeVisible();

  // the disk is full: the edit stays here, the header says why, and it is saved once there is room
  await page.route('**/api/projects/*', async (route) => {
    if (route.request().method() !== 'PUT') return route.continue();
    const problem = { title: 'Disk full', status: 507, detail: 'The disk of the server is full.' };
    await route.fulfill({ status: 507, contentType: 'application/problem+json', body: JSON.stringify(problem) });
  });
  await bench.type('Sides', '20');
  await expect(saving).toHaveText('Disk full: kept in this browser');
  await page.unroute('**/api/projects/*');
  await bench.saved();

  // the server goes down between an edit and its save, and comes back
  await bench.type('Sides', '21');
  await kelp.kill();
  await kelp.restart();
  await expect(saving).toHaveText(/^Saved/, { timeout: 30_000 });
  await page.reload();
  await bench.piece('مرساة العوامة').click();
  await expect(sides).toHaveValue('21');

  // the graphics card lets go of the view, and takes it up again: the picture is the one of before
  const view = page.locator('canvas').first();
  await page.getByText(/tri$/).first().waitFor();
  await page.waitForTimeout(3000);
  const before = await view.screenshot();
  await view.evaluate((canvas: HTMLCanvasElement) => {
    const lose = canvas.getContext('webgl2')?.getExtension('WEBGL_lose_context');
    (window as { bringBack?: () => void }).bringBack = () => lose?.restoreContext();
    lose?.loseContext();
  });
  await expect(page.getByText('The graphics card lost the view.')).toBeVisible();
  await page.evaluate(() => (window as { bringBack?: () => void }).bringBack?.());
  await expect(page.getByText('The graphics card lost the view.')).toBeHidden();
  await page.waitForTimeout(3000);
  const after = await view.screenshot();
  expect(Math.abs(after.length - before.length) / before.length).toBeLessThan(0.02);
});

test('an archive of a newer version is refused with a word on what to do', async ({ page, kelp }) => {
  await page.goto(kelp.url);
  const newer = { format: 'kelp-project', version: 99, name: 'From tomorrow' };
  await page.getByLabel('Project file').setInputFiles({
    name: 'tomorrow.kelp.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(newer)),
  });
  await expect(page.getByRole('alert')).toContainText(/newer|update/i);
  await expect(page.getByRole('list', { name: 'Projects' }).getByRole('listitem')).toHaveCount(7);
});

test('files that are broken, or far too much, are reported with a reason; meanwhile the page can be used, and reading be stopped', async ({
  page,
  kelp,
}, testInfo) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  const dialog = page.getByRole('dialog', { name: /^Import/ });
  const give = async (file: Parameters<Locator['setInputFiles']>[0]) => {
    await page.getByRole('button', { name: 'Import a file…' }).click();
    await page.getByLabel('File to import').setInputFiles(file);
  };
  // a thousand bytes that claim two hundred million places
  const json = JSON.stringify({
    asset: { version: '2.0' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0 }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
    accessors: [{ componentType: 5126, type: 'VEC3', count: 2e8 }],
  }).padEnd(1000);
  const head = Buffer.alloc(20);
  for (const [k, value] of [0x46546c67, 2, 1020, 1000, 0x4e4f534a].entries()) head.writeUInt32LE(value, 4 * k);
  for (const [name, buffer, words] of [
    ['claims.glb', Buffer.concat([head, Buffer.from(json)]), /accessors\[0\]/],
    ['noise.stl', Buffer.from('solid \u0000\u0001'.repeat(50)), /noise\.stl/],
    ['cut.svg', Buffer.from('<svg><path d="M0 0 C'), /cut\.svg/],
    ['half.jpg', Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 16]), /is broken/],
  ] as const) {
    await give({ name, mimeType: 'application/octet-stream', buffer });
    await expect(dialog.getByRole('alert')).toContainText(words);
    await dialog.getByRole('button', { name: 'Cancel' }).click();
    await expect(dialog).toBeHidden();
  }

  // forty megabytes of text take a while: the page answers all the while, and Stop is at once
  const long = testInfo.outputPath('long.obj');
  writeFileSync(long, `${'v 0.123456 1.5 2.5\n'.repeat(2_000_000)}f 1 2 3\n`);
  await give(long);
  await expect(dialog.getByRole('status')).toContainText(/Reading long\.obj \(3\d\.\d MB\)/);
  const longest = await page.evaluate(async () => {
    let most = 0;
    for (let k = 0; k < 10; k++) {
      const began = performance.now();
      await new Promise((after) => setTimeout(after, 20));
      most = Math.max(most, performance.now() - began);
    }
    return most;
  });
  expect(longest).toBeLessThan(500);
  await dialog.getByRole('button', { name: 'Stop' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText(/tri$/).first()).toBeVisible();
});
