import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('the manifest orders, filters, widens to a grid, isolates, duplicates, moves and deletes; a check is ignored with a reason', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  const pieces = page.getByRole('region', { name: 'Pieces' });
  const names = () =>
    pieces
      .getByRole('button', { name: /^More actions for / })
      .evaluateAll((buttons) => buttons.map((button) => button.ariaLabel?.slice('More actions for '.length)));
  const more = async (name: string, item: string) => {
    await page.getByRole('button', { name: `More actions for ${name}`, exact: true }).click();
    await page.getByRole('menu').getByText(item).click();
  };
  await expect.poll(names).toHaveLength(20);
  const own = await names();

  await pieces.getByRole('button', { name: 'Sort by length' }).click();
  await expect.poll(async () => (await names())[0]).toBe('Eelgrass');
  await pieces.getByRole('button', { name: 'Sort by length' }).click();
  await expect.poll(async () => (await names())[0]).toBe('Shaft spring');
  await page.getByRole('combobox', { name: 'Order of pieces' }).click();
  await page.getByRole('option', { name: 'By name' }).click();
  await expect.poll(names).toEqual(own.toSorted());
  await page.getByRole('combobox', { name: 'Order of pieces' }).click();
  await page.getByRole('option', { name: 'Manual order' }).click();
  await page.getByRole('textbox', { name: 'Filter the Manifest' }).fill(' LINE');
  // the list follows the letters as soon as it can
  await expect.poll(names).toEqual(['Lamp line', 'Mooring line']);
  await page.getByRole('textbox', { name: 'Filter the Manifest' }).fill('');
  await expect.poll(names).toHaveLength(20);

  // wider, it shows every figure, and stays as wide over a reload
  const edge = page.getByRole('separator', { name: 'Manifest width' });
  const triangles = pieces.getByRole('button', { name: 'Sort by triangles' });
  await expect(triangles).toBeHidden();
  const at = await edge.boundingBox();
  if (!at) throw new Error('There is no edge');
  await page.mouse.move(at.x + at.width / 2, 400);
  await page.mouse.down();
  await page.mouse.move(780, 400, { steps: 6 });
  await page.mouse.up();
  await expect(triangles).toBeVisible();
  await page.reload();
  await expect(triangles).toBeVisible();
  await triangles.click();
  await expect.poll(async () => (await names())[0]).toBe('Water pipe');

  await more('Hose coil', 'Show it only, or all again');
  await expect(page.getByRole('button', { name: 'Show Lamp line' })).toBeVisible();
  await more('Hose coil', 'Show it only, or all again');
  await expect(page.getByRole('button', { name: 'Hide Lamp line' })).toBeVisible();

  await page.getByRole('combobox', { name: 'Order of pieces' }).click();
  await page.getByRole('option', { name: 'Manual order' }).click();
  await more('Lamp line', 'Duplicate');
  await expect.poll(names).toContain('Lamp line 2');
  const [first, second] = await names();
  await more(String(first), 'Move down');
  await expect.poll(async () => (await names()).slice(0, 2)).toEqual([second, first]);
  await more('Lamp line 2', 'Delete');
  await expect.poll(names).not.toContain('Lamp line 2');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(names).toContain('Lamp line 2');

  // a heavy piece may be shown as its line or coarser: the bake makes all of it all the same
  await bench.piece('Hose coil').click();
  const measures = page.getByText(/ tri( · draft)?$/).first();
  await expect(measures).toHaveText('5.28 m · 9,856 tri');
  await more('Hose coil', 'Line only');
  await expect(measures).toContainText('draft');
  await expect(bench.piece('Hose coil line only')).toBeVisible();
  await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
  await expect(page.getByRole('row', { name: /^Hose coil ≈ / })).toBeVisible();
  await page.getByRole('button', { name: 'Close Bake' }).click();
  await more('Hose coil', 'Draft');
  await expect(bench.piece('Hose coil draft')).toBeVisible();
  await more('Hose coil', 'Full detail');
  await expect(measures).toHaveText('5.28 m · 9,856 tri');

  // too thick for its bends: it is reported, gone to, meant to be so, and looked for again
  await bench.piece('Mooring line').click();
  await bench.openFloat('Make');
  await bench.type('Radius', '60');
  await page
    .getByRole('banner')
    .getByRole('button', { name: /Checks/ })
    .click();
  const checks = page.getByRole('complementary', { name: 'Checks' });
  const found = checks.getByRole('article', { name: /Mooring line/ });
  await expect(found.first()).toBeVisible();
  await found.first().getByRole('button', { name: 'Show in view' }).click();
  await found.first().getByRole('button', { name: 'Ignore…' }).click();
  await found.first().getByRole('textbox', { name: 'Reason' }).fill('a fender, not a rope');
  const count = await found.count();
  await found.first().getByRole('button', { name: 'Ignore' }).click();
  await expect(checks).toContainText('is ignored: a fender, not a rope');
  await expect.poll(() => found.count()).toBeLessThan(count);
  await checks.getByRole('button', { name: 'Stop ignoring' }).click();
  await expect(found).toHaveCount(count);
});
