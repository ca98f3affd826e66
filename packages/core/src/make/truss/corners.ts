/** Where the chords of a truss stand in its section: to the side and up, one entry a chord, at depth 1 and width 1. */
export interface Corners {
  side: number[];
  up: number[];
}

/** What a face looks at, by the way it is before any turn. */
export type Look = 'up' | 'down' | 'aside';

/** A face that leans by less than this from level counts as upper or lower. */
const LEVEL = Math.cos(Math.PI / 6);

/**
 * The corners of the section, counter-clockwise seen against the line's way: a polygon that fills a square of 1, or
 * one above the other.
 * @param onEdge it is on a corner, not on a face
 * @param at which height the line runs at
 */
export function cornersOf(chords: number, onEdge: boolean, at: 'top' | 'middle' | 'bottom'): Corners {
  const flat = chords === 2;
  const first = -Math.PI / 2 + (onEdge || flat ? 0 : Math.PI / chords);
  const angles = Array.from({ length: chords }, (_, k) => first + (2 * Math.PI * k) / chords);
  const fit = (values: number[], zero: boolean): number[] => {
    const [least, most] = [Math.min(...values), Math.max(...values)];
    return values.map((value) => (zero ? 0 : (value - (least + most) / 2) / (most - least)));
  };
  const side = fit(angles.map(Math.cos), flat);
  const middle = fit(angles.map(Math.sin), false);
  const lift = at === 'top' ? -0.5 : at === 'bottom' ? 0.5 : 0;
  return { side, up: middle.map((value) => value + lift) };
}

/** Which corners each face has: a flat truss has one, others as many as chords. */
export const facesOf = (chords: number): readonly (readonly [number, number])[] =>
  chords === 2 ? [[0, 1]] : Array.from({ length: chords }, (_, k) => [k, (k + 1) % chords] as const);

/** Where a face looks, at this much width a depth. */
export function lookOf({ side, up }: Corners, [a, b]: readonly [number, number], width: number): Look {
  if (side.length === 2) return 'aside';
  const [x, y] = [(side[b] - side[a]) * width, up[b] - up[a]];
  const rise = -x / Math.hypot(x, y);
  return rise > LEVEL ? 'up' : rise < -LEVEL ? 'down' : 'aside';
}
