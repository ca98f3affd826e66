import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.describe('over the demo', () => {
  test.use({ demo: true });

  test('cables are strung between picked things, one is led elsewhere, taken out and drawn by hand; they follow what they hang from, and are baked', async ({
    page,
    kelp,
  }) => {
    const bench = new Workbench(page);
    await bench.openDemo(kelp.url);
    await page.getByRole('group', { name: 'Pens' }).getByRole('button', { name: 'String' }).click();
    for (const [x, y] of [
      [0.897, 0.49],
      [0.775, 0.675],
      [0.614, 0.25],
    ] as const) {
      await page.mouse.move(...(await bench.at(x, y)));
      await page.mouse.click(...(await bench.at(x, y)));
      await page.waitForTimeout(400);
    }
    await page.keyboard.press('Escape');
    const piece = bench.piece('Strung');
    await expect(piece).toBeVisible();
    await expect(page.getByRole('button', { name: /^Remove Crate/ })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Remove Buoy/ })).toBeVisible();
    // thick enough to be met at once
    await bench.openFloat('Make');
    await bench.type('Radius', '40');
    await bench.openFloat('Path');
    const length = bench.lengthOf('Strung');

    // one of its lines is picked in the view, where no flag lies over it: the one from the crate to the buoy
    const line = page.getByRole('heading', { name: /Crate to Buoy|Buoy to Crate/ });
    const name = page.getByRole('textbox', { name: 'Piece name' });
    for (const [column, from] of [
      [0.837, 0.535],
      [0.815, 0.555],
      [0.872, 0.485],
    ])
      for (let y = from; y < from + 0.055 && !(await line.isVisible()); y += 0.01) {
        const at = await bench.at(column, y);
        const free = await page.evaluate(([x, y]) => document.elementFromPoint(x, y)?.tagName === 'CANVAS', at);
        if (!free) continue;
        await page.mouse.click(...at);
        await page.waitForTimeout(250);
        // beside it something else is chosen
        const chosen = await name.inputValue({ timeout: 1000 }).catch(() => '');
        if (chosen.startsWith('Strung')) continue;
        await piece.click();
        await bench.openFloat('Path');
      }
    await expect(line).toBeVisible();
    const before = (await length.textContent()) ?? '';
    await page.getByRole('combobox', { name: 'Redirect to' }).click();
    await page.getByRole('option').first().click();
    await expect(length).not.toHaveText(before);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(length).toHaveText(before);
    await page.getByRole('button', { name: 'Convert to drawn line' }).click();
    await expect(bench.piece('Strung 2')).toBeVisible();
    await expect(length).not.toHaveText(before);

    // the buoy drifts off: what hangs from it goes along
    const now = (await length.textContent()) ?? '';
    await page.getByRole('button', { name: /^Buoy \d/ }).click();
    await bench.type('Position Z', '3600');
    await expect(length).not.toHaveText(now);
    const objects = await bench.baked();
    expect(objects.filter(({ name }) => name.startsWith('Strung')).length).toBe(2);
  });
});

test('a line hangs from one place of an open scanned mesh to another, lies on it between them, and is baked', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Strung scan');
  await bench.importScan();
  await page.keyboard.press('f');
  await page.getByRole('group', { name: 'Pens' }).getByRole('button', { name: 'String' }).click();
  // with Shift at the very place: two on the scan
  await page.keyboard.down('Shift');
  for (const [x, y] of [
    [0.45, 0.5],
    [0.58, 0.58],
  ] as const) {
    await page.mouse.move(...(await bench.at(x, y)));
    await page.mouse.click(...(await bench.at(x, y)));
    await page.waitForTimeout(300);
  }
  await page.keyboard.up('Shift');
  await page.keyboard.press('Escape');
  await expect(bench.piece('Strung')).toBeVisible();
  const checks = page.getByRole('banner').getByRole('button', { name: /Checks/ });
  await expect(checks).toContainText('0');
  await expect(page.getByRole('button', { name: 'Remove Point 2' })).toBeVisible();
  const [mesh] = await bench.baked();
  expect(mesh.mesh.position.length).toBeGreaterThan(300);
});
