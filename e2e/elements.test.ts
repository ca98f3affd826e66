import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { scanFile } from './scan.js';
import { Workbench } from './workbench.js';

test.describe('in the demo', () => {
  test.use({ demo: true });

  test('a float is picked, moved, turned, replaced and dropped by hand; it keeps that when the spacing changes, and all can be put back', async ({
    page,
    kelp,
  }) => {
    const bench = new Workbench(page);
    await bench.openDemo(kelp.url);
    await bench.piece('Fenders').click();
    await bench.openFloat('Make');
    await expect(page.getByText('1 changed by hand')).toBeVisible();
    await page.keyboard.press('f');
    // a click on the chosen piece picks what it meets
    const picked = page.getByRole('heading', { name: /^Picked element/ });
    await expect(async () => {
      for (let x = 0.1; x < 0.9 && !(await picked.isVisible()); x += 0.02)
        for (const y of [0.42, 0.47, 0.52, 0.57]) {
          await page.mouse.click(...(await bench.at(x, y)));
          if (await picked.isVisible()) break;
          if (
            !(
              await page
                .getByRole('textbox', { name: 'Name of the piece' })
                .inputValue()
                .catch(() => '')
            ).startsWith('Fenders')
          )
            await bench.piece('Fenders').click();
        }
      expect(await picked.isVisible()).toBe(true);
    }).toPass();
    await bench.type('Move Y', '120');
    await bench.type('Turn it', '45');
    await expect(page.getByText('2 changed by hand')).toBeVisible();
    // another spacing: the change stays with its element
    await bench.type('Spacing', '600');
    await expect(page.getByRole('textbox', { name: 'Move Y value' })).toHaveValue('120');
    await page.getByRole('button', { name: 'Drop it' }).click();
    await expect(page.getByRole('heading', { name: 'Picked element, dropped' })).toBeVisible();
    await page.getByRole('button', { name: 'Put it back' }).click();
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('heading', { name: 'Picked element, dropped' })).toBeVisible();
    await page.getByRole('button', { name: 'Put all back' }).click();
    await expect(page.getByText('changed by hand')).toBeHidden();
  });
});

test('on an open scanned mesh: a chain, stitches and a zip are drawn, floats placed, barnacles scattered, and baked without a finding', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'On the scan');
  await bench.importMesh(scanFile());
  await page.getByRole('group', { name: 'Unit of the file' }).getByRole('button', { name: 'cm', exact: true }).click();
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(page.getByRole('button', { name: /^rabbit / })).toBeVisible();
  await page.keyboard.press('f');
  await bench.stroke([0.4, 0.5], [0.47, 0.54], [0.54, 0.53], [0.6, 0.56]);
  await expect(page.getByRole('textbox', { name: 'Name of the piece' })).toHaveValue('Cable');
  const checks = page.getByRole('banner').getByRole('button', { name: /Checks/ });
  for (const [unit, preset] of [
    ['stitch', 'cross-stitch'],
    ['zip', 'half-open-zip'],
    ['chain', 'short-link-chain'],
    ['place', 'pearls'],
  ]) {
    await page.getByRole('button', { name: 'Locker' }).click();
    await page.getByRole('dialog', { name: 'Locker' }).locator(`[data-preset="${unit} ${preset}"]`).click();
    await expect(page.getByText(/[1-9][\d,]* tri$/).first()).toBeVisible();
    // a chain as thick as the cable was is as long as a few of its links
    if (unit !== 'chain') await expect(checks, `${unit} ${preset}`).toContainText('0');
  }
  // all over it: a piece of its own
  await page.getByRole('button', { name: 'New piece…' }).click();
  await page.getByRole('menuitem', { name: /^Scattered/ }).click();
  await bench.openFloat('Make');
  await page.getByRole('button', { name: 'Locker' }).click();
  await page.locator('[data-preset="place barnacles"]').click();
  await bench.type('Size', '0.8 mm');
  await expect(page.getByText(/^Elements 100$/)).toBeVisible();
  const objects = await bench.baked();
  expect(objects.length).toBeGreaterThan(1);
  for (const { mesh } of objects) expect(mesh.position.every(Number.isFinite)).toBe(true);
});
