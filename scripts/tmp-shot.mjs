import { openDemoPage } from './demo-page.mjs';
const [out, project, ...pieces] = process.argv.slice(2);
const { page, url, close } = await openDemoPage();
page.on('console', (m) => { if (/error|warn/i.test(m.type())) console.log(m.type(), m.text().slice(0, 300)); });
await page.goto(url);
await page.getByRole('list', { name: 'Projects' }).getByRole('link', { name: new RegExp(project) }).click();
await page.getByText(/tri$/).first().waitFor();
await page.waitForTimeout(6000);
await page.screenshot({ path: `${out}.png` });
let k = 1;
for (const p of pieces) {
  const [name, zoom, look] = p.split(':');
  await page.getByRole('region', { name: 'Pieces' }).getByRole('button', { name: new RegExp(`^${name}`) }).click();
  await page.keyboard.press('f');
  await page.waitForTimeout(1500);
  const box = { x: 560, y: 430 };
  await page.mouse.move(box.x, box.y);
  for (let i = 0; i < Number(zoom ?? 0); i++) { await page.mouse.wheel(0, -200); await page.waitForTimeout(150); }
  if (look === 'form') await page.getByRole('button', { name: 'Form', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.waitForTimeout(3000);
  await page.screenshot({ path: `${out}-${k++}.png` });
  if (look === 'form') await page.getByRole('button', { name: 'Dressed', exact: true }).click();
}
await close();
