import { bow, type Loop, type Run, reversed, sectionFromRuns } from '../../section/runs.js';
import type { Section } from '../../section/section.js';

/**
 * A flat strip across the line, 2 wide (y) and bowed upwards (x) by `crown` at its middle, without thickness: seen from
 * its top alone, or from both sides.
 */
export function stripSection(across: number, crown: number, both: boolean): Section {
  const top: Run = bow(across, (t) => {
    const y = 2 * t - 1;
    return { x: crown * (1 - y * y), y, dx: -2 * crown * y, dy: 1 };
  });
  const loop = (runs: readonly Run[]): Loop => ({ runs, closed: false });
  return sectionFromRuns(both ? [loop([top]), loop(reversed([top]))] : [loop([top])]);
}
