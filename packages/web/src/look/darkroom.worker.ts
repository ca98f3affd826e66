import { type Material, placementMatrix, transformMesh } from '@kelp/core';
import {
  Mesh as Body,
  BufferAttribute,
  BufferGeometry,
  DirectionalLight,
  HalfFloatType,
  MeshStandardMaterial,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
  WebGLRenderTarget,
} from 'three';
import { wear, wornBy } from '../view/textures.js';
import { develop } from './develop.js';
import type { PictureAnswer, PictureOrder, Sitter } from './photograph.js';
import { FOV, standpointFor } from './standpoint.js';
import { studioLight } from './studio-light.js';

type Darkroom = Awaited<ReturnType<typeof open>>;

let darkroom: Promise<Darkroom> | undefined;
/** One picture after the other, in the order they were asked for. */
let queue: Promise<void> = Promise.resolve();

self.onmessage = ({ data }: MessageEvent<PictureOrder>) => {
  queue = queue.then(async () => {
    let answer: PictureAnswer;
    try {
      // a card that was taken away is asked for again
      if ((await darkroom)?.renderer.getContext().isContextLost()) darkroom = undefined;
      darkroom ??= open();
      answer = { id: data.id, url: await picture(await darkroom, data) };
    } catch (error) {
      darkroom = undefined;
      answer = { id: data.id, problem: (error as Error).message };
    }
    self.postMessage(answer);
  });
};

async function open() {
  const renderer = new WebGLRenderer({ canvas: new OffscreenCanvas(1, 1) });
  renderer.debug.checkShaderErrors = false;
  const light = await studioLight(renderer);
  return { renderer, environment: light.texture, surfaces: [] as MeshStandardMaterial[] };
}

/** Materials are kept from picture to picture: with the last of its kind a renderer throws away its program. */
function surfaceFor({ surfaces }: Darkroom, k: number, material: Material, coloured: boolean) {
  const { colour, roughness, metalness, glow = 0 } = material;
  surfaces[k] ??= new MeshStandardMaterial();
  surfaces[k].color.set(colour);
  surfaces[k].roughness = roughness;
  surfaces[k].metalness = metalness;
  surfaces[k].emissive.set(colour);
  surfaces[k].emissiveIntensity = glow;
  if (surfaces[k].vertexColors !== coloured) surfaces[k].needsUpdate = true;
  surfaces[k].vertexColors = coloured;
  wear(surfaces[k], wornBy(material));
  return surfaces[k];
}

const placed = ({ mesh, placement }: Sitter) => (placement ? transformMesh(mesh, placementMatrix(placement)) : mesh);

async function picture(room: Darkroom, { sitters, from, width, height }: PictureOrder): Promise<string> {
  const { renderer, environment } = room;
  const scene = new Scene();
  scene.environment = environment;
  scene.environmentIntensity = 0.6;
  const meshes = sitters.map(placed);
  const geometries = meshes.map((mesh, k) => {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(mesh.position, 3));
    geometry.setAttribute('normal', new BufferAttribute(mesh.normal, 3));
    geometry.setAttribute('uv', new BufferAttribute(mesh.uv, 2));
    geometry.setIndex(new BufferAttribute(mesh.index, 1));
    const colour = mesh.attributes?.['colour'];
    if (colour) geometry.setAttribute('color', new BufferAttribute(colour.data, colour.size));
    scene.add(new Body(geometry, surfaceFor(room, k, sitters[k].material, colour !== undefined)));
    return geometry;
  });
  const { eye, at } = Array.isArray(from)
    ? standpointFor(meshes, new Vector3(...from), width / height)
    : { eye: new Vector3(...from.eye), at: new Vector3(...from.at) };
  const light = new DirectionalLight('#fff1dc', 2.2);
  light.position.copy(at).add(new Vector3(0.5, 1, 0.7));
  light.target.position.copy(at);
  scene.add(light, light.target);
  const distance = eye.distanceTo(at);
  const camera = new PerspectiveCamera(FOV, width / height, distance / 100, distance * 10);
  camera.position.copy(eye);
  camera.lookAt(at);
  const target = new WebGLRenderTarget(width, height, { samples: 4, type: HalfFloatType });
  renderer.setRenderTarget(target);
  renderer.setClearAlpha(0);
  renderer.clear();
  renderer.render(scene, camera);
  const pixels = new Uint16Array(4 * width * height);
  renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels);
  for (const thing of [...geometries, target]) thing.dispose();
  const sheet = new OffscreenCanvas(width, height);
  sheet.getContext('2d')?.putImageData(new ImageData(develop(pixels, width, height), width, height), 0, 0);
  return dataUrl(await sheet.convertToBlob({ type: 'image/png' }));
}

const dataUrl = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(blob);
  });
