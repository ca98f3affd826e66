import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

test.use({ demo: true, cli: at('built/cli/dist/kelp.js') });
// Kelp with four tiny recipes that it does not know: placed, of strands, of two slots, moving
test.beforeAll(() => {
  execFileSync(process.execPath, [
    at('../scripts/build.mjs'),
    '--further',
    at('../packages/core/test/test-units.ts'),
    '--out',
    at('built'),
  ]);
});

test('a recipe that no room knows goes through locker, view, strip, slice, dress, clock and bake', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  await bench.piece('Bridge hose').click();
  const locker = page.getByRole('dialog', { name: 'Locker' });
  const door = page.getByRole('button', { name: 'Locker' });

  // tried on the line by resting on it; Escape leaves all as it was
  await door.click();
  await locker.getByRole('textbox', { name: 'Search the locker' }).fill('beads line.');
  await expect(locker.getByRole('button')).toHaveCount(2);
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('status', { name: 'Preview' })).toHaveText('preview: Wide beads');
  await expect(page.getByText('1,024 tri')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(locker).toBeHidden();
  await expect(page.getByRole('textbox', { name: 'Radius value', exact: true })).toHaveValue('34');
  await expect(page.getByText('1,024 tri')).toBeHidden();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();

  const take = async (name: string) => {
    await door.click();
    await locker.getByRole('button', { name }).click();
    await expect(locker).toBeHidden();
  };
  // placed: its size went over, its elements are marked, its own lane is in the menu
  await take('Wide beads');
  await expect(page.getByRole('textbox', { name: 'Size value' })).toHaveValue('34');
  const strip = page.getByRole('region', { name: 'Length strip' });
  await expect(strip.getByText('32 beads')).toBeAttached();
  await strip.getByRole('button', { name: 'Vary along the length…' }).click();
  await page.getByRole('menuitem', { name: 'Gap' }).click();
  await expect(strip.getByRole('button', { name: /^Gap/ })).toBeVisible();
  await page.getByRole('button', { name: /^Spacing/ }).click();
  await expect(page.getByRole('textbox', { name: 'Gap value' })).toHaveValue('3');

  // strands: each of them in the slice
  await take('Wisps');
  await expect(page.getByRole('region', { name: 'Slice' }).getByRole('img')).toHaveAccessibleName(/gap/);

  // two slots: each has a card of its own
  await take('Piping');
  await bench.openFloat('Dress');
  await expect(page.getByRole('region', { name: 'Surface' })).toBeVisible();
  await page.getByRole('region', { name: 'Trim' }).getByRole('combobox').click();
  await page.getByRole('option', { name: 'Custom' }).click();
  await expect(page.getByRole('region', { name: 'Trim' }).getByRole('button', { name: 'Steel' })).toBeVisible();

  // moving: the clock comes, and goes with it
  await bench.openFloat('Make');
  await take('Spinner');
  const clock = page.getByRole('group', { name: 'Clock' });
  await clock.getByRole('button', { name: 'Play animation' }).click();
  await expect(clock.getByText(/^[1-3]\.\d\d s of$/)).toBeVisible();
  await clock.getByRole('button', { name: 'Pause animation' }).click();

  await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
  await page.getByRole('button', { name: 'Bake to GLB' }).click();
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
});
