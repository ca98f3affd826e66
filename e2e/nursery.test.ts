import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

/** The JSON of a GLB. */
function headOf(bytes: Buffer) {
  const length = bytes.readUInt32LE(12);
  return JSON.parse(bytes.subarray(20, 20 + length).toString('utf8')) as {
    accessors: { count: number }[];
    meshes: { name: string; primitives: { mode: number; attributes: Record<string, number>; indices: number }[] }[];
  };
}

/** Bakes to a format and gives the file. */
async function bakedTo(page: Page, bench: Workbench, format: string): Promise<Buffer> {
  await bench.saved();
  await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
  if (format !== 'GLB') {
    await page.getByRole('combobox', { name: 'Format' }).click();
    await page.getByRole('option', { name: format }).click();
  }
  await page.getByRole('button', { name: `Bake to ${format}` }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('region', { name: 'Previous bakes' }).getByRole('link', { name: 'Download' }).first().click(),
  ]);
  return readFileSync(await download.path());
}

/** What a bake of 100,000 strands may take beside the server and its threads. */
const MAX_MEMORY = 900 * 2 ** 20;

test('100,000 strands grow on a scanned mesh: combed, clumped, few of them shown, all of them baked within bounded memory', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Fur coat');
  await bench.importScan();
  // a stroke over its back is what it is combed along later
  await bench.stroke([0.45, 0.45], [0.52, 0.5], [0.58, 0.6]);
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'New piece…' }).click();
  await page.getByRole('menuitem', { name: /^Grown/ }).click();
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('Grown');
  await page.getByRole('button', { name: /^View/ }).click();
  await bench.type('Viewport share', '0.02');
  await bench.type('Count', '100000');
  await bench.type('Strand length', '8');
  const lines = () => page.getByText(/tri$/).first().textContent();

  await bench.openFloat('Shape');
  await expect(bench.float('Path')).toContainText('100,000 strands, 2 % shown');
  const add = async (name: RegExp) => {
    await page.getByRole('button', { name: 'Add operation…' }).click();
    await page.getByRole('menuitem', { name }).click();
  };
  await add(/^Comb/);
  await page.getByRole('combobox', { name: 'Strokes' }).click();
  await page.getByRole('option').first().click();
  await page.keyboard.press('Escape');
  await add(/^Clump/);
  // thinned, and back
  const shown = await lines();
  await bench.openFloat('Path');
  await expect(bench.float('Shape')).toContainText('Combed along 1 stroke · Clumps 0.3 of a strand apart');
  await bench.type('Count', '50000');
  await expect.poll(lines).not.toBe(shown);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(lines).toBe(shown);

  await bench.openFloat('Make');
  await page.getByRole('group', { name: 'Bake as' }).getByRole('button', { name: 'Lines' }).click();
  const before = kelp.peak();
  const head = headOf(await bakedTo(page, bench, 'GLB'));
  expect(kelp.peak() - before).toBeLessThan(MAX_MEMORY);
  const fur = head.meshes.find(({ name }) => name === 'Grown');
  expect(fur?.primitives[0].mode).toBe(1);
  const count = (name: string) => head.accessors[fur?.primitives[0].attributes[name] ?? -1]?.count;
  for (const name of ['POSITION', '_WIDTH', '_STRAND', '_CLUMP', 'COLOR_0']) expect(count(name)).toBe(1_200_000);
  expect(head.accessors[fur?.primitives[0].indices ?? -1].count).toBe(2_200_000);
});

test.describe('in the nursery of the demo', () => {
  test.use({ demo: true });

  test('more strands leave the others where they are, a shell has strands of its own, and curves with widths come out', async ({
    page,
    kelp,
  }) => {
    const bench = new Workbench(page);
    await bench.openDemo(kelp.url, /nursery/);
    const pup = bench.piece('Pup fur');
    await pup.click();
    await bench.openFloat('Dress');
    await page.getByRole('button', { name: 'Seal grey' }).click();
    await bench.openFloat('Path');
    const before = (await bench.lengthOf('Pup fur').textContent()) ?? '';
    await bench.type('Count', '13000');
    await expect(bench.lengthOf('Pup fur')).not.toHaveText(before);
    await bench.piece('Doll hair').click();
    const hair = (await bench.lengthOf('Doll hair').textContent()) ?? '';
    const tail = (await bench.lengthOf('Curled tail').textContent()) ?? '';
    await page.getByRole('button', { name: /^Shell overrides/ }).click();
    await page.getByRole('textbox', { name: 'Strands value' }).nth(1).fill('400');
    await page.keyboard.press('Enter');
    await expect(bench.lengthOf('Doll hair')).not.toHaveText(hair);
    await expect(bench.lengthOf('Curled tail')).toHaveText(tail);

    const text = (await bakedTo(page, bench, 'USDA')).toString('utf8');
    expect(text.match(/def BasisCurves "/g)?.length).toBe(8);
    expect(text.match(/def Mesh "/g)?.length).toBe(2);
    const fur = text.slice(text.indexOf('def BasisCurves "Pup_fur"'));
    const counts = fur.match(/curveVertexCounts = \[([^\]]*)\]/)?.[1].split(',') ?? [];
    expect(counts.length).toBe(13_000);
    expect(fur.match(/widths = \[([^\]]*)\]/)?.[1].split(',').length).toBe(65_000);
  });
});
