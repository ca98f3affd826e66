import { curveCount } from '../curve/curve-set.js';
import type { SectionReach, SweptBody } from '../unit/carriers.js';

type Outline = NonNullable<SectionReach['outline']>;

/** From the curve to the nearest place of the skin at point `p`, metres. */
export const nearAt = ({ section }: SweptBody, p: number): number =>
  section.least * section.radius[p] * Math.min(1, broadAt(section.outline, p));

/** How many times as broad the section of point `p` is as its outline says. */
const broadAt = (outline: Outline | undefined, p: number): number => outline?.broad?.[p] ?? 1;

/** Angle of a direction in the section of point `p`, against its own first axis; undefined along the line itself. */
function angleIn({ tangent: t, normal: n, roll }: Outline, p: number, x: number, y: number, z: number) {
  const i = 3 * p;
  const alongNormal = x * n[i] + y * n[i + 1] + z * n[i + 2];
  const alongBinormal =
    x * (t[i + 1] * n[i + 2] - t[i + 2] * n[i + 1]) +
    y * (t[i + 2] * n[i] - t[i] * n[i + 2]) +
    z * (t[i] * n[i + 1] - t[i + 1] * n[i]);
  return Math.hypot(alongNormal, alongBinormal) < 1e-9 ? undefined : Math.atan2(alongBinormal, alongNormal) - roll[p];
}

/** How far the section of point `p` reaches in a direction (any length but 0), metres: its support there. */
export function reachTowards({ radius, outline }: SectionReach, p: number, x: number, y: number, z: number): number {
  if (!outline) return radius[p];
  const angle = angleIn(outline, p, x, y, z);
  if (angle === undefined) return 0;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const broad = broadAt(outline, p);
  let reach = 0;
  for (let k = 0; k < outline.x.length; k++) reach = Math.max(reach, outline.x[k] * cos + broad * outline.y[k] * sin);
  return reach * radius[p];
}

/** From the line to the skin straight in a direction, metres: where the ray through the section leaves it. */
export function skinTowards({ radius, outline }: SectionReach, p: number, x: number, y: number, z: number): number {
  if (!outline) return radius[p];
  const angle = angleIn(outline, p, x, y, z);
  if (angle === undefined) return 0;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const { x: xs, y: ys } = outline;
  const broad = broadAt(outline, p);
  const count = xs.length;
  let skin = Infinity;
  for (let k = 0; k < count; k++) {
    const next = (k + 1) % count;
    const [ax, ay, bx, by] = [xs[k], broad * ys[k], xs[next], broad * ys[next]];
    // an outline goes round its middle: the side's own way out is (by − ay, ax − bx)
    const out = (by - ay) * cos + (ax - bx) * sin;
    if (out > 1e-9) skin = Math.min(skin, ((by - ay) * ax + (ax - bx) * ay) / out);
  }
  return skin < Infinity ? skin * radius[p] : 0;
}

/** Corners of a section that are held against props at most. */
const MAX_CORNERS = 16;

/** Offsets from the line to the corners of the section of point `p`, flat xyz, metres. */
export function cornersAt({ radius, outline }: SectionReach, p: number): Float64Array {
  if (!outline) return new Float64Array(0);
  const { tangent: t, normal: n, roll } = outline;
  const i = 3 * p;
  const step = Math.max(1, Math.ceil(outline.x.length / MAX_CORNERS));
  const out = new Float64Array(3 * Math.ceil(outline.x.length / step));
  const [cos, sin] = [Math.cos(roll[p]), Math.sin(roll[p])];
  const broad = broadAt(outline, p);
  for (let k = 0, o = 0; k < outline.x.length; k += step, o += 3) {
    const y = broad * outline.y[k];
    const a = radius[p] * (outline.x[k] * cos - y * sin);
    const b = radius[p] * (outline.x[k] * sin + y * cos);
    for (let axis = 0; axis < 3; axis++) {
      const [m, q] = [(axis + 1) % 3, (axis + 2) % 3];
      out[o + axis] = a * n[i + axis] + b * (t[i + m] * n[i + q] - t[i + q] * n[i + m]);
    }
  }
  return out;
}

/** From the curve to the farthest place of the skin, one a point, metres. */
export function furthestReach({ radius, outline }: SectionReach): Float32Array {
  if (!outline) return radius;
  const most = (broad: number) => {
    let far = 0;
    for (let k = 0; k < outline.x.length; k++) far = Math.max(far, Math.hypot(outline.x[k], broad * outline.y[k]));
    return far;
  };
  const even = most(1);
  return radius.map((one, p) => (outline.broad ? most(outline.broad[p]) : even) * one);
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
