import { childId, hashText, randomAt } from '../../numeric/random.js';
import { distance, dot, subtract, type Vec3, vec3 } from '../../numeric/vector.js';
import type { LinkChange } from '../../unit/parameters.js';
import type { Attachment } from './attachments.js';

/** A line, or several side by side, from one place to another. */
export interface Connection {
  /** The same for both ways, whatever else is connected. */
  id: number;
  from: Attachment;
  to: Attachment;
}

export const connectionId = (a: number, b: number): number => childId(Math.min(a, b), Math.max(a, b));

export const connection = (from: Attachment, to: Attachment): Connection => ({
  id: connectionId(from.key, to.key),
  from,
  to,
});

export interface OrderChoice {
  order: string;
  /** Furthest connection of those that are not in an order, metres. */
  reach: number;
  /** Connections that each one begins, at random. */
  links: number;
  seed: number;
}

const LINK = hashText('link');

/**
 * Who is connected with whom: one after the other as picked, from nearest to nearest, in a ring, each with each in reach,
 * or at random.
 * @param groups places of each pick; picks without a place are left out before
 * @param up against gravity, unit
 * @param most pairs of picks
 */
export function connectionsOf(
  groups: readonly (readonly Attachment[])[],
  { order, reach, links, seed }: OrderChoice,
  up: Vec3,
  most: number,
): Connection[] {
  const out: Connection[] = [];
  const join = (i: number, j: number) => out.push(...pairs(groups[i], groups[j], up));
  const count = groups.length;
  const apart = (i: number, j: number) => distance(groups[i][0].at, groups[j][0].at);
  switch (order) {
    case 'each':
      for (let i = 0; i < count; i++)
        for (let j = i + 1; j < count && out.length < most; j++) if (apart(i, j) <= reach) join(i, j);
      break;
    case 'chance': {
      const done = new Set<number>();
      for (let i = 0; i < count && out.length < most; i++) {
        const drawn: { j: number; draw: number }[] = [];
        for (let j = 0; j < count; j++) {
          if (j === i || apart(i, j) > reach) continue;
          const draw = randomAt(seed, childId(groups[i][0].key, groups[j][0].key), LINK);
          if (drawn.length === links && draw >= drawn[links - 1].draw) continue;
          drawn.push({ j, draw });
          drawn.sort((a, b) => a.draw - b.draw);
          drawn.length = Math.min(drawn.length, links);
        }
        for (const { j } of drawn) {
          const id = connectionId(groups[i][0].key, groups[j][0].key);
          if (!done.has(id)) join(i, j);
          done.add(id);
        }
      }
      break;
    }
    default: {
      const row = order === 'near' ? nearestRow(count, apart) : [...groups.keys()];
      for (let k = 1; k < count && out.length < most; k++) join(row[k - 1], row[k]);
      if (order === 'ring' && count > 2) join(row[count - 1], row[0]);
    }
  }
  return out;
}

/** From the first on always the nearest that is left. */
function nearestRow(count: number, apart: (i: number, j: number) => number): number[] {
  const left = new Set(Array.from({ length: count }, (_, i) => i));
  const row: number[] = [];
  for (let at = 0; left.size > 0; ) {
    left.delete(at);
    row.push(at);
    let [next, least] = [-1, Infinity];
    for (const j of left) {
      const far = apart(at, j);
      if (far < least) [next, least] = [j, far];
    }
    at = next;
  }
  return row;
}

/** The places of two bodies, one each: those on the same side with each other, so that their lines do not cross. */
function pairs(a: readonly Attachment[], b: readonly Attachment[], up: Vec3): Connection[] {
  if (a.length === 1 || b.length === 1)
    return Array.from({ length: Math.max(a.length, b.length) }, (_, k) =>
      connection(a[Math.min(k, a.length - 1)], b[Math.min(k, b.length - 1)]),
    );
  const middle = (all: readonly Attachment[]): Vec3 =>
    all.reduce<Vec3>(
      (sum, { at }) => [sum[0] + at[0] / all.length, sum[1] + at[1] / all.length, sum[2] + at[2] / all.length],
      [0, 0, 0],
    );
  const way = subtract(vec3(), middle(b), middle(a));
  const side: Vec3 = [
    up[1] * way[2] - up[2] * way[1],
    up[2] * way[0] - up[0] * way[2],
    up[0] * way[1] - up[1] * way[0],
  ];
  const sorted = (all: readonly Attachment[]) => all.toSorted((p, q) => dot(p.at, side) - dot(q.at, side));
  const [left, right] = [sorted(a), sorted(b)];
  return Array.from({ length: Math.min(left.length, right.length) }, (_, k) => connection(left[k], right[k]));
}

/** What was done by hand: some are taken out, led to another place, or added. What names a place that is gone does nothing. */
export function changed(
  connections: readonly Connection[],
  changes: readonly LinkChange[],
  places: readonly Attachment[],
): Connection[] {
  if (changes.length === 0) return [...connections];
  const byKey = new Map(places.map((place) => [place.key, place]));
  const byId = new Map(changes.map((change) => [connectionId(change.from, change.to), change]));
  const out = connections.flatMap((one): Connection[] => {
    const change = byId.get(one.id);
    if (change?.how === 'out') return [];
    const instead = change?.how === 'led' ? byKey.get(change.instead ?? -1) : undefined;
    // the end that is led is the one called `to`
    if (!change || !instead) return [one];
    return [{ ...one, from: one.from.key === change.to ? one.to : one.from, to: instead }];
  });
  const there = new Set(connections.map(({ id }) => id));
  for (const { from, to, how } of changes) {
    const [a, b] = [byKey.get(from), byKey.get(to)];
    if (how === 'added' && a && b && !there.has(connectionId(from, to))) out.push(connection(a, b));
  }
  return out;
}

/** Of this many of the nearest places one is drawn for a line that crosses over. */
const CROSS_TO = 3;
const CROSS = hashText('cross');

/** Another place for a line to end at than that of its connection: one of the nearest to it on another body. */
export function crossedOver(
  { from, to }: Connection,
  places: readonly Attachment[],
  id: number,
  seed: number,
): Attachment | undefined {
  const near: { place: Attachment; far: number }[] = [];
  for (const place of places) {
    if (place.key === from.key || place.key === to.key || (place.prop !== undefined && place.prop === from.prop))
      continue;
    const far = distance(place.at, to.at);
    if (near.length === CROSS_TO && far >= near[CROSS_TO - 1].far) continue;
    near.push({ place, far });
    near.sort((a, b) => a.far - b.far);
    near.length = Math.min(near.length, CROSS_TO);
  }
  return near[Math.floor(randomAt(seed, id, CROSS) * near.length)]?.place;
}
