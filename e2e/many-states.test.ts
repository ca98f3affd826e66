import { expect } from '@playwright/test';
import { axeProblems } from './axe.js';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('a state is kept, compared by wiping and put back; a proof is taken and undone', async ({ page, kelp }) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  await bench.piece('Mooring line').click();
  await page.getByRole('button', { name: 'Save variant' }).click();
  await bench.type('Radius', '30');
  await page.getByRole('button', { name: 'Compare with Variant' }).click();
  const divider = page.getByRole('slider', { name: 'Divider between the current state and the variant' });
  await divider.focus();
  await page.keyboard.press('ArrowRight');
  await expect(divider).toHaveAttribute('aria-valuenow', '52');
  // left of the divider the thick line, right of it the thin one: the picture differs from that of either alone
  const view = page.locator('canvas').first();
  const both = await view.screenshot();
  await page.keyboard.press('End');
  await expect(divider).toHaveAttribute('aria-valuenow', '100');
  expect(Buffer.compare(both, await view.screenshot())).not.toBe(0);
  expect(await axeProblems(page)).toEqual([]);
  await page.getByRole('button', { name: 'Close comparison' }).click();
  await page.getByRole('button', { name: 'Restore Variant' }).click();
  await expect(page.getByRole('textbox', { name: 'Radius value', exact: true })).toHaveValue('14');
  await expect(page.getByRole('region', { name: 'Variants' })).toContainText('Current');

  await page.getByRole('button', { name: 'Proof sheet…' }).click();
  const proofs = page.getByRole('list', { name: 'Proofs' });
  await expect(proofs.getByRole('button')).toHaveCount(9);
  // each with a picture, what is thin with the whole beside its close-up
  await expect(proofs.getByRole('listitem').filter({ has: page.locator('img') })).toHaveCount(9);
  await expect(proofs.getByRole('button', { name: /^Use Radius 14 mm ?Current/ })).toBeVisible();
  expect(await axeProblems(page)).toEqual([]);
  await proofs.getByRole('button').last().click();
  await expect(page.getByRole('textbox', { name: 'Radius value', exact: true })).toHaveValue('25.2');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('textbox', { name: 'Radius value', exact: true })).toHaveValue('14');
  await bench.saved();
});

test('many pieces are edited, locked, renamed and coloured at once; the strip zooms, and copies courses', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  await bench.piece('Lamp line').click();
  await bench.piece('Sensor lead').click({ modifiers: ['ControlOrMeta'] });
  const radius = page.getByRole('textbox', { name: 'Radius value', exact: true });
  await expect(radius).toHaveAttribute('placeholder', 'mixed');
  await bench.type('Radius', '2*3mm');
  await expect(radius).toHaveValue('6');
  expect(await axeProblems(page)).toEqual([]);
  await page.getByRole('button', { name: 'Lock', exact: true }).click();
  await expect(page.getByText('All are locked.')).toBeVisible();
  await page.keyboard.press('Delete');
  await expect(bench.piece('Lamp line')).toBeVisible();
  await page.getByRole('button', { name: 'Unlock Lamp line' }).click();
  await bench.piece('Lamp line').click();
  await expect(radius).toHaveValue('6');
  await page.getByRole('button', { name: 'More actions for Lamp line' }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByRole('textbox', { name: 'New name of Lamp line' }).fill('حبل المصباح');
  await page.keyboard.press('Enter');
  await expect(bench.piece('حبل المصباح')).toBeVisible();

  const strip = page.getByRole('region', { name: 'Length strip' });
  await strip.getByRole('button', { name: /^Radius/ }).click();
  await page.getByRole('menuitem', { name: 'Spindle' }).click();
  await strip.getByRole('slider', { name: 'Radius, knot 2' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Value value' }).fill('9');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(strip.getByRole('slider', { name: 'Radius, knot 2' })).toHaveAttribute(
    'aria-valuetext',
    /^9 mm at 50 %/,
  );
  await strip.getByRole('button', { name: /^Radius/ }).click();
  await page.getByRole('menuitem', { name: 'Copy lane' }).click();
  await bench.piece('Buoy tether').click();
  await expect(bench.piece('Buoy tether')).toHaveAttribute('aria-pressed', 'true');
  await expect(strip.getByRole('slider')).toHaveCount(0);
  await strip.getByRole('button', { name: /^Radius/ }).click();
  await page.getByRole('menuitem', { name: 'Paste lane' }).click();
  await expect(strip.getByRole('slider')).toHaveCount(3);
  const axis = strip.getByRole('group', { name: /^Length axis/ });
  await axis.focus();
  const whole = await axis.getByRole('img').getAttribute('aria-label');
  for (let i = 0; i < 5; i++) await page.keyboard.press('+');
  await expect(axis.getByRole('img')).not.toHaveAttribute('aria-label', whole ?? '');
  await expect(strip.getByRole('slider')).toHaveCount(1);
  await strip.getByRole('button', { name: 'Whole length' }).click();
  await expect(axis.getByRole('img')).toHaveAttribute('aria-label', whole ?? '');
});

test('dim, with panels folded, stays so; axe-core finds nothing there; the first minute leads through', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  await page.getByRole('button', { name: 'Dim', exact: true }).click();
  await page.getByRole('button', { name: 'Hide the length strip' }).click();
  await expect(page.getByRole('button', { name: 'Show the length strip' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Light', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Show the length strip' }).click();
  await expect(page.getByRole('region', { name: 'Length strip' })).toBeInViewport();
  await bench.piece('Mooring line').click();
  expect(await axeProblems(page)).toEqual([]);

  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('first-minute');
  await page.keyboard.press('Enter');
  const tour = page.getByRole('region', { name: 'First minute' });
  await expect(tour).toContainText('Select a piece');
  await bench.piece('Mooring line').click();
  await expect(tour).toContainText('Tune it');
  await bench.openFloat('Make');
  await bench.type('Radius', '16');
  await expect(tour).toContainText('Undo');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(tour).toContainText('Draw a line');
  await tour.getByRole('button', { name: 'Skip step' }).click();
  await page
    .getByRole('banner')
    .getByRole('button', { name: /Checks/ })
    .click();
  await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
  await tour.getByRole('button', { name: 'Close' }).click();
  await expect(tour).toBeHidden();
});
