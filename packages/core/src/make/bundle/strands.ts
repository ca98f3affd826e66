import type { CurveSet } from '../../curve/curve-set.js';
import type { Frames } from '../../curve/frames.js';

/** The lines that bundles run along: each knows how far along its points are. */
export interface Course {
  rails: CurveSet;
  frames: Frames;
  /** Radius of the bundle at each point, metres. */
  radius: Float32Array;
}

/** The strands of bundles: of one line after the other, each with a point for every point of its line. */
export interface Strands {
  lines: CurveSet;
  /** Radius of each strand at each of its points, metres. */
  radius: Float32Array;
  /** Strands of each line, and how many of them lie in one strand of the outermost level. */
  each: number;
  inOuter: number;
}

/** Calls for each strand with the first point of its line, its own first point, and how many it has. */
export function eachStrand(
  { rails }: Course,
  { lines, each }: Pick<Strands, 'lines' | 'each'>,
  visit: (strand: number, rail: number, from: number, to: number, points: number) => void,
): void {
  for (let c = 0; c < lines.closed.length; c++) {
    const rail = Math.floor(c / each);
    visit(c, rail, rails.start[rail], lines.start[c], lines.start[c + 1] - lines.start[c]);
  }
}
