import { useComputed } from '../evaluation/EvaluationProvider.js';

/** Pieces of which something moves with the clock, by id. */
export function useMovingPieces(): string[] {
  const builds = useComputed('builds');
  return [...builds.values()].filter(({ motion }) => motion.length > 0).map(({ piece }) => piece);
}
