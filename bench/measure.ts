/** One row of the table: a measured value against its goal. */
export interface Result {
  name: string;
  value: number;
  goal: number;
  better: 'more' | 'less';
}

/** Shortest of several runs, milliseconds, after a warm-up: what the code costs when nothing disturbs it. */
export function fastest(work: () => unknown, runs = 15): number {
  for (let i = 0; i < 3; i++) work();
  let best = Infinity;
  for (let i = 0; i < runs; i++) {
    const started = performance.now();
    work();
    best = Math.min(best, performance.now() - started);
  }
  return best;
}

/** Shortest time of each of two works, run by turns so that a disturbance hits both. */
export function fastestPair(a: () => unknown, b: () => unknown, runs = 15): [number, number] {
  let bestA = Infinity;
  let bestB = Infinity;
  for (let i = 0; i < runs; i++) {
    bestA = Math.min(bestA, fastest(a, 1));
    bestB = Math.min(bestB, fastest(b, 1));
  }
  return [bestA, bestB];
}
