import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('search does everything, keys can be changed, the history goes back and restores; a slice shows true sizes', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);

  const search = async (words: string) => {
    await page.keyboard.press('Control+k');
    await expect(page.getByRole('combobox', { name: 'What do you want to do?' })).toBeFocused();
    await page.keyboard.type(words);
    await page.keyboard.press('Enter');
  };
  // Escape leaves it, and every other dialog that a key opens
  for (const key of ['Control+k', '?']) {
    await page.keyboard.press(key);
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  }
  // shadows are drawn, and are gone again
  const seen = () => page.locator('canvas').first().screenshot();
  const plain = await seen();
  for (const without of [false, true]) {
    await search('toggle shadows');
    await expect(page.getByRole('dialog')).toBeHidden();
    await expect.poll(async () => plain.equals(await seen())).toBe(without);
  }
  // by its words, without the mouse
  await search('hose coil');
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('Hose coil');
  await search('add wobble');
  await expect(page.getByRole('switch', { name: 'Wobble enabled' })).toBeVisible();
  await search('turns: number of');
  await expect(page.getByRole('textbox', { name: 'Turns value' })).toBeVisible();

  // a 16-sided cable of radius 19 mm, cut across
  const slice = page.getByRole('region', { name: 'Slice' });
  await expect(slice).toContainText(/3[78](\.\d)? mm × 3[78](\.\d)? mm/);
  await expect(slice).toContainText(/11\d\d(\.\d)? mm²/);

  // another key for the Throw pen; the old one does nothing then
  await page.getByRole('heading', { name: 'Manifest' }).click();
  await page.keyboard.press('?');
  await page.getByRole('button', { name: 'Shortcut for Throw pen: T' }).click();
  await page.keyboard.press('j');
  await expect(page.getByRole('button', { name: 'Shortcut for Throw pen: J' })).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  const pen = page.getByRole('button', { name: 'Throw' });
  await page.keyboard.press('t');
  await expect(pen).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('j');
  await expect(pen).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Escape');

  // back by two steps at once, forward again, and to the first saved state
  await bench.openFloat('Path');
  await bench.type('Turns', '3');
  await bench.type('Turns', '4');
  await bench.saved();
  await page.getByRole('button', { name: 'History' }).click();
  const steps = page.getByRole('region', { name: 'Undo steps' });
  await steps.getByRole('button', { name: 'As opened' }).click();
  await expect(steps.getByRole('button', { name: 'As opened' })).toHaveAttribute('aria-current', 'step');
  await steps.getByRole('button').first().click();
  await page.getByRole('button', { name: 'Restore saved version 1', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Turns value' })).toHaveValue('5');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('textbox', { name: 'Turns value' })).toHaveValue('4');
});

test('whatever the keyboard opens, Escape closes, and the keyboard is back where it was', async ({ page, kelp }) => {
  await page.goto(kelp.url);
  await page
    .getByRole('list', { name: 'Projects' })
    .getByRole('link', { name: /pier corner/ })
    .click();
  const pens = page.getByRole('group', { name: 'Pens' });
  await expect(pens).toBeVisible();
  const open = page.locator('[role=dialog]:visible, [role=menu]:visible, [role=listbox]:visible');
  const openers = [
    page.getByRole('button', { name: 'History', exact: true }),
    page.getByRole('button', { name: 'Search', exact: true }),
    page.getByRole('combobox', { name: 'Length unit' }),
    page.getByRole('button', { name: 'Proof sheet…' }),
    page.getByRole('button', { name: 'Locker' }),
    page.getByRole('button', { name: 'Image…' }),
    page.getByRole('button', { name: 'Vary along the length…' }),
    page.getByRole('combobox', { name: 'Order of pieces' }),
    page.getByRole('button', { name: 'More actions for Shore power' }),
    page.getByRole('button', { name: 'New piece…' }),
  ];
  for (const opener of openers) {
    await opener.focus();
    await page.keyboard.press('Enter');
    await expect(open.first()).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(open).toHaveCount(0);
    await expect(opener).toBeFocused();
  }
  for (const name of ['Stroke', 'Points', 'Throw']) {
    const pen = pens.getByRole('button', { name });
    await pen.focus();
    await page.keyboard.press('Enter');
    await expect(pen).toHaveAttribute('aria-pressed', 'true');
    await page.keyboard.press('Escape');
    await expect(pen).toHaveAttribute('aria-pressed', 'false');
  }
});
