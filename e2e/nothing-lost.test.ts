import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('undo and redo go through everything; a dead server costs no edit; two tabs resolve a conflict', async ({
  page,
  kelp,
  context,
}) => {
  const bench = new Workbench(page);
  await page.goto(kelp.url);
  await page
    .getByRole('list', { name: 'Projects' })
    .getByRole('link', { name: /pier corner/ })
    .click();
  const pieces = page.getByRole('region', { name: 'Pieces' });
  await pieces.getByRole('button', { name: /^Buoy tether/ }).click();
  await bench.openFloat('Make');

  await bench.type('Radius', '20');
  await bench.type('Sides', '9');
  await page.getByRole('button', { name: 'Hide Lamp line' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Hide Lamp line' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('textbox', { name: 'Sides value' })).toHaveValue('14');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByRole('textbox', { name: 'Sides value' })).toHaveValue('9');
  await bench.saved();

  // the server dies without a word: the edit stays in the browser, over a reload too, and is saved when it is back
  await kelp.kill();
  await bench.type('Sides', '11');
  await expect(page.getByRole('status', { name: 'Save status' })).toHaveText('Server offline: kept in this browser');
  await kelp.restart();
  await page.reload();
  await pieces.getByRole('button', { name: /^Buoy tether/ }).click();
  await expect(page.getByRole('textbox', { name: 'Sides value' })).toHaveValue('11');
  await bench.saved();

  // a second tab saves first: the one that comes later is reported and keeps both
  const other = new Workbench(await context.newPage());
  await other.page.goto(page.url());
  await other.page.getByRole('textbox', { name: 'Project name' }).fill('Theirs');
  await other.page.getByRole('textbox', { name: 'Project name' }).press('Enter');
  await other.saved();
  await other.page.close();
  await bench.type('Sides', '7');
  await expect(page.getByRole('dialog')).toContainText('changed elsewhere');
  await page.getByRole('button', { name: 'Keep both: save mine as a new project' }).click();
  await expect(page.getByRole('textbox', { name: 'Project name' })).toHaveValue('Kelp farm, pier corner, my version');
  await page.goto(kelp.url);
  await expect(page.getByRole('list', { name: 'Projects' }).getByRole('listitem')).toHaveText([
    /my version/,
    /^Theirs/,
    /landing/,
    /rigging loft/,
    /sewing bench/,
    /nursery/,
    /slip/,
    /hauling yard/,
  ]);

  // again, but each side changed another piece: both are taken
  await page.goto(kelp.url);
  await page
    .getByRole('list', { name: 'Projects' })
    .getByRole('link', { name: /my version/ })
    .click();
  await pieces.getByRole('button', { name: /^Buoy tether/ }).click();
  const third = new Workbench(await context.newPage());
  await third.page.goto(page.url());
  await third.page.getByRole('button', { name: 'Hide Lamp line' }).click();
  await third.saved();
  await third.page.close();
  await bench.type('Sides', '6');
  await expect(page.getByRole('list', { name: 'Differences' }).getByRole('listitem')).toHaveText([
    /^Lamp line.*mine unchanged · theirs changed/,
    /^Buoy tether.*mine changed · theirs unchanged/,
  ]);
  await page.getByRole('button', { name: 'Continue' }).click();
  await bench.saved();
  // what was settled is a step like any other
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Hide Lamp line' })).toBeVisible();
  await page.getByRole('button', { name: 'Redo' }).click();
  await bench.saved();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Show Lamp line' })).toBeVisible();
  await pieces.getByRole('button', { name: /^Buoy tether/ }).click();
  await expect(page.getByRole('textbox', { name: 'Sides value' })).toHaveValue('6');
});
