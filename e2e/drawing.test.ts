import { expect } from '@playwright/test';
import { axeProblems } from './axe.js';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('points: click, take back, close, drag, insert, delete; what is not a mesh is refused with a sentence', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);

  // a closed line on the deck: four points, one taken back, the first clicked again
  await page.keyboard.press('p');
  const corners: [number, number][] = [
    [0.24, 0.398],
    [0.4, 0.405],
    [0.43, 0.426],
    [0.293, 0.414],
  ];
  for (const place of [...corners.slice(0, 3), [0.6, 0.9] as [number, number]])
    await page.mouse.click(...(await bench.at(...place)));
  await page.keyboard.press('Backspace');
  await page.mouse.click(...(await bench.at(...corners[3])));
  await page.mouse.click(...(await bench.at(...corners[0])));
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('Cable');
  await bench.openFloat('Path');
  await expect(page.getByText('Line, 4 points')).toBeVisible();

  // drag one along the deck: one step of undo, and it stays on the prop
  const [x, y] = await bench.at(...corners[2]);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 8, y + 3, { steps: 3 });
  await page.mouse.move(x + 22, y + 6, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText('Point 3 of 4')).toBeVisible();
  await expect(page.getByText('Held on Pier')).toBeVisible();
  const moved = await page.getByRole('textbox', { name: 'X value' }).inputValue();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('textbox', { name: 'X value' })).not.toHaveValue(moved);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(page.getByRole('textbox', { name: 'X value' })).toHaveValue(moved);

  // a double-click on the line puts a point in, Delete takes it out
  const [ax, ay] = await bench.at(...corners[0]);
  const [bx, by] = await bench.at(...corners[1]);
  await page.mouse.dblclick((ax + bx) / 2, (ay + by) / 2 - 1);
  await expect(page.getByText('Line, 5 points')).toBeVisible();
  await page.getByRole('button', { name: 'Delete point' }).click();
  await expect(page.getByText('Line, 4 points')).toBeVisible();

  // numbers that make no sense are refused where they are
  await bench.openFloat('Make');
  await bench.type('Radius', 'a lot');
  await expect(page.getByRole('alert').filter({ hasText: 'cannot be read' })).toBeVisible();
  await bench.type('Radius', '1e9');
  await expect(page.getByRole('alert').filter({ hasText: 'at most' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Radius value', exact: true }).press('Escape');

  for (const [name, content, words] of [
    ['notes.txt', 'hello', 'Row 1'],
    ['broken.obj', 'v 0 0 zero\n', 'line 1'],
    ['cut.glb', 'glTF', 'not a readable glTF'],
  ]) {
    await bench.importMesh({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(content) });
    await expect(page.getByRole('alert')).toContainText(words);
    await page.getByRole('button', { name: 'Cancel' }).click();
  }
});

test('a file dropped on the view is imported; a lane is shaped on the length strip and undone', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Dropped');
  const transfer = await page.evaluateHandle(() => {
    const made = new DataTransfer();
    made.items.add(new File(['v 0 0 0\nv 2 0 0\nv 2 0 -2\nv 0 0 -2\nf 1 2 3 4\n'], 'deck.obj'));
    return made;
  });
  const view = page.getByRole('region', { name: 'View' });
  await view.dispatchEvent('dragover', { dataTransfer: transfer });
  await view.dispatchEvent('drop', { dataTransfer: transfer });
  await expect(page.getByText('2.00 m wide, 0 mm high, 2.00 m deep')).toBeVisible();
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(page.getByRole('button', { name: /^deck 2/ })).toBeVisible();
  await page.getByRole('button', { name: 'Frame' }).click();
  await page.waitForTimeout(1000);
  await bench.stroke([0.4, 0.5], [0.5, 0.48], [0.62, 0.5]);
  await expect(page.getByText(/tri$/).first()).toBeVisible();

  const strip = page.getByRole('region', { name: 'Length strip' });
  await strip.getByRole('button', { name: /^Radius/ }).click();
  await page.getByRole('menuitem', { name: 'Spindle' }).click();
  const knot = strip.getByRole('slider', { name: 'Radius, knot 2' });
  const before = Number(await knot.getAttribute('aria-valuenow'));
  await knot.focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(async () => Number(await knot.getAttribute('aria-valuenow'))).toBeGreaterThan(before);
  await page.keyboard.press('Delete');
  await expect(strip.getByRole('slider')).toHaveCount(2);
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(strip.getByRole('slider')).toHaveCount(0);
});

test('nothing that axe-core finds on the main views; everything has a name', async ({ page, kelp }) => {
  await page.goto(kelp.url);
  await expect(page.getByRole('list', { name: 'Projects' })).toBeVisible();
  expect(await axeProblems(page)).toEqual([]);
  await page
    .getByRole('list', { name: 'Projects' })
    .getByRole('link', { name: /pier corner/ })
    .click();
  await expect(page.getByText(/tri$/).first()).toBeVisible();
  expect(await axeProblems(page)).toEqual([]);
  await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
  await expect(page.getByRole('button', { name: 'Bake to GLB' })).toBeVisible();
  expect(await axeProblems(page)).toEqual([]);
  await page
    .getByRole('banner')
    .getByRole('button', { name: /Checks/ })
    .click();
  await expect(page.getByRole('complementary', { name: 'Checks' })).toBeVisible();
  expect(await axeProblems(page)).toEqual([]);
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  expect(await axeProblems(page)).toEqual([]);
  // every unit at work, every number with its gauge
  await page.goto(`${kelp.url}/reference`);
  await expect(page.getByAltText('Example of Drawn')).toBeVisible();
  expect(await axeProblems(page)).toEqual([]);
});
