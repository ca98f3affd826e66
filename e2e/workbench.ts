import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { readModel } from '../packages/formats/src/index.js';
import { scanFile } from './scan.js';

/** What a person does in the workbench, by what they see there. */
export class Workbench {
  constructor(readonly page: Page) {}

  async newProject(url: string, name: string): Promise<void> {
    await this.page.goto(url);
    await this.page.getByRole('button', { name: 'New project' }).first().click();
    await this.page.getByLabel('Name').fill(name);
    await this.page.getByRole('button', { name: 'Create' }).click();
    await expect(this.page.getByRole('region', { name: 'View' })).toBeVisible();
  }

  /** Opens a demo project of a fresh server and waits until all of it is looked at: places of the view are what they stay. */
  async openDemo(url: string, place = /pier corner/): Promise<void> {
    await this.page.goto(url);
    await this.page.getByRole('list', { name: 'Projects' }).getByRole('link', { name: place }).click();
    await expect(this.page.getByText(/tri$/).first()).toBeVisible();
    await this.looked();
  }

  /** The first picture is complete, and looked at from where all of it is seen. */
  async looked(): Promise<void> {
    await expect(this.page.getByRole('region', { name: 'View' })).toHaveAttribute('aria-busy', 'false');
  }

  /** A piece in the manifest. */
  piece(name: string) {
    return this.page.getByRole('region', { name: 'Pieces' }).getByRole('button', { name: new RegExp(`^${name}`) });
  }

  /** The length of a piece, as the manifest shows it. */
  lengthOf(name: string) {
    return this.piece(name)
      .first()
      .getByText(/\d m?m$/)
      .first();
  }

  async importMesh(file: { name: string; mimeType: string; buffer: Buffer }): Promise<void> {
    await this.page.getByRole('button', { name: 'Import a file…' }).click();
    await this.page.getByLabel('File to import').setInputFiles(file);
  }

  /** Imports the open scanned mesh, whose units are centimetres, and waits until all of it is looked at. */
  async importScan(file = scanFile()): Promise<void> {
    await this.importMesh(file);
    await this.page.getByRole('group', { name: 'File unit' }).getByRole('button', { name: 'cm', exact: true }).click();
    await this.page.getByRole('button', { name: 'Import', exact: true }).click();
    await expect(this.page.getByRole('button', { name: /^rabbit / })).toBeVisible();
    await this.looked();
  }

  /** A place of the view in shares of its width and height, as page pixels. */
  async at(x: number, y: number): Promise<[number, number]> {
    const box = await this.page.locator('canvas').first().boundingBox();
    if (!box) throw new Error('There is no view');
    return [box.x + x * box.width, box.y + y * box.height];
  }

  /** Draws with the stroke pen through places of the view. */
  async stroke(...way: [number, number][]): Promise<void> {
    await this.page.getByRole('group', { name: 'Pens' }).getByRole('button', { name: 'Stroke' }).click();
    const [first, ...rest] = way;
    await this.page.mouse.move(...(await this.at(...first)));
    await this.page.mouse.down();
    for (const place of rest) await this.page.mouse.move(...(await this.at(...place)), { steps: 12 });
    await this.page.mouse.up();
  }

  float(name: string) {
    return this.page.getByRole('region', { name, exact: true });
  }

  async openFloat(name: string): Promise<void> {
    const head = this.float(name)
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .first();
    if ((await head.getAttribute('aria-expanded')) !== 'true') await head.click();
  }

  async type(label: string, value: string): Promise<void> {
    const field = this.page.getByRole('textbox', { name: `${label} value`, exact: true });
    await field.fill(value);
    await field.press('Enter');
  }

  async saved(): Promise<void> {
    await expect(this.page.getByRole('status', { name: 'Save status' })).toHaveText(/^Saved/);
  }

  /** Bakes all that is visible and reads what the file holds. */
  async baked() {
    const { objects } = await readModel('baked.glb', await this.bakedFile());
    return objects;
  }

  /** The bytes of a bake of all that is visible. */
  async bakedFile(): Promise<Uint8Array> {
    await this.saved();
    await this.page.getByRole('banner').getByRole('button', { name: 'Bake' }).click();
    await this.page.getByRole('button', { name: 'Bake to GLB' }).click();
    const [download] = await Promise.all([
      this.page.waitForEvent('download'),
      this.page.getByRole('region', { name: 'Previous bakes' }).getByRole('link', { name: 'Download' }).click(),
    ]);
    return new Uint8Array(readFileSync(await download.path()));
  }
}
