import { HalfFloatType, LinearMipmapLinearFilter, WebGLCubeRenderTarget, type WebGLRenderer } from 'three';
import url from './studio-light.gz?url';

/** Edges of the levels of the cube, sharp to rough, pixels; the file holds one after the other, face by face. */
const LEVELS = [64, 32, 16, 8];
const ONE = 0x3c00;

let halves: Promise<Uint16Array> | undefined;

/** Fetches the light once for all renderers. @throws Error when the server cannot be reached */
const fetchLight = (): Promise<Uint16Array> => {
  halves ??= (async () => {
    const answer = await fetch(url);
    if (!answer.ok || !answer.body) throw new Error('The studio light is missing');
    const plain = new Response(answer.body.pipeThrough(new DecompressionStream('gzip')));
    return new Uint16Array(await plain.arrayBuffer());
  })();
  halves.catch(() => {
    halves = undefined;
  });
  return halves;
};

/**
 * A room's reflections for materials of every roughness, as `scene.environment` takes them. Drawn beforehand by
 * `scripts/light.mjs`: filtering a room anew holds a page for seconds where a processor draws. Disposed by its owner.
 */
export async function studioLight(renderer: WebGLRenderer): Promise<WebGLCubeRenderTarget> {
  const light = await fetchLight();
  const target = new WebGLCubeRenderTarget(LEVELS[0], {
    type: HalfFloatType,
    minFilter: LinearMipmapLinearFilter,
    generateMipmaps: false,
    depthBuffer: false,
  });
  target.texture.mipmaps = LEVELS.map((width) => ({ width, height: width })) as never;
  target.texture.isPMREMTexture = true;
  renderer.initRenderTarget(target);
  const gl = renderer.getContext() as WebGL2RenderingContext;
  const { __webglTexture } = renderer.properties.get(target.texture) as { __webglTexture: WebGLTexture };
  renderer.state.bindTexture(gl.TEXTURE_CUBE_MAP, __webglTexture);
  let read = 0;
  for (const [level, width] of LEVELS.entries())
    for (let face = 0; face < 6; face++) {
      const rgba = new Uint16Array(4 * width * width).fill(ONE);
      for (let i = 0; i < rgba.length; i++) if (i % 4 < 3) rgba[i] = light[read++];
      const side = gl.TEXTURE_CUBE_MAP_POSITIVE_X + face;
      gl.texSubImage2D(side, level, 0, 0, width, width, gl.RGBA, gl.HALF_FLOAT, rgba);
    }
  renderer.state.unbindTexture();
  return target;
}
