import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test('a scene of twelve corners opens and is used while it computes, is stopped and goes on', async ({
  page,
  kelp,
  cli,
}, info) => {
  const file = info.outputPath('corners.kelp');
  execFileSync(process.execPath, [cli, 'demo', '--times', '12', '--out', file]);
  const answer = await fetch(`${kelp.url}/api/projects/import`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: readFileSync(file),
  });
  const { id } = (await answer.json()) as { id: string };
  const bench = new Workbench(page);
  await page.goto(`${kelp.url}/project/${id}`);
  const progress = page.getByRole('status', { name: 'Progress' });
  await expect(progress).toHaveText(/\d+ of 108 pieces/);
  await progress.getByRole('button', { name: 'Stop' }).click();
  await expect(progress).toHaveText(/pieces were not made/);
  // what was asked for is made at once, before all that still waits
  await progress.getByRole('button', { name: 'Go on' }).click();
  await page.getByRole('textbox', { name: 'Filter the manifest' }).fill('mooring line 12');
  await bench.piece('Mooring line 12').click();
  await expect(page.getByRole('textbox', { name: 'Radius value' })).toHaveValue('14');
  await bench.type('Radius', '20');
  await expect(page.getByRole('region', { name: 'Slice' }).getByRole('img')).toHaveAccessibleName(/^Cross-section: 39/);
  await page.getByRole('textbox', { name: 'Filter the manifest' }).fill('');
  await expect(progress).toBeHidden();
  await bench.saved();
  // every piece was made, the last of the list too
  await page.getByRole('combobox', { name: 'Order of the pieces' }).click();
  await page.getByRole('option', { name: 'By length' }).click();
  await expect(page.getByText('…', { exact: true })).toHaveCount(0);
});
