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
  for (let i = 0; i < runs; i++) best = Math.min(best, time(work));
  return best;
}

function time(work: () => unknown): number {
  const started = performance.now();
  work();
  return performance.now() - started;
}

/** Shortest time of each of two works, run by turns so that a disturbance hits both. */
export function fastestPair(a: () => unknown, b: () => unknown, runs = 15): [number, number] {
  for (const work of [a, b, a, b]) work();
  let bestA = Infinity;
  let bestB = Infinity;
  for (let i = 0; i < runs; i++) {
    bestA = Math.min(bestA, time(a));
    bestB = Math.min(bestB, time(b));
  }
  return [bestA, bestB];
}
