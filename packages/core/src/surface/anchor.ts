import { createHit, type Surface, type SurfaceHit } from './surface.js';
import type { Surroundings } from './surroundings.js';

/** A point held on a prop: it rides along when the prop moves. */
export interface Anchor {
  prop: string;
  triangle: number;
  /** Shares of the triangle's corners; they sum to 1. */
  barycentric: [number, number, number];
  /** Metres off the surface along the face's normal, whatever size the prop has: what rests on it lies no deeper. */
  height: number;
  /** Further off, in the prop's own measure: a line that spans a gap of it grows with the gap. 0 when left out. */
  rise?: number;
}

/** The anchor of a hit. */
export const anchorOf = (prop: string, hit: SurfaceHit, height = 0): Anchor => ({
  prop,
  triangle: hit.triangle,
  barycentric: [...hit.barycentric],
  height,
});

/** Metres that an anchor stands off the surface it is on. */
export const heightOf = ({ height, rise = 0 }: Anchor, surface: Surface): number =>
  height + rise * surface.placement.scale;

const scratch = /* @__PURE__ */ createHit();

/** Shares of an anchor's corners that a document takes. */
const [MIN_SHARE, MAX_SHARE] = [-2, 3];

/**
 * The anchor that represents exactly this place, by the plane of the triangle that is nearest to it: its foot may lie
 * beyond the triangle's edges. Undefined where that is too far beyond.
 * @param hit the closest place of the prop
 * @param reach metres of its height that stay as they are when the prop grows
 */
export function anchorFor(
  prop: string,
  surface: Surface,
  hit: SurfaceHit,
  place: ArrayLike<number>,
  reach: number,
): Anchor | undefined {
  const { triangle, normal } = hit;
  const corner = (shares: [number, number, number]): number[] => {
    surface.place(triangle, shares, scratch);
    return Array.from(scratch.point);
  };
  const [a, b, c] = [corner([1, 0, 0]), corner([0, 1, 0]), corner([0, 0, 1])];
  const less = (p: ArrayLike<number>, q: ArrayLike<number>) => [0, 1, 2].map((k) => p[k] - q[k]);
  const dot = (p: number[], q: ArrayLike<number>) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
  // in the plane of the triangle what is off it counts for nothing (Ericson, Real-Time Collision Detection, section 3.4)
  const [u, v, w] = [less(b, a), less(c, a), less(place, a)];
  const off = dot(w, normal);
  const height = Math.min(off, reach);
  const [uu, uv, vv, wu, wv] = [dot(u, u), dot(u, v), dot(v, v), dot(w, u), dot(w, v)];
  const area = uu * vv - uv * uv;
  const second = (vv * wu - uv * wv) / area;
  const third = (uu * wv - uv * wu) / area;
  const barycentric: Anchor['barycentric'] = [1 - second - third, second, third];
  if (!barycentric.every((share) => share >= MIN_SHARE && share <= MAX_SHARE)) return undefined;
  const rise = (off - height) / surface.placement.scale;
  return { prop, triangle, barycentric, height, ...(rise > 0 ? { rise } : {}) };
}

/** World place of an anchor → `out[at…at+2]`. False when its prop or triangle is gone; `out` is then left alone. */
export function anchorPosition(anchor: Anchor, surroundings: Surroundings, out: Float64Array, at: number): boolean {
  const surface = surroundings.surface(anchor.prop);
  if (!surface || 3 * anchor.triangle + 2 >= surface.mesh.index.length) return false;
  surface.place(anchor.triangle, anchor.barycentric, scratch);
  const height = heightOf(anchor, surface);
  for (let k = 0; k < 3; k++) out[at + k] = scratch.point[k] + height * scratch.normal[k];
  return true;
}
