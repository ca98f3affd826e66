import type { Bounds, Walkable } from '@kelp/core';
import type { Camera, Object3D } from 'three';
import type { PieceBuild } from '../evaluation/protocol.js';
import { onScreen, rayAt } from './pointer.js';

/** How near the pointer must be to a thin line, pixels. */
const NEAR = 7;

/**
 * What a click means: the first piece or prop under the pointer; a line so thin that it is hard to hit counts as hit.
 * @param passed pieces that clicks pass over
 */
export function bodyUnder(
  scene: Object3D,
  builds: ReadonlyMap<string, PieceBuild>,
  passed: ReadonlySet<string>,
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
): Owner {
  const line = () => lineUnder(builds, passed, camera, element, x, y);
  const hits = rayAt(camera, element, x, y).intersectObjects(scene.children, true);
  for (const { object, instanceId, face } of hits) {
    const owner = ownerOf(object, instanceId, face?.a);
    if (owner?.piece && passed.has(owner.piece)) continue;
    if (owner?.piece || owner?.picture) return owner;
    // a thin piece in front of, or lying on, the prop under the pointer
    if (owner?.prop) return { piece: line(), prop: owner.prop };
  }
  return { piece: line() };
}

interface Owner {
  piece?: string;
  prop?: string;
  picture?: string;
  /** Of a piece's placed elements, the id of the one that was met. */
  element?: number;
}

/** @param vertex of the face that was met */
function ownerOf(object: Object3D, instance: number | undefined, vertex: number | undefined): Owner | undefined {
  const owners = object.userData['owners'] as readonly string[] | undefined;
  if (owners && instance !== undefined) return { prop: owners[instance] };
  for (let at: Object3D | null = object; at; at = at.parent)
    if (at.userData['piece'] || at.userData['prop'] || at.userData['picture']) {
      const { elements, elementOf } = object.userData as {
        elements?: ArrayLike<number>;
        elementOf?: ArrayLike<number>;
      };
      const which = elementOf && vertex !== undefined ? elementOf[vertex] : instance;
      return elements && which !== undefined ? { ...at.userData, element: elements[which] } : at.userData;
    }
  return undefined;
}

function lineUnder(
  builds: ReadonlyMap<string, PieceBuild>,
  passed: ReadonlySet<string>,
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
): string | undefined {
  let best: string | undefined;
  let nearest = NEAR;
  for (const [id, { guide, bounds }] of builds) {
    if (passed.has(id) || (bounds && !nearOnScreen(bounds, camera, element, x, y))) continue;
    const found = nearestOnLine(guide, camera, element, x, y);
    if (found && found.distance < nearest) {
      nearest = found.distance;
      best = id;
    }
  }
  return best;
}

const corner: [number, number, number] = [0, 0, 0];

/** False when a box is surely nowhere near the pointer: of a thousand lines only a few are looked at. */
function nearOnScreen({ min, max }: Bounds, camera: Camera, element: HTMLElement, x: number, y: number): boolean {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < 8; i++) {
    for (let k = 0; k < 3; k++) corner[k] = i & (1 << k) ? max[k] : min[k];
    const at = onScreen(camera, element, corner, 0);
    // a corner behind the eye says nothing
    if (!at) return true;
    left = Math.min(left, at[0]);
    right = Math.max(right, at[0]);
    top = Math.min(top, at[1]);
    bottom = Math.max(bottom, at[1]);
  }
  return x > left - NEAR && x < right + NEAR && y > top - NEAR && y < bottom + NEAR;
}

interface OnLine {
  distance: number;
  place: [number, number, number];
  point: number;
  part: number;
}

/** Nearest place of a line on the screen: pixels away, its point, and how far it is from one point to the next. */
export function nearestOnLine(
  guide: Walkable,
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
): OnLine | undefined {
  let best: OnLine | undefined;
  for (let c = 0; c + 1 < guide.start.length; c++) {
    let before: [number, number] | undefined;
    for (let p = guide.start[c]; p < guide.start[c + 1]; p++) {
      const here = onScreen(camera, element, guide.position, 3 * p);
      if (here && before) {
        const [dx, dy] = [here[0] - before[0], here[1] - before[1]];
        const size = dx * dx + dy * dy;
        const t = size > 0 ? Math.max(0, Math.min(1, ((x - before[0]) * dx + (y - before[1]) * dy) / size)) : 0;
        const distance = Math.hypot(before[0] + t * dx - x, before[1] + t * dy - y);
        if (!best || distance < best.distance) {
          const at = (axis: number) => guide.position[3 * p - 3 + axis] * (1 - t) + guide.position[3 * p + axis] * t;
          best = { distance, place: [at(0), at(1), at(2)], point: p - 1, part: t };
        }
      }
      before = here;
    }
  }
  return best;
}
