import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, type Page, type TestInfo } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

/** Opens the demo's corner this many times side by side. */
async function openCorners(page: Page, url: string, cli: string, times: number, info: TestInfo): Promise<void> {
  const file = info.outputPath('corners.kelp');
  execFileSync(process.execPath, [cli, 'demo', '--times', String(times), '--out', file]);
  const answer = await fetch(`${url}/api/projects/import`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: readFileSync(file),
  });
  const { id } = (await answer.json()) as { id: string };
  await page.goto(`${url}/project/${id}`);
}

test('a scene of twelve corners opens and is used while it computes', async ({ page, kelp, cli }, info) => {
  const bench = new Workbench(page);
  await openCorners(page, kelp.url, cli, 12, info);
  // what is chosen is made before all that still waits
  await page.getByRole('textbox', { name: 'Filter the Manifest' }).fill('mooring line 12');
  await bench.piece('Mooring line 12').click();
  await expect(page.getByRole('textbox', { name: 'Radius value', exact: true })).toHaveValue('14');
  await bench.type('Radius', '20');
  await expect(page.getByRole('region', { name: 'Slice' }).getByRole('img')).toHaveAccessibleName(
    /^Cross-section: (39|40)/,
  );
  await page.getByRole('textbox', { name: 'Filter the Manifest' }).fill('');
  await expect(page.getByRole('status', { name: 'Progress' })).toBeHidden();
  await bench.saved();
  // every piece was made: none is still waited for
  await expect(page.getByText('…', { exact: true })).toHaveCount(0);
});

test('long work says how far it is, is stopped, and goes on', async ({ page, kelp, cli }, info) => {
  await openCorners(page, kelp.url, cli, 60, info);
  const progress = page.getByRole('status', { name: 'Progress' });
  await expect(progress).toHaveText(/\d+ of 540 pieces/);
  await progress.getByRole('button', { name: 'Stop' }).click();
  await expect(progress).toHaveText(/pieces were not computed/);
  await progress.getByRole('button', { name: 'Continue' }).click();
  await expect(progress).toBeHidden();
  await expect(page.getByText('…', { exact: true })).toHaveCount(0);
});
