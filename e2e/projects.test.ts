import { readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test('a project begins from a template, goes out whole, is deleted, brought back, and comes in again', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await page.goto(kelp.url);
  await expect(page.getByText('No projects yet')).toBeVisible();
  await page.getByRole('button', { name: 'New project' }).first().click();
  // a name is suggested; none at all is not taken
  await expect(page.getByLabel('Name')).toHaveValue('Project');
  await page.getByLabel('Name').fill(' ');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByText('A project needs a name.')).toBeVisible();
  await page.getByLabel('Name').fill('  Jetty, north side ');
  await page.getByRole('radio', { name: /^Deck/ }).check();
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('region', { name: 'Props' })).toContainText('Bollards');
  await bench.stroke([0.35, 0.5], [0.5, 0.52], [0.65, 0.5]);
  await expect(bench.piece('Cable')).toBeVisible();
  await bench.saved();

  // a picture of the view, at the size that was asked for
  const [picture] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('button', { name: 'Image…' })
      .click()
      .then(() => page.getByRole('menuitem', { name: '1920 pixels wide' }).click()),
  ]);
  expect(picture.suggestedFilename()).toBe('Jetty-north-side.png');
  const png = readFileSync(await picture.path());
  // PNG (ISO/IEC 15948, 11.2.2): after the signature comes IHDR, which begins with width and height
  expect(png.subarray(1, 4).toString()).toBe('PNG');
  expect(png.readUInt32BE(16)).toBe(1920);

  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save a copy' }).click(),
  ]);
  const archive = readFileSync(await file.path());

  await page.goto(kelp.url);
  const list = page.getByRole('list', { name: 'Projects' });
  await page.getByRole('button', { name: 'Delete Jetty, north side' }).click();
  await expect(list).toBeHidden();
  await page.getByRole('button', { name: 'Restore', exact: true }).click();
  await expect(list).toContainText('Jetty, north side');
  await page.getByRole('button', { name: 'Delete Jetty, north side' }).click();
  await page.reload();
  await page.getByRole('button', { name: 'One deleted project' }).click();
  await page.getByRole('button', { name: 'Restore Jetty, north side' }).click();
  await expect(list).toContainText('Jetty, north side');

  await page
    .getByLabel('Project file')
    .setInputFiles({ name: 'copy.kelp', mimeType: 'application/octet-stream', buffer: archive });
  await expect(page.getByRole('textbox', { name: 'Project name' })).toHaveValue('Jetty, north side');
  await expect(bench.piece('Cable')).toBeVisible();
  await page.goto(kelp.url);
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await page
    .getByLabel('Project file')
    .setInputFiles({ name: 'cut.kelp', mimeType: 'application/octet-stream', buffer: archive.subarray(0, 500) });
  await expect(page.getByRole('alert')).toContainText('not a Kelp archive');
  await expect(list.getByRole('listitem')).toHaveCount(2);
});
