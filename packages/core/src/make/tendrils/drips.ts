import { LineNoise } from '../../numeric/noise.js';
import { pairAt } from '../../numeric/pair.js';
import { childId, hashText, randomsOf } from '../../numeric/random.js';
import { addScaled, type Vec3 } from '../../numeric/vector.js';
import type { Surroundings } from '../../surface/surroundings.js';
import { type Limb, type Limbs, limbsOf, placeOn, type Station, stationsOn } from '../limbs.js';
import { runsThrough } from './clear.js';
import type { Tendrils } from './strands.js';

const FIRST = hashText('drip');
const DOWN: Vec3 = [0, -1, 0];
/** Places of a drip; the lowest ones stand closest, for the drop. */
const PLACES = 14;
/** Over such a share of its length a drip leaves the thickness of its strand, and swells into its drop. */
const NECK = 0.16;
const DROP = 0.14;

/** Where drips hang, and how many rings each has. */
export const dripStations = (strands: Pick<Limbs, 'curves'>, { drips, seed }: Tendrils): Station[] =>
  stationsOn(strands, drips, randomsOf(seed, FIRST), (line, k) => childId(line ^ FIRST, k));
export const dripRings = (density: number): number => Math.max(6, Math.round(PLACES * density)) + 1;

/** What hangs off strands, plumb: a neck, a thread, and a drop at its end. */
export function growDrips(
  strands: Limbs,
  p: Tendrils,
  size: number,
  density: number,
  surroundings: Surroundings,
): Limbs {
  const sway = [0, 1].map((k) => new LineNoise(p.seed, hashText(`drip ${k}`)));
  const places = dripRings(density) - 1;
  const all: Limb[] = [];
  for (const { strand, t, id } of dripStations(strands, p)) {
    const { at, radius } = placeOn(strands, strand, t);
    const length = pairAt(p.dripLength, p.seed, id, 'drip length') * size + radius;
    const thread = p.dripWidth * size;
    for (const way of sway) way.onLine(id);
    const points: Vec3[] = [];
    const thick: number[] = [];
    for (let k = 0; k <= places; k++) {
      const s = k / places;
      const place = addScaled([0, 0, 0], at, DOWN, length * s);
      // it strays more the further down it is, and by little
      const aside = 0.25 * p.noise * size * s;
      place[0] += aside * sway[0].at((length * s) / (p.wave * size));
      place[2] += aside * sway[1].at((length * s) / (p.wave * size));
      points.push(place);
      const neck = Math.max(0, 0.9 * radius - thread) * Math.exp(-s / NECK);
      const rest = p.bead === 0 ? (1 - s) ** 0.6 : 1 + (p.bead - 1) * Math.exp(-(((1 - s) / DROP) ** 2));
      thick.push(Math.max(0.02 * thread, neck + thread * rest));
    }
    const end = p.bead === 0 ? 0 : thread * p.bead;
    const clear =
      p.through === 'kept' ||
      !runsThrough([...points, addScaled([0, 0, 0], points[places], DOWN, end)], [radius, 0], surroundings);
    if (clear && length > radius) all.push({ id, points, radius: thick });
  }
  return limbsOf(all);
}
