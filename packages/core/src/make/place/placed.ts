import { hashText, randomsOf } from '../../numeric/random.js';
import type { Part } from '../../unit/carriers.js';
import { PlacementsWriter } from '../elements/placements.js';
import { type BentPlace, bentMesh } from './bend.js';
import type { PlaceChoice, Placing } from './placing.js';
import { Stander } from './stand.js';

/** What the parts wear, in their order; further ones as the last. */
const SLOTS = ['main', 'second', 'third', 'fourth'] as const;
const slotFor = (part: number): string => SLOTS[Math.min(part, SLOTS.length - 1)];

/** Elements that keep their shape: each part once, with its places. */
export function placedParts({ stations, shown, parts, which, size, scale }: Placing, p: PlaceChoice): Part[] {
  const counts = new Uint32Array(parts.length);
  for (const n of shown) counts[which[n]]++;
  const writers = parts.map((_, k) => new PlacementsWriter(counts[k]));
  const stander = new Stander(stations, p);
  const { axes, at } = stander;
  const [x, y, z] = [axes.subarray(0, 3), axes.subarray(3, 6), axes.subarray(6, 9)];
  for (const n of shown) {
    const [hx, hy, hz] = parts[which[n]].hold;
    stander.place(n, size[n]);
    for (let i = 0; i < 9; i++) axes[i] *= scale[n];
    for (let k = 0; k < 3; k++) at[k] -= hx * x[k] + hy * y[k] + hz * z[k];
    writers[which[n]].add(stations, n, x, y, z, at);
  }
  return parts.flatMap(({ name, mesh }, k): Part[] => {
    if (counts[k] === 0) return [];
    const places = writers[k].finish();
    if (p.shade > 0) places.colour = shades(places.id, p);
    return [{ kind: 'placed', id: `part-${k + 1}`, name, slot: slotFor(k), mesh, places }];
  });
}

/** Some darker than others. */
function shades(id: Uint32Array, { shade, seed }: PlaceChoice): Float32Array {
  const chance = randomsOf(seed, hashText('shade'));
  return Float32Array.from({ length: 3 * id.length }, (_, i) => 1 - shade * chance(id[Math.floor(i / 3)]));
}

/** Elements that are bent as their lines are: each part one mesh. */
export function bentParts({ framed, stations, shown, parts, which, size, scale }: Placing, p: PlaceChoice): Part[] {
  // how each stands where its frame is the axes of the world
  const unit = (axis: number) => stations.up.map((_, i) => (i % 3 === axis ? 1 : 0));
  const stander = new Stander({ ...stations, at: new Float64Array(stations.at.length), tangent: unit(2), up: unit(1) }, p);
  const places = parts.map((): BentPlace[] => []);
  for (const n of shown) {
    const { hold } = parts[which[n]];
    stander.place(n, size[n]);
    const axes = stander.axes.map((value) => scale[n] * value);
    const offset = stander.at.map((value, k) => value - hold[0] * axes[k] - hold[1] * axes[3 + k] - hold[2] * axes[6 + k]);
    places[which[n]].push({ curve: stations.curve[n], along: stations.along[n], axes, offset });
  }
  return parts.flatMap(({ name, mesh }, k): Part[] =>
    places[k].length > 0
      ? [{ kind: 'mesh', id: `part-${k + 1}`, name, slot: slotFor(k), mesh: bentMesh(mesh, framed, places[k]) }]
      : [],
  );
} // biome-ignore format: one line each
