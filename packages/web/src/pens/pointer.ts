import { anchorOf, createHit, type DrawnPoint, type Surroundings } from '@kelp/core';
import { type Camera, Plane, Raycaster, Vector2, Vector3 } from 'three';

const caster = new Raycaster();
const ndc = new Vector2();
const hit = createHit();
const place = new Vector3();
const GROUND = new Plane(new Vector3(0, 1, 0), 0);

/** Sets the shared ray to a place on the element. */
function aim(camera: Camera, element: HTMLElement, x: number, y: number): Raycaster {
  const box = element.getBoundingClientRect();
  ndc.set(((x - box.left) / box.width) * 2 - 1, 1 - ((y - box.top) / box.height) * 2);
  caster.setFromCamera(ndc, camera);
  return caster;
}

/**
 * The point under the pointer: held on the visible prop there, or on the drawing plane where there is none. Undefined
 * when the pointer meets neither.
 */
export function pointUnder(
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
  surroundings: Surroundings,
  plane: Plane = GROUND,
): DrawnPoint | undefined {
  const { ray } = aim(camera, element, x, y);
  const prop = surroundings.cast(ray.origin.toArray(), ray.direction.toArray(), hit);
  if (prop)
    return {
      position: [hit.point[0], hit.point[1], hit.point[2]],
      anchor: anchorOf(prop, hit),
      corner: false,
      radius: 1,
    };
  if (!ray.intersectPlane(plane, place) || place.distanceTo(ray.origin) > 1000) return undefined;
  return { position: [place.x, place.y, place.z], corner: false, radius: 1 };
}

/** Which way a place on the page lies from the eye, a unit vector. */
export function towards(camera: Camera, element: HTMLElement, x: number, y: number): [number, number, number] {
  return aim(camera, element, x, y).ray.direction.toArray();
}

/** The place under the pointer in the plane through `through` that faces the camera: for points in the air. */
export function placeInView(
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
  through: readonly [number, number, number],
): [number, number, number] | undefined {
  const { ray } = aim(camera, element, x, y);
  const plane = new Plane().setFromNormalAndCoplanarPoint(
    camera.getWorldDirection(new Vector3()),
    new Vector3(...through),
  );
  return ray.intersectPlane(plane, place) ? [place.x, place.y, place.z] : undefined;
}

/** The place under the pointer in the plane through a place, across a direction; undefined where it looks along that plane. */
export function placeInPlane(
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
  through: readonly [number, number, number],
  across: readonly [number, number, number],
): [number, number, number] | undefined {
  const { ray } = aim(camera, element, x, y);
  const plane = new Plane().setFromNormalAndCoplanarPoint(new Vector3(...across), new Vector3(...through));
  return Math.abs(ray.direction.dot(plane.normal)) > 0.02 && ray.intersectPlane(plane, place)
    ? [place.x, place.y, place.z]
    : undefined;
}

/** Where a place of the world is on the page, pixels; undefined behind the camera. */
export function onScreen(
  camera: Camera,
  element: HTMLElement,
  position: ArrayLike<number>,
  at = 0,
): [number, number] | undefined {
  place.set(position[at], position[at + 1], position[at + 2]).project(camera);
  if (place.z > 1) return undefined;
  const box = element.getBoundingClientRect();
  return [box.left + ((place.x + 1) / 2) * box.width, box.top + ((1 - place.y) / 2) * box.height];
}

/** Ray through a pixel, for picking bodies. */
export const rayAt = (camera: Camera, element: HTMLElement, x: number, y: number): Raycaster =>
  aim(camera, element, x, y);
