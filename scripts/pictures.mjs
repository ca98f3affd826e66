// npm run pictures: draws what comes with the build, so that nobody waits for it: a picture of each preset, and the demos' covers.
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { openDemoPage } from './demo-page.mjs';
import { root } from './root.mjs';

const COVERS = {
  'Kelp farm, pier corner': 'corner',
  'Kelp farm, landing': 'landing',
  'Kelp farm, rigging loft': 'loft',
  'Kelp farm, nursery': 'nursery',
  'Kelp farm, sewing bench': 'sewing',
  'Kelp farm, slip': 'slip',
  'Kelp farm, hauling yard': 'yard',
};
const { page, url, close } = await openDemoPage({ 'kelp-draw-presets': 'yes' });
const demos = (await (await fetch(`${url}/api/projects`)).json()).map(({ id, cover, name }) => ({
  id,
  cover,
  name: COVERS[name],
}));
await page.goto(`${url}/project/${demos[0].id}`);
await page.getByText(/tri$/).first().waitFor();
await page.getByRole('button', { name: 'Locker' }).click();
const cards = page.getByRole('dialog', { name: 'Locker' }).locator('[data-preset]');
const folder = join(root, 'packages/web/src/look/presets');
rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
await cards.first().waitFor();
for (const card of await cards.all()) {
  await card.scrollIntoViewIfNeeded();
  const source = await card.locator('img').getAttribute('src');
  const name = `${(await card.getAttribute('data-preset')).replace(' ', '-')}.png`;
  writeFileSync(join(folder, name), Buffer.from(source.slice(source.indexOf(',') + 1), 'base64'));
  console.log(name);
}
// the page draws a cover some time after it has made all pieces
for (const { id, cover, name } of demos) {
  if (id !== demos[0].id) await page.goto(`${url}/project/${id}`);
  let drawn = cover;
  while (drawn === cover) {
    await page.waitForTimeout(500);
    drawn = (await (await fetch(`${url}/api/projects`)).json()).find((one) => one.id === id).cover;
  }
  const png = await (await fetch(`${url}/api/projects/${id}/cover`)).arrayBuffer();
  writeFileSync(join(root, 'packages/demo/covers', `${name}.png`), Buffer.from(png));
  console.log(`${name}.png`);
}
await close();
