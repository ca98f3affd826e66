import type { CurveSet } from '../../curve/curve-set.js';
import { childId } from '../../numeric/random.js';
import type { Roots } from '../roots/spread-roots.js';
import type { Guides } from './guides.js';
import { type NearGuides, Shares } from './over-skin.js';
import type { Partings } from './partings.js';
import { placeOnSkin, type Skin } from './skin.js';

/** How strands grow: alone, and led by guides where there are any. */
export interface Growth {
  length: number;
  /** 0 square to the skin, 1 straight up. */
  upright: number;
  led?: { guides: Guides; near: NearGuides; partings: Partings; reach: number; leftOut: boolean };
}

/**
 * Writes the strands of all roots, each as many points: those of its guides, each turned as the skin turns from the
 * guide's root to the strand's, mixed by their shares and as long as these say. Returns how many were written.
 */
export function growStrands(
  { count, number, triangle, shares }: Roots,
  points: number,
  skin: Skin,
  growth: Growth,
  out: CurveSet,
  rooted: { normals: Float32Array; faces: Float32Array },
  step: (share: number) => void,
): number {
  const { led } = growth;
  const place = new Float64Array(6);
  const mixer = led && new Shares(skin, led.guides.roots, led.near, led.partings, led.reach);
  const { position } = out;
  let written = 0;
  for (let c = 0; c < count; c++) {
    if ((c & 8191) === 0) step(c / count);
    placeOnSkin(skin, triangle[c], shares[2 * c], shares[2 * c + 1], place);
    mixer?.at(triangle[c], place);
    const to = 3 * points * written;
    if (led && mixer && mixer.count > 0) mixGuides(led.guides, mixer, points, place, position, to);
    else if (led?.leftOut) continue;
    else standAlone(growth, points, place, position, to);
    for (let n = 0; n < 3; n++) rooted.normals[3 * written + n] = place[3 + n];
    rooted.faces[written] = triangle[c];
    out.id[written] = childId(1, number[c]);
    out.start[++written] = points * written;
  }
  return written;
}

function standAlone(
  { length, upright }: Growth,
  points: number,
  place: Float64Array,
  position: Float64Array,
  to: number,
): void {
  const x = place[3] * (1 - upright);
  const y = place[4] * (1 - upright) + upright;
  const z = place[5] * (1 - upright);
  const size = Math.hypot(x, y, z) || 1;
  for (let k = 0; k < points; k++) {
    const far = (length * k) / ((points - 1) * size);
    position[to + 3 * k] = place[0] + x * far;
    position[to + 3 * k + 1] = place[1] + y * far;
    position[to + 3 * k + 2] = place[2] + z * far;
  }
}

function mixGuides(
  { normal, shape: guides, length }: Guides,
  { guide, share, count }: Shares,
  points: number,
  place: Float64Array,
  position: Float64Array,
  to: number,
): void {
  const end = to + 3 * points;
  let wanted = 0;
  const [nx, ny, nz] = [place[3], place[4], place[5]];
  position.fill(0, to, end);
  for (let k = 0; k < count; k++) {
    const weight = share[k];
    if (weight === 0) continue;
    const g = guide[k];
    wanted += weight * length[g];
    // the least turn from the guide's normal to the strand's (Rodrigues); straight against each other there is none
    const [gx, gy, gz] = [normal[3 * g], normal[3 * g + 1], normal[3 * g + 2]];
    const [x, y, z] = [gy * nz - gz * ny, gz * nx - gx * nz, gx * ny - gy * nx];
    const cos = gx * nx + gy * ny + gz * nz;
    const f = cos > -0.999 ? 1 / (1 + cos) : 0;
    const turned = cos > -0.999;
    const a = weight * (turned ? 1 - f * (y * y + z * z) : 1);
    const b = weight * (turned ? f * x * y - z : 0);
    const c = weight * (turned ? f * x * z + y : 0);
    const d = weight * (turned ? f * x * y + z : 0);
    const e = weight * (turned ? 1 - f * (x * x + z * z) : 1);
    const h = weight * (turned ? f * y * z - x : 0);
    const l = weight * (turned ? f * x * z - y : 0);
    const m = weight * (turned ? f * y * z + x : 0);
    const n = weight * (turned ? 1 - f * (x * x + y * y) : 1);
    for (let i = to + 3, from = 3 * points * g + 3; i < end; i += 3, from += 3) {
      const px = guides[from];
      const py = guides[from + 1];
      const pz = guides[from + 2];
      position[i] += a * px + b * py + c * pz;
      position[i + 1] += d * px + e * py + h * pz;
      position[i + 2] += l * px + m * py + n * pz;
    }
  }
  let long = 0;
  for (let i = to + 3; i < end; i += 3) {
    const x = position[i] - position[i - 3];
    const y = position[i + 1] - position[i - 2];
    const z = position[i + 2] - position[i - 1];
    long += Math.sqrt(x * x + y * y + z * z);
  }
  // what leads different ways would be mixed to something short
  const stretch = long > 1e-3 * wanted && Math.abs(wanted / long - 1) > 1e-12 ? wanted / long : 1;
  const [x, y, z] = [place[0], place[1], place[2]];
  for (let i = to; i < end; i += 3) {
    position[i] = x + stretch * position[i];
    position[i + 1] = y + stretch * position[i + 1];
    position[i + 2] = z + stretch * position[i + 2];
  }
}
