import { createHit, type DrawnPoint, edgesOf, edgeTurns, type Surroundings } from '@kelp/core';
import type { Camera } from 'three';
import { onScreen } from './pointer.js';

/** How near the pointer must come, pixels. */
const NEAR = 9;
/** Edges that turn less than this are part of a smooth surface (30°). */
const SHARP = Math.cos(Math.PI / 6);

const hit = createHit();
const turnsOf = new WeakMap<Uint32Array, Float64Array>();

/** What a pointer may snap to besides the props: points of lines, where they are now. */
export interface SnapPoint {
  point: DrawnPoint;
  position: readonly [number, number, number];
}

/** The point, or the drawn point, corner or sharp edge of a prop that the pointer nearly touches. */
export function snapped(
  point: DrawnPoint,
  pointer: readonly [number, number],
  camera: Camera,
  element: HTMLElement,
  surroundings: Surroundings,
  points: readonly SnapPoint[],
): DrawnPoint {
  const away = (place: ArrayLike<number>) => {
    const at = onScreen(camera, element, place);
    return at ? Math.hypot(at[0] - pointer[0], at[1] - pointer[1]) : Infinity;
  };
  let best: DrawnPoint | undefined;
  let nearest = NEAR;
  for (const other of points) {
    const distance = away(other.position);
    if (distance >= nearest) continue;
    nearest = distance;
    best = { ...point, position: [...other.position], anchor: other.point.anchor };
  }
  return best ?? onEdge(point, away, surroundings) ?? point;
}

function onEdge(
  point: DrawnPoint,
  away: (place: ArrayLike<number>) => number,
  surroundings: Surroundings,
): DrawnPoint | undefined {
  const { anchor } = point;
  const surface = anchor && surroundings.surface(anchor.prop);
  if (!anchor || !surface) return undefined;
  const edges = edgesOf(surface.mesh);
  let turns = turnsOf.get(surface.mesh.index);
  if (!turns) {
    turns = edgeTurns(surface.mesh, edges);
    turnsOf.set(surface.mesh.index, turns);
  }
  let best: DrawnPoint | undefined;
  let nearest = NEAR;
  for (let k = 0; k < 3; k++) {
    const edge = edges.ofFace[3 * anchor.triangle + k];
    if (edge < 0 || turns[edge] > SHARP) continue;
    // along the edge from corner k to the next: the share the point has there, and both corners
    const next = (k + 1) % 3;
    const along = anchor.barycentric[next] / (anchor.barycentric[k] + anchor.barycentric[next] || 1);
    for (const t of [0, Math.max(0, Math.min(1, along)), 1]) {
      const barycentric: [number, number, number] = [0, 0, 0];
      barycentric[k] = 1 - t;
      barycentric[next] = t;
      surface.place(anchor.triangle, barycentric, hit);
      // a corner holds a little more strongly than the edge that runs into it
      const distance = away(hit.point) + (t === 0 || t === 1 ? 0 : 2);
      if (distance >= nearest) continue;
      nearest = distance;
      best = {
        ...point,
        position: [hit.point[0], hit.point[1], hit.point[2]],
        anchor: { ...anchor, barycentric, height: 0 },
      };
    }
  }
  return best;
}
