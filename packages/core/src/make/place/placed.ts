import { type Mesh, vertexCount } from '../../mesh/mesh.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import type { Part, Placements } from '../../unit/carriers.js';
import { framedPlacements, PlacementsWriter } from '../elements/placements.js';
import { type BentPlace, bentMesh } from './bend.js';
import type { PlaceChoice, Placing } from './placing.js';
import { Stander } from './stand.js';

/** What the parts wear, in their order; further ones as the last. */
const SLOTS = ['main', 'second', 'third', 'fourth'] as const;
const slotFor = (part: number): string => SLOTS[Math.min(part, SLOTS.length - 1)];

/** Elements that keep their shape: each part once, with its places. @param spare parts that are no longer wanted */
export function placedParts(
  { stations, shown, parts, which, size, scale }: Placing,
  p: PlaceChoice,
  spare?: readonly Part[],
): Part[] {
  const stander = new Stander(stations, p);
  // the usual case, a hundred thousand times
  if (stander.plain && parts.length === 1 && shown.length === stations.id.length && shown.length > 0) {
    const [{ name, mesh, hold }] = parts;
    const old = spare?.[0]?.kind === 'placed' ? spare[0].places : undefined;
    return [finished(0, name, mesh, framedPlacements(stations, scale, hold, old), p)];
  }
  const counts = new Uint32Array(parts.length);
  for (let i = 0; i < shown.length; i++) counts[which[shown[i]]]++;
  const writers = parts.map((_, k) => new PlacementsWriter(counts[k]));
  const { axes, at } = stander;
  for (let i = 0; i < shown.length; i++) {
    const n = shown[i];
    const { hold } = parts[which[n]];
    stander.place(n, size[n]);
    for (let k = 0; k < 9; k++) axes[k] *= scale[n];
    for (let k = 0; k < 3; k++) at[k] -= hold[0] * axes[k] + hold[1] * axes[3 + k] + hold[2] * axes[6 + k];
    writers[which[n]].addFrame(stations, n, axes, at);
  }
  return parts.flatMap(({ name, mesh }, k) => (counts[k] > 0 ? [finished(k, name, mesh, writers[k].finish(), p)] : []));
}

function finished(k: number, name: string, mesh: Mesh, places: Placements, p: PlaceChoice): Part {
  if (p.shade > 0) places.colour = shades(places.id, p);
  return { kind: 'placed', id: `part-${k + 1}`, name, slot: slotFor(k), mesh, places };
}

/** Some darker than others: linear rgb, one each. */
export function shades(id: Uint32Array, { shade, seed }: Pick<PlaceChoice, 'shade' | 'seed'>): Float32Array {
  const chance = randomsOf(seed, hashText('shade'));
  return Float32Array.from({ length: 3 * id.length }, (_, i) => 1 - shade * chance(id[Math.floor(i / 3)]));
}

/** Vertices of what is bent, each part at most: every copy of a mesh is another one. */
const MAX_BENT_VERTICES = 1_000_000;

/** Elements that are bent as their lines are: each part one mesh, of as many as come to no more than that. */
export function bentParts({ framed, stations, shown, parts, which, size, scale }: Placing, p: PlaceChoice): Part[] {
  // how each stands where its frame is the axes of the world
  const unit = (axis: number) => stations.up.map((_, i) => (i % 3 === axis ? 1 : 0));
  const stander = new Stander(
    { ...stations, at: new Float64Array(stations.at.length), tangent: unit(2), up: unit(1) },
    p,
  );
  const places = parts.map((): BentPlace[] => []);
  const writers = parts.map(() => new PlacementsWriter(shown.length));
  const stood = new Stander(stations, p);
  for (const n of shown) {
    const { hold, mesh } = parts[which[n]];
    if ((places[which[n]].length + 1) * vertexCount(mesh) > MAX_BENT_VERTICES) continue;
    stander.place(n, size[n]);
    const axes = stander.axes.map((value) => scale[n] * value);
    const offset = stander.at.map(
      (value, k) => value - hold[0] * axes[k] - hold[1] * axes[3 + k] - hold[2] * axes[6 + k],
    );
    stood.place(n, size[n]);
    writers[which[n]].addFrame(
      stations,
      n,
      stood.axes.map((value) => scale[n] * value),
      stood.at,
    );
    places[which[n]].push({ curve: stations.curve[n], along: stations.along[n], axes, offset });
  }
  return parts.flatMap(({ name, mesh }, k): Part[] =>
    places[k].length > 0
      ? [
          {
            kind: 'mesh',
            id: `part-${k + 1}`,
            name,
            slot: slotFor(k),
            mesh: bentMesh(mesh, framed, places[k]),
            elements: {
              places: writers[k].finish(),
              of: Uint32Array.from({ length: places[k].length * vertexCount(mesh) }, (_, v) =>
                Math.floor(v / vertexCount(mesh)),
              ),
            },
          },
        ]
      : [],
  );
}
