import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { readArchive, readModel, recipeIn } from '../packages/formats/src/index.js';
import { CLI, test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test('a piece is dressed in a pattern and baked lighter, with its project and by frames; the file dropped on an empty project brings the live piece back', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Slipway');
  await bench.importScan();
  await page.keyboard.press('f');
  await bench.stroke([0.3, 0.5], [0.45, 0.6], [0.6, 0.5], [0.72, 0.6]);
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('Cable');

  await bench.openFloat('Dress');
  // a whole outfit at one stroke, then something else for the skin
  await page.getByRole('region', { name: 'Outfits' }).getByRole('button', { name: 'Armoured' }).click();
  const skin = page.getByRole('region', { name: 'Surface' });
  await expect(skin.getByRole('button', { name: 'Patterned' })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('combobox', { name: 'Material of Plugs' })).toHaveText('Custom');
  await skin.getByRole('button', { name: 'Knurled steel' }).click();
  await skin.getByRole('textbox', { name: 'Tile length value' }).fill('10 mm');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Checker', exact: true }).click();
  // a repeat is 10 mm long, and twelve go round: this many pixels there are at least along it
  const density = page.getByRole('status', { name: 'Texture density' });
  await expect(density).toHaveText(/px\/m at 1024 px per repeat/);
  expect(Number((await density.textContent())?.match(/[\d,]+/)?.[0].replaceAll(',', ''))).toBeGreaterThan(100_000);
  await page.getByRole('button', { name: 'Dressed', exact: true }).click();

  // what the format does not carry is reported before
  await bench.saved();
  await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
  const choose = async (label: string, option: string) => {
    await page.getByRole('combobox', { name: label }).click();
    await page.getByRole('option', { name: option, exact: true }).click();
  };
  await choose('Format', 'OBJ');
  await expect(page.getByRole('list', { name: 'Limits of the format' })).toContainText('Patterns and images');
  await choose('Format', 'GLB');
  await expect(page.getByRole('list', { name: 'Limits of the format' })).toBeHidden();

  const history = page.getByRole('region', { name: 'Previous bakes' });
  const download = async (link = history.getByRole('link', { name: 'Download' }).first()) => {
    const [file] = await Promise.all([page.waitForEvent('download'), link.click()]);
    return { name: file.suggestedFilename(), bytes: new Uint8Array(readFileSync(await file.path())) };
  };
  const bake = async (count: number) => {
    await page.getByRole('button', { name: 'Bake to GLB' }).click();
    await expect(history.getByRole('link', { name: 'Download' })).toHaveCount(count);
  };
  await bake(1);
  const full = await download();
  await page.getByText('Target program').click();
  // one metre across, and its post as high as half of that above it
  const cube = await download(page.getByRole('button', { name: 'Save a test cube' }));
  expect(cube.name).toBe('test-cube.glb');
  const { position } = (await readModel('cube.glb', cube.bytes)).objects[0].mesh;
  const high = Array.from(position).filter((_, i) => i % 3 === 1);
  expect([Math.min(...high), Math.max(...high)]).toEqual([0, 1.5]);
  await page.getByRole('checkbox', { name: /editable project/ }).click();
  await page.getByRole('checkbox', { name: /^Compress meshes/ }).click();
  await page.getByRole('group', { name: 'Level of detail' }).getByRole('button', { name: 'Error' }).click();
  await bench.type('Max error', '0.5');
  await bake(2);
  const lean = await download();
  const triangles = async ({ bytes }: typeof lean) =>
    (await readModel('x.glb', bytes)).objects[0].mesh.index.length / 3;
  expect(await triangles(lean)).toBeLessThan(await triangles(full));
  expect(
    readArchive('x', recipeIn('x.glb', lean.bytes) ?? new Uint8Array()).document.pieces.map(({ name }) => name),
  ).toEqual(['Cable']);
  // the same document, baked by the command line with the same settings, is the same to the byte
  const folder = mkdtempSync(join(tmpdir(), 'kelp-same-'));
  writeFileSync(join(folder, 'live.kelp'), recipeIn('x.glb', lean.bytes) ?? new Uint8Array());
  writeFileSync(join(folder, 'lean.glb'), lean.bytes);
  // from the project with the settings said, and from the file alone
  for (const words of [['live.kelp', '--within', '0.5', '--recipe', '--compress'], ['lean.glb']]) {
    const [from, ...flags] = words;
    const { status, stderr } = spawnSync(
      process.execPath,
      [CLI, 'bake', join(folder, from), ...flags, '--out', join(folder, 'same.glb')],
      { encoding: 'utf8' },
    );
    expect([status, stderr]).toEqual([0, '']);
    expect(Buffer.compare(readFileSync(join(folder, 'same.glb')), lean.bytes)).toBe(0);
  }
  rmSync(folder, { recursive: true });

  // two bakes side by side
  await history.getByRole('button', { name: 'Report…' }).first().click();
  const report = page.getByRole('dialog', { name: 'Bake report' });
  await expect(report).toContainText('max error 0.5 mm');
  await report.getByRole('combobox', { name: 'Compare with' }).click();
  await page.getByRole('option').nth(1).click();
  await expect(report.getByRole('table', { name: 'Pieces in the bake' })).toContainText(/−[\d,]+ \(−\d+ %\)/);
  await page.keyboard.press('Escape');
  await expect(report).toBeHidden();

  await page.getByRole('checkbox', { name: /^Frame sequence/ }).click();
  await bench.type('Last frame', '2');
  await bake(3);
  const frames = await download();
  expect(frames.name).toBe('Slipway.zip');
  const entries = new TextDecoder('latin1').decode(frames.bytes).match(/Slipway\.\d{4}\.glb/g);
  expect([...new Set(entries)]).toEqual(['Slipway.0000.glb', 'Slipway.0001.glb', 'Slipway.0002.glb']);

  await bench.newProject(kelp.url, 'Empty');
  const dropped = await page.evaluateHandle(
    (bytes) => {
      const made = new DataTransfer();
      made.items.add(new File([Uint8Array.from(bytes)], 'slipway.glb'));
      return made;
    },
    [...lean.bytes],
  );
  const view = page.getByRole('region', { name: 'View' });
  await view.dispatchEvent('dragover', { dataTransfer: dropped });
  await view.dispatchEvent('drop', { dataTransfer: dropped });
  await page.getByRole('button', { name: 'Import the project' }).click();
  await expect(bench.piece('Cable')).toBeVisible();
  await expect(page.getByRole('button', { name: /^rabbit / })).toBeVisible();
  await bench.piece('Cable').click();
  await bench.openFloat('Dress');
  await expect(skin.getByRole('textbox', { name: 'Tile length value' })).toHaveValue('10');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(bench.piece('Cable')).toHaveCount(0);
});
