import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('ropes are set by hand: how they end, what is shown, how they live; a braid; a region that twists one; the checks and the bake follow', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url, /rigging loft/);
  const choose = async (label: string, option: string) => {
    await page.getByRole('combobox', { name: label, exact: true }).click();
    await page.getByRole('option', { name: option, exact: true }).click();
  };
  const figures = page.getByText(/^Strands \d+ ·/);
  const checks = page.getByRole('banner').getByRole('button', { name: /Checks/ });
  await expect(checks).toContainText('0');

  // a rope: its other end frays, and closes again
  await bench.piece('Mooring rope').click();
  await bench.openFloat('Make');
  await expect(figures).toContainText('Strands 21');
  const triangles = bench.page.getByText(/tri$/).first();
  await choose('Start finish', 'Frayed');
  await page.getByRole('button', { name: /^Start/ }).click();
  await bench.type('Opening angle', '0');
  await page.getByRole('button', { name: 'Undo' }).click();
  await choose('Start finish', 'Sealed');
  await bench.type('End length', '1');

  // stray fibres, and strands so thick that they cut: reported, and mended by a click
  await page.getByRole('button', { name: /^Irregularity/ }).click();
  const before = await triangles.textContent();
  await bench.type('Fuzz density', '1');
  await expect(triangles).not.toHaveText(before ?? '');
  await bench.type('Strand scale', '1.3');
  await expect(checks).not.toContainText('0');
  await checks.click();
  await page.getByRole('button', { name: 'Make the strands thinner' }).first().click();
  await expect(checks).toContainText('0');
  await page.getByRole('button', { name: 'Close Checks' }).click();

  // its hull is light, its line lighter
  const many = Number((await triangles.textContent())?.match(/([\d,]+) tri/)?.[1].replace(',', ''));
  await page.getByRole('button', { name: 'Hull', exact: true }).click();
  await expect
    .poll(async () => Number((await triangles.textContent())?.match(/([\d,]+) tri/)?.[1].replace(',', '')))
    .toBeLessThan(many / 2);

  // a braid of another weave
  await bench.piece('Longline').click();
  await bench.openFloat('Make');
  await expect(figures).toContainText('Strands 9');
  await bench.type('Strands', '12');
  await expect(figures).toContainText('Strands 13');
  await page.getByRole('button', { name: 'Over one' }).click();
  await page.getByRole('button', { name: 'Hollow' }).click();
  await expect(figures).toContainText('Strands 12');

  // the twist of a rope goes by a region: moved away, nothing is twisted any more
  await bench.piece('Cleat rope').click();
  await bench.openFloat('Make');
  const lay = async () => Number((await figures.textContent())?.match(/Strand length ([\d.]+)/)?.[1]);
  const twisted = await lay();
  await page
    .getByRole('button', { name: /^Twist/ })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'Constant' }).click();
  await expect.poll(lay).toBeLessThan(twisted);
  await page.getByRole('button', { name: 'Vary along the length…' }).click();
  await page.getByRole('menuitem', { name: 'Twist', exact: true }).click();
  await page
    .getByRole('button', { name: /^Twist/ })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'By new region…' }).click();
  await expect(page.getByText('outside Region')).toBeVisible();
  await expect.poll(lay).toBeGreaterThan(0);

  const objects = await bench.baked();
  const names = objects.map(({ name }) => name);
  for (const name of [
    'Mooring rope',
    'Hank of thread',
    'Wire stay',
    'Cable-laid rope',
    'Longline',
    'Cleat rope',
    'Coiled rope',
  ])
    expect(names.some((one) => one.startsWith(name))).toBe(true);
});
