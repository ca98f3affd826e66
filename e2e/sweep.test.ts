import { readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { signedVolume, topologyOf } from '../packages/core/src/index.js';
import { readModel } from '../packages/formats/src/index.js';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

/** A hand rail, 48 mm by 40, with a bore of 7 mm radius. */
const RAIL = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="50mm" viewBox="0 0 60 50">
<path d="M6 5H54V35L44 45H16L6 35Z"/><circle cx="30" cy="20" r="7"/></svg>`;
const AREA = (48 * 40 - 10 * 10 - Math.PI * 7 ** 2) * 1e-6;

test('a section from the list, a profile of one’s own from a drawing; saved, baked as it was drawn, and undone in one step', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Rails');
  await bench.stroke([0.3, 0.5], [0.5, 0.6], [0.7, 0.5]);
  await bench.openFloat('Make');
  await page.getByRole('button', { name: 'Locker' }).click();
  await page.getByRole('dialog').getByText('Channel', { exact: true }).click();
  const section = page.getByRole('combobox', { name: 'Section' });
  await expect(section).toHaveText('U');
  const tell = page.getByRole('complementary', { name: 'Stem' }).getByText(/tri$/).first();
  const before = await tell.textContent();

  await section.click();
  await page.getByRole('option', { name: 'Own profile' }).click();
  await expect(page.getByRole('combobox', { name: 'Profile' })).toHaveText('No profile');
  const drawing = (name: string, text: string) => ({ name, mimeType: 'image/svg+xml', buffer: Buffer.from(text) });
  await page
    .getByLabel('Drawing of a profile')
    .setInputFiles(drawing('open.svg', '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L9 9"/></svg>'));
  await expect(page.getByRole('alert').getByText('open has no closed path')).toBeVisible();
  await page.getByLabel('Drawing of a profile').setInputFiles(drawing('Pier rail.svg', RAIL));
  await expect(page.getByRole('combobox', { name: 'Profile' })).toHaveText('Pier rail');
  // it brought its size
  await expect(page.getByRole('textbox', { name: 'Radius value' })).toHaveValue('20');
  await expect(page.getByRole('textbox', { name: 'Width value' })).toHaveValue('1.2');
  await expect(tell).not.toHaveText(before ?? '');

  await bench.saved();
  await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
  await page.getByRole('button', { name: 'Bake to GLB' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('region', { name: 'Earlier bakes' }).getByRole('link', { name: 'Download' }).click(),
  ]);
  const model = await readModel('rail.glb', new Uint8Array(readFileSync(await download.path())));
  const { mesh } = model.objects[0];
  // a bore all the way through, closed at both ends round it
  expect(topologyOf(mesh)).toEqual({ openEdges: 0, euler: 0, shells: 1 });
  const [, length] = (await tell.textContent())?.match(/^([\d.]+) m/) ?? [];
  expect(Math.abs(signedVolume(mesh) / (AREA * Number(length)) - 1)).toBeLessThan(0.02);

  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('combobox', { name: 'Profile' })).toHaveText('No profile');
  await page.getByRole('button', { name: /^Redo/ }).click();
  await expect(page.getByRole('combobox', { name: 'Profile' })).toHaveText('Pier rail');
});
