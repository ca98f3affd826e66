import type { Material, Mesh } from '@kelp/core';
import {
  ACESFilmicToneMapping,
  Mesh as Body,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  MeshStandardMaterial,
  PerspectiveCamera,
  PMREMGenerator,
  Scene,
  type Texture,
  WebGLRenderer,
} from 'three';
import { RoomEnvironment } from 'three/examples/jsm/environments/RoomEnvironment.js';

/** Size of a gallery picture, pixels; drawn twice as large for sharp screens. */
export const THUMBNAIL = { width: 124, height: 84 } as const;

interface Booth {
  renderer: WebGLRenderer;
  environment: Texture;
}

let booth: Booth | undefined;

/** One small renderer for all pictures, made when the first is asked for. */
function openBooth(): Booth {
  if (booth) return booth;
  const renderer = new WebGLRenderer({ antialias: true, alpha: true, preserveDrawingBuffer: true });
  renderer.setSize(THUMBNAIL.width * 2, THUMBNAIL.height * 2, false);
  renderer.toneMapping = ACESFilmicToneMapping;
  const environment = new PMREMGenerator(renderer).fromScene(new RoomEnvironment(), 0.04).texture;
  booth = { renderer, environment };
  return booth;
}

/** A picture of a mesh as a data URL. */
export function photograph(mesh: Mesh, material: Material): string {
  const { renderer, environment } = openBooth();
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.position, 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normal, 3));
  geometry.setIndex(new BufferAttribute(mesh.index, 1));
  geometry.computeBoundingSphere();
  const surface = new MeshStandardMaterial({
    color: new Color(material.colour).lerp(new Color('#8fa89c'), 0.45),
    roughness: material.roughness,
    metalness: material.metalness,
  });
  const scene = new Scene();
  scene.environment = environment;
  scene.environmentIntensity = 0.6;
  const light = new DirectionalLight('#fff1dc', 2.4);
  light.position.set(0.5, 1, 0.7);
  scene.add(new Body(geometry, surface), light);
  const { center, radius } = geometry.boundingSphere!;
  const camera = new PerspectiveCamera(24, THUMBNAIL.width / THUMBNAIL.height, 0.001, 10);
  camera.position.set(center.x + radius * 0.5, center.y + radius * 2.4, center.z + radius * 2.9);
  camera.lookAt(center);
  renderer.render(scene, camera);
  const picture = renderer.domElement.toDataURL('image/png');
  geometry.dispose();
  surface.dispose();
  return picture;
}
