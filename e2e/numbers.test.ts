import { expect } from '@playwright/test';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.use({ demo: true });

test('a number is typed, stepped, wheeled, dragged and put back; limits are reported; a pair shows what it gives', async ({
  page,
  kelp,
}) => {
  const bench = new Workbench(page);
  await bench.openDemo(kelp.url);
  await bench.piece('Lamp line').click();
  await bench.openFloat('Make');
  const radius = page.getByRole('textbox', { name: 'Radius value', exact: true });
  await bench.type('Radius', '3/8 in');
  // an inch is 25.4 mm (international yard and pound agreement, 1959)
  await expect(radius).toHaveValue(/^9\.52/);
  await bench.type('Radius', '2*12mm + 1mm');
  await expect(radius).toHaveValue('25');

  // a hundredth of the usual range a step, ten with Shift, a tenth with Alt
  const step = 0.99;
  await radius.press('ArrowUp');
  await expect(radius).toHaveValue(String(25 + step));
  await radius.press('Shift+ArrowDown');
  await expect(radius).toHaveValue(/^16\.09/);
  await radius.press('Alt+ArrowUp');
  await expect(radius).toHaveValue(/^16\.(18|19)/);
  await radius.hover();
  await page.mouse.wheel(0, -100);
  await expect(radius).toHaveValue(/^17\.1/);

  await bench.type('Radius', '-5');
  await expect(page.getByRole('alert')).toContainText('Radius must be at least 0.01 mm');
  await expect(radius).toHaveAttribute('aria-invalid', 'true');
  await radius.press('Escape');
  await bench.type('Radius', '150');
  await expect(radius).toHaveValue('150');
  await expect(page.getByRole('alert')).toBeHidden();

  // a drag is one step of undo, however many values it went through
  const slider = page.getByRole('slider', { name: 'Radius', exact: true });
  const box = await slider.locator('..').boundingBox();
  if (!box) throw new Error('There is no slider');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x - 40, box.y, { steps: 6 });
  await page.mouse.up();
  await expect(radius).not.toHaveValue('150');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(radius).toHaveValue('150');
  await page.getByText('Radius', { exact: true }).first().dblclick();
  await expect(radius).toHaveValue('12');

  // from one line to the next: the histogram shows as many values as there are lines
  await bench.piece('Hose coil').click();
  await bench.openFloat('Path');
  await bench.type('Parallel lines', '4');
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('combobox', { name: 'What do you want to do?' })).toBeFocused();
  await page.keyboard.type('add vary');
  await page.keyboard.press('Enter');
  const thickness = page.getByRole('group', { name: 'Thickness range' });
  await bench.type('Thickness range, min', '0.5');
  await expect(thickness.getByRole('img')).toHaveAttribute('aria-label', '4 values between 0.5 and 1.1 ×');
  await bench.type('Thickness range, min', '1.4');
  await expect(page.getByRole('textbox', { name: 'Thickness range, max value' })).toHaveValue('1.4');
});
