import { expect, type Page } from '@playwright/test';
import { AnimationMixer, Matrix4, type Object3D, Vector3 } from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { test } from './kelp-server.js';
import { Workbench } from './workbench.js';

test.describe('in the yard of the demo', () => {
  test.use({ demo: true });

  test('a wheel is dragged and the belt follows; the clock runs; what the view shows at two times is what the exported animation shows', async ({
    page,
    kelp,
  }) => {
    await watchScene(page);
    const bench = new Workbench(page);
    await bench.openDemo(kelp.url, /yard/);
    await bench.piece('Winch belt').click();
    await bench.openFloat('Path');
    const length = bench.lengthOf('Winch belt');
    const before = (await length.textContent()) ?? '';
    // the motor's wheel takes up: the roller outside is pulled away from it
    const [x, y] = await onPage(page, [-1.72, 0.68, -0.13]);
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 6, y - 14, { steps: 4 });
    await page.mouse.up();
    await expect(length).not.toHaveText(before);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(length).toHaveText(before);
    // a size of its own is set once: that of all others does not multiply it
    await expect(
      page.getByRole('group', { name: 'Wheel 1' }).getByRole('button', { name: 'Custom radius' }),
    ).toHaveAttribute('aria-pressed', 'true');

    const clock = page.getByRole('group', { name: 'Clock' });
    await clock.getByRole('button', { name: 'Play animation' }).click();
    await expect(clock.getByText(/^[1-3]\.\d\d s of/)).toBeVisible();
    await clock.getByRole('button', { name: 'Pause animation' }).click();

    const bytes = await bench.bakedFile();
    // it makes addresses of pictures by this; that they cannot be shown here is no matter of movement
    Object.assign(globalThis, { self: globalThis });
    const gltf = await new GLTFLoader().parseAsync(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer,
      '',
    );
    const mixer = new AnimationMixer(gltf.scene);
    mixer.clipAction(gltf.animations[0]).play();
    const time = page.getByRole('slider', { name: 'Time' });
    for (const frame of [12, 36]) {
      await time.focus();
      await page.keyboard.press('Home');
      for (let k = 0; k < frame; k++) await page.keyboard.press('ArrowRight');
      await expect(clock.getByText(`${(frame / 24).toFixed(2)} s of`)).toBeVisible();
      mixer.setTime(frame / 24);
      gltf.scene.updateMatrixWorld(true);
      const shown = await inView(page, 'track');
      const root = (name: string) => gltf.scene.getObjectByName(name.replaceAll(' ', '_')) as Object3D;
      const shoes = shown.find(({ places }) => places !== undefined)?.places ?? [];
      expect(shoes.length).toBe(root('Track Shoes').children.length);
      shoes.forEach((matrix, n) => {
        expect(apart(new Matrix4().fromArray(matrix), root('Track Shoes').children[n].matrixWorld)).toBeLessThan(5e-4);
      });
      // wheels are turned about their middles, which their nodes stand at
      const wheels = shown
        .filter(({ turned }) => turned)
        .map(({ turned }) => new Matrix4().fromArray(turned as number[]));
      expect(wheels.length).toBe(6);
      wheels.forEach((matrix, k) => {
        const node = root(`Track Wheel ${k + 1}`);
        expect(apart(matrix.multiply(new Matrix4().makeTranslation(node.position)), node.matrixWorld)).toBeLessThan(
          1e-4,
        );
      });
    }
  });

  test('a number is led by the clock: what is made follows it, there and back', async ({ page, kelp }) => {
    const bench = new Workbench(page);
    await bench.openDemo(kelp.url, /yard/);
    await bench.piece('Track').click();
    await bench.openFloat('Make');
    await page.getByRole('button', { name: /^Animation/ }).click();
    await page.getByRole('combobox', { name: 'Animate a parameter' }).click();
    await page.getByRole('option', { name: 'Belt: Pitch', exact: true }).click();
    await bench.type('Pitch, end', '120');
    const steps = page.getByText(/Pitches \d+/);
    await expect(steps).toContainText('Pitches 43');
    const time = page.getByRole('slider', { name: 'Time' });
    await time.focus();
    for (let k = 0; k < 48; k++) await page.keyboard.press('ArrowRight');
    await expect(steps).toContainText('Pitches 30');
    await page.keyboard.press('End');
    await expect(steps).toContainText('Pitches 43');
    await bench.saved();
  });
});

test('wheels are clicked in an empty room: a belt runs round them; a rim sizes all, a middle moves one, each step is undone', async ({
  page,
  kelp,
}) => {
  await watchScene(page);
  const bench = new Workbench(page);
  await bench.newProject(kelp.url, 'Drive');
  await bench.looked();
  await page.keyboard.press('w');
  await expect(page.getByText(/^Click wheel positions/)).toBeVisible();
  let clicked = 0;
  const click = async (x: number, y: number) => {
    const says = new RegExp(`^Wheel ${++clicked} · `);
    // the pen is in the hand a moment after its key; the pointer then says what a click would do
    await expect(async () => {
      await page.mouse.move(...(await bench.at(x, y)), { steps: 3 });
      await expect(page.getByText(says)).toBeVisible({ timeout: 1000 });
    }).toPass();
    await page.mouse.down();
    await page.mouse.up();
  };
  await click(0.35, 0.6);
  await expect(bench.piece('Belt')).toBeVisible();
  await click(0.6, 0.55);
  const length = bench.lengthOf('Belt');
  await expect(length).toHaveText(/ m$/);
  const two = (await length.textContent()) ?? '';
  await click(0.5, 0.35);
  await expect(length).not.toHaveText(two);
  await page.keyboard.press('Escape');
  await bench.openFloat('Path');
  await expect(page.getByRole('group', { name: 'Wheel 3' })).toBeVisible();
  const three = (await length.textContent()) ?? '';
  await bench.type('Radius', '150');
  await expect(length).not.toHaveText(three);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(length).toHaveText(three);
  for (const [name, change] of [
    ['Outside the loop', /./],
    ['Custom radius', /./],
  ] as const) {
    const mark = page.getByRole('group', { name: 'Wheel 3' }).getByRole('button', { name, exact: true });
    await mark.click();
    await expect(mark).toHaveAttribute('aria-pressed', 'true');
    await expect(length).toHaveText(change);
  }
  await bench.saved();
});

/** Farthest that two matrices carry the corners of a cube of 10 cm apart. */
function apart(a: Matrix4, b: Matrix4): number {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map(
    (k) => new Vector3(k & 1 ? 0.05 : -0.05, k & 2 ? 0.05 : -0.05, k & 4 ? 0.05 : -0.05),
  );
  return Math.max(
    ...corners.map((corner) => corner.clone().applyMatrix4(a).distanceTo(corner.clone().applyMatrix4(b))),
  );
}

interface Watched {
  scene?: Object3D;
  camera?: { matrixWorldInverse: { elements: number[] }; projectionMatrix: { elements: number[] } };
}

/** The drawing library reports who asks of its scenes and renderers as they are made: of these the last picture is kept. */
const watchScene = (page: Page) =>
  page.addInitScript(() => {
    const tell = new EventTarget();
    const kept = { scene: undefined, camera: undefined } as Record<string, unknown>;
    Object.assign(window, { __THREE_DEVTOOLS__: tell, watched: kept });
    tell.addEventListener('observe', (event) => {
      const made = (event as CustomEvent).detail as {
        isWebGLRenderer?: boolean;
        domElement?: HTMLElement;
        render?: unknown;
      };
      if (typeof made.render !== 'function') return;
      const draw = made.render as (scene: { isScene?: boolean }, camera: { isPerspectiveCamera?: boolean }) => void;
      made.render = (scene: { isScene?: boolean }, camera: { isPerspectiveCamera?: boolean }) => {
        if (scene.isScene && camera.isPerspectiveCamera && made.domElement?.isConnected)
          Object.assign(kept, { scene, camera });
        draw.call(made, scene, camera);
      };
    });
  });

/** Where a place of the world is on the page. */
async function onPage(page: Page, at: [number, number, number]): Promise<[number, number]> {
  const box = await page.locator('canvas').first().boundingBox();
  const camera = await page.evaluate(() => {
    const { camera: now } = (window as unknown as { watched: Watched }).watched;
    return now && { view: [...now.matrixWorldInverse.elements], lens: [...now.projectionMatrix.elements] };
  });
  if (!box || !camera) throw new Error('Nothing is drawn yet');
  const place = new Vector3(...at)
    .applyMatrix4(new Matrix4().fromArray(camera.view))
    .applyMatrix4(new Matrix4().fromArray(camera.lens));
  return [box.x + ((place.x + 1) / 2) * box.width, box.y + ((1 - place.y) / 2) * box.height];
}

/** What the view shows of a piece that moves: matrices of places, or of what is turned, in the order of its parts. */
const inView = (page: Page, piece: string) =>
  page.evaluate((id) => {
    const { scene } = (window as unknown as { watched: Watched }).watched;
    const found: { places?: number[][]; turned?: number[] }[] = [];
    scene?.traverse((object) => {
      if (object.userData['piece'] !== id) return;
      for (const part of object.children) {
        const placed = part as Object3D & {
          isInstancedMesh?: boolean;
          count: number;
          instanceMatrix: { array: Float32Array };
        };
        if (placed.isInstancedMesh) {
          const { array } = placed.instanceMatrix;
          found.push({ places: Array.from({ length: placed.count }, (_, n) => [...array.slice(16 * n, 16 * n + 16)]) });
        } else if (!part.matrixAutoUpdate) found.push({ turned: [...part.matrix.elements] });
      }
    });
    return found;
  }, piece);
