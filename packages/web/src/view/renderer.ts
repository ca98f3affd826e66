import { ACESFilmicToneMapping, WebGLRenderer, type WebGLRendererParameters } from 'three';

/**
 * What draws the view. The browser takes its time to give it a context: what is to be drawn is made in a task after
 * that, so that the page does not stand still for both.
 */
export async function createRenderer(defaults: object): Promise<WebGLRenderer> {
  // what is drawn stays: its contact shadows are laid over it later, without drawing it once more
  const renderer = new WebGLRenderer({ ...(defaults as WebGLRendererParameters), preserveDrawingBuffer: true });
  renderer.toneMapping = ACESFilmicToneMapping;
  renderer.toneMappingExposure = 0.98;
  await new Promise((resolve) => setTimeout(resolve));
  return renderer;
}
