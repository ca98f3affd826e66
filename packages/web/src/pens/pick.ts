import type { Camera, Object3D } from 'three';
import type { PieceBuild } from '../evaluation/protocol.js';
import { onScreen, rayAt } from './pointer.js';

/** How near the pointer must be to a thin line, pixels. */
const NEAR = 7;

/** What a click means: the first piece or prop under the pointer; a line so thin that it is hard to hit counts as hit. */
export function bodyUnder(
  scene: Object3D,
  builds: ReadonlyMap<string, PieceBuild>,
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
): { piece?: string; prop?: string } {
  const hits = rayAt(camera, element, x, y).intersectObjects(scene.children, true);
  for (const { object } of hits) {
    const owner = ownerOf(object);
    if (owner?.piece) return owner;
    // a thin piece in front of, or lying on, the prop under the pointer
    if (owner?.prop) return { piece: lineUnder(builds, camera, element, x, y), prop: owner.prop };
  }
  return { piece: lineUnder(builds, camera, element, x, y) };
}

function ownerOf(object: Object3D): { piece?: string; prop?: string } | undefined {
  for (let at: Object3D | null = object; at; at = at.parent)
    if (at.userData['piece'] || at.userData['prop']) return at.userData;
  return undefined;
}

function lineUnder(
  builds: ReadonlyMap<string, PieceBuild>,
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
): string | undefined {
  let best: string | undefined;
  let nearest = NEAR;
  for (const [id, { rails }] of builds) {
    const found = nearestOnLine(rails, camera, element, x, y);
    if (found && found.distance < nearest) {
      nearest = found.distance;
      best = id;
    }
  }
  return best;
}

/** Nearest place of a line on the screen: pixels away, and the point of the line before it. */
export function nearestOnLine(
  rails: Pick<PieceBuild['rails'], 'position' | 'start'>,
  camera: Camera,
  element: HTMLElement,
  x: number,
  y: number,
): { distance: number; place: [number, number, number] } | undefined {
  let best: { distance: number; place: [number, number, number] } | undefined;
  for (let c = 0; c + 1 < rails.start.length; c++) {
    let before: [number, number] | undefined;
    for (let p = rails.start[c]; p < rails.start[c + 1]; p++) {
      const here = onScreen(camera, element, rails.position, 3 * p);
      if (here && before) {
        const [dx, dy] = [here[0] - before[0], here[1] - before[1]];
        const size = dx * dx + dy * dy;
        const t = size > 0 ? Math.max(0, Math.min(1, ((x - before[0]) * dx + (y - before[1]) * dy) / size)) : 0;
        const distance = Math.hypot(before[0] + t * dx - x, before[1] + t * dy - y);
        if (!best || distance < best.distance) {
          const at = (axis: number) => rails.position[3 * p - 3 + axis] * (1 - t) + rails.position[3 * p + axis] * t;
          best = { distance, place: [at(0), at(1), at(2)] };
        }
      }
      before = here;
    }
  }
  return best;
}
