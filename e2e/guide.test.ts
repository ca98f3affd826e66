import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('the guide opens at the page of the unit in hand, with its picture, and is found by search', async ({
  page,
  context,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  await bench.piece('Mooring line').click();
  await bench.openFloat('Make');
  const opened = context.waitForEvent('page');
  await page.getByRole('link', { name: /^Guide: / }).click();
  const guide = await opened;
  await expect(guide.getByRole('heading', { name: 'Steps' })).toBeVisible();
  const picture = guide.getByRole('main').getByRole('img');
  await expect.poll(() => picture.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThan(1000);
  await guide.getByRole('link', { name: 'Zips' }).click();
  await expect(guide.getByRole('heading', { name: 'Zips' })).toBeVisible();

  await page.keyboard.press('Control+k');
  await page.keyboard.type('guide zipper');
  await expect(page.getByRole('option', { name: 'Guide: Zips' })).toBeVisible();
});
