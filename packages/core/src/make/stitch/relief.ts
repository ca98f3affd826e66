import { allocateCurves, curveCount } from '../../curve/curve-set.js';
import type { Mesh } from '../../mesh/mesh.js';
import { hashText, randomAt } from '../../numeric/random.js';
import { addScaled, cross, normalize, subtract, upAcross, type Vec3, vec3 } from '../../numeric/vector.js';
import { roundSection, sectionFromOutline } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import type { Placements } from '../../unit/carriers.js';
import type { Cloth, ClothPlace } from '../elements/cloth.js';
import type { FramedLines } from '../elements/framed-lines.js';
import { type LaidRow, laidRails } from '../elements/laid-rails.js';
import { PlacementsWriter } from '../elements/placements.js';
import { lathe } from '../elements/solids.js';
import type { Leg } from './legs.js';

// What stitches do to the cloth, as meshes of their own that lie on it: the prop itself is never changed.

/** A hole of a stitch. */
export interface Hole extends ClothPlace {
  id: number;
  curve: number;
  along: number;
  /** Which way the line runs there. */
  tangent: Vec3;
}

/** A hole of radius 1 about y: a dark floor, a rim round it. @param rim how high and broad it is, in radii */
export const holeMesh = (rim: number, sides: number): Mesh =>
  lathe([[0, -0.2], [1 + 1.4 * rim, -0.2], [1 + 1.2 * rim, 0], [1 + 0.45 * rim, rim], [0.92, 0.03], [0, 0.02]], sides, 0.9); // biome-ignore format: a table of numbers

/** Where holes are: those of threads that share one are one. */
export function holePlaces(holes: readonly Hole[], radius: number): Placements {
  const kept: Hole[] = [];
  for (const hole of holes) {
    const shared = kept.slice(-6).some(({ at }) => Math.hypot(...subtract(vec3(), at, hole.at)) < 1.5 * radius);
    if (!shared) kept.push(hole);
  }
  const stations = {
    id: Uint32Array.from(kept, ({ id }) => id),
    along: Float32Array.from(kept, ({ along }) => along),
    curve: Uint32Array.from(kept, ({ curve }) => curve),
  };
  const writer = new PlacementsWriter(kept.length);
  const [x, y, z] = [vec3(), vec3(), vec3()];
  kept.forEach(({ at, up, tangent }, n) => {
    cross(x, up, tangent);
    if (Math.hypot(...x) < 1e-6) upAcross(x, up);
    normalize(x, x);
    cross(z, x, up);
    for (let k = 0; k < 3; k++) {
      x[k] *= radius;
      y[k] = up[k] * radius;
      z[k] *= radius;
    }
    writer.add(stations, n, x, y, z, at);
  });
  return writer.finish();
}

/** How the pressed cloth rises beside the seam, over its half breadth: 0 in the middle, highest halfway, level outside. */
const PUFF = 10;
/** Places of the seam for each of its half breadths. */
const STEPS = 2;

/**
 * The cloth pressed down along each row of a seam, puffed up on both sides of it.
 * @param rows how far beside the line each row is @param half its half breadth @param depth how high it puffs, metres
 */
export function seamMesh(
  { lines, lengths }: FramedLines,
  legs: readonly Leg[],
  cloth: Cloth,
  rows: readonly number[],
  half: number,
  depth: number,
): Mesh | undefined {
  const seams: LaidRow[] = [];
  for (let c = 0; c < curveCount(lines); c++) {
    const own = legs.filter(({ curve }) => curve === c);
    if (own.length === 0 || !(lengths[c] > 0)) continue;
    const closed = lines.closed[c] === 1;
    const count = Math.max(closed ? 6 : 2, Math.ceil((STEPS * lengths[c]) / half) + 1);
    for (const aside of rows) {
      const places = Array.from({ length: count }, (_, k) =>
        cloth.place(c, (k * lengths[c]) / (closed ? count : count - 1), aside),
      );
      seams.push({ places, closed, id: lines.id[c] });
    }
  }
  if (seams.length === 0) return undefined;
  const { rails, frames } = laidRails(seams);
  const puff: [number, number][] = Array.from({ length: 2 * PUFF + 1 }, (_, k) => {
    const t = Math.abs(k / PUFF - 1);
    // runs into the cloth with its own slope at the rim, and to a fold in the middle
    const rise = 0.06 + 0.94 * Math.sin(Math.PI * Math.sqrt(t)) ** 1.2;
    return [t < 1 ? (depth / half) * rise : (-0.4 * depth) / half, k / PUFF - 1];
  });
  const outline = [...puff, [(-1.2 * depth) / half, 0.9], [(-1.2 * depth) / half, -0.9]];
  const section = counterClockwise(
    outline.map(([x]) => x),
    outline.map(([, y]) => y),
  );
  return sweep(rails, section, { radius: half, frames, hardAngle: Math.PI });
}

function counterClockwise(x: readonly number[], y: readonly number[]) {
  let area = 0;
  x.forEach((value, i) => {
    const j = (i + 1) % x.length;
    area += value * y[j] - x[j] * y[i];
  });
  const [a, b] = area > 0 ? [x, y] : [x.toReversed(), y.toReversed()];
  return sectionFromOutline(Float64Array.from(a), Float64Array.from(b), { hardAngle: 0.9 });
}

/** Places of a crease, how deep its middle lies under the cloth, in its radii, and how far it turns aside, radians. */
const CREASE_POINTS = 7;
const SUNK = 0.62;
const ASIDE = 0.7;

/** Short folds that run out from the holes to both sides. @param length of the longest @param radius at their thickest, metres */
export function creaseMesh(
  holes: readonly Hole[],
  cloth: Cloth,
  length: number,
  radius: number,
  seed: number,
): Mesh | undefined {
  const count = 2 * holes.length;
  if (count === 0) return undefined;
  const lines = allocateCurves(count, count * CREASE_POINTS);
  const thick = new Float32Array(count * CREASE_POINTS);
  const [turned, sized] = [hashText('crease turn'), hashText('crease length')];
  holes.forEach(({ at, up, tangent, id }, h) => {
    const side = normalize(vec3(), cross(vec3(), tangent, up));
    for (const way of [0, 1]) {
      const c = 2 * h + way;
      const angle = ASIDE * (2 * randomAt(seed, id + way, turned) - 1);
      const far = length * (0.35 + 0.65 * randomAt(seed, id + way, sized));
      const out = addScaled(
        vec3(),
        side.map((value) => value * (way ? 1 : -1) * Math.cos(angle)) as Vec3,
        tangent,
        Math.sin(angle),
      );
      for (let k = 0; k < CREASE_POINTS; k++) {
        const t = k / (CREASE_POINTS - 1);
        const place = cloth.landed(addScaled(vec3(), at, out, far * (0.1 + 0.9 * t)), up);
        const p = c * CREASE_POINTS + k;
        // thickest soon after the hole, running out to nothing
        thick[p] = radius * Math.max(0.02, Math.min(1, 4 * t + 0.3) * (1 - t) ** 0.8);
        lines.position.set(addScaled(vec3(), place.at, place.up, -SUNK * thick[p]), 3 * p);
      }
      lines.start[c + 1] = (c + 1) * CREASE_POINTS;
      lines.id[c] = id;
    }
  });
  return sweep(lines, roundSection(8), { radius: thick, hardAngle: Math.PI });
}
