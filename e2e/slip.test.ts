import { readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.describe('over the slip of the demo', () => {
  test.use({ demo: true });

  test('the roof is reshaped and its trusses follow, with nothing sticking through; their cut list sums to what is measured; all is baked', async ({
    page,
    kelp,
  }) => {
    const bench = new Workbench(page);
    await bench.openDemo(kelp.url, /slip/);
    const checks = page.getByRole('banner').getByRole('button', { name: /Checks/ });
    await expect(checks).toContainText('0');
    const length = bench.lengthOf('Roof trusses');
    const before = (await length.textContent()) ?? '';
    await page.getByRole('region', { name: 'Props' }).getByRole('button', { name: /^Roof/ }).click();
    await bench.type('Scale', '1.1');
    await bench.type('Position Y', '300');
    await expect(length).not.toHaveText(before);
    await expect(checks).toContainText('0');

    await bench.piece('Roof trusses').click();
    await bench.openFloat('Make');
    await page.getByRole('button', { name: /^Members/ }).click();
    await bench.type('Diagonal thickness', '0.09');
    await page.getByRole('button', { name: /^Cut list/ }).click();
    const [list] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as CSV' }).click(),
    ]);
    const [heading, ...rows] = readFileSync(await list.path(), 'utf8')
      .trim()
      .split('\r\n');
    expect(heading).toBe('Members,Profile,Length (mm),Pieces,Total length (mm),Mass (kg)');
    const figures = rows.map((row) => row.split(','));
    const pieces = figures.reduce((sum, row) => sum + Number(row[3]), 0);
    const mass = figures.reduce((sum, row) => sum + Number(row[5]), 0);
    const reported = page.getByText(/^Joints \d+ · Members/);
    await expect(reported).toContainText(`Members ${pieces.toLocaleString('en')} ·`);
    const weighed = Number((await reported.textContent())?.match(/Mass ([\d,.]+) kg/)?.[1].replaceAll(',', ''));
    expect(mass / weighed).toBeCloseTo(1, 2);

    const objects = await bench.baked();
    const of = (name: string) => objects.filter((one) => one.name.startsWith(name));
    expect(of('Roof trusses').length).toBeGreaterThan(1);
    expect(of('Gate').length).toBeGreaterThan(1);
    // every vertex of a truss is below the roof as it was modelled, where that was put
    let highest = -Infinity;
    for (const { mesh } of of('Roof trusses'))
      for (let i = 0; i < mesh.position.length; i += 3) {
        const [x, y, z] = [mesh.position[i] / 1.1, (mesh.position[i + 1] - 0.3) / 1.1, mesh.position[i + 2] / 1.1];
        highest = Math.max(highest, y - (3.5 + 0.95 * (1 - (x / 4.1) ** 2) + 0.035 * (z + 6.8)));
      }
    expect(highest).toBeLessThan(0);
    expect(highest).toBeGreaterThan(-0.06);
  });
});
