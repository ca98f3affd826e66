import { expect } from '@playwright/test';
import { bunnyGlb } from './bunny.js';
import { test } from './kelp-server.js';
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
    // each float in turn is looked for along its line, until one is met
    const picked = page.getByRole('heading', { name: /^Picked element/ });
    for (let k = 0; k < 60 && !(await picked.isVisible()); k++) {
      await page.mouse.click(...(await bench.at(0.2 + 0.01 * k, 0.52 + 0.04 * ((k % 3) - 1))));
      if (!(await bench.page.getByText(/Fenders/).first().isVisible())) await bench.piece('Fenders').click();
    }
    await expect(picked).toBeVisible();
    await bench.type('Move Y', '120');
    await bench.type('Turn it', '45');
    await expect(page.getByText('2 changed by hand')).toBeVisible();
    // another spacing: the change stays with its element
    await bench.type('Spacing', '600');
    await expect(page.getByRole('textbox', { name: 'Move Y' })).toHaveValue('120');
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
  await bench.importMesh({ name: 'scan.glb', mimeType: 'model/gltf-binary', buffer: await bunnyGlb() });
  await expect(page.getByText(/faces/).first()).toBeVisible();
  await bench.stroke([0.42, 0.5], [0.5, 0.52], [0.58, 0.55]);
  const checks = page.getByRole('banner').getByRole('button', { name: /Checks/ });
  for (const [unit, preset] of [
    ['stitch', 'Crosses'],
    ['zip', 'Moulded'],
    ['chain', 'Short link'],
    ['place', 'Pearls'],
  ]) {
    await page.getByRole('button', { name: 'Locker' }).click();
    await page.getByRole('dialog', { name: 'Locker' }).locator(`[data-preset^="${unit} "]`).filter({ hasText: preset }).first().click(); // biome-ignore format: one line
    await expect(page.getByText(/[1-9][\d,]* tri$/).first()).toBeVisible();
    await expect(checks, `${unit} ${preset}`).toContainText('0');
  }
  const { pieces } = await bench.baked();
  expect(pieces.length).toBeGreaterThan(0);
});
