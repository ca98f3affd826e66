import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test('one of many is picked, moved, turned and dropped by hand; it keeps that when the gap changes, and all can be put back', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Pearls');
  await page.getByRole('button', { name: 'New piece…' }).click();
  await page.getByRole('menuitem', { name: /^Figure/ }).click();
  await bench.openFloat('Make');
  await page.getByRole('button', { name: 'Locker' }).click();
  await page.locator('[data-preset="place pearls"]').click();
  await bench.type('Size', '40 mm');
  const count = page.getByText(/^Parts \d+$/);
  const all = await count.textContent();
  await page.keyboard.press('f');
  // a click on the chosen piece picks what it meets
  const picked = page.getByRole('heading', { name: /^Selected part/ });
  const pick = async () => {
    for (let y = 0.9; y > 0.4 && !(await picked.isVisible()); y -= 0.02) {
      await page.mouse.click(...(await bench.at(0.5, y)));
      await page.waitForTimeout(300);
      if (await page.getByText('Nothing selected').isVisible()) {
        await bench.piece('Figure').click();
        await bench.openFloat('Make');
      }
    }
    await expect(picked).toBeVisible();
  };
  await pick();
  await bench.type('Move Y', '120');
  await bench.type('Rotation', '45');
  await expect(page.getByText('1 edited by hand')).toBeVisible();
  // another gap: the change stays with its element
  await bench.type('Gap', '20');
  await expect(count).not.toHaveText(all ?? '');
  await expect(page.getByRole('textbox', { name: 'Move Y value' })).toHaveValue('120');
  await page.getByRole('button', { name: 'Remove part' }).click();
  const dropped = page.getByRole('heading', { name: 'Selected part, removed' });
  await expect(dropped).toBeVisible();
  await page.getByRole('button', { name: 'Reset part' }).click();
  await expect(dropped).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(dropped).toBeVisible();
  await page.getByRole('button', { name: 'Reset all' }).click();
  await expect(page.getByText('changed by hand')).toBeHidden();
  // those that are bent along the line are one mesh, and still picked one by one
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(picked).toBeHidden();
  await page.getByText('Orientation', { exact: true }).click();
  await page.getByRole('button', { name: 'Bent' }).click();
  await pick();
  const triangles = page.getByText(/[1-9][\d,]* tri$/).first();
  const before = await triangles.textContent();
  await page.getByRole('button', { name: 'Remove part' }).click();
  await expect(triangles).not.toHaveText(before ?? '');
});

test('on an open scanned mesh: a chain, stitches and a zip are drawn, floats placed, barnacles scattered, and baked without a finding', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'On the scan');
  await bench.importScan();
  await bench.stroke([0.4, 0.5], [0.47, 0.54], [0.54, 0.53], [0.6, 0.56]);
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('Cable');
  const checks = page.getByRole('banner').getByRole('button', { name: /Checks/ });
  for (const [unit, preset] of [
    ['stitch', 'cross-stitch'],
    ['zip', 'moulded-zip'],
    ['chain', 'short-link-chain'],
    ['place', 'pearls'],
  ]) {
    await page.getByRole('button', { name: 'Locker' }).click();
    await page.getByRole('dialog', { name: 'Locker' }).locator(`[data-preset="${unit} ${preset}"]`).click();
    await expect(page.getByText(/[1-9][\d,]* tri$/).first()).toBeVisible();
    if (unit === 'place') await bench.type('Size', '1 mm');
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
  await expect(page.getByText(/^Parts 100$/)).toBeVisible();
  // by a picture that is seen through onto the scan; nowhere once it is gone
  const png = 'iVBORw0KGgoAAAANSUhEUgAAAAQAAAACCAIAAADwyuo0AAAAEElEQVR4nGM4cWADHDEgcwDnmhHBBZCF0AAAAABJRU5ErkJggg==';
  await bench.importMesh({ name: 'plan.png', mimeType: 'image/png', buffer: Buffer.from(png, 'base64') });
  await expect(page.getByRole('textbox', { name: 'Image name' })).toHaveValue('plan');
  await bench.piece('Scattered').click();
  await bench.openFloat('Path');
  await page.getByText('Area', { exact: true }).click();
  await page.getByRole('combobox', { name: 'Mask image' }).click();
  await page.getByRole('option', { name: 'plan' }).click();
  await bench.openFloat('Make');
  await expect(page.getByText(/^Parts 100$/)).toBeVisible();
  await expect(checks).toContainText('0');
  await page.getByRole('region', { name: 'Images' }).getByRole('button', { name: /^plan/ }).click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(checks).toContainText('1');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(checks).toContainText('0');
  const objects = await bench.baked();
  expect(objects.length).toBeGreaterThan(1);
  for (const { mesh } of objects) expect(mesh.position.every(Number.isFinite)).toBe(true);
});
