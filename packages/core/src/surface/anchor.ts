import { createHit, type SurfaceHit } from './surface.js';
import type { Surroundings } from './surroundings.js';

/** A point held on a prop: it rides along when the prop moves. */
export interface Anchor {
  prop: string;
  triangle: number;
  /** Shares of the triangle's corners; they sum to 1. */
  barycentric: [number, number, number];
  /** Metres off the surface along the face's normal. */
  height: number;
}

/** The anchor of a hit. */
export const anchorOf = (prop: string, hit: SurfaceHit, height = 0): Anchor => ({
  prop,
  triangle: hit.triangle,
  barycentric: [...hit.barycentric],
  height,
});

const scratch = /* @__PURE__ */ createHit();

/** World place of an anchor → `out[at…at+2]`. False when its prop or triangle is gone; `out` is then left alone. */
export function anchorPosition(anchor: Anchor, surroundings: Surroundings, out: Float64Array, at: number): boolean {
  const surface = surroundings.surface(anchor.prop);
  if (!surface || 3 * anchor.triangle + 2 >= surface.mesh.index.length) return false;
  surface.place(anchor.triangle, anchor.barycentric, scratch);
  for (let k = 0; k < 3; k++) out[at + k] = scratch.point[k] + anchor.height * scratch.normal[k];
  return true;
}
