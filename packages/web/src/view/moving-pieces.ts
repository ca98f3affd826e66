import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';

/** Pieces of which something moves with the clock, by id. */
export function useMovingPieces(): string[] {
  const builds = useComputed('builds');
  const pieces = useAppSelector((state) => state.project.document?.pieces);
  return (pieces ?? [])
    .filter(({ id, keyed }) => keyed !== undefined || (builds.get(id)?.motion.length ?? 0) > 0)
    .map(({ id }) => id);
}
