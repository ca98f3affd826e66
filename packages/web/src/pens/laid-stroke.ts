import { anchorFor, createHit, type DrawnPoint, distance, layInSight, type Surroundings } from '@kelp/core';
import { bridged } from './steady.js';

/** Places on the page that the line is laid at: this far apart, in shares of the thing's radius, and at most this many. */
const STEP = 0.4;
const MAX_SAMPLES = 1200;
/** A line bends this many radii at the tightest. Common practice, no source: a cable that bends tighter looks broken. */
const BEND = 2.5;
/** What is flat may come to bend to its side: over this many times as far as it reaches there. */
const ASIDE = 1.5;
/** Seen from afar it bends this many pixels: what is smaller cannot have been meant. */
const MIN_BEND = 2;
/** The hand's line is evened over this many of its tightest bends. */
const EVEN = 0.4;
/** Places within this many radii of a prop are held on it, where they are over it (cosine of how far they lean). */
const HELD = 8;
const OVER = 0.5;
/** An end that snaps to something takes this many radii of the line with it. */
const SNAP = 12;
/** An end that is so near to what is under the pointer has snapped to nothing, metres. */
const SAME = 1e-6;

/** A place of a stroke: on the page (pixels), and in the world. */
export interface StrokePlace {
  at: readonly [number, number];
  point: DrawnPoint;
}

export interface PenSettings {
  eye: readonly [number, number, number];
  /** What is under a place of the page. */
  under(x: number, y: number): DrawnPoint | undefined;
  /** Which way a place of the page lies from the eye, a unit vector. */
  towards(x: number, y: number): readonly [number, number, number];
  /** Size of a pixel where the stroke begins, and the radius of what will run along it, metres. */
  pixel: number;
  radius: number;
  /** How far that reaches to any side, metres, where it is flat; its radius when left out. */
  breadth?: number;
}

/**
 * A stroke over props as places of a line that lies on what was under it and bridges the gaps: outside of everything, with
 * no bend tighter than the hand drew it or the thing allows. A stroke that meets no prop stays as it was drawn.
 */
export function laidStroke(
  stroke: readonly StrokePlace[],
  hand: PenSettings,
  surroundings: Surroundings,
): DrawnPoint[] {
  const drawn = stroke.map(({ point }) => point);
  if (stroke.length < 2 || !drawn.some(({ anchor }) => anchor)) return bridged(drawn);
  const page = evened(
    stroke.map(({ at }) => at),
    (STEP * hand.radius) / hand.pixel,
    (EVEN * BEND * hand.radius) / hand.pixel,
  );
  const seen = page.map(([x, y]) => hand.under(x, y));
  const spanned = overGaps(seen);
  const directions = new Float64Array(3 * page.length);
  const depths = new Float64Array(page.length).fill(Infinity);
  page.forEach(([x, y], i) => {
    const way = hand.towards(x, y);
    const deep = (place: Place) => place.reduce((sum, value, k) => sum + (value - hand.eye[k]) * way[k], 0);
    // a span goes in front of what is seen
    for (const place of [seen[i]?.position, spanned[i]]) if (place) depths[i] = Math.min(depths[i], deep(place));
    directions.set(way, 3 * i);
  });
  const bend = Math.max(BEND * hand.radius, ASIDE * (hand.breadth ?? 0), MIN_BEND * hand.pixel);
  const laid = layInSight({ eye: hand.eye, directions, depths }, surroundings, hand.radius, bend);
  const line = page.map((_, i): DrawnPoint => {
    const { radius } = drawn[Math.round((i / (page.length - 1)) * (drawn.length - 1))];
    return { position: [laid[3 * i], laid[3 * i + 1], laid[3 * i + 2]], corner: false, radius };
  });
  const last = line.length - 1;
  const joined = new Set([
    pull(line, 1, drawn[0], seen[0], SNAP * hand.radius) ? 0 : -1,
    pull(line, -1, drawn[drawn.length - 1], seen[last], SNAP * hand.radius) ? last : -1,
  ]);
  return line.map((point, i) => (joined.has(i) ? point : held(point, surroundings, hand.radius)));
}

/** Places at even steps along a line on the page, evened by a bell so wide (one deviation); the ends stay. */
export function evened(
  line: readonly (readonly [number, number])[],
  step: number,
  width: number,
): (readonly [number, number])[] {
  const along = [0];
  for (let i = 1; i < line.length; i++)
    along.push(along[i - 1] + Math.hypot(line[i][0] - line[i - 1][0], line[i][1] - line[i - 1][1]));
  const total = along[along.length - 1];
  const count = Math.max(2, Math.min(MAX_SAMPLES, Math.ceil(total / Math.max(step, 0.5)) + 1));
  let i = 1;
  const even = Array.from({ length: count }, (_, k): [number, number] => {
    const s = (total * k) / (count - 1);
    while (i < line.length - 1 && along[i] < s) i++;
    const t = along[i] > along[i - 1] ? (s - along[i - 1]) / (along[i] - along[i - 1]) : 0;
    return [0, 1].map((n) => line[i - 1][n] + t * (line[i][n] - line[i - 1][n])) as [number, number];
  });
  const spread = (width * (count - 1)) / Math.max(total, 1e-9);
  return even.map(([x, y], k) => {
    // no further to one side than to the other: the ends stay where they are
    const reach = Math.min(Math.ceil(3 * spread), k, count - 1 - k);
    let [sx, sy, sum] = [x, y, 1];
    for (let n = 1; n <= reach; n++) {
      const weight = Math.exp(-0.5 * (n / spread) ** 2);
      sx += weight * (even[k - n][0] + even[k + n][0]);
      sy += weight * (even[k - n][1] + even[k + n][1]);
      sum += 2 * weight;
    }
    return [sx / sum, sy / sum];
  });
}

type Place = readonly [number, number, number];

/** What is seen, where a gap that shows what is far behind is spanned straight. */
function overGaps(seen: readonly (DrawnPoint | undefined)[]): (Place | undefined)[] {
  const kept = new Set(bridged(seen.flatMap((point) => point ?? [])));
  const out: (Place | undefined)[] = seen.map((point) => (point && kept.has(point) ? point.position : undefined));
  for (let i = 1; i < out.length; i++) {
    // only what was left out is spanned: where nothing was seen, nothing is known
    if (out[i] || !seen[i]) continue;
    let end = i;
    while (end < out.length && !out[end]) end++;
    const [from, to] = [out[i - 1], out[end]];
    if (from && to) for (let k = i; k < end; k++) out[k] = between(from, to, (k - i + 1) / (end - i + 1));
    i = end;
  }
  return out;
}

const between = (from: Place, to: Place, t: number): Place => [
  from[0] + t * (to[0] - from[0]),
  from[1] + t * (to[1] - from[1]),
  from[2] + t * (to[2] - from[2]),
];

const hit = createHit();

/** The point held on the prop it lies on, where it is over it and not beside: there it is found again when the prop has moved. */
export function held(point: DrawnPoint, surroundings: Surroundings, radius: number): DrawnPoint {
  const [x, y, z] = point.position;
  const prop = surroundings.closest(x, y, z, hit, HELD * radius);
  if (prop === undefined) return point;
  const height = [x, y, z].reduce((sum, value, k) => sum + (value - hit.point[k]) * hit.normal[k], 0);
  const surface = height >= OVER * hit.distance ? surroundings.surface(prop) : undefined;
  const anchor = surface && anchorFor(prop, surface, hit, point.position, radius);
  return anchor ? { ...point, anchor } : point;
}

/**
 * Leads the line to where its end snapped to: to a place in the air or on another prop itself (true), to one on the same
 * prop by as much as it lies beside what was under the pointer. Where it snapped to nothing the line ends as it was laid: in
 * front of what is seen far behind an edge.
 */
function pull(line: DrawnPoint[], side: 1 | -1, end: DrawnPoint, seen: DrawnPoint | undefined, reach: number): boolean {
  if (seen && distance(end.position, seen.position) < SAME) return false;
  const last = side === 1 ? 0 : line.length - 1;
  const beside = seen?.anchor && end.anchor?.prop === seen.anchor.prop;
  const from = beside ? seen.position : line[last].position;
  const by = end.position.map((value, k) => value - from[k]);
  let gone = 0;
  for (let i = last; i >= 0 && i < line.length && gone < reach; i += side) {
    const share = (1 - gone / reach) ** 2 * (1 + (2 * gone) / reach);
    if (line[i + side]) gone += distance(line[i].position, line[i + side].position);
    const [x, y, z] = line[i].position;
    line[i] = { ...line[i], position: [x + share * by[0], y + share * by[1], z + share * by[2]] };
  }
  if (!beside) line[last] = end;
  return !beside;
}
