import type { Run } from './bracing.js';

/** Joints of two trusses side by side that belong together, as station numbers; station by station of the first. */
export interface Pairing {
  /** Entry of `runs` of either. */
  a: number;
  b: number;
  stations: readonly (readonly [number, number])[];
}

/** From joint to joint at a station: the place of its middle, xyz at 3 × station. */
type Middles = ArrayLike<number>;

/**
 * Which stations of each truss stand beside which of the next one: by their share of the length, the other way round
 * where the next line runs back. What goes in a ring has no neighbour's station to begin with, and is left out.
 */
export function neighbours(runs: readonly Run[], at: Middles): Pairing[] {
  const out: Pairing[] = [];
  for (let a = 0; a + 1 < runs.length; a++) {
    const [one, two] = [runs[a], runs[a + 1]];
    if (one.closed || two.closed || one.count < 2 || two.count < 2) continue;
    const last = (run: Run) => run.first + run.count - 1;
    const straight = apart(at, one.first, two.first) + apart(at, last(one), last(two));
    const crossed = apart(at, one.first, last(two)) + apart(at, last(one), two.first);
    const stations = Array.from({ length: one.count }, (_, i) => {
      const j = Math.round((i * (two.count - 1)) / (one.count - 1));
      return [one.first + i, crossed < straight ? last(two) - j : two.first + j] as const;
    });
    out.push({ a, b: a + 1, stations });
  }
  return out;
}

function apart(at: Middles, a: number, b: number): number {
  return Math.hypot(at[3 * a] - at[3 * b], at[3 * a + 1] - at[3 * b + 1], at[3 * a + 2] - at[3 * b + 2]);
}
