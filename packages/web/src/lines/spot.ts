import type { Rails } from '../evaluation/protocol.js';

export type Place = [number, number, number];

/** A place on a line with the directions there: along it, level to its side, and up from both. */
export interface Spot {
  place: Place;
  tangent: Place;
  side: Place;
  up: Place;
}

export const moved = (from: readonly number[], by: readonly number[], far: number): Place =>
  [0, 1, 2].map((k) => from[k] + far * by[k]) as Place;

const unit = (v: readonly number[]): Place => {
  const size = Math.hypot(...v) || 1;
  return v.map((value) => value / size) as Place;
};
const cross = (a: readonly number[], b: readonly number[]): Place => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** Distance along curve `c` of the rails at each of its points, and the length of the whole, metres. */
export function alongRails({ position, start, closed }: Rails, c: number): { at: Float64Array; length: number } {
  const [from, end] = [start[c], start[c + 1]];
  const at = new Float64Array(Math.max(0, end - from));
  const step = (a: number, b: number) => Math.hypot(...[0, 1, 2].map((k) => position[3 * b + k] - position[3 * a + k]));
  for (let p = from + 1; p < end; p++) at[p - from] = at[p - from - 1] + step(p - 1, p);
  const length = (at.at(-1) ?? 0) + (closed[c] && end > from ? step(end - 1, from) : 0);
  return { at, length };
}

/** The spot at a share of a curve's length. */
export function spotAt(rails: Rails, share: number, c = 0): Spot {
  const { position, start } = rails;
  const { at } = alongRails(rails, c);
  const wanted = Math.max(0, Math.min(1, share)) * (at.at(-1) ?? 0);
  let p = 0;
  while (p + 2 < at.length && at[p + 1] < wanted) p++;
  const q = Math.min(p + 1, at.length - 1);
  const [a, b] = [3 * (start[c] + p), 3 * (start[c] + q)];
  const way = [0, 1, 2].map((k) => position[b + k] - position[a + k]);
  const t = at[q] > at[p] ? (wanted - at[p]) / (at[q] - at[p]) : 0;
  const tangent = unit(way);
  const side = unit(Math.abs(tangent[1]) < 0.97 ? cross(tangent, [0, 1, 0]) : cross(tangent, [1, 0, 0]));
  return {
    place: moved([position[a], position[a + 1], position[a + 2]], way, t),
    tangent,
    side,
    up: cross(side, tangent),
  };
}

/** The piece of a curve between two distances along it, metres. */
export function stretch(rails: Rails, from: number, to: number, c = 0): Place[] {
  const { length } = alongRails(rails, c);
  const steps = 24;
  return Array.from(
    { length: steps + 1 },
    (_, i) => spotAt(rails, (from + ((to - from) * i) / steps) / (length || 1), c).place,
  );
}

/** An arc about a direction: from `first` towards `second`, by an angle, radians. */
export function arc(
  middle: readonly number[],
  first: readonly number[],
  second: readonly number[],
  radius: number,
  angle: number,
): Place[] {
  const turned = Math.max(-4 * Math.PI, Math.min(4 * Math.PI, angle));
  const steps = Math.max(8, Math.ceil(Math.abs(turned) * 12));
  return Array.from({ length: steps + 1 }, (_, i) => {
    const at = (turned * i) / steps;
    return moved(moved(middle, first, radius * Math.cos(at)), second, radius * Math.sin(at));
  });
}
