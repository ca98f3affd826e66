import type { Material, Mesh } from '@kelp/core';
import {
  Mesh as Body,
  BufferAttribute,
  BufferGeometry,
  Color,
  DataUtils,
  DirectionalLight,
  HalfFloatType,
  MeshStandardMaterial,
  PerspectiveCamera,
  Scene,
  type Texture,
  type WebGLRenderer,
  WebGLRenderTarget,
} from 'three';

/** Size of a gallery picture, pixels: twice what is shown, for sharp screens. */
const WIDTH = 184;
const HEIGHT = 124;

/** The view's own renderer and light, lent for pictures: a second one would cost as much memory and time again. */
export interface Booth {
  renderer: WebGLRenderer;
  environment: Texture;
}

let openBooth: (booth: Booth) => void = () => {};
let booth: Promise<Booth> = new Promise((resolve) => {
  openBooth = resolve;
});

/** Lends the renderer of the view that opened. */
export function lendBooth(lent: Booth): void {
  openBooth(lent);
  booth = Promise.resolve(lent);
}

/** A picture of a mesh as a data URL. Waits for a view; reads back without holding up the page. */
export async function photograph(mesh: Mesh, material: Material): Promise<string> {
  const { renderer, environment } = await booth;
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.position, 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normal, 3));
  geometry.setIndex(new BufferAttribute(mesh.index, 1));
  geometry.computeBoundingSphere();
  // a dark jacket shows no shape at this size: every colour is brought towards the middle
  const colour = new Color(material.colour).lerp(new Color('#8fa89c'), 0.45);
  const surface = new MeshStandardMaterial({
    color: colour,
    roughness: material.roughness,
    metalness: material.metalness,
  });
  const scene = new Scene();
  scene.environment = environment;
  scene.environmentIntensity = 0.6;
  const light = new DirectionalLight('#fff1dc', 2.2);
  light.position.set(0.5, 1, 0.7);
  scene.add(new Body(geometry, surface), light);
  const { center, radius } = geometry.boundingSphere!;
  const camera = new PerspectiveCamera(24, WIDTH / HEIGHT, 0.001, 10);
  camera.position.set(center.x + radius * 0.5, center.y + radius * 2.4, center.z + radius * 2.9);
  camera.lookAt(center);
  const target = new WebGLRenderTarget(WIDTH, HEIGHT, { samples: 4, type: HalfFloatType });
  const before = renderer.getRenderTarget();
  renderer.setRenderTarget(target);
  renderer.setClearAlpha(0);
  renderer.clear();
  renderer.render(scene, camera);
  renderer.setRenderTarget(before);
  const pixels = new Uint16Array(4 * WIDTH * HEIGHT);
  await renderer.readRenderTargetPixelsAsync(target, 0, 0, WIDTH, HEIGHT, pixels);
  geometry.dispose();
  surface.dispose();
  target.dispose();
  return develop(pixels);
}

/** Linear light, bottom row first, to a PNG: a soft shoulder for what is too bright, then sRGB (IEC 61966-2-1). */
function develop(pixels: Uint16Array): string {
  const canvas = document.createElement('canvas');
  canvas.width = WIDTH;
  canvas.height = HEIGHT;
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const image = context.createImageData(WIDTH, HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const from = 4 * ((HEIGHT - 1 - y) * WIDTH + x);
      const to = 4 * (y * WIDTH + x);
      for (let k = 0; k < 3; k++) {
        const light = DataUtils.fromHalfFloat(pixels[from + k]);
        const soft = light / (1 + 0.25 * light);
        image.data[to + k] = 255 * (soft <= 0.0031308 ? 12.92 * soft : 1.055 * soft ** (1 / 2.4) - 0.055);
      }
      image.data[to + 3] = 255 * DataUtils.fromHalfFloat(pixels[from + 3]);
    }
  context.putImageData(image, 0, 0);
  return canvas.toDataURL('image/png');
}
