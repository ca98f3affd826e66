// npm run screenshots: one current picture of each main view, from the demo data, into docs/screenshots.
import { join } from 'node:path';
import { openDemoPage } from './demo-page.mjs';
import { root } from './root.mjs';

const { page, url, close } = await openDemoPage();

/** Waits until the picture stands still, then takes it. */
async function shoot(name) {
  await page.mouse.move(700, 20);
  await page.waitForTimeout(3500);
  await page.screenshot({ path: join(root, 'docs', 'screenshots', `${name}.png`), timeout: 120_000 });
  console.log(name);
}

/** Four pictures as one, two and two. */
async function sheet(name, pictures) {
  await page.goto('about:blank');
  await page.setContent(
    `<body style="margin:0;display:grid;grid-template-columns:1fr 1fr;gap:0">${pictures
      .map((picture) => `<img style="width:100%" src="data:image/png;base64,${picture.toString('base64')}">`)
      .join('')}</body>`,
  );
  await shoot(name);
}
const piece = (name) =>
  page.getByRole('region', { name: 'Pieces' }).getByRole('button', { name: new RegExp(`^${name}`) });
const float = (name) => page.getByRole('region', { name, exact: true }).getByRole('button').first();

await page.goto(url);
await page
  .getByRole('list', { name: 'Projects' })
  .getByRole('link', { name: /pier corner/ })
  .click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(4000);
await piece('Mooring line').click();
await page.getByAltText('').nth(2).waitFor();
await shoot('workbench');

await page.keyboard.press('Escape');
await shoot('overview');

await piece('Bridge hose').click();
await page.getByRole('button', { name: 'Locker' }).click();
await page
  .getByRole('dialog', { name: 'Locker' })
  .getByRole('button', { name: /Flat strap/ })
  .hover();
await page.waitForTimeout(3500);
await page.screenshot({ path: join(root, 'docs', 'screenshots', 'locker.png'), timeout: 120_000 });
console.log('locker');
await page.keyboard.press('Escape');
await page.mouse.move(700, 20);

// from its dress to the report of its bake
const ofBake = [];
const keep = async () => {
  await page.mouse.move(700, 20);
  await page.waitForTimeout(3500);
  ofBake.push(await page.screenshot({ timeout: 120_000 }));
};
await piece('Shore power').click();
await page.keyboard.press('f');
await float('Dress').click();
await keep();
await page.getByRole('button', { name: 'Checker', exact: true }).click();
await keep();
await page.getByRole('button', { name: 'Dressed', exact: true }).click();
await page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
await page.getByText('Target program').click();
await keep();
await page.getByRole('button', { name: 'Bake to GLB' }).click();
await page.getByRole('button', { name: 'Report…' }).first().click();
await page.getByRole('dialog', { name: 'Bake report' }).waitFor();
await keep();
await page.keyboard.press('Escape');
await page.getByRole('button', { name: 'Close Bake' }).click();

await piece('Shore power').click();
await page.keyboard.press('f');
await float('Make').click();
const least = page.getByRole('textbox', { name: 'Min bend radius value' });
await least.fill('12');
await least.press('Enter');
await page
  .getByRole('banner')
  .getByRole('button', { name: /Checks/ })
  .click();
await shoot('checks');

await page.getByRole('button', { name: 'Undo' }).click();
await page.getByRole('button', { name: 'Close Checks' }).click();
await piece('Hand rail').click();
await page.keyboard.press('f');
await float('Path').click();
await shoot('path');
await float('Make').click();
await page.getByRole('button', { name: 'Edit…' }).click();
await page.getByRole('application', { name: 'Drawing board' }).waitFor();
await shoot('profile');
await page.getByRole('button', { name: 'Cancel' }).click();

await page.reload();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(4000);
await piece('Mooring line').click();
await page.keyboard.press('f');
await page.getByRole('button', { name: 'Save variant' }).click();
const radius = page.getByRole('textbox', { name: 'Radius value', exact: true });
await radius.fill('20');
await radius.press('Enter');
await page.getByRole('button', { name: 'Compare with Variant' }).click();
await shoot('compare');
await page.getByRole('button', { name: 'Close comparison' }).click();
await page.getByRole('button', { name: 'Restore Variant' }).click();
const strip = page.getByRole('region', { name: 'Length strip' });
await strip.getByRole('button', { name: /^Radius/ }).click();
await page.getByRole('menuitem', { name: 'Spindle' }).click();
const rows = await strip.boundingBox();
await page.mouse.move(rows.x + 380, rows.y + 80);
await page.waitForTimeout(3500);
await page.screenshot({ path: join(root, 'docs', 'screenshots', 'strip.png'), timeout: 120_000 });
console.log('strip');
await page.getByRole('button', { name: 'Undo' }).click();

await piece('Sensor lead').click();
await page.getByRole('button', { name: 'Proof sheet…' }).click();
await page.getByRole('combobox', { name: 'Parameter in columns' }).click();
await page.getByRole('option', { name: 'Cable · Radius' }).click();
// nine proofs, each whole and close up
await page.waitForFunction(() => document.querySelectorAll('[aria-label="Proofs"] img').length === 18);
await shoot('proof-sheet');
await page.getByRole('button', { name: 'Keep current' }).click();

await page.goto(url);
await page
  .getByRole('list', { name: 'Projects' })
  .getByRole('link', { name: /landing/ })
  .click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(6000);
await piece('Grown together').click();
await page.waitForTimeout(1500);
await page.keyboard.press('Escape');
const landing = await page.locator('canvas').first().boundingBox();
await page.mouse.move(landing.x + landing.width * 0.55, landing.y + landing.height * 0.48);
for (let i = 0; i < 2; i++) {
  await page.mouse.wheel(0, -240);
  await page.waitForTimeout(150);
}
await shoot('landing');

await page.goto(url);
await page
  .getByRole('list', { name: 'Projects' })
  .getByRole('link', { name: /nursery/ })
  .click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(8000);
await page.keyboard.press('Escape');
const nursery = await page.locator('canvas').first().boundingBox();
await page.mouse.move(nursery.x + nursery.width * 0.55, nursery.y + nursery.height * 0.45);
for (let i = 0; i < 3; i++) {
  await page.mouse.wheel(0, -240);
  await page.waitForTimeout(150);
}
await shoot('nursery');

await page.goto(url);
await page.getByRole('list', { name: 'Projects' }).getByRole('link', { name: /slip/ }).click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(6000);
await piece('Roof trusses').click();
await page.keyboard.press('f');
await page.waitForTimeout(1500);
await page.keyboard.press('Escape');
const slip = await page.locator('canvas').first().boundingBox();
await page.mouse.move(slip.x + slip.width * 0.45, slip.y + slip.height * 0.6);
await page.mouse.wheel(0, -240);
await page.waitForTimeout(3500);
// below the bars, as broad as two go side by side
const below = { x: slip.x, y: slip.y + 48, width: slip.width, height: slip.width * 0.625 };
const ofSlip = [await page.screenshot({ clip: below, timeout: 120_000 })];
await page.getByRole('button', { name: 'Form', exact: true }).click();
// balls, plates and welds close by: how often nearer, and how far to the side and down
for (const [name, nearer, right, down] of [
  ['Gate', 14, -60, 150],
  ['Lamp mast', 22, 0, 0],
  ['Quay rail', 12, 0, 130],
]) {
  await piece(name).click();
  await page.keyboard.press('f');
  const [x, y] = [slip.x + slip.width / 2, slip.y + slip.height / 2];
  await page.mouse.move(x, y);
  for (let i = 0; i < nearer; i++) {
    await page.mouse.wheel(0, -240);
    await page.waitForTimeout(120);
  }
  await page.mouse.down({ button: 'middle' });
  await page.mouse.move(x + right, y + down, { steps: 4 });
  await page.mouse.up({ button: 'middle' });
  await page.keyboard.press('Escape');
  await page.mouse.move(700, 20);
  await page.waitForTimeout(3500);
  ofSlip.push(await page.screenshot({ clip: below, timeout: 120_000 }));
}
await sheet('slip', ofSlip);

await page.goto(url);
await page.getByRole('list', { name: 'Projects' }).getByRole('link', { name: /yard/ }).click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(6000);
// the clock stands a while after the beginning
await page.getByRole('slider', { name: 'Time' }).focus();
for (let k = 0; k < 9; k++) await page.keyboard.press('ArrowRight');
await page.keyboard.press('Escape');
await page.waitForTimeout(3000);
const ofYard = [await page.screenshot({ clip: below, timeout: 120_000 })];
for (const [name, nearer] of [
  ['Winch belt', 3],
  ['Conveyor', 2],
  ['Track', 3],
]) {
  await piece(name).click();
  await page.keyboard.press('f');
  await page.mouse.move(slip.x + slip.width / 2, slip.y + slip.height / 2);
  for (let i = 0; i < nearer; i++) {
    await page.mouse.wheel(0, -240);
    await page.waitForTimeout(120);
  }
  await page.keyboard.press('Escape');
  await page.mouse.move(700, 20);
  await page.waitForTimeout(3500);
  ofYard.push(await page.screenshot({ clip: below, timeout: 120_000 }));
}
await sheet('yard', ofYard);

await page.goto(url);
await page
  .getByRole('list', { name: 'Projects' })
  .getByRole('link', { name: /rigging loft/ })
  .click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(4000);
await page.keyboard.press('Escape');
const board = await page.locator('canvas').first().boundingBox();
await page.mouse.move(board.x + board.width * 0.36, board.y + board.height * 0.4);
for (let i = 0; i < 5; i++) {
  await page.mouse.wheel(0, -240);
  await page.waitForTimeout(150);
}
await shoot('loft');

await page.goto(url);
await page
  .getByRole('list', { name: 'Projects' })
  .getByRole('link', { name: /sewing bench/ })
  .click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(4000);
await piece('Suit zip').click();
await page.waitForTimeout(2000);
await page.keyboard.press('Escape');
const seams = await page.locator('canvas').first().boundingBox();
await page.mouse.move(seams.x + seams.width * 0.55, seams.y + seams.height * 0.5);
for (let i = 0; i < 3; i++) {
  await page.mouse.wheel(0, -240);
  await page.waitForTimeout(150);
}
await shoot('sewing');

await page.goto(url);
await page
  .getByRole('list', { name: 'Projects' })
  .getByRole('link', { name: /pier corner/ })
  .click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(4000);
const edge = await page.getByRole('separator', { name: 'Manifest width' }).boundingBox();
await page.mouse.move(edge.x + edge.width / 2, 400);
await page.mouse.down();
await page.mouse.move(770, 400, { steps: 6 });
await page.mouse.up();
await page.getByRole('button', { name: 'Sort by triangles' }).click();
await page.getByRole('button', { name: 'Frame' }).click();
await shoot('manifest');

await page.goto(url);
await page
  .getByRole('list', { name: 'Projects' })
  .getByRole('link', { name: /pier corner/ })
  .waitFor();
await shoot('project-list');

await sheet('dress-and-bake', ofBake);

await page.goto(`${url}/reference#wobble`);
await page.getByAltText('Example of Wobble').waitFor();
await page.getByAltText('Example of Plain').waitFor();
await page.getByAltText('Example of Wobble').scrollIntoViewIfNeeded();
await shoot('reference');

await close();
