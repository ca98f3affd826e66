import { chainEdges, edgesOf } from '../../mesh/edges.js';
import type { Surface } from '../../surface/surface.js';
import { type Skin, skinOf } from '../grown/skin.js';

/** The rim of a shell in order, and the four stretches of it: where strands begin, end, and what is between. */
export interface Sides {
  skin: Skin;
  /** Places of the rim from the first of the root edge on, once round. */
  rim: number[];
  /** The root edge runs to this one, the side beyond it to the next, then comes the far edge, then the other side. */
  ends: readonly [root: number, side: number, far: number];
}

export type Missing = 'no-faces' | 'no-rim' | 'no-mark';

/** The far edge is where a shell is further from its root edge than this share of the furthest. */
const FAR = 0.8;
/** A rim turns at a corner by this much, radians. */
const CORNER = 0.6;
/** A line marks a rim that is nearer to it than this share of the rim's length. */
const NEAR = 0.12;

/**
 * The four sides of an open shell by its root edge: where marking lines run beside its rim; without them the stretch of
 * the rim that holds its highest place, up to the next corners.
 * @param lines flat xyz of places on the marking lines, ends included; undefined to take the highest stretch
 */
export function sidesOf(surface: Surface, lines: readonly Float64Array[] | undefined): Sides | Missing {
  const skin = skinOf(surface);
  if (skin.corner.length === 0) return 'no-faces';
  const found = edgesOf(surface.mesh);
  const open: number[] = [];
  for (let e = 0; e < found.ends.length / 2; e++) if (found.faces[2 * e + 1] === -1) open.push(e);
  const chains = chainEdges(found.ends, open).filter(({ closed, places }) => closed && places.length >= 4);
  if (chains.length === 0) return 'no-rim';
  const rim = chains.reduce((a, b) => (b.places.length > a.places.length ? b : a)).places;
  const root = lines ? beside(skin, rim, lines) : highest(skin, rim);
  if (!root) return 'no-mark';
  const turned = [...rim.slice(root.from), ...rim.slice(0, root.from)];
  return { skin, rim: turned, ends: farEdge(skin, turned, root.steps) };
}

interface Stretch {
  /** Where on the rim it begins, and how many steps it runs on. */
  from: number;
  steps: number;
}

const apart = (at: Float64Array, a: number, b: number): number =>
  Math.hypot(at[3 * a] - at[3 * b], at[3 * a + 1] - at[3 * b + 1], at[3 * a + 2] - at[3 * b + 2]);

/** Whether the way over three places turns sharply. */
function isCorner(position: Float64Array, ...places: [number, number, number]): boolean {
  const [a, b, c] = places.map((place) => [0, 1, 2].map((n) => position[3 * place + n]));
  const [u, v] = [[0, 1, 2].map((n) => b[n] - a[n]), [0, 1, 2].map((n) => c[n] - b[n])];
  const cos = (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / (Math.hypot(...u) * Math.hypot(...v) || 1);
  return Math.acos(Math.min(1, Math.max(-1, cos))) > CORNER;
}

/** The stretch between the rim's places that are nearest to a line's ends, on the side that the line runs along. */
function beside({ position }: Skin, rim: readonly number[], lines: readonly Float64Array[]): Stretch | undefined {
  const length = rim.reduce((sum, place, k) => sum + apart(position, place, rim[(k + 1) % rim.length]), 0);
  const away = (place: number, line: Float64Array, i: number) =>
    Math.hypot(
      position[3 * place] - line[i],
      position[3 * place + 1] - line[i + 1],
      position[3 * place + 2] - line[i + 2],
    );
  const nearest = (line: Float64Array, i: number) =>
    rim.reduce((best, place, k) => (away(place, line, i) < away(rim[best], line, i) ? k : best), 0);
  const toLine = (place: number, line: Float64Array) => {
    let least = Infinity;
    for (let i = 0; i < line.length; i += 3) least = Math.min(least, away(place, line, i));
    return least;
  };
  for (const line of lines) {
    const [a, b] = [nearest(line, 0), nearest(line, line.length - 3)];
    const mean = (from: number, steps: number) => {
      let sum = 0;
      for (let k = 0; k <= steps; k++) sum += toLine(rim[(from + k) % rim.length], line);
      return sum / (steps + 1);
    };
    const forth = (b - a + rim.length) % rim.length;
    const back = rim.length - forth;
    if (forth === 0) continue;
    const stretch = mean(a, forth) <= mean(b, back) ? { from: a, steps: forth } : { from: b, steps: back };
    if (mean(stretch.from, stretch.steps) < NEAR * length && rim.length - stretch.steps >= 3) return stretch;
  }
  return undefined;
}

/** The stretch about the highest place, up to corners on both sides, or a third of the rim where there are none. */
function highest({ position }: Skin, rim: readonly number[]): Stretch | undefined {
  const count = rim.length;
  const at = (k: number) => rim[((k % count) + count) % count];
  const top = rim.reduce((best, place, k) => (position[3 * place + 1] > position[3 * rim[best] + 1] ? k : best), 0);
  const corner = (k: number) => isCorner(position, at(k - 1), at(k), at(k + 1));
  /** How far the stretch goes on one way: to the next corner, or a sixth of the rim. */
  const along = (way: number) => {
    let steps = 1;
    while (steps < count / 6 && !corner(top + way * steps)) steps++;
    let whole = steps;
    while (whole < count / 2 && !corner(top + way * whole)) whole++;
    return whole < count / 2 ? whole : steps;
  };
  const level = (way: number) =>
    Math.abs(position[3 * at(top + way) + 1] - position[3 * at(top) + 1]) /
    (apart(position, at(top), at(top + way)) || 1);
  // a corner itself may be the highest place: the stretch goes to the side that runs more level
  const [back, forth] = [!corner(top) || level(-1) <= level(1), !corner(top) || level(1) < level(-1)];
  const from = top - (back ? along(-1) : 0);
  const to = top + (forth ? along(1) : 0);
  const steps = to - from;
  return steps >= 1 && count - steps >= 3 ? { from: ((from % count) + count) % count, steps } : undefined;
}

/**
 * Where on the rim the far edge begins and ends: of the stretches between corners the furthest from the root edge; where
 * there are not two corners, all that is nearly as far as the furthest place.
 */
function farEdge(skin: Skin, rim: readonly number[], root: number): Sides['ends'] {
  const far = fromRoot(skin, rim.slice(0, root + 1));
  const count = rim.length;
  const corners: number[] = [];
  for (let k = root + 1; k < count; k++)
    if (isCorner(skin.position, rim[k - 1], rim[k], rim[(k + 1) % count])) corners.push(k);
  const mean = (from: number, to: number) =>
    rim.slice(from, to + 1).reduce((sum, place) => sum + far[place], 0) / (to - from + 1);
  let best: Sides['ends'] | undefined;
  let most = 0;
  for (let k = 0; k + 1 < corners.length; k++) {
    const away = mean(corners[k], corners[k + 1]);
    if (away > most) [best, most] = [[root, corners[k], corners[k + 1]], away];
  }
  return (
    best ?? [
      root,
      ...roundEnd(
        rim.map((place) => far[place]),
        root,
      ),
    ]
  );
}

/** The stretch about the furthest place that is nearly as far: at least one step, with one left for each side. */
function roundEnd(far: readonly number[], root: number): [from: number, to: number] {
  let furthest = root + 1;
  for (let k = root + 1; k < far.length; k++) if (far[k] > far[furthest]) furthest = k;
  let [from, to] = [furthest, furthest];
  while (from - 1 > root && far[from - 1] >= FAR * far[furthest]) from--;
  while (to + 1 < far.length && far[to + 1] >= FAR * far[furthest]) to++;
  if (to === from && from - 1 > root) from--;
  if (to === from) to = Math.min(far.length - 1, to + 1);
  return [from, to];
}

/** How far every place is from some of them, along the edges. */
function fromRoot({ start, next, position }: Skin, roots: readonly number[]): Float64Array {
  const far = new Float64Array(start.length - 1).fill(Infinity);
  let front = [...roots];
  for (const place of roots) far[place] = 0;
  // shells are small: each pass takes what the last one has brought nearer
  while (front.length > 0) {
    const reached = new Set<number>();
    for (const p of front)
      for (let e = start[p]; e < start[p + 1]; e++) {
        const q = next[e];
        const by = far[p] + apart(position, p, q);
        if (by < far[q] - 1e-12) {
          far[q] = by;
          reached.add(q);
        }
      }
    front = [...reached];
  }
  return far;
}
