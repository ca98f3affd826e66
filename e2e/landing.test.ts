import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.describe('over the landing of the demo', () => {
  test.use({ demo: true });

  test('strands grow into one skin, which says what it comes to and can be stopped; a piling moves and they follow; a lead changes its plug; all is baked', async ({
    page,
    kelp,
  }) => {
    const bench = new Workbench(page);
    await bench.openDemo(kelp.url, /landing/);
    await bench.piece('Kelp strands').click();
    await bench.openFloat('Make');
    const status = page.getByRole('status', { name: 'Progress' });
    const triangles = page.getByText(/tri$/).first();
    await expect(triangles).toBeVisible();
    const before = await triangles.textContent();

    // as fine as that there is time to read, and to stop it
    await page.getByRole('group', { name: 'Surface' }).getByRole('button', { name: 'Merged' }).click();
    await bench.type('Cell size', '0.12');
    await expect(status).toContainText(/about [\d,]+ triangles/);
    await status.getByRole('button', { name: 'Stop' }).click();
    await expect(status).toContainText('1 piece was not computed');
    await bench.type('Cell size', '1.2');
    await expect(status).toBeHidden();
    await expect(triangles).not.toHaveText(before ?? '');

    // each stage by itself
    const whole = (await triangles.textContent()) ?? '';
    await page.getByRole('group', { name: 'Show only' }).getByRole('button', { name: 'Links' }).click();
    await expect(triangles).not.toHaveText(whole);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(triangles).toHaveText(whole);

    // pilings drift: the strands are stretched, none is lost
    const length = bench.lengthOf('Kelp strands');
    const long = (await length.textContent()) ?? '';
    await page
      .getByRole('region', { name: 'Props' })
      .getByRole('button', { name: /^Pilings/ })
      .click();
    await bench.type('Position Y', '40');
    await expect(length).toHaveText(long);

    await bench.piece('Sensor lead 1').click();
    await bench.openFloat('Make');
    await page.getByRole('button', { name: /^Plugs/ }).click();
    await page.getByRole('combobox', { name: 'End plug' }).click();
    await page.getByRole('option', { name: 'Ring terminal' }).click();
    const objects = await bench.baked();
    const of = (name: string) => objects.filter((one) => one.name.startsWith(name));
    expect(of('Kelp strands').length).toBe(1);
    expect(
      of('Sensor lead 1')
        .map((one) => one.name.slice('Sensor lead 1 '.length))
        .toSorted(),
    ).toEqual(['holders', 'lamps', 'main', 'metal', 'plugs']);
    expect(of('Hose bundle').length).toBeGreaterThan(2);
  });
});
