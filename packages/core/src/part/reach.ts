import { curveCount } from '../curve/curve-set.js';
import type { SectionReach, SweptBody } from '../unit/carriers.js';

/** From the curve to the nearest place of the skin at point `p`, metres. */
export const nearAt = ({ section }: SweptBody, p: number): number => section.least * section.radius[p];

/** How far the section of point `p` reaches in a direction (any length but 0), metres: its support there. */
export function reachTowards({ radius, outline }: SectionReach, p: number, x: number, y: number, z: number): number {
  if (!outline) return radius[p];
  const { tangent: t, normal: n, roll } = outline;
  const i = 3 * p;
  const alongNormal = x * n[i] + y * n[i + 1] + z * n[i + 2];
  const alongBinormal =
    x * (t[i + 1] * n[i + 2] - t[i + 2] * n[i + 1]) +
    y * (t[i + 2] * n[i] - t[i] * n[i + 2]) +
    z * (t[i] * n[i + 1] - t[i + 1] * n[i]);
  if (Math.hypot(alongNormal, alongBinormal) < 1e-9) return 0;
  const angle = Math.atan2(alongBinormal, alongNormal) - roll[p];
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  let reach = 0;
  for (let k = 0; k < outline.x.length; k++) reach = Math.max(reach, outline.x[k] * cos + outline.y[k] * sin);
  return reach * radius[p];
}

/** From the curve to the farthest place of the skin, one a point, metres. */
export function furthestReach({ radius, outline }: SectionReach): Float32Array {
  if (!outline) return radius;
  let most = 0;
  for (let k = 0; k < outline.x.length; k++) most = Math.max(most, Math.hypot(outline.x[k], outline.y[k]));
  return radius.map((one) => most * one);
}

const insides = new WeakMap<SweptBody, Float32Array>();

/** From the curve to the skin on the inside of the bend, one a point, metres. 0 where the line does not bend. */
export function insideOfBend(body: SweptBody): Float32Array {
  const { curves, section } = body;
  const { outline } = section;
  if (!outline) return section.radius;
  let out = insides.get(body);
  if (out) return out;
  out = new Float32Array(section.radius.length);
  const { tangent } = outline;
  for (let c = 0; c < curveCount(curves); c++)
    for (let p = curves.start[c]; p < curves.start[c + 1]; p++) {
      const before = 3 * Math.max(curves.start[c], p - 1);
      const after = 3 * Math.min(curves.start[c + 1] - 1, p + 1);
      const bend = (axis: number) => tangent[after + axis] - tangent[before + axis];
      out[p] = reachTowards(section, p, bend(0), bend(1), bend(2));
    }
  insides.set(body, out);
  return out;
}
