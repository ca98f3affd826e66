import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test('pieces are chosen in the view, many with Ctrl; a gauge is pulled, which is one step of undo', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Two lines');
  await bench.stroke([0.2, 0.45], [0.8, 0.45]);
  await expect(bench.piece('Cable')).toBeVisible();
  await bench.stroke([0.2, 0.75], [0.8, 0.75]);
  await expect(bench.piece('Cable 2')).toHaveAttribute('aria-pressed', 'true');

  await page.keyboard.down('Control');
  await page.mouse.click(...(await bench.at(0.5, 0.45)));
  await page.keyboard.up('Control');
  await expect(page.getByRole('heading', { name: '2 pieces' })).toBeVisible();
  // the ends of both lines at once: they are moved, and made corners, in one step each
  await page.mouse.click(...(await bench.at(0.8, 0.75)));
  await page.keyboard.down('Control');
  await page.mouse.click(...(await bench.at(0.8, 0.45)));
  await page.keyboard.up('Control');
  await expect(page.getByText('2 points selected')).toBeVisible();
  await bench.type('Thickness', '2');
  await bench.saved();
  const { document } = await (await fetch(page.url().replace('/project/', '/api/projects/'))).json();
  const radii = document.curves.map(({ points }: { points: { radius: number }[] }) =>
    points.map(({ radius }) => radius),
  );
  expect(radii).toEqual([
    [1, 2],
    [1, 2],
  ]);
  await page.mouse.click(...(await bench.at(0.5, 0.45)));
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('Cable');

  await bench.openFloat('Make');
  const radius = page.getByRole('textbox', { name: 'Radius value', exact: true });
  await bench.type('Radius', '40');
  await radius.focus();
  const gauge = page.getByRole('status', { name: 'Gauge' });
  await expect(gauge).toContainText('80');
  // the grip is where the pointer becomes a cross of arrows; the figure moves until the new radius is drawn
  const canvas = page.locator('canvas').first();
  let grip: readonly [number, number] = [0, 0];
  const isGrip = async (place: readonly [number, number]) => {
    await page.mouse.move(...place);
    grip = place;
    return (await canvas.evaluate((element) => element.style.cursor)) === 'move';
  };
  await expect(async () => {
    const box = (await gauge.boundingBox())!;
    for (let y = -60; y <= 60; y += 12)
      for (let x = -60; x <= 60; x += 12)
        if (await isGrip([box.x + box.width / 2 + x, box.y + 1.5 * box.height + y])) return;
    throw new Error('The gauge has no grip');
  }).toPass();
  await page.mouse.down();
  await page.mouse.move(grip[0], grip[1] - 60, { steps: 6 });
  await page.mouse.up();
  await expect(radius).not.toHaveValue('40');
  expect(Number(await radius.inputValue())).toBeGreaterThan(40);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(radius).toHaveValue('40');
  await bench.saved();
});
