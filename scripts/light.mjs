// Draws the light of the studio once, so that no page has to: a room's reflections on a cube, sharp to rough. The same
// in each browser takes a card a moment and a processor six seconds. Run it when the room or three's filter changes.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { launchOptions } from './chromium.mjs';
import { root } from './root.mjs';

/** Edge of a face of the sharpest level, pixels. */
const SIZE = 64;
const SITE = 'http://light.invalid/';
const three = join(root, 'node_modules', 'three');

const browser = await chromium.launch(launchOptions());
const page = await browser.newPage();
await page.route(`${SITE}**`, (route) => {
  const path = new URL(route.request().url()).pathname.slice(1);
  if (path === '') return route.fulfill({ contentType: 'text/html', body: '<!doctype html>' });
  return route.fulfill({ contentType: 'text/javascript', body: readFileSync(join(three, path), 'utf8') });
});
await page.goto(SITE);
await page.setContent(`<script type="importmap">{"imports":{"three":"${SITE}build/three.module.js"}}</script>`);
/** Half floats, three a pixel, face by face within level by level. */
const halves = await page.evaluate(
  async ([site, size]) => {
    const { PMREMGenerator, WebGLRenderer } = await import(`${site}build/three.module.js`);
    const { RoomEnvironment } = await import(`${site}examples/jsm/environments/RoomEnvironment.js`);
    // three's own never goes below 256, which nothing here is shiny enough to show
    class SmallGenerator extends PMREMGenerator {
      _setSize() {
        this._cubeSize = size;
      }
    }
    const renderer = new WebGLRenderer();
    const { texture } = new SmallGenerator(renderer).fromScene(new RoomEnvironment(), 0.04);
    const gl = renderer.getContext();
    gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer());
    const out = [];
    for (const [level, { width }] of texture.mipmaps.entries())
      for (let face = 0; face < 6; face++) {
        const target = gl.TEXTURE_CUBE_MAP_POSITIVE_X + face;
        const of = renderer.properties.get(texture).__webglTexture;
        gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, target, of, level);
        const rgba = new Uint16Array(4 * width * width);
        gl.readPixels(0, 0, width, width, gl.RGBA, gl.HALF_FLOAT, rgba);
        for (let i = 0; i < rgba.length; i++) if (i % 4 < 3) out.push(rgba[i]);
      }
    if (gl.getError() !== gl.NO_ERROR) throw new Error('The levels of the cube cannot be read');
    return out;
  },
  [SITE, SIZE],
);
await browser.close();
const packed = gzipSync(Buffer.from(Uint16Array.from(halves).buffer), { level: 9 });
const out = join(root, 'packages', 'web', 'src', 'look', 'studio-light.gz');
writeFileSync(out, packed);
console.log(`${halves.length / 3} pixels, ${packed.length} bytes in ${out}`);
