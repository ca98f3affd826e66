import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('throw a line, edit many points of two lines at once, join and split, each one step of undo', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  // from a bollard to the raft: pay out, then B finds the least bow that is clear
  await page.keyboard.press('t');
  await page.mouse.move(...(await bench.at(0.535, 0.375)));
  await page.mouse.down();
  await page.mouse.move(...(await bench.at(0.8, 0.5)), { steps: 6 });
  await page.mouse.up();
  await page.mouse.move(...(await bench.at(0.81, 0.6)), { steps: 6 });
  await expect(page.getByText(/sag \d+/)).toBeVisible();
  await page.keyboard.press('b');
  await expect(page.getByText(/ clearance$/)).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('Cable');
  await expect(bench.float('Shape')).toContainText(/Sag [\d.]+ %/);

  // a second line into the same piece, straight over the deck
  await bench.openFloat('Path');
  await page.getByRole('button', { name: 'Draw another into it' }).click();
  await page.keyboard.press('p');
  for (const place of [
    [0.24, 0.398],
    [0.3, 0.414],
    [0.4, 0.405],
    [0.43, 0.426],
  ] as [number, number][])
    await page.mouse.click(...(await bench.at(...place)));
  await page.keyboard.press('Enter');
  await bench.openFloat('Path');
  await expect(page.getByText('Line 2, 4 points')).toBeVisible();
  await page.getByRole('button', { name: 'Select all points of Line 2' }).click();
  await expect(page.getByText('4 points selected')).toBeVisible();
  // both lines at once: Ctrl adds an end of the thrown one
  await page.keyboard.down('Control');
  await page.mouse.click(...(await bench.at(0.535, 0.375)));
  await page.keyboard.up('Control');
  await expect(page.getByText('5 points selected')).toBeVisible();
  await bench.type('Thickness', '1.5');
  await page.getByRole('button', { name: 'Straighten' }).click();
  await page.getByRole('button', { name: 'Even out' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('textbox', { name: 'Thickness value' })).toHaveValue('1');

  // a box takes points, one of them cut into two lines, joined again
  const [x, y] = await bench.at(0.22, 0.37);
  await page.keyboard.down('Shift');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(...(await bench.at(0.34, 0.44)), { steps: 5 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(page.getByText('2 points selected')).toBeVisible();
  await page.mouse.click(...(await bench.at(0.3, 0.414)));
  await page.getByRole('button', { name: 'Split here' }).click();
  await expect(page.getByText('Line 3, 3 points')).toBeVisible();
  await page.getByRole('button', { name: 'Join the first two' }).click();
  await expect(page.getByText('Line, 4 points')).toBeVisible();
});

test('a path from numbers, its stages looked at, and curves from a drawing', async ({ page, kelp }) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  await page.getByRole('button', { name: 'New piece…' }).click();
  await page.getByRole('menuitem', { name: /^Helix/ }).click();
  await bench.type('Turns', '3');
  await bench.openFloat('Shape');
  await expect(bench.float('Path')).toContainText('3 turns');
  await page.getByRole('button', { name: 'Add operation…' }).click();
  await page.getByRole('menuitem', { name: /^Wobble/ }).click();
  await page.getByRole('button', { name: 'Show the line after Wobble' }).click();
  await expect(page.getByRole('button', { name: 'Show the line after Wobble' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: 'Add operation…' }).click();
  await page.getByRole('menuitem', { name: /^Repeat/ }).click();
  await bench.openFloat('Make');
  await expect(bench.float('Shape')).toContainText('3 in a row');

  const drawing =
    '<svg xmlns="http://www.w3.org/2000/svg" width="400mm" viewBox="0 0 200 100"><circle cx="50" cy="50" r="40"/><path d="M0 0L50 0J1 1"/></svg>';
  await bench.importMesh({ name: 'plan.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing) });
  await expect(page.getByText('plan.svg: 2 lines')).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('The part before it was kept');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('plan');
  // a ring of radius 80 mm and a line of 100 mm
  await expect(page.getByText(/^60[23](\.\d)? mm · /)).toBeVisible();
});

test('a broken mesh is imported and mended; a prop that moves takes its cables along', async ({ page, kelp }) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  // a box whose faces look inwards, in millimetres where metres were meant
  const inwards =
    'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\n' +
    'f 1 2 3 4\nf 8 7 6 5\nf 5 6 2 1\nf 4 3 7 8\nf 2 6 7 3\nf 1 4 8 5\n';
  await bench.importMesh({ name: 'box.obj', mimeType: 'text/plain', buffer: Buffer.from(inwards) });
  await expect(page.getByText('is inside out')).toBeVisible();
  await page.getByRole('checkbox', { name: 'Flip faces outwards' }).uncheck();
  await page.getByRole('button', { name: 'mm', exact: true }).click();
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await page.getByRole('button', { name: 'Inspect mesh' }).click();
  await expect(page.getByText('12 faces are inside out')).toBeVisible();
  await expect(page.getByText('Very small')).toBeVisible();
  await page.getByRole('button', { name: '× 100', exact: true }).click();
  await page.getByRole('button', { name: 'Inspect mesh' }).click();
  await page.getByRole('button', { name: 'Flip faces outwards' }).click();
  await page.getByRole('button', { name: 'Inspect mesh' }).click();
  await expect(page.getByText('No problems found.')).toBeVisible();

  // a picture to draw from: kept with the project, sized, locked; one that is none is refused
  const png = 'iVBORw0KGgoAAAANSUhEUgAAAAQAAAACCAIAAADwyuo0AAAAEElEQVR4nGM4cWADHDEgcwDnmhHBBZCF0AAAAABJRU5ErkJggg==';
  const picture = { name: 'plan.png', mimeType: 'image/png', buffer: Buffer.from(png, 'base64') };
  await bench.importMesh({ ...picture, buffer: Buffer.from('no picture') });
  await expect(page.getByRole('alert')).toContainText('not an image that Kelp reads');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await bench.importMesh(picture);
  await expect(page.getByRole('textbox', { name: 'Image name' })).toHaveValue('plan');
  await page.getByRole('button', { name: 'Set size by two points…' }).click();
  const drawing = page.getByRole('img', { name: 'plan' });
  // two places on its left and right edge
  await drawing.click({ position: { x: 2, y: 40 } });
  await expect(page.getByText('Click the other end.')).toBeVisible();
  const { width } = (await drawing.boundingBox())!;
  await drawing.click({ position: { x: width - 2, y: 40 } });
  await bench.type('Distance', '3 m');
  await page.getByRole('button', { name: 'Set size' }).click();
  await page.getByRole('switch', { name: 'Lock against clicks' }).check();
  await bench.saved();

  // the buoy goes two metres out: its tether grows with it, in one step of undo
  const tether = bench.lengthOf('Buoy tether');
  const before = (await tether.textContent()) ?? '';
  await page.getByRole('button', { name: /^Buoy 2/ }).click();
  await bench.type('Position Z', '4700');
  await expect(tether).not.toHaveText(before);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(tether).toHaveText(before);
  await bench.saved();
  await page.reload();
  await page.getByRole('region', { name: 'Images' }).getByRole('button', { name: /^plan/ }).click();
  await expect(page.getByRole('switch', { name: 'Lock against clicks' })).toBeChecked();
});

test('points and throw hold on to the open scanned mesh, and ride along when it moves', async ({ page, kelp }) => {
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Scan');
  await bench.importScan();
  await page.keyboard.press('f');

  await page.keyboard.press('p');
  for (const place of [
    [0.4, 0.62],
    [0.5, 0.56],
    [0.6, 0.64],
  ] as [number, number][])
    await page.mouse.click(...(await bench.at(...place)));
  await page.keyboard.press('Enter');
  await bench.openFloat('Path');
  await page.getByRole('button', { name: /^Select all points of Line/ }).click();
  await expect(page.getByText('Held on rabbit')).toBeVisible();
  await page.keyboard.press('t');
  await page.mouse.move(...(await bench.at(0.45, 0.5)));
  await page.mouse.down();
  await page.mouse.move(...(await bench.at(0.6, 0.7)), { steps: 5 });
  await page.mouse.up();
  await page.mouse.move(...(await bench.at(0.6, 0.78)), { steps: 5 });
  await page.mouse.down();
  await page.mouse.up();
  await expect(page.getByRole('textbox', { name: 'Piece name' })).toHaveValue('Cable 2');
  await bench.openFloat('Path');
  await page.getByRole('button', { name: /^Select all points of Line/ }).click();
  await expect(page.getByText('Held on rabbit')).toBeVisible();

  // twice the size: what is held on it grows with it
  const length = async () => Number.parseFloat((await bench.lengthOf('Cable').textContent()) ?? '');
  const before = await length();
  await page.getByRole('button', { name: /^rabbit / }).click();
  await bench.type('Scale', '2');
  await expect.poll(async () => (await length()) / before).toBeCloseTo(2, 1);
});
