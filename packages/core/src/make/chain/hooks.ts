import type { Stations } from '../elements/stations.js';

/** Joints that are looked at: those that bend most. */
const MAX_JOINTS = 48;

/** The joint at which two links of wire come nearer than they may. */
export interface Crowded {
  /** Between the middles of the two wires, as a share of the wire's diameter: 1 touches. */
  gap: number;
  /** The first of the two links. */
  link: number;
}

/**
 * Where links cut each other, looked for at the joints that bend most: from one to the next, which hook, and to the one after.
 * @param axes of a link: x, y, z with their scale and its middle, 12 numbers
 * @param wire middle line of a link at scale 1, closed, flat xyz; its radius there is 1
 */
export function crowdedLinks(
  { curve, tangent, id }: Stations,
  axes: (link: number) => Float64Array,
  wire: Float64Array,
): Crowded | undefined {
  const bends: { link: number; cos: number }[] = [];
  for (let n = 0; n + 1 < id.length; n++) {
    if (curve[n + 1] !== curve[n]) continue;
    const [i, j] = [3 * n, 3 * n + 3];
    bends.push({
      link: n,
      cos: tangent[i] * tangent[j] + tangent[i + 1] * tangent[j + 1] + tangent[i + 2] * tangent[j + 2],
    });
  }
  bends.sort((a, b) => a.cos - b.cos);
  let worst: Crowded | undefined;
  for (const { link } of bends.slice(0, MAX_JOINTS)) {
    const here = placed(wire, axes(link));
    for (const other of [link + 1, link + 2]) {
      if (other >= id.length || curve[other] !== curve[link]) continue;
      const size = Math.hypot(...axes(link).subarray(0, 3));
      const gap = nearest(here, placed(wire, axes(other))) / (2 * size);
      if (!worst || gap < worst.gap) worst = { gap, link };
    }
  }
  return worst;
}

function placed(wire: Float64Array, m: Float64Array): Float64Array {
  const out = new Float64Array(wire.length);
  for (let i = 0; i < wire.length; i += 3)
    for (let k = 0; k < 3; k++)
      out[i + k] = m[9 + k] + wire[i] * m[k] + wire[i + 1] * m[3 + k] + wire[i + 2] * m[6 + k];
  return out;
}

/** Least distance between two closed lines of straight edges (Ericson: Real-Time Collision Detection, 5.1.9). */
function nearest(a: Float64Array, b: Float64Array): number {
  let least = Infinity;
  for (let i = 0; i < a.length; i += 3)
    for (let j = 0; j < b.length; j += 3)
      least = Math.min(least, edgesApart(a, i, (i + 3) % a.length, b, j, (j + 3) % b.length));
  return least;
}

function edgesApart(a: Float64Array, p: number, q: number, b: Float64Array, r: number, s: number): number {
  let [uu, vv, uv, ru, rv] = [0, 0, 0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const [u, v, w] = [a[q + k] - a[p + k], b[s + k] - b[r + k], a[p + k] - b[r + k]];
    uu += u * u;
    vv += v * v;
    uv += u * v;
    ru += u * w;
    rv += v * w;
  }
  const clamp = (value: number) => Math.min(1, Math.max(0, value));
  const denominator = uu * vv - uv * uv;
  let x = denominator > 1e-12 * uu * vv ? clamp((uv * rv - ru * vv) / denominator) : 0;
  const y = clamp((uv * x + rv) / vv);
  x = clamp((uv * y - ru) / uu);
  let apart = 0;
  for (let k = 0; k < 3; k++)
    apart += (a[p + k] + x * (a[q + k] - a[p + k]) - b[r + k] - y * (b[s + k] - b[r + k])) ** 2;
  return Math.sqrt(apart);
}
